"""What recipes a client can be given, the register of fixed assets, and what is due of schedules."""

from datetime import date
from typing import NamedTuple

from corkpost.core.asks import Ask
from corkpost.core.assets.depreciation import YearOfAsset, years_of
from corkpost.core.assets.register import Registered, additions, moves_of, offered, register
from corkpost.core.books import Books, Transaction
from corkpost.core.change import Plan
from corkpost.core.kinds import EntryKind
from corkpost.core.recipes import UseRecipe, plan_recipe, registry
from corkpost.core.recipes.recipe import Recipe
from corkpost.core.recipes.told import usual_account
from corkpost.core.row_kinds.assets import FixedAsset
from corkpost.core.schedules import Due, due
from corkpost.core.tax import TaxTreatment
from corkpost.formats.composed import ComposedEntry, ComposedLine
from corkpost.services.entries import keep_draft
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace


class RecipeFor(NamedTuple):
    """A recipe with its asks as they begin for a client: accounts that one role names are filled in."""

    recipe: Recipe
    asks: tuple[Ask, ...]


def recipes(workplace: Workplace, person: Person, client_code: str) -> tuple[RecipeFor, ...]:
    """Every recipe as it begins for the client."""
    books = workplace.ledger(person, client_code).books
    return tuple(
        RecipeFor(recipe, tuple(_begun(books, ask) for ask in recipe.asks))
        for recipe in registry().values()
    )


def _begun(books: Books, ask: Ask) -> Ask:
    usual = usual_account(books, ask) if ask.roles else None
    return ask._replace(value=usual) if usual else ask


class AssetHistory(NamedTuple):
    """An asset as at a day, with what each financial year writes off."""

    row: Registered
    years: tuple[YearOfAsset, ...]


class AssetRegister(NamedTuple):
    """*offered*: what the books bought that the register does not have."""

    books: Books
    rows: tuple[AssetHistory, ...]
    offered: tuple[FixedAsset, ...]


def asset_register(
    workplace: Workplace, person: Person, client_code: str, as_at: date
) -> AssetRegister:
    """The client's fixed assets at the end of *as_at*."""
    books = workplace.ledger(person, client_code).books
    moves = moves_of(books)
    rows = tuple(
        AssetHistory(
            row,
            tuple(years_of(row.asset, books.calendar, additions(moves.get(row.asset.asset, ())))),
        )
        for row in register(books, as_at)
    )
    return AssetRegister(books, rows, offered(books))


def due_steps(
    workplace: Workplace, person: Person, client_code: str, until: date
) -> tuple[Due, ...]:
    """The steps of the client's schedules that are due by the day and not posted."""
    return tuple(due(workplace.ledger(person, client_code).books, until))


def keep_as_drafts(
    workplace: Workplace,
    person: Person,
    client_code: str,
    wanted: UseRecipe,
    draft: str | None = None,
) -> tuple[str, ...]:
    """Keep what the recipe would post as drafts of the composer; their ids. One that moves a register or
    settles items too is kept as what it was told, again as *draft*. Raises what it is refused for."""
    books = workplace.ledger(person, client_code).books
    plan = plan_recipe(books, wanted)
    if plan.more or (plan.allocations and not any(entry.reverses for entry in plan.entries)):
        content = {
            "recipe": wanted.recipe,
            "said": dict(wanted.said),
            "near": wanted.near.isoformat() if wanted.near else "",
            "reason": plan.proposed_reason,
        }
        return (keep_draft(workplace, person, client_code, content, draft),)
    entries = [entry for entry in plan.entries if entry.entry_kind is not EntryKind.REVERSING]
    return tuple(
        keep_draft(workplace, person, client_code, _composed(books, plan, entry).model_dump())
        for entry in entries
    )


def _composed(books: Books, plan: Plan, entry: Transaction) -> ComposedEntry:
    money = books.client.currency.format
    mirror = next((row.posting_date for row in plan.entries if row.reverses == entry.id), None)
    return ComposedEntry(
        kind=entry.entry_kind or EntryKind.ADJUSTING,
        date=entry.posting_date.isoformat(),
        reverse_on=mirror.isoformat() if mirror else "",
        reference=entry.reference or "",
        reason=entry.memo or plan.proposed_reason,
        lines=[
            ComposedLine(
                account=line.account,
                party=line.party or "",
                debit=money(line.amount) if line.amount > 0 else "",
                credit=money(-line.amount) if line.amount < 0 else "",
                tax_code=line.tax_code or "",
                tax=TaxTreatment.NONE,
                text=line.description or "",
                dimensions=line.dimensions or "",
            )
            for line in entry.lines
        ],
    )
