"""What a recipe was told, read by the kinds of what it asks, with every fault at once."""

import re
from collections.abc import Iterator, Mapping
from datetime import date
from fractions import Fraction
from typing import Any, NamedTuple

from corkpost.core.asks import Ask, AskKind
from corkpost.core.assets.register import asset_named
from corkpost.core.books import Books
from corkpost.core.keying import NotADay, keyed_amount, keyed_day, keyed_number
from corkpost.core.money import Minor, NotAnAmount
from corkpost.core.recipes.recipe import Recipe
from corkpost.core.refusals import BadEntry, Refusal

NONE = "none"
"""Told of a day that is not to be."""
_MONTH = re.compile(r"\d{4}-(0[1-9]|1[0-2])")


class Told(NamedTuple):
    """The values by name, each of the type of its kind; None where nothing was told."""

    values: Mapping[str, Any]

    def amount(self, name: str) -> Minor:
        return int(self.values[name])

    def maybe_amount(self, name: str) -> Minor | None:
        return self.values[name]  # type: ignore[no-any-return]

    def day(self, name: str) -> date:
        return self.values[name]  # type: ignore[no-any-return]

    def maybe_day(self, name: str) -> date | None:
        return self.day_or(name, None)

    def day_or(self, name: str, usual: date | None) -> date | None:
        """The day; *usual* where nothing was told, None where `none` was."""
        found = self.values[name]
        if found == NONE:
            return None
        return found or usual

    def percent(self, name: str) -> Fraction:
        return Fraction(self.values[name])

    def maybe_percent(self, name: str) -> Fraction | None:
        return self.values[name]  # type: ignore[no-any-return]

    def text(self, name: str) -> str:
        """Empty where nothing was told."""
        return self.values[name] or ""

    def code(self, name: str) -> str:
        """Of an account or party."""
        return str(self.values[name])

    def maybe_code(self, name: str) -> str | None:
        return self.values[name]  # type: ignore[no-any-return]

    def names(self, name: str) -> tuple[str, ...]:
        return self.values[name] or ()

    def sums(self, name: str) -> tuple[tuple[str, Minor], ...]:
        return self.values[name] or ()


def read_told(books: Books, recipe: Recipe, said: Mapping[str, str], near: date | None) -> Told:
    """Raises BadEntry with every fault: what can't be read, is missing, or is not asked."""
    names = [ask.name for ask in recipe.asks]
    faults = [
        f"{name}: {recipe.id} does not ask for it. It asks for {', '.join(names)}."
        for name in said
        if name not in names
    ]
    values: dict[str, Any] = {}
    near = near or books.received_through or books.reach.first_day
    for ask in recipe.asks:
        text = said.get(ask.name, "").strip() or ask.value
        try:
            values[ask.name] = _read(books, ask, text, near) if text else _left_out(books, ask)
        except (Refusal, NotAnAmount, NotADay, ValueError) as wrong:
            faults.append(f"{ask.name}: {str(wrong).rstrip('.')}.")
    if faults:
        raise BadEntry(faults)
    return Told(values)


def _left_out(books: Books, ask: Ask) -> str | None:
    if ask.roles:
        usual = usual_account(books, ask)
        if usual or not ask.needed:
            return usual
        found = books.with_role(*ask.roles)
        names = ", ".join(f"{account.code} {account.name}" for account in found)
        raise ValueError(
            f"say which: {names}"
            if found
            else f"no account has the role {ask.roles[0]}: name one, or give it that role first"
        )
    if ask.needed:
        raise ValueError(f"it is missing: {ask.label[:1].lower()}{ask.label[1:]}")
    return None


def usual_account(books: Books, ask: Ask) -> str | None:
    """The one account of the ask's roles; where none has one, the one plain account that is named so."""
    found = books.with_role(*ask.roles)
    if not found:
        word = ask.roles[0].value.replace("-", " ").casefold()
        found = tuple(
            account
            for account in books.tables.accounts
            if not account.role and account.name.casefold().startswith(word)
        )
    return found[0].code if len(found) == 1 else None


def _read(books: Books, ask: Ask, text: str, near: date) -> Any:  # noqa: C901 - a case for each kind
    match ask.kind:
        case AskKind.AMOUNT:
            amount = keyed_amount(text, books.client.currency)
            if amount < 0:
                raise ValueError("the amount is below nil")
            return amount
        case AskKind.PERCENT:
            return _percent(text)
        case AskKind.DAY:
            return (
                NONE if text == NONE and not ask.needed else keyed_day(text, books.calendar, near)
            )
        case AskKind.ACCOUNT:
            return account_told(books, text)
        case AskKind.PARTY:
            return _party(books, text)
        case AskKind.CHOICE:
            values = [choice.value for choice in ask.choices]
            if text not in values:
                raise ValueError(f"{text!r} is none of {', '.join(values)}")
            return text
        case AskKind.MONTH:
            if not _MONTH.fullmatch(text):
                raise ValueError(f"{text!r} is no month: write 2026-03")
            return text
        case AskKind.SUMS:
            return tuple(_sums(books, text))
        case AskKind.ASSET:
            return tuple(asset_named(books, part.strip()).asset for part in text.split(","))
        case AskKind.ITEMS:
            return tuple(part.strip() for part in text.split(",") if part.strip())
        case _:
            return text


def account_told(books: Books, text: str) -> str:
    """The account of that code or name. Raises UnknownName, or ValueError."""
    if text in books.accounts:
        return text
    found = [
        account.code
        for account in books.tables.accounts
        if account.name.casefold() == text.casefold()
    ]
    return found[0] if len(found) == 1 else books.account(text).code


def _party(books: Books, text: str) -> str:
    if text in books.parties:
        return text
    found = [
        code for code, party in books.parties.items() if party.name.casefold() == text.casefold()
    ]
    if len(found) != 1:
        raise ValueError(f"there is no party {text!r} in the books")
    return found[0]


def _percent(text: str) -> Fraction:
    percent = keyed_number(text.removesuffix("%"))
    if not 0 <= percent <= 1000:
        raise ValueError(f"{text!r} is outside of 0 to 1000 percent")
    return percent


def _sums(books: Books, text: str) -> Iterator[tuple[str, Minor]]:
    for part in text.split(","):
        account, colon, amount = part.strip().rpartition(":")
        if not colon:
            raise ValueError(f"{part.strip()!r} is no account with its sum: write 1500:46150.00")
        yield account_told(books, account.strip()), keyed_amount(amount, books.client.currency)
