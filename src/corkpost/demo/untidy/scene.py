"""A client's books while they are made, with whom and what there is to draw from."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import date, timedelta

from corkpost.demo.bookkeeper import Bookkeeper
from corkpost.demo.habits import Customer, Numbers, Supplier, sum_between
from corkpost.demo.plants import Planted
from corkpost.demo.untidy.hands import Hand


@dataclass
class Scene:
    """*accounts*: codes by name. *numbers*: of own invoices. *owners*: their names; *owner_account*: where
    what they take goes. *planted*: what is wrong in the books."""

    keeper: Bookkeeper
    suppliers: list[Supplier]
    customers: list[Customer]
    numbers: Numbers
    accounts: Callable[[str], str]
    hand: Hand
    first: date
    last: date
    owners: tuple[str, ...]
    owner_account: str
    planted: Planted

    def supplier(self) -> Supplier:
        return self.keeper.rng.choice([s for s in self.suppliers if not s.same_sum])

    def customer(self) -> Customer:
        return self.keeper.rng.choice(self.customers)

    def day(self) -> date:
        """Far enough from both ends that what follows from it is in the books."""
        within = (self.last - self.first).days - 160
        return self.first + timedelta(days=40 + self.keeper.rng.randrange(within))

    def bill(self, supplier: Supplier, on: date, gross: int | None = None) -> tuple[str, int]:
        gross = gross or sum_between(self.keeper.rng, supplier.low, supplier.high)
        number = supplier.numbers.next(self.keeper.rng)
        made = self.keeper.bill(
            supplier.code, on, gross, supplier.account, reference=number, taxed=supplier.taxed
        )
        return made, gross

    def invoice(self, customer: Customer, on: date, gross: int | None = None) -> tuple[str, int]:
        gross = gross or sum_between(self.keeper.rng, customer.low, customer.high)
        number = self.numbers.next(self.keeper.rng)
        made = self.keeper.invoice(customer.code, on, gross, customer.account, reference=number)
        return made, gross


def later(day: date, days: int) -> date:
    return day + timedelta(days=days)
