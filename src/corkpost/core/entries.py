"""Entries that the accountant writes, and the mirror that reverses one (handbook, section 8)."""

from collections.abc import Iterator, Sequence
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction, opposite
from corkpost.core.branches import apart_by_branch, balancing_lines
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.chart.marking import mark_faults
from corkpost.core.evidence.references import folded
from corkpost.core.foreign import foreign_accounts
from corkpost.core.formatting import format_date
from corkpost.core.kinds import EntryKind
from corkpost.core.money import Minor, Money
from corkpost.core.plan_rules import control_fault, private_fault, stock_fault
from corkpost.core.refusals import BadEntry
from corkpost.core.tax import TaxTreatment, split, with_tax_dates

WRITTEN_BY_HAND = (EntryKind.ADJUSTING, EntryKind.CORRECTING, EntryKind.RECLASSIFYING)


class EntryLine(NamedTuple):
    """A line as it was keyed. *amount* is debit positive; *foreign*: what it is in another currency."""

    account: str
    amount: Minor
    party: str | None = None
    tax_code: str | None = None
    tax: TaxTreatment = TaxTreatment.NONE
    description: str | None = None
    dimensions: str | None = None
    foreign: Money | None = None


class EntryRequest(NamedTuple):
    kind: EntryKind
    posting_date: date
    reason: str
    lines: tuple[EntryLine, ...]
    reverse_on: date | None = None
    reference: str | None = None
    document_date: date | None = None
    due_date: date | None = None


def plan_entry(books: Books, request: EntryRequest) -> Plan:
    """The entry, and its mirror when it is to reverse. Raises BadEntry with every fault at once."""
    return plan_entries(books, (request,), request.reason)


def plan_entries(
    books: Books, requests: Sequence[EntryRequest], reason: str, *, counts_stock: bool = False
) -> Plan:
    """The entries in their order, each followed by its mirror when it is to reverse. *counts_stock*: they
    bring stock to a count. Raises BadEntry with every fault at once."""
    faults = [fault for request in requests for fault in _faults(books, request, counts_stock)]
    if faults:
        raise BadEntry(dict.fromkeys(faults))
    entries: list[Transaction] = []
    warnings: list[str] = []
    writer = AllocationWriter(books)
    for request in requests:
        entry = _entry(books, request, new_entry(len(entries) + 1))
        entries.append(entry)
        warnings += _warnings(books, request, entry)
        if request.reverse_on:
            mirror = _mirror(books, entry, request.reverse_on, new_entry(len(entries) + 1))
            entries.append(mirror)
            writer.settle_each_other(entry, mirror)
    return Plan(
        kind=ChangeKind.ENTRY,
        entries=tuple(entries),
        allocations=tuple(writer.rows),
        proposed_reason=reason,
        notes=tuple(dict.fromkeys(note for request in requests for note in _notes(books, request))),
        warnings=tuple(dict.fromkeys(warnings)),
        counts_stock=counts_stock,
    )


def _entry(books: Books, request: EntryRequest, plan_id: str) -> Transaction:
    lines = [part for keyed in request.lines for part in split(books, line_of(keyed), keyed.tax)]
    lines += balancing_lines(books, tuple(lines))
    numbered = tuple(line._replace(number=number) for number, line in enumerate(lines, 1))
    entry = entry_of(plan_id, request.posting_date, request.kind)
    parties = {line.party for line in numbered if line.party}
    return entry._replace(
        lines=with_tax_dates(books, numbered, request.posting_date),
        reference=request.reference,
        document_date=request.document_date,
        due_date=request.due_date,
        party=parties.pop() if len(parties) == 1 else None,
        memo=request.reason or None,
    )


def line_of(keyed: EntryLine) -> Line:
    """The line without a place in its entry yet, before its tax is split off."""
    return Line(
        number=0,
        account=keyed.account,
        amount=keyed.amount,
        party=keyed.party,
        tax_code=keyed.tax_code,
        description=keyed.description,
        dimensions=keyed.dimensions,
        currency=keyed.foreign.currency.code if keyed.foreign else None,
        foreign_amount=keyed.foreign.plain if keyed.foreign else None,
    )


def _mirror(books: Books, entry: Transaction, reverse_on: date, plan_id: str) -> Transaction:
    mirror = entry_of(plan_id, reverse_on, EntryKind.REVERSING, entry)
    return mirror._replace(
        lines=with_tax_dates(books, opposite(entry.lines), reverse_on),
        memo=entry.memo,
        reverses=entry.id,
    )


