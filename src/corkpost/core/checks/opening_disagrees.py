"""opening-disagrees: opening balances against the signed trial balance of each year's end that is given."""

from collections.abc import Iterator, Mapping
from datetime import date, timedelta

from corkpost.core.books import Books
from corkpost.core.formatting import format_date
from corkpost.core.kinds import EntryKind
from corkpost.core.money import Minor
from corkpost.core.openings import Opening, opening_differences, signed_at
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
    """The latest year's end first. What an earlier one lacks alike is the same fault; what it alone lacks
    was put right since, and can only be asked about."""
    books = run.books
    year_ends = sorted({row.year_end for row in books.tables.prior_year}, reverse=True)
    latest: Mapping[str, Minor] | None = None
    for year_end in year_ends:
        found = {row.account: row for row in _differing(books, year_end)}
        for account, row in found.items():
            if latest is None or -row.difference != latest.get(account):
                yield _point(books, row, year_end, is_latest=latest is None)
        if latest is None:
            latest = {account: -row.difference for account, row in found.items()}


def _differing(books: Books, year_end: date) -> Iterator[Opening]:
    """The accounts that hold something else than was signed as at that day."""
    signed = signed_at(books, year_end)
    if signed is None:
        return
    as_received = balances_at(books, year_end, closing=Closing.OUT, only=lambda sort: sort.received)
    for row in opening_differences(books, year_end, signed):
        first_day = year_end + timedelta(days=1)
        if not row.difference or _brought(books, row.account, -row.difference, first_day):
            continue
        # What we corrected in that year since is told by our own entries.
        if row.signed != as_received.get(row.account, 0):
            yield row


def _point(books: Books, row: Opening, year_end: date, *, is_latest: bool) -> Point:
    account, difference = books.accounts[row.account], -row.difference
    moving = [p for p, _ in books.lines_on(account.code) if p.posting_date <= year_end]
    words = books.client.currency.format_amount
    remedy = DraftEntry(
        on=year_end + timedelta(days=1),
        sides=(Side(account.code, difference), Side("", -difference)),
        title=f"Bring {account.name} to what was signed",
        reason=f"Opening balance of {account.name} as it was signed on {format_date(year_end)}.",
        asks=True,
    )
    about = {"account": (account.code,)}
    return CHECK.point(
        books,
        subjects={},
        about=about if is_latest else {**about, "year end": (year_end.isoformat(),)},
        account=account.code,
        related=(moving[-1].id,) if moving else (),
        amount=difference,
        certainty=0.97,
        summary=(
            f"{account.name} begins {year_end.year + 1} at {words(row.found)}; it "
            f"was signed at {words(row.signed)} on {format_date(year_end)}."
        ),
        short=f"{account.name}, {words(difference)}",
        because=("something dated by then came or went after it was signed",),
        remedy=remedy if is_latest else None,
        routes=None if is_latest else ("ask", "leave", "waive"),
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
