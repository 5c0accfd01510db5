"""A client's tables made of what listings say: accounts, parties, entries, openings, what settles what."""

import json
import re
from collections import defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence, Set
from dataclasses import dataclass
from datetime import date, datetime, time
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.books import (
    Account,
    Books,
    ClientFacts,
    Line,
    Party,
    PriorBalance,
    Tables,
    Tax,
    Transaction,
)
from corkpost.core.chart.trade_words import by_name
from corkpost.core.intake.chart import ByName, Kind, kinds_of
from corkpost.core.intake.entries import Entry, entries_of, ids_of
from corkpost.core.intake.kinds import ByJournal, kind_of
from corkpost.core.intake.named_in_text import NamedInText
from corkpost.core.intake.personal import with_control_accounts
from corkpost.core.intake.raw import Balance, PartyRow, Posting, Proof, Raw
from corkpost.core.intake.settling import settled
from corkpost.core.intake.tax_rates import rates_of
from corkpost.core.intake.trial_balances import (
    from_balances,
    unbalanced_days,
    with_collective_parties,
)
from corkpost.core.kinds import (
    CONTROL_ROLES,
    PROFIT_AND_LOSS,
    AccountRole,
    AccountType,
    Entity,
    PartyKind,
    TaxKind,
    TransactionKind,
)
from corkpost.core.money import Minor
from corkpost.core.owners import OWNER_ROLE, OWNERS_HAVE
from corkpost.core.periods import ONE_DAY, Calendar

SHOWN = 5
"""So many rows that do not balance are named."""
GUESSED = "guessed"


@dataclass(frozen=True)
class Made:
    """*first*, *last*: the days of the ledger, or of the trial balances. *faults*: why nothing can be made
    of it. *chart*: what each account was taken for, and why."""

    tables: Tables
    first: date
    last: date
    proofs: tuple[Proof, ...]
    faults: tuple[str, ...]
    warnings: tuple[str, ...]
    chart: Mapping[str, Kind]
    implied: date | None = None
    """The day of the trial balance from which it was worked out what there was before; no list says it."""


class AsSaid(NamedTuple):
    """What listings say whoever's they are. *raw*: with parties on control accounts; *left*: rows that
    belong to no entry; *chart*: what each account is by its name and by what moves with it."""

    raw: Raw
    entries: Sequence[Entry]
    left: Sequence[Posting]
    chart: Mapping[str, Kind]


def as_said(raw: Raw, by_name: ByName) -> AsSaid:
    """The listings, their rows put together to entries and their accounts known."""
    raw = with_control_accounts(raw, by_name)
    found = entries_of(raw.postings)
    chart = kinds_of(raw.accounts, found.entries, _held(raw), by_name, _opened(raw))
    return AsSaid(raw, found.entries, found.left, chart)


def made_of(said: AsSaid, client: ClientFacts, books: Books | None, by_journal: ByJournal) -> Made:
    """The tables. *books*: the client's own that are there already: its accounts stay what they are, and
    what is said to have been there before is compared with them, and not taken in once more. *by_journal*:
    what entries of a journal of that name are."""
    known, raw = books.tables if books else Tables(), said.raw
    faults = list(_unbalanced(said.left, client))
    chart = {code: _of_entity(kind, client.entity) for code, kind in said.chart.items()}
    for account in known.accounts:
        chart[account.code] = Kind(account.type, account.role, "", False)
    proofs = list(raw.proofs)
    first, last = _span(raw)
    opening, openings_told = _openings(raw, first)
    implied = None
    if not opening and not any(row.is_opening for row in raw.postings):
        opening, implied = _implied(raw, chart, first)
    goes_on = books is not None and any(row.posting_date < first for row in known.transactions)
    if books is not None and goes_on:
        proofs += _proved_by_books(books, opening, first)
    else:
        proofs += openings_told
    proofs += _proved_by_balances(raw, opening, first, chart, client)
    proofs += _proved_by_items(raw, opening, chart)
    in_text = NamedInText({**_known_parties(known), **raw.parties}.values())
    transactions = [
        *([] if goes_on else _opening_transaction(opening, first)),
        *_transactions(said.entries, chart, client, by_journal, in_text),
    ]
    if not raw.postings:
        transactions = list(from_balances(raw, chart, client.year_end))
        faults += unbalanced_days(raw, client.currency)
        raw = with_collective_parties(raw, transactions)
    party_codes = {p for row in transactions for line in row.lines if (p := line.party)}
    parties = tuple(_parties(raw, party_codes, known, chart))
    parties += tuple(_owners(raw, chart, (*known.parties, *parties), is_known=books is not None))
    controls = [code for code, kind in chart.items() if kind.role in CONTROL_ROLES]
    tables = Tables(
        accounts=tuple(_accounts(raw, chart, known)),
        parties=parties,
        taxes=tuple(_taxes(raw, known, rates_of(said.entries, chart))),
        transactions=tuple(transactions),
        allocations=tuple(settled(transactions, controls, raw.items)),
        prior_year=tuple(_prior(raw, chart, first)),
    )
    return Made(tables, first, last, tuple(proofs), tuple(faults), (), chart, implied)


