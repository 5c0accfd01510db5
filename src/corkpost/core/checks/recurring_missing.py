"""recurring-missing: a cost that comes every month and is absent in one.

Keeps quiet: where the business rests in a season; where it began or ended with the gap.
"""

from collections import Counter, defaultdict
from collections.abc import Iterator, Mapping, Sequence
from datetime import date
from itertools import pairwise
from statistics import median

from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.names import words_of
from corkpost.core.evidence.said import statement_words, told_by
from corkpost.core.kinds import AccountRole, PeriodState, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.periods import ONE_DAY, Period
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side
from corkpost.core.statements import StatementLine

CHECK = Check(
    "recurring-missing",
    after=("loan-repayment-as-cost", "bank-missing"),
    family=Family.PERIODS,
    routes=("adjust", "ask", "leave", "waive"),
    finds="a monthly cost that is absent in one month",
    avoid="Look at the end of the month whether each cost that comes monthly is there.",
)
MONTHS = 8
ALIKE, DAYS_APART, MOSTLY = 0.3, 5, 0.7
ABOUT = 0.5
REGULAR = 0.85
KINDS = (TransactionKind.DIRECT_PAYMENT, TransactionKind.PURCHASE_BILL)
JOURNALS = (TransactionKind.JOURNAL, TransactionKind.PAYROLL)
BY_JOURNAL = frozenset({AccountRole.DEPRECIATION, AccountRole.EMPLOYER_CONTRIBUTIONS})
"""What such a cost is booked by, a journal of each month: other journals come as they are needed."""
LONGER = 1.5
MOST_DOUBLE = 1
"""So many months may have two: a series survives one."""
OF_ONE_SUM = "each"
Key = tuple[str, str | None, frozenset[str]]


def find(run: CheckRun) -> Iterator[Point]:
    told: set[tuple[str, tuple[int, int]]] = set()
    series = _series(run)
    of_loans = {account.code for account in run.books.with_role(AccountRole.LOAN_INTEREST)}
    # An instalment that was booked without its interest says so itself.
    whole = {
        (posted.posting_date.year, posted.posting_date.month)
        for point in run.found_before(CHECK, "loan-repayment-as-cost")
        for posted in map(run.books.transaction, point.transactions)
    }
    not_keyed = _not_keyed(run)
    for key, rows in series.items():
        by_month: dict[tuple[int, int], list[Transaction]] = defaultdict(list)
        for posted in rows:
            by_month[posted.posting_date.year, posted.posting_date.month].append(posted)
        months = _months(rows[0].posting_date, rows[-1].posting_date)
        double = [month for month, found in by_month.items() if len(found) > 1]
        if len(months) < MONTHS or len(double) > MOST_DOUBLE:
            continue
        gaps = [month for month in months if month not in by_month]
        if len(gaps) != 1 or len(by_month) < REGULAR * len(months):
            continue
        (gap,) = gaps
        # Two in the month before or after: it was early or late, and is not missing.
        if any(abs(months.index(month) - months.index(gap)) == 1 for month in double):
            continue
        if gap in (months[1], months[-2]) and len(months) < MONTHS + 2:
            continue
        if (
            not _has_rhythm(rows, key[0])
            or not _is_longer(rows, gap)
            or _accrued(run.books, key[0], rows, gap)
            or _came_otherwise(series, key, rows, gap)
            or (key[0] in of_loans and gap in whole)
            or _is_elsewhere(run.books, key, rows, gap)
            or _is_not_keyed(run.books, not_keyed, key, rows, gap)
        ):
            continue
        # What its words tell, and its sum, are one series.
        if (key[0], gap) not in told:
            told.add((key[0], gap))
            yield _point(run, key, rows, gap)


def _series(run: CheckRun) -> dict[Key, list[Transaction]]:
    """Costs by account, payee and words, and by account and sum, in the order of their days."""
    books = run.books
    found = books.rows_by(
        "costs that recur",
        lambda posted: _key(books, posted),
        *KINDS,
        *JOURNALS,
        ground=statement_words(books),
    )
    series: dict[Key, list[Transaction]] = {}
    for key, own in found.items():
        if len(own) < MONTHS - 1:
            continue
        rows = [posted for posted in own if not books.is_void(posted.id)]
        if len(rows) >= MONTHS - 1:
            series[key] = sorted(rows, key=lambda posted: (posted.posting_date, posted.id))
    return series


