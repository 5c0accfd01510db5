"""What a proof is: both figures, what each consists of, and what keeps them apart."""

import hashlib
import json
from collections.abc import Iterable
from typing import NamedTuple

from corkpost.core.control_proof import Cause
from corkpost.core.money import Minor


class Part(NamedTuple):
    """One of what a figure consists of. *transaction*, *account*, *party*: what it opens to."""

    says: str
    amount: Minor
    transaction: str | None = None
    account: str | None = None
    party: str | None = None


class TieOut(NamedTuple):
    """*books*, *outside*: debit positive; *outside* None where nothing is known from outside, and then
    *lacks* says what is missing. *causes*: what keeps the two apart, as far as that can be told.

    *keyed*: the figure may be keyed from a paper (a bank's letter, a lender's statement, a list).
    *evidence*: what the outside figure was taken from, in words. *apart*: the difference where that of the
    two figures would hide it, because what is too much here is too little there.
    """

    id: str
    kind: str
    title: str
    accounts: tuple[str, ...]
    books: Minor
    outside: Minor | None
    of_books: tuple[Part, ...] = ()
    of_outside: tuple[Part, ...] = ()
    causes: tuple[Cause, ...] = ()
    evidence: tuple[str, ...] = ()
    lacks: str = ""
    keyed: bool = False
    apart: Minor | None = None

    @property
    def difference(self) -> Minor | None:
        """What the books have beyond the figure from outside."""
        if self.apart is not None:
            return self.apart
        return None if self.outside is None else self.books - self.outside

    @property
    def facts(self) -> str:
        """Equal for proofs with the same figures, made of the same parts, in whatever order."""
        told = [
            self.books,
            self.outside,
            sorted(_told(self.of_books)),
            sorted(_told(self.of_outside)),
        ]
        return hashlib.sha256(json.dumps(told, ensure_ascii=False).encode()).hexdigest()[:16]


def _told(parts: Iterable[Part]) -> list[str]:
    return [json.dumps([part.account, part.party, part.transaction, part.amount]) for part in parts]


def account_part(code: str, name: str, balance: Minor) -> Part:
    """An account with its balance."""
    return Part(f"{code} {name}", balance, account=code)
