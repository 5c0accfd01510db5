"""Bank statements that came among a client's lists: told apart, seen, and taken in after the books."""

from collections.abc import Sequence
from pathlib import Path

from corkpost.core.books import Books
from corkpost.core.kinds import AccountRole
from corkpost.core.refusals import Refusal
from corkpost.formats.listings.understanding import FileRead
from corkpost.formats.statements.apart import read_within_limits
from corkpost.formats.statements.reading import LARGEST_STATEMENT, is_statement
from corkpost.services import statements
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace

BANK_STATEMENT = "bank-statement"


def apart(paths: Sequence[Path]) -> tuple[list[Path], list[Path]]:
    """The lists, and the statements of a form that says itself what it is."""
    lists: list[Path] = []
    found: list[Path] = []
    for path in paths:
        small = path.stat().st_size <= LARGEST_STATEMENT
        (found if small and is_statement(path.read_bytes()) else lists).append(path)
    return lists, found


def seen(path: Path) -> FileRead:
    """What a statement holds. Raises UnreadableStatement."""
    lines = [
        line for part in read_within_limits(path.read_bytes()).statements for line in part.lines
    ]
    days = [line.day for line in lines]
    return FileRead(
        path=path.name,
        sheet="",
        read_as=BANK_STATEMENT,
        rows=len(lines),
        used=len(lines),
        passed_over=(),
        columns={},
        first=min(days, default=None),
        last=max(days, default=None),
        layout="",
        places={},
        names=(),
        sample=(),
    )


def take_in(
    workplace: Workplace, person: Person, code: str, paths: Sequence[Path]
) -> tuple[str, ...]:
    """Take them in; what came of each, in words. One that is refused stays away, and the others come."""
    told = []
    for path in paths:
        try:
            account = _only(workplace.ledger(person, code).books)
            content = path.read_bytes()
            taken = statements.take_in(workplace, person, code, path.name, content, account)
        except Refusal as refused:
            told.append(f"{path.name} is not taken in: {refused} Try it on the Bank page.")
            continue
        for row in taken:
            told.append(f"{path.name}: new lines on {row.account}: {row.lines - row.already}.")
            told.extend(row.warnings)
    return tuple(told)


def _only(books: Books) -> str | None:
    """The one bank account there is, where the books know the number of none: else the file says whose it
    is."""
    banks = books.with_role(AccountRole.BANK)
    return banks[0].code if len(banks) == 1 and not books.tables.bank_accounts else None
