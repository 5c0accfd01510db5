"""What listings say, row by row, before it is books: amounts in minor units, debit positive."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import NamedTuple

from corkpost.core.kinds import AccountType, PartyKind
from corkpost.core.money import Minor


class Where(NamedTuple):
    """*line*: of the file, from 1."""

    file: str
    line: int

    def __str__(self) -> str:
        return f"{self.file}, line {self.line}"


class Posting(NamedTuple):
    """One row of a ledger. Texts are empty where it does not say."""

    where: Where
    account: str
    day: date
    amount: Minor
    number: str = ""
    journal: str = ""
    reference: str = ""
    text: str = ""
    party: str = ""
    party_name: str = ""
    contra: str = ""
    tax_code: str = ""
    entered_by: str = ""
    entered_at: date | None = None
    document_day: date | None = None
    due: date | None = None
    is_opening: bool = False


class Balance(NamedTuple):
    """What an account held at the end of *day*, as a trial balance says it."""

    where: Where
    account: str
    day: date
    amount: Minor
    party: str = ""


class OpenItem(NamedTuple):
    """What was open of one document at the end of *as_at*. *side*: `receivables` or `payables`."""

    where: Where
    as_at: date
    amount: Minor
    party: str
    party_name: str = ""
    reference: str = ""
    day: date | None = None
    due: date | None = None
    side: str = ""


class AccountRow(NamedTuple):
    """*said*: the type that the list itself says."""

    code: str
    name: str
    said: AccountType | None = None


class PartyRow(NamedTuple):
    code: str
    name: str
    kind: PartyKind | None = None


class Proof(NamedTuple):
    """A figure that the files hold, against what was read. *ours*, *theirs*: minor units, or counts where
    *counts*."""

    what: str
    ours: int
    theirs: int
    where: Where | None = None
    counts: bool = False

    @property
    def difference(self) -> int:
        return self.ours - self.theirs

    @property
    def holds(self) -> bool:
        return self.ours == self.theirs


@dataclass
class Raw:
    """All that the listings of one client say."""

    postings: list[Posting] = field(default_factory=list)
    balances: list[Balance] = field(default_factory=list)
    items: list[OpenItem] = field(default_factory=list)
    accounts: dict[str, AccountRow] = field(default_factory=dict)
    parties: dict[str, PartyRow] = field(default_factory=dict)
    openings: dict[tuple[str, str], Minor] = field(default_factory=dict)
    """By account and party: what was held before *first*."""
    first: date | None = None
    last: date | None = None
    proofs: list[Proof] = field(default_factory=list)

    def add_account(self, row: AccountRow) -> None:
        """The first to name it names it; a type that is said is kept."""
        known = self.accounts.get(row.code)
        if known is None:
            self.accounts[row.code] = row
        else:
            name = known.name if known.name != known.code else row.name
            self.accounts[row.code] = AccountRow(row.code, name, known.said or row.said)

    def reach(self, day: date) -> None:
        self.first = day if self.first is None else min(self.first, day)
        self.last = day if self.last is None else max(self.last, day)


Names = Mapping[str, str]
