"""What each sheet is and how it is read: the reading that proves itself; where two do, it is asked."""

import re
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from itertools import pairwise, product
from typing import NamedTuple, TypeVar

from corkpost.core.chart.trade_words import by_name, plain
from corkpost.core.formatting import format_date
from corkpost.core.intake.entries import entries_of
from corkpost.core.intake.raw import Proof, Raw, Where
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.money import Currency, Minor
from corkpost.core.periods import ONE_DAY, month_end
from corkpost.formats.listings.balances import BalanceReader
from corkpost.formats.listings.cash_books import as_ledger
from corkpost.formats.listings.contents import (
    has_blocks,
    is_repeated,
    told_by_content,
    with_whole_days,
)
from corkpost.formats.listings.days import (
    day_texts,
    days_in,
    last_day_in,
    names_period,
    names_year,
    year_in,
)
from corkpost.formats.listings.figures import amount_in, day_in, decimal_marks, orders_of
from corkpost.formats.listings.headings import Heading, above, headings_of
from corkpost.formats.listings.items import ItemReader
from corkpost.formats.listings.ledger import (
    BY_ACCOUNT,
    CODE_AND_NAME,
    FLAT,
    MOSTLY,
    PAIRS,
    LedgerReader,
    Manner,
    PassedOver,
)
from corkpost.formats.listings.lists import ChartReader, PartyReader
from corkpost.formats.listings.questions import About, Answers, Choice
from corkpost.formats.listings.sheets import Row, Sheet, column_of
from corkpost.formats.listings.words import (
    account_words,
    names_one_of,
    own_name,
    side_in,
    titles_in,
)
from corkpost.formats.workbooks import Cell

LEDGER, BALANCES, ITEMS, ACCOUNTS, PARTIES = (
    "ledger",
    "trial-balance",
    "open-items",
    "accounts",
    "parties",
)
KINDS = {
    LEDGER: "a ledger or journal",
    BALANCES: "a trial balance",
    ITEMS: "a list of open items",
    ACCOUNTS: "a chart of accounts",
    PARTIES: "a list of customers or suppliers",
}
FIGURES = ("debit", "credit", "amount", "balance", "open", "opening", "closing", "opening_debit",
           "opening_credit", "closing_debit", "closing_credit", "paid")  # fmt: skip
DAYS = ("day", "document_day", "due", "entered_at")
ORDER_WORDS = {
    "dmy": "day, month, year",
    "mdy": "month, day, year",
    "ymd": "year, month, day",
}


LAYOUTS = {
    FLAT: "each row with its account",
    BY_ACCOUNT: "a block for each account",
    PAIRS: "a debit and a credit account in each row",
}
LOOKED_AT = 20_000
"""By so many rows it is told how a list is laid out."""
TELLING = 2
CLEARLY = 3
"""So many accounts have to speak for a sign, and so many times more than against it; else it is asked."""
FEW_DAYS = 3 * 366
MANY_TIMES = 4
"""Days that reach further than this, and so many times further than read otherwise, are read wrongly."""
MOST_TURNED = 12
COVER = 2
"""So many cells stand beside each other on a sheet that has no table: a word and what it says."""
ACCOUNTS_NAMED = frozenset({"account", "account_name", "debit_account"})
CASH_BOOK = "a cash book, with a column for each account"
NO_TABLE = "no-table"
SAMPLE = 6
"""So many rows are shown below the names of the columns."""


class FileRead(NamedTuple):
    """What a sheet was taken for, and how much of it was read. *places*: the column of each role, from 0;
    *names*: all columns' names; *sample*: the first rows below them; *how*: in which way it was read."""

    path: str
    sheet: str
    read_as: str
    rows: int
    used: int
    passed_over: tuple[PassedOver, ...]
    columns: Mapping[str, str]
    first: date | None
    last: date | None
    layout: str
    places: Mapping[str, int]
    names: tuple[str, ...]
    sample: tuple[tuple[str, ...], ...]
    how: tuple[str, ...] = ()


@dataclass
class Understood:
    """*faults*: what stands in the way, with its place."""

    raw: Raw = field(default_factory=Raw)
    files: list[FileRead] = field(default_factory=list)
    faults: list[str] = field(default_factory=list)
    names: list[str] = field(default_factory=list)
    """What stands over the tables and is no title and no day: whose they may be."""


