"""Sign-off: what it needs, and who may (handbook, section 9). What it seals: `seal_forms`."""

from collections.abc import Iterable, Iterator
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.checklists import Tick, stated_items
from corkpost.core.dating import materiality
from corkpost.core.formatting import format_date
from corkpost.core.kinds import Role
from corkpost.core.points import Level, Point, PointState
from corkpost.core.refusals import NotAllowed
from corkpost.core.remarks import Remark, waiting
from corkpost.core.tie_outs.agreeing import StatedTieOut, TieOutState, stated_tie_outs
from corkpost.core.trial_balance import Closing, TrialBalance, trial_balance


class Condition(NamedTuple):
    """One thing that sign-off needs. *leads_to*: the page where it is put right."""

    name: str
    met: bool
    says: str
    leads_to: str


class Decided(NamedTuple):
    """A point with the state that it is in. *proposed*: it was left or waived by somebody whose word on a
    sure point waits for a reviewer's."""

    point: Point
    state: PointState
    proposed: bool = False


def sealed_balances(books: Books, as_at: date) -> TrialBalance:
    """The trial balance that a seal is about, kept with it to show what moved underneath."""
    return trial_balance(books, as_at, closing=Closing.OUT)


def conditions(
    books: Books,
    points: Iterable[Decided],
    as_at: date,
    *,
    broken: Iterable[date] = (),
    ticks: Iterable[Tick] = (),
    remarks: Iterable[Remark] = (),
) -> tuple[Condition, ...]:
    """What the sign-off as at *as_at* needs, and where each stands. *broken*: the days of standing seals
    that the books no longer fit; *ticks*: of the checklist; *remarks*: all of the client."""
    found = list(points)
    return (
        _in_balance(books, as_at),
        _points_decided(books, found, as_at),
        _waived_below_materiality(books, found, as_at),
        *_proved(books, as_at),
        *_earlier_whole(as_at, broken),
        _seen_to(books, as_at, ticks),
        *_cleared(remarks),
    )


def _seen_to(books: Books, as_at: date, ticks: Iterable[Tick]) -> Condition:
    """The checklist of the kind of client."""
    items = stated_items(books, as_at, ticks)
    left = [stated.item.says for stated in items if stated.tick is None]
    says = f"{len(items) - len(left)} of {len(items)} seen to."
    if left:
        says += f" Left: {left[0]}" + (f" and {len(left) - 1} more." if left[1:] else ".")
    return Condition("Checklist done", not left, says, "sign-off")


def _cleared(remarks: Iterable[Remark]) -> Iterator[Condition]:
    """What somebody remarked and asked to be cleared; nothing where nobody ever remarked."""
    known = list(remarks)
    left = waiting(known)
    if known:
        says = "Nothing waits."
        if left:
            many = f"{len(left)} wait" if len(left) > 1 else "1 waits"
            says = f"{many} to be cleared: {left[0].text}"
        yield Condition("Remarks cleared", not left, says, "sign-off")


def _earlier_whole(as_at: date, broken: Iterable[date]) -> Iterator[Condition]:
    """What rests on an earlier seal that no longer fits rests on nothing."""
    days = sorted(day for day in broken if day < as_at)
    if days:
        says = (
            f"The sign-off as at {format_date(days[0])} is broken: the books moved underneath. Reopen it, "
            "and sign that day again first."
        )
        yield Condition("Earlier sign-offs whole", False, says, "sign-off")


def _waived_below_materiality(books: Books, points: Iterable[Decided], as_at: date) -> Condition:
    """Unadjusted differences: what was waived, each without its sign, against materiality."""
    waived = [
        decided.point
        for decided in points
        if decided.state is PointState.WAIVED and lies_by(books, decided.point, as_at)
    ]
    total, limit = sum(point.amount for point in waived), materiality(books)
    words = books.client.currency.format_amount
    says = "Nothing was waived."
    if waived:
        many = f"{len(waived)} differences" if len(waived) > 1 else "1 difference"
        says = f"{many} waived, {words(total)} in all; materiality is {words(limit)}."
    return Condition("Unadjusted differences below materiality", total < limit, says, "review")


