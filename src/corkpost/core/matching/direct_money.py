"""Money coded straight to cost or income while what it settles stands open.

Payments and receipts are mirror images: one search serves both checks.
"""

from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.references import numbers_of, quotes, runs_in
from corkpost.core.evidence.said import payee, said_of
from corkpost.core.evidence.sums import MOST_CANDIDATES, exact_sets
from corkpost.core.evidence.who import PartyFinder, finder_for
from corkpost.core.kinds import MONEY_ROLES, AccountRole, AccountType, PartyKind, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem
from corkpost.core.points import CheckRun

EARLY_DAYS = 10
LATE_DAYS = 400
LATE_DAYS_UNNAMED = 90
STOOD_OPEN, STOOD_OPEN_ALONE = 0.88, 0.78
TOGETHER = 0.85
MOST_PARTS = 3
NUMBER_ALONE = 0.86
MOST_CREDITS = 6
MOST_NEAR = 120
"""How many open items of one party are looked at singly for one payment."""


class Match(StrEnum):
    ONE = "the same sum"
    SET = "exactly the sum of several"
    NETTED = "exactly what is left of them after a credit"
    PART = "a part that quotes its number"
    PART_OF_ALL = "with another payment it comes to exactly this sum"
    SHORT = "short by up to 3%: a discount, or charges kept"
    UNNAMED = "the same sum, and no other open item has it"


@dataclass(frozen=True)
class Side:
    """What tells payments from receipts. *sign*: of the open item on its control account."""

    kind: TransactionKind
    coded_to: AccountType
    control: AccountRole
    party_kind: PartyKind
    sign: int


PAYMENTS = Side(
    TransactionKind.DIRECT_PAYMENT,
    AccountType.EXPENSE,
    AccountRole.PAYABLES,
    PartyKind.SUPPLIER,
    -1,
)
RECEIPTS = Side(
    TransactionKind.DIRECT_RECEIPT,
    AccountType.INCOME,
    AccountRole.RECEIVABLES,
    PartyKind.CUSTOMER,
    1,
)


class Direct(NamedTuple):
    """Money coded straight. *amount* is positive; *party* None where nobody is named. *said*: what the
    books and the bank say of it."""

    posted: Transaction
    party: str | None
    amount: Minor
    said: str


class Open(NamedTuple):
    """An open item, with what is left of it, positive. *credit*: it makes what is owed smaller."""

    item: OpenItem
    left: Minor
    credit: bool = False

    @property
    def day(self) -> date:
        return self.item.transaction.day


class Found(NamedTuple):
    """A payment with what it settles. *rivals*: how many fit equally well, itself included."""

    direct: Direct
    items: tuple[Open, ...]
    match: Match
    certainty: float
    rivals: int
    since: Transaction | None = None
    """The paper that stood open on the day, where other money was set against it since."""


class PartyOpens:
    """The open items of one party, oldest first, found by day or by sum without looking at all."""

    def __init__(self, opens: Iterable[Open]) -> None:
        every = sorted(opens, key=lambda item: (item.day, item.item.transaction.id))
        self.all = [item for item in every if not item.credit]
        self.credits = [item for item in every if item.credit]
        self._days = [item.day for item in self.all]
        self._by_sum: dict[Minor, list[Open]] = defaultdict(list)
        for item in self.all:
            self._by_sum[item.left].append(item)

    def of_sum(self, amount: Minor, day: date) -> list[Open]:
        """Those of exactly that sum that money of *day* may be for."""
        return [item for item in self._by_sum.get(amount, ()) if _in_time(item.day, day)]

    def near(self, day: date) -> list[Open]:
        """Those that money of *day* may be for, the latest where there are very many."""
        first = bisect_left(self._days, day - timedelta(days=LATE_DAYS))
        last = bisect_right(self._days, day + timedelta(days=EARLY_DAYS))
        return self.all[max(first, last - MOST_NEAR) : last]


def _in_time(paper: date, money: date) -> bool:
    return -EARLY_DAYS <= (money - paper).days <= LATE_DAYS


