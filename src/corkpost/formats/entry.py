"""An accountant's entry as JSON: what the composer sends and the command line reads."""

import json
from datetime import date as Day
from typing import Annotated

from pydantic import ConfigDict, Field, ValidationError

from corkpost.core.entries import EntryLine, EntryRequest
from corkpost.core.kinds import EntryKind
from corkpost.core.money import Currency, Minor, NotAnAmount
from corkpost.core.refusals import BadEntry
from corkpost.core.tax import TaxTreatment
from corkpost.formats.shape import Shape

Text = Annotated[str, Field(max_length=2000)]


class KeyedLine(Shape):
    """A line as keyed: exactly one of debit and credit, a plain positive decimal."""

    model_config = ConfigDict(extra="forbid")

    account: Text
    debit: Text | None = None
    credit: Text | None = None
    party: Text | None = None
    tax_code: Text | None = None
    tax: TaxTreatment = TaxTreatment.NONE
    text: Text | None = None
    dimensions: dict[str, str] = Field(default_factory=dict)


class KeyedEntry(Shape):
    model_config = ConfigDict(extra="forbid")

    kind: EntryKind
    date: Day
    reason: Text = ""
    reverse_on: Day | None = None
    reference: Text | None = None
    document_date: Day | None = None
    due_date: Day | None = None
    lines: Annotated[list[KeyedLine], Field(max_length=1000)]


def read_entry(content: bytes) -> KeyedEntry:
    """The entry in this JSON. Raises BadEntry with each fault at its place."""
    try:
        return KeyedEntry.model_validate(json.loads(content))
    except ValidationError as wrong:
        raise BadEntry(
            f"{'.'.join(map(str, fault['loc']))}: {fault['msg']}." for fault in wrong.errors()
        ) from None
    except ValueError as wrong:
        raise BadEntry([f"That is no JSON: {wrong}."]) from None


def request_of(keyed: KeyedEntry, currency: Currency) -> EntryRequest:
    """The entry in the books' currency. Raises BadEntry with each line's fault."""
    faults: list[str] = []
    lines = []
    for number, line in enumerate(keyed.lines, 1):
        try:
            lines.append(_line(line, currency))
        except NotAnAmount as wrong:
            faults.append(f"Line {number}: {wrong}.")
    if faults:
        raise BadEntry(faults)
    return EntryRequest(
        kind=keyed.kind,
        posting_date=keyed.date,
        reason=keyed.reason,
        document_date=keyed.document_date,
        due_date=keyed.due_date,
        lines=tuple(lines),
        reverse_on=keyed.reverse_on,
        reference=keyed.reference,
    )


def _line(line: KeyedLine, currency: Currency) -> EntryLine:
    pairs = ";".join(f"{name}={code}" for name, code in sorted(line.dimensions.items()))
    return EntryLine(
        account=line.account,
        amount=_amount(line, currency),
        party=line.party or None,
        tax_code=line.tax_code or None,
        tax=line.tax,
        description=line.text or None,
        dimensions=pairs or None,
    )


def _amount(line: KeyedLine, currency: Currency) -> Minor:
    if bool(line.debit) is bool(line.credit):
        raise NotAnAmount("fill exactly one of debit and credit")
    amount = currency.parse(line.debit or line.credit or "")
    if amount < 0:
        raise NotAnAmount("the amount is below nil: put it on the other side")
    return amount if line.debit else -amount
