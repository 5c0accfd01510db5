"""control-disagrees: the control account against the open items, party by party. Where entries that name
nobody, each told by itself, are all of the difference, it is their consequence.
"""

from collections import defaultdict
from collections.abc import Iterator, Mapping

from corkpost.core.books import Account
from corkpost.core.control_proof import control_proof
from corkpost.core.money import Minor
from corkpost.core.periods import LAST_DAY
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "control-disagrees",
    family=Family.PROOF,
    routes=("leave",),
    after=("control-without-party",),
    follows=("control-without-party",),
    finds="a control account that its open items do not come to",
    avoid="Do not write journals onto the accounts of customers and suppliers without their name.",
)


def find(run: CheckRun) -> Iterator[Point]:
    for code in sorted(run.books.control_accounts):
        point = _difference(run, run.books.accounts[code])
        if point:
            yield point


def _told(run: CheckRun, account: Account) -> Mapping[str, Minor]:
    """What stands on the account by entries without a party that are told one by one, by entry."""
    told = {name for point in run.found_before(CHECK) for _, name in point.subjects}
    sums: dict[str, Minor] = defaultdict(int)
    for posted, line in run.books.lines_on(account.code):
        if posted.id in told and not line.party:
            sums[posted.id] += line.amount
    return sums


def _difference(run: CheckRun, account: Account) -> Point | None:
    """What no party's list has: the balance less all that is open of parties."""
    books = run.books
    proof = control_proof(books, [account.code], LAST_DAY)
    if not proof.difference:
        return None
    told = _told(run, account)
    is_all = sum(told.values()) == proof.difference
    words = books.client.currency.format_amount
    causes = dict.fromkeys(name for cause in proof.causes for name in cause.transactions)
    # What is not all of it is no cause of what is left.
    named = tuple(told) if is_all else tuple(name for name in causes if name not in told)
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
