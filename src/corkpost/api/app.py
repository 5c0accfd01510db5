"""The application: the API under /api/, the pages everywhere else."""

import sys
import time
from collections.abc import Sequence
from pathlib import Path

from flask import Flask, Response, send_from_directory
from flask_compress import Compress
from werkzeug.exceptions import NotFound

from corkpost.api import (
    account,
    acts,
    approvals,
    bank,
    bookkeeper,
    books,
    chart,
    clients,
    closing,
    desk,
    entries,
    financials,
    find,
    health,
    listing_answers,
    listings,
    lists,
    open_items,
    owners,
    papers,
    practice,
    problems,
    queries,
    receipts,
    recipes,
    remarks,
    review,
    security,
    session,
    sign_off,
    since,
    takings,
    tie_outs,
    transactions,
    worksheet,
)
from corkpost.api.spec import spec
from corkpost.services.workplace import Workplace

PAGES = Path(__file__).parent.parent / "web"
AREAS = (
    session,
    account,
    practice,
    desk,
    clients,
    review,
    transactions,
    entries,
    worksheet,
    remarks,
    since,
    financials,
    sign_off,
    closing,
    books,
    listing_answers,
    listings,
    lists,
    chart,
    bank,
    takings,
    tie_outs,
    open_items,
    owners,
    queries,
    receipts,
    papers,
    recipes,
    bookkeeper,
    acts,
    approvals,
    find,
)
COMPRESSED = [
    "application/json",
    "application/problem+json",
    "text/html",
    "text/css",
    "text/csv",
    "text/javascript",
    "image/svg+xml",
]
A_YEAR = 365 * 24 * 3600


LOOPBACK = ("localhost", "127.0.0.1", "[::1]")


SWITCH_SECONDS = 0.0005
"""A request gives the interpreter up for each look into the store, and has it back after so long at most;
with the usual ten times of it every look would wait for whatever is reckoned behind."""


def create_app(workplace: Workplace, hosts: Sequence[str] = LOOPBACK) -> Flask:
    """The application for one practice. *hosts*: the names that it may be asked by; others are refused."""
    sys.setswitchinterval(SWITCH_SECONDS)
    app = Flask(__name__, static_folder=None)
    app.json.sort_keys = False  # type: ignore[attr-defined]
    app.extensions["corkpost"] = workplace
    app.config["TRUSTED_HOSTS"] = list(hosts)
    app.config["COMPRESS_MIMETYPES"] = COMPRESSED
    app.config["COMPRESS_ALGORITHM"] = ["br", "gzip"]
    # The middle of the scale: the rest of it costs more time than it saves on the wire.
    app.config["COMPRESS_BR_LEVEL"] = 4
    Compress(app)
    security.register(app, workplace.database.folder)
    problems.register(app, workplace.database)

    @app.before_request
    def somebody_asks() -> None:
        workplace.asked_at = time.monotonic()

    app.register_blueprint(health.bp)
    for area in AREAS:
        app.register_blueprint(area.bp, url_prefix="/api")
    spec.register(app)
    app.add_url_rule("/assets/<path:name>", "asset", asset)
    app.add_url_rule("/", "page", page)
    app.add_url_rule("/<path:path>", "page", page)
    return app


def asset(name: str) -> Response:
    """A script, style or font: its name has its digest in it, so it may be kept."""
    return send_from_directory(PAGES / "assets", name, max_age=A_YEAR)


def page(path: str = "") -> Response:
    """The one page that every address opens; its script shows what the address asks for."""
    if path.startswith("api/"):
        raise NotFound
    if path in ("favicon.svg",):
        return send_from_directory(PAGES, path)
    if not (PAGES / "index.html").exists():
        raise NotFound("The pages are not built. Run 'make setup'.")
    response = send_from_directory(PAGES, "index.html", max_age=0)
    response.headers["Cache-Control"] = "no-cache"
    return response
