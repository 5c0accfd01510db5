"""The bank's side of a simulated client: what its statements say of what the books recorded.

Each entry on the bank account reaches the bank after its delay, in the bank's own words. What was true
is kept, so that proposals can be measured against it.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from random import Random
from typing import NamedTuple

from corkpost.core.books import Books, Line, StatementFile, Transaction
from corkpost.core.foreign import foreign_money
from corkpost.core.kinds import StatementFormat, TransactionKind
from corkpost.core.money import Currency, Minor
from corkpost.core.periods import month_end
from corkpost.stand_ins.bank import Erred, Issued
from corkpost.stand_ins.statement_files import ENDINGS, BankLine, BankStatement, written

EntryKey = tuple[str, int]


@dataclass(frozen=True)
class BankHabit:
    """How a bank is. *delay*: days to the statement; *cheque*: those of payments with a number.

    *names_numbers*: how often, in percent, the text carries the number that the books have.
    """

    identifier: str
    formats: tuple[StatementFormat, ...]
    delay: tuple[int, int] = (0, 2)
    cheque: tuple[int, int] | None = None
    names_numbers: int = 60
    has_ids: bool = True
    full_names: bool = True


class Reached(NamedTuple):
    """A movement at the bank, and the entry that it is; None for what the books lack."""

    line: BankLine
    entry: EntryKey | None


@dataclass
class BankFaults:
    """What is put wrong on one of the two sides, by entry.

    *amounts*: what the bank has instead. *never*: entries that never reach the bank. *extra*: what the
    books lack. *numbers*: cheque numbers that the bank has otherwise. *together*: entries that the bank
    shows as one line.
    """

    amounts: dict[str, Minor] = field(default_factory=dict)
    never: set[str] = field(default_factory=set)
    extra: list[BankLine] = field(default_factory=list)
    numbers: dict[str, str] = field(default_factory=dict)
    together: list[tuple[str, ...]] = field(default_factory=list)


@dataclass(frozen=True)
class Banked:
    """A bank account over a span. *opening* at the beginning of its first day."""

    account: str
    habit: BankHabit
    currency: Currency
    first: date
    last: date
    opening: Minor
    movements: tuple[Reached, ...]

    def month(self, first: date) -> BankStatement:
        """The statement of the calendar month that begins on *first*."""
        last = month_end(first.year, first.month, 31)
        before = [r.line.amount for r in self.movements if r.line.day < first]
        within = tuple(r.line for r in self.movements if first <= r.line.day <= last)
        return BankStatement(
            self.habit.identifier, self.currency, first, last, self.opening + sum(before), within
        )

    def files(self) -> Mapping[str, tuple[StatementFormat, bytes]]:
        """A file a month, the formats in turn for a quarter of them each."""
        months = _months(self.first, self.last)
        each = -(-len(months) // len(self.habit.formats))
        found = {}
        for place, first in enumerate(months):
            format_ = self.habit.formats[place // each]
            name = f"statements/{self.account}-{first:%Y-%m}.{ENDINGS[format_]}"
            found[name] = (format_, written(format_, [self.month(first)]))
        return found


def _months(first: date, last: date) -> list[date]:
    found = []
    day = first.replace(day=1)
    while day <= last:
        found.append(day)
        day = month_end(day.year, day.month, 31) + timedelta(days=1)
    return found


def banked(
    books: Books,
    account: str,
    habit: BankHabit,
    rng: Random,
    first: date,
    last: date,
    faults: BankFaults | None = None,
    currency: Currency | None = None,
) -> Banked:
    """What the bank shows from *first* to *last* of these books' entries on the account. *currency*: that
    it is kept in, where that is not the books'."""
    wrong = faults or BankFaults()
    joined = {name: names[0] for names in wrong.together for name in names}
    movements: list[Reached] = []
    sums: dict[str, Minor] = {}
    opening = 0
    for posted, line in books.lines_on(account):
        if currency is not None:
            money = foreign_money(books, posted, line, currency)
            if money is None:
                continue
            line = line._replace(amount=money.amount)
        day = _bank_day(posted, line, habit, rng)
        made = _line(books, posted, line, day, habit, rng, wrong)
        if posted.id in wrong.never:
            continue
        if day < first or posted.kind is TransactionKind.OPENING:
            opening += made.amount
        elif day <= last:
            if posted.id in joined and joined[posted.id] != posted.id:
                sums[joined[posted.id]] = sums.get(joined[posted.id], 0) + made.amount
                continue
            movements.append(Reached(made, (posted.id, line.number)))
    movements = [
        r._replace(line=replace(r.line, amount=r.line.amount + sums.get(r.entry[0], 0)))
        if r.entry and r.entry[0] in sums
        else r
        for r in movements
    ]
    movements += [Reached(extra, None) for extra in wrong.extra if extra.day <= last]
    movements.sort(key=lambda r: (r.line.day, r.line.text, r.line.amount))
    if habit.has_ids:
        movements = [
            r._replace(line=replace(r.line, bank_id=f"{r.line.day:%y%m%d}{n:04d}"))
            for n, r in enumerate(movements, 1)
        ]
    kept = currency or books.client.currency
    return Banked(account, habit, kept, first, last, opening, tuple(movements))


