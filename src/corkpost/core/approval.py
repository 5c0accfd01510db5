"""Whose postings wait for another's approval: by what they are, by their sum, by their period."""

from collections.abc import Iterable
from typing import NamedTuple

from corkpost.core.bank.dating import agreement_days
from corkpost.core.books import Books, Transaction
from corkpost.core.change import ChangeKind, Plan, dates_of
from corkpost.core.formatting import format_date
from corkpost.core.kinds import PeriodState, Role, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.refusals import Lift, Refusal


class ApprovalRule(NamedTuple):
    """*journals*: every entry that they write themselves waits. *above*: so does whatever moves more, with
    what they posted in the client's books that day, in whole units of its currency; None: no limit."""

    journals: bool = False
    above: int | None = None


class HeldForApproval(Refusal):
    title = "It waits for approval"
    lift = Lift("What waits, and what was sent back, is on the Entries page", page="entries")


WRITTEN = frozenset({"adjust", "recode", "own-pocket", "takings", "share-profit", "write-off"})
"""Routes and ways whose lines a person says."""


def is_journal(plan: Plan, books: Books) -> bool:
    """Whether a person wrote it line by line, by a recipe or by hand, rather than choosing a route for what
    a check found; or it takes such an entry back, which is for whoever might have posted it."""
    # A route may take entries back too: what a mirror takes back counts, whichever way it came.
    back = {
        books.transactions[entry.reverses].change
        for entry in plan.entries
        if entry.reverses and entry.reverses in books.transactions
    } | {plan.undoes}
    written = [(c.kind, c.route) for c in books.changes if c.number in back]
    if plan.undoes is None or not written:
        written.append((str(plan.kind), plan.route))
    return (plan.by_hand and bool(plan.entries)) or any(
        (kind == ChangeKind.ENTRY and (route is None or route.startswith("recipe-")))
        or route in WRITTEN
        for kind, route in written
    )


def moved_by(entries: Iterable[Transaction]) -> Minor:
    """What entries move together; a mirror beside its entry moves nothing more."""
    found = tuple(entries)
    here = {entry.id for entry in found}
    return sum(entry.total for entry in found if entry.reverses not in here)


def why_held(
    rule: ApprovalRule, role: Role, plan: Plan, books: Books, posted_today: Minor = 0
) -> str | None:
    """Why the plan may not be posted by this person but handed in for approval; None where it may.
    *posted_today*: what they moved in these books that day, without anybody's approval."""
    if role is Role.PREPARER:
        if any(entry.kind is TransactionKind.CLOSING for entry in plan.entries):
            return "A reviewer or partner closes a year. Hand it in, and one of them looks at it."
        for day in (*dates_of(plan), *agreement_days(plan, books)):
            if books.calendar.state_on(day) is PeriodState.HELD:
                return (
                    f"{format_date(day)} is in a held period: a reviewer or partner posts there. "
                    "Hand it in, and one of them looks at it."
                )
    if rule.journals and is_journal(plan, books):
        return (
            "You write drafts: a reviewer or partner looks at each entry that you write and posts "
            "it. Hand it in when it is as you mean it."
        )
    if rule.above is None:
        return None
    currency = books.client.currency
    moves, most = moved_by(plan.entries), currency.parse(str(rule.above))
    if not plan.entries or moves + posted_today <= most:
        return None
    before = f", {currency.format_amount(posted_today)} before it today" if posted_today else ""
    return (
        f"It moves {currency.format_amount(moves)}{before}; what you post above "
        f"{currency.format_amount(most)} a day waits for a reviewer or partner. Hand it in, and one of "
        "them looks at it."
    )
