"""Whether the recommended way moves what the right correction moves, on books of another shape.

Run with the review's quality. What is right is written where the fault is made, by account.
"""

from collections import Counter
from collections.abc import Iterable
from typing import NamedTuple

from bench.books_from_elsewhere import TODAY, Fault, elsewhere
from corkpost.core import routes
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Books
from corkpost.core.checks import run_checks
from corkpost.core.kinds import PROFIT_KEPT_ROLES
from corkpost.core.points import CheckRun, Point
from corkpost.core.refusals import Refusal


class Moves(NamedTuple):
    """*asks*: the recommended way posts nothing before somebody says more, or asks the client."""

    right: Counter[str]
    all: Counter[str]
    asks: int
    wrong: tuple[str, ...]


def right_moves(seeds: Iterable[int]) -> Moves:
    """The first way of each point that is right, planned and compared."""
    right: Counter[str] = Counter()
    every: Counter[str] = Counter()
    wrong: list[str] = []
    asks = 0
    for seed in seeds:
        made = elsewhere(seed)
        for point in run_checks(CheckRun(made.books, TODAY)):
            fault = _meant(point, made.faults)
            if fault is None or fault.moves is None:
                continue
            moved = _moved(made.books, point)
            if moved is None:
                asks += 1
                continue
            every[point.check] += 1
            wanted = Counter(dict(fault.moves))
            if _alike(made.books, point, moved, wanted):
                right[point.check] += 1
            else:
                wrong.append(f"{seed} {point.check}: {dict(moved)}, and right is {dict(wanted)}")
    return Moves(right, every, asks, tuple(wrong))


def _meant(point: Point, faults: Iterable[Fault]) -> Fault | None:
    names = {name for _, name in point.subjects} | set(point.transactions)
    return next((f for f in faults if f.check == point.check and f.key <= names), None)


def _moved(books: Books, point: Point) -> Counter[str] | None:
    option = routes.options_for(books, point)[0]
    try:
        plan = ready(routes.plan_route(books, point, option.route, option.settings), books)
    except Refusal:
        return None
    moved: Counter[str] = Counter()
    for entry in plan.entries:
        for line in entry.lines:
            moved[line.account] += line.amount
    return moved


def _alike(books: Books, point: Point, moved: Counter[str], wanted: Counter[str]) -> bool:
    """Whether they are equal; of a filed year, with profit and loss as what was kept of it."""
    if _plain(moved) == _plain(wanted):
        return True
    through = books.client.filed_through
    days = [
        books.transactions[n].posting_date for n in point.transactions if n in books.transactions
    ]
    if through is None or not days or min(days) > through:
        return False
    return _plain(_kept(books, moved)) == _plain(_kept(books, wanted))


def _kept(books: Books, sums: Counter[str]) -> Counter[str]:
    found: Counter[str] = Counter()
    for code, amount in sums.items():
        account = books.accounts[code]
        lasting = not account.is_profit_and_loss and account.role not in PROFIT_KEPT_ROLES
        found[code if lasting else "result"] += amount
    return found


def _plain(sums: Counter[str]) -> dict[str, int]:
    return {code: amount for code, amount in sums.items() if amount}
