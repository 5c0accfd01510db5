"""The evidence of labelled books made untidy: what is planted stays what it was."""

import re
import unicodedata
from collections.abc import Iterator, Mapping
from dataclasses import dataclass, replace
from datetime import datetime, time, timedelta
from random import Random

from corkpost.core.books import Account, AgreementRow, Books, Line, Party, Tables, Transaction
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.statements import Statement, StatementLine
from corkpost.demo.labelled import REPORTED_FROM, Labelled, labelled
from corkpost.demo.untidy.hands import REPORTED, TUNED, Hand
from corkpost.demo.untidy.happening import happen

SETTLING = frozenset({TransactionKind.CUSTOMER_RECEIPT, TransactionKind.SUPPLIER_PAYMENT})
DIRECT = frozenset({TransactionKind.DIRECT_PAYMENT, TransactionKind.DIRECT_RECEIPT})
ROLES_LEFT_OUT = 0.35
NAMED_IN_TEXT_ALONE = 0.6
STALE = 0.03
CONFUSED = 0.1
"""So many numbers are keyed with letters that look like their digits."""
WITH_STATEMENT = 0.6
SAID_BY_THE_BANK_ALONE = 0.5
LEAST_LEFT = 8
"""So many signs of a name stay however short a bank cuts its lines: with fewer nobody can tell."""
_LEGAL = ("Ltd", "GmbH & Co KG", "GmbH", "SARL", "A/S", "AS", "AB", "KG", "ApS", "S.L.", "S.r.l.", "SCEA",
          "Co")  # fmt: skip


@dataclass(frozen=True)
class Untidiness:
    """One bookkeeper's and bank's way. *cut*: signs that a line holds."""

    hand: Hand
    cut: int
    capitals: bool
    plain_letters: bool
    joins: float
    shortens: float
    slips: float
    in_batches: bool
    chart: Mapping[str, str]


def untidy(seed: int) -> Labelled:
    """Books with known faults whose evidence is untidy. Seeds below 100 are to set certainties on."""
    made = labelled(seed, more=happen)
    rng = Random(f"untidy {seed}")
    hand = TUNED if seed < REPORTED_FROM else REPORTED
    way = Untidiness(
        hand,
        cut=rng.randint(18, 35),
        capitals=rng.random() < 0.7,
        plain_letters=rng.random() < 0.7,
        joins=rng.choice((0, 0.1, 0.3)),
        shortens=rng.choice((0, 0.1, 0.3)),
        slips=rng.choice((0, 0.05, 0.1)),
        in_batches=rng.random() < 0.5,
        chart=rng.choice(hand.charts),
    )
    tables = made.books.tables
    names = _names(tables.parties, rng, hand)
    parties = tuple(row._replace(name=names.get(row.name, row.name)) for row in tables.parties)
    transactions = tuple(_transactions(tables, names, rng, way))
    tables = replace(
        tables,
        accounts=tuple(_accounts(tables.accounts, rng, way)),
        parties=parties,
        transactions=transactions,
    )
    books = replace(made.books, tables=tables)
    if rng.random() < WITH_STATEMENT:
        books = _with_statement(books, rng, way)
    return Labelled(books, made.faults)


def _with_statement(books: Books, rng: Random, way: Untidiness) -> Books:
    """The bank's side, agreed line by line. What the books said of half the money, the bank alone says."""
    bank = books.with_role(AccountRole.BANK)[0].code
    lines: list[StatementLine] = []
    agreed: list[AgreementRow] = []
    rows = []
    opening = 0
    last = max(row.posting_date for row in books.tables.transactions)
    for posted in books.tables.transactions:
        on_bank = [line for line in posted.lines if line.account == bank]
        rows.append(posted)
        if posted.kind is TransactionKind.OPENING:
            opening += sum(line.amount for line in on_bank)
        elif len(on_bank) == 1:
            name = f"statements/bank.csv#{len(lines) + 1}"
            day = min(last, posted.posting_date + timedelta(days=rng.randint(0, 2)))
            text = posted.memo or posted.kind.replace("-", " ")
            lines.append(StatementLine(name, 1, day, on_bank[0].amount, text))
            group = f"a{len(lines)}"
            agreed.append(AgreementRow(group, bank, posted.id, on_bank[0].number))
            agreed.append(AgreementRow(group, bank, statement_line=name))
            if posted.kind in SETTLING | DIRECT and rng.random() < SAID_BY_THE_BANK_ALONE:
                rows[-1] = posted._replace(memo=rng.choice(way.hand.vague))
    closing = opening + sum(line.amount for line in lines)
    first = min(line.day for line in lines)
    statement = Statement(
        1, bank, "statements/bank.csv", first, last, opening, closing, 0, None, (), tuple(lines)
    )
    tables = replace(books.tables, transactions=tuple(rows), agreements=tuple(agreed))
    return replace(books, tables=tables, statements=(statement,))


