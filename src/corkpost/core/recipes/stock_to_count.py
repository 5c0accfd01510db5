"""Stock brought to what was counted: the only entry that stock moves by."""

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine
from corkpost.core.kinds import AccountRole
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.trial_balance import balances_at


def _make(books: Books, told: Told) -> Made:
    on, value = told.day("date"), told.maybe_amount("value")
    words = books.client.currency.format_amount
    if value is None:
        counted = [item.value for item in books.tables.stock if item.date == on]
        if not counted:
            raise BadEntry(
                [f"value: the client counted nothing on {on:%-d %B %Y}: key what it is worth."]
            )
        value = sum(counted)
    stock = told.code("account")
    codes = [account.code for account in books.with_role(AccountRole.STOCK)]
    sums = balances_at(books, on)
    stands = sum(sums.get(code, 0) for code in codes or [stock])
    difference = value - stands
    if not difference:
        return Made((), f"Stock stands at {words(value)} already.")
    reason = f"Stock to the count of {on:%-d %B %Y}."
    lines = (EntryLine(stock, difference), EntryLine(told.code("counter"), -difference))
    working = (f"counted {words(value)}, in the books {words(stands)}",)
    return Made((adjusting(on, reason, *lines),), reason, working, counts_stock=True)


RECIPE = Recipe(
    "stock-to-count",
    10,
    "Stock to the count",
    "Stock to what was counted, against the cost of what was sold.",
    (
        Ask("date", AskKind.DAY, "Counted on", needed=True),
        Ask("value", AskKind.AMOUNT, "Value: the client's count of the day unless told"),
        Ask("account", AskKind.ACCOUNT, "Stock", needed=True, roles=(AccountRole.STOCK,)),
        Ask(
            "counter",
            AskKind.ACCOUNT,
            "Cost of what was sold",
            needed=True,
            roles=(AccountRole.COST_OF_SALES,),
        ),
    ),
    _make,
)
