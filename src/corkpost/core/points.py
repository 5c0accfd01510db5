"""Review points: what a check saw, how certain it is, and what would put it right (section 6)."""

import hashlib
import json
from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass, field
from datetime import date
from enum import StrEnum
from functools import cached_property
from itertools import islice
from typing import Any, NamedTuple, Protocol

from corkpost.core.books import Books, Transaction
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItems, open_items
from corkpost.core.statements import StatementLine


class Family(StrEnum):
    """What a reviewer sorts points by."""

    TWICE = "Twice in the books"
    PAID_STILL_OPEN = "Paid but still open"
    ON_ACCOUNT = "Money on account"
    WRONG_ONE = "Set against the wrong one"
    OWNERS = "The owners' money"
    BANK = "The bank"
    PROOF = "What does not prove"
    PERIODS = "Between the periods"
    CODING = "On an odd account"
    BY_HAND = "Picked by hand"


class Level(StrEnum):
    SURE = "sure"
    LIKELY = "likely"
    LOOK = "look"


SURE, LIKELY = 0.95, 0.75


def level_of(certainty: float) -> Level:
    """The word for a probability (handbook, section 6)."""
    if certainty >= SURE:
        return Level.SURE
    return Level.LIKELY if certainty >= LIKELY else Level.LOOK


class PointState(StrEnum):
    OPEN = "open"
    CORRECTED = "corrected"
    LEFT = "left"
    ASKED = "asked"
    WAIVED = "waived"


class Point(NamedTuple):
    """*amount* is what is at stake, positive. *transactions* begins with those it is about.

    *subjects* are the same, by role; with the check they are the identity. *facts* changes when
    what was seen changes, and then a decision is asked for again.
    """

    id: str
    check: str
    certainty: float
    amount: Minor
    transactions: tuple[str, ...]
    accounts: tuple[str, ...]
    parties: tuple[str, ...]
    summary: str
    short: str
    because: tuple[str, ...]
    subjects: tuple[tuple[str, str], ...]
    facts: str
    routes: tuple[str, ...]
    statement_lines: tuple[str, ...] = ()
    hints: tuple[tuple[str, str], ...] = ()
    """What the check worked out for the routes, by name: no part of the identity."""
    against: tuple[str, ...] = ()
    """What speaks against it, as *because* speaks for it."""
    consequences: tuple[str, ...] = ()
    """What other checks saw that comes of this, or told otherwise of it, in words (`stories.py`)."""

    def hint(self, name: str) -> str:
        """What the check worked out under that name; empty where it did not."""
        return dict(self.hints).get(name, "")

    def named(self, role: str) -> tuple[str, ...]:
        """The subjects of that role."""
        return tuple(subject for name, subject in self.subjects if name == role)

    @property
    def level(self) -> Level:
        return level_of(self.certainty)


def point_from(fields: Mapping[str, Any]) -> Point:
    """A point as it was kept: fields by their names, those that came later with their defaults."""
    known = {name: value for name, value in fields.items() if name in Point._fields}
    for name in ("transactions", "accounts", "parties", "because", "routes", "statement_lines", "against",
                 "consequences"):  # fmt: skip
        known[name] = tuple(known.get(name, ()))
    for name in ("subjects", "hints"):
        known[name] = tuple((key, value) for key, value in known.get(name, ()))
    return Point(**known)


FACTS = "2-"
"""Before facts that are digested by `facts_of`; those of the first releases have nothing before them."""


def facts_of(
    amount: Minor,
    certainty: float,
    seen: Iterable[Transaction],
    lines: Iterable[StatementLine],
) -> str:
    """A digest of what is seen, field by field: it is another when one of these is, and only then."""
    facts = {
        "amount": amount,
        "level": level_of(certainty),
        "entries": sorted(
            [
                posted.id,
                posted.kind,
                posted.posting_date.isoformat(),
                [
                    [x.number, x.account, x.amount, x.party, x.tax_code, x.dimensions]
                    for x in posted.lines
                ],
            ]
            for posted in seen
        ),
        "lines": [[line.id, line.amount] for line in lines],
    }
    return FACTS + hashlib.sha256(json.dumps(facts).encode()).hexdigest()[:16]


ALL_OTHERS = "*"
"""In the place of ids: the check comes after all that name each other by id."""


