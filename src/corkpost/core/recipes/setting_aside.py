"""What prepayment and deferred income share: a sum set aside for the days that it belongs to."""

from collections.abc import Mapping
from typing import Any

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine
from corkpost.core.kinds import AccountRole
from corkpost.core.periods import ONE_DAY
from corkpost.core.recipes.recipe import Made, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.row_kinds.schedules import Schedule
from corkpost.core.schedules import Spread, next_schedule


def asks(role: AccountRole, counter: str, account: str) -> tuple[Ask, ...]:
    """What both are told; *counter*, *account*: the labels of the two accounts."""
    return (
        Ask("amount", AskKind.AMOUNT, "Amount, net of tax", needed=True),
        Ask("account", AskKind.ACCOUNT, account, needed=True),
        Ask("from", AskKind.DAY, "First day that it is for", needed=True),
        Ask("to", AskKind.DAY, "Last day that it is for", needed=True),
        Ask("date", AskKind.DAY, "On the day", needed=True),
        Ask(
            "style",
            AskKind.CHOICE,
            "How",
            "cut-off",
            (
                Choice("cut-off", "the part after the day, back on the next"),
                Choice("spread", "all of it, a part released each month's end"),
            ),
        ),
        Ask(
            "by",
            AskKind.CHOICE,
            "Shared by",
            "days",
            (Choice("days", "days"), Choice("months", "months")),
        ),
        Ask("counter", AskKind.ACCOUNT, counter, needed=True, roles=(role,)),
        Ask("party", AskKind.PARTY, "Of whom"),
    )


def set_aside(books: Books, told: Told, recipe: str, sign: int, what: str) -> Made:
    """*sign*: 1 where the account set aside to is debited. Raises BadEntry for days out of order."""
    first, last, on = told.day("from"), told.day("to"), told.day("date")
    if last < first:
        raise BadEntry(["to: the last day that it is for comes before the first."])
    amount = told.amount("amount")
    spread = Spread(amount, first, last, told.text("by") == "days")
    account, counter = told.code("account"), told.code("counter")
    name = books.account(account).name
    words = books.client.currency.format_amount
    party = told.maybe_code("party")
    whole = spread.whole()
    unit = told.text("by") if whole > 1 else told.text("by").removesuffix("s")
    counted = f"{words(amount)} over {whole} {unit} from {first:%-d %B %Y} to {last:%-d %B %Y}"
    if told.text("style") == "cut-off":
        part = amount - spread.until(on)
        if not part:
            return Made((), f"Nothing of it is for the days after {on:%-d %B %Y}.")
        reason = f"{name}: {what} after {on:%-d %B %Y}."
        request = adjusting(
            on,
            reason,
            EntryLine(counter, sign * part, party=party),
            EntryLine(account, -sign * part),
            reverse_on=on + ONE_DAY,
        )
        return Made((request,), reason, (f"{counted}: {words(part)} after the day",))
    steps = spread.steps(on)
    reason = f"{name}: {what}, released month by month."
    request = adjusting(
        on,
        reason,
        EntryLine(counter, sign * amount, party=party),
        EntryLine(account, -sign * amount),
    )
    debit, credit = (account, counter) if sign > 0 else (counter, account)
    schedule = Schedule(
        next_schedule(books, recipe), recipe, f"{name}, {what}", debit, credit, steps, party
    )
    rows: Mapping[str, tuple[Any, ...]] = {"schedules": (schedule,)}
    return Made((request,), reason, (counted,), steps, rows)
