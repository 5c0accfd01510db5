"""An asset added to, or valued anew."""

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.assets.register import asset_named, register
from corkpost.core.books import Books
from corkpost.core.change import new_entry
from corkpost.core.entries import EntryLine
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.row_kinds.asset_moves import AssetMove, AssetMoved


def _make(books: Books, told: Told) -> Made:
    on, (name, *others) = told.day("date"), told.names("asset")
    row = next((row for row in register(books, on) if row.asset.asset == name), None)
    if row is None or row.disposed or others:
        raise BadEntry([f"asset: name one that is there on {on:%-d %B %Y}."])
    what = AssetMoved(told.text("what"))
    amount = told.amount("amount")
    if what is AssetMoved.REVALUATION:
        amount -= row.carrying
    words = books.client.currency.format_amount
    asset = asset_named(books, name)
    if not amount:
        return Made((), f"{asset.name} stands at {words(row.carrying)} already.")
    says = "added to" if what is AssetMoved.ADDITION else "valued anew"
    reason = f"{asset.name} {says}."
    lines = (
        EntryLine(asset.account, amount, description=asset.name),
        EntryLine(told.code("counter"), -amount, party=told.maybe_code("party")),
    )
    move = AssetMove(name, on, what, amount, new_entry(1))
    working = (f"stands at {words(row.carrying)}, and at {words(row.carrying + amount)} after it",)
    return Made((adjusting(on, reason, *lines),), reason, working, rows={"asset_moves": (move,)})


RECIPE = Recipe(
    "asset-change",
    6,
    "Addition or new value of an asset",
    "More is put into an asset, or it is valued anew: what is left of it is written off over its life.",
    (
        Ask("asset", AskKind.ASSET, "Which asset", needed=True),
        Ask("date", AskKind.DAY, "On the day", needed=True),
        Ask(
            "what",
            AskKind.CHOICE,
            "What happened",
            "addition",
            (
                Choice("addition", "so much was put into it"),
                Choice("revaluation", "it is worth so much now"),
            ),
        ),
        Ask("amount", AskKind.AMOUNT, "Amount, net of tax", needed=True),
        Ask("counter", AskKind.ACCOUNT, "Where it came from, or the reserve", needed=True),
        Ask("party", AskKind.PARTY, "Of whom"),
    ),
    _make,
)
