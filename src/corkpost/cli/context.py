"""What every command works with: the workplace, who does it, and how answers are printed."""

import getpass
import json
import os
import sys
from datetime import date, datetime
from functools import cached_property
from pathlib import Path
from typing import Any

import click
from pydantic import BaseModel

from corkpost.core.periods import FIRST_DAY, LAST_DAY
from corkpost.core.refusals import NotAllowed
from corkpost.services import record, staff, tokens
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace

GIVES_OUT = frozenset(
    {
        "export-books",
        "export-list",
        "export-audit-file",
        "pack",
        "backup",
        "bookkeeper",
        "hand-over",
    }
)


class At(click.ParamType[date]):
    """A day, written 2026-03-31."""

    name = "date"

    def convert(self, value: Any, param: Any, ctx: Any) -> date:
        if isinstance(value, date):
            return value
        try:
            found = datetime.strptime(value, "%Y-%m-%d").date()  # noqa: DTZ007
            if not FIRST_DAY <= found <= LAST_DAY:
                raise ValueError
            return found
        except ValueError:
            self.fail(f"{value!r} is not a date: write 2026-03-31", param, ctx)


class Work:
    """The work that one command does."""

    def __init__(
        self,
        data: Path,
        today: date | None,
        by: str | None,
        token: str | None = None,
        command: str = "",
    ) -> None:
        self.data = data
        self.today = today
        self._by = by
        self._token = token
        self._command = command

    @cached_property
    def workplace(self) -> Workplace:
        return Workplace(self.data, self.today)

    @cached_property
    def person(self) -> Person:
        """Who does it: whose token it is, whom --by names, else the practice's first partner. Raises
        NotAllowed where the practice takes nobody at their word, or the person left.

        In a practice that has no staff yet a partner of that name is made, with the password in
        CORKPOST_PASSWORD where there is one.
        """
        if not staff.has_staff(self.workplace):
            code = self._by or "owner"
            password = os.environ.get("CORKPOST_PASSWORD")
            return staff.found_practice(self.workplace, "Practice", (code, code, password))
        if self._token:
            found = tokens.person_of(self.workplace, self._token)
            if self._by not in (None, found.code):
                raise NotAllowed(f"The token is of {found.code}, and --by names {self._by}.")
            return found
        if tokens.is_needed(self.workplace):
            raise NotAllowed(
                "This practice takes nobody at their word: make a token on your page, Your account, and "
                "give it as CORKPOST_TOKEN."
            )
        here = [member for member in staff.everybody(self.workplace) if not member.left_on]
        if self._by is None:
            first = next(member for member in here if member.role == "partner")
            return staff.person_named(self.workplace, first.code)
        found = staff.person_named(self.workplace, self._by)
        if found.code not in {member.code for member in here}:
            raise NotAllowed(f"{found.name} left the practice.")
        return found

    def close(self) -> None:
        if "workplace" not in self.__dict__:
            return
        # Reading commands wait for nobody: what wrote, or gave books out, goes on record. Who sat there is
        # proved by a token, and by no name: else it is the machine, with the user that it knows.
        wrote = self.workplace.database.commits > 0
        if (wrote or self._command in GIVES_OUT) and staff.has_staff(self.workplace):
            known = self.person.code if "person" in self.__dict__ else ""
            who = f"as {known}, " if known and not self._token else ""
            detail = f"{self._command}, {who}by the machine's user {getpass.getuser()}"
            proved = known if self._token and known else record.MACHINE
            record.note(self.workplace, record.Kind.COMMAND, proved, detail)
        record.write_seen(self.workplace)
        self.workplace.close()


pass_work = click.make_pass_decorator(Work)
as_json = click.option(
    "--json", "as_json", is_flag=True, help="One JSON document on standard output."
)
client_code = click.argument("client")


def password(prompt: str) -> str:
    """From CORKPOST_PASSWORD, else typed, else the first line of standard input."""
    given = os.environ.get("CORKPOST_PASSWORD")
    if given is not None:
        return given
    if sys.stdin.isatty():
        return getpass.getpass(f"{prompt}: ")
    return sys.stdin.readline().rstrip("\r\n")


def print_json(answer: BaseModel | list[Any] | dict[str, Any]) -> None:
    """One JSON document and nothing else."""

    def plain(value: Any) -> Any:
        return value.model_dump(mode="json") if isinstance(value, BaseModel) else str(value)

    click.echo(json.dumps(answer, default=plain, ensure_ascii=False, indent=2))


def tell(text: str) -> None:
    """Progress, on standard error."""
    click.echo(f"{text} ...", err=True)


def shown(text: str) -> str:
    """An amount for people: `1234.50` as 1,234.50, credits in brackets."""
    whole, dot, rest = text.removeprefix("-").partition(".")
    grouped = f"{int(whole):,}{dot}{rest}"
    return f"({grouped})" if text.startswith("-") else grouped


def table(rows: list[tuple[str, ...]], figures: int) -> None:
    """Print rows in columns; the last *figures* columns are right-aligned."""
    widths = [max(len(cell) for cell in column) for column in zip(*rows, strict=True)]
    for row in rows:
        cells = [
            cell.rjust(width) if place >= len(row) - figures else cell.ljust(width)
            for place, (cell, width) in enumerate(zip(row, widths, strict=True))
        ]
        click.echo("  ".join(cells).rstrip())
