"""Income that is received or invoiced for days to come (worked example 7)."""

from corkpost.core.books import Books
from corkpost.core.kinds import AccountRole
from corkpost.core.recipes.recipe import Made, Recipe
from corkpost.core.recipes.setting_aside import asks, set_aside
from corkpost.core.recipes.told import Told


def _make(books: Books, told: Told) -> Made:
    return set_aside(books, told, RECIPE.id, -1, "not earned yet")


RECIPE = Recipe(
    "deferred-income",
    3,
    "Deferred income",
    "Income for days to come: what is not earned yet is set aside, and comes back to its account.",
    asks(AccountRole.DEFERRED_INCOME, "Account of deferred income", "Income that it stands on"),
    _make,
)
