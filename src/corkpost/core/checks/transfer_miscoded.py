"""transfer-miscoded: a move between the client's own accounts, booked as cost where it left and as
income where it came in.

Keeps quiet: when both sides name a third party; when the sum fits more than one on the other side and
nothing says that it is a move.
"""

from collections import defaultdict
from collections.abc import Iterator
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import MONEY_ROLES, AccountRole, TransactionKind
from corkpost.core.matching.bank_lines import finder_of
from corkpost.core.matching.names import words_of
from corkpost.core.money import Minor
from corkpost.core.points import Check, Family, Look, Point
from corkpost.core.refusals import said

CHECK = Check(
    "transfer-miscoded",
    family=Family.BANK,
    routes=("pair-transfer", "ask", "leave"),
    finds="a move between own accounts coded to cost and income",
    avoid="Money that moves between two accounts of the business is neither cost nor income.",
)
NEAR_DAYS = 4
_MOVES = frozenset("TRANSFER TRANSFERS TFR XFER UEBERTRAG VIREMENT INTERNAL SAVINGS".split())


class _Side(NamedTuple):
    posted: Transaction
    account: str
    amount: Minor
    party: str | None
    says_so: bool


def find(look: Look) -> Iterator[Point]:
    if len(look.books.with_role(*MONEY_ROLES)) < 2:
        return
    outs = list(_sides(look.books, TransactionKind.DIRECT_PAYMENT, -1))
    ins: dict[Minor, list[_Side]] = defaultdict(list)
    for side in _sides(look.books, TransactionKind.DIRECT_RECEIPT, 1):
        ins[side.amount].append(side)
    used: set[str] = set()
    for out in outs:
        mine = ins.get(out.amount, ())
        fits = [one for one in mine if one.posted.id not in used and _are_one(out, one)]
        named = [one for one in fits if out.says_so or one.says_so]
        if not fits or (len(fits) > 1 and len(named) != 1):
            continue
        found = named[0] if named else fits[0]
        used.add(found.posted.id)
        yield _point(look, out, found, said_so=bool(named))


def _sides(books: Books, kind: TransactionKind, sign: int) -> Iterator[_Side]:
    finder = finder_of(books)
    own = {
        word
        for account in books.with_role(*MONEY_ROLES)
        for word in words_of(account.name)
        if len(word) > 3
    }
    for posted in books.tables.transactions:
        if (
            posted.kind is not kind
            or posted.id in books.corrected
            or posted.id in books.reversed_by
        ):
            continue
        money = [x for x in posted.lines if books.accounts[x.account].role in MONEY_ROLES]
        coded = [x for x in posted.lines if x not in money]
        straight = all(
            books.accounts[x.account].is_profit_and_loss
            or books.accounts[x.account].role is AccountRole.TAX
            for x in coded
        )
        if len(money) == 1 and straight and money[0].amount * sign > 0:
            words = words_of(posted.memo or "")
            party = finder.payee(posted)
            says_so = party is None and bool(words & (_MOVES | own))
            yield _Side(posted, money[0].account, abs(money[0].amount), party, says_so)


def _are_one(out: _Side, in_: _Side) -> bool:
    days = (in_.posted.posting_date - out.posted.posting_date).days
    if out.account == in_.account or out.amount != in_.amount or not -1 <= days <= NEAR_DAYS:
        return False
    return not (out.party and in_.party)


def _point(look: Look, out: _Side, in_: _Side, *, said_so: bool) -> Point:
    books = look.books
    words = books.client.currency.words(out.amount)
    names = books.accounts[out.account].name, books.accounts[in_.account].name
    return CHECK.point(
        books,
        subjects={"out": (out.posted.id,), "in": (in_.posted.id,)},
        amount=out.amount,
        certainty=0.96 if said_so else 0.78,
        summary=(
            f"{words} left {names[0]} on {said(out.posted.posting_date)} and came into {names[1]} on "
            f"{said(in_.posted.posting_date)}; it was coded to cost and to income."
        ),
        short=f"{out.posted.id} and {in_.posted.id}",
        because=(
            "the same sum out of one account and into the other",
            "the text says that it is a move" if said_so else "nobody else is named on both",
        ),
    )
