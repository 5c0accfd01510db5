"""duplicate-payment: a bill really paid twice: both payments are at the bank, one is left over.

Keeps quiet: about a payment on account; while the supplier has other open bills of that sum; where the
statements show only one of the two.
"""

from collections.abc import Iterator

from corkpost.core.bank.sides import bank_accounts, bank_sides
from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import MONEY_ROLES, TransactionKind
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.points import Check, Family, Look, Point
from corkpost.core.refusals import said

CHECK = Check(
    "duplicate-payment",
    family=Family.TWICE,
    routes=("ask", "refund", "allocate", "leave"),
    finds="a bill that was paid twice",
    avoid="Mark a bill as paid on the day that you pay it, and pay from the list of open bills.",
)
WITHIN_DAYS = 60


def find(look: Look) -> Iterator[Point]:
    books = look.books
    by_sum = books.rows_by("payments by sum", _party_and_sum, TransactionKind.SUPPLIER_PAYMENT)
    never = _not_at_bank(books)
    for (party, total), rows in by_sum.items():
        if len(rows) < 2:
            continue
        payments = [one for one in rows if not books.is_answered(one.id)]
        over = [one for one in payments if _is_left_over(look, one) and one.id not in never]
        settled = [one for one in payments if look.items.standing_on(one.id)]
        if not over or not settled or _has_open_bill(look, party, total):
            continue
        for one in over:
            first = min(settled, key=lambda other: abs(_days(one, other)))
            if abs(_days(one, first)) <= WITHIN_DAYS:
                yield _point(look, party, one, first)


def _party_and_sum(posted: Transaction) -> Iterator[tuple[str, int]]:
    if posted.party:
        yield posted.party, posted.total


def _days(one: Transaction, other: Transaction) -> int:
    return (one.posting_date - other.posting_date).days


def _is_left_over(look: Look, posted: Transaction) -> bool:
    items = look.items.by_transaction.get(posted.id, ())
    return bool(items) and all(look.items.open_now[item.key] == item.amount for item in items)


def _has_open_bill(look: Look, party: str, total: int) -> bool:
    return any(left == -total for _, left in look.items.open_of(party))


def _not_at_bank(books: Books) -> set[str]:
    """Payments on accounts with statements that no line of them is."""
    lone = {
        e.posted.id for look in bank_looks(books) for e in (*look.lone, *(t for t, _ in look.twins))
    }
    agreed = [bank_sides(books, code).agreed_ids for code in bank_accounts(books)]
    return {name for name in lone if not any(name in ids for ids in agreed)}


def _point(look: Look, party: str, over: Transaction, first: Transaction) -> Point:
    books = look.books
    bill = next(
        (
            books.transactions[row.credit_transaction]
            for row in look.items.standing_on(first.id)
            if row.credit_transaction in books.transactions
        ),
        None,
    )
    what = (bill.reference or bill.id) if bill else "what it owed"
    name = books.party_name(party)
    money = next(x for x in over.lines if books.accounts[x.account].role in MONEY_ROLES)
    return CHECK.point(
        books,
        subjects={"money": (over.id,), "first": (first.id,)},
        amount=money.amount,
        certainty=0.9,
        summary=(
            f"{name} was paid {books.client.currency.words(over.total)} twice for {what}: on "
            f"{said(first.posting_date)} by {first.id} and on {said(over.posting_date)} by {over.id}."
        ),
        short=f"{first.id} and {over.id}",
        because=(
            "the same supplier and sum",
            f"nothing of {over.id} is allocated, and no bill of that sum is open",
        ),
        related=(bill.id,) if bill else (),
    )
