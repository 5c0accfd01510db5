"""What a plan moves: the one computation behind every preview and every posting."""

from collections.abc import Iterable, Mapping
from datetime import date, datetime, time
from typing import NamedTuple

from corkpost.core.amendments import with_chart
from corkpost.core.bank.reconciling import bank_difference
from corkpost.core.books import AccountAmendment, Books, PartyAmendment, Transaction
from corkpost.core.change import Plan, dates_of
from corkpost.core.kinds import MONEY_ROLES, OWNER_ROLES, AccountRole
from corkpost.core.merging import with_merges
from corkpost.core.money import Minor
from corkpost.core.running_sums import party_sums
from corkpost.core.trial_balance import BROUGHT_FORWARD, Balances, balances, balances_at, profit_of


class Figures(NamedTuple):
    """The figures of the effect strip at the end of a day, debit positive but for profit.

    *profit* is the year's, a profit positive. *tax* positive is to reclaim. *turned_over* is the sum
    of the debit balances, *out_by* what it exceeds the credit balances by: nil unless somebody wrote
    into the store.
    """

    profit: Minor
    tax: Minor
    receivables: Minor
    payables: Minor
    owners: Minor
    bank: Minor
    turned_over: Minor
    out_by: Minor


class BalanceChange(NamedTuple):
    """One account's or party's balance before and after, debit positive."""

    code: str
    before: Minor
    after: Minor


class Effect(NamedTuple):
    """What a plan moves, as at the end of *as_at*. Accounts and parties that it touches, by code."""

    as_at: date
    before: Figures
    after: Figures
    accounts: tuple[BalanceChange, ...]
    parties: tuple[BalanceChange, ...]
    banks: tuple[BalanceChange, ...]
    bank_difference: tuple[Minor, Minor] | None = None
    """Before and after, of all accounts' latest statements by then; None where there are none."""


def figures_of(sums: Mapping[str, Minor], books: Books) -> Figures:
    """The figures that these balances come to."""

    def on(*roles: AccountRole) -> Minor:
        return sum(sums.get(account.code, 0) for account in books.with_role(*roles))

    return Figures(
        profit=profit_of(sums, books),
        tax=on(AccountRole.TAX),
        receivables=on(AccountRole.RECEIVABLES),
        payables=on(AccountRole.PAYABLES),
        owners=on(*OWNER_ROLES),
        bank=on(*MONEY_ROLES),
        turned_over=sum(amount for amount in sums.values() if amount > 0),
        out_by=sum(sums.values()),
    )


def effect_of(plan: Plan, books: Books, as_at: date) -> Effect:
    """What the plan moves at the end of *as_at*. Plans that only allocate move no account."""
    before = balances_at(books, as_at)
    changed = _with_chart(books, plan, as_at)
    stood = balances_at(changed, as_at) if plan.chart else before
    added = balances(plan.entries, changed, as_at)
    after = {code: stood.get(code, 0) + added.get(code, 0) for code in stood.keys() | added}
    touched = {line.account for entry in plan.entries for line in entry.lines} | added.keys()
    touched |= {code for code in before.keys() | after if before.get(code) != after.get(code)}
    banks = {account.code for account in books.with_role(*MONEY_ROLES)}
    moved = _moved(touched, before, after)
    return Effect(
        as_at=as_at,
        before=figures_of(before, books),
        after=figures_of(after, changed),
        accounts=moved,
        parties=_parties_moved(plan, books, as_at),
        banks=tuple(row for row in moved if row.code in banks),
        bank_difference=_differences(plan, books, as_at),
    )


def _with_chart(books: Books, plan: Plan, as_at: date) -> Books:
    """The books with the chart as the plan puts it right."""
    now = datetime.combine(as_at, time())
    rows = tuple(
        AccountAmendment(row.account, now, row.field, row.before, row.after, plan.proposed_reason)
        for row in plan.chart
    )
    return with_chart(books, rows, plan.accounts, plan.parties)


def _with_merges(books: Books, plan: Plan, as_at: date) -> Books:
    """The books with the parties as the plan amends them."""
    now = datetime.combine(as_at, time())
    return with_merges(
        books,
        tuple(
            PartyAmendment(row.party, now, row.before, row.after, plan.proposed_reason)
            for row in plan.parties_amended
        ),
    )


def _differences(plan: Plan, books: Books, as_at: date) -> tuple[Minor, Minor] | None:
    before = bank_difference(books, as_at)
    if before is None:
        return None
    statements = {statement.account for statement in books.statements}
    touched = {line.account for entry in plan.entries for line in entry.lines} & statements
    if not touched and not plan.agreements:
        return before, before
    after = bank_difference(books.with_posted(plan.entries, (), plan.agreements), as_at)
    return before, after or 0


def year_end_after(plan: Plan, books: Books) -> date:
    """The last day of the year that the plan falls in: by its first entry, else allocation, else by
    the first transaction that it amends, else by the last one in the books."""
    days = [*dates_of(plan)] or [
        books.transaction(row.transaction).posting_date for row in plan.amendments
    ]
    latest = (posted.posting_date for posted in books.tables.transactions)
    days = days or [max(latest, default=date(2000, 1, 1))]
    return books.calendar.year_of(days[0]).last_day


def _moved(codes: Iterable[str], before: Balances, after: Balances) -> tuple[BalanceChange, ...]:
    ordered = sorted(codes, key=lambda code: (code == BROUGHT_FORWARD, code))
    return tuple(BalanceChange(code, before.get(code, 0), after.get(code, 0)) for code in ordered)


def _parties_moved(plan: Plan, books: Books, as_at: date) -> tuple[BalanceChange, ...]:
    added = _by_party(plan.entries, books, as_at)
    before = party_sums(books, as_at)
    after = {party: before.get(party, 0) + amount for party, amount in added.items()}
    if plan.parties_amended:
        stood = party_sums(_with_merges(books, plan, as_at), as_at)
        after = {
            party: stood.get(party, 0) + added.get(party, 0)
            for party in before.keys() | stood.keys() | added.keys()
            if party in added or stood.get(party, 0) != before.get(party, 0)
        }
    return _moved(after, before, after)


def _by_party(transactions: Iterable[Transaction], books: Books, as_at: date) -> dict[str, Minor]:
    control = books.control_accounts
    sums: dict[str, Minor] = {}
    for posted in transactions:
        if posted.posting_date <= as_at:
            for line in posted.lines:
                if line.party is not None and line.account in control:
                    sums[line.party] = sums.get(line.party, 0) + line.amount
    return sums
