"""Many at once: what stands on an account goes to another account, tax code or dimension in one change."""

from collections.abc import Iterator
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import Account, Books, Line, PriorPart, Transaction, opposite
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import ProfitPart, dated
from corkpost.core.entries import dimension_faults
from corkpost.core.kinds import CONTROL_ROLES, AccountRole, EntryKind, TransactionKind
from corkpost.core.money import Minor, rounded
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.tax import TaxTreatment, split

ROUTE = "recode"
MOST = 2_000


class Recode(NamedTuple):
    """The lines on *account* of these transactions. *to_account*, *tax_code*, *dimensions*: what they get;
    None where that stays, an empty text where it is taken away."""

    transactions: tuple[str, ...]
    account: str
    to_account: str | None = None
    tax_code: str | None = None
    dimensions: str | None = None
    profit: ProfitPart = ProfitPart.BY_MATERIALITY


def plan_recode(books: Books, wanted: Recode) -> Plan:
    """A correcting entry for each transaction, dated by the rule, all in one change. Raises BadEntry with
    every fault, UnknownName, or NothingToDo."""
    _refuse(books, wanted)
    entries: list[Transaction] = []
    notes: list[str] = []
    parts: list[PriorPart] = []
    for name in dict.fromkeys(wanted.transactions):
        posted = books.transaction(name)
        lines = list(_moved(books, posted, wanted))
        if not lines:
            continue
        correction = dated(books, posted, lines, wanted.profit)
        entry = entry_of(
            new_entry(len(entries) + 1), correction.posting_date, EntryKind.CORRECTING, posted
        )
        entries.append(
            entry._replace(lines=correction.lines, memo=f"{posted.id} recoded", corrects=posted.id)
        )
        notes += correction.notes
        parts += correction.prior_parts
    if not entries:
        raise NothingToDo("All of them stand so already.")
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE,
        entries=tuple(entries),
        allocations=(),
        proposed_reason=_reason(books, wanted, len(entries)),
        notes=tuple(dict.fromkeys(notes)) if len(entries) == 1 else (),
        prior_parts=tuple(parts),
        about=tuple(entry.corrects or "" for entry in entries[:4]),
    )


def _reason(books: Books, wanted: Recode, count: int) -> str:
    to = [books.account(wanted.to_account).name] if wanted.to_account else []
    to += [wanted.tax_code or "no tax"] if wanted.tax_code is not None else []
    to += [wanted.dimensions or "no dimension"] if wanted.dimensions is not None else []
    return f"{count} of {books.account(wanted.account).name} moved to {', '.join(to)}."


def _refuse(books: Books, wanted: Recode) -> None:
    faults = []
    account = books.account(wanted.account)
    if account.role in (*CONTROL_ROLES, AccountRole.STOCK, AccountRole.TAX):
        faults.append(
            f"What stands on {account.name} is not recoded: correct each by its own route."
        )
    if wanted.to_account is None and wanted.tax_code is None and wanted.dimensions is None:
        faults.append("Say what they get: an account, a tax code or a dimension.")
    if wanted.to_account is not None:
        books.account(wanted.to_account)
    if wanted.tax_code and wanted.tax_code not in books.taxes:
        faults.append(f"There is no tax code {wanted.tax_code!r} in the books.")
    faults += [f"{fault}" for fault in dimension_faults(books, wanted.dimensions)]
    if not 1 <= len(wanted.transactions) <= MOST:
        faults.append(f"Choose 1 to {MOST:,} of them.")
    for name in wanted.transactions:
        faults += _faults_of(books, books.transaction(name), account)
    if faults:
        raise BadEntry(faults[:100])


def _faults_of(books: Books, posted: Transaction, account: Account) -> Iterator[str]:
    """Why what it has on the account is not recoded: as for what a person picks for a route."""
    if posted.change is not None:
        yield f"{posted.id} is an entry of ours: take its change back, and post it anew."
    elif posted.kind in (TransactionKind.CLOSING, TransactionKind.OPENING):
        yield f"{posted.id} is no document: what it carried is not recoded."
    elif books.is_answered(posted.id):
        by = ", ".join(own.id for own in books.corrections.get(posted.id, ())) or "its mirror"
        yield f"{posted.id} is put right by {by} already: take that back first."
    elif all(line.account != account.code for line in posted.lines):
        yield f"{posted.id} has nothing on {account.name}."


def _moved(books: Books, posted: Transaction, wanted: Recode) -> Iterator[Line]:
    """Each line's opposite, with its tax where the code becomes another, and the line as it shall be."""
    for line in posted.lines:
        if line.account != wanted.account:
            continue
        to = line._replace(
            account=wanted.to_account or line.account,
            tax_code=line.tax_code if wanted.tax_code is None else wanted.tax_code or None,
            dimensions=line.dimensions if wanted.dimensions is None else wanted.dimensions or None,
        )
        if to == line:
            continue
        yield from opposite([line])
        if to.tax_code == line.tax_code:
            yield to
            continue
        tax = list(_tax_of(books, posted, line))
        yield from opposite(tax)
        gross = to._replace(amount=line.amount + sum(own.amount for own in tax))
        yield from split(books, gross, TaxTreatment.INCLUDED)


def _tax_of(books: Books, posted: Transaction, line: Line) -> Iterator[Line]:
    """The tax on the line: its part of the transaction's tax lines of that code."""
    net = sum(
        x.amount for x in posted.lines if x.tax_code == line.tax_code and not _is_tax(books, x)
    )
    for own in posted.lines:
        if _is_tax(books, own) and own.tax_code == line.tax_code is not None and net:
            yield own._replace(amount=_part(own.amount, line.amount, net))


def _is_tax(books: Books, line: Line) -> bool:
    return books.accounts[line.account].role is AccountRole.TAX


def _part(tax: Minor, own: Minor, net: Minor) -> Minor:
    return rounded(Fraction(tax * own, net))
