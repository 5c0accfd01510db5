"""bank-not-presented: an entry that never reached the bank: payments over 6 months, receipts over 10
days old at the statement's end."""

from collections.abc import Iterator
from datetime import timedelta

from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.points import Check, Family, Look, Point
from corkpost.core.refusals import said

CHECK = Check(
    "bank-not-presented",
    family=Family.BANK,
    routes=("reverse-payment", "ask", "leave"),
    finds="an entry that never reached the bank",
    avoid="Enter a payment when it is sent. What the bank does not show after some weeks, ask about.",
)
PAYMENTS_AFTER = timedelta(days=182)
RECEIPTS_AFTER = timedelta(days=10)


def find(look: Look) -> Iterator[Point]:
    for bank in bank_looks(look.books):
        last = bank.state.statement.last_day
        for entry in bank.lone:
            age = last - entry.day
            if age <= (PAYMENTS_AFTER if entry.amount < 0 else RECEIPTS_AFTER):
                continue
            words = look.books.client.currency.words(entry.amount)
            what = "payment" if entry.amount < 0 else "receipt"
            yield CHECK.point(
                look.books,
                subjects={"entry": (entry.posted.id,)},
                account=bank.account,
                amount=entry.amount,
                certainty=0.9 if entry.amount > 0 else 0.8,
                summary=(
                    f"The {what} {entry.posted.id} of {words} has not reached the bank in "
                    f"{age.days} days, by the statement to {said(last)}."
                ),
                short=f"{age.days} days",
                because=(f"no statement line up to {said(last)} fits it",),
            )
