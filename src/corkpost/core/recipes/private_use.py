"""The private share of a cost, and of the tax claimed on it, to the owner (handbook, section 3)."""

from datetime import date
from fractions import Fraction

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine
from corkpost.core.kinds import AccountRole
from corkpost.core.money import rounded
from corkpost.core.owners import chosen_owner_account
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry


def _make(books: Books, told: Told) -> Made:
    account, percent = told.code("account"), told.percent("percent")
    first, last = told.day("from"), told.day("to")
    if not 0 < percent <= 100:
        raise BadEntry(["percent: the private share is above nil and at most 100."])
    if not books.account(account).is_profit_and_loss:
        raise BadEntry(["account: name the cost that is used privately too."])
    net, taxes = _net_and_tax(books, account, first, last)
    share = percent / 100
    cost = rounded(net * share)
    tax = {key: rounded(amount * share) for key, amount in taxes.items()}
    owner = chosen_owner_account(
        books,
        told.maybe_code("owner_account"),
        comes_in=False,
        owner=told.maybe_code("owner"),
    )
    words = books.client.currency.format_amount
    name = books.account(account).name
    reason = f"{name}: {float(percent):g}% private, {first:%-d %B %Y} to {last:%-d %B %Y}."
    working = (
        f"{words(net)} net and {words(rounded(sum(taxes.values(), Fraction())))} tax; "
        f"{float(percent):g}% of them",
    )
    gross = cost + sum(tax.values())
    if not gross:
        return Made((), f"Nothing stands on {name} in these days.")
    lines = (
        EntryLine(owner.code, gross),
        EntryLine(account, -cost),
        *(EntryLine(code, -amount, tax_code=own) for (own, code), amount in sorted(tax.items())),
    )
    return Made((adjusting(told.day("date"), reason, *lines),), reason, working)


def _net_and_tax(
    books: Books, account: str, first: date, last: date
) -> tuple[int, dict[tuple[str, str], Fraction]]:
    """What the account has net, and the tax on it by code and account, each transaction's in proportion."""
    net = 0
    taxes: dict[tuple[str, str], Fraction] = {}
    for posted in books.on_account(account):
        if not first <= posted.posting_date <= last:
            continue
        own = [line for line in posted.lines if line.account == account]
        net += sum(line.amount for line in own)
        for line in posted.lines:
            if books.accounts[line.account].role is not AccountRole.TAX or not line.tax_code:
                continue
            bears = [
                other.amount
                for other in posted.lines
                if other.tax_code == line.tax_code and other.account != line.account
            ]
            mine = sum(other.amount for other in own if other.tax_code == line.tax_code)
            if mine and sum(bears):
                key = (line.tax_code, line.account)
                part = Fraction(line.amount * mine, sum(bears))
                taxes[key] = taxes.get(key, Fraction()) + part
    return net, taxes


RECIPE = Recipe(
    "private-use",
    12,
    "Private use",
    "The owner's share of a cost of the business, with the tax claimed on it, over some days.",
    (
        Ask("account", AskKind.ACCOUNT, "Cost that is used privately too", needed=True),
        Ask("percent", AskKind.PERCENT, "Private share, percent", needed=True),
        Ask("from", AskKind.DAY, "From the day", needed=True),
        Ask("to", AskKind.DAY, "To the day", needed=True),
        Ask("owner", AskKind.PARTY, "Which owner"),
        Ask("owner_account", AskKind.ACCOUNT, "On the account: by the kind of client unless told"),
        Ask("date", AskKind.DAY, "On the day", needed=True),
    ),
    _make,
)