def _key(books: Books, posted: Transaction) -> Iterator[Key]:
    """Of which series it is. A correction of ours is nobody's habit: what came in, came, wherever it
    stands since."""
    costs = [x for x in posted.lines if books.accounts[x.account].is_profit_and_loss]
    if posted.kind in JOURNALS:
        for line in costs:
            if books.accounts[line.account].role in BY_JOURNAL and posted.change is None:
                yield line.account, None, frozenset()
    elif len(costs) == 1 and posted.change is None:
        words = frozenset(w for w in words_of(told_by(books, posted)) if w.isalpha())
        yield costs[0].account, posted.party, words if not posted.party else frozenset()
        if not posted.party:
            # A bank prints the same standing order in many ways: its sum stays.
            yield costs[0].account, None, frozenset({f"{OF_ONE_SUM} {costs[0].amount}"})


def _came_otherwise(
    series: Mapping[Key, Sequence[Transaction]],
    key: Key,
    rows: Sequence[Transaction],
    gap: tuple[int, int],
) -> bool:
    """Whether what is one series by its sum is one by its words too, and came in that month with another
    sum."""
    own = {row.id for row in rows}
    return any(
        other[0] == key[0]
        and other != key
        and sum(row.id in own for row in found) >= MOSTLY * len(rows)
        and any((row.posting_date.year, row.posting_date.month) == gap for row in found)
        for other, found in series.items()
    )


def _is_elsewhere(
    books: Books, key: Key, rows: Sequence[Transaction], gap: tuple[int, int]
) -> bool:
    """Whether the same party came in that month, with about the sum, on an account where it hardly ever is:
    that is told of the account."""
    if key[1] is None:
        return False
    typical, elsewhere, there = _typical(rows, key[0]), Counter[str](), list[str]()
    for posted in books.of_kinds(*KINDS):
        if posted.party != key[1] or books.is_void(posted.id):
            continue
        for line in posted.lines:
            if line.account != key[0] and books.accounts[line.account].is_profit_and_loss:
                elsewhere[line.account] += 1
                month = (posted.posting_date.year, posted.posting_date.month)
                if month == gap and abs(line.amount - typical) <= ABOUT * typical:
                    there.append(line.account)
    return any(elsewhere[account] * 2 < len(rows) for account in there)


def _not_keyed(run: CheckRun) -> list[StatementLine]:
    """The bank's lines that another check tells to be missing."""
    told = {n for p in run.found_before(CHECK, "bank-missing") for n in p.statement_lines}
    return [line for one in run.books.statements for line in one.lines if told and line.id in told]


def _is_not_keyed(
    books: Books,
    lines: Sequence[StatementLine],
    key: Key,
    rows: Sequence[Transaction],
    gap: tuple[int, int],
) -> bool:
    """Whether what the month lacks is on the bank's statement of it, and told there."""
    typical = _typical(rows, key[0])
    said = words_of(told_by(books, rows[0]))
    return any(
        (line.day.year, line.day.month) == gap
        and abs(-line.amount - typical) <= ALIKE * typical
        and bool(words_of(line.words) & said)
        for line in lines
    )


def _has_rhythm(rows: Sequence[Transaction], account: str) -> bool:
    """Whether most are of about one sum, or come at about one time of the month: what is bought now and
    then, as it is needed, is no series."""
    sums = [abs(sum(x.amount for x in row.lines if x.account == account)) for row in rows]
    days = [row.posting_date.day for row in rows]
    middle, at = median(sums), median(days)
    alike = sum(abs(amount - middle) <= ALIKE * middle for amount in sums)
    on_time = sum(abs(day - at) <= DAYS_APART for day in days)
    return max(alike, on_time) >= MOSTLY * len(rows)


