"""What whoever runs the machine watches: whether it answers, and a few counts, which name no client."""

import shutil
import time

from flask import Blueprint, Response, request

from corkpost.api.security import workplace
from corkpost.services.watching import counts
from corkpost.store.database import Halted

bp = Blueprint("health", __name__)
LOCAL = ("127.0.0.1", "::1")


@bp.get("/healthz")
def healthz() -> Response:
    """Whether the store can be read, and written to within a second."""
    began = time.monotonic()
    try:
        workplace().database.reading.execute("SELECT COUNT(*) FROM clients").fetchone()
        workplace().database.must_go_on()
        free = shutil.disk_usage(workplace().database.folder).free
    except Halted as halted:
        return Response(f"{halted}\n", 503, mimetype="text/plain")
    except Exception as wrong:
        return Response(
            f"the store can't be read: {type(wrong).__name__}\n", 503, mimetype="text/plain"
        )
    if free < 64 * 1024 * 1024:
        return Response("the disk is nearly full\n", 503, mimetype="text/plain")
    return Response(f"well, in {time.monotonic() - began:.3f} s\n", mimetype="text/plain")


@bp.get("/metrics")
def metrics() -> Response:
    """Counts in the text form that Prometheus reads; for this machine alone."""
    if request.remote_addr not in LOCAL:
        return Response("for this machine alone\n", 403, mimetype="text/plain")
    lines = []
    for name, says, value in counts(workplace()):
        lines += [f"# HELP corkpost_{name} {says}", f"# TYPE corkpost_{name} gauge"]
        lines.append(f"corkpost_{name} {value}")
    return Response("\n".join([*lines, ""]), mimetype="text/plain; version=0.0.4")
