"""transfer-miscoded: a move between the client's own accounts, booked as cost where it left and as
income where it came in, or left on a suspense account; or one side alone, whose text says that it is a move
and names the other account.

Keeps quiet: when both sides name a third party; when the sum fits more than one on the other side and
nothing says that it is a move.
"""

from collections import Counter
from collections.abc import Iterator, Mapping
from typing import NamedTuple

from corkpost.core.books import Account, Books, Transaction
from corkpost.core.evidence.names import words_of
from corkpost.core.evidence.private_words import telling
from corkpost.core.evidence.said import payee, said_of
from corkpost.core.evidence.who import finder_for
from corkpost.core.formatting import format_date
from corkpost.core.kinds import MONEY_ROLES, AccountRole, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "transfer-miscoded",
    family=Family.BANK,
    routes=("pair-transfer", "adjust", "ask", "leave"),
    explains=("out", "in"),
    finds="a move between own accounts coded to cost and income",
    avoid="Money that moves between two accounts of the business is neither cost nor income.",
)
NEAR_DAYS = 4
NAMED_BY = 2
"""Texts of so many telling words each that share none are about two."""
_MOVES = frozenset(
    "TRANSFER TRANSFERS TFR TRF XFER UEBERTRAG UMBUCHUNG TRASPASO GIROCONTO VIREMENT INTERNAL "
    "SAVINGS".split()
)


class _Side(NamedTuple):
    posted: Transaction
    account: str
    amount: Minor
    party: str | None
    says_so: bool
    says: frozenset[str]


def find(run: CheckRun) -> Iterator[Point]:
    if len(run.books.with_role(*MONEY_ROLES)) < 2:
        return
    books = run.books
    outs = _by_sum(books, TransactionKind.DIRECT_PAYMENT, -1)
    ins = _by_sum(books, TransactionKind.DIRECT_RECEIPT, 1)
    used: set[str] = set()
    sums = outs.keys() & ins.keys()
    for posted in (posted for amount in sums for posted in outs[amount]):
        if books.is_answered(posted.id):
            continue
        out = _side(books, posted)
        live = [
            transaction for transaction in ins[out.amount] if not books.is_answered(transaction.id)
        ]
        mine = [_side(books, transaction) for transaction in live]
        fits = [side for side in mine if side.posted.id not in used and _are_one(out, side)]
        named = [side for side in fits if out.says_so or side.says_so]
        if not fits or (len(fits) > 1 and len(named) != 1):
            continue
        found = named[0] if named else fits[0]
        used.add(found.posted.id)
        yield _point(run, out, found, said_so=bool(named))
    for sides in (outs, ins):
        for posted in (posted for rows in sides.values() for posted in rows):
            if posted.id in used or books.is_answered(posted.id):
                continue
            side = _side(books, posted)
            other = _named_account(books, side)
            if other is not None and not _has_mate(books, other, side):
                used.add(posted.id)
                yield _one_sided(run, side, other)


def _named_account(books: Books, side: _Side) -> Account | None:
    """The one other account of the client's own that a text of a move names."""
    said = words_of(said_of(books, side.posted))
    if not side.says_so or not said & _MOVES:
        return None
    money = books.with_role(*MONEY_ROLES)
    times = Counter(word for account in money for word in words_of(account.name))
    named = [
        account
        for account in money
        if account.code != side.account
        and any(len(w) > 3 and times[w] == 1 for w in words_of(account.name) & said)
        and len(said & (_MOVES | words_of(account.name))) > 1
    ]
    return named[0] if len(named) == 1 else None


def _has_mate(books: Books, other: Account, side: _Side) -> bool:
    """Whether that account's books have its sum on about the day: then it is another story."""
    (sign,) = {x.amount > 0 for x in side.posted.lines if x.account == side.account}
    return any(
        posted.id not in books.never_was
        and line.amount == (-side.amount if sign else side.amount)
        and abs((posted.posting_date - side.posted.posting_date).days) <= NEAR_DAYS
        for posted, line in books.lines_on(other.code)
    )


