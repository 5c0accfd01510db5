"""Entries: the composer's preview and posting, drafts, taking back."""

import json
import uuid
from datetime import date
from typing import NamedTuple

from corkpost.core.change import Plan, dates_of
from corkpost.core.effect import Effect, effect_of, year_end_after
from corkpost.core.entries import plan_entry
from corkpost.core.periods import Period
from corkpost.core.refusals import NotAllowed, OutOfBalance, Refusal, UnknownName
from corkpost.core.t_pair import TAccount, t_accounts
from corkpost.formats.composed import ComposedEntry, ReadEntry, read_composed
from corkpost.services.posting import MakePlan, held_because, openable, planned
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import drafts as draft_store
from corkpost.store.changes import ChangeRow, changes_of
from corkpost.store.clients import must_be_at_work


class Preview(NamedTuple):
    """What would be posted, and what it moves. *held*: why it would wait for another's approval.
    *opens*: the barred periods that are opened for it alone."""

    plan: Plan
    effect: Effect
    t_accounts: tuple[TAccount, ...]
    held: str | None = None
    opens: tuple[Period, ...] = ()


def preview_plan(
    workplace: Workplace,
    ledger: ClientState,
    person: Person,
    make_plan: MakePlan,
    as_at: date | None,
    *,
    opens: bool = False,
) -> Preview:
    """What posting the plan would do, made and checked as posting does it. A plan that begins after
    *as_at* shows the day on which it begins: before it nothing moves."""
    plan, opened = planned(ledger, person, make_plan, opens=opens)
    books = ledger.books
    at = max(as_at, min(dates_of(plan), default=as_at)) if as_at else year_end_after(plan, books)
    effect = effect_of(plan, books, at)
    held = held_because(workplace, ledger, person, plan)
    return Preview(plan, effect, t_accounts(plan, books), held, opened)


class Composed(NamedTuple):
    """What was keyed, read; and once it is whole what it would post, or why it is refused."""

    read: ReadEntry
    preview: Preview | None
    refused: str | None
    openable: tuple[Period, ...] = ()


def compose(
    workplace: Workplace,
    person: Person,
    client_code: str,
    composed: ComposedEntry,
    near: date,
    as_at: date | None = None,
    *,
    opens: bool = False,
) -> Composed:
    """Read an entry as it is being keyed; its effect at *as_at*, its period's end unless given."""
    ledger = workplace.ledger(person, client_code)
    read = read_composed(composed, ledger.books, near)
    days = [day for day in (read.date, read.reverse_on) if day]
    barred = openable(ledger, person, days)
    request = read.request
    if request is None:
        return Composed(read, None, None, barred)
    as_at = as_at or ledger.books.calendar.period_of(request.posting_date).last_day
    try:
        shown = preview_plan(
            workplace,
            ledger,
            person,
            lambda ledger: plan_entry(ledger.books, request),
            as_at,
            opens=opens,
        )
        return Composed(read, shown, None, barred)
    except OutOfBalance:
        # The difference is shown while one is still keying.
        return Composed(read, None, None, barred)
    except Refusal as refused:
        return Composed(read, None, str(refused), barred)


def change_log(workplace: Workplace, person: Person, client_code: str) -> list[ChangeRow]:
    """Every change of the client, imports included, oldest first."""
    ledger = workplace.ledger(person, client_code)
    return changes_of(workplace.database.reading, ledger.client.id)


class DraftRow(NamedTuple):
    """*content*: the composer's fields as they were keyed, as JSON."""

    id: str
    content: str
    made_by: str
    made_at: str


def drafts(workplace: Workplace, person: Person, client_code: str) -> list[DraftRow]:
    """The client's drafts, latest first."""
    ledger = workplace.ledger(person, client_code)
    return [
        DraftRow(*row)
        for row in draft_store.drafts_of(workplace.database.reading, ledger.client.id)
    ]


def keep_draft(
    workplace: Workplace,
    person: Person,
    client_code: str,
    content: object,
    draft_id: str | None = None,
) -> str:
    """Keep an unfinished entry, as it was keyed; its id. Raises NotAllowed for another's."""
    person.must_be_allowed(May.POST)
    ledger = workplace.ledger(person, client_code)
    name = draft_id or uuid.uuid4().hex[:12]
    with workplace.database.writing() as connection:
        must_be_at_work(connection, ledger.client.id)
        writer = draft_store.writer_of(connection, ledger.client.id, name)
        if writer not in (None, person.code):
            raise NotAllowed(f"It is {writer}'s draft: only they change it. Begin one of your own.")
        draft_store.keep_draft(
            connection,
            ledger.client.id,
            name,
            json.dumps(content, ensure_ascii=False),
            made_by=person.code,
            made_at=workplace.now,
        )
    return name


def drop_draft(workplace: Workplace, person: Person, client_code: str, draft_id: str) -> None:
    """Drop a draft: one's own, or as who may approve another's. Raises NotAllowed or UnknownName."""
    person.must_be_allowed(May.POST)
    ledger = workplace.ledger(person, client_code)
    with workplace.database.writing() as connection:
        writer = draft_store.writer_of(connection, ledger.client.id, draft_id)
        if writer not in (None, person.code) and not person.may(May.APPROVE):
            raise NotAllowed(f"It is {writer}'s draft: they, a reviewer or a partner drop it.")
        if not draft_store.drop_draft(connection, ledger.client.id, draft_id):
            raise UnknownName("draft", draft_id)
