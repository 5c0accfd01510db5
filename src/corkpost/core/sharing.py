"""Sharing a partnership's profit: salaries and interest on capital first, the rest by share.

Dr appropriation of profit, Cr each partner's current account; together they are the profit. What was
shared before in the year is taken off, so that it can be done again as the profit grows.
"""

import json
from collections.abc import Mapping
from datetime import date
from fractions import Fraction
from types import MappingProxyType
from typing import NamedTuple

from corkpost.core.books import Account, Books, Line, Transaction
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, Entity, EntryKind, TransactionKind
from corkpost.core.money import Minor, rounded
from corkpost.core.owners import partner_shares, profit_shared
from corkpost.core.refusals import BadEntry, MissingAccount, NothingToDo, Refusal, UnknownName
from corkpost.core.trial_balance import Closing, balances_at, profit_of

ROUTE = "share-profit"


class NoPartners(Refusal):
    title = "Not a partnership"


class Terms(NamedTuple):
    """*salaries*: for the year so far, by the partner's account, not below nil. *rate*: interest in percent
    a year on what stood on each account when the year began. What is not said of a partner, or of the
    rate (None), is as it was when profit was last shared in that year; nil before."""

    day: date
    salaries: Mapping[str, Minor] = MappingProxyType({})
    rate: Fraction | None = None


class Shared(NamedTuple):
    """What one partner gets; all for the partner positive. *before*: what was shared to them already
    this year; *after*: their account once the rest is entered."""

    account: Account
    percent: Fraction
    opening: Minor
    salary: Minor
    interest: Minor
    share: Minor
    before: Minor
    after: Minor

    @property
    def total(self) -> Minor:
        return self.salary + self.interest + self.share


class Sharing(NamedTuple):
    """The totals of *rows* add up to *profit*, a loss negative."""

    day: date
    profit: Minor
    rows: tuple[Shared, ...]
    rate: Fraction


def sharing(books: Books, terms: Terms, *, closing: Closing = Closing.IN) -> Sharing:
    """The year's profit up to a day, shared. *closing*: whether what closing entries carried is taken off
    it. Raises NoPartners, MissingAccount, UnknownName or BadEntry."""
    if books.client.entity is not Entity.PARTNERSHIP:
        raise NoPartners("Only a partnership's profit is shared: another's is kept in one place.")
    shares = partner_shares(books, "sharing profit")
    for code, salary in terms.salaries.items():
        if code not in shares:
            raise UnknownName("partner's account", code)
        if salary < 0:
            raise BadEntry(["A salary is not below nil."])
    year = books.calendar.year_of(terms.day)
    salaries, rate = _completed(books, terms, year.first_day)
    sums = balances_at(books, terms.day, closing=closing)
    opening = _at_start(books, year.first_day)
    days = Fraction(
        (terms.day - year.first_day).days + 1, (year.last_day - year.first_day).days + 1
    )
    interest = {code: rounded(opening.get(code, 0) * rate / 100 * days) for code in shares}
    profit = profit_of(sums, books)
    rest = profit - sum(interest.values()) - sum(salaries.values())
    by_share = profit_shared(books, rest, "sharing profit")
    before = _shared_before(books, year.first_day, terms.day)
    whole = sum(shares.values())
    rows = []
    for code, share in shares.items():
        salary = salaries.get(code, 0)
        total = salary + interest[code] + by_share[code]
        stands = -sums.get(code, 0)
        rows.append(
            Shared(
                account=books.accounts[code],
                percent=share * 100 / whole,
                opening=opening.get(code, 0),
                salary=salary,
                interest=interest[code],
                share=by_share[code],
                before=before.get(code, 0),
                after=stands + total - before.get(code, 0),
            )
        )
    return Sharing(terms.day, profit, tuple(rows), rate)


SALARY_OF, INTEREST_RATE = "salary of ", "interest rate"
"""Under these names the entry keeps on what terms it was shared."""