class _Candidate(NamedTuple):
    """A reading and how well it proves itself, the better first. *off*: how many accounts stand on another
    side than their names tell."""

    score: tuple[int, ...]
    off: int
    manner: Manner
    reader: LedgerReader


def understand(
    sheets: Sequence[Sheet], currency: Currency, answers: Answers, today: date
) -> Understood:
    """Read all the sheets of a client. Questions are put to *answers*; as long as there are any, what is
    read goes by what is proposed."""
    found = Understood()
    kinds: list[tuple[Sheet, Heading, str]] = []
    cash_books: set[str] = set()
    for sheet in sheets:
        heading = headings_of(sheet)
        if heading is None or not ACCOUNTS_NAMED & heading.columns.keys():
            ledger = as_ledger(sheet)
            if ledger is not None:
                sheet, heading = ledger, headings_of(ledger)
                cash_books.add(sheet.says)
        if heading is None and sheet.name and not _has_table(sheet):
            found.files.append(_passed_over(sheet))
            continue
        if heading is None:
            found.faults.append(
                f"{sheet.says}: no row names the columns of a table. Add one above the rows: date, "
                "account, debit, credit and so on."
            )
            continue
        sheet, heading = with_whole_days(sheet, heading)
        said = answers.columns(sheet.says, heading.fingerprint)
        if said is not None:
            heading = replace(heading, columns=said)
        else:
            heading = told_by_content(sheet, heading)
        found.names += _names(sheet, heading)
        kinds.append((sheet, heading, _kind(sheet, heading, answers)))
    order = (ACCOUNTS, PARTIES, LEDGER, BALANCES, ITEMS)
    for sheet, heading, kind in sorted(kinds, key=lambda row: order.index(row[2])):
        reader = _read(sheet, heading, kind, currency, answers, found.raw, today)
        _add(found, sheet, heading, kind, reader, answers)
        if sheet.says in cash_books:
            found.files[-1] = found.files[-1]._replace(how=(CASH_BOOK, *found.files[-1].how[1:]))
    return found


def _has_table(sheet: Sheet) -> bool:
    """Whether several cells stand beside each other anywhere; a cover, or notes, have none."""
    return any(len(row.texts) > COVER for row in sheet.rows)


def _passed_over(sheet: Sheet) -> FileRead:
    """Of a sheet that is words alone."""
    rows = tuple(PassedOver(row.line, "text alone") for row in sheet.rows if row.texts)
    sample = tuple(tuple(map(str, row.cells)) for row in sheet.rows[:SAMPLE])
    return FileRead(
        sheet.file, sheet.name, NO_TABLE, len(rows), 0, rows, {}, None, None, "", {}, (), sample
    )


def _names(sheet: Sheet, heading: Heading) -> Iterator[str]:
    for text in above(sheet, heading):
        name = own_name(text)
        first, *more = map(str.strip, _DASH.split(name))
        if more and all(map(_is_title, more)):
            # `Heron Boats - trial balance` is Heron Boats' own.
            name = first
        if not _is_title(name, of_money=False) and 2 < len(name) < 80 and ":" not in name:
            yield name


_DASH = re.compile(r"\s[-–—]\s")


def _is_title(text: str, *, of_money: bool = True) -> bool:
    """Whether a text over a table says what the table is, or of when, and not whose. *of_money*: also what
    was paid and received, which is in names of firms as well."""
    of_account = _is_account(text) or plain(text) in account_words()
    days = days_in(text, "dmy") or days_in(text, "mdy")
    moved = of_money and (
        names_one_of([text], "money_in") or names_one_of([text], "money_out") or year_in(text)
    )
    return bool(of_account or days or any(titles_in([text]).values()) or moved)


# -- what it is


def _kind(sheet: Sheet, heading: Heading, answers: Answers) -> str:
    fits = _kinds(sheet, heading)
    if len(fits) == 1:
        return fits[0]
    return answers.to(
        About.WHAT_IS_IT,
        sheet.says,
        f"What is {sheet.says}? Its columns are {', '.join(filter(None, heading.names))}.",
        [Choice(kind, KINDS[kind]) for kind in fits],
        fits[0],
        layout=heading.fingerprint,
    )


