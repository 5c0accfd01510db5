"""unbanked-stale: receipts in hand over 14 days; and sums banked that were coded to income while the
receipts they consist of are still in hand, so that the income is counted twice."""

from collections.abc import Iterator
from datetime import timedelta

from corkpost.core.books import Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import MONEY_ROLES, TransactionKind
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.matching.receipts_in_hand import ReceiptInHand, in_hand, set_of
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import Moving, Side

CHECK = Check(
    "unbanked-stale",
    family=Family.BANK,
    routes=("bank-receipts", "reclassify", "ask", "leave"),
    explains=("banked",),
    finds="receipts in hand that should be at the bank",
    avoid=(
        "Take receipts to the bank within a week, and enter the paying-in as one sum of what "
        "it consists of."
    ),
)
IN_HAND_FOR = timedelta(days=14)


def find(run: CheckRun) -> Iterator[Point]:
    held = in_hand(run.books)
    if not held:
        return
    coded = list(_coded_to_income(run, held))
    taken = {receipt.posted.id for _, parts in coded for receipt in parts}
    # What the bank credited and the books lack is told there, with the receipts that it is.
    for bank in bank_looks(run.books):
        for line in bank.missing:
            if line.amount > 0:
                taken |= {receipt.posted.id for receipt in set_of(held, line.amount, line.day)}
    for posted, parts in coded:
        yield _twice(run, posted, parts)
    until = run.books.received_through or run.today
    for receipt in held:
        if (
            until - receipt.day > IN_HAND_FOR
            and receipt.posted.id not in taken
            and not _is_rest(receipt)
        ):
            yield _stale(run, receipt, (until - receipt.day).days)


def _is_rest(receipt: ReceiptInHand) -> bool:
    """What is left of a day's takings of which the rest was banked: that went short."""
    whole = sum(line.amount for line in receipt.posted.lines if line.account == receipt.account)
    return receipt.posted.kind is TransactionKind.TAKINGS and receipt.left < whole


def _coded_to_income(
    run: CheckRun, held: tuple[ReceiptInHand, ...]
) -> Iterator[tuple[Transaction, tuple[ReceiptInHand, ...]]]:
    """Money banked straight to income that is exactly what some receipts in hand come to."""
    books = run.books
    free = list(held)
    for posted in books.of_kinds(TransactionKind.DIRECT_RECEIPT):
        if books.is_answered(posted.id) or posted.party is not None:
            continue
        amount = sum(
            line.amount for line in posted.lines if books.accounts[line.account].role in MONEY_ROLES
        )
        parts = set_of(free, amount, posted.posting_date)
        if parts:
            free = [receipt for receipt in free if receipt not in parts]
            yield posted, parts


def _twice(run: CheckRun, posted: Transaction, parts: tuple[ReceiptInHand, ...]) -> Point:
    words = run.books.client.currency.format_amount
    names = " and ".join(receipt.posted.id for receipt in parts)
    amount = sum(receipt.left for receipt in parts)
    return CHECK.point(
        run.books,
        subjects={"banked": (posted.id,), "receipt": tuple(receipt.posted.id for receipt in parts)},
        amount=amount,
        certainty=0.9 if len(parts) > 1 else 0.8,
        summary=(
            f"{posted.id}, {words(amount)} paid in on {format_date(posted.posting_date)} and "
            "coded to income, "
            f"is exactly what {names} in hand come to: the income is counted twice."
        ),
        short=f"paid in {words(amount)}",
        because=("the same sum to the cent", "the receipts are still in hand in the books"),
    )


def _stale(run: CheckRun, receipt: ReceiptInHand, days: int) -> Point:
    words = run.books.client.currency.format_amount
    return CHECK.point(
        run.books,
        subjects={"receipt": (receipt.posted.id,)},
        amount=receipt.left,
        certainty=0.9 if days > 30 else 0.8,
        summary=(
            f"{words(receipt.left)} of {receipt.posted.id}, received {format_date(receipt.day)}, "
            f"is still in hand after {days} days."
        ),
        short=f"{days} days in hand",
        because=("nothing that was banked since is or contains it",),
        routes=("reclassify", "ask", "leave"),
        remedy=Moving(
            sides=(Side("", receipt.left), Side(receipt.account, -receipt.left)),
            title=f"Take it out of {run.books.accounts[receipt.account].name}, to where it went",
            reason=f"{receipt.posted.id} was never banked: it went another way.",
            asks=True,
        ),
    )
