"""The server itself: what strangers leave hanging keeps nobody waiting."""

import http.client
import socket
import threading
import time
from collections.abc import Iterator
from contextlib import ExitStack

import pytest

from corkpost.api.app import create_app
from corkpost.api.server import server_of

HALF = b"POST /api/session HTTP/1.1\r\nHost: 127.0.0.1\r\nContent-Length: 100\r\n\r\n{"


@pytest.fixture
def port(desk) -> Iterator[int]:
    server = server_of(create_app(desk.office.workplace), "127.0.0.1", 0)
    threading.Thread(target=server.run, daemon=True).start()
    yield server.effective_port
    server.close()
    server.task_dispatcher.shutdown()
    for channel in list(server.active_channels.values()):
        channel.close()


def test_three_hundred_half_sent_requests_keep_nobody_waiting(port):
    with ExitStack() as open_ones:
        for _ in range(300):
            half = open_ones.enter_context(socket.create_connection(("127.0.0.1", port)))
            half.sendall(HALF)
        asked = http.client.HTTPConnection("127.0.0.1", port, timeout=10)
        began = time.monotonic()
        asked.request("GET", "/healthz")
        assert asked.getresponse().status == 200
        # Each of them is given up only after thirty seconds.
        assert time.monotonic() - began < 5
        asked.close()