def _proved(books: Books, as_at: date) -> Iterator[Condition]:
    """The bank, and everything else, proved by figures from outside, each agreed."""
    bank: list[StatedTieOut] = []
    others: list[StatedTieOut] = []
    for stated in stated_tie_outs(books, as_at):
        (bank if stated.tie_out.kind == "bank" else others).append(stated)
    for name, rows in (("Bank proved", bank), ("Every tie-out agreed", others)):
        waiting = [stated for stated in rows if stated.state is not TieOutState.AGREED]
        fallen = sum(stated.state is TieOutState.FALLEN for stated in waiting)
        if not rows:
            says = "There is no bank account to prove." if rows is bank else "Nothing is to prove."
        elif not waiting:
            says = f"{len(rows)} agreed." if len(rows) > 1 else f"{rows[0].tie_out.title}: agreed."
        elif len(waiting) == 1:
            lacks = waiting[0].tie_out.lacks or "it is not agreed."
            says = f"{waiting[0].tie_out.title}: {lacks}"
        else:
            names = ", ".join(stated.tie_out.title for stated in waiting[:3])
            more = f" and {len(waiting) - 3} more" if len(waiting) > 3 else ""
            says = f"{len(waiting)} of {len(rows)} not agreed: {names}{more}."
        if fallen:
            says += f" {fallen} fell open since." if len(waiting) > 1 else " It fell open since."
        yield Condition(name, not waiting, says, "tie-outs")


def lies_by(books: Books, point: Point, as_at: date) -> bool:
    """Whether anything that the point speaks of is dated by *as_at*; one that speaks of no entry lies
    everywhere."""
    if not point.transactions:
        return True
    return any(books.transactions[name].posting_date <= as_at for name in point.transactions)


def _in_balance(books: Books, as_at: date) -> Condition:
    balance = sealed_balances(books, as_at)
    difference = balance.debits + balance.credits
    words = books.client.currency.format_amount
    says = (
        f"Debits and credits are {words(balance.debits)} each."
        if not difference
        else f"Debits and credits differ by {words(difference)}."
    )
    return Condition("Trial balance in balance", not difference, says, "worksheet")


def _points_decided(books: Books, points: Iterable[Decided], as_at: date) -> Condition:
    waiting = [
        decided
        for decided in points
        if decided.point.level is Level.SURE
        and (decided.state in (PointState.OPEN, PointState.ASKED) or decided.proposed)
        and lies_by(books, decided.point, as_at)
    ]
    proposed = sum(decided.proposed for decided in waiting)
    waiting = [decided for decided in waiting if not decided.proposed]
    asked = sum(decided.state is PointState.ASKED for decided in waiting)
    says = "No sure point is left undecided."
    if waiting:
        only = f", {asked} of them asked and not answered" if asked else ""
        many = "sure points are" if len(waiting) > 1 else "sure point is"
        says = f"{len(waiting)} {many} left undecided{only}."
    if proposed:
        were = "sure points were" if proposed > 1 else "sure point was"
        of_them = f"{proposed} {were} left or waived by a preparer: a reviewer confirms it."
        says = f"{says} {of_them}" if waiting else of_them
    return Condition("Sure points decided", not waiting and not proposed, says, "review")


def refuse_signer(
    books: Books, signer: str, role: Role, as_at: date, *, second_person: bool
) -> None:
    """Raise NotAllowed unless *signer* may sign: a reviewer or partner who posted no change in it, and
    brought no rows into it with newer books.

    *second_person* off is for a practice of one.
    """
    if role is Role.PREPARER:
        raise NotAllowed(
            "A reviewer or partner signs the trial balance off. Tell one of them that it is ready."
        )
    year = books.calendar.year_of(as_at)
    span = (year.first_day, as_at)
    own = [change for change in books.changes if change.by == signer]
    posted = [change.number for change in own if _touches(books, change.number, *span)]
    brought = [change.number for change in own if _brought_into(books, change.number, *span)]
    if second_person and (posted or brought):
        names = ", ".join(map(str, posted or brought))
        does = f"posted change {names} in" if posted else f"brought rows (change {names}) into"
        raise NotAllowed(
            f"You {does} this trial balance, so somebody else has to sign it: another reviewer or a "
            "partner."
        )


def _brought_into(books: Books, number: int, first_day: date, last_day: date) -> bool:
    """Whether newer books that came as that change brought a row that is dated in the span."""
    return any(
        first_day <= books.transactions[name].posting_date <= last_day
        for name, arrived in books.arrived.items()
        if arrived == number and name in books.transactions
    )


def _touches(books: Books, number: int, first_day: date, last_day: date) -> bool:
    days = [posted.posting_date for posted in books.of_change(number)]
    days += [row.date for row in books.tables.allocations if row.change == number]
    return any(first_day <= day <= last_day for day in days)