def find_direct(run: CheckRun, side: Side, twins: Mapping[str, str]) -> Iterator[Found]:
    """Each coded payment or receipt with the open item(s) it settles; none is used twice. *twins*: papers
    that stand for others, with those: the money is for the other, where that is open too.

    Better matches choose first: quoted numbers, then single sums by nearness, sets, parts, shorts.
    """
    open_by_party = _open_by_party(run, side, twins)
    directs = list(_directs(run, side, open_by_party))
    kept = run.books.kept
    given = (
        (direct.posted.id, (direct, open_by_party[direct.party]))
        for direct in directs
        if direct.party in open_by_party and direct.party is not None
    )
    found_of = kept.each(f"offers of {side.kind}", given, lambda _, pair: tuple(_offers(*pair)))
    offers = [found for offered in found_of for found in offered]
    offers += _unnamed_offers(directs, open_by_party)
    offers += _stood_open(
        run, side, directs, open_by_party, {row.direct.posted.id for row in offers}
    )
    offers += _in_parts(directs, open_by_party, {row.direct.posted.id for row in offers})
    offers.sort(key=lambda found: (-found.certainty, _days(found), found.direct.posted.id))
    used: set[str] = set()
    parts: dict[str, Minor] = defaultdict(int)
    for found in offers:
        papers = {open_.item.transaction.id for open_ in found.items}
        if found.direct.posted.id in used or papers & used:
            continue
        used.add(found.direct.posted.id)
        if found.match not in (Match.PART, Match.PART_OF_ALL):
            if papers & parts.keys():
                continue
            used |= papers
        else:
            (open_,) = found.items
            if parts[open_.item.transaction.id] + found.direct.amount > open_.left:
                continue
            parts[open_.item.transaction.id] += found.direct.amount
        yield found


def _in_parts(
    directs: Iterable[Direct], by_party: Mapping[str | None, PartyOpens], told: set[str]
) -> Iterator[Found]:
    """Payments of one party, of no paper's sum, that together come to one paper exactly."""
    free: dict[str, list[Direct]] = defaultdict(list)
    for direct in directs:
        if direct.party is not None and direct.posted.id not in told:
            free[direct.party].append(direct)
    for party, rows in free.items():
        mine = by_party.get(party)
        for open_ in mine.all if mine and len(rows) > 1 else ():
            near = [row for row in rows if 0 <= _after(row, open_) <= LATE_DAYS_UNNAMED]
            sets = exact_sets([row.amount for row in near], open_.left).sets
            if len(sets) == 1 and len(sets[0]) <= MOST_PARTS:
                for place in sets[0]:
                    yield Found(near[place], (open_,), Match.PART_OF_ALL, TOGETHER, 1)


def _after(direct: Direct, open_: Open) -> int:
    return (direct.posted.posting_date - open_.day).days


def _stood_open(
    run: CheckRun,
    side: Side,
    directs: Iterable[Direct],
    open_by_party: Mapping[str | None, PartyOpens],
    told: set[str],
) -> Iterator[Found]:
    """What a paper of the very sum that stood open on the day explains, though other money was set against
    it since: that is for another paper of the sum, which is open now, or one too many."""
    accounts = {account.code for account in run.books.with_role(side.control)}
    looked_for = [row for row in directs if row.party is not None and row.posted.id not in told]
    wanted = {(row.party, row.amount) for row in looked_for}
    settled: dict[tuple[str | None, Minor], list[OpenItem]] = defaultdict(list)
    for party in {party for party, _ in wanted}:
        for key in run.items.by_party.get(party, ()):
            item = run.items.items[key]
            if (party, item.amount * side.sign) in wanted and not run.items.open_now[key]:
                settled[party, item.amount * side.sign].append(item)
    for direct in looked_for:
        papers = [
            item
            for item in settled[direct.party, direct.amount]
            if item.account in accounts and _is_paper(item.transaction)
        ]
        paper = _stood(run, direct, papers)
        if paper is None:
            continue
        mine = open_by_party.get(direct.party)
        now = [x for x in mine.all if x.left == direct.amount] if mine else []
        open_ = now[0] if now else Open(paper, abs(paper.amount))
        certainty = STOOD_OPEN if now else STOOD_OPEN_ALONE
        yield Found(direct, (open_,), Match.ONE, certainty, len(now), paper.transaction)