def _span(raw: Raw) -> tuple[date, date]:
    if raw.first is not None and raw.last is not None:
        return raw.first.replace(day=1), raw.last
    days = [row.day for row in raw.balances] or [item.as_at for item in raw.items]
    last = max(days, default=date(2000, 12, 31))
    return last.replace(month=1, day=1), last


BY_ANY_NAME = frozenset(
    {AccountRole.DRAWINGS, AccountRole.CAPITAL_INTRODUCED, AccountRole.PARTNER_CURRENT,
     AccountRole.OWNER_LOAN, AccountRole.MEMBER_PAYABLE}
)  # fmt: skip
"""What an owner takes or brings: charts call it by one of these names whatever the client is."""


def _of_entity(kind: Kind, entity: Entity) -> Kind:
    """What a name says of an owner's account, as such a client has it (handbook, section 3)."""
    if not kind.guessed or kind.role not in BY_ANY_NAME:
        return kind
    if kind.role in OWNERS_HAVE[entity]:
        return kind
    goes_out, _comes_in = OWNER_ROLE[entity]
    return kind._replace(role=goes_out)


def _unbalanced(left: Sequence[Posting], client: ClientFacts) -> Iterator[str]:
    if not left:
        return
    by_day: dict[date, list[Posting]] = defaultdict(list)
    for row in left:
        by_day[row.day].append(row)
    words = client.currency.format_amount
    for day, rows in sorted(by_day.items())[:SHOWN]:
        out = sum(row.amount for row in rows)
        side = "debits" if out > 0 else "credits"
        yield (
            f"{rows[0].where}: the entries of {day.isoformat()} do not balance, the {side} are greater by "
            f"{words(out)}. A row is missing, or stands twice."
        )
    if len(by_day) > SHOWN:
        yield f"{len(by_day) - SHOWN} more days have entries that do not balance."


def _held(raw: Raw) -> dict[str, Minor]:
    held: dict[str, Minor] = defaultdict(int)
    for (account, _), amount in raw.openings.items():
        held[account] += amount
    for row in raw.postings:
        held[row.account] += row.amount
    if not raw.postings:
        for balance in raw.balances:
            held[balance.account] = balance.amount
    return held


def _opened(raw: Raw) -> dict[str, Minor]:
    """What each account held before the first day, as the ledger says it."""
    held: dict[str, Minor] = defaultdict(int)
    for (account, _), amount in raw.openings.items():
        held[account] += amount
    for row in raw.postings:
        if row.is_opening:
            held[row.account] += row.amount
    return {account: amount for account, amount in held.items() if amount}


# -- what was there before


def _openings(raw: Raw, first: date) -> tuple[dict[tuple[str, str], Minor], list[Proof]]:
    """What each account held before the first day: as the ledger says it; else as a trial balance of the
    day before does."""
    opening = {key: amount for key, amount in raw.openings.items() if amount}
    if opening or any(row.is_opening for row in raw.postings):
        return opening, [_adds_up(opening)] if opening else []
    before = [row for row in raw.balances if row.day < first]
    if before:
        day = max(row.day for row in before)
        opening = {(r.account, r.party): r.amount for r in before if r.day == day and r.amount}
        return opening, [_adds_up(opening)]
    return {}, []


