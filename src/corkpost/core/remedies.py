"""What a check worked out for the routes: an entry drafted as far as the facts go, or lines to be moved.

A point keeps it as hints, which are text by name, because points are kept with what was decided about them.
"""

import json
from collections.abc import Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.books import PriorPart
from corkpost.core.kinds import EntryKind
from corkpost.core.money import Minor
from corkpost.core.points import Point


class Side(NamedTuple):
    """A line that is worked out, debit positive. *account*: empty where a person is asked for it."""

    account: str
    amount: Minor
    party: str | None = None
    tax_code: str | None = None
    dimensions: str | None = None


class LoanSplit(NamedTuple):
    """Instalments whose interest is asked for. *most*: what they come to, of which interest is a part.
    *interest*: the account of interest, empty where the chart has none."""

    loan: str
    interest: str
    most: Minor


class DraftEntry(NamedTuple):
    """An entry for `adjust`. *account*: proposed where a line leaves its own open, which *asks* tells.

    *reverse_on*: the day of its mirror. *answers*: the transaction that it corrects. *prior*: what it does
    to the profit of an earlier year, where it stands in what was kept of that. *about*: what is looked at
    beside it. *counts_stock*: it brings stock to what was counted.
    """

    on: date
    sides: tuple[Side, ...]
    title: str
    reason: str
    kind: EntryKind = EntryKind.ADJUSTING
    reverse_on: date | None = None
    asks: bool = False
    account: str = ""
    answers: str = ""
    about: tuple[str, ...] = ()
    prior: PriorPart | None = None
    counts_stock: bool = False
    loan: LoanSplit | None = None

    def hints(self) -> Mapping[str, str]:
        """As a point keeps it."""
        found = {
            "date": self.on.isoformat(),
            "lines": json.dumps(self.sides),
            "title": self.title,
            "reason": self.reason,
            "kind": "" if self.kind is EntryKind.ADJUSTING else self.kind,
            "reverse_on": self.reverse_on.isoformat() if self.reverse_on else "",
            "asks": "account" if self.asks else "",
            "account": self.account,
            "answers": self.answers,
            "about": ",".join(self.about),
            "prior": json.dumps(self.prior) if self.prior else "",
            "recipe": "stock" if self.counts_stock else "",
        }
        if self.loan:
            found |= {
                "recipe": "loan",
                "loan": self.loan.loan,
                "interest": self.loan.interest,
                "most": str(self.loan.most),
            }
        return {name: text for name, text in found.items() if text}


def draft_of(point: Point) -> DraftEntry | None:
    """The entry that the point's check drafted; None where it drafted none."""
    hint = point.hint
    if not hint("lines"):
        return None
    is_loan = hint("recipe") == "loan"
    return DraftEntry(
        on=date.fromisoformat(hint("date")),
        sides=tuple(Side(*row) for row in json.loads(hint("lines"))),
        title=hint("title") or "Post the adjusting entry",
        reason=hint("reason") or point.summary,
        kind=EntryKind(hint("kind") or EntryKind.ADJUSTING),
        reverse_on=date.fromisoformat(hint("reverse_on")) if hint("reverse_on") else None,
        asks=bool(hint("asks")),
        account=hint("account"),
        answers=hint("answers"),
        about=tuple(filter(None, hint("about").split(","))),
        prior=PriorPart(*json.loads(hint("prior"))) if hint("prior") else None,
        counts_stock=hint("recipe") == "stock",
        loan=LoanSplit(hint("loan"), hint("interest"), int(hint("most"))) if is_loan else None,
    )


class Moving(NamedTuple):
    """Lines for `reclassify`. *account*: proposed where a side leaves its own open, which *asks* tells.
    *leaves*: the control account that they are taken off without a party, because they had none."""

    sides: tuple[Side, ...]
    title: str
    reason: str
    asks: bool = False
    account: str = ""
    leaves: str = ""

    def hints(self) -> Mapping[str, str]:
        """As a point keeps it."""
        found = {
            "moves": json.dumps(self.sides),
            "title": self.title,
            "reason": self.reason,
            "asks": "account" if self.asks else "",
            "account": self.account,
            "from": self.leaves,
        }
        return {name: text for name, text in found.items() if text}


def moving_of(point: Point) -> Moving | None:
    """The lines that the point's check worked out to be moved; None where it worked out none."""
    hint = point.hint
    if not hint("moves"):
        return None
    return Moving(
        sides=tuple(Side(*row) for row in json.loads(hint("moves"))),
        title=hint("title") or "Move it",
        reason=hint("reason") or point.summary,
        asks=bool(hint("asks")),
        account=hint("account"),
        leaves=hint("from"),
    )


Remedy = DraftEntry | Moving
