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
        for differing in bank.differing:
            yield _point(run, bank.account, differing)


def _point(run: CheckRun, account: str, differing: Differing) -> Point:
    words = run.books.client.currency.format_amount
    entry, line = differing.entry, differing.line
    at_bank = f"the bank {words(line.amount)} on {format_date(line.day)}"
    summary = f"The books say {words(entry.amount)}, {at_bank}: {differing.how}."
    if differing.correction:
        summary += (
            f" The bank erred: on {format_date(differing.correction.day)} it brings just "
            f"{words(differing.correction.amount)}."
        )
    bank = {"line": (line,)}
    if differing.correction:
        bank["correction"] = (differing.correction,)
    return CHECK.point(
        run.books,
        subjects={"entry": (entry.posted.id,)},
        bank=bank,
        account=account,
        amount=differing.missing,
        certainty=differing.certainty,
        summary=summary,
        short=f"{words(entry.amount)} for {words(line.amount)}",
        because=(
            differing.how,
            f"the statement says {line.words}",
            "a later line brings just the difference"
            if differing.correction
            else "no later line of the bank puts it right",
        ),
    )
