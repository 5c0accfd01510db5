"""adjust: an adjusting entry, filled in as far as the facts go; what is left open is asked for."""

from dataclasses import replace
from datetime import date

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books, Line, Transaction
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import Dated, dated, profit_part, through_kept_profit
from corkpost.core.entries import EntryLine, EntryRequest, plan_entry
from corkpost.core.formatting import format_date
from corkpost.core.keying import keyed_amount
from corkpost.core.kinds import PeriodState, TransactionKind
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry
from corkpost.core.remedies import DraftEntry, LoanSplit, Side, draft_of
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "adjust",
    did="An entry of ours puts the figure right.",
    means="Leave our entry as it is; nothing more is to be entered for it.",
)


INTEREST = Ask("interest", AskKind.AMOUNT, "Interest in it, by the lender's statement")
PLACE = Ask("account", AskKind.PLACE, "Where it belongs")


def options(books: Books, point: Point) -> tuple[Option, ...]:
    draft = draft_of(point)
    if draft is None:
        return ()
    settings: dict[str, str] = {}
    asks: list[Ask] = []
    if draft.loan:
        settings["interest"] = ""
        asks.append(INTEREST)
    if draft.asks:
        settings["account"] = draft.account
        asks.append(PLACE)
    return (Option(ROUTE.id, settings, draft.title, draft.reason, asks=tuple(asks)),)


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """The entry that the check worked out; `account` where it leaves one open, `date` to move it, for
    a loan's instalments `interest`: how much of them is.

    An entry that reverses by itself stands on its own day with its mirror; where that day is barred,
    and for every other, the rules for corrections say on which day and account.
    Raises BadEntry where an account, or the interest, is still missing.
    """
    draft = draft_of(point)
    if draft is None:
        raise BadEntry(["Nothing is worked out here: write the entry by hand."])
    lines = _lines(books, draft, settings)
    on = _day(settings["date"]) if settings.get("date") else draft.on
    if draft.reverse_on and books.calendar.state_on(on) is not PeriodState.BARRED:
        day_is = f"dated {format_date(on)}, where it belongs: that period is open"
        mirrored = books.calendar.first_open_day(draft.reverse_on)
        correction = Dated(on, lines, (day_is,))
    elif draft.prior:
        correction = through_kept_profit(books, on, lines, draft.prior)
        mirrored = None
    else:
        as_of = Transaction("", TransactionKind.JOURNAL, on, ())
        choice = profit_part(settings)
        correction = dated(books, as_of, lines, choice, day_is="the day that it belongs on")
        mirrored = None
    made = _entry(draft, books, correction, mirrored)
    first, *others = made.entries
    answered = first._replace(corrects=draft.answers or None)
    # All that the entry moves stands in the T-accounts, or their balances would mislead.
    about = draft.about or point.transactions[:4]
    return replace(
        made,
        route=ROUTE.id,
        about=about,
        entries=(answered, *others),
        notes=(*correction.notes, *made.notes),
        prior_parts=correction.prior_parts,
    )


def _lines(books: Books, draft: DraftEntry, settings: Settings) -> tuple[Line, ...]:
    sides = draft.sides
    if draft.loan:
        sides = (*sides, *_interest(books, draft.loan, settings, alone=not sides))
    lines = []
    for side in sides:
        code = side.account or settings.get("account") or draft.account
        if not code:
            raise BadEntry(["Choose the account that the other side belongs on."])
        lines.append(Line(0, books.account(code).code, side.amount, side.party))
    return tuple(lines)


def _entry(draft: DraftEntry, books: Books, correction: Dated, mirrored: date | None) -> Plan:
    if draft.counts_stock:
        return _counted(draft, correction)
    lines = tuple(
        EntryLine(x.account, x.amount, party=x.party, description=x.description)
        for x in correction.lines
    )
    request = EntryRequest(draft.kind, correction.posting_date, draft.reason, lines, mirrored)
    return plan_entry(books, request)


def _interest(
    books: Books, loan: LoanSplit, settings: Settings, *, alone: bool
) -> tuple[Side, ...]:
    """The interest of the instalments leaves the loan, for the account of interest. *alone*: nothing else
    is moved, so that there has to be some."""
    keyed = settings.get("interest", "").strip()
    if not keyed:
        raise BadEntry(
            [
                "Say how much of the instalments is interest: the lender's statement of the year does."
            ]
        )
    interest = keyed_amount(keyed, books.client.currency)
    if not 0 <= interest < loan.most or (not interest and alone):
        raise BadEntry(
            [
                f"The interest is part of {books.client.currency.format_amount(loan.most)}, and no "
                "less than nil."
            ]
        )
    if not interest:
        return ()
    return (Side(loan.interest, interest), Side(loan.loan, -interest))


def _counted(draft: DraftEntry, correction: Dated) -> Plan:
    """Stock moves by this recipe alone: what was counted, against the cost of what was sold."""
    entry = entry_of(new_entry(1), correction.posting_date, draft.kind)
    lines = tuple(line._replace(number=n) for n, line in enumerate(correction.lines, 1))
    return Plan(
        kind=ChangeKind.ENTRY,
        entries=(entry._replace(lines=lines, memo=draft.reason),),
        allocations=(),
        proposed_reason=draft.reason,
        counts_stock=True,
    )


def _day(text: str) -> date:
    try:
        return date.fromisoformat(text)
    except ValueError:
        raise BadEntry(["Say on which day: write it as 2026-10-31."]) from None
