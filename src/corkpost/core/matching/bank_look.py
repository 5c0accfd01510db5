"""What the checks of the bank share: for each account what is left over when all that matches is set
aside, and what of it is the same but for a slip."""

from collections import Counter
from collections.abc import Iterator, Sequence
from datetime import timedelta
from typing import NamedTuple

from corkpost.core.bank.reconciling import Reconciliation, reconciliation
from corkpost.core.bank.sides import BankSides, Entry, EntryKey, bank_sides, own_accounts
from corkpost.core.books import Books
from corkpost.core.evidence.names import words_of
from corkpost.core.matching.bank_lines import Matcher, Proposal, matcher_of, propose
from corkpost.core.money import Minor
from corkpost.core.statements import Statement, StatementLine

CORRECTED_WITHIN = timedelta(days=14)
LATE_ENTRIES = timedelta(days=10)
SHOWN_WITHIN = timedelta(days=4)
TWIN_DAYS = 4
ASIDE = 0.6
"""A proposal of less is no reason to keep quiet about what it joins."""

_COMMON = frozenset(
    "PAYMENT TRANSFER CARD PURCHASE CREDIT DEBIT RECEIVED ONLINE RECEIPT BANK CHQ CHEQUE".split()
)


class Differing(NamedTuple):
    """An entry and a line that are the same but for the amount. *how*: what slip it is.

    *correction*: the later line by which the bank puts it right; then the bank erred.
    """

    entry: Entry
    line: StatementLine
    how: str
    certainty: float
    correction: StatementLine | None

    @property
    def missing(self) -> Minor:
        """What the bank has less (or, negative, more) than the books, money in positive."""
        return self.entry.amount - self.line.amount


class OtherNumber(NamedTuple):
    """A pair that is the same but for the number."""

    entry: Entry
    line: StatementLine


class BankLook(NamedTuple):
    """One account, up to its latest statement."""

    account: str
    sides: BankSides
    state: Reconciliation
    proposals: tuple[Proposal, ...]
    differing: tuple[Differing, ...]
    other_numbers: tuple[OtherNumber, ...]
    missing: tuple[StatementLine, ...]
    lone: tuple[Entry, ...]
    twins: tuple[tuple[Entry, Entry], ...]
    """An entry that the bank has no line for, and its like that has one."""
    matcher: Matcher


def bank_looks(books: Books) -> tuple[BankLook, ...]:
    """Every account in the books' currency that statements came for: what is left on others can't be posted
    as it is."""
    found: tuple[BankLook, ...] | None = books.derived.get("bank looks")
    if found is None:
        every = (bank_sides(books, code) for code in own_accounts(books))
        found = tuple(bank_look(books, sides, sides.statements[-1]) for sides in every)
        books.derived["bank looks"] = found
    return found


class _Matched(NamedTuple):
    """All but what depends on which entries were put right: it is kept while the account stays as it is."""

    look: BankLook
    alone: tuple[Entry, ...]
    at_bank: tuple[Entry, ...]


def bank_look(books: Books, sides: BankSides, statement: Statement) -> BankLook:
    """The account up to the statement: its sum, what matches, and what is left over."""
    which = "latest" if statement is sides.statements[-1] else "earlier"
    given = (sides, statement.number, books.names)
    name = f"bank matched {sides.account} {which}"
    return _look(books, books.kept.once(name, given, lambda: _matched(books, sides, statement)))


def _look(books: Books, found: _Matched) -> BankLook:
    standing = [entry for entry in found.alone if entry.posted.id not in books.corrected]
    statement = found.look.state.statement
    twins = tuple(_twins(found.look.matcher, standing, found.at_bank, statement))
    of_twins = {twin.key for twin, _ in twins}
    lone = tuple(entry for entry in found.alone if entry.key not in of_twins)
    return found.look._replace(twins=twins, lone=lone)


def _matched(books: Books, sides: BankSides, statement: Statement) -> _Matched:
    state = reconciliation(sides, statement)
    lines = [*state.carried_in, *state.unmatched]
    entries = [*state.outstanding, *_booked_late(sides, statement)]
    doubtful: list[Entry] = []
    if state.start.off_by:
        earliest = state.start.first_day - timedelta(days=185)
        doubtful = [
            entry
            for key, entry in sides.entries.items()
            if earliest <= entry.day < state.start.first_day
            and key not in sides.group_of_entry
            and key not in state.start.outstanding
        ]
    doubted = frozenset(entry.key for entry in doubtful)
    offered = [*entries, *doubtful]
    proposals = propose(books, sides, offered, lines, doubtful=doubted)
    known = _explained(sides, proposals, doubted, state.start.off_by)
    if known:
        proposals = propose(books, sides, offered, lines, doubtful=doubted - known)
    used = {
        key for proposal in proposals if proposal.certainty >= ASIDE for key in proposal.entries
    }
    used_lines = {
        name for proposal in proposals if proposal.certainty >= ASIDE for name in proposal.lines
    }
    left = [line for line in lines if line.id not in used_lines]
    lone = [entry for entry in entries if entry.key not in used]
    matcher = matcher_of(books, sides)
    differing = tuple(_differing(matcher, lone, left))
    taken = {pair.line.id for pair in differing}
    taken |= {pair.correction.id for pair in differing if pair.correction}
    differ = {pair.entry.key for pair in differing}
    alone = [entry for entry in lone if entry.key not in differ]
    at_bank = [sides.entries[key] for key in used]
    # What is agreed with its own opposite never reached the bank.
    shown = {key: group for key, group in sides.group_of_entry.items() if group.lines}
    at_bank += [entry for key, entry in sides.entries.items() if key in shown]
    look = BankLook(
        account=sides.account,
        sides=sides,
        state=state,
        proposals=proposals,
        differing=differing,
        other_numbers=tuple(_other_numbers(matcher, proposals)),
        missing=tuple(line for line in left if line.id not in taken),
        lone=(),
        twins=(),
        matcher=matcher,
    )
    return _Matched(look, tuple(alone), tuple(at_bank))


