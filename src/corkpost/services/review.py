"""Review: the points of a client, the case of one, putting it right or deciding about it."""

from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core import checks, routes
from corkpost.core.acts import PutRight, plan_of
from corkpost.core.bank.sides import statement_line
from corkpost.core.books import Books, Transaction
from corkpost.core.changed_facts import changes_since
from corkpost.core.kinds import Role
from corkpost.core.periods import Period
from corkpost.core.points import Family, Level, Point, PointState
from corkpost.core.queries import later_day
from corkpost.core.refusals import ChangedMeanwhile, NoReason, Refusal, UnknownName
from corkpost.core.routes import Option, Settings
from corkpost.core.states import DECIDED, StatedPoint, point_of, with_states
from corkpost.core.together import PointTogether, together
from corkpost.core.usual import Usual, usual_of
from corkpost.services.entries import Preview, preview_plan
from corkpost.services.posting import end_query_of, openable, record_decision
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import practice as practice_store
from corkpost.store import queries as query_store
from corkpost.store.clients import raise_revision


class Prepared(NamedTuple):
    """An option with what it would post and move, where it posts; or with why it can't be."""

    option: Option
    preview: Preview | None
    refused: str | None = None

    @property
    def reason(self) -> str:
        """What is proposed to be kept as its reason."""
        return self.preview.plan.proposed_reason if self.preview else self.option.proposed_reason


class Case(NamedTuple):
    """A point with everything that a person needs to decide it."""

    stated: StatedPoint
    evidence: tuple[Transaction, ...]
    prepared: tuple[Prepared, ...]
    usual: Usual | None = None
    changes: tuple[str, ...] = ()
    """What is otherwise than when it was decided, where it is open again for that."""
    openable: tuple[Period, ...] = ()
    """The periods that somebody barred and that the person may have opened for one posting."""


def stated_points(ledger: ClientState) -> tuple[StatedPoint, ...]:
    """Every point of the client with its state: those found now, then those that a standing change
    corrected."""
    books, queries = ledger.books, ledger.queries
    return with_states(books, ledger.points, ledger.decisions, queries, ledger.today)


def family_of(point: Point) -> Family:
    return checks.registry()[point.check].check.family


def points(workplace: Workplace, person: Person, client_code: str) -> tuple[StatedPoint, ...]:
    """The client's points with their states."""
    return stated_points(workplace.ledger(person, client_code))


def point_named(ledger: ClientState, point_id: str) -> StatedPoint:
    """The point of that id. Raises UnknownName."""
    for stated in stated_points(ledger):
        if stated.point.id == point_id:
            return stated
    raise UnknownName("review point", point_id)


def case(
    workplace: Workplace,
    person: Person,
    client_code: str,
    point_id: str,
    *,
    settings: Settings | None = None,
    as_at: date | None = None,
) -> Case:
    """The case of a point: evidence, and every route with its entries and effect.

    *settings* go to every route that posts; *as_at*: where effects are read, the year-end unless
    given.
    """
    ledger = workplace.ledger(person, client_code)
    stated = point_named(ledger, point_id)
    prepared: tuple[Prepared, ...] = ()
    if stated.state is not PointState.CORRECTED:
        options = routes.options_for(ledger.books, stated.point)
        prepared = tuple(
            prepare(workplace, ledger, person, stated.point, option, settings or {}, as_at)
            for option in options
        )
    seen = stated.decision.seen if stated.changed and stated.decision else None
    return Case(
        stated,
        _evidence(ledger, stated.point),
        prepared,
        usual_of(ledger.books, stated.point),
        changes_since(ledger.books, point_of(seen), stated.point) if seen else (),
        openable(ledger, person, _days_of(ledger.books, stated.point)),
    )


def _days_of(books: Books, point: Point) -> Iterator[date]:
    for name in point.transactions:
        if name in books.transactions:
            yield books.transactions[name].posting_date
    yield from (statement_line(books, name).day for name in point.statement_lines)


def prepare(
    workplace: Workplace,
    ledger: ClientState,
    person: Person,
    point: Point,
    option: Option,
    settings: Settings,
    as_at: date | None,
) -> Prepared:
    """What an option would post: the same plan that posting makes."""
    chosen = option._replace(settings={**option.settings, **settings})
    try:
        return _prepared(workplace, ledger, person, point, chosen, as_at)
    except Refusal as refused:
        return Prepared(chosen, None, str(refused))


def _prepared(
    workplace: Workplace,
    ledger: ClientState,
    person: Person,
    point: Point,
    option: Option,
    as_at: date | None,
) -> Prepared:
    if is_decision(option.route):
        return Prepared(option, None)
    act = PutRight(point, option.route, option.settings)
    shown = preview_plan(
        workplace, ledger, person, lambda ledger: plan_of(ledger.books, act), as_at
    )
    return Prepared(option, shown)


def _evidence(ledger: ClientState, point: Point) -> tuple[Transaction, ...]:
    """What the point speaks of, and what is allocated to it."""
    books = ledger.books
    names = dict.fromkeys(name for name in point.transactions if name in books.transactions)
    for name in point.transactions:
        for row in ledger.items.standing_on(name):
            names |= dict.fromkeys((row.debit_transaction, row.credit_transaction))
    return tuple(books.transactions[name] for name in names)


