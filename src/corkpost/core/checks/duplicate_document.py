"""duplicate-document: an invoice, bill or credit that is in the books twice.

Finds: same party and total, with a reference that is the same after folding, or one keying slip
away, or absent with dates within 5 days.
Keeps quiet: monthly or weekly repeats; a fee that comes each year under one number; numbers that fit
the party's own sequence; one that is credited or void; two documents of one day with their own numbers.
"""

from collections import defaultdict
from collections.abc import Iterable, Iterator, Sequence
from itertools import combinations, pairwise
from statistics import median
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.references import (
    Likeness,
    is_substitution,
    likeness,
    look_alike,
    number_in,
)
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "duplicate-document",
    family=Family.TWICE,
    routes=("void", "ask", "leave"),
    finds="an invoice, bill or credit recorded twice",
    avoid=(
        "Before you enter a bill, look for its number. Key the number as it is printed, with "
        "its signs; a second copy by mail is the same bill."
    ),
)

CREDITED_BY = {Kind.SALES_INVOICE: Kind.SALES_CREDIT, Kind.PURCHASE_BILL: Kind.PURCHASE_CREDIT}
NAMES = {
    Kind.SALES_INVOICE: "invoice",
    Kind.SALES_CREDIT: "credit",
    Kind.PURCHASE_BILL: "bill",
    Kind.PURCHASE_CREDIT: "credit",
}
NEAR_DAYS = 5
SLIP_DAYS = 12
CREDIT_DAYS = 120
YEAR = 365
HALF_A_YEAR = 180
KEYED_SOON = 60
FURTHEST = 200
"""A number further than so from its only neighbour is none of the sequence."""


class Document(NamedTuple):
    posted: Transaction
    total: Minor

    @property
    def number(self) -> int | None:
        return number_in(self.posted.reference)


Pair = tuple[Document, Document, Likeness]


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    rows = books.rows_by("documents by party", lambda posted: _whose(books, posted), *NAMES)
    groups = {key: tuple(p for p in own if not books.is_void(p.id)) for key, own in rows.items()}
    control = books.control_accounts
    given = ((key, (documents, control)) for key, documents in groups.items())
    found = books.kept.each("alike documents", given, lambda _, rows: tuple(_twice(*rows)))
    for (kind, party), sets in zip(groups, found, strict=True):
        credits_given: Sequence[Document] = ()
        if sets and kind in CREDITED_BY:
            credits_given = _documents(groups.get((CREDITED_BY[kind], party), ()), control)
        for pairs in sets:
            yield from _points(run, pairs, credits_given)


def _whose(books: Books, posted: Transaction) -> Iterator[tuple[Kind, str]]:
    if posted.party and _total(posted, books.control_accounts):
        yield posted.kind, posted.party


def _total(posted: Transaction, control: frozenset[str]) -> Minor:
    return sum(line.amount for line in posted.lines if line.account in control)


def _documents(rows: Iterable[Transaction], control: frozenset[str]) -> tuple[Document, ...]:
    return tuple(Document(posted, _total(posted, control)) for posted in rows)


def _twice(rows: Sequence[Transaction], control: frozenset[str]) -> Iterator[tuple[Pair, ...]]:
    """The pairs of a party's papers that may be one, those of each total together."""
    documents = _documents(rows, control)
    same_total: dict[Minor, list[Document]] = defaultdict(list)
    for document in documents:
        same_total[document.total].append(document)
    for twins in same_total.values():
        pairs = tuple(_alike(twins, documents)) if len(twins) > 1 else ()
        if pairs:
            yield pairs


