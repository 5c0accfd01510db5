"""adjust: an adjusting entry, filled in as far as the facts go; what is left open is asked for."""

import json
from dataclasses import replace
from datetime import date
from typing import Any

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books, Line, PriorPart, Transaction
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import Dated, dated, profit_part, through_kept_profit
from corkpost.core.entries import EntryLine, EntryRequest, plan_entry
from corkpost.core.formatting import format_date
from corkpost.core.keying import keyed_amount
from corkpost.core.kinds import EntryKind, PeriodState, TransactionKind
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "adjust",
    did="An entry of ours puts the figure right.",
    means="Leave our entry as it is; nothing more is to be entered for it.",
)


INTEREST = Ask("interest", AskKind.AMOUNT, "Interest in it, by the lender's statement")
PLACE = Ask("account", AskKind.PLACE, "Where it belongs")


def options(books: Books, point: Point) -> tuple[Option, ...]:
    if not point.hint("lines"):
        return ()
    reason = point.hint("reason") or point.summary
    settings: dict[str, str] = {}
    asks: list[Ask] = []
    if point.hint("recipe") == "loan":
        settings["interest"] = ""
        asks.append(INTEREST)
    if point.hint("asks"):
        settings["account"] = point.hint("account")
        asks.append(PLACE)
    title = point.hint("title") or "Post the adjusting entry"
    return (Option(ROUTE.id, settings, title, reason, asks=tuple(asks)),)


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """The entry that the check worked out; `account` where it leaves one open, `date` to move it, for
    a loan's instalments `interest`: how much of them is.

    An entry that reverses by itself stands on its own day with its mirror; where that day is barred,
    and for every other, the rules for corrections say on which day and account.
    Raises BadEntry where an account, or the interest, is still missing.
    """
    lines = _lines(books, point, settings)
    on = _day(settings.get("date") or point.hint("date"))
    reverse_on = _day(point.hint("reverse_on")) if point.hint("reverse_on") else None
    if reverse_on and books.calendar.state_on(on) is not PeriodState.BARRED:
        day_is = f"dated {format_date(on)}, where it belongs: that period is open"
        mirrored = books.calendar.first_open_day(reverse_on)
        correction = Dated(on, lines, (day_is,))
    elif point.hint("prior"):
        correction = through_kept_profit(
            books, on, lines, PriorPart(*json.loads(point.hint("prior")))
        )
        mirrored = None
    else:
        as_of = Transaction("", TransactionKind.JOURNAL, on, ())
        choice = profit_part(settings)
        correction = dated(books, as_of, lines, choice, day_is="the day that it belongs on")
        mirrored = None
    made = _entry(point, books, correction, mirrored)
    first, *others = made.entries
    answered = first._replace(corrects=point.hint("answers") or None)
    # All that the entry moves stands in the T-accounts, or their balances would mislead.
    about = tuple(filter(None, point.hint("about").split(","))) or point.transactions[:4]
    return replace(
        made,
        route=ROUTE.id,
        about=about,
        entries=(answered, *others),
        notes=(*correction.notes, *made.notes),
        prior_parts=correction.prior_parts,
    )


def _lines(books: Books, point: Point, settings: Settings) -> tuple[Line, ...]:
    rows: list[Any] = json.loads(point.hint("lines") or "[]")
    if point.hint("recipe") == "loan":
        rows = _with_interest(books, point, rows, settings)
    if not rows:
        raise BadEntry(["Nothing is worked out here: write the entry by hand."])
    lines = []
    for account, amount, party in rows:
        code = account or settings.get("account") or point.hint("account")
        if not code:
            raise BadEntry(["Choose the account that the other side belongs on."])
        lines.append(Line(0, books.account(code).code, amount, party or None))
    return tuple(lines)


def _entry(point: Point, books: Books, correction: Dated, mirrored: date | None) -> Plan:
    kind = EntryKind(point.hint("kind") or EntryKind.ADJUSTING)
    reason = point.hint("reason") or point.summary
    if point.hint("recipe") == "stock":
        return _counted(kind, reason, correction)
    lines = tuple(
        EntryLine(x.account, x.amount, party=x.party, description=x.description)
        for x in correction.lines
    )
    request = EntryRequest(kind, correction.posting_date, reason, lines, mirrored)
    return plan_entry(books, request)


def _with_interest(books: Books, point: Point, rows: list[Any], settings: Settings) -> list[Any]:
    """The interest of the instalments leaves the loan, for the account of interest."""
    keyed = settings.get("interest", "").strip()
    if not keyed:
        raise BadEntry(
            [
                "Say how much of the instalments is interest: the lender's statement of the year does."
            ]
        )
    interest = keyed_amount(keyed, books.client.currency)
    most = int(point.hint("most"))
    if not 0 <= interest < most or (not interest and not rows):
        raise BadEntry(
            [
                f"The interest is part of {books.client.currency.format_amount(most)}, and no "
                "less than nil."
            ]
        )
    if not interest:
        return rows
    return [
        *rows,
        [point.hint("interest"), interest, None],
        [point.hint("loan"), -interest, None],
    ]


def _counted(kind: EntryKind, reason: str, correction: Dated) -> Plan:
    """Stock moves by this recipe alone: what was counted, against the cost of what was sold."""
    entry = entry_of(new_entry(1), correction.posting_date, kind)
    lines = tuple(line._replace(number=n) for n, line in enumerate(correction.lines, 1))
    return Plan(
        kind=ChangeKind.ENTRY,
        entries=(entry._replace(lines=lines, memo=reason),),
        allocations=(),
        proposed_reason=reason,
        counts_stock=True,
    )


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadEntry(["Say on which day: write it as 2026-10-31."]) from None
