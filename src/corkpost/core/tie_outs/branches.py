"""Branches against each other: what one says it is owed, the others say they owe."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books
from corkpost.core.kinds import AccountRole
from corkpost.core.tie_outs.accounts import is_used
from corkpost.core.tie_outs.tie_out import Part, TieOut

ORDER = 12


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    accounts = [
        own for own in books.with_role(AccountRole.INTER_BRANCH) if is_used(books, own, as_at)
    ]
    if not accounts:
        return
    sums: dict[str, int] = {}
    for account in accounts:
        for posted, line in books.lines_on(account.code):
            if posted.posting_date <= as_at:
                branch = line.dimensions or f"on {account.name}, of no branch"
                sums[branch] = sums.get(branch, 0) + line.amount
    owed = {branch: amount for branch, amount in sums.items() if amount > 0}
    owing = {branch: amount for branch, amount in sums.items() if amount < 0}
    yield TieOut(
        id="branches",
        kind="branches",
        title="Branches against each other",
        accounts=tuple(account.code for account in accounts),
        books=sum(owed.values()),
        outside=-sum(owing.values()),
        of_books=tuple(Part(branch, amount) for branch, amount in sorted(owed.items())),
        of_outside=tuple(Part(branch, -amount) for branch, amount in sorted(owing.items())),
        evidence=("what each branch owes the others",),
    )