def _stood(run: CheckRun, direct: Direct, papers: Iterable[OpenItem]) -> OpenItem | None:
    """The one of the papers of that sum which was open, whole, on the day of the money, and which other
    money, that does not quote it, settled since."""
    day = direct.posted.posting_date
    found = []
    for item in papers:
        if not -EARLY_DAYS <= (day - item.transaction.day).days <= LATE_DAYS_UNNAMED:
            continue
        settled = [row for row in run.items.by_item.get(item.key, ()) if row.until is None]
        if all(row.since > day and row.allocation.change is None for row in settled):
            found.append((item, settled))
    if len(found) != 1:
        return None
    ((item, settled),) = found
    money = {x for row in settled for x in (row.debit[0], row.credit[0])} - {item.transaction.id}
    quoted = any(
        quotes(run.books.transactions[name].memo, item.transaction.reference)
        for name in money
        if name in run.books.transactions
    )
    return None if quoted else item


def _open_by_party(
    run: CheckRun, side: Side, twins: Mapping[str, str]
) -> Mapping[str | None, PartyOpens]:
    accounts = {account.code for account in run.books.with_role(side.control)}
    opens = tuple(run.items.open_on(accounts))
    names = {item.transaction.id for item, _ in opens} if twins else set()
    found: dict[str | None, list[Open]] = defaultdict(list)
    for item, left in opens:
        if twins.get(item.transaction.id) in names:
            continue
        if left * side.sign > 0 and _is_paper(item.transaction):
            found[item.party].append(Open(item, abs(left)))
        elif left * side.sign < 0 and item.transaction.kind in CREDITS:
            found[item.party].append(Open(item, abs(left), credit=True))
    given = ((party, tuple(opens)) for party, opens in found.items())
    made = run.books.kept.each(
        f"open beside {side.kind}", given, lambda _, opens: PartyOpens(opens)
    )
    return dict(zip(found, made, strict=True))


CREDITS = frozenset({TransactionKind.SALES_CREDIT, TransactionKind.PURCHASE_CREDIT})


def _is_paper(posted: Transaction) -> bool:
    return posted.kind in (
        TransactionKind.SALES_INVOICE,
        TransactionKind.PURCHASE_BILL,
        TransactionKind.OPENING,
    )


def _directs(run: CheckRun, side: Side, opens: Mapping[str | None, PartyOpens]) -> Iterator[Direct]:
    books = run.books
    finder = finder_for(books, side.party_kind)
    rows = books.rows_by(
        f"coded straight, {side.kind}",
        lambda posted: (_coded(books, posted, side),),
        side.kind,
    )
    for amount, coded in rows.items():
        for posted in coded if amount > 0 else ():
            if not books.is_answered(posted.id):
                said = said_of(books, posted)
                who = payee(books, finder, posted)
                if (
                    who is None
                    or who not in opens
                    or not opens[who].of_sum(amount, posted.posting_date)
                ):
                    who = _namesake(finder, opens, who, said, posted, amount) or who
                yield Direct(posted, who, amount, said)


def _namesake(
    finder: PartyFinder,
    opens: Mapping[str | None, PartyOpens],
    who: str | None,
    said: str,
    posted: Transaction,
    amount: Minor,
) -> str | None:
    """Of those who are named equally, as one who stands twice is, the one of whom that sum is open."""
    names = finder.namesakes(who) if who else finder.likeliest(said)
    mine = [
        name for name in names if name in opens and opens[name].of_sum(amount, posted.posting_date)
    ]
    return mine[0] if len(mine) == 1 else None


def _coded(books: Books, posted: Transaction, side: Side) -> Minor:
    """The gross sum coded to cost (or income) and its tax; nil where anything else is in it."""
    coded = 0
    straight = False
    for line in posted.lines:
        account = books.accounts[line.account]
        if account.role in MONEY_ROLES:
            continue
        if account.type is not side.coded_to and account.role is not AccountRole.TAX:
            return 0
        straight = straight or account.type is side.coded_to
        coded -= line.amount * side.sign
    return coded if straight else 0


def _days(found: Found) -> int:
    """Days from the newest paper to the money, without sign."""
    newest = max(open_.item.transaction.day for open_ in found.items)
    return abs((found.direct.posted.posting_date - newest).days)


