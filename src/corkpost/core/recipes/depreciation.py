"""What should be written off the assets of the register by a day, less what stands."""

from fractions import Fraction

from corkpost.core.asks import Ask, AskKind
from corkpost.core.assets.depreciation import Method, written_off
from corkpost.core.assets.register import (
    Registered,
    additions,
    depreciation_account,
    moves_of,
    register,
)
from corkpost.core.books import Books
from corkpost.core.change import new_entry
from corkpost.core.entries import EntryLine
from corkpost.core.keying import keyed_number
from corkpost.core.kinds import AccountRole
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.row_kinds.asset_moves import AssetMove, AssetMoved


def _make(books: Books, told: Told) -> Made:
    on, wanted = told.day("date"), told.names("asset")
    rows = [row for row in register(books, on) if row.disposed is None]
    if not rows:
        raise BadEntry(["The register of fixed assets is empty: take it in, or build it, first."])
    rows = [row for row in rows if not wanted or row.asset.asset in wanted]
    units = told.text("units")
    if units:
        rows = [_by_units(books, told, row, _units(units)) for row in rows]
    due = [row for row in rows if row.due]
    if not due:
        return Made((), f"Nothing is left to be written off by {on:%-d %B %Y}.")
    lines = [line for row in due for line in _lines(books, told, row)]
    moves = tuple(
        AssetMove(
            row.asset.asset,
            on,
            AssetMoved.DEPRECIATION,
            row.due,
            new_entry(1),
            units if units and row.asset.method == Method.UNITS else None,
        )
        for row in due
    )
    whose = due[0].asset.name if len(due) == 1 else f"{len(due)} assets"
    reason = f"Depreciation to {on:%-d %B %Y}, {whose}."
    words = books.client.currency.format_amount
    working = tuple(
        f"{row.asset.name}: {words(row.should)} by the day, {words(row.depreciation)} stands"
        for row in due
    )
    return Made((adjusting(on, reason, *lines),), reason, working, rows={"asset_moves": moves})


def _units(text: str) -> Fraction:
    try:
        used = keyed_number(text)
    except ValueError:
        used = Fraction(-1)
    if used < 0:
        raise BadEntry([f"units: {text!r} is no number of units: write 12500."])
    return used


def _by_units(books: Books, told: Told, row: Registered, used: Fraction) -> Registered:
    """What it should have written off with so many units used; one by another way stays as it is."""
    if row.asset.method != Method.UNITS:
        return row
    added = additions(moves_of(books).get(row.asset.asset, ()))
    should = written_off(row.asset, told.day("date"), books.calendar, added, used)
    return row._replace(should=should)


def _lines(books: Books, told: Told, row: Registered) -> tuple[EntryLine, EntryLine]:
    off = depreciation_account(books, row.asset)
    if off is None:
        raise BadEntry(
            [
                "No account has the role accumulated-depreciation: give one that role, or name it with "
                f"the asset {row.asset.name}."
            ]
        )
    name = row.asset.name
    return (
        EntryLine(told.code("account"), row.due, description=name),
        EntryLine(off, -row.due, description=name),
    )


RECIPE = Recipe(
    "depreciation",
    4,
    "Depreciation",
    "What each asset of the register should have written off by a day, less what stands.",
    (
        Ask("date", AskKind.DAY, "By the day", needed=True),
        Ask("asset", AskKind.ASSET, "Of these assets alone"),
        Ask("units", AskKind.TEXT, "Units used so far, for an asset by units"),
        Ask(
            "account",
            AskKind.ACCOUNT,
            "Cost of depreciation",
            needed=True,
            roles=(AccountRole.DEPRECIATION,),
        ),
    ),
    _make,
)
