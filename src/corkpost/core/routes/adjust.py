"""adjust: an adjusting entry, filled in as far as the facts go; what is left open is asked for."""

import json
from dataclasses import replace
from datetime import date
from typing import Any

from corkpost.core.books import Books, Line
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.entries import EntryLine, EntryRequest, plan_entry
from corkpost.core.kinds import EntryKind
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route("adjust")


def options(books: Books, point: Point) -> tuple[Option, ...]:
    if not point.hint("lines"):
        return ()
    reason = point.hint("reason") or point.summary
    return (Option(ROUTE.id, {}, point.hint("title") or "Post the adjusting entry", reason),)


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """The entry that the check worked out; `account` where it leaves one open, `date` to move it.

    Raises BadEntry where an account is still missing.
    """
    rows: list[Any] = json.loads(point.hint("lines") or "[]")
    if not rows:
        raise BadEntry(["Nothing is worked out here: write the entry by hand."])
    lines = []
    for account, amount, party in rows:
        code = account or settings.get("account", "")
        if not code:
            raise BadEntry(["Choose the account that the other side belongs on."])
        lines.append(EntryLine(code, amount, party=party or None))
    request = EntryRequest(
        EntryKind.ADJUSTING,
        _day(settings.get("date") or point.hint("date")),
        point.hint("reason") or point.summary,
        tuple(lines),
        _day(point.hint("reverse_on")) if point.hint("reverse_on") else None,
    )
    made = _counted(request) if point.hint("recipe") == "stock" else plan_entry(books, request)
    first, *others = made.entries
    answered = first._replace(corrects=point.hint("answers") or None)
    return replace(made, route=ROUTE.id, about=point.transactions[:4], entries=(answered, *others))


def _counted(request: EntryRequest) -> Plan:
    """Stock moves by this recipe alone: what was counted, against the cost of what was sold."""
    entry = entry_of(new_entry(1), request.posting_date, request.kind)
    lines = tuple(Line(n, x.account, x.amount) for n, x in enumerate(request.lines, 1))
    return Plan(
        kind=ChangeKind.ENTRY,
        entries=(entry._replace(lines=lines, memo=request.reason),),
        allocations=(),
        proposed_reason=request.reason,
    )


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadEntry(["Say on which day: write it as 2026-10-31."]) from None
