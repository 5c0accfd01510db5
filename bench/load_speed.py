"""Forty people at work on three hundred clients at once: what each waits for, served by one process and by
two. Run by `make bench`, and alone with numbers of people, clients and seconds of one's own."""

import http.client
import json
import os
import random
import subprocess
import sys
import tempfile
import threading
import time
from collections import defaultdict
from collections.abc import Iterator
from contextlib import contextmanager
from datetime import date
from pathlib import Path
from typing import Any

from corkpost.core.kinds import Role
from corkpost.demo.many import add_clients
from corkpost.services import staff
from corkpost.services.find import catch_up
from corkpost.services.keeping_up import bring_up_to_date
from corkpost.services.workplace import Workplace

TODAY = date(2026, 11, 16)
PASSWORD = "heron by the tidal gate"
PORT = 18_765
KEPT_ALIVE = 1.5
"""Seconds after which a person's connection is made anew: servers close it."""
THINKS = (2.0, 8.0)
"""Seconds between one deed of a person and the next: quicker than anybody reads."""


def practice(folder: Path, people: int, clients: int) -> list[str]:
    """A practice of so many; the codes of its people but the partner."""
    workplace = Workplace(folder, TODAY)
    partner = staff.found_practice(workplace, "Bench", ("OB", "OB", PASSWORD))
    codes = [f"P{number:02d}" for number in range(people)]
    for number, code in enumerate(codes):
        role = Role.REVIEWER if number % 4 == 0 else Role.PREPARER
        staff.add_staff(workplace, partner, code, f"Person {number}", role, PASSWORD)
    add_clients(workplace, partner, clients, lambda _: None)
    bring_up_to_date(workplace)
    catch_up(workplace)
    workplace.close()
    return codes


class Browser:
    """One person's, over the wire. *took*: seconds by what was done."""

    def __init__(self, code: str, took: dict[str, list[float]], faults: list[str]) -> None:
        self._code, self._took, self._faults = code, took, faults
        self._connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=120)
        self._cookie, self._asked = "", 0.0

    def ask(self, what: str, method: str, path: str, body: object = None) -> Any:
        headers = {"Cookie": self._cookie, "Content-Type": "application/json"}
        headers |= {"Origin": f"http://127.0.0.1:{PORT}", "Host": f"127.0.0.1:{PORT}"}
        begun = time.perf_counter()
        if time.monotonic() - self._asked > KEPT_ALIVE:
            self._connection.close()
        self._asked = time.monotonic()
        self._connection.request(method, path, json.dumps(body) if body else None, headers)
        answer = self._connection.getresponse()
        content = answer.read()
        self._took[what].append(time.perf_counter() - begun)
        if answer.status >= 400:
            self._faults.append(
                f"{what} {answer.status} {content[:200].decode('utf-8', 'replace')}"
            )
            return None
        cookie = answer.headers.get("Set-Cookie")
        self._cookie = cookie.split(";")[0] if cookie else self._cookie
        return json.loads(content) if content else None

    def work(self, until: float, dice: random.Random) -> None:
        """Sign in, then look at the desk, a client, its points, a case; and post every third time."""
        self.ask("sign in", "POST", "/api/session", {"code": self._code, "password": PASSWORD})
        while time.monotonic() < until:
            desk = self.ask("desk", "GET", "/api/desk")
            if not desk or not desk["rows"]:
                return
            client = f"/api/clients/{dice.choice(desk['rows'])['code']}"
            self.ask("client", "GET", client)
            points = self.ask("points", "GET", f"{client}/points")
            self._think(dice)
            if points and points["points"]:
                point = dice.choice(points["points"][:20])
                self.ask("case", "GET", f"{client}/points/{point['id']}")
                self._think(dice)
            self.ask("worksheet", "GET", f"{client}/worksheet?year=2026&at=2026-10-31")
            self.ask("find", "GET", f"/api/find?q={dice.choice(WORDS)}")
            if dice.random() < 1 / 3:
                self._post(client, dice)
            self._think(dice)

    def _post(self, client: str, dice: random.Random) -> None:
        chart = self.ask("accounts", "GET", f"{client}/accounts?at=2026-10-31")
        if not chart:
            return
        costs = [row["code"] for row in chart["accounts"] if row["type"] == "expense"]
        one, other = dice.sample(costs, 2)
        amount = f"{dice.randint(100, 90_000) / 100:.2f}"
        blank = dict.fromkeys(("party", "debit", "credit", "tax_code", "text", "dimensions"), "")
        blank["tax"] = "none"
        entry = {
            "kind": "reclassifying",
            "date": "2026-10-31",
            "reverse_on": "",
            "reference": "",
            "reason": "measured",
            "lines": [
                {**blank, "account": one, "debit": amount},
                {**blank, "account": other, "credit": amount},
            ],
        }
        act = {"act": "entry", "entry": entry, "near": "2026-10-31"}
        shown = self.ask("preview", "POST", f"{client}/acts/preview", {"act": act})
        if shown:
            body = {
                "act": act,
                "reason": "",
                "shown": shown["digest"],
                "key": f"{dice.random():.16f}",
            }
            self.ask("post", "POST", f"{client}/acts", body)

    @staticmethod
    def _think(dice: random.Random) -> None:
        time.sleep(dice.uniform(*THINKS))


