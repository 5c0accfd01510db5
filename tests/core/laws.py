"""What must hold after every correction, whatever the books: used on made-up books of any content, on the
labelled books and on the demo's."""

from collections.abc import Iterator
from dataclasses import replace
from datetime import date

from corkpost.core import routes
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.checks import run_checks
from corkpost.core.kept import Kept
from corkpost.core.kinds import OWNER_ROLES, AccountRole
from corkpost.core.open_items import ItemKey, open_items
from corkpost.core.points import CheckRun, Point
from corkpost.core.refusals import NothingToDo, Refusal
from corkpost.core.routes import Option
from corkpost.core.trial_balance import trial_balance
from corkpost.core.undo import plan_undo
from tests.builders import TODAY, after

FAR = date(2028, 12, 31)
POSTING_ROUTES = frozenset(
    name for name, registered in routes.registry().items() if registered.plan
)

CONSEQUENCES = {
    # An old error that the bank never put right waits on clearing, and is told there.
    ("bank-amount-differs", "bank-error", "clearing-balance"),
    # Recorded as income where it banks what is in hand, or what the card paid out: told at once.
    ("bank-missing", "record-missing", "unbanked-stale"),
    ("bank-missing", "record-missing", "takings-short"),
    # What a customer has on account shows once no open invoice hides it.
    ("invoice-received-direct", "settle", "balance-wrong-side"),
    ("doubtful-debt", "write-off", "balance-wrong-side"),
    # Who takes more than is theirs owes the company; who is given another's money is in credit.
    ("owner-spending", "to-owner", "owner-loan-overdrawn"),
    ("control-without-party", "reclassify", "balance-wrong-side"),
    # Where the other of two is voided, money coded straight is for the one that stays.
    ("duplicate-document", "void", "bill-paid-direct"),
    ("duplicate-document", "void", "invoice-received-direct"),
}
"""By check, route and the check that speaks next: what a choice truly leads to."""
ASKED_OF_ANYTHING = "movement"
"""What asks for a word about figures that moved, whatever moved them."""


def posting_options(books: Books, point: Point) -> Iterator[Option]:
    """Every way to put the point right that posts something."""
    for option in routes.options_for(books, point):
        if option.route in POSTING_ROUTES:
            yield option


def what_a_person_says(books: Books, option: Option) -> Iterator[dict[str, str]]:
    """The answers to what a way may ask, one after the other until none is missing."""
    plain = [
        account.code
        for account in books.tables.accounts
        if account.is_profit_and_loss and account.role is AccountRole.ORDINARY
    ]
    if option.route == "to-owner":
        plain = [a.code for a in books.with_role(*OWNER_ROLES)]
    said = dict(option.settings)
    yield dict(said)
    for name, value in (
        ("account", plain[-1]),
        ("party", books.tables.parties[0].code),
        ("interest", "0.10"),
    ):
        said[name] = said.get(name) or value
        yield dict(said)


def planned(books: Books, point: Point, option: Option) -> Plan:
    """The plan as it would be posted, with whatever the way asks for."""
    first: Refusal | None = None
    for settings in what_a_person_says(books, option):
        try:
            return ready(routes.plan_route(books, point, option.route, settings), books)
        except Refusal as refused:
            first = first or refused
    raise first or NothingToDo("")


def left_open(books: Books) -> dict[ItemKey, int]:
    return {key: amount for key, amount in open_items(books).open_now.items() if amount}


def looked_at(books: Books) -> dict[str, Point]:
    return {point.id: point for point in run_checks(CheckRun(books, TODAY))}


def breaches(books: Books, point: Point, option: Option, before: dict[str, Point]) -> Iterator[str]:
    """Posts the way, looks again, takes it back and looks again: what is not as it must be, in words."""
    number = max((change.number for change in books.changes), default=0) + 1
    done = after(books, planned(books, point, option), number)
    again = looked_at(done)
    if again != looked_at(replace(done, kept=Kept())):
        yield "a run that goes on finds other points than a full one"
    if point.id in again:
        yield f"the point is still there: {again[point.id].summary}"
    for new in again.keys() - before.keys():
        told = (point.check, option.route, again[new].check)
        if told not in CONSEQUENCES and again[new].check != ASKED_OF_ANYTHING:
            yield f"it raises {again[new].check}: {again[new].summary}"
    undone = after(done, ready(plan_undo(done, number), done), number + 1)
    if trial_balance(undone, FAR) != trial_balance(books, FAR):
        yield "taking it back leaves another trial balance"
    if left_open(undone) != left_open(books):
        yield "taking it back leaves other open items"
    back = looked_at(undone)
    if facts(back) != facts(before):
        changed = facts(back) ^ facts(before)
        yield f"taking it back leaves other points: {sorted(check for check, _, _ in changed)}"


def facts(points: dict[str, Point]) -> set[tuple[str, str, str]]:
    return {(point.check, point.id, point.facts) for point in points.values()}
