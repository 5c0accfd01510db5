"""owner-spending: an owner's private spending coded to a cost of the business.

Finds payments that name the owner, cash machine withdrawals, payees and words that are private for this
client, learned from its own owner entries; and lines within a bill that bear them.
Keeps quiet: when the payee is a regular supplier of the business.
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.chart.guessing import guesses
from corkpost.core.evidence.account_kind import TAKEN_FOR
from corkpost.core.evidence.private_words import (
    REGULAR,
    PrivateWords,
    coded_money,
    owner_named,
    private_words,
    said_business,
    telling,
)
from corkpost.core.kinds import Entity, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "owner-spending",
    family=Family.OWNERS,
    routes=("to-owner", "ask", "leave", "waive"),
    explains=("owner",),
    finds="private spending among the costs",
    avoid="Private spending goes to the owner's account, without tax, whichever card paid for it.",
)


ASKED = ("ask", "leave", "waive")


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    learned, business = private_words(books), said_business(run)
    groups = list(coded_money(books, TransactionKind.DIRECT_PAYMENT))
    theirs = _theirs(books, (row for coded in groups if coded.owner for row in coded.rows))
    yield from (_account(run, code, rows) for code, rows in theirs.items())
    for coded in groups:
        if coded.owner:
            for posted in coded.rows:
                why = f"it names {coded.owner.name}, an owner"
                if _costs(books, posted)[0].account not in theirs:
                    yield _point(run, posted, 0.9, why, coded.owner.code)
            continue
        if coded.has_party:
            continue
        regular = learned.texts[coded.words] >= REGULAR
        words = () if regular else learned.learned(coded.words)
        said = " and ".join(word.capitalize() for word in words)
        # One word among others that were nobody's is little.
        certainty = 0.92 if len(words) > 1 else 0.85 if len(coded.words) <= 2 else 0.6
        for posted in coded.rows if words or coded.cash_machine else ():
            if posted.id not in run.business and coded.words in business:
                continue
            if coded.cash_machine:
                yield _point(run, posted, 0.85, "cash drawn at a machine, coded to a cost", "")
            else:
                yield _point(run, posted, certainty, f"{said} went to the owner before", "")

    yield from _within(run, learned)


MANY = 6
MOSTLY = 0.6
"""So many payments to an owner, and so much of all on an account, are one question: whose account it is."""


def _theirs(books: Books, rows: Iterable[Transaction]) -> dict[str, list[Transaction]]:
    """The accounts that lists were taken in with as costs by a guess, and that hold little but what
    owners took; with that."""
    by_account: dict[str, list[Transaction]] = defaultdict(list)
    for posted in rows:
        by_account[_costs(books, posted)[0].account].append(posted)
    guessed = guesses(books)
    return {
        code: found
        for code, found in by_account.items()
        if len(found) >= MANY
        and (guess := guessed.get(code)) is not None
        and guess.counts
        and len(found) >= MOSTLY * len(books.on_account(code))
    }


def _account(run: CheckRun, code: str, rows: Sequence[Transaction]) -> Point:
    books = run.books
    account = books.accounts[code]
    total = sum(line.amount for posted in rows for line in posted.lines if line.account == code)
    return CHECK.on_account(
        books,
        code,
        rows,
        amount=abs(total),
        certainty=0.6,
        summary=(
            f"{len(rows)} payments that name an owner stand on {account.name}, which was taken for a cost: "
            "it may be the owner's account."
        ),
        short=f"{account.name}, {len(rows)} payments to the owner",
        because=("nobody has said what the account is", "little else is on it"),
        hints={TAKEN_FOR: code},
        routes=ASKED,
    )


PAPERS = (TransactionKind.PURCHASE_BILL, TransactionKind.DIRECT_PAYMENT)


def _within(run: CheckRun, learned: PrivateWords) -> Iterator[Point]:
    """Single lines among others whose own text is private."""
    books = run.books
    rows = books.rows_by("papers of several lines", lambda posted: _several(books, posted), *PAPERS)
    for posted in rows.get(True, ()):
        if books.is_answered(posted.id) or posted.id in run.business:
            continue
        found = [line for line in _costs(books, posted) if _is_private(books, line, learned)]
        if found and len(found) < len(_costs(books, posted)):
            said = " and ".join(line.description or "" for line in found)
            total = sum(line.amount for line in found)
            yield _point(run, posted, 0.8, f"“{said}” within it", "", found, total)


def _several(books: Books, posted: Transaction) -> tuple[bool, ...]:
    costs = _costs(books, posted) if posted.change is None else []
    return (True,) if len(costs) > 1 and any(line.description for line in costs) else ()


def _costs(books: Books, posted: Transaction) -> list[Line]:
    return [line for line in posted.lines if books.accounts[line.account].is_profit_and_loss]


def _is_private(books: Books, line: Line, learned: PrivateWords) -> bool:
    text = line.description or ""
    return owner_named(books, text) is not None or bool(learned.learned(telling(text)))


def _point(
    run: CheckRun,
    posted: Transaction,
    certainty: float,
    why: str,
    owner: str,
    only: list[Line] | None = None,
    amount: Minor | None = None,
) -> Point:
    """*only*: the lines that look private, where others are the business's; *amount*: theirs."""
    books = run.books
    coded = only[0] if only else _costs(books, posted)[0]
    total = amount or abs(sum(x.amount for x in posted.lines if x.amount > 0))
    hints = {"owner": owner}
    if only:
        hints["lines"] = ",".join(str(line.number) for line in only)
    return CHECK.point(
        books,
        subjects={"owner": (posted.id,)},
        amount=total,
        certainty=certainty,
        summary=(
            f"{posted.memo or posted.reference or posted.id} of {posted.posting_date:%-d %B %Y} "
            f"was coded to {books.accounts[coded.account].name} and looks private"
            f"{' in part' if only else ''}."
        ),
        short=f"{posted.memo or posted.id}",
        because=(why,),
        # Nobody may take money of an association: what it was is asked for.
        routes=ASKED if books.client.entity is Entity.ASSOCIATION else None,
        hints=hints,
    )
