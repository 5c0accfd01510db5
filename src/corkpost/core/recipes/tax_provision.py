"""Tax on the profit of the year, by an amount or a rate."""

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine
from corkpost.core.kinds import AccountType
from corkpost.core.money import rounded
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.trial_balance import Closing, balances_at, profit_of

_WORDS = (("tax", "profit"), ("corporation", "tax"), ("income", "tax"), ("tax", "owed"))


def _make(books: Books, told: Told) -> Made:
    on, amount, rate = told.day("date"), told.maybe_amount("amount"), told.maybe_percent("rate")
    cost = told.maybe_code("account") or _named(books, AccountType.EXPENSE, "account")
    owed = told.maybe_code("counter") or _named(books, AccountType.LIABILITY, "counter")
    words = books.client.currency.format_amount
    working: tuple[str, ...] = ()
    if amount is None:
        if rate is None:
            raise BadEntry(["amount: say how much, or the rate in percent."])
        sums = balances_at(books, on, closing=Closing.OUT)
        stands = sums.get(cost, 0)
        profit = profit_of(sums, books) + stands
        should = max(0, rounded(profit * rate / 100))
        amount = should - stands
        working = (
            f"{float(rate):g}% of a profit before tax of "
            f"{'' if profit >= 0 else 'less '}{words(profit)} is {words(should)}; {words(stands)} stands",
        )
    if not amount:
        return Made((), "There is no tax to provide for: what should stand does.")
    year = books.calendar.year_of(on).label
    reason = f"Tax on the profit of {year}."
    lines = (EntryLine(cost, amount), EntryLine(owed, -amount, party=told.maybe_code("party")))
    return Made((adjusting(on, reason, *lines),), reason, working)


def _named(books: Books, kind: AccountType, ask: str) -> str:
    """The account of that type whose name speaks of tax on profit. Raises BadEntry where it is not one."""
    found = [
        account.code
        for account in books.tables.accounts
        if account.type is kind
        and not account.role
        and any(all(word in account.name.casefold() for word in words) for words in _WORDS)
    ]
    if len(found) != 1:
        raise BadEntry([f"{ask}: say which account: the chart does not tell by itself."])
    return found[0]


RECIPE = Recipe(
    "tax-provision",
    14,
    "Tax on profit",
    "What the year's profit will be taxed with: a sum, or a rate of the profit before it.",
    (
        Ask("date", AskKind.DAY, "On the day", needed=True),
        Ask("amount", AskKind.AMOUNT, "Amount: by the rate unless told"),
        Ask("rate", AskKind.PERCENT, "Rate, percent of the profit before tax"),
        Ask("account", AskKind.ACCOUNT, "Cost of tax on profit"),
        Ask("counter", AskKind.ACCOUNT, "Tax is owed on"),
        Ask("party", AskKind.PARTY, "Tax authority"),
    ),
    _make,
)
