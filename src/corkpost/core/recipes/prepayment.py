"""A cost that is paid for days to come."""

from corkpost.core.books import Books
from corkpost.core.kinds import AccountRole
from corkpost.core.recipes.recipe import Made, Recipe
from corkpost.core.recipes.setting_aside import asks, set_aside
from corkpost.core.recipes.told import Told


def _make(books: Books, told: Told) -> Made:
    return set_aside(books, told, RECIPE.id, 1, "paid in advance")


RECIPE = Recipe(
    "prepayment",
    2,
    "Prepayment",
    "A cost paid for days to come: what is for later is set aside, and comes back to its account.",
    asks(AccountRole.PREPAYMENT, "Account of prepayments", "Cost that it stands on"),
    _make,
)
