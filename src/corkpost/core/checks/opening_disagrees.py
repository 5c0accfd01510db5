"""opening-disagrees: opening balances against last year's signed trial balance."""

from collections.abc import Iterator
from datetime import date, timedelta

from corkpost.core.books import Books
from corkpost.core.formatting import format_date
from corkpost.core.kinds import EntryKind
from corkpost.core.money import Minor
from corkpost.core.openings import opening_differences, signed_at
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side
from corkpost.core.trial_balance import Closing, balances_at

CHECK = Check(
    "opening-disagrees",
    family=Family.PROOF,
    routes=("adjust", "ask", "leave", "waive"),
    finds="a year that does not begin where the last one was signed",
    avoid="The year begins with what was signed: do not change entries of the year before.",
)


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    year_end = max((row.year_end for row in books.tables.prior_year), default=None)
    if year_end is None:
        return
    signed = signed_at(books, year_end)
    if signed is None:
        return
    as_received = balances_at(books, year_end, closing=Closing.OUT, only=lambda sort: sort.received)
    for row in opening_differences(books, year_end, signed):
        account, was_signed, difference = books.accounts[row.account], row.signed, -row.difference
        first_day = year_end + timedelta(days=1)
        if not difference or _brought(books, account.code, difference, first_day):
            continue
        # What we corrected in that year since is told by our own entries.
        if was_signed == as_received.get(account.code, 0):
            continue
        moving = [
            posted for posted, _ in books.lines_on(account.code) if posted.posting_date <= year_end
        ]
        words = books.client.currency.format_amount
        yield CHECK.point(
            books,
            subjects={},
            about={"account": (account.code,)},
            account=account.code,
            related=(moving[-1].id,) if moving else (),
            amount=difference,
            certainty=0.97,
            summary=(
                f"{account.name} begins {year_end.year + 1} at {words(row.found)}; it "
                f"was signed at {words(signed.get(account.code, 0))} on {format_date(year_end)}."
            ),
            short=f"{account.name}, {words(difference)}",
            because=("something dated by then came or went after it was signed",),
            remedy=DraftEntry(
                on=first_day,
                sides=(Side(account.code, difference), Side("", -difference)),
                title=f"Bring {account.name} to what was signed",
                reason=f"Opening balance of {account.name} as it was signed on {format_date(year_end)}.",
                asks=True,
            ),
        )


def _brought(books: Books, account: str, difference: Minor, first_day: date) -> bool:
    """Whether an entry of ours brought the account to what was signed, on the first open day."""
    on = books.calendar.first_open_day(first_day)
    return any(
        line.amount == difference
        and posted.posting_date == on
        and posted.change is not None
        and posted.entry_kind is EntryKind.ADJUSTING
        and posted.id not in books.never_was
        for posted, line in books.lines_on(account)
    )