def _kinds(sheet: Sheet, heading: Heading) -> list[str]:
    """What it may be, the likeliest first."""
    has = heading.columns.__contains__
    figures = any(map(has, FIGURES)) or _has_dated_columns(heading)
    named = has("party") or has("party_name")
    accounts = has("account") or has("account_name") or has("debit_account")
    # An account may stand above the first heading, or name the sheet: it is no title.
    over = [*above(sheet, heading), sheet.name, sheet.file]
    titles = titles_in(text for text in over if not _is_account(text))
    if not figures:
        if named and not accounts:
            return [PARTIES]
        if titles.get(PARTIES, 0) > titles.get(ACCOUNTS, 0) or (named and has("kind")):
            return [PARTIES]
        return [ACCOUNTS] if accounts else [ACCOUNTS, PARTIES]
    if not has("day"):
        if has("open") or (named and not accounts) or has("due"):
            return [ITEMS]
        if accounts and is_repeated(sheet, heading):
            return [LEDGER]
        return [BALANCES] if accounts else [BALANCES, ITEMS]
    if has("open") or (has("due") and not accounts):
        return [ITEMS]
    more = titles.get(ITEMS, 0) - titles.get(LEDGER, 0)
    if accounts:
        owed = more > 0 and (named or has("due")) and not has("debit_account")
        return [ITEMS] if owed else [LEDGER]
    return _of_events(sheet, heading, more)


def _of_events(sheet: Sheet, heading: Heading, more: int) -> list[str]:
    """What a list with days and without accounts may be. *more*: how much more its titles speak of open
    items than of a ledger."""
    has = heading.columns.__contains__
    named = has("party") or has("party_name")
    if more > 0:
        return [ITEMS]
    in_blocks = has("balance") and (has_blocks(sheet, heading) or _is_account(sheet.name))
    if more < 0 or in_blocks or (has("debit") and has("credit") and not named):
        return [LEDGER]
    return [ITEMS, LEDGER] if named else [LEDGER, ITEMS]


def _is_account(name: str) -> bool:
    return CODE_AND_NAME.fullmatch(name) is not None


def _has_dated_columns(heading: Heading) -> bool:
    return any(map(names_period, heading.names))


# -- how it is read


def _read(
    sheet: Sheet,
    heading: Heading,
    kind: str,
    currency: Currency,
    answers: Answers,
    so_far: Raw,
    today: date,
) -> LedgerReader:
    body = sheet.rows[heading.last + 1 :]
    decimals = _decimals(body, heading, currency)
    orders = _orders(sheet, body, heading, today)
    if kind == LEDGER:
        return _ledger(sheet, heading, currency, answers, decimals, orders)
    manner = Manner(FLAT, decimals[0], _order(sheet, body, heading, orders, answers))
    if kind == ACCOUNTS:
        return _done(ChartReader(sheet, heading, manner, currency))
    texts = [*above(sheet, heading), sheet.name, sheet.file]
    if kind == PARTIES:
        parties = PartyReader(sheet, heading, manner, currency)
        parties.side = side_in([sheet.file, sheet.name]) or side_in(texts)
        return _done(parties)
    as_at = last_day_in(texts, manner.order)
    if as_at is None:
        as_at = last_day_in(heading.names, manner.order)
    if as_at is None and not (kind == BALANCES and any(map(names_year, heading.names))):
        as_at = _ask_day(sheet, answers, so_far, today)
    as_at = as_at or date(2000, 12, 31)
    if kind == ITEMS:
        return _items(sheet, heading, manner, currency, as_at, answers)
    opens = _day_before(texts, manner.order, as_at)
    return _balances(sheet, heading, manner, currency, as_at, opens, answers, so_far)


def _done(reader: LedgerReader) -> LedgerReader:
    reader.read()
    return reader


def _cells(rows: Iterable[Row], heading: Heading, roles: Iterable[str]) -> Iterator[Cell]:
    places = [heading.columns[role] for role in roles if role in heading.columns]
    for row in rows:
        for place in places:
            yield row.at(place)


def _decimals(body: Sequence[Row], heading: Heading, currency: Currency) -> list[str]:
    """The signs that may stand before the decimals."""
    places = _figure_places(heading)
    cells = {cell for place in places for cell in column_of(body, place)}
    texts = (cell for cell in cells if isinstance(cell, str))
    told = (text for text in texts if any(sign.isdigit() for sign in text))
    return decimal_marks(told, currency.places)


