"""duplicate-bank-entry: one movement in the bank that is in the books twice: a feed taken in twice, a
hand entry beside a feed line.

Keeps quiet: when the statement shows two such lines.
"""

from collections.abc import Iterator

from corkpost.core.formatting import format_date
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "duplicate-bank-entry",
    family=Family.TWICE,
    routes=("void", "ask", "leave"),
    finds="one movement in the bank recorded twice",
    avoid="What the bank's file brings need not be entered by hand as well.",
)


def find(run: CheckRun) -> Iterator[Point]:
    for bank in bank_looks(run.books):
        for twin, kept in bank.twins:
            words = run.books.client.currency.format_amount(twin.amount)
            alike = bank.matcher.who(twin) == bank.matcher.who(kept)
            yield CHECK.point(
                run.books,
                subjects={"same": (kept.posted.id, twin.posted.id)},
                account=bank.account,
                amount=twin.amount,
                certainty=0.96 if alike else 0.85,
                summary=(
                    f"{words} of {format_date(twin.day)} is in the books twice, as {kept.posted.id} and "
                    f"{twin.posted.id}; the bank shows it once."
                ),
                short=f"{kept.posted.id} and {twin.posted.id}",
                because=(
                    "the same sum within days",
                    "one statement line fits, and one of the two is agreed or fits it",
                    *(("the same payee or account",) if alike else ()),
                ),
            )
