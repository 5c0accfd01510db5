"""control-disagrees: the control account against the open items, party by party."""

from collections.abc import Iterator

from corkpost.core.books import Account
from corkpost.core.control_proof import control_proof
from corkpost.core.periods import LAST_DAY
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "control-disagrees",
    family=Family.PROOF,
    routes=("leave",),
    finds="a control account that its open items do not come to",
    avoid="Do not write journals onto the accounts of customers and suppliers without their name.",
)


def find(run: CheckRun) -> Iterator[Point]:
    for code in sorted(run.books.control_accounts):
        point = _difference(run, run.books.accounts[code])
        if point:
            yield point


def _difference(run: CheckRun, account: Account) -> Point | None:
    """What no party's list has: the balance less all that is open of parties."""
    books = run.books
    proof = control_proof(books, [account.code], LAST_DAY)
    if not proof.difference:
        return None
    words = books.client.currency.format_amount
    named = tuple(dict.fromkeys(name for cause in proof.causes for name in cause.transactions))
    return CHECK.point(
        books,
        subjects={},
        about={"account": (account.code,)},
        account=account.code,
        related=named[:6],
        amount=proof.difference,
        certainty=0.99,
        summary=(
            f"{account.name} stands at {words(proof.control)}, its parties' open items come to "
            f"{words(proof.held)}: {words(proof.difference)} is on nobody's list."
        ),
        short=f"{account.name}, {words(proof.difference)}",
        because=tuple(
            f"{cause.says}: {words(cause.amount)}" if cause.amount is not None else cause.says
            for cause in proof.causes
        ),
    )
