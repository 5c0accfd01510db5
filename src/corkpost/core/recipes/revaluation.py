"""Each monetary balance in another currency to the closing rate (worked example 15)."""

from collections import defaultdict
from collections.abc import Iterator
from datetime import date
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.books import Account, Books
from corkpost.core.entries import EntryLine
from corkpost.core.foreign import foreign_accounts, foreign_money
from corkpost.core.kinds import CONTROL_ROLES, MONEY_ROLES, AccountRole, TransactionKind
from corkpost.core.money import Currency, Minor, Money
from corkpost.core.open_items import open_items
from corkpost.core.periods import ONE_DAY
from corkpost.core.rates import rate_on
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told

_MONETARY = MONEY_ROLES | {AccountRole.LOAN, AccountRole.UNBANKED, AccountRole.CARD_CLEARING}


class Held(NamedTuple):
    """What is held on an account (and of a party) in a currency: *foreign* in it, *own* as it stands in
    the books, both debit positive."""

    account: str
    party: str | None
    foreign: Money
    own: Minor

    @property
    def currency(self) -> str:
        return self.foreign.currency.code


def _make(books: Books, told: Told) -> Made:
    on = told.day("date")
    words = books.client.currency.format_amount
    lines: list[EntryLine] = []
    working: list[str] = []
    for held in held_in_others(books, on):
        rate = rate_on(books, held.currency, on)
        worth = held.foreign.at(rate.rate, books.client.currency).amount
        difference = worth - held.own
        if not difference:
            continue
        name = books.account(held.account).name
        whose = f", {books.party_name(held.party)}" if held.party else ""
        working.append(
            f"{name}{whose}: {held.foreign} at {float(rate.rate):g} of "
            f"{rate.day:%-d %B %Y} is {words(worth)}, in the books {words(held.own)}"
        )
        lines.append(
            EntryLine(
                held.account,
                difference,
                held.party,
                description=f"{held.currency} to the closing rate",
            )
        )
    if not lines:
        return Made(
            (), "Nothing is held in another currency that is not at the closing rate already."
        )
    total = sum(line.amount for line in lines)
    reason = f"Balances in other currencies to the rate of {on:%-d %B %Y}."
    lines.append(EntryLine(told.code("account"), -total))
    reverse_on = on + ONE_DAY if told.text("reverse") == "yes" else None
    request = adjusting(on, reason, *lines, reverse_on=reverse_on)
    warnings = tuple(_without_foreign(books, lines, on))
    return Made(
        (request,), reason, tuple(working), kind=TransactionKind.REVALUATION, warnings=warnings
    )


def _without_foreign(books: Books, lines: list[EntryLine], on: date) -> Iterator[str]:
    """Lines that may move what is held and do not say by how much, in words."""
    for code in dict.fromkeys(line.account for line in lines):
        if books.account(code).role in CONTROL_ROLES or books.account(code).is_profit_and_loss:
            continue
        silent = [
            posted.id
            for posted, line in books.lines_on(code)
            if posted.posting_date <= on
            and not line.foreign_amount
            and posted.kind is not TransactionKind.REVALUATION
            and posted.id not in books.never_was
        ]
        if silent:
            yield (
                f"{books.account(code).name}: {', '.join(silent[:3])}"
                f"{f' and {len(silent) - 3} more' if len(silent) > 3 else ''} say no sum in the other "
                "currency, and are taken for none."
            )


def held_in_others(books: Books, as_at: date) -> tuple[Held, ...]:
    """Every monetary balance in another currency at the end of the day: accounts of money and loans as a
    whole, receivables and payables by party from what is open."""
    found = [
        held
        for account in books.with_role(*_MONETARY)
        for held in _on_account(books, account, as_at)
        if held.foreign
    ]
    found += _open_in_others(books, as_at)
    return tuple(sorted(found, key=lambda held: (held.account, held.party or "", held.currency)))


def _on_account(books: Books, account: Account, as_at: date) -> list[Held]:
    """An account that is kept in a currency has all its lines counted, those without a foreign amount
    too: revaluations are among them."""
    kept = foreign_accounts(books).get(account.code)
    foreign: dict[Currency, Money] = {}
    own: dict[Currency | None, Minor] = defaultdict(int)
    for posted, line in books.lines_on(account.code):
        if posted.posting_date > as_at:
            continue
        money = foreign_money(books, posted, line, kept)
        currency = money.currency if money else None
        own[currency] += line.amount
        if money:
            foreign[money.currency] = foreign.get(money.currency, Money(0, money.currency)) + money
    if kept is None and len(foreign) == 1 and _only_revalued(books, account, as_at):
        kept = next(iter(foreign))
    if kept in foreign:
        return [Held(account.code, None, foreign[kept], sum(own.values()))]
    return [Held(account.code, None, money, own[money.currency]) for money in foreign.values()]


def _only_revalued(books: Books, account: Account, as_at: date) -> bool:
    """Whether what the account has without a foreign amount is revaluation alone."""
    return all(
        posted.kind is TransactionKind.REVALUATION or foreign_money(books, posted, line)
        for posted, line in books.lines_on(account.code)
        if posted.posting_date <= as_at
    )


def _open_in_others(books: Books, as_at: date) -> list[Held]:
    """By account, party and currency: the open part of each item, and what revaluations put beside."""
    sums: dict[tuple[str, str, str], Held] = {}
    own: dict[tuple[str, str], Minor] = defaultdict(int)
    items = open_items(books)
    for item, left in items.open_at(as_at):
        if item.party is None or books.accounts[item.account].role not in CONTROL_ROLES:
            continue
        parts = [
            money
            for line in item.transaction.lines
            if line.account == item.account
            and line.party == item.party
            and (money := foreign_money(books, item.transaction, line))
        ]
        if not parts:
            if item.transaction.kind is TransactionKind.REVALUATION:
                own[item.account, item.party] += left
            continue
        whole = Money(sum(part.amount for part in parts), parts[0].currency)
        part = whole.part(Fraction(left, item.amount))
        key = (item.account, item.party, part.currency.code)
        before = sums.get(key, Held(item.account, item.party, Money(0, part.currency), 0))
        sums[key] = before._replace(foreign=before.foreign + part, own=before.own + left)
    return [
        held._replace(own=held.own + own.pop((held.account, held.party or ""), 0))
        for _, held in sorted(sums.items())
        if held.foreign
    ]


RECIPE = Recipe(
    "revaluation",
    16,
    "Exchange revaluation",
    "What is held or owed in other currencies, to the rate of the day. Rates come from the table.",
    (
        Ask("date", AskKind.DAY, "On the day", needed=True),
        Ask(
            "reverse",
            AskKind.CHOICE,
            "On the next day",
            "no",
            (Choice("no", "it stays"), Choice("yes", "it is taken back")),
        ),
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
