"""What is settled in another currency and not in the books': the rest is gain or loss on exchange."""

from collections import deque
from dataclasses import replace
from typing import NamedTuple

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books, Transaction
from corkpost.core.change import AllocationWriter
from corkpost.core.entries import EntryLine, plan_entries
from corkpost.core.foreign import foreign_money
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.money import Minor, Money
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told


class Rest(NamedTuple):
    """What a party has left open on a control account, though it owes nothing in the currency."""

    account: str
    party: str
    currency: str
    items: tuple[tuple[OpenItem, Minor], ...]

    @property
    def amount(self) -> Minor:
        return sum(left for _, left in self.items)


def _make(books: Books, told: Told) -> Made:
    on, wanted = told.day("date"), told.maybe_code("party")
    rests = [rest for rest in settled_abroad(books) if wanted in (None, rest.party)]
    if not rests:
        return Made((), "Nothing that is settled in another currency has a rest in the books.")
    words = books.client.currency.format_amount
    lines = [EntryLine(rest.account, -rest.amount, rest.party) for rest in rests]
    lines.append(EntryLine(told.code("account"), sum(rest.amount for rest in rests)))
    names = ", ".join(dict.fromkeys(books.party_name(rest.party) for rest in rests))
    reason = f"Exchange differences on what {names} settled."
    plan = plan_entries(books, (adjusting(on, reason, *lines),), reason)
    entry = plan.entries[0]._replace(kind=TransactionKind.REVALUATION)
    writer = AllocationWriter(books)
    for rest in rests:
        _settle(writer, rest, entry)
    working = tuple(
        f"{books.party_name(rest.party)}: nothing in {rest.currency}, "
        f"{words(rest.amount)} {'too little' if rest.amount > 0 else 'too much'} in the books"
        for rest in rests
    )
    made = replace(
        plan, entries=(entry,), allocations=tuple(writer.rows), notes=(*working, *plan.notes)
    )
    return Made((), reason, plan=made)


def settled_abroad(books: Books) -> list[Rest]:
    """By account, party and currency: where what came and went in the currency is nil and something is open
    in the books, on one side."""
    items = open_items(books)
    foreign: dict[tuple[str, str, str], Money] = {}
    open_: dict[tuple[str, str, str], list[tuple[OpenItem, Minor]]] = {}
    for key, item in items.items.items():
        if item.party is None:
            continue
        for line in item.transaction.lines:
            money = foreign_money(books, item.transaction, line)
            if line.account == item.account and line.party == item.party and money:
                group = (item.account, item.party, money.currency.code)
                foreign[group] = foreign.get(group, Money(0, money.currency)) + money
                if items.open_now[key]:
                    open_.setdefault(group, []).append((item, items.open_now[key]))
                break
    rests = [Rest(*group, tuple(open_[group])) for group in sorted(open_) if not foreign[group]]
    return [rest for rest in rests if rest.amount]


def _settle(writer: AllocationWriter, rest: Rest, entry: Transaction) -> None:
    """Debits and credits that are open settle each other first, the entry the rest."""
    debits = deque((item.transaction, left) for item, left in rest.items if left > 0)
    credits = deque((item.transaction, -left) for item, left in rest.items if left < 0)
    while debits and credits:
        (debit, owed), (credit, paid) = debits.popleft(), credits.popleft()
        amount = min(owed, paid)
        writer.allocate(rest.party, debit, credit, amount)
        if owed > amount:
            debits.appendleft((debit, owed - amount))
        if paid > amount:
            credits.appendleft((credit, paid - amount))
    for debit, left in debits:
        writer.allocate(rest.party, debit, entry, left)
    for credit, left in credits:
        writer.allocate(rest.party, entry, credit, left)


RECIPE = Recipe(
    "exchange-settled",
    16,
    "Exchange difference on payment",
    "What a party paid in its currency at another rate: the rest that is left open is gain or loss.",
    (
        Ask("date", AskKind.DAY, "On the day", needed=True),
        Ask("party", AskKind.PARTY, "Of this party alone"),
        Ask(
            "account",
            AskKind.ACCOUNT,
            "Exchange differences",
            needed=True,
            roles=(AccountRole.EXCHANGE_DIFFERENCE,),
        ),
    ),
    _make,
)
