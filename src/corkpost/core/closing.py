"""Closing a year: its income and costs to where its profit is kept, in the slot after the last day
(handbook, section 10).

Closed again after a later entry, only the difference is posted: what is reckoned is the result of the whole
year, less what closing entries carried before. Outside every bar and seal, and taken back like any change.
"""

from collections import defaultdict
from collections.abc import Iterator, Mapping
from datetime import timedelta
from fractions import Fraction
from types import MappingProxyType
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, AccountType, Entity, EntryKind, TransactionKind
from corkpost.core.money import Minor, in_shares
from corkpost.core.owners import profit_shared
from corkpost.core.periods import FinancialYear
from corkpost.core.refusals import BadEntry, MissingAccount, NothingToDo, UnknownName
from corkpost.core.sharing import Terms, sharing
from corkpost.core.trial_balance import Closing, balances_at, profit_of
from corkpost.core.years import year_named

ROUTE = "close-year"
LATEST_BEFORE = timedelta(days=15)
"""With nothing posted for longer before its end, a year is hardly whole."""


class CloseYear(NamedTuple):
    """*shares*: percent by the partner's account, where they are other than those of the books.
    *salaries*, *rate*: as in `sharing.Terms`. *by_dimension*: a line for each account and dimension.
    *through*: the account of equity over which the result passes; straight where none is named."""

    year: str
    shares: Mapping[str, Fraction] = MappingProxyType({})
    by_dimension: bool = False
    salaries: Mapping[str, Minor] = MappingProxyType({})
    rate: Fraction | None = None
    through: str | None = None


class ClosingLine(NamedTuple):
    """What one account (and dimension) is carried by, debit positive. *why*: where it goes, or from."""

    account: str
    amount: Minor
    why: str
    dimensions: str | None = None


class YearClosing(NamedTuple):
    """*profit*: of the year, before any closing. *lines*: what is left to be carried; none where the year
    is closed. *before*: the closing entries that stand."""

    year: FinancialYear
    profit: Minor
    lines: tuple[ClosingLine, ...]
    before: tuple[Transaction, ...]

    @property
    def is_closed(self) -> bool:
        return bool(self.before) and not self.lines


def closing_of(books: Books, wanted: CloseYear) -> YearClosing:
    """What closing the year would carry, and what was carried. Raises UnknownName, MissingAccount or
    BadEntry."""
    year = year_named(books, wanted.year)
    before = tuple(
        posted
        for posted in books.of_kinds(TransactionKind.CLOSING)
        if year.first_day <= posted.posting_date <= year.last_day
        and posted.id not in books.never_was
    )
    profit = profit_of(balances_at(books, year.last_day, closing=Closing.OUT), books)
    found: dict[tuple[str, str | None, str], Minor] = defaultdict(int)
    for (account, dimensions), amount in _result_left(books, year, wanted).items():
        found[account, dimensions, "to profit"] -= amount
    if wanted.through is not None:
        _pass_through(books, wanted.through, found)
    for account, amount in _profit_goes(books, year, wanted, profit, before).items():
        found[account, None, "share of profit"] -= amount
    for account, other, amount, why in _owners_moved(books, year):
        found[account, None, why] -= amount
        found[other, None, why] += amount
    lines = tuple(
        ClosingLine(account, amount, why, dimensions)
        for (account, dimensions, why), amount in sorted(
            found.items(), key=lambda row: (*_turn(row[0][2]), row[0][0], row[0][1] or "")
        )
        if amount
    )
    return YearClosing(year, profit, lines, before)


def _turn(why: str) -> tuple[bool, bool]:
    """The order of the lines: income and costs, the closing account, then where they go."""
    return (why != "to profit", why not in ("result of the year", "on to where profit is kept"))


def _pass_through(books: Books, code: str, found: dict[tuple[str, str | None, str], Minor]) -> None:
    """The result onto the closing account and off it again: what it holds does not change. Raises
    BadEntry for an account that is no plain account of equity."""
    account = books.account(code)
    if account.type is not AccountType.EQUITY or account.role is not AccountRole.ORDINARY:
        raise BadEntry(
            [f"{code} {account.name} is no closing account: name a plain one of equity."]
        )
    carried = sum(found.values())
    found[code, None, "result of the year"] = -carried
    found[code, None, "on to where profit is kept"] = carried


def _result_left(
    books: Books, year: FinancialYear, wanted: CloseYear
) -> Mapping[tuple[str, str | None], Minor]:
    """The balance of each income and cost account in the year, what was closed before taken off."""
    sums: dict[tuple[str, str | None], Minor] = defaultdict(int)
    for account in books.tables.accounts:
        if not account.is_profit_and_loss:
            continue
        for posted, line in books.lines_on(account.code):
            if year.first_day <= posted.posting_date <= year.last_day:
                key = (account.code, line.dimensions if wanted.by_dimension else None)
                sums[key] += line.amount
    return sums


def _profit_goes(
    books: Books,
    year: FinancialYear,
    wanted: CloseYear,
    profit: Minor,
    before: tuple[Transaction, ...],
) -> Mapping[str, Minor]:
    """Where the result goes by section 3, for owners positive, less what was carried there before. What
    was shared during the year leaves the appropriation account."""
    targets = _targets(books, year, wanted, profit)
    carried: dict[str, Minor] = defaultdict(int)
    for posted in before:
        moved = _of_owners(books, posted)
        for line in posted.lines:
            if line.account in targets:
                carried[line.account] -= line.amount
        for account, amount in moved.items():
            carried[account] -= amount
    left = {code: amount - carried[code] for code, amount in targets.items()}
    for shared_from in books.with_role(AccountRole.APPROPRIATION):
        left[shared_from.code] = left.get(shared_from.code, 0) + sum(
            line.amount
            for posted, line in books.lines_on(shared_from.code)
            if year.first_day <= posted.posting_date <= year.last_day
        )
    return left