def _implied(
    raw: Raw, chart: Mapping[str, Kind], first: date
) -> tuple[dict[tuple[str, str], Minor], date | None]:
    """What must have been there before, as a later trial balance holds more than what moved: where that is
    on lasting accounts alone, and adds up; and the day of that trial balance."""
    later = [row.day for row in raw.balances if row.day >= first]
    if not later or not raw.postings:
        return {}, None
    day = min(later)
    held: dict[tuple[str, str], Minor] = defaultdict(int)
    for row in raw.balances:
        if row.day == day:
            held[row.account, ""] += row.amount
    for posting in raw.postings:
        if posting.day <= day:
            held[posting.account, ""] -= posting.amount
    opening = {key: amount for key, amount in held.items() if amount}
    lasting = all(chart[account].type not in PROFIT_AND_LOSS for account, _ in opening)
    if not opening or not lasting or sum(opening.values()) != 0:
        return {}, None
    return opening, day


def _proved_by_books(
    books: Books, opening: Mapping[tuple[str, str], Minor], first: date
) -> Iterator[Proof]:
    """What each account is said to have held before, against the books that are there."""
    said: dict[str, Minor] = defaultdict(int)
    for (account, _), amount in opening.items():
        said[account] += amount
    held: dict[str, Minor] = defaultdict(int)
    for posted in books.tables.transactions:
        if posted.posting_date < first and posted.change is None:
            for line in posted.lines:
                held[line.account] += line.amount
    for account, amount in sorted(said.items()):
        if held.get(account, 0) != amount:
            yield Proof(f"{account} before {first.isoformat()}", held.get(account, 0), amount)
    agreeing = len([code for code in said if held.get(code, 0) == said[code]])
    yield Proof("accounts that begin where the books ended", agreeing, len(said), counts=True)


def _adds_up(opening: Mapping[tuple[str, str], Minor]) -> Proof:
    return Proof("opening balances: debits less credits", sum(opening.values()), 0)


def _opening_transaction(
    opening: Mapping[tuple[str, str], Minor], first: date
) -> Iterator[Transaction]:
    """Dated the day before the first (handbook, section 7)."""
    rows = [(key, amount) for key, amount in sorted(opening.items()) if amount]
    if not rows or sum(amount for _, amount in rows) != 0:
        return
    day = first - ONE_DAY
    yield Transaction(
        f"opening-{day}",
        TransactionKind.OPENING,
        day,
        tuple(
            Line(number, account, amount, party or None)
            for number, ((account, party), amount) in enumerate(rows, 1)
        ),
    )


def _proved_by_balances(
    raw: Raw,
    opening: Mapping[tuple[str, str], Minor],
    first: date,
    chart: Mapping[str, Kind],
    client: ClientFacts,
) -> Iterator[Proof]:
    """Each trial balance within the ledger's days, against what the ledger comes to. One that begins each
    year with no income and no costs, without an entry that carries them forward, is compared so."""
    if not raw.postings:
        return
    calendar = Calendar(client.year_end, client.years)
    for day in sorted({row.day for row in raw.balances if row.day >= first}):
        said: dict[str, Minor] = defaultdict(int)
        where = {}
        for row in raw.balances:
            if row.day == day:
                said[row.account] += row.amount
                where[row.account] = row.where
        held = _ledger_at(raw, opening, day)
        began = calendar.year_of(day).first_day - ONE_DAY
        fresh = _carried_forward(held, _ledger_at(raw, opening, began), said, chart)
        if len(_differing(fresh, said)) < len(_differing(held, said)):
            held = fresh
        for account in _differing(held, said):
            ours, theirs = held.get(account, 0), said.get(account, 0)
            yield Proof(f"{account} at {day.isoformat()}", ours, theirs, where.get(account))
        agreeing = len([code for code in said if held.get(code, 0) == said[code]])
        what = f"accounts of the trial balance at {day.isoformat()} that agree"
        yield Proof(what, agreeing, len(said), counts=True)


def _ledger_at(raw: Raw, opening: Mapping[tuple[str, str], Minor], day: date) -> dict[str, Minor]:
    held: dict[str, Minor] = defaultdict(int)
    for (account, _), amount in opening.items():
        held[account] += amount
    for posting in raw.postings:
        if posting.day <= day:
            held[posting.account] += posting.amount
    return held


