"""unusual-account: a supplier always on one account (5 times or more, 80%) and once on another.

Keeps quiet: when the amount shows that it is another kind of buy, or two accounts share its invoices by
habit.
"""

from collections import Counter
from collections.abc import Iterator

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import TransactionKind
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import Moving, Side

CHECK = Check(
    "unusual-account",
    family=Family.CODING,
    routes=("reclassify", "ask", "leave", "waive"),
    finds="a supplier's bill on an account that it is never on",
    avoid="A supplier's bills usually belong on the same account: look at the last one.",
)
TIMES = 5
MOSTLY = 0.8


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    by_party = books.rows_by(
        "bills of one cost", lambda posted: _whose(books, posted), TransactionKind.PURCHASE_BILL
    )
    for bills in by_party.values():
        if len(bills) < TIMES:
            continue
        rows = [(t, _as_one(_costs(books, t))) for t in bills if not books.is_answered(t.id)]
        if not rows:
            continue
        counts = Counter(line.account for _, line in rows)
        usual, times = counts.most_common(1)[0]
        if times < TIMES or times < MOSTLY * len(rows):
            continue
        sums = [line.amount for _, line in rows if line.account == usual]
        for posted, line in rows:
            once = line.account != usual and counts[line.account] == 1
            if once and min(sums) // 2 <= line.amount <= max(sums) * 2:
                yield _point(run, posted, line, usual, times)


def _costs(books: Books, posted: Transaction) -> list[Line]:
    return [x for x in posted.lines if books.accounts[x.account].is_profit_and_loss]


def _whose(books: Books, posted: Transaction) -> Iterator[str]:
    # Several lines that only say more of one cost are one.
    costs = {(x.account, x.tax_code, x.dimensions) for x in _costs(books, posted)}
    if posted.party and posted.change is None and len(costs) == 1:
        yield posted.party


def _as_one(lines: list[Line]) -> Line:
    return lines[0]._replace(amount=sum(line.amount for line in lines))


def _point(run: CheckRun, posted: Transaction, line: Line, usual: str, times: int) -> Point:
    books = run.books
    name, other = books.accounts[usual].name, books.accounts[line.account].name
    party = books.party_name(posted.party)
    return CHECK.point(
        books,
        subjects={"odd": (posted.id,)},
        amount=abs(line.amount),
        certainty=0.9 if times >= 2 * TIMES else 0.8,
        summary=(
            f"{posted.reference or posted.id} of {party} went to {other}; its others, {times} of them, "
            f"all go to {name}."
        ),
        short=f"{party}: {other}, not {name}",
        because=(f"{times} times on {name}, once on {other}", "the amount is of the usual size"),
        remedy=Moving(
            sides=(
                Side(usual, line.amount, None, line.tax_code, line.dimensions),
                Side(line.account, -line.amount, None, line.tax_code, line.dimensions),
            ),
            title=f"Move it to {name}",
            reason=f"{posted.reference or posted.id} of {party} belongs on {name}, as always.",
        ),
    )
