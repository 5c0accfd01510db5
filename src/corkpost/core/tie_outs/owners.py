"""Owners' accounts: opening + in - out + share of profit = closing; and equity as a whole.

What moved an owner's account and is none of these keeps the two apart, entry by entry.
"""

from collections.abc import Iterator
from datetime import date, timedelta

from corkpost.core.books import Account, Books
from corkpost.core.control_proof import Cause
from corkpost.core.formatting import format_date
from corkpost.core.kinds import OWNER_ROLES, AccountType, TransactionKind
from corkpost.core.owner_accounts import Nature, nature_of
from corkpost.core.tie_outs.accounts import balances_of, is_used
from corkpost.core.tie_outs.tie_out import Part, TieOut, account_part
from corkpost.core.trial_balance import Closing, balances_at, profit_of

ORDER = 11


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    for account in books.with_role(*OWNER_ROLES):
        if is_used(books, account, as_at):
            yield _of_owner(books, account, as_at)
    yield _equity(books, as_at)


def _of_owner(books: Books, account: Account, as_at: date) -> TieOut:
    first = books.calendar.year_of(as_at).first_day
    balance = balances_of(books, [account.code], as_at)[account.code]
    opening = balances_of(books, [account.code], first - timedelta(days=1))[account.code]
    sums: dict[Nature, int] = {}
    others: list[Cause] = []
    for posted, line in books.lines_on(account.code):
        if not first <= posted.posting_date <= as_at:
            continue
        if posted.kind is TransactionKind.OPENING:
            opening += line.amount
            continue
        nature = nature_of(books, posted, line)
        if nature is Nature.OTHER:
            says = f"{posted.memo or posted.id}, {format_date(posted.posting_date)}"
            others.append(Cause(f"{says}: neither in, out nor profit", line.amount, (posted.id,)))
        else:
            sums[nature] = sums.get(nature, 0) + line.amount
    of_outside = (
        Part(f"stood at {format_date(first)}", opening),
        *(Part(nature.value, sums[nature]) for nature in Nature if sums.get(nature)),
    )
    name = books.party_name(account.owner) if account.owner else ""
    owner = f", {name}" if name and name not in account.name else ""
    return TieOut(
        id=f"owner {account.code}",
        kind="owner",
        title=f"{account.name}{owner}",
        accounts=(account.code,),
        books=balance,
        outside=sum(part.amount for part in of_outside),
        of_books=(account_part(account.code, account.name, balance),),
        of_outside=of_outside,
        causes=tuple(others),
        evidence=("opening, what came in, what went out, share of profit",),
    )


def _equity(books: Books, as_at: date) -> TieOut:
    """Net assets against what equity was, the profit of the year and what owners moved. What was booked
    straight to equity is none of these."""
    first = books.calendar.year_of(as_at).first_day
    now = balances_at(books, as_at, closing=Closing.OUT)
    before = balances_at(books, first - timedelta(days=1), closing=Closing.IN)
    net = {
        account.code: now.get(account.code, 0)
        for account in books.tables.accounts
        if account.type in (AccountType.ASSET, AccountType.LIABILITY)
    }
    equity = {a.code for a in books.tables.accounts if a.type is AccountType.EQUITY}
    own = [a for a in books.with_role(*OWNER_ROLES) if a.code in equity]
    moved = sum(now.get(a.code, 0) - before.get(a.code, 0) for a in own)
    opening = sum(
        amount
        for code, amount in before.items()
        if code in equity or code not in books.accounts or books.accounts[code].is_profit_and_loss
    )
    opened = _opened_within(books, equity - {a.code for a in own}, first, as_at)
    of_outside = (
        Part(f"equity at {format_date(first)}", -opening - opened),
        Part("profit of the year", profit_of(now, books)),
        Part("moved by owners", -moved),
    )
    return TieOut(
        id="equity",
        kind="equity",
        title="Equity as a whole",
        accounts=tuple(sorted(equity)),
        books=sum(net.values()),
        outside=sum(part.amount for part in of_outside),
        of_books=tuple(
            account_part(code, books.accounts[code].name, amount)
            for code, amount in net.items()
            if amount
        ),
        of_outside=tuple(part for part in of_outside if part.amount),
        causes=tuple(_straight_to_equity(books, equity - {a.code for a in own}, first, as_at)),
        evidence=("net assets against opening equity, profit and owners' movements",),
    )


def _opened_within(books: Books, codes: set[str], first: date, as_at: date) -> int:
    return sum(
        line.amount
        for code in codes
        for posted, line in books.lines_on(code)
        if first <= posted.posting_date <= as_at and posted.kind is TransactionKind.OPENING
    )


def _straight_to_equity(books: Books, codes: set[str], first: date, as_at: date) -> Iterator[Cause]:
    for code in sorted(codes):
        for posted, line in books.lines_on(code):
            kind = posted.kind
            if (
                first <= posted.posting_date <= as_at
                and kind is not TransactionKind.OPENING
                and kind is not TransactionKind.CLOSING
            ):
                says = f"{posted.memo or posted.id}, {format_date(posted.posting_date)}"
                yield Cause(f"{says}: booked straight to equity", -line.amount, (posted.id,))
