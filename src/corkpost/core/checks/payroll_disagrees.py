"""payroll-disagrees: the payroll journal against the bureau's summary of the month."""

from collections import defaultdict
from collections.abc import Iterator, Mapping
from datetime import timedelta

from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.matching.payroll import PARTS, Summary, summaries
from corkpost.core.money import Minor
from corkpost.core.payroll import payroll_months
from corkpost.core.periods import month_end
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "payroll-disagrees",
    family=Family.PROOF,
    routes=("adjust", "ask", "leave", "waive"),
    finds="wages in the books that are not what the bureau's summary says",
    avoid="Enter wages from the bureau's summary, all of its figures on the day of pay.",
    assumes=True,
)
LATE = 12
"""A journal of so many days into the next month is still this month's."""


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    if not all(books.with_role(role) for role in (AccountRole.WAGES, AccountRole.PAYROLL_NET)):
        return
    journals = _journals(books)
    latest = books.received_through or run.today
    for summary in summaries(payroll_months(books)):
        if summary.month > min(run.today, latest):
            continue
        mine = journals.get((summary.month.year, summary.month.month), [])
        booked = _booked(books, mine)
        wrong = {
            part: wanted - booked[part]
            for part, wanted in summary.parts.items()
            if wanted != booked[part] and books.with_role(*PARTS[part])
        }
        if wrong:
            yield _point(run, summary, mine, booked, wrong)


def _may_book_wages(posted: Transaction) -> Iterator[bool]:
    kinds = (TransactionKind.PAYROLL, TransactionKind.JOURNAL)
    if posted.kind in kinds or posted.corrects is not None:
        yield True


def _journals(books: Books) -> Mapping[tuple[int, int], list[Transaction]]:
    """What books wages, by month, with what we posted to put it right."""
    pay = {account.code for account in books.with_role(*PARTS["gross pay"])}
    found: dict[tuple[int, int], list[Transaction]] = defaultdict(list)
    month_of: dict[str, tuple[int, int]] = {}
    rows = books.rows_by("may book wages", _may_book_wages)
    for posted in rows.get(True, ()):
        if posted.id in books.never_was:
            continue
        if posted.corrects in month_of:
            found[month_of[posted.corrects]].append(posted)
            continue
        own = posted.kind is TransactionKind.PAYROLL or (
            posted.kind is TransactionKind.JOURNAL
            and posted.reverses is None
            # What puts a payment right is no pay journal, though it takes wages off.
            and posted.corrects is None
            and any(line.account in pay for line in posted.lines)
        )
        if own:
            day = posted.posting_date
            if posted.kind is TransactionKind.PAYROLL and day.day <= LATE and posted.change is None:
                before = day.replace(day=1) - timedelta(days=1)
                day = before if _pays_in_arrears(books, posted) else day
            month_of[posted.id] = (day.year, day.month)
            found[day.year, day.month].append(posted)
    return found


def _pays_in_arrears(books: Books, posted: Transaction) -> bool:
    """Whether the journal is of the month before: the month's own summary has other figures."""
    before = posted.posting_date.replace(day=1) - timedelta(days=1)
    net = sum(
        line.amount for line in posted.lines
        if books.accounts[line.account].role is AccountRole.PAYROLL_NET
    )  # fmt: skip
    return any(
        summary.month == month_end(before.year, before.month, 31)
        and summary.parts["net pay"] == net
        for summary in summaries(payroll_months(books))
    )


def _booked(books: Books, journals: list[Transaction]) -> Mapping[str, Minor]:
    return {
        part: sum(
            line.amount
            for posted in journals
            for line in posted.lines
            if books.accounts[line.account].role in roles
        )
        for part, roles in PARTS.items()
    }


def _point(
    run: CheckRun,
    summary: Summary,
    journals: list[Transaction],
    booked: Mapping[str, Minor],
    wrong: Mapping[str, Minor],
) -> Point:
    books = run.books
    words = books.client.currency.format_amount
    month = f"{summary.month:%B %Y}"
    day = journals[-1].posting_date if journals else summary.month
    sides = []
    for part, difference in wrong.items():
        (account, *_) = books.with_role(*PARTS[part])
        used = [
            line.account for posted in journals for line in posted.lines
            if books.accounts[line.account].role in PARTS[part]
        ]  # fmt: skip
        sides.append(Side(used[0] if used else account.code, difference))
    left = -sum(wrong.values())
    if left:
        sides.append(Side("", left))
    name, difference = max(wrong.items(), key=lambda pair: abs(pair[1]))
    if journals:
        summary_words = (
            f"The bureau's {name} of {month} is {words(abs(summary.parts[name]))}; the books have "
            f"{words(abs(booked[name]))}."
        )
    else:
        summary_words = (
            f"The bureau paid wages for {month}; the books have no payroll of that month."
        )
    return CHECK.point(
        books,
        subjects={"journal": tuple(posted.id for posted in journals if posted.change is None)},
        about={"month": (f"{summary.month:%Y-%m}",)},
        amount=difference,
        certainty=0.96 if journals else 0.88,
        summary=summary_words,
        short=f"Payroll of {month}",
        because=tuple(f"{part}: {words(amount)} apart" for part, amount in wrong.items()),
        remedy=DraftEntry(
            on=day,
            sides=tuple(sides),
            title=f"Bring the payroll of {month} to the bureau's summary",
            reason=f"Payroll of {month} as the bureau's summary has it.",
            answers=journals[0].id if len(journals) == 1 else "",
        ),
    )