def _carried_forward(
    held: Mapping[str, Minor],
    before: Mapping[str, Minor],
    said: Mapping[str, Minor],
    chart: Mapping[str, Kind],
) -> dict[str, Minor]:
    """What is held when the result of earlier years is carried to equity: to the one account of it that
    the trial balance says holds it."""
    fresh, result = dict(held), 0
    for account, amount in before.items():
        if chart[account].type in PROFIT_AND_LOSS:
            fresh[account] = fresh.get(account, 0) - amount
            result += amount
    for account, amount in said.items():
        if (
            chart[account].type is AccountType.EQUITY
            and amount - fresh.get(account, 0) == result != 0
        ):
            fresh[account] = amount
            break
    return fresh


def _differing(held: Mapping[str, Minor], said: Mapping[str, Minor]) -> list[str]:
    return [
        account
        for account in sorted(held.keys() | said.keys())
        if held.get(account, 0) != said.get(account, 0)
    ]


def _proved_by_items(
    raw: Raw, opening: Mapping[tuple[str, str], Minor], chart: Mapping[str, Kind]
) -> Iterator[Proof]:
    """The open items of each side, against its control accounts at that day."""
    roles = {"receivables": AccountRole.RECEIVABLES, "payables": AccountRole.PAYABLES}
    for side, as_at in sorted({(row.side, row.as_at) for row in raw.items}):
        codes = {code for code, kind in chart.items() if kind.role is roles[side]}
        if not codes or not raw.postings:
            continue
        held = sum(amount for (account, _), amount in opening.items() if account in codes)
        held += sum(r.amount for r in raw.postings if r.account in codes and r.day <= as_at)
        said = sum(row.amount for row in raw.items if (row.side, row.as_at) == (side, as_at))
        yield Proof(f"open {side} at {as_at.isoformat()} and their account", held, said)


# -- tables


def _accounts(raw: Raw, chart: Mapping[str, Kind], known: Tables) -> Iterator[Account]:
    there = {account.code: account for account in known.accounts}
    for code, row in sorted(raw.accounts.items()):
        old = there.get(code)
        if old is not None:
            yield old._replace(name=row.name if row.name != code else old.name)
            continue
        kind = chart[code]
        other = json.dumps({GUESSED: kind.why}, ensure_ascii=False) if kind.guessed else ""
        yield Account(code, row.name, kind.type, kind.role, other=other)


def _parties(
    raw: Raw, used: Iterable[str], known: Tables, chart: Mapping[str, Kind]
) -> Iterator[Party]:
    there = {party.code: party for party in known.parties}
    sides = _sides(raw, chart)
    for code in sorted({*used, *raw.parties}):
        row = raw.parties.get(code)
        if code in there:
            yield there[code]
            continue
        # The ledger says it of each; a list, of all that are on it.
        kind = sides.get(code) or (row.kind if row else None) or PartyKind.OTHER
        yield Party(code, row.name if row else code, kind)


_PARTS = re.compile(r"[,:;()\[\]–—]| - ")
_TITLED = re.compile(
    r"\b(?:Mme|Mlle|M|Mr|Mrs|Ms|Miss|Dr|Herr|Frau|Dhr|Mevr|Sr|Sra|Sig|Sig\.ra|Pan|Pani)\b\.? "
    r"[A-Z][^\W\d_]+(?: [A-Z][^\W\d_]+)?"
)
OWNERS_NAMES = range(2, 4)
"""So many words are a person's name beside what the account is."""


def _owners(
    raw: Raw, chart: Mapping[str, Kind], parties: Sequence[Party], *, is_known: bool
) -> Iterator[Party]:
    """The people whom the names of owners' accounts name: `Director's loan, M. Larkin`. Who owns a client
    that is known, somebody may have said already."""
    if is_known and any(party.kind is PartyKind.OWNER for party in parties):
        return
    there = {party.name.casefold() for party in parties}
    for code, kind in chart.items():
        if kind.role not in BY_ANY_NAME or code not in raw.accounts:
            continue
        parts = [part.strip() for part in _PARTS.split(raw.accounts[code].name) if part.strip()]
        titled = _TITLED.search(raw.accounts[code].name)
        people = [titled[0]] if titled else [p for p in parts if len(parts) > 1 and _is_person(p)]
        if len(people) == 1 and people[0].casefold() not in there:
            there.add(people[0].casefold())
            yield Party(people[0], people[0], PartyKind.OWNER)


def _is_person(part: str) -> bool:
    words = part.replace(".", ". ").split()
    named = all(word.rstrip(".").isalpha() and word[0].isupper() for word in words)
    return named and len(words) in OWNERS_NAMES and by_name(part) is None


