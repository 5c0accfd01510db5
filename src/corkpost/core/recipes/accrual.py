"""A cost of the span that is not billed yet, or income earned and not invoiced; and its mirror (worked
example 7)."""

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.periods import ONE_DAY
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told


def _make(books: Books, told: Told) -> Made:
    on, amount = told.day("date"), told.amount("amount")
    account = books.account(told.code("account"))
    sign = -1 if account.type is AccountType.INCOME else 1
    reason = f"{account.name} to {on:%-d %B %Y}, not billed yet."
    period = books.calendar.period_of(on)
    request = adjusting(
        on,
        reason,
        EntryLine(account.code, sign * amount),
        EntryLine(told.code("counter"), -sign * amount, party=told.maybe_code("party")),
        reverse_on=told.day_or("reverse_on", period.last_day + ONE_DAY),
    )
    return Made((request,), reason)


RECIPE = Recipe(
    "accrual",
    1,
    "Accrual",
    "A cost of the span that is not billed yet. Its mirror follows on the first day of the next period.",
    (
        Ask("amount", AskKind.AMOUNT, "Amount, net of tax", needed=True),
        Ask("account", AskKind.ACCOUNT, "Cost, or income, that it belongs to", needed=True),
        Ask("date", AskKind.DAY, "On the day", needed=True),
        Ask("reverse_on", AskKind.DAY, "Reverses on: the first day of the next period, or none"),
        Ask(
            "counter",
            AskKind.ACCOUNT,
            "Account of accruals",
            needed=True,
            roles=(AccountRole.ACCRUAL,),
        ),
        Ask("party", AskKind.PARTY, "Whom it will be owed to"),
    ),
    _make,
)