def _figure_places(heading: Heading) -> frozenset[int]:
    roles = {heading.columns[role] for role in FIGURES if role in heading.columns}
    dated = {n for n, name in enumerate(heading.names) if names_period(name) or name[:4].isdigit()}
    return frozenset(roles | dated)


def _orders(sheet: Sheet, body: Sequence[Row], heading: Heading, today: date) -> list[str]:
    """The orders in which the days of all its columns can be read, within the span that its title says."""
    places = [heading.columns[role] for role in DAYS if role in heading.columns]
    said = {cell for place in places for cell in column_of(body, place)}
    if not places:
        alone = [row.texts[0] for row in body if len(row.texts) == 1]
        days = [day for text in alone for day in day_texts(text)]
        return _not_to_come(days + _days_over(sheet, heading), today)
    cells = {
        cell
        for cell in said
        if isinstance(cell, str) and any(day_in(cell, order) for order in ORDER_WORDS)
    }
    orders = orders_of(cells) or ["dmy"]
    if len(orders) > 1:
        orders = _within(sheet, heading, cells, orders) or _shortest(cells, orders)
    return orders


def _days_over(sheet: Sheet, heading: Heading) -> list[str]:
    """The days that stand over the table, in the sheet's name or the file's, as they are written."""
    over = (*above(sheet, heading), sheet.name, sheet.file)
    return [day for text in over for day in day_texts(text)]


def _not_to_come(days: Sequence[str], today: date) -> list[str]:
    """The orders in which days over a table can be read: none of them is long to come."""
    orders = orders_of(days) or ["dmy"]
    latest = today.replace(year=today.year + 1, day=1)
    past = [
        order for order in orders if all((day_in(day, order) or today) < latest for day in days)
    ]
    return past or orders


def _shortest(cells: Iterable[str], orders: Sequence[str]) -> list[str]:
    """Without those orders by which a year or two would be many: `03.01.26` among such days is no 2003."""
    spans = {}
    for order in orders:
        days = [day for cell in cells if (day := day_in(cell, order)) is not None]
        spans[order] = (max(days) - min(days)).days if days else 0
    least = min(spans.values())
    return [order for order in orders if spans[order] <= max(FEW_DAYS, MANY_TIMES * least)]


def _within(
    sheet: Sheet, heading: Heading, cells: Iterable[str], orders: Sequence[str]
) -> list[str]:
    """Those orders by which the days lie within the span that stands over the table."""
    cells = list(cells)
    fitting = []
    for order in orders:
        named = [day for text in above(sheet, heading) for day in days_in(text, order)]
        if len(named) >= 2:
            first, last = min(named), max(named)
            days = [day for cell in cells if (day := day_in(cell, order)) is not None]
            if days and all(first <= day <= last for day in days):
                fitting.append(order)
    return fitting


def _order(
    sheet: Sheet, body: Sequence[Row], heading: Heading, orders: Sequence[str], answers: Answers
) -> str:
    if len(orders) == 1:
        return orders[0]
    example = next(
        (
            cell
            for cell in (*_cells(body, heading, DAYS), *_days_over(sheet, heading))
            if isinstance(cell, str) and len({day_in(cell, order) for order in orders}) > 1
        ),
        "",
    )
    return answers.to(
        About.DATE_ORDER,
        sheet.says,
        f"In which order do the days of {sheet.says} stand?",
        [
            Choice(order, ORDER_WORDS[order], f"{example} is {_shown(day_in(example, order))}")
            for order in orders
        ],
        orders[0],
        layout=heading.fingerprint,
    )


def _shown(day: date | None) -> str:
    return format_date(day) if day else "no day"


def _ask_day(sheet: Sheet, answers: Answers, so_far: Raw, today: date) -> date:
    """As at which day a list is, where nothing says it: proposed is the end of the ledger's last month."""
    last = so_far.last
    proposed = (
        month_end(last.year, last.month, 31) if last else today.replace(month=1, day=1) - ONE_DAY
    )
    said = answers.to(
        About.YEAR,
        sheet.says,
        f"As at which day is {sheet.says}? Nothing in it says so. Write it as 2026-12-31.",
        [],
        proposed.isoformat(),
    )
    return day_in(said, "ymd") or proposed


