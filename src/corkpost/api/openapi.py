"""Prints the OpenAPI document, from which the pages' types are made."""

import json
import tempfile
from pathlib import Path

from corkpost.api.app import create_app
from corkpost.api.spec import spec
from corkpost.services.workplace import Workplace


def document() -> str:
    """The document as JSON."""
    with tempfile.TemporaryDirectory() as folder:
        workplace = Workplace(Path(folder))
        app = create_app(workplace)
        with app.app_context():
            found = json.dumps(spec.spec, indent=2)
        workplace.close()
    return found


if __name__ == "__main__":
    print(document())
