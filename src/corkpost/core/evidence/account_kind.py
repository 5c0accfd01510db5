"""What kind an account is that has no role: a check may reason from what it looks like, with less
certainty, and says so. Figures count confirmed roles alone."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import replace

from corkpost.core.books import Books
from corkpost.core.chart.guessing import Guess, guesses
from corkpost.core.kept import Kept
from corkpost.core.kinds import AccountRole
from corkpost.core.points import Point

ASSUMED = frozenset(
    {
        AccountRole.ACCRUAL,
        AccountRole.PREPAYMENT,
        AccountRole.DEFERRED_INCOME,
        AccountRole.WAGES,
        AccountRole.EMPLOYER_CONTRIBUTIONS,
        AccountRole.PAYROLL_NET,
        AccountRole.PAYROLL_TAX,
        AccountRole.STOCK,
        AccountRole.SUSPENSE,
        AccountRole.CLEARING,
    }
)
"""What a check may take an account for. Not control accounts, money, tax, owners: too much hangs there."""
TAKEN_FOR = "taken for"
"""The hint that names the accounts on which a point hangs so, with blanks between."""
AS_SURE = 0.9
"""What an account looks like it is, in so many of ten."""


def assumed(books: Books) -> tuple[Books, Mapping[str, Guess]] | None:
    """The books with accounts taken for what they look like, and those accounts; None where there are none.
    For checks alone: they are never shown, posted to or summed."""
    taken = {
        code: guess
        for code, guess in guesses(books).items()
        if guess.role in ASSUMED and not guess.counts
    }
    if not taken:
        return None
    found: Books | None = books.derived.get("assumed")
    if found is None:
        accounts = tuple(
            account._replace(role=taken[account.code].role) if account.code in taken else account
            for account in books.tables.accounts
        )
        kept: Kept = books.kept.latest("assumed") or Kept()
        tables = replace(books.tables, accounts=accounts)
        found = replace(books, tables=tables, kept=kept.handed_on())
        books.kept.put("assumed", found.kept)
        books.derived["assumed"] = found
    return found, taken


def less_sure(
    books: Books,
    points: Iterable[Point],
    taken: Mapping[str, Guess],
    surely: Mapping[str, Point],
) -> Iterator[Point]:
    """The points, with less certainty where one hangs on an account that was taken for something. *surely*:
    what is found without taking any for anything, by id."""
    for point in points:
        if point.id in surely:
            yield surely[point.id]
            continue
        hangs_on = [
            taken[code]
            for code in dict.fromkeys(
                line.account
                for name in point.transactions
                if name in books.transactions
                for line in books.transactions[name].lines
            )
            if code in taken
        ] or [taken[code] for code in point.accounts if code in taken]
        if not hangs_on:
            yield point
            continue
        says = tuple(
            f"{guess.account} {books.accounts[guess.account].name} is taken for "
            f"{guess.role.replace('-', ' ')}, as {guess.why}, which nobody has confirmed"
            for guess in hangs_on
        )
        codes = " ".join(guess.account for guess in hangs_on)
        yield point._replace(
            certainty=round(point.certainty * AS_SURE, 4),
            against=(*point.against, *says),
            hints=(*point.hints, (TAKEN_FOR, codes)),
        )
