"""What the program is made of: a part a line with its licence, from what `make audit` writes."""

import json
import sys
from collections.abc import Iterator
from pathlib import Path
from typing import Any


def licences_of(part: dict[str, Any]) -> str:
    """The licences that a part says it has, by name."""
    found = [
        row.get("expression") or row["license"].get("id") or row["license"].get("name", "")
        for row in part.get("licenses", [])
    ]
    return ", ".join(dict.fromkeys(name.splitlines()[0] for name in found if name))


def parts(inventory: Path) -> Iterator[tuple[str, str, str]]:
    """Name, version and licences of each part."""
    for part in json.loads(inventory.read_text("utf-8"))["components"]:
        yield part["name"], part.get("version", ""), licences_of(part)


def main() -> None:
    unknown = 0
    for inventory in map(Path, sys.argv[1:]):
        rows = sorted(set(parts(inventory)))
        print(f"{inventory.name}: {len(rows)} parts")
        for name, version, licence in rows:
            unknown += not licence
            print(f"  {name:40} {version:14} {licence or 'NONE IS SAID'}")
    if unknown:
        print(f"{unknown} parts say no licence: look at them.")


if __name__ == "__main__":
    main()
