"""control-disagrees: the control account against the open items, party by party."""

from collections.abc import Iterator

from corkpost.core.books import Account
from corkpost.core.points import Check, Family, Look, Point

CHECK = Check(
    "control-disagrees",
    family=Family.PROOF,
    routes=("leave",),
    finds="a control account that its open items do not come to",
    avoid="Do not write journals onto the accounts of customers and suppliers without their name.",
)


def find(look: Look) -> Iterator[Point]:
    for code in sorted(look.books.control_accounts):
        point = _difference(look, look.books.accounts[code])
        if point:
            yield point


def _difference(look: Look, account: Account) -> Point | None:
    """What no party's list has: the balance less all that is open of parties."""
    books = look.books
    balance = sum(line.amount for _, line in books.lines_on(account.code))
    listed = sum(
        left
        for key, left in look.items.open_now.items()
        if key[1] == account.code and key[2] is not None
    )
    difference = balance - listed
    if not difference:
        return None
    bare = [posted.id for posted, line in books.lines_on(account.code) if line.party is None]
    words = books.client.currency.words
    many = f"{len(bare)} entr{'ies name' if len(bare) != 1 else 'y names'} no party"
    return CHECK.point(
        books,
        subjects={},
        about={"account": (account.code,)},
        account=account.code,
        related=tuple(bare[:6]),
        amount=difference,
        certainty=0.99,
        summary=(
            f"{account.name} stands at {words(balance)}, its parties' open items come to "
            f"{words(listed)}: {words(difference)} is on nobody's list."
        ),
        short=f"{account.name}, {words(difference)}",
        because=(many,),
    )
