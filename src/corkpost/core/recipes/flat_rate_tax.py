"""What a client on a flat rate keeps of the tax that the books have: to income, at the end of a return."""

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine
from corkpost.core.kinds import AccountType
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.row_kinds.tax_schemes import Scheme
from corkpost.core.tax import tax_account
from corkpost.core.tax_returns import tax_summary


def _make(books: Books, told: Told) -> Made:
    first, last, account = told.day("from"), told.day("to"), told.code("account")
    found = tax_summary(books, first, last)
    if found.scheme.scheme is not Scheme.FLAT or found.scheme.rate is None:
        raise BadEntry(
            ["to: the client has no flat rate on that day: set it on the tax return first."]
        )
    if books.account(account).type not in (AccountType.INCOME, AccountType.EXPENSE):
        raise BadEntry(["account: what is kept is income, or less of a cost."])
    words = books.client.currency.format_amount
    kept = -found.on_account - found.due
    working = (
        f"{float(found.scheme.rate):g}% of sales with their tax of {words(found.flat_sales)} is "
        f"{words(found.due)}; the tax accounts have {words(found.on_account)}",
    )
    if not kept:
        return Made((), "The tax accounts have what the flat rate comes to.", working)
    code = found.codes[0].code if found.codes else ""
    reason = f"Tax by the flat rate, {first:%-d %B} to {last:%-d %B %Y}."
    on_tax = EntryLine(tax_account(books, books.taxes[code]), kept, tax_code=code)
    return Made((adjusting(last, reason, on_tax, EntryLine(account, -kept)),), reason, working)


RECIPE = Recipe(
    "flat-rate-tax",
    14,
    "Tax by a flat rate",
    "What the tax accounts have beyond the flat rate of the sales is kept: to income.",
    (
        Ask("from", AskKind.DAY, "First day of the return", needed=True),
        Ask("to", AskKind.DAY, "Last day of the return", needed=True),
        Ask("account", AskKind.ACCOUNT, "What is kept is income on", needed=True),
    ),
    _make,
)
