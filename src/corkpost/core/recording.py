"""A statement line told as what it is: one account or document, or several parts that add up to it."""

import json
from collections.abc import Iterator, Mapping, Sequence
from typing import Any, NamedTuple

from corkpost.core.books import Books, Line
from corkpost.core.entries import dimension_faults
from corkpost.core.keying import keyed_amount
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor, NotAnAmount
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.statements import StatementLine
from corkpost.core.tax import TaxTreatment, split

MOST_PARTS = 40
FIELDS = ("account", "party", "tax_code", "dimensions", "items", "text", "amount")


class Part(NamedTuple):
    """A part of a statement line. *amount* counts in the line's direction: what goes the other way,
    as a fee kept out of a receipt, is below nil. *items*: the open items that it settles."""

    account: str
    amount: Minor
    party: str | None = None
    tax_code: str | None = None
    dimensions: str | None = None
    items: tuple[OpenItem, ...] = ()
    text: str | None = None


def parts_of(books: Books, line: StatementLine, settings: Mapping[str, str]) -> tuple[Part, ...]:
    """What the settings tell of the line: `parts` as a JSON list, or the fields of the only one.

    The last part's amount may be left out: it is the remainder. Raises BadEntry with every fault,
    or UnknownName.
    """
    told: Sequence[Mapping[str, str]] = _told(settings)
    amounts = list(_amounts(books, line, told))
    several = len(told) > 1
    parts = [
        _part(books, row, amount, f"Part {number}: choose" if several else "Choose")
        for number, (row, amount) in enumerate(zip(told, amounts, strict=True), 1)
    ]
    faults = [
        f"Part {number}: {fault}" if several else fault
        for number, part in enumerate(parts, 1)
        for fault in _faults(books, part)
    ]
    named = [item.key for part in parts for item in part.items]
    if len(named) > len(set(named)):
        faults.append("A document is named in two parts: let one part settle it.")
    total, wanted = sum(part.amount for part in parts), abs(line.amount)
    if total != wanted and not faults:
        words = books.client.currency.format_amount
        faults.append(
            f"The parts come to {words(total)}, the line is {words(wanted)}: "
            f"{words(abs(wanted - total))} {'is still to be told' if total < wanted else 'too much'}."
        )
    if faults:
        raise BadEntry(faults)
    return tuple(parts)


def _told(settings: Mapping[str, str]) -> Sequence[Mapping[str, str]]:
    if not settings.get("parts"):
        return [{name: settings.get(name, "") for name in FIELDS if name != "amount"}]
    try:
        found: Any = json.loads(settings["parts"])
        told = [{name: str(row.get(name) or "") for name in FIELDS} for row in found]
    except (ValueError, AttributeError, TypeError):
        raise BadEntry(["The parts can't be read: send a list of them."]) from None
    if not 1 <= len(told) <= MOST_PARTS:
        raise BadEntry([f"A line is told in 1 to {MOST_PARTS} parts."])
    return told


def _amounts(
    books: Books, line: StatementLine, told: Sequence[Mapping[str, str]]
) -> Iterator[Minor]:
    """What was keyed; what is left for the last where it is not."""
    left = abs(line.amount)
    for number, row in enumerate(told, 1):
        text = row.get("amount", "").strip()
        if not text and number == len(told):
            yield left
            return
        try:
            amount = keyed_amount(text, books.client.currency)
        except NotAnAmount as wrong:
            raise BadEntry([f"Part {number}: {wrong}."]) from None
        left -= amount
        yield amount


def _part(books: Books, told: Mapping[str, str], amount: Minor, choose: str) -> Part:
    items = tuple(_items(books, told["items"])) if told.get("items") else ()
    if not items and not told["account"]:
        raise BadEntry([f"{choose} the account that it belongs on, or what it settles."])
    account = items[0].account if items else books.account(told["account"]).code
    party = items[0].party if items else told["party"] or None
    if party is not None and party not in books.parties:
        raise UnknownName("party", party)
    tax_code = told["tax_code"] or None
    if tax_code is not None and tax_code not in books.taxes:
        raise UnknownName("tax code", tax_code)
    return Part(
        account,
        amount,
        party,
        None if items else tax_code,
        told["dimensions"] or None,
        items,
        told["text"] or None,
    )


def _items(books: Books, names: str) -> Iterator[OpenItem]:
    found = [
        item
        for name in names.split(",")
        for item in open_items(books).by_transaction.get(books.transaction(name.strip()).id, ())
        if item.party is not None
    ]
    if not found:
        raise UnknownName("open item", names)
    if len({(item.account, item.party) for item in found}) > 1:
        raise BadEntry(
            ["The items belong to several parties: settle each party's with a part of the line."]
        )
    yield from found


def _faults(books: Books, part: Part) -> Iterator[str]:
    account = books.accounts[part.account]
    if account.is_control and part.party is None:
        yield f"{account.name} is a control account: name the party."
    if account.role is AccountRole.PRIVATE:
        yield (
            f"{account.name} is private and does not belong in the books: choose the owner's account."
        )
    if not part.amount:
        yield "the amount is nil."
    yield from dimension_faults(books, part.dimensions)


def lines_of_parts(
    books: Books, line: StatementLine, account: str, parts: Sequence[Part]
) -> list[Line]:
    """The bank's line and those of the parts, the tax within each split off. Raises BadEntry for a
    part on the bank account itself."""
    lines = [Line(0, account, line.amount)]
    sign = -1 if line.amount > 0 else 1
    for part in parts:
        if part.account == account:
            raise BadEntry(
                ["That is the bank account itself: choose where the money went or came from."]
            )
        is_control = books.accounts[part.account].is_control
        coded = Line(
            0,
            part.account,
            sign * part.amount,
            part.party if is_control else None,
            part.tax_code,
            part.text if len(parts) > 1 else None,
            part.dimensions,
        )
        treatment = TaxTreatment.INCLUDED if part.tax_code else TaxTreatment.NONE
        lines += split(books, coded, treatment)
    return lines


def number_used(books: Books, account: str, reference: str | None) -> Iterator[str]:
    """Who bears that number already among what moves the account, in words (a cheque is one's own)."""
    wanted = (reference or "").strip()
    if not wanted:
        return
    for posted, _ in books.lines_on(account):
        if posted.reference == wanted and not books.is_void(posted.id):
            yield (
                f"{posted.id} of {posted.posting_date:%-d %B %Y} on this account has the number "
                f"{wanted} already. Two payments don't share a number: look at both."
            )
            return
