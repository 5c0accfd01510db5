"""A shop's daily takings by tender: what was sold, what of it is cash, card and given back.

Cash waits in hand until it is banked, cards until the processor pays, net of its fee (sections 5, 11).
"""

from collections.abc import Iterable, Iterator, Sequence
from datetime import date, timedelta
from itertools import combinations
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, EntryKind, TransactionKind
from corkpost.core.matching.receipts_in_hand import passed_through
from corkpost.core.money import Minor, tax_within
from corkpost.core.refusals import BadEntry, MissingAccount, UnknownName
from corkpost.core.tax import tax_account, with_tax_dates


class DayTakings(NamedTuple):
    """One day by tender, all positive. *returns*: given back, in cash unless *returns_on_card*.

    *reference*: the till's own number of the day; a day that was taken in is known by it.
    """

    day: date
    cash: Minor
    card: Minor
    returns: Minor = 0
    returns_on_card: bool = False
    reference: str | None = None

    @property
    def net(self) -> Minor:
        """What was sold less what was given back, tax in it."""
        return self.cash + self.card - self.returns

    @property
    def tenders(self) -> tuple[Minor, Minor]:
        """What is left of each tender, cash first, once what was given back is taken off."""
        on_card = self.returns if self.returns_on_card else 0
        return self.cash - (self.returns - on_card), self.card - on_card


class Sold(NamedTuple):
    """Days of takings, the income account they go to, and the tax in them."""

    days: tuple[DayTakings, ...]
    sales: str
    tax_code: str | None


def plan_takings(
    books: Books, days: Iterable[DayTakings], sales: str, tax_code: str | None
) -> Plan:
    """An entry for each day: Dr receipts in hand and card clearing, Cr sales and its tax.

    Raises BadEntry with every day that can't be posted, MissingAccount, or UnknownName.
    """
    account = books.account(sales)
    if not account.is_profit_and_loss:
        raise BadEntry([f"{account.name} is no income account: takings are income."])
    tax = books.taxes.get(tax_code) if tax_code else None
    if tax_code and tax is None:
        raise UnknownName("tax code", tax_code)
    asked = sorted((day for day in days if day.cash or day.card or day.returns), key=_order)
    faults = [fault for day in asked for fault in _faults(books, day)]
    faults += _twice_asked(asked)
    if faults:
        raise BadEntry(faults)
    entries = []
    for number, day in enumerate(asked, 1):
        sold = tax_within(day.net, tax.rate) if tax else 0
        lines = [
            *_tenders(books, day),
            Line(0, sales, -(day.net - sold), tax_code=tax_code),
            *([Line(0, tax_account(books, tax), -sold, tax_code=tax_code)] if tax else []),
        ]
        numbered = (line._replace(number=n) for n, line in enumerate(lines, 1) if line.amount)
        entry = entry_of(new_entry(number), day.day, EntryKind.CORRECTING)
        entries.append(
            entry._replace(
                kind=TransactionKind.TAKINGS,
                lines=with_tax_dates(books, tuple(numbered), day.day),
                reference=day.reference,
                memo=f"takings {format_date(day.day)}",
                source="till",
            )
        )
    first, last = (format_date(asked[0].day), format_date(asked[-1].day)) if asked else ("", "")
    return Plan(
        kind=ChangeKind.ENTRY,
        route="takings",
        entries=tuple(entries),
        allocations=(),
        proposed_reason=f"Takings of {first}" + (f" to {last}" if last != first else ""),
    )


class DaySettled(NamedTuple):
    """What came of a tender of a day's takings. *left*: of *taken*, what has not reached the bank.

    *short*: by the last day of the books it should have. *over*: what went to the bank beyond what
    was there.
    """

    posted: Transaction
    tender: str
    taken: Minor
    left: Minor
    over: Minor
    short: bool


TENDERS = ((AccountRole.UNBANKED, "cash"), (AccountRole.CARD_CLEARING, "card"))
SETTLED_WITHIN = timedelta(days=14)


def settled_by_day(
    books: Books, first: date, last: date, today: date
) -> tuple[tuple[DaySettled, ...], int]:
    """By day and tender, the oldest first: takings of these days that are short or still to come, and
    bankings and payments of these days that are over; and how many tenders came in full."""
    found: list[DaySettled] = []
    in_full = 0
    until = max((posted.posting_date for posted in books.tables.transactions), default=today)
    for role, tender in TENDERS:
        for account in books.with_role(role):
            held, over = passed_through(books, account.code)
            left = {receipt.posted.id: receipt.left for receipt in held}
            for posted, line in books.lines_on(account.code):
                within = first <= posted.posting_date <= last
                if posted.kind is TransactionKind.TAKINGS and line.amount > 0 and within:
                    open_ = left.get(posted.id, 0)
                    # All of a day's cash lies in hand: that is not banked, and nothing is lost.
                    in_hand = role is AccountRole.UNBANKED and open_ == line.amount
                    short = until - posted.posting_date > SETTLED_WITHIN and not in_hand
                    in_full += not open_
                    if open_:
                        found.append(DaySettled(posted, tender, line.amount, open_, 0, short))
            found += [
                DaySettled(receipt.posted, tender, 0, 0, receipt.left, False)
                for receipt in over
                if first <= receipt.day <= last
            ]
    found.sort(key=lambda row: (row.posted.posting_date, row.posted.id, row.tender))
    return tuple(found), in_full


def _order(when: DayTakings) -> tuple[date, str]:
    return (when.day, when.reference or "")


def _faults(books: Books, when: DayTakings) -> Iterator[str]:
    day = format_date(when.day)
    if min(when.cash, when.card, when.returns) < 0:
        yield f"{day}: cash, card and returns are written without sign."
    if when.net == 0:
        yield f"{day}: sales and returns come to nothing together."
    for posted in books.tables.transactions:
        if posted.kind is not TransactionKind.TAKINGS or posted.id in books.never_was:
            continue
        if when.reference and posted.reference == when.reference:
            yield f"{day}: {when.reference} was taken in before, as {posted.id}."
        elif posted.posting_date == when.day and _tenders_of(books, posted) == when.tenders:
            yield (
                f"{day}: takings of just these sums are in the books already, as {posted.id}. If they "
                "are another till's, put both into one day."
            )


def _twice_asked(asked: Sequence[DayTakings]) -> Iterator[str]:
    for day, other in combinations(asked, 2):
        if day.reference and day.reference == other.reference:
            yield f"{format_date(day.day)}: {day.reference} is here twice."
        elif day.day == other.day and day.tenders == other.tenders:
            yield f"{format_date(day.day)}: the same sums are here twice."


def _tenders_of(books: Books, posted: Transaction) -> tuple[Minor, Minor]:
    """What a day's entry put in hand, and what on the cards' account."""
    cash, card = (
        sum(line.amount for line in posted.lines if books.accounts[line.account].role is role)
        for role, _ in TENDERS
    )
    return cash, card


def _tenders(books: Books, when: DayTakings) -> list[Line]:
    cash, card = when.tenders
    lines = []
    for amount, role, what in (
        (cash, AccountRole.UNBANKED, "cash takings"),
        (card, AccountRole.CARD_CLEARING, "card takings"),
    ):
        if amount:
            accounts = books.with_role(role)
            if not accounts:
                raise MissingAccount(role, what)
            lines.append(Line(0, accounts[0].code, amount))
    return lines
