"""bank-amount-differs: an entry and a statement line that are the same but for the amount.

Two digits exchanged, a digit or nought lost or doubled, the sign turned. Where a later line of the bank
brings just the difference, the bank erred; else the books.
"""

from collections.abc import Iterator

from corkpost.core.formatting import format_date
from corkpost.core.matching.bank_look import Differing, bank_looks
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "bank-amount-differs",
    family=Family.BANK,
    routes=("correct-amount", "bank-error", "ask", "leave"),
    finds="an entry whose amount is not the bank's",
    avoid="Take the amount from the statement, not from the document, when you enter money that has moved.",
)


def find(run: CheckRun) -> Iterator[Point]:
    for bank in bank_looks(run.books):
        for one in bank.differing:
            yield _point(run, bank.account, one)


def _point(run: CheckRun, account: str, one: Differing) -> Point:
    words = run.books.client.currency.format_amount
    entry, line = one.entry, one.line
    at_bank = f"the bank {words(line.amount)} on {format_date(line.day)}"
    summary = f"The books say {words(entry.amount)}, {at_bank}: {one.how}."
    if one.correction:
        summary += (
            f" The bank erred: on {format_date(one.correction.day)} it brings just "
            f"{words(one.correction.amount)}."
        )
    bank = {"line": (line,)}
    if one.correction:
        bank["correction"] = (one.correction,)
    return CHECK.point(
        run.books,
        subjects={"entry": (entry.posted.id,)},
        bank=bank,
        account=account,
        amount=one.missing,
        certainty=one.certainty,
        summary=summary,
        short=f"{words(entry.amount)} for {words(line.amount)}",
        because=(
            one.how,
            f"the statement says {line.words}",
            "a later line brings just the difference"
            if one.correction
            else "no later line of the bank puts it right",
        ),
    )