@dataclass(frozen=True)
class CheckRun:
    """One run of the checks: what they look at, and what each found. *today* is for what has an age."""

    books: Books
    today: date
    business: frozenset[str] = frozenset()
    """The transactions of which people said that they are the business's, not the owner's."""
    left: frozenset[str] = frozenset()
    """The points, by id, of which people said that they are none: they explain nothing."""
    found: dict[str, tuple[Point, ...]] = field(default_factory=dict, compare=False)
    """By check: its points, once they were looked for."""

    @cached_property
    def items(self) -> OpenItems:
        return open_items(self.books)

    def found_before(self, check: "Check", *names: str) -> Iterator[Point]:
        """What those checks found, or all that *check* comes after. Raises ValueError for one that it
        does not name: nothing says that it has spoken by then."""
        every = ALL_OTHERS in check.after
        if undeclared := [name for name in names if name not in check.after and not every]:
            raise ValueError(f"{check.id} does not come after {', '.join(undeclared)}")
        for name in names or (self.found if every else check.after):
            yield from self.found[name]

    @cached_property
    def ground(self) -> object:
        """What checks read besides transactions and what settles them: the client, the chart, parties,
        taxes, amendments and periods. The same object from run to run, as long as it is equal."""
        tables = self.books.tables
        found = (
            self.books.client,
            tables.accounts,
            tables.parties,
            tables.taxes,
            tables.amendments,
            self.books.calendar,
        )
        return self.books.kept.once("ground", found, lambda: found)


Find = Callable[[CheckRun], Iterator[Point]]


class Remedy(Protocol):
    """What is worked out for the routes (`core/remedies.py`)."""

    def hints(self) -> Mapping[str, str]:
        """As a point keeps it: text by name."""
        ...


SHOWN = 3
"""So many entries are shown where a point is about all of an account."""


@dataclass(frozen=True)
class Check:
    """The facts of a check. Its file gives `find` beside it. *avoid*: how a bookkeeper keeps it from
    happening again; empty where it is not theirs."""

    id: str
    family: Family
    routes: tuple[str, ...]
    finds: str = field(default="")
    after: tuple[str, ...] = ()
    """The checks that have to speak first, by id: this one may ask what they found. ALL_OTHERS for what
    comes last."""
    avoid: str = field(default="")
    explains: tuple[str, ...] = ()
    """The roles of its subjects of whose movement of money its point is the one explanation."""
    follows: tuple[str, ...] = ()
    """The checks of whose points one of this is only a consequence, where they speak of the same entry."""
    assumes: bool = False
    """It may take an account for what it looks like (`evidence/account_kind.py`): what it finds so is less
    certain, and says why."""

    def point(
        self,
        books: Books,
        *,
        subjects: Mapping[str, tuple[str, ...]],
        amount: Minor,
        certainty: float,
        summary: str,
        short: str,
        because: tuple[str, ...],
        against: tuple[str, ...] = (),
        related: tuple[str, ...] = (),
        bank: Mapping[str, tuple[StatementLine, ...]] | None = None,
        account: str | None = None,
        about: Mapping[str, tuple[str, ...]] | None = None,
        hints: Mapping[str, str] | None = None,
        remedy: Remedy | None = None,
        routes: tuple[str, ...] | None = None,
    ) -> Point:
        """A point of this check. *related* are transactions that bear on it without being it.

        *bank*: the statement lines that it is about, by role. *account*: the bank account, where it is
        about one. *about*: what else it is about that is no transaction (a party, a month), by role.
        *hints*: for the routes; *remedy*: an entry or a move that is worked out, of which they are made.
        *routes*: where they are not those of the check.
        """
        entries = tuple((role, name) for role, names in subjects.items() for name in names)
        lines = [line for found in (bank or {}).values() for line in found]
        shown = [(role, line.id) for role, found in (bank or {}).items() for line in found]
        shown += [(role, name) for role, names in (about or {}).items() for name in names]
        pairs = entries + tuple(shown)
        identity = json.dumps([self.id, sorted(pairs)])
        bearing = [name for name in related if name not in books.never_was]
        transactions = tuple(dict.fromkeys([name for _, name in entries] + bearing))
        seen = [books.transactions[name] for name in transactions]
        own = [line for posted in seen for line in posted.lines]
        return Point(
            id=f"p-{hashlib.sha256(identity.encode()).hexdigest()[:12]}",
            check=self.id,
            certainty=round(certainty, 2),
            amount=abs(amount),
            transactions=transactions,
            accounts=tuple(
                sorted({line.account for line in own} | ({account} if account else set()))
            ),
            parties=tuple(sorted({line.party for line in own if line.party})),
            summary=summary,
            short=short,
            because=because,
            against=against,
            subjects=pairs,
            facts=facts_of(amount, certainty, seen, lines),
            routes=self.routes if routes is None else routes,
            statement_lines=tuple(line.id for line in lines),
            hints=tuple(sorted({**(remedy.hints() if remedy else {}), **(hints or {})}.items())),
        )

    def on_account(
        self, books: Books, code: str, rows: Iterable[Transaction], **said: Any
    ) -> Point:
        """One point for an account, and none for each of its *rows*: one cause is one point (handbook,
        section 6). *said*: the rest of what `point` takes."""
        shown = tuple(posted.id for posted in islice(rows, SHOWN))
        about = {"account": (code,)}
        return self.point(books, subjects={}, about=about, account=code, related=shown, **said)