def _alike(twins: Sequence[Document], all_of_party: Sequence[Document]) -> Iterator[Pair]:
    """Pairs that may be one document, compared only where they can be: a long run of equal rents
    is looked at once, not squared."""
    by_reference: dict[str, list[Document]] = defaultdict(list)
    for document in twins:
        by_reference[look_alike(document.posted.reference)].append(document)
    for reference, same in by_reference.items():
        if reference and len(same) > 1 and not _is_habit(same):
            for bill, other in combinations(same, 2):
                if _is_yearly(bill, other):
                    continue
                yield bill, other, likeness(bill.posted.reference, other.posted.reference)
    in_order = sorted(twins, key=lambda document: (document.posted.day, document.posted.id))
    for place, bill in enumerate(in_order):
        for other in in_order[place + 1 :]:
            days = (other.posted.day - bill.posted.day).days
            if days > SLIP_DAYS:
                break
            alike = likeness(bill.posted.reference, other.posted.reference)
            near = alike is Likeness.ABSENT and days <= NEAR_DAYS and not _repeats(twins)
            quoted = alike is Likeness.QUOTED and not _repeats(twins)
            if near or quoted or (alike is Likeness.SLIP and _is_a_slip(bill, other, all_of_party)):
                yield bill, other, alike


def _is_habit(same: Sequence[Document]) -> bool:
    """Some suppliers put the same words on each bill: three or more of them, apart in time."""
    return len(same) > 2 and _usual_gap(same) >= 6


def _is_yearly(one: Document, other: Document) -> bool:
    """A fee of the year under a member's number: a year apart, and each keyed in its own time."""
    if abs(abs((other.posted.day - one.posted.day).days) - YEAR) > NEAR_DAYS:
        return False
    keyed = [document.posted.entered_at for document in (one, other)]
    return all(
        at is not None and (at.date() - document.posted.day).days < KEYED_SOON
        for at, document in zip(keyed, (one, other), strict=True)
    )


def _repeats(twins: Sequence[Document]) -> bool:
    """A weekly or monthly bill of the same sum, with no number on it."""
    return len(twins) > 2 and _usual_gap(twins) >= 6


def _usual_gap(documents: Sequence[Document]) -> float:
    days = sorted(document.posted.day for document in documents)
    return median((later - earlier).days for earlier, later in pairwise(days))


def _is_a_slip(one: Document, other: Document, all_of_party: Sequence[Document]) -> bool:
    """Whether one of two numbers that differ by a slip does not fit the party's own sequence."""
    if one.number is None or other.number is None:
        return one.posted.day == other.posted.day
    if abs(one.number - other.number) <= 2:
        return False
    fits = [_fits(document, (one, other), all_of_party) for document in (one, other)]
    if None in fits:
        return not is_substitution(one.posted.reference, other.posted.reference)
    if all(fits):
        # Two numbers that both fit are two documents, unless only their digits changed places.
        swapped = sorted(str(one.number)) == sorted(str(other.number))
        return swapped and one.posted.day == other.posted.day
    return True


def _fits(
    document: Document, pair: tuple[Document, Document], all_of_party: Sequence[Document]
) -> bool | None:
    """Whether its number lies between its neighbours' in time; None where it has none to ask."""
    others = [
        (d.posted.day, d.number) for d in all_of_party if d not in pair and d.number is not None
    ]
    before = [number for day, number in others if day < document.posted.day]
    after = [number for day, number in others if day > document.posted.day]
    if document.number is None or len(before) + len(after) < 2:
        return None
    if not after:
        return max(before) < document.number <= max(before) + FURTHEST
    if not before:
        return min(after) - FURTHEST <= document.number < min(after)
    if max(before) > min(after):
        return None  # the party's numbers do not rise with time, so they prove nothing
    return max(before) < document.number < min(after)


def _points(
    run: CheckRun,
    pairs: Iterable[Pair],
    credits_given: Sequence[Document],
) -> Iterator[Point]:
    told: set[str] = set()
    for document, other, alike in pairs:
        kept, twin = _kept_first(run, document, other)
        if twin.posted.id in told or _is_credited(kept, twin, credits_given):
            continue
        both_settled = _is_settled(run, kept) and _is_settled(run, twin)
        if both_settled and alike in (Likeness.SLIP, Likeness.ABSENT, Likeness.QUOTED):
            continue
        told.add(twin.posted.id)
        yield _point(run, kept, twin, alike)