WORDS = ("reed", "fuel", "rent", "246", "harbour", "clean", "inv", "card")


@contextmanager
def served(command: list[str], data: Path) -> Iterator[None]:
    """The practice, served until the block ends."""
    environment = {
        **os.environ,
        "CORKPOST_DATA": str(data),
        "CORKPOST_HOSTS": "127.0.0.1",
        "CORKPOST_TODAY": TODAY.isoformat(),
    }
    with subprocess.Popen(
        command, env=environment, stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL
    ) as process:
        for _ in range(300):
            try:
                connection = http.client.HTTPConnection("127.0.0.1", PORT, timeout=1)
                connection.request("GET", "/healthz")
                if connection.getresponse().status == 200:
                    break
            except OSError:
                time.sleep(0.1)
        yield
        process.terminate()


def measure(codes: list[str], seconds: float) -> tuple[dict[str, list[float]], list[str]]:
    """Everybody works for so long; what each deed took, and what went wrong."""
    took: dict[str, list[float]] = defaultdict(list)
    faults: list[str] = []
    until = time.monotonic() + seconds

    def work(number: int, code: str) -> None:
        time.sleep(number * 0.2)
        try:
            Browser(code, took, faults).work(until, random.Random(number))
        except OSError as wrong:
            faults.append(f"{code}: {wrong!r}")

    threads = [threading.Thread(target=work, args=pair) for pair in enumerate(codes)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return took, faults


def told(what: str, took: dict[str, list[float]], faults: list[str]) -> None:
    asked = sum(map(len, took.values()))
    print(f"{what}: {asked} requests, {len(faults)} refused or failed")
    for fault in faults[:3]:
        print(f"    {fault}")
    for name, times in sorted(took.items()):
        times.sort()
        half, most = (1000 * times[int(part * (len(times) - 1))] for part in (0.5, 0.95))
        print(f"  {name:10} {len(times):5}  half in {half:6.0f} ms, 95 of 100 in {most:6.0f} ms")


def main() -> None:
    people, clients, seconds = (*map(int, sys.argv[1:4]), *(40, 300, 60)[len(sys.argv) - 1 :])
    corkpost = Path(sys.executable).with_name("corkpost")
    gunicorn = Path(sys.executable).with_name("gunicorn")
    with tempfile.TemporaryDirectory() as folder:
        data = Path(folder) / "data"
        begun = time.monotonic()
        codes = practice(data, people, clients)
        print(f"{people} people, {clients} clients, made in {time.monotonic() - begun:.0f} s")
        ways = {
            "one process": [str(corkpost), "--data", str(data), "serve", "--port", str(PORT)],
            "two processes": [
                *(str(gunicorn), "-w", "2", "--threads", "8", "-b", f"127.0.0.1:{PORT}"),
                "corkpost.api.wsgi:app",
            ],
        }
        for what, command in ways.items():
            with served(command, data):
                told(what, *measure(codes, seconds))


if __name__ == "__main__":
    main()