def _is_longer(rows: Sequence[Transaction], gap: tuple[int, int]) -> bool:
    """Whether more time went by than from one to the next: a rhythm of five weeks leaves out a month by
    itself."""
    days = [posted.posting_date for posted in rows]
    gaps = [(later - before).days for before, later in pairwise(days)]
    over = next(n for n, day in enumerate(days[1:]) if (day.year, day.month) > gap)
    return gaps[over] >= LONGER * median(gaps)


def _months(first: date, last: date) -> list[tuple[int, int]]:
    months = []
    year, month = first.year, first.month
    while (year, month) <= (last.year, last.month):
        months.append((year, month))
        year, month = (year, month + 1) if month < 12 else (year + 1, 1)
    return months


def _point(run: CheckRun, key: Key, rows: Sequence[Transaction], gap: tuple[int, int]) -> Point:
    books = run.books
    account = books.accounts[key[0]]
    typical = _typical(rows, key[0])
    period = books.calendar.period_of(date(*gap, 15))
    who = books.party_name(key[1]) if key[1] else (told_by(books, rows[0]) or account.name)
    before = max(
        (row for row in rows if row.posting_date < date(*gap, 1)), key=lambda row: row.posting_date
    )
    closed = books.calendar.state_on(period.last_day) is PeriodState.BARRED
    by_journal = account.role in BY_JOURNAL
    who = account.name if by_journal else who
    return CHECK.point(
        books,
        subjects={},
        about={"account": (key[0],), "month": (f"{gap[0]}-{gap[1]:02d}",)},
        related=(before.id,),
        amount=typical,
        certainty=0.85,
        summary=(
            f"{who}{'' if by_journal else f' on {account.name}'} comes every month, {len(rows)} times, and "
            f"is absent in {period.last_day:%B %Y}."
        ),
        short=f"{who}, {period.last_day:%B %Y}",
        because=(f"{books.client.currency.format_amount(typical)} is what it usually is",),
        remedy=None if closed or by_journal else _accrual(books, key[0], typical, period, who),
        # What a closed month lacks is asked for: when it comes, it is dated by its own rule. So is a
        # journal, whose other lines are its own.
        routes=("ask", "leave", "waive") if closed or by_journal else None,
    )


def _accrual(books: Books, account: str, amount: Minor, period: Period, who: str) -> DraftEntry:
    """The month's cost, taken back on the first day of the next."""
    accruals = books.with_role(AccountRole.ACCRUAL)
    code = accruals[0].code if accruals else ""
    return DraftEntry(
        on=period.last_day,
        sides=(Side(account, amount), Side(code, -amount)),
        title=f"Accrue it for {period.last_day:%B}",
        reason=f"{who} for {period.last_day:%B %Y}, not in the books.",
        reverse_on=period.last_day + ONE_DAY,
        asks=not code,
    )


def _accrued(books: Books, account: str, rows: Sequence[Transaction], gap: tuple[int, int]) -> bool:
    """Whether a journal of that month holds about what the month lacks; or what was recorded for it since,
    wherever somebody put it."""
    typical = _typical(rows, account)
    said = words_of(told_by(books, rows[0]))
    journals = (
        line.amount
        for posted, line in books.lines_on(account)
        if posted.kind is TransactionKind.JOURNAL and _is_of(books, posted, gap)
    )
    recorded = (
        line.amount
        for posted in books.of_kinds(*KINDS)
        if posted.change is not None
        and _is_of(books, posted, gap)
        and words_of(told_by(books, posted)) & said
        for line in posted.lines
        if books.accounts[line.account].is_profit_and_loss
    )
    return any(abs(amount - typical) <= ABOUT * typical for amount in (*journals, *recorded))


def _is_of(books: Books, posted: Transaction, month: tuple[int, int]) -> bool:
    of_month = (posted.posting_date.year, posted.posting_date.month) == month
    return of_month and posted.id not in books.never_was


def _typical(rows: Sequence[Transaction], account: str) -> Minor:
    """What one of them usually is."""
    return int(
        median(abs(sum(x.amount for x in posted.lines if x.account == account)) for posted in rows)
    )