def _day_before(texts: Iterable[str], order: str, as_at: date) -> date | None:
    """The day before the first of the span that stands over the table; else of the year."""
    days = sorted({day for text in texts for day in days_in(text, order)})
    first = days[0] if len(days) > 1 and days[0] < as_at else as_at.replace(month=1, day=1)
    return first - ONE_DAY


# -- ledgers


def _layout(body: Sequence[Row], heading: Heading) -> str:
    if heading.has("debit_account", "credit_account"):
        return PAIRS
    place = heading.columns.get("account", heading.columns.get("account_name"))
    if place is None:
        return BY_ACCOUNT
    rows = [
        row
        for row in body
        if any(row.at(heading.columns.get(role)) != "" for role in ("debit", "credit", "amount"))
    ]
    filled = sum(row.at(place) != "" for row in rows)
    return FLAT if rows and filled * 2 > len(rows) else BY_ACCOUNT


def _fills(body: Sequence[Row], heading: Heading, order: str) -> bool:
    """Whether only the first row of a document says its day: else a row without one is a fault."""
    rows = [
        row
        for row in body
        if any(row.at(heading.columns.get(role)) != "" for role in ("debit", "credit", "amount"))
    ]
    days = sum(day_in(row.at(heading.columns.get("day")), order) is not None for row in rows)
    return days < MOSTLY * len(rows)


def _ledger(
    sheet: Sheet,
    heading: Heading,
    currency: Currency,
    answers: Answers,
    decimals: Sequence[str],
    orders: Sequence[str],
) -> LedgerReader:
    body = sheet.rows[heading.last + 1 :]
    layout = _layout(body[:LOOKED_AT], heading)
    signed = "amount" in heading.columns and not heading.has("debit", "credit")
    signed = signed or not heading.sides_said
    turns = [(False, False)]
    if signed and "mark" not in heading.columns and layout != PAIRS:
        turns.append((True, False))
        turns += [(False, True)] if layout == BY_ACCOUNT and heading.sides_said else []
    fills = _fills(body[:LOOKED_AT], heading, orders[0])
    found = [
        _candidate(
            sheet,
            heading,
            currency,
            Manner(layout, decimal, order, turned, fills, natural),
        )
        for decimal, order, (turned, natural) in product(decimals, orders, turns)
    ]
    best = min(row.score for row in found)
    fitting = [row for row in found if row.score == best]
    chosen = fitting[0].manner
    of_one_sign = [row for row in fitting if row.manner.turned == chosen.turned]
    if len({row.manner.decimal for row in fitting}) > 1 and _differ(of_one_sign):
        chosen = replace(chosen, decimal=_ask_decimal(sheet, heading, fitting, answers))
    fitting = [row for row in fitting if row.manner.decimal == chosen.decimal]
    kept = [row.manner.order for row in fitting]
    order = _order(sheet, body, heading, list(dict.fromkeys(kept)), answers)
    fitting = [row for row in fitting if row.manner.order == order]
    fitting = _likelier(fitting)
    if len(fitting) > 1 and _differ(fitting):
        fitting = [_which_sign(sheet, heading, fitting, answers)]
    return fitting[0].reader


def _differ(fitting: Sequence[_Candidate]) -> bool:
    return len({tuple(p.amount for p in row.reader.raw.postings) for row in fitting}) > 1


def _candidate(sheet: Sheet, heading: Heading, currency: Currency, manner: Manner) -> _Candidate:
    """Read it so, and see what proves."""
    reader = LedgerReader(sheet, heading, manner, currency)
    raw = reader.read()
    if manner.natural:
        _turn_contra_accounts(raw)
    failing = sum(not proof.holds for proof in raw.proofs)
    left = len(entries_of(raw.postings).left)
    held = sum(proof.holds for proof in raw.proofs)
    sums: Counter[str] = Counter()
    for row in raw.postings:
        sums[row.account] += row.amount
    off = _off_side(raw, sums.items())
    return _Candidate((len(reader.unplaced), failing, left, -held), off, manner, reader)


ON_DEBIT = frozenset({AccountRole.RECEIVABLES, AccountRole.FIXED_ASSET, AccountRole.STOCK})
ON_CREDIT = frozenset({AccountRole.PAYABLES, AccountRole.LOAN, AccountRole.CAPITAL})


