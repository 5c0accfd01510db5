"""duplicate-payment: a bill really paid twice: both payments are at the bank, one is left over.

Keeps quiet: about a payment on account; while the supplier has other open bills of that sum; where the
statements show only one of the two.
"""

from collections.abc import Iterator

from corkpost.core.bank.sides import bank_accounts, bank_sides
from corkpost.core.books import Books, Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import MONEY_ROLES, TransactionKind
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "duplicate-payment",
    family=Family.TWICE,
    routes=("ask", "refund", "allocate", "leave"),
    follows=("duplicate-bank-entry",),
    finds="a bill that was paid twice",
    avoid="Mark a bill as paid on the day that you pay it, and pay from the list of open bills.",
)
WITHIN_DAYS = 60


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    by_sum = books.rows_by("payments by sum", _party_and_sum, TransactionKind.SUPPLIER_PAYMENT)
    never = _not_at_bank(books)
    for (party, total), rows in by_sum.items():
        if len(rows) < 2:
            continue
        payments = [posted for posted in rows if not books.is_answered(posted.id)]
        over = [
            posted for posted in payments if _is_left_over(run, posted) and posted.id not in never
        ]
        settled = [posted for posted in payments if run.items.standing_on(posted.id)]
        if not over or not settled or _has_open_bill(run, party, total):
            continue
        for posted in over:
            first = min(settled, key=lambda other: abs(_days(posted, other)))
            if abs(_days(posted, first)) <= WITHIN_DAYS:
                yield _point(run, party, posted, first)


def _party_and_sum(posted: Transaction) -> Iterator[tuple[str, int]]:
    if posted.party:
        yield posted.party, posted.total


def _days(one: Transaction, other: Transaction) -> int:
    return (one.posting_date - other.posting_date).days


def _is_left_over(run: CheckRun, posted: Transaction) -> bool:
    items = run.items.by_transaction.get(posted.id, ())
    return bool(items) and all(run.items.open_now[item.key] == item.amount for item in items)


def _has_open_bill(run: CheckRun, party: str, total: int) -> bool:
    return any(left == -total for _, left in run.items.open_of(party))


def _not_at_bank(books: Books) -> set[str]:
    """Payments on accounts with statements that no line of them is."""
    lone = {
        e.posted.id for run in bank_looks(books) for e in (*run.lone, *(t for t, _ in run.twins))
    }
    agreed = [bank_sides(books, code).agreed_ids for code in bank_accounts(books)]
    return {name for name in lone if not any(name in ids for ids in agreed)}


def _point(run: CheckRun, party: str, over: Transaction, first: Transaction) -> Point:
    books = run.books
    bill = next(
        (
            books.transactions[row.credit_transaction]
            for row in run.items.standing_on(first.id)
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
            f"{name} was paid {books.client.currency.format_amount(over.total)} twice for {what}: on "
            f"{format_date(first.posting_date)} by {first.id} and on "
            f"{format_date(over.posting_date)} by {over.id}."
        ),
        short=f"{first.id} and {over.id}",
        because=(
            "the same supplier and sum",
            f"nothing of {over.id} is allocated, and no bill of that sum is open",
        ),
        related=(bill.id,) if bill else (),
    )
