"""takings-short: a day's takings by tender against what reached the bank or card account.

Allows for the delay of settlement; keeps quiet about differences under the fee rate.
"""

from collections.abc import Iterator

from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.matching.receipts_in_hand import MOST_FEE, ReceiptInHand, left_on, paid_out
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.takings import SETTLED_WITHIN, TENDERS

CHECK = Check(
    "takings-short",
    family=Family.BANK,
    routes=("reclassify", "ask", "leave"),
    finds="takings that never reached the bank in full",
    avoid="Count the till against its roll every day and write the difference down.",
)


def find(run: CheckRun) -> Iterator[Point]:
    until = run.books.received_through or run.today
    # What the bank paid out and the books lack is told there, with the takings that it is for.
    told = {
        receipt.posted.id
        for bank in bank_looks(run.books)
        for line in bank.missing
        for receipt in paid_out(run.books, line)
    }
    for role, tender in TENDERS:
        for account in run.books.with_role(role):
            for receipt in left_on(run.books, account.code):
                taken = _taken(receipt)
                late = until - receipt.day > SETTLED_WITHIN
                if receipt.posted.kind is not TransactionKind.TAKINGS or not late:
                    continue
                if role is AccountRole.CARD_CLEARING and receipt.posted.id in told:
                    continue
                # All of the cash still in hand is told as receipts in hand are.
                if role is AccountRole.UNBANKED and receipt.left == taken:
                    continue
                if receipt.left > taken * MOST_FEE or role is AccountRole.UNBANKED:
                    yield _point(run, receipt, taken, tender)


def _taken(receipt: ReceiptInHand) -> Minor:
    return sum(line.amount for line in receipt.posted.lines if line.account == receipt.account)


def _point(run: CheckRun, receipt: ReceiptInHand, taken: Minor, tender: str) -> Point:
    words = run.books.client.currency.format_amount
    return CHECK.point(
        run.books,
        subjects={"left": (receipt.posted.id,)},
        account=receipt.account,
        amount=receipt.left,
        certainty=0.8,
        summary=(
            f"Of {words(taken)} {tender} taken on {format_date(receipt.day)}, {words(receipt.left)} "
            "never reached the "
            "bank."
        ),
        short=f"{tender}, {format_date(receipt.day)}",
        because=("what was banked or paid out since is set against the oldest takings first",),
    )
