"""What a party, or a payee without one, usually is in these books: what a case is read beside."""

from collections import Counter
from collections.abc import Iterator, Sequence
from itertools import pairwise
from statistics import median
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.names import words_of
from corkpost.core.evidence.private_words import telling
from corkpost.core.kinds import MONEY_ROLES, AccountRole
from corkpost.core.money import Minor
from corkpost.core.points import Point

SHOWN = 6
FEW = 3


class UsualRow(NamedTuple):
    """One of its transactions. *account*: what it was coded to, if to one. *amount*: its total."""

    transaction: Transaction
    account: str | None
    amount: Minor


class Usual(NamedTuple):
    """*says*: what is usual, in words. *rows*: the latest beside the point's own day, oldest first."""

    name: str
    party: str | None
    says: tuple[str, ...]
    rows: tuple[UsualRow, ...]


def usual_of(books: Books, point: Point) -> Usual | None:
    """What the first party of the point (or the first words, where nobody is named) usually is.

    None where the books know too little of it.
    """
    seen = [books.transactions[name] for name in point.transactions if name in books.transactions]
    if not seen:
        return None
    party = point.parties[0] if point.parties else seen[0].party
    if party is not None:
        mine = list(books.of_party(party))
        name = books.party_name(party)
    else:
        words = telling(seen[0].memo or "")
        if not words:
            return None
        mine = list(_of_words(books, words))
        name = (seen[0].memo or "").strip()
    subjects = {subject for _, subject in point.subjects}
    others = [
        posted
        for posted in mine
        if posted.id not in subjects
        and not _is_money(posted, party)
        # What we posted or put right is nobody's habit.
        and posted.change is None
        and not books.is_answered(posted.id)
    ]
    if len(others) < FEW:
        return None
    rows = [UsualRow(posted, _coded(books, posted), posted.total) for posted in others]
    day = max(posted.posting_date for posted in seen)
    near = sorted(rows, key=lambda row: abs((row.transaction.posting_date - day).days))[:SHOWN]
    near.sort(key=lambda row: (row.transaction.posting_date, row.transaction.id))
    return Usual(name, party, tuple(_says(books, rows)), tuple(near))


def _is_money(posted: Transaction, party: str | None) -> bool:
    """A payment of a named party's papers says nothing that the papers do not."""
    return party is not None and posted.kind in ("supplier-payment", "customer-receipt")


def _of_words(books: Books, words: frozenset[str]) -> Iterator[Transaction]:
    # Rows that bear all the words bear the one that fewest do.
    by_word = books.kept.by_key("memo words", books.tables.transactions, _memo_words)
    rarest = min(words, key=lambda word: (len(by_word.get(word, ())), word))
    for posted in by_word.get(rarest, ()):
        if words <= words_of(posted.memo or ""):
            yield posted


def _memo_words(posted: Transaction) -> frozenset[str]:
    return words_of(posted.memo) if posted.party is None and posted.memo else frozenset()


def _coded(books: Books, posted: Transaction) -> str | None:
    """The one account beside money, tax and control accounts; None where there are several."""
    left = {
        line.account
        for line in posted.lines
        if not books.accounts[line.account].is_control
        and books.accounts[line.account].role not in (*MONEY_ROLES, AccountRole.TAX)
    }
    return left.pop() if len(left) == 1 else None


def _says(books: Books, rows: Sequence[UsualRow]) -> Iterator[str]:
    accounts = Counter(row.account for row in rows if row.account)
    if accounts:
        code, times = accounts.most_common(1)[0]
        yield f"{books.accounts[code].name} {times} times of {len(rows)}"
    words = books.client.currency.format_amount
    sums = sorted(row.amount for row in rows)
    if sums[0] == sums[-1]:
        yield f"always {words(sums[0])}"
    else:
        yield f"{words(sums[0])} to {words(sums[-1])}, mostly about {words(int(median(sums)))}"
    days = sorted(row.transaction.posting_date for row in rows)
    gaps = [(later - before).days for before, later in pairwise(days)]
    gap = round(median(gaps))
    if gap >= 1:
        yield f"about every {gap} days" if gap > 1 else "about every day"
