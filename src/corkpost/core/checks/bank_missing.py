"""bank-missing: a statement line that is not in the books.

Keeps quiet: while an entry (or several) fits it, or one that is the same but for a slip; about lines
dated after the books end.
"""

from collections.abc import Iterator

from corkpost.core.formatting import format_date
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "bank-missing",
    family=Family.BANK,
    routes=("bank-receipts", "refund", "record-missing", "ask", "leave"),
    finds="a statement line that is not in the books",
    avoid=(
        "Go through the statement line by line at the end of each month; fees and standing "
        "orders are the ones that are forgotten."
    ),
)


def find(run: CheckRun) -> Iterator[Point]:
    for bank in bank_looks(run.books):
        weak = {name for proposal in bank.proposals for name in proposal.lines}
        for line in bank.missing:
            if run.books.client.books_to and line.day > run.books.client.books_to:
                continue
            words = run.books.client.currency.format_amount(line.amount)
            way = "into" if line.amount > 0 else "out of"
            named = bank.matcher.party_named(line)
            yield CHECK.point(
                run.books,
                subjects={},
                bank={"line": (line,)},
                account=bank.account,
                amount=line.amount,
                certainty=0.75 if line.id in weak else 0.97,
                summary=(
                    f"The bank shows {words} {way} {bank.account} on {format_date(line.day)}, "
                    f"{line.words}, which the books do not have."
                ),
                short=line.words or "no text",
                because=(
                    "no entry of that amount fits it",
                    *((f"it names {run.books.party_name(named)}",) if named else ()),
                ),
            )
