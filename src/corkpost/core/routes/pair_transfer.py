"""pair-transfer: joins both legs as one move between own accounts, each on its own date, through a
clearing account that is nil after it; tax is given back."""

from corkpost.core.books import Books, Line, PriorPart, Transaction, opposite
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import dated, profit_part
from corkpost.core.kinds import MONEY_ROLES, AccountRole, EntryKind
from corkpost.core.points import Point
from corkpost.core.refusals import MissingAccount, NothingToDo
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "pair-transfer",
    did="A move between two accounts of the business had been booked as cost or income.",
    means="Nothing to enter: both sides are tied together now.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    title = f"Join {point.named('out')[0]} and {point.named('in')[0]} as one move"
    return (Option(ROUTE.id, {}, title, _reason(point)),)


def _reason(point: Point) -> str:
    (out,), (in_,) = point.named("out"), point.named("in")
    return f"{out} and {in_} are one move between own accounts, not a cost and an income."


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """On the day out Dr clearing, Cr what was debited; on the day in Dr what was credited, Cr
    clearing. Raises MissingAccount where the chart has no clearing account."""
    clearing = books.with_role(AccountRole.CLEARING)
    if not clearing:
        raise MissingAccount("clearing", "a move between own accounts")
    entries: list[Transaction] = []
    notes: list[str] = []
    parts: tuple[PriorPart, ...] = ()
    for number, role in enumerate(("out", "in"), 1):
        leg = books.transaction(point.named(role)[0])
        if leg.id in books.corrected:
            raise NothingToDo(f"{leg.id} was put right already, by {books.corrected[leg.id]}.")
        coded = [x for x in leg.lines if books.accounts[x.account].role not in MONEY_ROLES]
        total = sum(x.amount for x in coded)
        lines = (Line(0, clearing[0].code, total), *opposite(coded))
        correction = dated(books, leg, lines, profit_part(settings))
        entries.append(
            entry_of(
                new_entry(number), correction.posting_date, EntryKind.CORRECTING, leg
            )._replace(
                lines=correction.lines,
                party=None,
                memo=f"{leg.id} is a move between own accounts",
                corrects=leg.id,
            )
        )
        notes += correction.notes
        parts += correction.prior_parts
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=tuple(entries),
        allocations=(),
        proposed_reason=_reason(point),
        notes=tuple(dict.fromkeys(notes)),
        prior_parts=parts,
        about=(point.named("out")[0], point.named("in")[0]),
    )