def _completed(books: Books, terms: Terms, first_day: date) -> tuple[Mapping[str, Minor], Fraction]:
    """Salaries and rate as said or, where nothing is, as of the year's last sharing that stands."""
    kept: dict[str, str] = {}
    for posted in books.tables.transactions:
        shared = first_day <= posted.posting_date <= terms.day and _is_sharing(books, posted)
        if shared and posted.other and posted.id not in books.never_was:
            kept = json.loads(posted.other)
    before = {
        name.removeprefix(SALARY_OF): books.client.currency.parse(amount)
        for name, amount in kept.items()
        if name.startswith(SALARY_OF)
    }
    rate = terms.rate if terms.rate is not None else Fraction(kept.get(INTEREST_RATE, "0"))
    return {**before, **terms.salaries}, rate


def _is_sharing(books: Books, posted: Transaction) -> bool:
    return any(
        books.accounts[line.account].role is AccountRole.APPROPRIATION for line in posted.lines
    )


def _kept(books: Books, found: Sharing) -> str:
    money = books.client.currency.format
    salaries = {SALARY_OF + row.account.code: money(row.salary) for row in found.rows if row.salary}
    rate = {INTEREST_RATE: str(found.rate)} if found.rate else {}
    kept = {**salaries, **rate}
    return json.dumps(kept, sort_keys=True) if kept else ""


def _at_start(books: Books, first_day: date) -> dict[str, Minor]:
    """What stood on each account as the year began, for the owner positive: its opening entry counts."""
    found: dict[str, Minor] = {}
    for account in books.with_role(AccountRole.PARTNER_CURRENT):
        found[account.code] = -sum(
            line.amount
            for posted, line in books.lines_on(account.code)
            if posted.posting_date < first_day or _opens(posted, first_day)
        )
    return found


def _opens(posted: Transaction, first_day: date) -> bool:
    return posted.kind is TransactionKind.OPENING and posted.posting_date == first_day


def _shared_before(books: Books, first_day: date, day: date) -> dict[str, Minor]:
    """What entries against the appropriation account brought each partner since the year began."""
    own = {account.code for account in books.with_role(AccountRole.APPROPRIATION)}
    found: dict[str, Minor] = {}
    for posted in books.tables.transactions:
        if first_day <= posted.posting_date <= day and any(
            li.account in own for li in posted.lines
        ):
            for line in posted.lines:
                if line.account not in own:
                    found[line.account] = found.get(line.account, 0) - line.amount
    return found


def plan_sharing(books: Books, terms: Terms) -> Plan:
    """Dr appropriation, Cr each partner, for what was not shared before. Raises what `sharing` does,
    and NothingToDo."""
    found = sharing(books, terms)
    accounts = books.with_role(AccountRole.APPROPRIATION)
    if not accounts:
        raise MissingAccount(AccountRole.APPROPRIATION, "sharing profit")
    lines = [
        Line(0, row.account.code, row.before - row.total, description=_words(books, row))
        for row in found.rows
        if row.total != row.before
    ]
    if not lines:
        raise NothingToDo("All of the profit up to that day is shared already.")
    lines.insert(0, Line(0, accounts[0].code, -sum(line.amount for line in lines)))
    numbered = tuple(
        line._replace(number=n) for n, line in enumerate((li for li in lines if li.amount), 1)
    )
    entry = entry_of(new_entry(1), terms.day, EntryKind.ADJUSTING)
    profit = books.client.currency.format_amount(found.profit)
    what = "profit" if found.profit >= 0 else "loss"
    return Plan(
        kind=ChangeKind.ENTRY,
        route=ROUTE,
        entries=(
            entry._replace(
                lines=numbered,
                memo=f"Share of {what} to {format_date(terms.day)}",
                other=_kept(books, found),
            ),
        ),
        allocations=(),
        proposed_reason=(
            f"The {what} of {profit} up to {format_date(terms.day)}, shared among the partners."
        ),
    )


def _words(books: Books, row: Shared) -> str:
    money = books.client.currency.format_amount
    parts = [("salary", row.salary), ("interest", row.interest), ("share", row.share)]
    said_ = ", ".join(f"{name} {money(amount)}" for name, amount in parts if amount)
    return said_ + (f"; shared before {money(row.before)}" if row.before else "")
