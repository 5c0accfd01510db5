"""stock-disagrees: the stock account against the counted list of its day."""

from collections import defaultdict
from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books, Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, EntryKind
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "stock-disagrees",
    family=Family.PROOF,
    routes=("adjust", "ask", "leave", "waive"),
    finds="stock in the books that is not what was counted",
    avoid="Stock changes by counting: do not write journals on it.",
    assumes=True,
)


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    accounts = books.with_role(AccountRole.STOCK)
    counted: dict[date, int] = defaultdict(int)
    for item in books.tables.stock:
        if item.date <= run.today:
            counted[item.date] += item.value
    if not accounts or not counted:
        return
    day = max(counted)
    codes = {account.code for account in accounts}
    rows = [
        (posted, line)
        for code in sorted(codes)
        for posted, line in books.lines_on(code)
        if posted.posting_date <= day or _brought_after(books, posted, day)
    ]
    balance = sum(line.amount for _, line in rows)
    difference = counted[day] - balance
    if not difference:
        return
    words = books.client.currency.format_amount
    cost = next(iter(books.with_role(AccountRole.COST_OF_SALES)), None)
    yield CHECK.point(
        books,
        subjects={},
        about={"account": (accounts[0].code,)},
        account=accounts[0].code,
        related=tuple(t.id for t, _ in rows if t.id not in books.never_was)[-1:],
        amount=difference,
        certainty=0.98,
        summary=(
            f"Stock was counted at {words(counted[day])} on {format_date(day)}; the books have "
            f"{words(balance)}."
        ),
        short=f"{accounts[0].name}, {words(abs(difference))} {'more' if difference > 0 else 'less'}",
        because=("the counted list of that day against the account",),
        remedy=DraftEntry(
            on=day,
            sides=(
                Side(accounts[0].code, difference),
                Side(cost.code if cost else "", -difference),
            ),
            title=f"Bring {accounts[0].name} to the count",
            reason=f"Stock to the count of {format_date(day)}.",
            counts_stock=True,
        ),
    )


def _brought_after(books: Books, posted: Transaction, day: date) -> bool:
    """Whether it is an entry of ours that had to wait for the first open day after the count."""
    ours = posted.change is not None and posted.entry_kind is EntryKind.ADJUSTING
    return ours and posted.posting_date == books.calendar.first_open_day(day)