def _explained(
    sides: BankSides,
    proposals: Sequence[Proposal],
    doubted: frozenset[EntryKey],
    off_by: Minor,
) -> frozenset[EntryKey]:
    """The entries from before the first statement that lines of it fit, where they come to exactly what
    its opening balance is off by: then the bank did not have them yet, and there is no doubt."""
    found = frozenset(key for proposal in proposals for key in proposal.entries if key in doubted)
    total = sum(sides.entries[key].amount for key in found)
    return found if off_by and total == -off_by else frozenset()


def _booked_late(sides: BankSides, statement: Statement) -> list[Entry]:
    last = statement.last_day
    return [
        entry
        for key, entry in sides.entries.items()
        if last < entry.day <= last + LATE_ENTRIES and key not in sides.group_of_entry
    ]


def _differing(
    matcher: Matcher, entries: Sequence[Entry], lines: Sequence[StatementLine]
) -> Iterator[Differing]:
    offers = []
    for line in lines:
        for entry in entries:
            days = (line.day - entry.day).days
            how = slip_between(entry.amount, line.amount) if -3 <= days <= 15 else None
            if how:
                certainty = _alike(matcher, entry, line, days)
                correction = _correction(lines, entry, line)
                if correction:
                    certainty = min(0.97, certainty + 0.25)
                if certainty >= 0.6:
                    offers.append(Differing(entry, line, how, certainty, correction))
    offers.sort(
        key=lambda differing: (
            -differing.certainty,
            differing.line.day,
            differing.line.id,
            differing.entry.key,
        )
    )
    used: set[object] = set()
    for differing in offers:
        ids = {
            differing.entry.key,
            differing.line.id,
            *([differing.correction.id] if differing.correction else []),
        }
        if not ids & used:
            used |= ids
            yield differing


def _alike(matcher: Matcher, entry: Entry, line: StatementLine, days: int) -> float:
    """How surely the two are one movement, whatever their amounts."""
    likeness = matcher.likeness(entry, line)
    if likeness is None or likeness.other_payee:
        return 0.0
    if likeness.by_reference:
        return 0.96
    if likeness.by_payee or likeness.by_habit:
        return 0.93 if 0 <= days <= 5 else 0.8
    shared = (words_of(entry.posted.memo or "") & words_of(line.words)) - _COMMON
    if shared:
        return 0.85 if 0 <= days <= 5 else 0.7
    return 0.6 if 0 <= days <= 2 else 0.3


def _correction(
    lines: Sequence[StatementLine], entry: Entry, line: StatementLine
) -> StatementLine | None:
    wanted = entry.amount - line.amount
    return next(
        (
            later
            for later in lines
            if later.id != line.id
            and later.amount == wanted
            and timedelta() <= later.day - line.day <= CORRECTED_WITHIN
        ),
        None,
    )


def slip_between(one: Minor, other: Minor) -> str | None:
    """What slip makes one amount of the other; None where none does.

    Two digits exchanged, a digit or nought lost or doubled, the sign turned.
    """
    if one == other:
        return None
    if one == -other:
        return "the sign is turned"
    if (one > 0) is not (other > 0):
        return None
    mine, theirs = str(abs(one)), str(abs(other))
    if len(mine) == len(theirs) and Counter(mine) == Counter(theirs):
        places = [i for i, (a, b) in enumerate(zip(mine, theirs, strict=True)) if a != b]
        return "two digits are exchanged" if len(places) == 2 else None
    long, short = (mine, theirs) if len(mine) > len(theirs) else (theirs, mine)
    if len(long) - len(short) != 1 or len(short) < 3:
        return None
    for place in range(len(long)):
        if long[:place] + long[place + 1 :] == short:
            return "a nought is lost" if long[place] == "0" else "a digit is lost"
    return None


def _twins(
    matcher: Matcher, lone: Sequence[Entry], at_bank: Sequence[Entry], statement: Statement
) -> Iterator[tuple[Entry, Entry]]:
    """Entries that the bank should have shown by now, with the like of them that it did show."""
    by_sum: dict[Minor, list[Entry]] = {}
    for entry in at_bank:
        by_sum.setdefault(entry.amount, []).append(entry)
    for entry in lone:
        if statement.last_day - entry.day < SHOWN_WITHIN:
            continue
        near = [
            other
            for other in by_sum.get(entry.amount, ())
            if abs((other.day - entry.day).days) <= TWIN_DAYS and other.posted.id != entry.posted.id
        ]
        alike = [other for other in near if matcher.who(other) == matcher.who(entry)]
        coded = [other for other in near if not other.posted.party or not entry.posted.party]
        found = alike or coded
        if found:
            yield entry, min(found, key=lambda x: (abs((x.day - entry.day).days), x.key))


def _other_numbers(matcher: Matcher, proposals: Sequence[Proposal]) -> Iterator[OtherNumber]:
    for proposal in proposals:
        if len(proposal.entries) == len(proposal.lines) == 1:
            entry = matcher.sides.entries[proposal.entries[0]]
            line = matcher.sides.lines[proposal.lines[0]]
            likeness = matcher.likeness(entry, line)
            if likeness and likeness.other_number and not likeness.other_payee:
                yield OtherNumber(entry, line)
