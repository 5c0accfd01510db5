"""Posting a plan: numbered, chained and written whole, once, on the books that it was made for."""

import hashlib
import json
import sqlite3
from collections.abc import Callable, Iterable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass, replace
from datetime import date
from typing import Any, NamedTuple

from corkpost.core import row_kinds
from corkpost.core.approval import HeldForApproval, moved_by, why_held
from corkpost.core.bank.agreeing import ready
from corkpost.core.change import Plan, dates_of, opened_for
from corkpost.core.kinds import PeriodState
from corkpost.core.numbering import numbered
from corkpost.core.periods import Period
from corkpost.core.points import Point, PointState
from corkpost.core.refusals import ChangedMeanwhile, NoReason, Refusal
from corkpost.core.row_kinds import Posting, RowKind
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Posted, Workplace
from corkpost.store import changes as change_store
from corkpost.store import periods as period_store
from corkpost.store import queries as query_store
from corkpost.store.approvals import Proposal, end_proposal, proposals_of
from corkpost.store.review import add_decision


@dataclass(frozen=True)
class PostRequest:
    """What a person asks to be posted. *shown*: the digest of the plan that they saw, if any.

    *key*: the idempotency key; a request that is sent again is done once. *asked*: what was asked for,
    where no plan was shown. *opens*: a partner has the periods that somebody barred opened for this
    posting alone. *approves*: what was handed in.
    """

    reason: str
    shown: str | None = None
    key: str | None = None
    opens: bool = False
    approves: Proposal | None = None
    asked: str = ""

    @property
    def digest(self) -> str:
        """The digest of what was asked for, by which the same request, sent again, is told from another."""
        number = self.approves.number if self.approves else None
        parts = [self.reason.strip(), self.shown, self.opens, number, self.asked]
        return hashlib.sha256(json.dumps(parts, ensure_ascii=False).encode()).hexdigest()


class KeyUsed(Refusal):
    """An idempotency key that stands for another request."""

    title = "That was sent under a key that is used"

    def __init__(self, change: int) -> None:
        super().__init__(
            f"Change {change} was posted under this key, and it is not what was sent now. Nothing was "
            "posted. Load the page again and post once more."
        )


MakePlan = Callable[[ClientState], Plan]


class Answered(NamedTuple):
    """A point that a change puts right. *reason*: its own, where that is not the change's."""

    point: Point
    reason: str = ""


def planned(
    ledger: ClientState, person: Person, make_plan: MakePlan, *, opens: bool = False
) -> tuple[Plan, tuple[Period, ...]]:
    """The checked plan and, with *opens*, the barred periods that are opened for it."""
    if not opens:
        own = ledger.seen_by(person.code)
        plan = ready(make_plan(own), own.books)
        ledger.refuse_outside_window(person.code, dates_of(plan))
        return plan, ()
    person.must_be_allowed(May.REOPEN)
    wide = ledger.without_bars()
    plan = ready(make_plan(wide), wide.books)
    return plan, opened_for(plan, ledger.books.calendar)


def held_because(
    workplace: Workplace, ledger: ClientState, person: Person, plan: Plan
) -> str | None:
    """Why this person may not post the plan but hand it in; None where they may. What was approved of
    theirs counts in nobody's day."""
    today = 0
    if person.rule.above is not None:
        books = ledger.books
        every = proposals_of(workplace.database.reading, ledger.client.id)
        approved = {row.ending.change for row in every if row.ending}
        own = {
            change.number
            for change in books.changes
            if change.by == person.code and change.made_on == workplace.today
        }
        today = sum(moved_by(books.of_change(number)) for number in own - approved)
    own_books = ledger.seen_by(person.code).books
    return why_held(person.rule, person.role, plan, own_books, today)


def openable(ledger: ClientState, person: Person, days: Iterable[date]) -> tuple[Period, ...]:
    """The periods of these days that somebody barred and that this person may have opened."""
    calendar = ledger.books.calendar
    if not person.may(May.REOPEN) or PeriodState.BARRED not in calendar.states.values():
        return ()
    wide = calendar.without_bars()
    barred = {
        calendar.period_of(day)
        for day in days
        if calendar.state_on(day) is PeriodState.BARRED
        and wide.state_on(day) is not PeriodState.BARRED
    }
    return tuple(sorted(barred))


