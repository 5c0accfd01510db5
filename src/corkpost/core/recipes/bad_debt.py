"""A debt that will not be paid (worked example 9)."""

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.books import Books
from corkpost.core.by_hand import CHECK
from corkpost.core.kinds import AccountRole
from corkpost.core.open_items import open_items
from corkpost.core.recipes.recipe import Made, Recipe
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import plan_route


def _make(books: Books, told: Told) -> Made:
    names = _invoices(books, told)
    point = CHECK.point(
        books,
        subjects={"invoice": names},
        related=names,
        amount=sum(books.transaction(name).total for name in names),
        certainty=1,
        summary="Written off by a recipe.",
        short="written off",
        because=(),
    )
    settings = {"relief": told.text("relief"), "date": told.day("date").isoformat()}
    part = told.maybe_amount("amount")
    if part is not None:
        settings["amount"] = books.client.currency.format(part)
    code = told.maybe_code("account")
    if code:
        settings["account"] = code
    plan = plan_route(books, point, "write-off", settings)
    return Made((), plan.proposed_reason, plan=plan)


def _invoices(books: Books, told: Told) -> tuple[str, ...]:
    """What the party owes, of the items that were named where some were, by id or number."""
    party, wanted = told.code("party"), told.names("items")
    items = open_items(books)
    owed = {
        item.transaction.id: item.transaction.reference
        for item, left in items.open_of(party)
        if left > 0 and books.accounts[item.account].role is AccountRole.RECEIVABLES
    }
    unknown = [name for name in wanted if name not in owed and name not in owed.values()]
    if unknown:
        raise BadEntry(
            [f"items: {name} is not open of {books.party_name(party)}." for name in unknown]
        )
    names = tuple(n for n, number in owed.items() if not wanted or {n, number} & set(wanted))
    if not names:
        raise BadEntry([f"party: {books.party_name(party)} owes nothing."])
    return names


RECIPE = Recipe(
    "bad-debt",
    11,
    "Bad debt",
    "Invoices that will not be paid, with the tax in them where relief is allowed.",
    (
        Ask("party", AskKind.PARTY, "Who will not pay", needed=True),
        Ask("items", AskKind.ITEMS, "Which invoices: all that are open unless told"),
        Ask("amount", AskKind.AMOUNT, "So much of them: all that is open unless told"),
        Ask("date", AskKind.DAY, "Decided on", needed=True),
        Ask(
            "relief",
            AskKind.CHOICE,
            "Tax in it",
            "yes",
            (Choice("yes", "comes back: relief is allowed"), Choice("no", "stays a cost")),
        ),
        Ask("account", AskKind.ACCOUNT, "Cost of bad debts"),
    ),
    _make,
)