def _one_sided(run: CheckRun, side: _Side, other: Account) -> Point:
    """A move of which the books have one side, on a cost or an income."""
    books = run.books
    words = books.client.currency.format_amount(side.amount)
    others = [x for x in side.posted.lines if x.account != side.account]
    coded = max(others, key=lambda x: abs(x.amount))
    went = "left" if coded.amount > 0 else "came into"
    name = books.accounts[side.account].name
    return CHECK.point(
        books,
        subjects={"out" if coded.amount > 0 else "in": (side.posted.id,)},
        amount=side.amount,
        certainty=0.9,
        summary=(
            f"{words} {went} {name} on {format_date(side.posted.posting_date)} as a move to or from "
            f"{other.name}; it was coded to {books.accounts[coded.account].name}."
        ),
        short=side.posted.memo or side.posted.id,
        because=("its text says that it is a move", f"it names {other.name}"),
        routes=("adjust", "ask", "leave"),
        remedy=DraftEntry(
            on=side.posted.posting_date,
            sides=(
                Side(other.code, sum(x.amount for x in others)),
                *(Side(x.account, -x.amount) for x in others),
            ),
            title=f"Take it to {other.name}",
            reason="Money that moves between two accounts of the business is neither cost nor income.",
            answers=side.posted.id,
        ),
    )


def _by_sum(
    books: Books, kind: TransactionKind, sign: int
) -> Mapping[Minor, tuple[Transaction, ...]]:
    """The money of that kind that is coded straight, by its sum."""
    name = f"sides of moves, {kind}"
    return books.rows_by(name, lambda posted: _sums(books, posted, sign), kind)


def _sums(books: Books, posted: Transaction, sign: int) -> Iterator[Minor]:
    """The sum that it moves, positive, where it is coded straight."""
    money = [x for x in posted.lines if books.accounts[x.account].role in MONEY_ROLES]
    straight = all(
        books.accounts[x.account].is_profit_and_loss
        or books.accounts[x.account].role in (AccountRole.TAX, AccountRole.SUSPENSE)
        for x in posted.lines
        if x not in money
    )
    if len(money) == 1 and straight and money[0].amount * sign > 0:
        yield abs(money[0].amount)


def _side(books: Books, posted: Transaction) -> _Side:
    own = {
        word
        for account in books.with_role(*MONEY_ROLES)
        for word in words_of(account.name)
        if len(word) > 3
    }
    (money,) = [x for x in posted.lines if books.accounts[x.account].role in MONEY_ROLES]
    party = payee(books, finder_for(books), posted)
    says_so = party is None and bool(words_of(said_of(books, posted)) & (_MOVES | own))
    says = telling(said_of(books, posted))
    return _Side(posted, money.account, abs(money.amount), party, says_so, says)


def _are_one(out: _Side, in_: _Side) -> bool:
    days = (in_.posted.posting_date - out.posted.posting_date).days
    if out.account == in_.account or out.amount != in_.amount or not -1 <= days <= NEAR_DAYS:
        return False
    if out.says_so or in_.says_so:
        return True
    # Whom nobody keeps as a party is named by words all the same.
    apart = min(len(out.says), len(in_.says)) >= NAMED_BY and not out.says & in_.says
    return not (out.party and in_.party) and not apart


def _point(run: CheckRun, out: _Side, in_: _Side, *, said_so: bool) -> Point:
    books = run.books
    words = books.client.currency.format_amount(out.amount)
    names = books.accounts[out.account].name, books.accounts[in_.account].name
    return CHECK.point(
        books,
        subjects={"out": (out.posted.id,), "in": (in_.posted.id,)},
        amount=out.amount,
        certainty=0.96 if said_so else 0.78,
        summary=(
            f"{words} left {names[0]} on {format_date(out.posted.posting_date)} and came into "
            f"{names[1]} on "
            f"{format_date(in_.posted.posting_date)}; it was coded to cost and to income."
        ),
        short=f"{out.posted.id} and {in_.posted.id}",
        because=(
            "the same sum out of one account and into the other",
            "the text says that it is a move" if said_so else "nobody else is named on both",
        ),
        against=() if said_so else ("no text says that it is a move",),
    )
