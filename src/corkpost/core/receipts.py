"""Receipts: what a party is given for money that came in from them (a supplier's refund too)."""

from collections.abc import Iterator
from datetime import date
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItems
from corkpost.core.refusals import Refusal

MONEY_IN = frozenset(
    {AccountRole.BANK, AccountRole.CASH, AccountRole.UNBANKED, AccountRole.CARD_CLEARING}
)


class Method(StrEnum):
    """How money was received."""

    TRANSFER = "bank transfer"
    CASH = "cash"
    CHEQUE = "cheque"
    CARD = "card"


class Settles(NamedTuple):
    """What a part of the money settles: the document's reference, day, and how much of it."""

    reference: str
    day: date
    amount: Minor


class Receipt(NamedTuple):
    """*amount*: positive; *settles* and *on_account* add up to it. *party*: its name."""

    transaction: str
    received_on: date
    party: str
    amount: Minor
    method: Method
    reference: str | None
    settles: tuple[Settles, ...]
    on_account: Minor


class NoReceipt(Refusal):
    title = "No receipt for this"


def brings_money_in(books: Books, posted: Transaction) -> bool:
    """Whether a receipt can be issued for it: money came in from one party, and it stands."""
    return (
        sum(line.amount for line in _money_lines(books, posted)) > 0
        and len(_parties(books, posted)) == 1
        and not books.is_taken_back(posted.id)
        and not books.is_void(posted.id)
    )


def receipt_of(
    books: Books, items: OpenItems, posted: Transaction, method: Method | None = None
) -> Receipt:
    """The receipt for a transaction as its allocations stand. Raises NoReceipt."""
    if not brings_money_in(books, posted):
        raise NoReceipt(
            f"{posted.id} brings no money in from one party, or it was taken back: there is "
            "nothing to give a receipt for."
        )
    (party,) = _parties(books, posted)
    credited = -sum(line.amount for line in _control_lines(books, posted))
    amount = credited if credited > 0 else sum(li.amount for li in _money_lines(books, posted))
    settles = tuple(_settled(books, items, posted)) if credited > 0 else ()
    told = sum(part.amount for part in settles)
    if credited <= 0:
        # Money that met no open item: a sale paid at once, for which the paper names itself.
        settles, told = (Settles(posted.reference or posted.id, posted.day, amount),), amount
    return Receipt(
        transaction=posted.id,
        received_on=posted.posting_date,
        party=books.party_name(party),
        amount=amount,
        method=method or _method(books, posted),
        reference=posted.reference,
        settles=settles,
        on_account=amount - told,
    )


def _money_lines(books: Books, posted: Transaction) -> list[Line]:
    return [line for line in posted.lines if books.accounts[line.account].role in MONEY_IN]


def _control_lines(books: Books, posted: Transaction) -> list[Line]:
    return [line for line in posted.lines if line.account in books.control_accounts]


def _parties(books: Books, posted: Transaction) -> set[str]:
    """Who it is from: the parties of its open items, else its own."""
    named = {line.party for line in _control_lines(books, posted) if line.party}
    return named or ({posted.party} if posted.party else set())


def _settled(books: Books, items: OpenItems, posted: Transaction) -> Iterator[Settles]:
    for row in items.standing_on(posted.id):
        if row.credit_transaction == posted.id:
            other = books.transactions.get(row.debit_transaction)
            if other is not None:
                yield Settles(other.reference or other.id, other.day, row.amount)


def _method(books: Books, posted: Transaction) -> Method:
    """What the accounts say; where they leave it open, what the text says."""
    roles = {books.accounts[line.account].role for line in _money_lines(books, posted)}
    if AccountRole.CARD_CLEARING in roles:
        return Method.CARD
    if AccountRole.CASH in roles:
        return Method.CASH
    words = f"{posted.memo or ''} {posted.reference or ''}".casefold()
    if "cheque" in words or "chq" in words:
        return Method.CHEQUE
    if AccountRole.UNBANKED in roles:
        return Method.CASH if "cash" in words else Method.CHEQUE
    return Method.TRANSFER