def _kept_first(run: CheckRun, one: Document, other: Document) -> tuple[Document, Document]:
    """The one kept is the allocated one, else the one with a paper, else the one keyed first."""
    papers = {paper.transaction for paper in run.books.tables.attachments}

    def rank(document: Document) -> tuple[bool, bool, bool, str, str]:
        posted = document.posted
        keyed = posted.entered_at.isoformat() if posted.entered_at else ""
        return (
            not run.items.standing_on(posted.id),
            posted.id not in papers,
            not keyed,
            keyed,
            posted.id,
        )

    kept, twin = sorted((one, other), key=rank)
    return kept, twin


def _is_settled(run: CheckRun, document: Document) -> bool:
    items = run.items.by_transaction.get(document.posted.id, ())
    return all(run.items.open_now[item.key] == 0 for item in items)


def _is_credited(one: Document, other: Document, credits_given: Sequence[Document]) -> bool:
    """Whether a credit note of the same total already takes one of the two back."""
    earliest = min(one.posted.day, other.posted.day)
    return any(
        credit.total == -one.total and 0 <= (credit.posted.day - earliest).days <= CREDIT_DAYS
        for credit in credits_given
    )


def _point(run: CheckRun, kept: Document, twin: Document, alike: Likeness) -> Point:
    books = run.books
    name = books.party_name(kept.posted.party)
    what = NAMES[kept.posted.kind]
    days = abs((twin.posted.day - kept.posted.day).days)
    certainty = _certainty(run, kept, twin, alike, days)
    apart = {0: "dated the same day", 1: "one day apart"}.get(days, f"{days} days apart")
    settled = [document for document in (kept, twin) if _is_settled(run, document)]
    far = abs((twin.posted.day - kept.posted.day).days) > HALF_A_YEAR
    against = [f"{days} days lie between them"] if far else []
    if _is_settled(run, twin):
        against.append("each of them is settled" if len(settled) == 2 else "the second is settled")
    if alike is Likeness.ABSENT:
        against.append(WORDS[alike])
    reference = kept.posted.reference or twin.posted.reference or "no number"
    paper = "" if what == "credit" else (" from" if what == "bill" else " to")
    return CHECK.point(
        books,
        subjects={"same": tuple(sorted((kept.posted.id, twin.posted.id)))},
        amount=kept.total,
        certainty=certainty,
        summary=f"The same {what}{paper or ' for'} {name} is in the books twice.",
        short=f"{what} {reference}, {kept.posted.day:%-d %b} and {twin.posted.day:%-d %b}",
        because=(
            f"same party and total, {apart}",
            *(() if alike is Likeness.ABSENT else (WORDS[alike],)),
            *(() if settled else ("neither is settled",)),
        ),
        against=tuple(against),
        hints={"twin": twin.posted.id, "kept": kept.posted.id},
    )


WORDS = {
    Likeness.SAME: "the same reference",
    Likeness.FOLDED: "references alike but for the way they were keyed",
    Likeness.SLIP: "references one keying slip apart, and one does not fit the sequence",
    Likeness.QUOTED: "the number of one stands among the words of the other",
    Likeness.ABSENT: "a reference is missing",
    Likeness.DIFFERENT: "references differ",
}


def _certainty(run: CheckRun, kept: Document, twin: Document, alike: Likeness, days: int) -> float:
    # A second payment of its own makes a true twin less likely; half a year apart does too.
    doubt = 0.04 if _is_settled(run, twin) else 0.0
    doubt += 0.06 if days > HALF_A_YEAR else 0.0
    if alike in (Likeness.SAME, Likeness.FOLDED):
        return (0.99 if days <= 31 else 0.97) - doubt
    if alike in (Likeness.SLIP, Likeness.QUOTED):
        return 0.92 - doubt
    if kept.posted.reference or twin.posted.reference:
        return 0.85 - doubt
    return (0.8 if days == 0 else 0.7) - doubt
