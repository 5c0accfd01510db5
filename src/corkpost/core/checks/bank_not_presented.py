"""bank-not-presented: an entry that never reached the bank: payments over 6 months, receipts over 10
days old at the statement's end.

What falls into a stretch for which the bank has no line at all is one point: a part of the statement is
missing.
Keeps quiet: about what the books began with, what an adjusting entry of ours brought, and a payment that
was stopped and taken back.
"""

from collections import defaultdict
from collections.abc import Iterator, Sequence
from datetime import date, timedelta
from itertools import pairwise

from corkpost.core.bank.sides import Entry, EntryKey
from corkpost.core.formatting import format_date
from corkpost.core.kinds import EntryKind, TransactionKind
from corkpost.core.matching.bank_look import BankLook, bank_looks
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "bank-not-presented",
    family=Family.BANK,
    routes=("reverse-payment", "ask", "leave"),
    finds="an entry that never reached the bank",
    avoid="Enter a payment when it is sent. What the bank does not show after some weeks, ask about.",
)
PAYMENTS_AFTER = timedelta(days=182)
RECEIPTS_AFTER = timedelta(days=10)
STRETCH = timedelta(days=12)
MANY = 5
"""So many entries in a stretch without a line of the bank have one cause."""


def find(run: CheckRun) -> Iterator[Point]:
    for bank in bank_looks(run.books):
        last = bank.state.statement.last_day
        awaited = list(_awaited(bank))
        missing = list(_without_lines(bank, awaited))
        for first, end, rows in missing:
            yield _part_missing(run, bank, first, end, rows)
        told = {entry.key for _, _, rows in missing for entry in rows}
        for entry in awaited:
            if entry.key in told:
                continue
            age = last - entry.day
            if age <= (PAYMENTS_AFTER if entry.amount < 0 else RECEIPTS_AFTER):
                continue
            words = run.books.client.currency.format_amount(entry.amount)
            what = "payment" if entry.amount < 0 else "receipt"
            yield CHECK.point(
                run.books,
                subjects={"entry": (entry.posted.id,)},
                account=bank.account,
                amount=entry.amount,
                certainty=0.9 if entry.amount > 0 else 0.8,
                summary=(
                    f"The {what} {entry.posted.id} of {words} has not reached the bank in "
                    f"{age.days} days, by the statement to {format_date(last)}."
                ),
                short=f"{age.days} days",
                because=(f"no statement line up to {format_date(last)} fits it",),
            )


def _without_lines(
    bank: BankLook, awaited: Sequence[Entry]
) -> Iterator[tuple[date, date, list[Entry]]]:
    """The stretches between two lines of the bank that have none, where the books have many: the days of
    those lines, and the entries."""
    days = sorted({line.day for line in bank.sides.lines.values()})
    for before, after in pairwise(days):
        if after - before >= STRETCH:
            rows = [entry for entry in awaited if before < entry.day < after]
            if len(rows) >= MANY:
                yield before, after, rows


def _part_missing(
    run: CheckRun, bank: BankLook, first: date, end: date, rows: Sequence[Entry]
) -> Point:
    name = run.books.accounts[bank.account].name
    return CHECK.point(
        run.books,
        subjects={},
        about={"account": (bank.account,), "days": (first.isoformat(), end.isoformat())},
        account=bank.account,
        related=tuple(entry.posted.id for entry in rows[:3]),
        amount=sum(abs(entry.amount) for entry in rows),
        certainty=0.95,
        summary=(
            f"Between {format_date(first)} and {format_date(end)} the bank shows nothing on {name}, and "
            f"the books have {len(rows)} entries: a part of the statement is missing."
        ),
        short=f"{format_date(first)} to {format_date(end)}, {len(rows)} entries",
        because=("not one line of the bank lies between these days",),
        routes=("ask", "leave"),
    )


def _awaited(bank: BankLook) -> Iterator[Entry]:
    """The entries that the bank should show: not what the books began with, nor what was brought to it, nor
    what was stopped and taken back in the books."""
    came = [
        entry
        for entry in bank.lone
        if entry.posted.kind is not TransactionKind.OPENING
        and entry.posted.entry_kind is not EntryKind.ADJUSTING
    ]
    waiting: dict[tuple[str, Minor], list[Entry]] = defaultdict(list)
    gone: set[EntryKey] = set()
    for entry in sorted(came, key=lambda entry: (entry.day, entry.key)):
        who = bank.matcher.who(entry)
        opposite = waiting[who, -entry.amount]
        if opposite and entry.day - opposite[-1].day <= PAYMENTS_AFTER:
            gone |= {opposite.pop().key, entry.key}
        else:
            waiting[who, entry.amount].append(entry)
    yield from (entry for entry in came if entry.key not in gone)
