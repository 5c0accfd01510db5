"""What is new among a client's review points since a person was last here."""

import json
from collections.abc import Mapping
from datetime import datetime, timedelta
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.first_facts import are_facts_of
from corkpost.core.points import PointState
from corkpost.core.states import StatedPoint
from corkpost.services.review import stated_points
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace
from corkpost.store import visits as store

PAUSE = timedelta(minutes=30)
"""After so long without a look a new visit begins."""

Seen = Mapping[str, tuple[str, str]]
"""By point: its state and facts."""


class Since(NamedTuple):
    """*at*: the end of the visit before; None on the first. The points by id; *gone*: how many that
    were open are no longer found."""

    at: datetime | None
    new: tuple[str, ...]
    changed: tuple[str, ...]
    decided: tuple[str, ...]
    gone: int


def visit(workplace: Workplace, person: Person, client_code: str) -> Since:
    """Begin or go on with a visit; what changed since the one before."""
    ledger = workplace.ledger(person, client_code)
    stated = stated_points(ledger)
    now = {
        stated_point.point.id: (stated_point.state.value, stated_point.point.facts)
        for stated_point in stated
    }
    with workplace.database.writing() as connection:
        last = store.visit_of(connection, person.code, ledger.client.id)
        if last is not None and workplace.now - last.seen_at < PAUSE:
            before_at, before = last.before_at, last.before
        else:
            before_at, before = (last.seen_at, last.seen) if last else (None, None)
        content = json.dumps(now)
        store.keep_visit(
            connection,
            person.code,
            ledger.client.id,
            store.Visit(workplace.now, content, before_at, before),
        )
    if before is None or before_at is None:
        return Since(None, (), (), (), 0)
    return _since(ledger.books, before_at, json.loads(before), stated, now)


def _since(
    books: Books, at: datetime, before: Seen, stated: tuple[StatedPoint, ...], now: Seen
) -> Since:
    new: list[str] = []
    changed: list[str] = []
    decided: list[str] = []
    for stated_point in stated:
        was = before.get(stated_point.point.id)
        if was is None:
            if stated_point.state is PointState.OPEN:
                new.append(stated_point.point.id)
        elif stated_point.state.value != was[0]:
            (changed if stated_point.state is PointState.OPEN else decided).append(
                stated_point.point.id
            )
        elif not are_facts_of(stated_point.point, was[1], books):
            changed.append(stated_point.point.id)
    gone = sum(
        state == PointState.OPEN and point not in now for point, (state, _) in before.items()
    )
    return Since(at, tuple(new), tuple(changed), tuple(decided), gone)