def _turn_contra_accounts(raw: Raw) -> None:
    """Where each account's own side is positive, those that stand on the other side than their type, as
    drawings, or whose name says nothing, are what makes the entries balance."""
    left = entries_of(raw.postings).left
    for account in sorted({row.account for row in left})[:MOST_TURNED]:
        turned = [
            row._replace(amount=-row.amount) if row.account == account else row
            for row in raw.postings
        ]
        still = entries_of(turned).left
        if len(still) < len(left):
            left, raw.postings = still, turned
            for key in [key for key in raw.openings if key[0] == account]:
                raw.openings[key] = -raw.openings[key]


def _off_side(raw: Raw, held: Iterable[tuple[str, Minor]]) -> int:
    """How many accounts hold what such accounts do not, as their names have it: income a debit, costs a
    credit, and the like."""
    off = 0
    for code, amount in held:
        named = by_name(raw.accounts[code].name)
        if named and amount:
            on_debit = named.type is AccountType.EXPENSE or named.role in ON_DEBIT
            on_credit = named.type is AccountType.INCOME or named.role in ON_CREDIT
            off += (on_debit and amount < 0) or (on_credit and amount > 0)
    return off


OfSign = TypeVar("OfSign", _Candidate, "_BalanceCandidate")


def _likelier(fitting: Sequence[OfSign]) -> list[OfSign]:
    """Those whose sums stand where their names would have them; all, where the names do not clearly say."""
    least, most = min(row.off for row in fitting), max(row.off for row in fitting)
    if most < TELLING or CLEARLY * least >= most:
        return list(fitting)
    return [row for row in fitting if row.off == least]


def _ask_decimal(
    sheet: Sheet, heading: Heading, fitting: Sequence[_Candidate], answers: Answers
) -> str:
    example = next(
        (
            cell
            for cell in _cells(sheet.rows[heading.last + 1 :], heading, FIGURES)
            if isinstance(cell, str) and amount_in(cell, ".") != amount_in(cell, ",")
        ),
        "",
    )
    marks = list(dict.fromkeys(row.manner.decimal for row in fitting))
    return answers.to(
        About.DECIMAL,
        sheet.says,
        f"Which sign stands before the cents in {sheet.says}?",
        [Choice(mark, f"“{mark}”", f"{example} is {amount_in(example, mark)}") for mark in marks],
        marks[0],
        layout=heading.fingerprint,
    )


def _which_sign(
    sheet: Sheet, heading: Heading, fitting: Sequence[_Candidate], answers: Answers
) -> _Candidate:
    first = next((row for row in fitting[0].reader.raw.postings if row.amount), None)
    example = f"line {first.where.line}, account {first.account}" if first else ""
    said = answers.to(
        About.SIGN,
        sheet.says,
        f"What is an amount in the column {heading.names[heading.columns['debit']]!r} of {sheet.says}?"
        if not heading.sides_said
        else f"What is a positive amount in {sheet.says}?",
        [
            Choice(
                "debit",
                "a debit",
                f"{example} is a {'debit' if first and first.amount > 0 else 'credit'}",
            ),
            Choice(
                "credit",
                "a credit",
                f"{example} is a {'credit' if first and first.amount > 0 else 'debit'}",
            ),
        ],
        "debit",
        layout=heading.fingerprint,
    )
    return next(row for row in fitting if row.manner.turned == (said == "credit"))


# -- the others


class _BalanceCandidate(NamedTuple):
    """A reading of a trial balance and how well it proves itself, the better first. *off*: how many
    balances are on another side than the names of their accounts tell."""

    score: tuple[int, ...]
    off: int
    turned: bool
    moves: bool
    reader: BalanceReader


