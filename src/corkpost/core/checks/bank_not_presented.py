"""bank-not-presented: an entry that never reached the bank: payments over 6 months, receipts over 10
days old at the statement's end."""

from collections.abc import Iterator
from datetime import timedelta

from corkpost.core.formatting import format_date
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "bank-not-presented",
    family=Family.BANK,
    routes=("reverse-payment", "ask", "leave"),
    finds="an entry that never reached the bank",
    avoid="Enter a payment when it is sent. What the bank does not show after some weeks, ask about.",
)
PAYMENTS_AFTER = timedelta(days=182)
RECEIPTS_AFTER = timedelta(days=10)


def find(run: CheckRun) -> Iterator[Point]:
    for bank in bank_looks(run.books):
        last = bank.state.statement.last_day
        for entry in bank.lone:
            age = last - entry.day
            if age <= (PAYMENTS_AFTER if entry.amount < 0 else RECEIPTS_AFTER):
                continue
            words = run.books.client.currency.format_amount(entry.amount)
            what = "payment" if entry.amount < 0 else "receipt"
            yield CHECK.point(
                run.books,
                subjects={"entry": (entry.posted.id,)},
                account=bank.account,
                amount=entry.amount,
                certainty=0.9 if entry.amount > 0 else 0.8,
                summary=(
                    f"The {what} {entry.posted.id} of {words} has not reached the bank in "
                    f"{age.days} days, by the statement to {format_date(last)}."
                ),
                short=f"{age.days} days",
                because=(f"no statement line up to {format_date(last)} fits it",),
            )
