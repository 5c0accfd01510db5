"""adjust: an adjusting entry, filled in as far as the facts go; what is left open is asked for."""

import json
from dataclasses import replace
from datetime import date
from typing import Any

from corkpost.core.books import Books, Line
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.entries import EntryLine, EntryRequest, plan_entry
from corkpost.core.keying import keyed_amount
from corkpost.core.kinds import EntryKind
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "adjust",
    did="An entry of ours puts the figure right.",
    means="Leave our entry as it is; nothing more is to be entered for it.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    if not point.hint("lines"):
        return ()
    reason = point.hint("reason") or point.summary
    settings = {"interest": ""} if point.hint("recipe") == "loan" else {}
    return (Option(ROUTE.id, settings, point.hint("title") or "Post the adjusting entry", reason),)


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """The entry that the check worked out; `account` where it leaves one open, `date` to move it, for
    a loan's instalments `interest`: how much of them is.

    Raises BadEntry where an account, or the interest, is still missing.
    """
    rows: list[Any] = json.loads(point.hint("lines") or "[]")
    if point.hint("recipe") == "loan":
        rows = _with_interest(books, point, rows, settings)
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
    # All that the entry moves stands in the T-accounts, or their balances would mislead.
    about = tuple(filter(None, point.hint("about").split(","))) or point.transactions[:4]
    return replace(made, route=ROUTE.id, about=about, entries=(answered, *others))


def _with_interest(books: Books, point: Point, rows: list[Any], settings: Settings) -> list[Any]:
    """The interest of the instalments leaves the loan, for the account of interest."""
    said = settings.get("interest", "").strip()
    if not said:
        raise BadEntry(
            [
                "Say how much of the instalments is interest: the lender's statement of the year does."
            ]
        )
    interest = keyed_amount(said, books.client.currency)
    most = int(point.hint("most"))
    if not 0 <= interest < most or (not interest and not rows):
        raise BadEntry(
            [f"The interest is part of {books.client.currency.words(most)}, and no less than nil."]
        )
    if not interest:
        return rows
    return [
        *rows,
        [point.hint("interest"), interest, None],
        [point.hint("loan"), -interest, None],
    ]


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
