"""Serving a practice by a production server, with the worker for long jobs beside it."""

import os
import signal
from types import FrameType

import click
from flask import Flask
from waitress import create_server
from waitress.server import BaseWSGIServer

from corkpost.api.app import LOOPBACK, create_app
from corkpost.services.background import background_of
from corkpost.services.jobs import Worker
from corkpost.services.workplace import Workplace

THREADS = 16
CONNECTIONS = 2_000
SILENT_SECONDS = 30
"""Half a request that somebody sends and leaves takes one connection for so long, and no thread."""
FORWARDED = frozenset({"x-forwarded-proto", "x-forwarded-for", "x-forwarded-host"})


def _stop(_signal: int, _frame: FrameType | None) -> None:
    # Leaves through the server's own way out, so that requests in flight are answered.
    raise SystemExit(0)


def hosts_of(host: str) -> tuple[str, ...]:
    """The names that the practice may be asked by: this machine's own, that it is bound to, and those in
    CORKPOST_HOSTS, with commas between."""
    named = (name.strip() for name in os.environ.get("CORKPOST_HOSTS", "").split(","))
    return (*LOOPBACK, host, *filter(None, named))


def server_of(app: Flask, host: str, port: int) -> BaseWSGIServer:
    """The server, bound and not yet running. Port 0 takes a free one.

    Behind a proxy that ends https, CORKPOST_TRUSTED_PROXY names its address.
    """
    proxy = os.environ.get("CORKPOST_TRUSTED_PROXY")
    behind = {"trusted_proxy": proxy, "trusted_proxy_headers": FORWARDED} if proxy else {}
    return create_server(
        app,
        host=host,
        port=port,
        threads=THREADS,
        connection_limit=CONNECTIONS,
        channel_timeout=SILENT_SECONDS,
        asyncore_use_poll=True,
        ident=None,
        **behind,
    )


def run(workplace: Workplace, host: str, port: int) -> None:
    """Serve until stopped; the address is told on standard output."""
    server = server_of(create_app(workplace, hosts_of(host)), host, port)
    signal.signal(signal.SIGTERM, _stop)
    worker = Worker(workplace, apart=True)
    worker.start()
    repeating = background_of(workplace)
    for thread in repeating:
        thread.start()
    click.echo(f"Cork Post is at http://{host}:{server.effective_port}")
    try:
        server.run()
    except (KeyboardInterrupt, SystemExit):
        pass
    finally:
        for thread in repeating:
            thread.stop()
        worker.stop()
        server.close()
