"""A bank that issues statement files as days pass, asked over HTTP on this machine.

It is as banks are: what is asked for overlaps what it gave before, some lines are known only days after
the day that they bear, and what it booked wrong it puts right later.
"""

import threading
from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from functools import cached_property
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any, NamedTuple
from urllib.parse import parse_qs, unquote, urlsplit

from corkpost.core.kinds import StatementFormat
from corkpost.core.money import Currency, Minor
from corkpost.stand_ins.statement_files import BankLine, BankStatement, written


class Erred(NamedTuple):
    """A line that the bank books with another sum, and on which day it puts that right."""

    instead: Minor
    corrected_on: date


@dataclass(frozen=True)
class Issued:
    """An account at the bank. *known_on*: for lines that appear later than their day, when.
    *errors*: the lines that the bank gets wrong at first."""

    identifier: str
    currency: Currency
    format: StatementFormat
    first: date
    opening: Minor
    lines: tuple[BankLine, ...]
    known_on: Mapping[int, date] = field(default_factory=dict)
    errors: Mapping[int, Erred] = field(default_factory=dict)

    def statement(self, first: date, today: date) -> BankStatement:
        """What the bank gives out on *today* of the days from *first*."""
        known = [
            line
            for place, own in enumerate(self.lines)
            if self.known_on.get(place, own.day) <= today
            for line in self._booked(place, own, today)
        ]
        known.sort(key=lambda line: line.day)
        before = sum(line.amount for line in known if line.day < first)
        within = tuple(line for line in known if first <= line.day <= today)
        return BankStatement(
            self.identifier, self.currency, first, today, self.opening + before, within
        )

    def _booked(self, place: int, line: BankLine, today: date) -> Iterator[BankLine]:
        """The line as the bank books it, and what puts it right once that is known."""
        erred = self.errors.get(place)
        if erred is None:
            yield line
            return
        yield replace(line, amount=erred.instead)
        if erred.corrected_on <= today:
            yield BankLine(
                erred.corrected_on,
                line.amount - erred.instead,
                f"CORRECTION {line.day:%d/%m}",
                bank_id=f"{line.bank_id}C" if line.bank_id else None,
            )


class Bank:
    """The bank's accounts, made when the first is asked for. *closed*: accounts it can't answer for."""

    def __init__(
        self, make: Callable[[], tuple[Issued, ...]], closed: frozenset[str] = frozenset()
    ) -> None:
        self._make = make
        self.closed = closed
        self._lock = threading.Lock()

    @cached_property
    def _accounts(self) -> Mapping[str, Issued]:
        return {issued.identifier: issued for issued in self._make()}

    def file(self, identifier: str, first: date, today: date) -> bytes | None:
        """The statement file of an account; None where the bank has no such account."""
        with self._lock:
            account = self._accounts.get(identifier)
        if account is None:
            return None
        start = max(first, account.first)
        return written(account.format, [account.statement(start, today)])


class BankServer:
    """The bank over HTTP: `/statements/IDENTIFIER?from=2026-10-26&today=2026-11-16`."""

    def __init__(self, bank: Bank, port: int = 0) -> None:
        class Handler(BaseHTTPRequestHandler):
            def do_GET(self) -> None:
                asked = urlsplit(self.path)
                identifier = unquote(asked.path.removeprefix("/statements/"))
                query = parse_qs(asked.query)
                try:
                    first = date.fromisoformat(query["from"][0])
                    today = date.fromisoformat(query["today"][0])
                except (KeyError, ValueError):
                    self.send_error(400, "say from and today")
                    return
                if identifier in bank.closed:
                    self.send_error(503, "closed for the moment")
                    return
                content = bank.file(identifier, first, today)
                if content is None:
                    self.send_error(404, "no such account")
                    return
                self.send_response(200)
                self.send_header("Content-Length", str(len(content)))
                self.end_headers()
                self.wfile.write(content)

            def log_message(self, format: str, *args: Any) -> None:
                """Says nothing."""

        self._server = ThreadingHTTPServer(("127.0.0.1", port), Handler)
        self._thread = threading.Thread(
            target=self._server.serve_forever, name="stand-in bank", daemon=True
        )

    @property
    def address(self) -> str:
        return f"http://127.0.0.1:{self._server.server_port}"

    def start(self) -> None:
        self._thread.start()

    def stop(self) -> None:
        self._server.shutdown()
        self._server.server_close()