def uncorrected(ledger: ClientState, point_id: str) -> Point:
    """The point, to be put right. Raises UnknownName, or ChangedMeanwhile where somebody did so."""
    one = point_named(ledger, point_id)
    if one.state is PointState.CORRECTED:
        raise ChangedMeanwhile(
            "Somebody put this right since you looked: nothing was posted a second time. "
            "Look at what was posted under the points that are done."
        )
    return one.point


def together_of(
    workplace: Workplace, person: Person, client_code: str, point_ids: Iterable[str]
) -> tuple[PointTogether, ...]:
    """What putting these points right together, each by its recommended route, would make of each."""
    ledger = workplace.ledger(person, client_code)
    return together(ledger.books, [uncorrected(ledger, name) for name in point_ids]).taken


def decide(
    workplace: Workplace,
    person: Person,
    client_code: str,
    point_id: str,
    route: str,
    reason: str,
    back_on: date | None = None,
) -> None:
    """Decide about the point by a route that posts nothing: leave, waive or ask. A reason is needed;
    what is asked is the reason, and *back_on* the day on which it comes back without an answer."""
    person.must_be_allowed(May.DECIDE)
    back_on = later_day(back_on, workplace.today)
    if not reason.strip():
        raise NoReason()
    # A first run of all checks is not for the time that others wait for the store.
    _ = workplace.ledger(person, client_code).points
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        stated = point_named(ledger, point_id)
        state = routes.route_named(route).route.decides
        if state is None or route not in stated.point.routes:
            raise UnknownName("route for this point that posts nothing", route)
        if stated.state is PointState.CORRECTED:
            raise Refusal("This point is corrected. Take the change back first.")
        record_decision(workplace, person, ledger, stated.point, state, reason)
        end_query_of(workplace, person, ledger, stated.point)
        if state is PointState.ASKED:
            query_store.add_query(
                connection,
                ledger.client.id,
                point=stated.point.id,
                question=reason.strip(),
                transactions=stated.point.transactions,
                back_on=back_on,
                made_by=person.code,
                made_at=workplace.now,
            )
        raise_revision(connection, ledger.client.id)


def preparers_of(workplace: Workplace) -> frozenset[str]:
    """Those whose word that a sure point is no error waits for a reviewer's."""
    rows = practice_store.all_staff(workplace.database.reading)
    return frozenset(row.code for row in rows if row.role is Role.PREPARER)


def is_proposed(stated: StatedPoint, preparers: frozenset[str]) -> bool:
    """Whether a preparer left or waived a sure point, and nobody confirmed it yet."""
    return stated.point.level is Level.SURE and stated.decided(preparers).proposed


def confirm_point(workplace: Workplace, person: Person, client_code: str, point_id: str) -> None:
    """Confirm that a preparer rightly left or waived a sure point: the decision is this person's too."""
    person.must_be_allowed(May.APPROVE)
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        stated = point_named(ledger, point_id)
        decision = stated.decision
        if decision is None or not is_proposed(stated, preparers_of(workplace)):
            raise Refusal("There is nothing to confirm here: no preparer left or waived it.")
        reason = f"{decision.reason} (said by {decision.made_by})"
        record_decision(workplace, person, ledger, stated.point, stated.state, reason)
        raise_revision(connection, ledger.client.id)


def reopen_point(
    workplace: Workplace, person: Person, client_code: str, point_id: str, reason: str
) -> None:
    """Open a point again that was left or asked."""
    person.must_be_allowed(May.DECIDE)
    if not reason.strip():
        raise NoReason()
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        stated = point_named(ledger, point_id)
        if stated.state not in DECIDED:
            raise Refusal("Only a point that was left, asked or waived can be opened again.")
        record_decision(workplace, person, ledger, stated.point, PointState.OPEN, reason)
        end_query_of(workplace, person, ledger, stated.point)
        raise_revision(connection, ledger.client.id)


def at_stake(stated: Iterable[StatedPoint]) -> int:
    """The sum of the open points' amounts, in minor units."""
    return sum(
        stated_point.point.amount
        for stated_point in stated
        if stated_point.state is PointState.OPEN
    )


def day_of(point: Point, books: Books) -> date | None:
    """Where a point lies: the latest of its transactions and statement lines that are still there."""
    return max(_days_of(books, point), default=None)


def open_by_period(books: Books, stated: Iterable[StatedPoint]) -> Mapping[date, int]:
    """How many open points each period has, by its first day: a point is where its latest lies."""
    counts: dict[date, int] = {}
    for stated_point in stated:
        if stated_point.state is PointState.OPEN:
            day = day_of(stated_point.point, books)
            if day is None:
                continue
            first_day = books.calendar.period_of(day).first_day
            counts[first_day] = counts.get(first_day, 0) + 1
    return counts


def is_decision(route: str) -> bool:
    """Whether the route posts nothing and only decides. Raises UnknownName."""
    return routes.route_named(route).plan is None
