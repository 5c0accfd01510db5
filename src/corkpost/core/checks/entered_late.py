"""entered-late: entries dated in a filed period and keyed after it was filed."""

from collections.abc import Iterator

from corkpost.core.books import Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import TransactionKind
from corkpost.core.lateness import came_on, keyed_at
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "entered-late",
    family=Family.PERIODS,
    routes=("to-this-year", "ask", "leave", "waive"),
    finds="entries keyed into a year after it was filed",
    avoid="A year that is finished stays as it is: what you find later, date in this year and tell us.",
)


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    through, filed_on = books.client.filed_through, books.filed_on
    if through is None or filed_on is None:
        return

    came = came_on(books)

    def keyed_late(posted: Transaction) -> tuple[bool, ...]:
        if posted.change is not None or posted.posting_date > through:
            return ()
        keyed = keyed_at(books, posted, came.get(posted.id))
        late = keyed is not None and keyed > filed_on
        return (True,) if late and posted.kind is not TransactionKind.CLOSING else ()

    rows = books.rows_by("keyed late", keyed_late, ground=(through, filed_on, came))
    for posted in rows.get(True, ()):
        keyed = keyed_at(books, posted, came.get(posted.id))
        if keyed is None or books.is_answered(posted.id):
            continue
        profit = sum(
            line.amount for line in posted.lines if books.accounts[line.account].is_profit_and_loss
        )
        yield CHECK.point(
            books,
            subjects={"late": (posted.id,)},
            amount=profit or posted.total,
            certainty=0.98,
            summary=(
                f"{posted.id} is dated {format_date(posted.posting_date)} and was keyed on "
                f"{format_date(keyed.date())}, after that year was filed."
            ),
            short=f"{posted.id}, {posted.posting_date:%-d %b %Y}",
            because=(f"filed on {format_date(filed_on.date())}, through {format_date(through)}",),
            routes=None if profit else ("ask", "leave"),
        )