def post(
    workplace: Workplace,
    person: Person,
    client_code: str,
    make_plan: MakePlan,
    post_request: PostRequest,
    *,
    answers: Callable[[ClientState], Iterable[Answered]] | None = None,
    says_why: bool = False,
) -> Posted:
    """Make the plan on the books as they stand and post it, all or nothing. *answers*: the review points
    that it puts right. *says_why*: what the plan proposes is reason enough.

    Raises ChangedMeanwhile where it is not the plan that was shown, NoReason, or what the plan is
    refused for.
    """
    person.must_be_allowed(May.POST)
    if not post_request.reason.strip() and not says_why:
        raise NoReason()
    ledger = workplace.ledger(person, client_code)
    if answers is not None:
        # A first run of all checks is not for the time that others wait for the store.
        _ = ledger.points
    with workplace.database.writing() as connection:
        if post_request.key:
            done = change_store.change_with_key(connection, ledger.client.id, post_request.key)
            if done is not None:
                _refuse_other_request(connection, ledger.client.id, post_request, done)
                return posted_change(workplace, workplace.ledger(person, client_code), done)
        ledger = workplace.ledger(person, client_code)
        if post_request.approves:
            must_wait(workplace, ledger, post_request.approves.number)
        plan, opened = planned(ledger, person, make_plan, opens=post_request.opens)
        why = held_because(workplace, ledger, person, plan)
        if why:
            raise HeldForApproval(why)
        if post_request.shown is not None and post_request.shown != plan.digest:
            raise ChangedMeanwhile(
                "Somebody posted in these books since you looked, and what would be posted now is "
                "not what you were shown. Nothing was posted. Look at the new preview, then post."
            )
        said = replace(post_request, reason=plan.proposed_reason) if says_why else post_request
        answered = tuple(answers(ledger)) if answers else ()
        with _opened(workplace, person, ledger, opened, said.reason):
            number, written = _append(workplace, person, ledger, plan, said, answered)
            if post_request.key:
                change_store.add_request(
                    connection, ledger.client.id, post_request.key, post_request.digest
                )
    # What was written is known: reading all of it again would make a person wait.
    workplace.adopt(ledger, written)
    return posted_change(workplace, workplace.ledger(person, client_code), number)


def _refuse_other_request(
    connection: sqlite3.Connection, client_id: int, post_request: PostRequest, done: int
) -> None:
    kept = change_store.request_of_key(connection, client_id, post_request.key or "")
    if kept is not None and kept != post_request.digest:
        raise KeyUsed(done)


def must_wait(workplace: Workplace, ledger: ClientState, number: int) -> None:
    """Raise ChangedMeanwhile where a proposal was posted, sent back or withdrawn meanwhile."""
    for proposal in proposals_of(workplace.database.reading, ledger.client.id):
        if proposal.number == number and proposal.ending is not None:
            how = proposal.ending.how.replace("-", " ")
            raise ChangedMeanwhile(
                f"It does not wait any more: it was {how} by {proposal.ending.by}."
            )


@contextmanager
def _opened(
    workplace: Workplace,
    person: Person,
    ledger: ClientState,
    periods: tuple[Period, ...],
    reason: str,
) -> Iterator[None]:
    """The barred periods opened for what happens within, and barred again after it. Within the
    caller's write transaction: where the posting fails, they were never opened."""
    _set_all(workplace, person, ledger, periods, PeriodState.OPEN, f"for one posting: {reason}")
    yield
    _set_all(
        workplace, person, ledger, periods, PeriodState.BARRED, "barred again after that posting"
    )


def _set_all(
    workplace: Workplace,
    person: Person,
    ledger: ClientState,
    periods: tuple[Period, ...],
    state: PeriodState,
    reason: str,
) -> None:
    for period in periods:
        period_store.set_state(
            workplace.database.reading,
            ledger.client.id,
            period.first_day,
            state,
            reason=reason,
            made_by=person.code,
            made_at=workplace.now,
        )


