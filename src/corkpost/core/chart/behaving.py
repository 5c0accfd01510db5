"""What accounts do, where neither role nor name says what they are: what moves with what."""

from collections import defaultdict
from collections.abc import Collection, Iterator, Mapping
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import AccountRole, AccountType, TransactionKind
from corkpost.core.periods import ONE_DAY, month_end

OFTEN = 3
SOON = 8
"""Pay is paid within so many days of its journal, taxes on it later."""


class Behaves(NamedTuple):
    role: AccountRole
    why: str


def behaves(books: Books, codes: Collection[str]) -> Mapping[str, Behaves]:
    """Of these accounts those whose entries say what they are: what pay and its taxes are owed on, wages,
    and what is set aside at a month's end and taken back."""
    return dict(_of_payrolls(books, codes)) | dict(_set_aside(books, codes))


def _of_payrolls(books: Books, codes: Collection[str]) -> Iterator[tuple[str, Behaves]]:
    owed: dict[str, list[tuple[Transaction, Line]]] = defaultdict(list)
    cost: dict[str, int] = defaultdict(int)
    for posted in books.of_kinds(TransactionKind.PAYROLL):
        for line in posted.lines:
            type_ = books.accounts[line.account].type
            if line.amount < 0 and type_ is AccountType.LIABILITY:
                owed[line.account].append((posted, line))
            elif line.amount > 0 and type_ is AccountType.EXPENSE:
                cost[line.account] += line.amount
    lags = {code: _lag(books, code, rows) for code, rows in owed.items() if len(rows) >= OFTEN}
    known = [a.code for a in books.with_role(AccountRole.PAYROLL_NET, AccountRole.PAYROLL_TAX)]
    for code in (code for code in lags if code in codes and code not in known):
        lag = lags[code]
        if lag is not None and lag <= SOON:
            yield (
                code,
                Behaves(AccountRole.PAYROLL_NET, "payrolls credit it, and it is paid at once"),
            )
        elif lag is not None:
            yield code, Behaves(AccountRole.PAYROLL_TAX, "payrolls credit it, and it is paid later")
    dearest = max(cost, key=lambda code: cost[code], default=None)
    if dearest in codes and len(owed) and dearest is not None:
        yield dearest, Behaves(AccountRole.WAGES, "payrolls have most of their cost on it")


def _lag(books: Books, code: str, owed: list[tuple[Transaction, Line]]) -> float | None:
    """After how many days it is paid, in the middle; None where it never is."""
    paid = sorted(posted.posting_date for posted, line in books.lines_on(code) if line.amount > 0)
    days = sorted(
        next((day - posted.posting_date).days for day in paid if day >= posted.posting_date)
        for posted, _ in owed
        if any(day >= posted.posting_date for day in paid)
    )
    return days[len(days) // 2] if days else None


def _set_aside(books: Books, codes: Collection[str]) -> Iterator[tuple[str, Behaves]]:
    for code in codes:
        rows = list(books.lines_on(code))
        if books.accounts[code].type is not AccountType.LIABILITY or not rows:
            continue
        if any(posted.kind is not TransactionKind.JOURNAL for posted, _ in rows):
            continue
        raised = {
            (month_end(day.year, day.month, 31) + ONE_DAY, -line.amount)
            for posted, line in rows
            if line.amount < 0
            and (day := posted.posting_date) == month_end(day.year, day.month, 31)
        }
        back = {(posted.posting_date, line.amount) for posted, line in rows if line.amount > 0}
        if len(raised & back) > 1:
            why = "what it is credited at a month's end comes off the day after"
            yield code, Behaves(AccountRole.ACCRUAL, why)
