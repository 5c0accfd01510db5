"""Bank statements that came among a client's lists: told apart, seen, and taken in after the books."""

import re
from collections import Counter
from collections.abc import Mapping, Sequence
from datetime import date, timedelta
from decimal import Decimal
from pathlib import Path

from corkpost.core.bank.whose_statement import same_number
from corkpost.core.books import Account, Books, Tables
from corkpost.core.intake.making import Made
from corkpost.core.money import Currency, Minor
from corkpost.core.refusals import Refusal
from corkpost.formats.listings.bank_tables import is_bank_table
from corkpost.formats.listings.days import month_in
from corkpost.formats.listings.questions import About, Answers, Choice
from corkpost.formats.listings.understanding import FileRead
from corkpost.formats.statements.apart import read_within_limits
from corkpost.formats.statements.csv_table import NeedsColumns
from corkpost.formats.statements.parsed import ParsedLine, ParsedStatement
from corkpost.formats.statements.reading import LARGEST_STATEMENT, is_statement
from corkpost.services import statements
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace

BANK_STATEMENT = "bank-statement"
LATER = "later"
NEAR = timedelta(days=7)


def apart(paths: Sequence[Path], asked: Answers) -> tuple[list[Path], list[Path]]:
    """The lists, and the bank's statements. A table that may be either is asked about."""
    lists: list[Path] = []
    found: list[Path] = []
    for path in paths:
        banks = path.stat().st_size <= LARGEST_STATEMENT and _is_statement(path, asked)
        (found if banks else lists).append(path)
    return lists, found


def _is_statement(path: Path, asked: Answers) -> bool:
    content = path.read_bytes()
    return is_statement(content) or is_bank_table(path, content, asked)


def seen(path: Path) -> FileRead:
    """What a statement holds; of a table whose columns must be said first, nothing. Raises
    UnreadableStatement."""
    parts = _parts(path)
    lines = [line for part in parts for line in part.lines]
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


def _parts(path: Path) -> Sequence[ParsedStatement]:
    try:
        return read_within_limits(path.read_bytes()).statements
    except NeedsColumns:
        return ()


def ask_accounts(
    paths: Sequence[Path], made: Made, known: Books | None, currency: Currency, asked: Answers
) -> dict[str, str]:
    """The account of each statement, by the file's name, where it does not say so itself and there are
    several: what has most of its sums within days is proposed."""
    tables = known.tables if known else Tables()
    own = {account.code: account for account in (*made.tables.accounts, *tables.accounts)}
    banks = [row for row in own.values() if row.role in statements.STATEMENT_ROLES]
    numbers = [row.identifier for row in tables.bank_accounts if row.identifier]
    if len(banks) < 2:
        return {}
    found = {}
    for path in paths:
        parts = _parts(path)
        if any(same_number(part.identifier, number) for part in parts for number in numbers):
            continue
        lines = [line for part in parts for line in part.lines]
        number = next((part.identifier for part in parts if part.identifier), "")
        found[path.name] = asked.to(
            About.BANK_ACCOUNT,
            path.name,
            f"Of which account is the statement {path.name}?",
            [
                *(Choice(bank.code, f"{bank.code} {bank.name}") for bank in banks),
                Choice(LATER, "leave it: it is taken in on the Bank page"),
            ],
            _likeliest(lines, banks, made, known, currency),
            layout=number or _kind_of(path),
        )
    return found


def _kind_of(path: Path) -> str:
    """By what statements of one account that bear no number are alike: their names, but for days and
    months."""
    words = re.findall(r"[^\W\d_]+", path.name.casefold())
    return " ".join(word for word in words if month_in(word) is None)


def _likeliest(
    lines: Sequence[ParsedLine],
    banks: Sequence[Account],
    made: Made,
    known: Books | None,
    currency: Currency,
) -> str:
    codes = {bank.code for bank in banks}
    moved: dict[tuple[str, Minor], list[date]] = {}
    for row in (*made.tables.transactions, *(known.tables.transactions if known else ())):
        for line in row.lines:
            if line.account in codes:
                moved.setdefault((line.account, line.amount), []).append(row.posting_date)
    agreeing = Counter(
        code
        for line in lines
        for code in codes
        if any(
            abs(day - line.day) <= NEAR
            for day in moved.get((code, _minor(line.amount, currency)), ())
        )
    )
    best = agreeing.most_common(1)
    return best[0][0] if best else LATER


def _minor(amount: Decimal, currency: Currency) -> Minor:
    return int(amount.scaleb(currency.places).to_integral_value())


def take_in(
    workplace: Workplace,
    person: Person,
    code: str,
    paths: Sequence[Path],
    accounts: Mapping[str, str],
) -> tuple[str, ...]:
    """Take them in; what came of each, in words. One that is refused stays away, and the others come.
    *accounts*: of which account each is, by the file's name, where that was asked."""
    told = []
    for path in paths:
        said = accounts.get(path.name)
        if said == LATER:
            told.append(f"{path.name} is not taken in: it was left for the Bank page.")
            continue
        try:
            account = said or _only(workplace.ledger(person, code).books)
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
    banks = [row for row in books.accounts.values() if row.role in statements.STATEMENT_ROLES]
    return banks[0].code if len(banks) == 1 and not books.tables.bank_accounts else None
