"""Tax to the summary by code and period: what returns count, less what was paid or came back.

A line on a tax account that names no code, and is no money to or from the authority, is in no return.
"""

from collections import defaultdict
from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.control_proof import Cause
from corkpost.core.kinds import MONEY_ROLES, AccountRole, TransactionKind
from corkpost.core.tie_outs.accounts import balances_of, is_used, parts_of
from corkpost.core.tie_outs.tie_out import Part, TieOut

ORDER = 7


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    accounts = [own for own in books.with_role(AccountRole.TAX) if is_used(books, own, as_at)]
    if not accounts:
        return
    balances = balances_of(books, (own.code for own in accounts), as_at)
    sums: dict[tuple[str, str], int] = defaultdict(int)
    stray: list[tuple[Transaction, Line]] = []
    for account in accounts:
        for posted, line in books.lines_on(account.code):
            if posted.posting_date > as_at:
                continue
            what = _counted_as(books, posted, line)
            if what is None:
                stray.append((posted, line))
            else:
                period = line.tax_date or posted.posting_date
                sums[f"{period:%Y}", what] += line.amount
    yield TieOut(
        id="tax",
        kind="tax",
        title="Sales tax",
        accounts=tuple(balances),
        books=sum(balances.values()),
        outside=sum(sums.values()),
        of_books=parts_of(books, balances),
        of_outside=tuple(
            Part(f"{what}, {year}", amount) for (year, what), amount in sorted(sums.items())
        ),
        causes=_causes(stray),
        evidence=("summary by code and year",),
    )


def _counted_as(books: Books, posted: Transaction, line: Line) -> str | None:
    """In which part of the summary a line stands; None for one that is in no return."""
    if line.tax_code:
        return f"tax by code {line.tax_code}"
    if posted.kind is TransactionKind.OPENING:
        return "brought forward"
    others = [other for other in posted.lines if other.account != line.account]
    if any(books.accounts[other.account].role in MONEY_ROLES for other in others):
        return "paid, or come back"
    codes = {other.tax_code for other in posted.lines if other.tax_code}
    return f"tax by code {', '.join(sorted(codes))}" if codes else None


def _causes(stray: list[tuple[Transaction, Line]]) -> tuple[Cause, ...]:
    if not stray:
        return ()
    names = tuple(dict.fromkeys(posted.id for posted, _ in stray))
    many = f"{len(stray)} lines" if len(stray) > 1 else "1 line"
    amount = sum(line.amount for _, line in stray)
    return (Cause(f"{many} on the account without a code, in no return", amount, names),)