def _balances(
    sheet: Sheet,
    heading: Heading,
    manner: Manner,
    currency: Currency,
    as_at: date,
    opens: date | None,
    answers: Answers,
    so_far: Raw,
) -> LedgerReader:
    has_opening = "opening" in heading.columns or "opening_debit" in heading.columns
    first = opens if has_opening else None
    months = BalanceReader(sheet, heading, manner, currency, as_at, first).has_months
    found = []
    for turned, moves in product((False, True), (False, True) if months else (False,)):
        how = replace(manner, layout=FLAT, turned=turned)
        reader = BalanceReader(sheet, heading, how, currency, as_at, first, moves)
        raw = reader.read()
        failing = sum(not proof.holds for proof in raw.proofs)
        score = (len(reader.unplaced), failing, _against(so_far, raw))
        off = _off_side(raw, ((row.account, row.amount) for row in raw.balances))
        found.append(_BalanceCandidate(score, off, turned, moves, reader))
    best = min(row.score for row in found)
    fitting = [row for row in found if row.score == best]
    if len({row.moves for row in fitting}) > 1 and _held_differs(fitting):
        said = answers.to(
            About.MONTHS,
            sheet.says,
            f"What do the months of {sheet.says} hold?",
            [
                Choice("held", "what each account held at the end of the month"),
                Choice("moved", "what moved within the month"),
            ],
            "held",
            layout=heading.fingerprint,
        )
        fitting = [row for row in fitting if row.moves == (said == "moved")]
    fitting = _likelier(fitting)
    if len({row.turned for row in fitting}) > 1 and _held_differs(fitting):
        said = answers.to(
            About.SIGN,
            sheet.says,
            f"What is a positive balance in {sheet.says}?",
            [Choice("debit", "a debit"), Choice("credit", "a credit")],
            "debit",
            layout=heading.fingerprint,
        )
        fitting = [row for row in fitting if row.turned == (said == "credit")]
    return fitting[0].reader


def _held_differs(fitting: Sequence[_BalanceCandidate]) -> bool:
    return len({tuple(b.amount for b in row.reader.raw.balances) for row in fitting}) > 1


def _against(ledger: Raw, balances: Raw) -> int:
    """How many figures differ from what a ledger that came with it moved from one of its days to the
    next."""
    days = sorted({row.day for row in balances.balances})
    if not ledger.postings or len(days) < 2:
        return 0
    held: Counter[tuple[str, date]] = Counter()
    for row in balances.balances:
        held[row.account, row.day] += row.amount
    moved: Counter[tuple[str, date]] = Counter()
    for posting in ledger.postings:
        until = next((day for day in days if posting.day <= day), None)
        if until is not None:
            moved[posting.account, until] += posting.amount
    return sum(
        held[account, day] - held[account, before] != moved[account, day]
        for account in {row.account for row in balances.balances}
        for before, day in pairwise(days)
    )


def _items(
    sheet: Sheet,
    heading: Heading,
    manner: Manner,
    currency: Currency,
    as_at: date,
    answers: Answers,
) -> LedgerReader:
    texts = [*above(sheet, heading), *heading.names]
    in_rows = "side" in heading.columns
    side = "receivables" if in_rows else None
    side = side or side_in([sheet.name]) or side_in([sheet.file]) or side_in(texts)
    if side is None:
        side = answers.to(
            About.SIDE,
            sheet.says,
            f"Who owes what stands open in {sheet.says}?",
            [
                Choice("receivables", "customers owe it to the client"),
                Choice("payables", "the client owes it to suppliers"),
            ],
            "receivables",
            layout=heading.fingerprint,
        )
    reader = ItemReader(sheet, heading, manner, currency, as_at, side)
    reader.read()
    if in_rows:
        return reader
    normal = {"receivables": 1, "payables": -1}[side]
    wrong = sum(row.amount * normal < 0 for row in reader.raw.items)
    if wrong * 2 > len(reader.raw.items):
        # What is owed stands with a minus.
        turned = Manner(manner.layout, manner.decimal, manner.order, True)
        reader = ItemReader(sheet, heading, turned, currency, as_at, side)
        reader.read()
    return reader


# -- together


def _add(
    found: Understood,
    sheet: Sheet,
    heading: Heading,
    kind: str,
    reader: LedgerReader,
    answers: Answers,
) -> None:
    raw, into = reader.raw, found.raw
    used = reader.used
    found.files.append(
        FileRead(
            sheet.file,
            sheet.name,
            kind,
            len(sheet.rows) - heading.last - 1,
            used,
            tuple(reader.passed),
            {role: heading.names[place] for role, place in heading.columns.items()},
            raw.first,
            raw.last,
            heading.fingerprint,
            heading.columns,
            heading.names,
            tuple(
                tuple(str(cell) for cell in row.cells)
                for row in sheet.rows[heading.last + 1 : heading.last + 1 + SAMPLE]
            ),
            tuple(_how(heading, kind, reader.manner)),
        )
    )
    found.faults += _not_read(sheet, heading, kind, reader)
    _ask_codes(found, sheet, raw, answers)
    into.postings += raw.postings
    into.balances += raw.balances
    into.items += raw.items
    into.proofs += raw.proofs
    for code, row in raw.accounts.items():
        if row.name != code or code not in into.accounts:
            into.add_account(row)
    for code, party in raw.parties.items():
        into.parties.setdefault(code, party)
    for key, amount in raw.openings.items():
        into.openings[key] = into.openings.get(key, 0) + amount
    if kind == LEDGER:
        for day in (raw.first, raw.last):
            if day is not None:
                into.reach(day)
    _settle_differences(found, sheet, raw, answers)


