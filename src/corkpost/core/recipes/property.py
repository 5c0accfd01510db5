"""A property, or any other asset, paid for out of several sources of money (worked example 11)."""

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry


def _make(books: Books, told: Told) -> Made:
    uses, sources = told.sums("uses"), told.sums("sources")
    words = books.client.currency.format_amount
    bought, paid = (sum(amount for _, amount in side) for side in (uses, sources))
    if bought != paid:
        raise BadEntry(
            [
                f"sources: they come to {words(paid)}, what was bought to {words(bought)}: "
                f"{words(bought - paid)} apart."
            ]
        )
    party = told.maybe_code("party")
    reason = f"{', '.join(books.account(code).name for code, _ in uses)} bought."
    lines = (
        *(EntryLine(code, amount, party) for code, amount in uses),
        *(EntryLine(code, -amount, party) for code, amount in sources),
    )
    working = (f"{words(bought)} bought, out of {len(sources)} sources",)
    return Made((adjusting(told.day("date"), reason, *lines),), reason, working)


RECIPE = Recipe(
    "property",
    13,
    "Property, several sources of money",
    "What was bought, by account, and where the money came from: lender, owner, bank.",
    (
        Ask("date", AskKind.DAY, "On the day", needed=True),
        Ask("uses", AskKind.SUMS, "What was bought", needed=True),
        Ask("sources", AskKind.SUMS, "Where the money came from", needed=True),
        Ask("party", AskKind.PARTY, "Bought of"),
    ),
    _make,
)