def _bank_day(posted: Transaction, line: Line, habit: BankHabit, rng: Random) -> date:
    low, high = habit.delay
    is_cheque = habit.cheque is not None and line.amount < 0 and (posted.reference or "").isdigit()
    if is_cheque and habit.cheque:
        low, high = habit.cheque
    day = posted.posting_date + timedelta(days=rng.randint(low, high))
    while day.weekday() >= 5:
        day += timedelta(days=1)
    return day


def _line(
    books: Books,
    posted: Transaction,
    line: Line,
    day: date,
    habit: BankHabit,
    rng: Random,
    wrong: BankFaults,
) -> BankLine:
    amount = wrong.amounts.get(posted.id, line.amount)
    number = wrong.numbers.get(posted.id, posted.reference)
    if habit.cheque and line.amount < 0 and (posted.reference or "").isdigit():
        return BankLine(day, amount, f"CHQ {number}", reference=number)
    party = posted.party or next((x.party for x in posted.lines if x.party), None)
    carries = rng.randint(1, 100) <= habit.names_numbers
    if party:
        name = books.party_name(party)
        shown = name.upper() if habit.full_names else _shortened(name)
        words = (
            posted.memo if carries and posted.memo else _TEXTS[line.amount > 0][rng.randint(0, 1)]
        )
        counterparty = shown if habit.full_names else None
        text = words.upper() if habit.full_names else f"{shown} {words.upper()}"
        return BankLine(day, amount, text, reference=number if carries else None,
                        counterparty=counterparty)  # fmt: skip
    return BankLine(day, amount, _plain_text(posted, day, rng))


_TEXTS = (("PAYMENT", "ONLINE TRANSFER"), ("TRANSFER RECEIVED", "CREDIT"))


def _shortened(name: str) -> str:
    """As banks cut a name: upper case, eighteen signs."""
    return name.upper()[:18].strip()


def _plain_text(posted: Transaction, day: date, rng: Random) -> str:
    if posted.kind is TransactionKind.BANKING:
        return f"LODGEMENT {500000 + rng.randint(1, 999)}"
    if posted.kind is TransactionKind.TRANSFER:
        return f"CARDPAY SETTLEMENT {day:%d%m}"
    return (posted.memo or posted.kind.replace("-", " ")).upper()


def issued(statements: Banked, late: BankLine, known_on: date) -> Issued:
    """The account as the bank's server has it; *late* is a line that is known only on *known_on*. The
    last movement is booked with two digits exchanged, and put right four days later."""
    lines = sorted([*(r.line for r in statements.movements), late], key=lambda line: line.day)
    errors = {}
    if statements.movements:
        last = statements.movements[-1].line
        put_right = last.day + timedelta(days=4)
        errors[lines.index(last)] = Erred(exchanged(last.amount), put_right)
    return Issued(
        statements.habit.identifier,
        statements.currency,
        statements.habit.formats[-1],
        statements.first,
        statements.opening,
        tuple(lines),
        {lines.index(late): known_on},
        errors,
    )


def exchanged(amount: Minor) -> Minor:
    """The sum with its first two unequal neighbouring digits exchanged, as a hand slips."""
    digits = list(str(abs(amount)))
    place = next(i for i in range(len(digits) - 1) if digits[i] != digits[i + 1] != "0")
    digits[place], digits[place + 1] = digits[place + 1], digits[place]
    return int("".join(digits)) * (1 if amount > 0 else -1)


def statement_files(
    every: Iterable[Banked], keep: Mapping[str, bytes] | None = None
) -> tuple[tuple[StatementFile, ...], Mapping[str, bytes]]:
    """The rows that name the files, and the files' bytes by path."""
    rows: list[StatementFile] = []
    files: dict[str, bytes] = dict(keep or {})
    for banked in every:
        for path, (format_, content) in banked.files().items():
            rows.append(StatementFile(banked.account, path, format_, path))
            files[path] = content
    return tuple(rows), files


ALL_FORMATS: tuple[StatementFormat, ...] = (
    StatementFormat.CSV,
    StatementFormat.OFX,
    StatementFormat.CAMT053,
    StatementFormat.MT940,
)
