"""What a person waits for after each posting, on large clients with statements. Run by `make bench`."""

import statistics
import sys
import tempfile
import time
from dataclasses import replace
from pathlib import Path
from typing import Any

from bench.practice_of_size import CLIENT, TODAY, browser_of, busy_practice
from corkpost.core.checks import run_checks
from corkpost.core.kept import Kept
from corkpost.core.points import CheckRun
from corkpost.services import staff
from corkpost.services.keeping_up import bring_up_to_date
from corkpost.services.workplace import Workplace

C = f"/api/clients/{CLIENT}"
AT = "2026-10-31"


def main() -> None:
    sizes = [int(argument) for argument in sys.argv[1:]] or [25_000, 62_000]
    for size in sizes:
        with tempfile.TemporaryDirectory() as folder:
            workplace, _ = busy_practice(Path(folder), size)
            workplace.close()
            measure(Path(folder), size)


def measure(folder: Path, size: int) -> None:
    workplace = Workplace(folder / "data", TODAY)
    workplace.keeps_up = True
    print(f"a client of {size:,} transactions with 12 statements, milliseconds:")
    bring_up_to_date(workplace)
    workplace.close()
    workplace = Workplace(folder / "data", TODAY)
    workplace.keeps_up = True
    browser = browser_of(workplace)
    opened = timed(browser, C) + timed(browser, f"{C}/points")
    print(f"  {opened:7.0f}  opened first, with the points that are kept (aim: 1000 at 25,000)")
    begun = time.perf_counter()
    bring_up_to_date(workplace)
    print(f"  {1000 * (time.perf_counter() - begun):7.0f}  a first run of all checks, behind")
    before = memory()
    waits = [after_a_posting(browser, number) for number in range(25)]
    print(
        f"  {statistics.median(waits):7.0f}  from posting to the next case, in the middle; "
        f"{max(waits):.0f} at worst of {len(waits)} (aim: 100 and 300 at 25,000, 300 at 62,000)"
    )
    print(f"  {memory() - before:7.1f}  MB more in the process after them")
    ledger = workplace.ledger(staff.person_named(workplace, "OB"), CLIENT)
    begun = time.perf_counter()
    run_checks(CheckRun(replace(ledger.books, kept=Kept()), TODAY))
    full = 1000 * (time.perf_counter() - begun)
    print(
        f"  {full:7.0f}  a run that knows nothing: {full / statistics.median(waits):.1f} times as long"
    )
    workplace.close()


def after_a_posting(browser: Any, number: int) -> float:
    """Posts the first way of the first open point that has one; until the next case is there."""
    points = [p for p in browser.get(f"{C}/points").json["points"] if p["state"] == "open"]
    point = next(p for p in points if p["check"] == "bill-paid-direct")
    way = browser.get(f"{C}/points/{point['id']}?at={AT}").json["prepared"][0]
    act = {"act": "point", "point": point["id"], "route": way["route"], "settings": way["settings"]}
    body = {"act": act, "reason": "measured"}
    body |= {"shown": way["preview"]["digest"], "key": f"measured {number:08d}"}
    begun = time.perf_counter()
    answer = browser.post(f"{C}/acts", json=body)
    assert answer.status_code == 201, answer.text
    left = [p for p in browser.get(f"{C}/points").json["points"] if p["state"] == "open"]
    assert browser.get(f"{C}/points/{left[0]['id']}?at={AT}").status_code == 200
    return 1000 * (time.perf_counter() - begun)


def timed(browser: Any, address: str) -> float:
    begun = time.perf_counter()
    assert browser.get(address).status_code == 200
    return 1000 * (time.perf_counter() - begun)


def memory() -> float:
    """What the process holds, in MB."""
    return int(Path("/proc/self/statm").read_text().split()[1]) * 4096 / 1e6


if __name__ == "__main__":
    main()
