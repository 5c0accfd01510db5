"""A cash book with a column for each account: what was paid or received in all, and what of it goes to
each. It is read as the ledger that it stands for, a row for the money and one for each account."""

from collections.abc import Iterator, Sequence
from decimal import Decimal
from typing import NamedTuple

from corkpost.core.chart.trade_words import by_name, plain
from corkpost.core.intake.entries import OF_ROW
from corkpost.core.kinds import MONEY_ROLES, AccountRole
from corkpost.formats.listings.days import names_age, names_period
from corkpost.formats.listings.figures import any_amount, is_day
from corkpost.formats.listings.sheets import Row, Sheet
from corkpost.formats.listings.words import begins_as, names_one_of, roles_of

SEARCHED = 20
"""So many rows from the top are looked at for the names of the columns."""
LOOKED_AT = 300
"""By so many rows below them it is told what the columns hold."""
LEAST_ROWS = 3
LEAST_ACCOUNTS = 2
MOSTLY = 0.9
HEADS = ("Date", "Entry no", "Account", "Reference", "Text", "Debit", "Credit")
FIGURES = frozenset("debit credit amount balance open paid opening closing".split())


class _Book(NamedTuple):
    """*heading*: the place of its row. *total*: the column of all that was paid or received; *accounts*:
    the columns of what goes to each, with their names. *is_in*: money came in."""

    heading: int
    day: int
    total: int
    accounts: tuple[tuple[int, str], ...]
    texts: tuple[int, ...]
    is_in: bool


def as_ledger(sheet: Sheet) -> Sheet | None:
    """The ledger that a cash book stands for, each row under its own line; None where it is none."""
    book = next(_books(sheet), None)
    if book is None:
        return None
    names = [str(cell) for cell in sheet.rows[book.heading].cells]
    named = by_name(names[book.total])
    bank = names[book.total] if named and named.role in MONEY_ROLES else "Bank"
    over = [Row(row.line, tuple(row.texts)) for row in sheet.rows[: book.heading]]
    rows = [*over, Row(sheet.rows[book.heading].line, HEADS)]
    for row in sheet.rows[book.heading + 1 :]:
        rows += _rows_of(sheet, book, row, bank)
    return sheet._replace(rows=tuple(rows))


def _books(sheet: Sheet) -> Iterator[_Book]:
    for place, row in enumerate(sheet.rows[:SEARCHED]):
        names = [str(cell) for cell in row.cells]
        below = [one for one in sheet.rows[place + 1 : place + 1 + LOOKED_AT] if one.texts]
        if len(row.texts) < LEAST_ACCOUNTS + 2 or len(below) < LEAST_ROWS:
            continue
        dated = [n for n in range(len(names)) if _is_of_days(below, n)]
        if not dated:
            continue
        rows = [one for one in below if is_day(one.at(dated[0]))]
        figures = [
            n for n in range(len(names)) if n not in dated and names[n] and _are_sums(rows, n)
        ]
        side = _side(sheet, place, names)
        total = max(figures, key=lambda n: sum(one.at(n) != "" for one in rows), default=-1)
        unused = [n for n in range(total + 1, len(names)) if _is_unused(rows, n, names[n])]
        accounts = tuple((n, names[n]) for n in (*figures, *unused) if n != total)
        of_invoices = names_one_of(names, "invoice")
        if side is None or of_invoices or not _are_accounts([name for _, name in accounts]):
            continue
        if _adds_up(rows, total, accounts):
            texts = tuple(n for n in range(len(names)) if n not in (*figures, *dated))
            yield _Book(place, dated[0], total, accounts, texts, side)


def _is_of_days(rows: Sequence[Row], place: int) -> bool:
    days = sum(is_day(row.at(place)) for row in rows)
    return days >= LEAST_ROWS and 2 * days > len(rows)


def _are_sums(rows: Sequence[Row], place: int) -> bool:
    """Whether there are sums in it, some of them with cents or none that could be a number of a paper."""
    cells = [row.at(place) for row in rows if row.at(place) != ""]
    read = [any_amount(cell) for cell in cells]
    exact = any(amount is not None and int(amount.as_tuple().exponent) < 0 for amount in read)
    return bool(cells) and exact and None not in read


def _is_unused(rows: Sequence[Row], place: int, name: str) -> bool:
    """Whether it may be an account to which nothing went this time."""
    words = {"text", "reference", "party_name"} & set(roles_of(name))
    return bool(name) and not words and all(row.at(place) == "" for row in rows)


def _side(sheet: Sheet, place: int, names: Sequence[str]) -> bool | None:
    """Whether money came in, as its titles or its own columns say; None where they say neither or both."""
    over = [text for row in sheet.rows[:place] for text in row.texts]
    for texts in ([*over, sheet.name, sheet.file], names):
        said = {way for way in ("money_in", "money_out") if names_one_of(texts, way)}
        if len(said) == 1:
            return said == {"money_in"}
    return None


def _are_accounts(names: Sequence[str]) -> bool:
    """Whether enough of them are accounts, and none a figure that lists have of their own, an age, or a
    month."""
    if any(
        names_age(name) or names_period(name) or FIGURES & set(roles_of(name)) for name in names
    ):
        return False
    known = [found for name in names if (found := by_name(name)) is not None]
    besides_tax = any(found.role is not AccountRole.TAX for found in known)
    return len(names) >= LEAST_ACCOUNTS and 2 * len(known) >= len(names) and besides_tax


def _adds_up(rows: Sequence[Row], total: int, accounts: Sequence[tuple[int, str]]) -> bool:
    """Whether in nearly all rows what goes to each account comes to the total. The others are rows that do
    not balance, and told as such."""
    if len(rows) < LEAST_ROWS:
        return False
    fits = sum(
        (any_amount(row.at(total)) or 0) == sum(any_amount(row.at(n)) or 0 for n, _ in accounts)
        for row in rows
    )
    return fits >= MOSTLY * len(rows)


def _rows_of(sheet: Sheet, book: _Book, row: Row, bank: str) -> Iterator[Row]:
    """The rows of the ledger that one row stands for; of a row without a day, its own words and sums."""
    said = [str(row.at(n)) for n in book.texts if row.at(n) != ""]
    if not is_day(row.at(book.day)):
        label = next((text for text in row.texts if begins_as(text, "total")), None)
        if label is not None:
            moved = sum(any_amount(row.at(n)) or Decimal(0) for n, _ in book.accounts)
            both = (str(moved), row.at(book.total))
            yield Row(row.line, ("", "", "", "", label, *(both[::-1] if book.is_in else both)))
        elif row.texts:
            yield Row(row.line, tuple(row.cells))
        return
    number = f"{OF_ROW}{plain(sheet.says)} {row.line}"
    texts = [text for text in said if not any(sign.isdigit() for sign in text)]
    reference = next((text for text in said if text not in texts), "")
    parts = [(bank, row.at(book.total), book.is_in)]
    parts += [(name, row.at(n), not book.is_in) for n, name in book.accounts if row.at(n) != ""]
    for account, amount, is_debit in parts:
        sides = (amount, "") if is_debit else ("", amount)
        yield Row(row.line, (row.at(book.day), number, account, reference, " ".join(texts), *sides))