def _targets(
    books: Books, year: FinancialYear, wanted: CloseYear, profit: Minor
) -> Mapping[str, Minor]:
    if books.client.entity is not Entity.PARTNERSHIP:
        if wanted.shares:
            raise BadEntry(["Only a partnership's profit goes by shares."])
        return profit_shared(books, profit, "closing the year")
    terms = Terms(year.last_day, wanted.salaries, wanted.rate)
    found = sharing(books, terms, closing=Closing.OUT)
    if not wanted.shares:
        return {row.account.code: row.total - row.before for row in found.rows}
    own = {row.account.code for row in found.rows}
    for code in wanted.shares:
        if code not in own:
            raise UnknownName("partner's account", code)
    if sum(wanted.shares.values()) != 100 or min(wanted.shares.values()) < 0:
        raise BadEntry(["The shares come to 100 percent together, none of them below nil."])
    rest = sum(row.share for row in found.rows)
    shares = in_shares(rest, wanted.shares)
    return {
        row.account.code: row.salary + row.interest + shares.get(row.account.code, 0) - row.before
        for row in found.rows
    }


_INTO = {
    AccountRole.DRAWINGS: (AccountRole.CAPITAL, "drawings to capital"),
    AccountRole.CAPITAL_INTRODUCED: (AccountRole.CAPITAL, "capital introduced to capital"),
    AccountRole.DIVIDENDS: (AccountRole.RETAINED_EARNINGS, "dividends to retained earnings"),
}


def _owners_moved(books: Books, year: FinancialYear) -> list[tuple[str, str, Minor, str]]:
    """Drawings and capital introduced to capital, dividends to retained earnings: from, to, how much."""
    found = []
    for role, (into, why) in _INTO.items():
        for account in books.with_role(role):
            if account.type is not AccountType.EQUITY:
                continue
            balance = sum(
                line.amount
                for posted, line in books.lines_on(account.code)
                if posted.posting_date <= year.last_day
            )
            if not balance:
                continue
            kept = books.with_role(into)
            if not kept:
                raise MissingAccount(into, "closing the year")
            own = [current for current in kept if current.owner == account.owner]
            found.append((account.code, (own or kept)[0].code, balance, why))
    return found


def _of_owners(books: Books, posted: Transaction) -> Mapping[str, Minor]:
    """What a closing entry carried of drawings and the like, by the account that it went to: it is no
    share of profit. Negated, as those lines stand on that account."""
    moved: dict[str, Minor] = defaultdict(int)
    for line in posted.lines:
        role = books.accounts[line.account].role
        if role in _INTO and books.accounts[line.account].type is AccountType.EQUITY:
            kept = books.with_role(_INTO[role][0])
            own = [
                account for account in kept if account.owner == books.accounts[line.account].owner
            ]
            if kept:
                moved[(own or kept)[0].code] += line.amount
    return moved


def plan_closing(books: Books, wanted: CloseYear) -> Plan:
    """The closing entry, or the difference since the last. Raises what `closing_of` does, and
    NothingToDo."""
    found = closing_of(books, wanted)
    if not found.lines:
        raise NothingToDo(
            f"The year {found.year.label} is closed already: nothing is left to carry."
        )
    run = len(found.before) + 1
    words = books.client.currency.format_amount(found.profit)
    what = "profit" if found.profit >= 0 else "loss"
    again = ", what moved since it was closed" if found.before else ""
    reason = (
        f"The year to {format_date(found.year.last_day)} closed{again}: {what} {words} to where it is "
        "kept."
    )
    lines = _merged(found.lines)
    entry = entry_of(new_entry(1), found.year.last_day, EntryKind.CLOSING)._replace(
        kind=TransactionKind.CLOSING,
        reference=f"closing {found.year.label}/{run}",
        memo=f"Closing {found.year.label}, run {run}",
        lines=lines,
    )
    return Plan(
        kind=ChangeKind.ENTRY,
        route=ROUTE,
        entries=(entry,),
        allocations=(),
        proposed_reason=reason,
        notes=("dated in the closing slot after the year's last day, outside every bar and seal",),
        warnings=tuple(_early(books, found.year)),
    )


def _early(books: Books, year: FinancialYear) -> Iterator[str]:
    """The books may not be whole yet: closing again takes in what comes."""
    days = [
        posted.posting_date
        for posted in books.tables.transactions
        if posted.posting_date <= year.last_day and posted.kind is not TransactionKind.CLOSING
    ]
    latest = max(days, default=None)
    if latest and year.last_day - latest > LATEST_BEFORE:
        yield (
            f"The last entry of the year is of {format_date(latest)}: what comes after it is carried by "
            "closing again."
        )


def _merged(rows: tuple[ClosingLine, ...]) -> tuple[Line, ...]:
    """A line for each account, dimension and reason, numbered."""
    return tuple(
        Line(number, row.account, row.amount, description=row.why, dimensions=row.dimensions)
        for number, row in enumerate(rows, 1)
    )