def _sides(raw: Raw, chart: Mapping[str, Kind]) -> Mapping[str, PartyKind]:
    """What each party is by the control account that it stands on."""
    kinds = {AccountRole.RECEIVABLES: PartyKind.CUSTOMER, AccountRole.PAYABLES: PartyKind.SUPPLIER}
    found: dict[str, PartyKind] = {}
    for row in raw.postings:
        kind = kinds.get(chart[row.account].role)
        if row.party and kind:
            found.setdefault(row.party, kind)
    return found


def _known_parties(known: Tables) -> dict[str, PartyRow]:
    return {row.code: PartyRow(row.code, row.name, row.kind) for row in known.parties}


def _taxes(raw: Raw, known: Tables, rates: Mapping[str, Fraction]) -> Iterator[Tax]:
    """The tax codes that the rows name: with the rate that their entries reckon by, else the one that the
    code itself says; both stand for a person to confirm."""
    there = {tax.code: tax for tax in known.taxes}
    for code in sorted({row.tax_code for row in raw.postings if row.tax_code}):
        rate = rates.get(code, _rate_in(code))
        kind = TaxKind.STANDARD if rate else TaxKind.ZERO
        yield there.get(code) or Tax(code, code, rate, kind, other='{"guessed": "rate"}')


def _rate_in(code: str) -> Fraction:
    """The rate that a code says, as `VAT23` does; zero where it says none."""
    figures = "".join(sign for sign in code if sign.isdigit() or sign == ".")
    said = figures and len(figures) < 6 and figures.count(".") < 2
    return Fraction(figures) if said else Fraction(0)


def _transactions(
    entries: Sequence[Entry],
    chart: Mapping[str, Kind],
    client: ClientFacts,
    by_journal: ByJournal,
    in_text: NamedInText,
) -> Iterator[Transaction]:
    controls = frozenset(code for code, kind in chart.items() if kind.role in CONTROL_ROLES)
    for entry, name in zip(entries, ids_of(entries), strict=True):
        rows = entry.rows
        first = rows[0]
        if any(not row.party and row.account in controls for row in rows):
            rows = _with_parties_named(rows, controls, in_text)
        parties = {row.party for row in rows if row.party}
        texts = list(dict.fromkeys(row.text for row in rows if row.text))
        day = max(row.day for row in rows)
        due = next((row.due for row in rows if row.due), None)
        document = next((row.document_day for row in rows if row.document_day), None)
        keyed = next((row.entered_at for row in rows if row.entered_at), None)
        yield Transaction(
            id=name,
            kind=kind_of(entry, chart, client.year_end, by_journal),
            posting_date=day,
            lines=tuple(_lines(rows, texts[0] if texts else "", controls)),
            document_date=document if document != day else None,
            due_date=due,
            entered_at=datetime.combine(keyed, time()) if keyed else None,
            entered_by=first.entered_by or None,
            reference=next((row.reference for row in rows if row.reference), None),
            party=parties.pop() if len(parties) == 1 else None,
            memo=texts[0] if texts else None,
            source=first.journal or None,
        )


def _with_parties_named(
    rows: Sequence[Posting], controls: Set[str], in_text: NamedInText
) -> tuple[Posting, ...]:
    """The rows of one entry: where none has a party, those on control accounts have the one that their text
    names."""
    if any(row.party for row in rows):
        return tuple(rows)
    return tuple(
        row._replace(party=in_text.party(row.text)) if row.account in controls else row
        for row in rows
    )


def _lines(rows: Sequence[Posting], memo: str, controls: Set[str]) -> Iterator[Line]:
    on_control = {row.party for row in rows if row.party}
    alone = on_control.pop() if len(on_control) == 1 else None
    for number, row in enumerate(rows, 1):
        control = row.account in controls
        yield Line(
            number=number,
            account=row.account,
            amount=row.amount,
            party=(row.party or alone) if control else (row.party or None),
            tax_code=row.tax_code or None,
            description=row.text if row.text and row.text != memo else None,
        )


def _prior(raw: Raw, chart: Mapping[str, Kind], first: date) -> Iterator[PriorBalance]:
    """Trial balances of days before the ledger are the year before's."""
    rows: list[Balance] = [row for row in raw.balances if row.day < first]
    for row in rows:
        if row.amount:
            yield PriorBalance(row.day, row.account, row.amount)