def _append(
    workplace: Workplace,
    person: Person,
    ledger: ClientState,
    plan: Plan,
    post_request: PostRequest,
    answered: tuple[Answered, ...],
) -> tuple[int, Posted]:
    connection = workplace.database.reading
    client_id = ledger.client.id
    made_by = post_request.approves.made_by if post_request.approves else person.code
    lasting, names = numbered(ledger.books, plan, next_number=len(ledger.books.changes) + 1)
    stamped = [
        entry._replace(
            entered_at=workplace.now,
            entered_by=made_by,
            reason=entry.reason or post_request.reason.strip(),
        )
        for entry in lasting.entries
    ]
    content = change_store.Content()
    content.add_transactions(stamped, change_store.next_transaction(connection, client_id))
    content.add_allocations(
        lasting.allocations, change_store.next_allocation(connection, client_id)
    )
    rows = _posted_rows(plan, Posting(workplace.now, post_request.reason.strip(), names))
    for name, own in rows.items():
        content.add_kept(name, own)
    content.add_accounts(plan.accounts)
    content.add_parties(plan.parties)
    head = change_store.ChangeHead(
        kind=plan.kind,
        made_by=made_by,
        made_at=workplace.now,
        reason=post_request.reason.strip(),
        route=plan.route,
        point=answered[0].point.id if len(answered) == 1 else None,
        undoes=plan.undoes,
        prior_parts=plan.prior_parts,
        key=post_request.key,
    )
    number = change_store.append(connection, client_id, head, content)
    if post_request.approves:
        end_proposal(
            connection,
            client_id,
            post_request.approves.number,
            "posted",
            remark="",
            change=number,
            made_by=person.code,
            made_at=workplace.now,
        )
    for point, reason in answered:
        end_query_of(workplace, person, ledger, point)
        why = reason or post_request.reason
        record_decision(workplace, person, ledger, point, PointState.CORRECTED, why, number)
    if plan.undoes is not None:
        _reopen_point(workplace, person, ledger, plan.undoes, post_request.reason)
    entries = tuple(entry._replace(change=number) for entry in stamped)
    allocations = tuple(row._replace(change=number) for row in lasting.allocations)
    brought = {
        name: tuple(_brought_by(row_kinds.registry()[name], row, number) for row in own)
        for name, own in rows.items()
    }
    return number, Posted(number, entries, allocations, brought, plan.accounts, plan.parties)


def _posted_rows(plan: Plan, posting: Posting) -> dict[str, tuple[Any, ...]]:
    """The rows of every kind that the plan brings, as they are kept."""
    found = {
        kind.name: tuple(kind.posted(row, posting) for row in plan.of(kind.planned, kind.name))
        for kind in row_kinds.registry().values()
    }
    return {name: rows for name, rows in found.items() if rows}


def _brought_by(kind: RowKind, row: Any, number: int) -> Any:
    return row._replace(change=number) if kind.names_its_change else row


def record_decision(
    workplace: Workplace,
    person: Person,
    ledger: ClientState,
    point: Point,
    state: PointState,
    reason: str,
    change: int | None = None,
) -> None:
    """Write what was decided about a point, within the caller's write transaction."""
    add_decision(
        workplace.database.reading,
        ledger.client.id,
        point=point.id,
        state=state,
        reason=reason.strip(),
        facts=point.facts,
        seen=json.dumps(point._asdict(), ensure_ascii=False),
        change=change,
        made_by=person.code,
        made_at=workplace.now,
    )


def end_query_of(workplace: Workplace, person: Person, ledger: ClientState, point: Point) -> None:
    """Whatever the client was asked about a point is done with once somebody decides it; what was not
    sent yet is withdrawn. Within the caller's write transaction."""
    for query in ledger.queries:
        if query.point == point.id and query.ended is None:
            query_store.end_query(
                workplace.database.reading,
                ledger.client.id,
                query.number,
                query.end,
                person.code,
                workplace.now,
            )


def _reopen_point(
    workplace: Workplace, person: Person, ledger: ClientState, undone: int, reason: str
) -> None:
    for decision in ledger.decisions.values():
        if decision.change == undone and decision.state is PointState.CORRECTED:
            add_decision(
                workplace.database.reading,
                ledger.client.id,
                point=decision.point,
                state=PointState.OPEN,
                reason=f"change {undone} taken back: {reason.strip()}",
                facts=decision.facts,
                seen=decision.seen,
                change=None,
                made_by=person.code,
                made_at=workplace.now,
            )


def posted_change(workplace: Workplace, ledger: ClientState, number: int) -> Posted:
    """A change of the client, read from its books as they stand."""
    tables = ledger.books.tables
    known = ledger.books.parties
    parties = change_store.parties_of_change(workplace.database.reading, ledger.client.id, number)
    return Posted(
        number,
        ledger.books.of_change(number),
        tuple(row for row in tables.allocations if row.change == number),
        {
            kind.name: kind.of_change(ledger.books, number)
            for kind in row_kinds.registry().values()
            if kind.names_its_change
        },
        parties=tuple(known[code] for code in parties if code in known),
    )
