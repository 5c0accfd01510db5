"""An entry as the composer holds it: text as it was keyed, however unfinished."""

from collections.abc import Iterator
from datetime import date as Day
from fractions import Fraction
from typing import Annotated, NamedTuple

from pydantic import ConfigDict, Field

from corkpost.core.books import Books
from corkpost.core.entries import EntryLine, EntryRequest, line_faults, line_of
from corkpost.core.keying import NotADay, keyed_day, keyed_money
from corkpost.core.kinds import EntryKind
from corkpost.core.money import Minor, Money, NotAnAmount
from corkpost.core.rates import rate_on
from corkpost.core.refusals import BadEntry
from corkpost.core.tax import TaxTreatment, split
from corkpost.formats.shape import Shape

Text = Annotated[str, Field(max_length=2000)]


class ComposedLine(Shape):
    """Debit and credit are text: a sum may be worked out in it."""

    model_config = ConfigDict(extra="forbid")

    account: Text
    party: Text
    debit: Text
    credit: Text
    tax_code: Text
    tax: TaxTreatment
    text: Text
    dimensions: Text

    @property
    def is_blank(self) -> bool:
        return not (self.account or self.debit or self.credit or self.party)


class ComposedEntry(Shape):
    """Days are text: `31.12` or `pe` will do. *reverse_on* empty: it does not reverse. *document_date*,
    *due_date*: of the paper behind it, where there is one."""

    model_config = ConfigDict(extra="forbid")

    kind: EntryKind
    date: Text
    reverse_on: Text
    reference: Text
    reason: Text
    document_date: Text = ""
    due_date: Text = ""
    lines: Annotated[list[ComposedLine], Field(max_length=500)]


class ReadLine(NamedTuple):
    """*amount* is debit positive; None where nothing was keyed, or nothing that can be read. *whole*: with
    the tax that comes on top of it: what the line will put on its side."""

    amount: Minor | None
    faults: tuple[str, ...]
    whole: Minor = 0


class ReadEntry(NamedTuple):
    """What the text means. *request*: the entry, once nothing is missing or wrong in it."""

    date: Day | None
    reverse_on: Day | None
    document_date: Day | None
    due_date: Day | None
    lines: tuple[ReadLine, ...]
    faults: tuple[str, ...]
    request: EntryRequest | None

    @property
    def debits(self) -> Minor:
        return sum(line.whole for line in self.lines if line.whole > 0)

    @property
    def credits(self) -> Minor:
        return -sum(line.whole for line in self.lines if line.whole < 0)


def read_composed(composed: ComposedEntry, books: Books, near: Day) -> ReadEntry:
    """Read what was keyed; days without a year are those in the year of *near*."""
    faults: list[str] = []
    date = _day(composed.date, books, near, "date", faults)
    reverse_on = None
    if composed.reverse_on.strip():
        reverse_on = _day(composed.reverse_on, books, date or near, "reversal", faults)
    paper, due = (
        _day(text, books, date or near, which, faults) if text.strip() else None
        for text, which in (
            (composed.document_date, "day on the paper"),
            (composed.due_date, "due day"),
        )
    )
    read = [_line(line, books, date or near) for line in composed.lines]
    keyed = [line for line, _ in read if line is not None]
    complete = date and len(keyed) > 1 and not faults and not any(row.faults for _, row in read)
    return ReadEntry(
        date,
        reverse_on,
        paper,
        due,
        tuple(row for _, row in read),
        tuple(faults),
        EntryRequest(
            kind=composed.kind,
            posting_date=date,
            reason=composed.reason,
            lines=tuple(keyed),
            reverse_on=reverse_on,
            reference=composed.reference or None,
            document_date=paper,
            due_date=due,
        )
        if complete and date
        else None,
    )


def _day(text: str, books: Books, near: Day, which: str, faults: list[str]) -> Day | None:
    if not text.strip():
        faults.append(f"The {which} is missing.")
        return None
    try:
        return keyed_day(text, books.calendar, near)
    except NotADay as wrong:
        faults.append(f"{wrong}.")
        return None


def _line(line: ComposedLine, books: Books, date: Day) -> tuple[EntryLine | None, ReadLine]:
    if line.is_blank:
        return None, ReadLine(None, ())
    faults: list[str] = []
    amount, foreign = _amount(line, books, date, faults)
    keyed = EntryLine(
        account=line.account,
        amount=amount or 0,
        party=line.party or None,
        tax_code=line.tax_code or None,
        tax=line.tax,
        description=line.text or None,
        dimensions=line.dimensions or None,
        foreign=foreign,
    )
    faults += _other_faults(books, keyed, amount, line.account)
    return keyed, ReadLine(amount, tuple(faults), _whole(books, keyed))


def _whole(books: Books, keyed: EntryLine) -> Minor:
    if keyed.tax is not TaxTreatment.ADDED or keyed.account not in books.accounts:
        return keyed.amount
    return sum(line.amount for line in split(books, line_of(keyed), keyed.tax))


Signed = tuple[Minor | None, Money | None]


def _amount(line: ComposedLine, books: Books, date: Day, faults: list[str]) -> Signed:
    """The signed amount, and what it is in the currency that it was keyed in, at the rate of the day; None,
    and a fault where there is one, when none can be read."""
    if line.debit.strip() and line.credit.strip():
        faults.append("fill exactly one of debit and credit.")
        return None, None
    text = line.debit.strip() or line.credit.strip()
    if not text:
        faults.append("the amount is missing.")
        return None, None
    own = books.client.currency
    try:
        keyed = keyed_money(text, own)
        abroad = keyed.currency != own
        rate = rate_on(books, keyed.currency.code, date).rate if abroad else Fraction(1)
    except NotAnAmount as wrong:
        faults.append(f"{wrong}.")
        return None, None
    except BadEntry as unknown:
        faults.append(f"{unknown}")
        return None, None
    if keyed.amount < 0:
        faults.append("the amount is below nil: put it on the other side.")
        return None, None
    signed = keyed if line.debit.strip() else -keyed
    return signed.at(rate, own).amount, signed if abroad else None


def _other_faults(
    books: Books, keyed: EntryLine, amount: Minor | None, account: str
) -> Iterator[str]:
    if not account:
        yield "the account is missing."
        return
    # An amount that could not be read was told already.
    yield from line_faults(books, keyed if amount is not None else keyed._replace(amount=1))


def request_in(composed: ComposedEntry, books: Books, near: Day) -> EntryRequest:
    """The whole entry that was keyed. Raises BadEntry with what is missing or wrong."""
    read = read_composed(composed, books, near)
    if read.request is None:
        lines = (
            f"Line {number}: {fault}"
            for number, line in enumerate(read.lines, 1)
            for fault in line.faults
        )
        raise BadEntry([*read.faults, *lines] or ["An entry has at least two lines."])
    return read.request
