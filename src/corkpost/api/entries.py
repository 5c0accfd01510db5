"""The accountant's entries as they are keyed, drafts, the record of changes."""

import json as plain_json
from collections.abc import Callable

from flask import Blueprint

from corkpost.api.security import person, workplace
from corkpost.api.spec import DONE, Asked, Day, Done, answers
from corkpost.api.views import PreviewAnswer, period_name, preview_of
from corkpost.core.books import Books
from corkpost.core.periods import ONE_DAY
from corkpost.core.refusals import BadEntry
from corkpost.formats.composed import ComposedEntry, ReadLine
from corkpost.formats.shape import Shape
from corkpost.services import entries as service
from corkpost.services import overview
from corkpost.services.approvals import approvers_of
from corkpost.services.entries import Composed

bp = Blueprint("entries", __name__)
LARGEST_DRAFT = 200_000
DEEPEST_DRAFT = 8


class EntryCompose(Asked):
    """*near*: the day that short forms of days are read by. *at*: where the effect is read; the end
    of the entry's period unless given."""

    entry: ComposedEntry
    near: Day
    opens: bool = False
    at: Day | None = None


class ComposedLineAnswer(Shape):
    """What was keyed, worked out: none where nothing was, or nothing that can be read."""

    debit: str | None
    credit: str | None
    faults: list[str]


class ComposedAnswer(Shape):
    """*makes_item*: it makes an open item of a party, which has a paper and a due day. *difference*: what
    debits exceed credits by; below nil where credits do. *preview*: once nothing is missing; *refused*:
    why it can't be posted as it stands. *openable*: barred periods of its days that this person may have
    opened for it alone."""

    date: Day | None
    reverse_on: Day | None
    document_date: Day | None
    due_date: Day | None
    makes_item: bool
    period: str | None
    state: str | None
    next_period: Day | None
    lines: list[ComposedLineAnswer]
    debits: str
    credits: str
    difference: str
    faults: list[str]
    preview: PreviewAnswer | None
    refused: str | None
    openable: list[str]


class DraftBody(Asked):
    """*content*: the composer's fields as they were keyed, however unfinished."""

    content: dict[str, object]


class DraftAnswer(Shape):
    id: str
    content: dict[str, object]
    made_by: str
    made_at: str


class DraftsAnswer(Shape):
    drafts: list[DraftAnswer]


class DraftKept(Shape):
    id: str


class ChangeRowAnswer(Shape):
    """*kind*: import, correction, entry or undo. *undone_by*: the change that took it back. *approved_by*:
    who approved it, where it was handed in."""

    number: int
    kind: str
    made_by: str
    made_at: str
    reason: str
    route: str | None
    point: str | None
    undoes: int | None
    undone_by: int | None
    approved_by: str | None
    digest: str


class ChangesAnswer(Shape):
    changes: list[ChangeRowAnswer]


@bp.post("/clients/<client>/entries/reading")
@answers(ComposedAnswer, "entries")
def reading(client: str, json: EntryCompose) -> ComposedAnswer:
    """What has been keyed so far comes to and, once it is whole, would post and move."""
    composed = service.compose(
        workplace(), person(), client, json.entry, json.near, json.at, opens=json.opens
    )
    books = overview.chart(workplace(), person(), client)
    makes_item = any(line.account in books.control_accounts for line in json.entry.lines)
    return _composed(composed, books, makes_item=makes_item)


def _composed(found: Composed, books: Books, *, makes_item: bool) -> ComposedAnswer:
    money, read, shown = books.client.currency.format, found.read, found.preview
    period = books.calendar.period_of(read.date) if read.date else None
    return ComposedAnswer(
        date=read.date,
        reverse_on=read.reverse_on,
        document_date=read.document_date,
        due_date=read.due_date,
        makes_item=makes_item,
        period=f"{period.last_day:%B %Y}" if period else None,
        state=books.calendar.state_on(read.date) if read.date else None,
        next_period=period.last_day + ONE_DAY if period else None,
        lines=[_composed_line(line, money) for line in read.lines],
        debits=money(read.debits),
        credits=money(read.credits),
        difference=money(read.debits - read.credits),
        faults=list(read.faults),
        preview=preview_of(shown, books) if shown else None,
        refused=found.refused,
        openable=[period_name(period) for period in found.openable],
    )


def _composed_line(line: ReadLine, money: Callable[[int], str]) -> ComposedLineAnswer:
    amount = line.amount or 0
    return ComposedLineAnswer(
        debit=money(amount) if amount > 0 else None,
        credit=money(-amount) if amount < 0 else None,
        faults=list(line.faults),
    )


@bp.get("/clients/<client>/drafts")
@answers(DraftsAnswer, "entries")
def drafts(client: str) -> DraftsAnswer:
    """Unfinished entries: nothing of them counts anywhere."""
    return DraftsAnswer(
        drafts=[
            DraftAnswer(
                id=row.id,
                content=plain_json.loads(row.content),
                made_by=row.made_by,
                made_at=row.made_at,
            )
            for row in service.drafts(workplace(), person(), client)
        ]
    )


def _depth(content: object) -> int:
    """How many lists and objects lie within each other."""
    deepest, waiting = 0, [(content, 1)]
    while waiting:
        one, depth = waiting.pop()
        inner = one.values() if isinstance(one, dict) else one if isinstance(one, list) else ()
        deepest = max(deepest, depth)
        waiting += [(part, depth + 1) for part in inner]
    return deepest


@bp.put("/clients/<client>/drafts/<draft>")
@answers(DraftKept, "entries")
def keep_draft(client: str, draft: str, json: DraftBody) -> DraftKept:
    """Keep an unfinished entry as it was keyed."""
    if len(plain_json.dumps(json.content)) > LARGEST_DRAFT or not draft.isalnum():
        raise BadEntry(["The draft is too long to keep. Post it in parts."])
    if _depth(json.content) > DEEPEST_DRAFT:
        raise BadEntry(["A draft is an entry with its lines: this is nested too deeply to be one."])
    return DraftKept(id=service.keep_draft(workplace(), person(), client, json.content, draft[:32]))


@bp.delete("/clients/<client>/drafts/<draft>")
@answers(Done, "entries")
def drop_draft(client: str, draft: str) -> Done:
    """Drop a draft."""
    service.drop_draft(workplace(), person(), client, draft)
    return DONE


@bp.get("/clients/<client>/changes")
@answers(ChangesAnswer, "entries")
def changes(client: str) -> ChangesAnswer:
    """The record of changes, imports included, the latest first."""
    rows = service.change_log(workplace(), person(), client)
    undone = {row.undoes: row.number for row in rows if row.undoes is not None}
    approved = approvers_of(workplace(), workplace().ledger(person(), client))
    return ChangesAnswer(
        changes=[
            ChangeRowAnswer(
                number=row.number,
                kind=row.kind,
                made_by=row.made_by,
                made_at=row.made_at,
                reason=row.reason,
                route=row.route,
                point=row.point,
                undoes=row.undoes,
                undone_by=undone.get(row.number),
                approved_by=approved.get(row.number),
                digest=row.digest,
            )
            for row in reversed(rows)
        ]
    )