def _names(parties: tuple[Party, ...], rng: Random, hand: Hand) -> dict[str, str]:
    """New names for customers and suppliers; those that stand twice keep theirs."""
    codes = {party.code for party in parties}
    plain = [
        party.name
        for party in parties
        if party.code[:1] in "SC" and party.code[1:].isdigit() and f"{party.code}X" not in codes
    ]
    return dict(zip(plain, rng.sample(hand.names, len(plain)), strict=True))


def _letters(text: str) -> str:
    return "".join(sign for sign in text.casefold() if sign.isalpha())


def _accounts(accounts: tuple[Account, ...], rng: Random, way: Untidiness) -> Iterator[Account]:
    for account in accounts:
        name = way.chart.get(account.role)
        if name is None:
            yield account
        elif rng.random() < ROLES_LEFT_OUT:
            yield account._replace(name=name, role=type(account.role).ORDINARY)
        else:
            yield account._replace(name=name)


def _transactions(
    tables: Tables, names: Mapping[str, str], rng: Random, way: Untidiness
) -> Iterator[Transaction]:
    numbers: dict[str, list[str]] = {}
    for posted in tables.transactions:
        if posted.party and posted.reference:
            numbers.setdefault(posted.party, []).append(posted.reference)
    stale: dict[str, str] = {}
    for posted in tables.transactions:
        row = posted
        if posted.memo and posted.kind in SETTLING | DIRECT:
            memo = _with_numbers(posted.memo, numbers.get(posted.party or "", ()), rng, way)
            memo = _with_names(memo, names, rng, way)
            if posted.kind in SETTLING and posted.party:
                before = stale.get(posted.party)
                stale[posted.party] = memo
                if before and rng.random() < STALE:
                    memo = before
            row = posted._replace(memo=memo)
        if posted.kind in DIRECT and posted.party and rng.random() < NAMED_IN_TEXT_ALONE:
            name = next(p.name for p in tables.parties if p.code == posted.party)
            if names.get(name, name) in names.values() and name in (posted.memo or ""):
                row = row._replace(party=None, lines=_without_party(row, posted.party))
        if way.in_batches and posted.entered_at:
            row = row._replace(entered_at=_batch(posted.entered_at))
        yield row


def _without_party(posted: Transaction, party: str) -> tuple[Line, ...]:
    return tuple(
        line._replace(party=None) if line.party == party else line for line in posted.lines
    )


def _batch(keyed: datetime) -> datetime:
    """The end of the week in which it was keyed."""
    day = keyed.date() + timedelta(days=5 - keyed.weekday() if keyed.weekday() <= 5 else 6)
    return datetime.combine(day, time(17, keyed.minute, keyed.second))


def _with_numbers(memo: str, numbers: list[str] | tuple[()], rng: Random, way: Untidiness) -> str:
    quoted = [number for number in numbers if number in memo]
    if not quoted:
        return memo
    number = max(quoted, key=len)
    if rng.random() < CONFUSED:
        number = number.replace("0", "O").replace("1", "I")
    bare = re.sub(r"[^0-9]", "", number).lstrip("0")
    choices = [form for form in way.hand.ornaments if "{bare}" not in form or len(bare) >= 4]
    return rng.choice(choices).format(ref=number, bare=bare, year=rng.choice((2025, 2026)))


def _with_names(memo: str, names: Mapping[str, str], rng: Random, way: Untidiness) -> str:
    for old, new in names.items():
        if old in memo:
            rest = memo.replace(old, "").strip()
            name = _written(new, rng, way)
            form = rng.choice(way.hand.around)
            said = form.format(
                name=name,
                town=rng.choice(way.hand.towns),
                digits=rng.randint(1000, 99999),
                ref=rest,
            )
            line = " ".join(f"{said} {rest if '{ref}' not in form else ''}".split())
            least = said.find(name) + min(len(name), LEAST_LEFT)
            return line[: max(way.cut, least)].strip()
    return memo


def _written(name: str, rng: Random, way: Untidiness) -> str:
    """A name as it is keyed or printed."""
    form = next((form for form in _LEGAL if name.endswith(f" {form}")), "")
    said = name.removesuffix(f" {form}") if form else name
    if rng.random() < 0.5:
        said = said.replace("&", rng.choice(("and", "u.", "+"))) if "&" in said else said
    words = said.split()
    if rng.random() < way.slips:
        place = max(range(len(words)), key=lambda n: len(words[n]))
        words[place] = _slipped(words[place], rng)
    if rng.random() < way.shortens and len(words) > 1:
        words = [word[: rng.randint(4, 6)] for word in words]
    said = "".join(words) if rng.random() < way.joins else " ".join(words)
    if way.plain_letters:
        said = "".join(
            s for s in unicodedata.normalize("NFD", said) if not unicodedata.combining(s)
        )
    return said.upper() if way.capitals else said


def _slipped(word: str, rng: Random) -> str:
    if len(word) < 6:
        return word
    place = rng.randint(2, len(word) - 3)
    return rng.choice(
        (
            word[:place] + word[place + 1] + word[place] + word[place + 2 :],
            word[:place] + word[place + 1 :],
            word[:place] + word[place] + word[place:],
        )
    )
