"""Sums by month, account and party, kept up as transactions are added: balances of any day without a look
at every line."""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import EntryKind, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.periods import month_end

Month = tuple[int, int]


class Sort(NamedTuple):
    """What a balance may leave out or count apart."""

    received: bool
    entry_kind: EntryKind | None
    closing: bool


class Sums(NamedTuple):
    """*accounts*: by month, then sort and account; *parties*: by month, then party, on control accounts
    alone. Debit positive. *counts*: transactions by month and sort."""

    accounts: Mapping[Month, Mapping[tuple[Sort, str], Minor]]
    parties: Mapping[Month, Mapping[str, Minor]]
    counts: Mapping[Month, Mapping[Sort, int]]


class _Made(NamedTuple):
    transactions: tuple[Transaction, ...]
    control: frozenset[str]
    sums: Sums


def sort_of(posted: Transaction) -> Sort:
    """Of which sort a transaction is."""
    closing = posted.kind is TransactionKind.CLOSING
    return Sort(posted.change is None, posted.entry_kind, closing)


def running_sums(books: Books) -> Sums:
    """The sums of these books by month."""
    rows, control = books.tables.transactions, books.control_accounts
    before: _Made | None = books.kept.latest("running sums")
    if before is not None and before.transactions is rows and before.control == control:
        return before.sums
    sums = _continued(books, before) if before is not None else None
    if sums is None:
        sums = _added(Sums({}, {}, {}), rows, control)
    books.kept.put("running sums", _Made(rows, control, sums))
    return sums


def _continued(books: Books, before: _Made) -> Sums | None:
    rows = books.tables.transactions
    exchanged = books.kept.exchanged(before.transactions, rows)
    if before.control != books.control_accounts or exchanged is None:
        return None
    if any(old.lines != new.lines for old, new in exchanged):
        return None
    return _added(before.sums, rows[len(before.transactions) :], books.control_accounts)


def _added(sums: Sums, rows: Iterable[Transaction], control: frozenset[str]) -> Sums:
    by_month: dict[Month, list[Transaction]] = defaultdict(list)
    for posted in rows:
        by_month[_month_of(posted.posting_date)].append(posted)
    accounts, parties, counts = dict(sums.accounts), dict(sums.parties), dict(sums.counts)
    for month, members in by_month.items():
        own = defaultdict(int, accounts.get(month, {}))
        whose = defaultdict(int, parties.get(month, {}))
        many = defaultdict(int, counts.get(month, {}))
        for posted in members:
            sort = sort_of(posted)
            many[sort] += 1
            for line in posted.lines:
                own[sort, line.account] += line.amount
                if line.party is not None and line.account in control:
                    whose[line.party] += line.amount
        accounts[month], parties[month], counts[month] = own, whose, many
    return Sums(accounts, parties, counts)


def _month_of(day: date) -> Month:
    return day.year, day.month


def transactions_by_month(books: Books) -> Mapping[Month, tuple[Transaction, ...]]:
    """The transactions by the month of their posting date, in the order of the books."""
    return books.kept.by_key("by month", books.tables.transactions, _own_month)


def months_within(
    books: Books, first: date | None, last: date
) -> tuple[set[Month], list[Transaction]]:
    """The months that lie wholly from *first* (None: from the beginning) to *last*, and the transactions
    of the days that are left over."""
    sums = running_sums(books)
    by_month = transactions_by_month(books)
    whole, rest = set(), []
    for month in sums.counts:
        members = by_month[month]
        begun = first is None or month > _month_of(first) or month == _begun_by(first)
        if begun and (month < _month_of(last) or month == _ended_by(last)):
            whole.add(month)
        else:
            rest += [
                posted
                for posted in members
                if posted.posting_date <= last and (first is None or posted.posting_date >= first)
            ]
    return whole, rest


def _begun_by(first: date) -> Month | None:
    """The month that begins with that day."""
    return _month_of(first) if first.day == 1 else None


def _ended_by(last: date) -> Month | None:
    """The month that ends with that day."""
    return _month_of(last) if last == month_end(last.year, last.month, 31) else None


def _own_month(posted: Transaction) -> Iterable[Month]:
    return (_month_of(posted.posting_date),)


def party_sums(books: Books, as_at: date) -> dict[str, Minor]:
    """What each party's lines on control accounts come to at the end of *as_at*, debit positive."""
    sums = running_sums(books)
    months, rest = months_within(books, None, as_at)
    found: dict[str, Minor] = defaultdict(int)
    for month in months:
        for party, amount in sums.parties[month].items():
            found[party] += amount
    for posted in rest:
        for line in posted.lines:
            if line.party is not None and line.account in books.control_accounts:
                found[line.party] += line.amount
    return dict(found)


def account_sums(books: Books, first: date | None, last: date) -> Iterator[tuple[Sort, str, Minor]]:
    """What was added to each account from *first* to the end of *last*, by sort, debit positive; an
    account may come several times."""
    sums = running_sums(books)
    months, rest = months_within(books, first, last)
    for month in months:
        for (sort, account), amount in sums.accounts[month].items():
            yield sort, account, amount
    for posted in rest:
        sort = sort_of(posted)
        for line in posted.lines:
            yield sort, line.account, line.amount


def entry_counts(books: Books, as_at: date) -> dict[Sort, int]:
    """How many transactions of each sort are posted by the end of *as_at*."""
    sums = running_sums(books)
    months, rest = months_within(books, None, as_at)
    found: dict[Sort, int] = defaultdict(int)
    for month in months:
        for sort, many in sums.counts[month].items():
            found[sort] += many
    for posted in rest:
        found[sort_of(posted)] += 1
    return dict(found)
