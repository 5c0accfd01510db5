"""bank-reference-differs: two cheques with each other's numbers, a number that is not the bank's."""

from collections.abc import Iterator

from corkpost.core.evidence.references import folded
from corkpost.core.matching.bank_look import OtherNumber, bank_looks
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "bank-reference-differs",
    family=Family.BANK,
    routes=("amend-reference", "ask", "leave"),
    finds="a number that is not the one that the bank shows",
    avoid="Write the number of the cheque down as it is printed on it.",
)


def find(run: CheckRun) -> Iterator[Point]:
    for bank in bank_looks(run.books):
        left = list(bank.other_numbers)
        while left:
            one = left.pop(0)
            other = next((x for x in left if _are_exchanged(one, x)), None)
            if other:
                left.remove(other)
            yield _point(run, bank.account, [one, *([other] if other else [])])


def _are_exchanged(one: OtherNumber, other: OtherNumber) -> bool:
    return folded(one.entry.reference) == folded(other.line.reference) and folded(
        other.entry.reference
    ) == folded(one.line.reference)


def _point(run: CheckRun, account: str, pairs: list[OtherNumber]) -> Point:
    exchanged = len(pairs) == 2
    numbers = " and ".join(pair.entry.reference or "" for pair in pairs)
    summary = (
        f"The numbers {numbers} are exchanged: by amount and day the bank has each for the other."
        if exchanged
        else f"The books have number {numbers}, the bank {pairs[0].line.reference}, for the same sum."
    )
    return CHECK.point(
        run.books,
        subjects={"amended": tuple(pair.entry.posted.id for pair in pairs)},
        bank={"line": tuple(pair.line for pair in pairs)},
        account=account,
        amount=sum(abs(pair.entry.amount) for pair in pairs),
        certainty=0.96 if exchanged else 0.85,
        summary=summary,
        short=numbers,
        because=("amount and day are the same", "only the numbers differ"),
    )
