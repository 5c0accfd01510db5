"""Money: whole minor units of one currency, debit positive, credit negative.

All books of a client are in one currency, so a line carries a bare `Minor` and the books carry the
`Currency`: a currency object on each of 200,000 lines costs a third more time and memory in every
check and says nothing new. Where two currencies can meet, an amount is `Money`: it has its own with it, and
adding what is in another refuses.
"""

import re
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction
from functools import cache
from typing import TypeAlias

import iso4217

Minor: TypeAlias = int
"""Whole minor units (cents), debit positive, credit negative."""

USUAL_PLACES = 2
"""Of a code that ISO 4217 does not list, and of those that have no minor unit there."""
_PLAIN = re.compile(r"-?[0-9]{1,15}(?:\.([0-9]+))?")


class NotAnAmount(ValueError):
    """Text that is no plain decimal of the currency; the message says what would be right."""


@cache
def _places_of(code: str) -> int:
    units = str(iso4217.raw_table.get(code, {}).get("CcyMnrUnts") or "")
    return int(units) if units.isdigit() else USUAL_PLACES


@dataclass(frozen=True, slots=True)
class Currency:
    """A currency by its ISO 4217 code."""

    code: str

    @property
    def places(self) -> int:
        """How many decimal places its minor unit has."""
        return _places_of(self.code)

    @property
    def is_known(self) -> bool:
        """Whether ISO 4217 lists the code."""
        return self.code in iso4217.raw_table

    def parse(self, text: str) -> Minor:
        """Minor units of a plain decimal such as `1234.50` or `-3`. Raises NotAnAmount."""
        match = _PLAIN.fullmatch(text)
        if not match:
            raise NotAnAmount(f"{text!r} is not a plain decimal: write 1234.50, without separators")
        decimals = match[1] or ""
        if len(decimals) > self.places:
            raise NotAnAmount(
                f"{text!r} has more than {self.places} decimal places, the most {self.code} has"
            )
        return int(text.replace(".", "") + "0" * (self.places - len(decimals)))

    def format(self, amount: Minor) -> str:
        """A plain decimal with all its places: `1234.50`, `-0.05`. The opposite of parse."""
        if not self.places:
            return str(amount)
        digits = str(abs(amount)).rjust(self.places + 1, "0")
        return f"{'-' if amount < 0 else ''}{digits[: -self.places]}.{digits[-self.places :]}"

    def format_amount(self, amount: Minor) -> str:
        """The sum without its sign, thousands separated, for sentences: `1,234.50`."""
        whole, _, rest = self.format(abs(amount)).partition(".")
        return f"{int(whole):,}" + (f".{rest}" if rest else "")


class MixedCurrencies(TypeError):
    """A sum of amounts in two currencies was asked for."""


@dataclass(frozen=True, slots=True)
class Money:
    """An amount in minor units of its currency."""

    amount: Minor
    currency: Currency

    def __add__(self, other: "Money") -> "Money":
        if other.currency != self.currency:
            raise MixedCurrencies(f"{self} and {other} have no sum")
        return Money(self.amount + other.amount, self.currency)

    def __neg__(self) -> "Money":
        return Money(-self.amount, self.currency)

    def __bool__(self) -> bool:
        return self.amount != 0

    def __str__(self) -> str:
        """With its sign and code: `USD -1,234.50`."""
        sign = "-" if self.amount < 0 else ""
        return f"{self.currency.code} {sign}{self.currency.format_amount(self.amount)}"

    @property
    def plain(self) -> str:
        """The amount as a plain decimal, as lines keep it."""
        return self.currency.format(self.amount)

    def part(self, share: Fraction) -> "Money":
        return Money(rounded(self.amount * share), self.currency)

    def at(self, rate: Fraction, own: Currency) -> "Money":
        """What it is worth in *own*, of which one unit of this currency is *rate*."""
        whole = Fraction(self.amount, 10**self.currency.places)
        return Money(rounded(whole * rate * 10**own.places), own)


def rounded(amount: Fraction) -> Minor:
    """To the whole minor unit, half away from zero, so that an opposite is the exact opposite."""
    whole = (2 * abs(amount.numerator) + amount.denominator) // (2 * amount.denominator)
    return whole if amount >= 0 else -whole


def tax_within(gross: Minor, rate: Fraction) -> Minor:
    """The tax inside *gross*, the rate in percent (handbook, section 2)."""
    return rounded(gross * rate / (100 + rate))


def in_shares(total: Minor, shares: Mapping[str, Fraction]) -> dict[str, Minor]:
    """*total* split by *shares* to the minor unit; what is left over goes to the largest share.

    Shares are weights and need not add to 100. Raises ValueError when there is nothing to share by.
    """
    whole = sum(shares.values())
    if not whole:
        raise ValueError("no shares to split by")
    parts = {name: rounded(total * share / whole) for name, share in shares.items()}
    largest = max(shares, key=lambda name: (shares[name], name))
    parts[largest] += total - sum(parts.values())
    return parts
