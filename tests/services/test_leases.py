"""Several processes of one practice: each thing that only one may do is done by one."""

import json
import os
import re
import socket
import subprocess
import sys
import time
import urllib.request
from pathlib import Path

import pytest

from corkpost.services.leases import SECONDS, Lease
from tests.practice import PASSWORD


def test_a_lease_is_one_process_s_until_it_is_given_back_or_its_holder_is_gone(office, monkeypatch):
    now = [1_800_000_000.0]
    monkeypatch.setattr(time, "time", lambda: now[0])
    one, other = (Lease(office.workplace, "mail", name) for name in ("one", "other"))
    assert (one.is_held(), other.is_held()) == (True, False)
    for _ in range(5):
        now[0] += SECONDS / 2
        assert (one.is_held(), other.is_held()) == (True, False)
    now[0] += SECONDS + 1
    assert (other.is_held(), one.is_held()) == (True, False)
    other.release()
    assert one.is_held()
    assert Lease(office.workplace, "jobs", "other").is_held()


@pytest.fixture
def several(office):
    """The practice served by three processes; its address."""
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    office.workplace.close()
    folder = office.workplace.database.folder
    command = [
        str(Path(sys.executable).with_name("gunicorn")), "-w", "3", "--threads", "4",
        "-b", f"127.0.0.1:{port}", "corkpost.api.wsgi:app",
    ]  # fmt: skip
    server = subprocess.Popen(command, env={**os.environ, "CORKPOST_DATA": str(folder)})
    address = f"http://127.0.0.1:{port}"
    try:
        for _ in range(100):
            try:
                urllib.request.urlopen(f"{address}/healthz").close()
                break
            except OSError:
                time.sleep(0.2)
        yield address
    finally:
        server.terminate()
        server.wait(timeout=30)


def test_three_processes_serve_one_practice(several):
    def ask(path, body=None, cookie=None, method=None):
        head = {"Content-Type": "application/json"} if body is not None else {}
        head |= {"Cookie": cookie} if cookie else {}
        data = json.dumps(body).encode() if body is not None else None
        request = urllib.request.Request(several + path, data, head, method=method)
        with urllib.request.urlopen(request) as answer:
            return answer.read().decode(), answer.headers

    _, head = ask("/api/session", {"code": "TV", "password": PASSWORD})
    cookie = head["Set-Cookie"].partition(";")[0]
    # What one process writes, every one has at once, and a session is known to all.
    for number in range(12):
        said = {"about": "account", "name": "5200", "text": f"remark {number}"}
        ask("/api/clients/SMALL/remarks", said, cookie)
        found, _ = ask("/api/clients/SMALL/remarks", cookie=cookie)
        assert f"remark {number}" in found
    told, _ = ask("/metrics")
    counts = dict(re.findall(r"^corkpost_(\w+) (\S+)$", told, re.M))
    assert (counts["clients"], counts["staff"], counts["jobs_failed"]) == ("1", "4", "0")
    assert "SMALL" not in told