def _notes(books: Books, request: EntryRequest) -> Iterator[str]:
    if apart_by_branch(books, (line_of(line) for line in request.lines)):
        yield "what it moves between branches stands on the account between them, so that each balances"
    if request.reverse_on:
        yield (
            f"reverses by itself on {format_date(request.reverse_on)}: the mirror is made with it and "
            "follows if this entry is taken back"
        )


def _faults(books: Books, request: EntryRequest, counts_stock: bool) -> Iterator[str]:
    if request.kind not in WRITTEN_BY_HAND:
        yield f"An entry of kind {request.kind} is made by the program, not by hand."
    if request.reverse_on and request.reverse_on <= request.posting_date:
        yield "The reversal must be dated after the entry."
    if request.due_date and request.due_date < (request.document_date or request.due_date):
        yield "It can't be due before the day on its paper."
    if len(request.lines) < 2:
        yield "An entry has at least two lines."
    for number, line in enumerate(request.lines, 1):
        yield from (
            f"Line {number}: {fault}"
            for fault in line_faults(books, line, counts_stock=counts_stock)
        )


def line_faults(books: Books, line: EntryLine, *, counts_stock: bool = False) -> Iterator[str]:
    """What is wrong with one line, whatever the others are. *counts_stock*: it brings stock to a count."""
    account = books.accounts.get(line.account)
    if account is None:
        yield f"there is no account {line.account!r} in the chart."
    else:
        stock = None if counts_stock else stock_fault(account)
        faults = (control_fault(account, line.party), stock, private_fault(account))
        yield from (fault for fault in faults if fault)
        yield from mark_faults(books, line_of(line))
    if line.foreign and line.tax is not TaxTreatment.NONE:
        yield "an amount in another currency takes no tax with it: key the tax on a line of its own."
    if not line.amount:
        yield "the amount is nil: give a debit or a credit."
    if line.party is not None and line.party not in books.parties:
        yield f"there is no party {line.party!r} in the books."
    if line.tax_code is not None and line.tax_code not in books.taxes:
        yield f"there is no tax code {line.tax_code!r} in the books."
    yield from _currency_faults(books, line)
    yield from dimension_faults(books, line.dimensions)


def _currency_faults(books: Books, line: EntryLine) -> Iterator[str]:
    kept = foreign_accounts(books).get(line.account)
    if line.foreign and kept and line.foreign.currency != kept:
        yield f"the account is kept in {kept.code}, not in {line.foreign.currency.code}."


def dimension_faults(books: Books, dimensions: str | None) -> Iterator[str]:
    """Which of the `name=code` pairs are none of the books', in words."""
    known = {(row.dimension, row.code) for row in books.tables.dimensions}
    for pair in (dimensions or "").split(";"):
        name, _, code = pair.partition("=")
        if pair and (name, code) not in known:
            yield f"there is no {name!r} {code!r} among the dimensions of the books."


def _warnings(books: Books, request: EntryRequest, entry: Transaction) -> Iterator[str]:
    yield from _repeated_reference(books, request)
    yield from _same_paper(books, entry)
    amounts = sorted((line.account, line.amount, line.party or "") for line in entry.lines)
    for posted in books.posted_on(request.posting_date):
        if (
            posted.entry_kind is request.kind
            and posted.posting_date == request.posting_date
            and not books.is_taken_back(posted.id)
            and amounts == sorted((x.account, x.amount, x.party or "") for x in posted.lines)
        ):
            yield f"{posted.id} of the same date has the same lines. Is this meant to stand twice?"


def _same_paper(books: Books, entry: Transaction) -> Iterator[str]:
    """A paper of that number that its party has in the books already, however it was keyed."""
    number = folded(entry.reference)
    for posted in books.of_party(entry.party) if entry.party else ():
        same = posted.change is None and posted.party == entry.party is not None
        if number and same and folded(posted.reference) == number:
            yield (
                f"{books.party_name(posted.party)} has {posted.reference} of "
                f"{format_date(posted.day)} in the "
                f"books already, {books.client.currency.format_amount(posted.total)}. Is it the same paper?"
            )
            return


def _repeated_reference(books: Books, request: EntryRequest) -> Iterator[str]:
    if request.reference:
        for posted in books.ours:
            if posted.reference == request.reference:
                yield f"{posted.id} has the reference {request.reference} already."
                return