def _how(heading: Heading, kind: str, manner: Manner) -> Iterator[str]:
    """In which of the ways that would fit a sheet was read."""
    if kind == LEDGER:
        yield LAYOUTS[manner.layout]
    if any(role in heading.columns for role in DAYS):
        yield f"days as {ORDER_WORDS[manner.order]}"
    if any(role in heading.columns for role in FIGURES):
        yield f"“{manner.decimal}” before the cents"
    if "amount" in heading.columns and kind in (LEDGER, BALANCES) and manner.layout != PAIRS:
        side = "credit" if manner.turned else "debit"
        yield "each account’s own side positive" if manner.natural else f"a {side} positive"


def _not_read(sheet: Sheet, heading: Heading, kind: str, reader: LedgerReader) -> Iterator[str]:
    """Why a sheet, or rows of it, can't be read."""
    nothing = not reader.used and not reader.raw.openings
    if kind == LEDGER and nothing and "account" not in heading.columns:
        yield (
            f"{sheet.says}: it names no accounts. A bank statement is taken in on the Bank page, or by "
            "`corkpost import-statement`."
        )
    elif reader.unplaced:
        shown = "; ".join(f"line {row.line}: {row.why}" for row in reader.unplaced[:3])
        yield f"{sheet.says}: {len(reader.unplaced)} rows can't be placed: {shown}."
    elif nothing:
        yield f"{sheet.says}: nothing in it was understood as {KINDS[kind]}."


def _ask_codes(found: Understood, sheet: Sheet, raw: Raw, answers: Answers) -> None:
    """An account without a code, where others have one, may be one that has lost it."""
    bare = {
        code for code, row in raw.accounts.items() if row.name == code and not code[:1].isdigit()
    }
    rows = [(row.account, row.where) for row in raw.postings if row.account in bare]
    rows += [(row.account, row.where) for row in raw.balances if row.account in bare and row.amount]
    if not rows or len(bare) * 2 > len(raw.accounts):
        return
    moved, (account, where) = {code for code, _ in rows}, rows[0]
    said = answers.to(
        About.WITHOUT_CODE,
        sheet.says,
        f"{', '.join(sorted(moved)[:5])}: is that an account of its own? It has no code, and others "
        "have one.",
        [
            Choice("refuse", "no: ask for it once more", f"first on line {where.line}"),
            Choice("take-in", "yes, it has none"),
        ],
        "refuse",
    )
    if said != "take-in":
        found.faults.append(f"{where}: the account {account!r} has no code.")


def _settle_differences(found: Understood, sheet: Sheet, raw: Raw, answers: Answers) -> None:
    """A figure of the list that disagrees refuses it, unless somebody answers for it."""
    failing = [proof for proof in raw.proofs if not proof.holds]
    if failing:
        ask_difference(found, sheet.says, failing, answers)


def ask_difference(
    found: Understood, file: str, failing: Sequence[Proof], answers: Answers
) -> None:
    """Put what disagrees to who takes it in: it is refused unless they say otherwise."""
    shown = "; ".join(
        f"{proof.what}{_at(proof.where)}: read {proof.ours}, written {proof.theirs}"
        for proof in failing[:3]
    )
    more = f" and {len(failing) - 3} more" if len(failing) > 3 else ""
    said = answers.to(
        About.DIFFERENCE,
        file,
        f"{len(failing)} figures of {file} disagree with what was read: {shown}{more}. Take it in all the "
        "same?",
        [
            Choice("refuse", "no: ask for it once more"),
            Choice("take-in", "yes, and keep that on record"),
        ],
        "refuse",
    )
    if said != "take-in":
        found.faults.append(f"{file}: {shown}{more}.")


def _at(where: Where | None) -> str:
    return f" (line {where.line})" if where else ""
