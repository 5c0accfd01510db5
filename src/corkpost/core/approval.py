"""Whose postings wait for another's approval: by what they are, by their sum, by their period."""

from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.change import ChangeKind, Plan, dates_of
from corkpost.core.formatting import format_date
from corkpost.core.kinds import PeriodState, Role, TransactionKind
from corkpost.core.refusals import Lift, Refusal


class ApprovalRule(NamedTuple):
    """*journals*: every entry that they write themselves waits. *above*: so does whatever moves more,
    in whole units of the client's currency; None: no limit."""

    journals: bool = False
    above: int | None = None


class HeldForApproval(Refusal):
    title = "It waits for approval"
    lift = Lift("What waits, and what was sent back, is on the Entries page", page="entries")


def is_journal(plan: Plan, books: Books) -> bool:
    """Whether a person wrote it line by line or by a recipe, rather than choosing a route with lines of its
    own; or it takes such an entry back, which is for whoever might have posted it."""
    # A route may take entries back too: what a mirror takes back counts, whichever way it came.
    back = {
        books.transactions[entry.reverses].change
        for entry in plan.entries
        if entry.reverses and entry.reverses in books.transactions
    } | {plan.undoes}
    written = [(c.kind, c.route) for c in books.changes if c.number in back]
    if plan.undoes is None or not written:
        written.append((str(plan.kind), plan.route))
    return any(
        (kind == ChangeKind.ENTRY and (route is None or route.startswith("recipe-")))
        or route in ("adjust", "recode")
        for kind, route in written
    )


def why_held(rule: ApprovalRule, role: Role, plan: Plan, books: Books) -> str | None:
    """Why the plan may not be posted by this person but handed in for approval; None where it may."""
    if role is Role.PREPARER:
        if any(entry.kind is TransactionKind.CLOSING for entry in plan.entries):
            return "A reviewer or partner closes a year. Hand it in, and one of them looks at it."
        for day in dates_of(plan):
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
    moves = max((entry.total for entry in plan.entries), default=0)
    currency = books.client.currency
    if rule.above is not None and moves > currency.parse(str(rule.above)):
        limit = currency.format_amount(currency.parse(str(rule.above)))
        return (
            f"It moves {currency.format_amount(moves)}; what you post above {limit} waits for a "
            "reviewer or "
            "partner. Hand it in, and one of them looks at it."
        )
    return None