def _offers(direct: Direct, mine: PartyOpens) -> Iterator[Found]:
    day = direct.posted.posting_date
    exact = mine.of_sum(direct.amount, day)
    for open_ in exact:
        yield Found(direct, (open_,), Match.ONE, _sureness(direct, open_), len(exact))
    near = mine.near(day) if not exact else []
    if not near:
        return
    field = near[-MOST_CANDIDATES:]
    sets = exact_sets([open_.left for open_ in field], direct.amount)
    for places in sets.sets[:1]:
        alone = len(sets.sets) == 1 and len(near) <= MOST_CANDIDATES
        certainty = (0.96 if len(places) <= 3 else 0.93) if alone else 0.75
        chosen = tuple(field[place] for place in places)
        yield Found(direct, chosen, Match.SET, certainty, len(sets.sets))
    if not sets.sets:
        netted = list(_less_a_credit(direct, field, mine.credits))
        yield from netted or _unequal(direct, near)


def _less_a_credit(
    direct: Direct, field: Sequence[Open], credits: Sequence[Open]
) -> Iterator[Found]:
    """One paper or several less one open credit, to the cent."""
    near = [row for row in credits if _in_time(row.day, direct.posted.posting_date)]
    for credit in near[-MOST_CREDITS:]:
        wanted = direct.amount + credit.left
        chosen: list[tuple[int, ...]] = [
            (place,) for place, open_ in enumerate(field) if open_.left == wanted
        ]
        chosen += exact_sets([open_.left for open_ in field], wanted).sets
        if chosen:
            items = (*(field[place] for place in chosen[0]), credit)
            certainty = 0.93 if len(chosen) == 1 and len(items) <= 4 else 0.75
            yield Found(direct, items, Match.NETTED, certainty, len(chosen))
            return


def _sureness(direct: Direct, open_: Open) -> float:
    posted = open_.item.transaction
    if is_quoted(direct, open_):
        return 0.99
    days = (direct.posted.posting_date - posted.day).days
    return 0.97 if days <= 120 else 0.93


def is_quoted(direct: Direct, open_: Open) -> bool:
    """Whether the money's text or reference names the paper's number."""
    reference = open_.item.transaction.reference
    return quotes(direct.said, reference) or quotes(direct.posted.reference, reference)


def _unequal(direct: Direct, opens: Iterable[Open]) -> Iterator[Found]:
    bigger = [open_ for open_ in opens if open_.left > direct.amount]
    for open_ in bigger:
        short = open_.left - direct.amount
        if is_quoted(direct, open_):
            yield Found(direct, (open_,), Match.PART, 0.9, 1)
        elif short * 100 <= open_.left * 3:
            days = (direct.posted.posting_date - open_.item.transaction.day).days
            if days <= LATE_DAYS_UNNAMED:
                yield Found(direct, (open_,), Match.SHORT, 0.8, 1)


def _by_number_alone(direct: Direct, by_run: Mapping[str, list[Open]]) -> Iterator[Found]:
    """A part of the one open paper whose number the text quotes, though it names nobody."""
    day = direct.posted.posting_date
    said = {run for text in (direct.said, direct.posted.reference) for run in runs_in(text)}
    found = {
        open_.item.transaction.id: open_
        for run in said
        for open_ in by_run.get(run, ())
        if _in_time(open_.day, day) and is_quoted(direct, open_)
    }
    if len(found) == 1:
        (open_,) = found.values()
        if direct.amount < open_.left:
            yield Found(direct, (open_,), Match.PART, NUMBER_ALONE, 1)


def _unnamed_offers(
    directs: Iterable[Direct], by_party: Mapping[str | None, PartyOpens]
) -> Iterator[Found]:
    unnamed = [direct for direct in directs if direct.party is None]
    if not unnamed:
        return
    by_sum: dict[Minor, list[Open]] = defaultdict(list)
    by_run: dict[str, list[Open]] = defaultdict(list)
    for opens in by_party.values():
        for open_ in opens.all:
            by_sum[open_.left].append(open_)
            for run in numbers_of(open_.item.transaction.reference):
                by_run[run].append(open_)
    for direct in unnamed:
        yield from _by_number_alone(direct, by_run)
        same = by_sum.get(direct.amount, ())
        if len(same) == 1:
            days = (direct.posted.posting_date - same[0].item.transaction.day).days
            quoted = is_quoted(direct, same[0])
            if quoted or -EARLY_DAYS <= days <= LATE_DAYS_UNNAMED:
                yield Found(direct, (same[0],), Match.UNNAMED, 0.9 if quoted else 0.6, 1)
