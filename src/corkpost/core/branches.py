"""Branches within one client's books: what an entry moves between two of them, each owes the other."""

from collections.abc import Iterable, Mapping

from corkpost.core.books import Account, Books, Line
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor


def branch_dimension(books: Books) -> str | None:
    """The dimension that is of branches: the one that the client's inter-branch accounts are kept by, or
    the first where they have nothing yet. None for a client without such accounts."""
    accounts = books.with_role(AccountRole.INTER_BRANCH)
    if not accounts or not books.tables.dimensions:
        return None
    for account in accounts:
        for _, line in books.lines_on(account.code):
            if line.dimensions:
                return line.dimensions.partition("=")[0]
    return books.tables.dimensions[0].dimension


def apart_by_branch(books: Books, lines: Iterable[Line]) -> Mapping[str, Minor]:
    """What the lines leave on each branch, debit positive, where it is not nil; nothing where a line stands
    on none, for then nobody can say."""
    dimension = branch_dimension(books)
    sums: dict[str, Minor] = {}
    for line in lines:
        pairs = (line.dimensions or "").split(";")
        own = next((pair for pair in pairs if pair.startswith(f"{dimension}=")), None)
        if dimension is None or own is None:
            return {}
        sums[own] = sums.get(own, 0) + line.amount
    return {branch: amount for branch, amount in sums.items() if amount}


def balancing_lines(books: Books, lines: tuple[Line, ...]) -> tuple[Line, ...]:
    """What makes the lines balance by branch: for each the opposite of what they leave there, on the
    account between branches."""
    return tuple(
        Line(0, _account(books, branch).code, -amount, dimensions=branch)
        for branch, amount in sorted(apart_by_branch(books, lines).items())
    )


def _account(books: Books, branch: str) -> Account:
    """The only account between branches, or the one that is named after this branch."""
    accounts = books.with_role(AccountRole.INTER_BRANCH)
    code = branch.partition("=")[2]
    name = next((row.name for row in books.tables.dimensions if row.code == code), code)
    words = (code.casefold(), name.casefold())
    named = (a for a in accounts if any(word in a.name.casefold() for word in words))
    return next(named, accounts[0])
