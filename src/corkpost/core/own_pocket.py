"""own-pocket: records a cost, or pays a bill, that an owner paid privately; tax reclaimed where the
receipt supports it (handbook, sections 3 and 7)."""

from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books, Line
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.kinds import OWNER_ROLES, EntryKind
from corkpost.core.money import Minor
from corkpost.core.open_items import open_items
from corkpost.core.owners import chosen_owner_account
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.tax import TaxTreatment, split, with_tax_dates

ROUTE = "own-pocket"


class OwnPocket(NamedTuple):
    """What an owner paid. *gross* positive, tax in it. Either a cost on *account*, or open *bills*."""

    day: date
    gross: Minor
    account: str | None = None
    tax_code: str | None = None
    bills: tuple[str, ...] = ()
    owner_account: str | None = None
    text: str = ""


def plan_own_pocket(books: Books, paid: OwnPocket) -> Plan:
    """Dr cost and tax, or the supplier, Cr the owner's account that the kind of entity names.

    Raises BadEntry, UnknownName, MissingAccount, or BarredDate on posting.
    """
    if paid.gross <= 0:
        raise BadEntry(["Say how much was paid, above nil."])
    owner = chosen_owner_account(books, paid.owner_account, comes_in=True)
    code = owner.code
    if owner.role not in OWNER_ROLES:
        raise UnknownName("owner's account", code)
    on_owner = Line(0, code, -paid.gross)
    if paid.bills:
        return _bills(books, paid, on_owner)
    if not paid.account:
        raise BadEntry(["Choose the cost, or the bill, that was paid."])
    if books.account(paid.account).is_control:
        raise BadEntry(["That is a control account: choose the open bill instead."])
    if paid.tax_code and paid.tax_code not in books.taxes:
        raise UnknownName("tax code", paid.tax_code)
    cost = Line(0, paid.account, paid.gross, tax_code=paid.tax_code, description=paid.text or None)
    treatment = TaxTreatment.INCLUDED if paid.tax_code else TaxTreatment.NONE
    what = paid.text or books.accounts[paid.account].name
    return _plan(books, paid, [*split(books, cost, treatment), on_owner], what)


def _bills(books: Books, paid: OwnPocket, on_owner: Line) -> Plan:
    items = open_items(books)
    own = [
        item
        for name in paid.bills
        for item in items.by_transaction.get(books.transaction(name).id, ())
        if items.open_now[item.key] < 0 and item.party is not None
    ]
    if not own:
        raise UnknownName("open bill", ", ".join(paid.bills))
    if len({(item.account, item.party) for item in own}) > 1:
        raise BadEntry(["The bills are of several suppliers: record each supplier's apart."])
    if paid.gross > -sum(items.open_now[item.key] for item in own):
        raise BadEntry(["More was paid than is open of those bills: record the rest apart."])
    first = own[0]
    lines = [Line(0, first.account, paid.gross, party=first.party), on_owner]
    shown = ", ".join(item.transaction.reference or item.transaction.id for item in own)
    made = _plan(books, paid, lines, f"{shown} of {books.party_name(first.party)}")
    entry = made.entries[0]._replace(party=first.party)
    writer = AllocationWriter(books)
    left = paid.gross
    for item in own:
        part = min(left, -items.open_now[item.key])
        left -= part
        if part:
            writer.between(item.party or "", item.transaction, entry, -part)
    return Plan(
        kind=made.kind,
        route=ROUTE,
        entries=(entry,),
        allocations=tuple(writer.rows),
        proposed_reason=made.proposed_reason,
    )


def _plan(books: Books, paid: OwnPocket, lines: list[Line], what: str) -> Plan:
    numbered = tuple(line._replace(number=n) for n, line in enumerate(lines, 1))
    entry = entry_of(new_entry(1), paid.day, EntryKind.CORRECTING)._replace(
        lines=with_tax_dates(books, numbered, paid.day), memo=f"{what}, paid privately"
    )
    return Plan(
        kind=ChangeKind.ENTRY,
        route=ROUTE,
        entries=(entry,),
        allocations=(),
        proposed_reason=f"{what}: paid by the owner from their own pocket.",
    )
