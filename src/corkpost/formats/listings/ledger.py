"""A ledger or journal to postings, in any of its layouts: flat, a block for each account, a block for each
document, one row with both accounts.

A reading is settled by the figures that the list has of itself: totals, running balances, carried sums.
"""

import math
import re
from collections import defaultdict
from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import date
from decimal import Decimal
from functools import cached_property, lru_cache
from itertools import product
from typing import Any, NamedTuple, TypeVar

from corkpost.core.chart.trade_words import by_name, plain
from corkpost.core.intake.entries import OF_ROW
from corkpost.core.intake.raw import AccountRow, Posting, Proof, Raw, Where
from corkpost.core.kinds import AccountType
from corkpost.core.money import Currency, Minor
from corkpost.formats.listings.days import days_in, without_days
from corkpost.formats.listings.figures import amount_in, day_in, minor_in
from corkpost.formats.listings.headings import Heading
from corkpost.formats.listings.sheets import Row, Sheet
from corkpost.formats.listings.words import account_words, begins_as, mark_of, says_opening
from corkpost.formats.workbooks import Cell

Of = TypeVar("Of")
ON_CREDIT = frozenset({AccountType.LIABILITY, AccountType.EQUITY, AccountType.INCOME})
FLAT, BY_ACCOUNT, PAIRS = "flat", "by-account", "pairs"
MOSTLY = 0.9
LONGEST_HEAD = 3
"""So many cells may hold the word `Account`, its code and its name."""
CODE_AND_NAME = re.compile(
    r"(?P<code>[A-Z]{0,4}[\d][\w./\-]{0,14})\s*(?:[-–—:·|]\s*|\s+)(?P<name>\S.*)"
)
CODE_SLASH_NAME = re.compile(r"(?P<code>\d{2,8})/(?P<name>[^\W\d]{3}.*)")
WORD = re.compile(r"[\w/\-]+")
IN_BRACKETS = re.compile(r"[\w./\-]{0,14}\d[\w./\-]{0,14}")
ONLY_CODE = re.compile(r"[A-Z]{0,4}[\d][\w./\-]{0,14}")


@dataclass(frozen=True)
class Manner:
    """How a ledger's cells are read. *turned*: in its signed amounts credit is positive; *natural*: on each
    account what makes it more is, a debit on a bank and a credit on sales. *fills*: only the first row of
    each document says its day and number."""

    layout: str
    decimal: str
    order: str
    turned: bool = False
    fills: bool = False
    natural: bool = False


class PassedOver(NamedTuple):
    line: int
    why: str


class Unplaced(NamedTuple):
    """A row with an amount that is not understood: it can't be passed over in silence."""

    line: int
    why: str


@lru_cache(maxsize=50_000)
def split_account(text: str) -> tuple[str, str]:
    """Code and name of `1200 Bank`, `Account: 1200 - Bank` or `Bank`: a name alone is its own code."""
    bare = " ".join(text.split())
    for word in account_words():
        head, mark, rest = bare.partition(":")
        if mark and plain(head) == word:
            bare = rest.strip()
            break
        if plain(bare).startswith(f"{word} ") and CODE_AND_NAME.fullmatch(bare.partition(" ")[2]):
            bare = bare.partition(" ")[2].strip()
            break
    match = CODE_AND_NAME.fullmatch(bare) or CODE_SLASH_NAME.fullmatch(bare)
    if match:
        return match["code"], match["name"].strip()
    if bare.endswith((")", "]")):
        name, _, code = bare[:-1].replace("[", "(").rpartition("(")
        if name.strip() and IN_BRACKETS.fullmatch(code):
            return code, name.strip()
    return bare, bare


_FIELD = {name: place for place, name in enumerate(Posting._fields)}
_NOTHING_SAID: tuple[Any, ...] = (
    None,
    "",
    None,
    0,
    *(Posting._field_defaults[name] for name in Posting._fields[4:]),
)
_TEXTS = ("number", "journal", "reference", "text", "party", "party_name", "contra", "tax_code",
          "entered_by")  # fmt: skip
_DAYS = ("entered_at", "document_day", "due")
_HELD = ("number", "journal", "reference", "text", "party", "party_name")
"""What the first row of a document says for all of it, where each of them is a list's block."""


def _as_text(cell: Cell) -> str:
    if isinstance(cell, str):
        return " ".join(cell.split()) if "  " in cell or "\n" in cell else cell
    if isinstance(cell, Decimal):
        return str(int(cell)) if cell == int(cell) else str(cell)
    return cell.isoformat()


@dataclass
class _Block:
    """The rows of one account in a list by accounts, or all of a flat one."""

    account: str = ""
    opening: Minor = 0
    has_opening: bool = False
    debit: Minor = 0
    credit: Minor = 0
    net: Minor = 0
    since_debit: Minor = 0
    since_credit: Minor = 0
    crossed: Minor = 0
    since_crossed: Minor = 0
    """What stands with a minus in its column: both columns are less by it than what moved."""
    checks: list[tuple[Row, Minor]] = field(default_factory=list)
    """Running balances: the row's, and what was read until then."""

    def add(self, amount: Minor) -> None:
        self.net += amount
        if amount > 0:
            self.debit += amount
            self.since_debit += amount
        else:
            self.credit -= amount
            self.since_credit -= amount

    def cross(self, amount: Minor) -> None:
        self.crossed += amount
        self.since_crossed += amount

    @property
    def columns(self) -> list[tuple[Minor, Minor]]:
        """What its debit and its credit column may come to: since the last sum, and in all."""
        since, whole = self.since_crossed, self.crossed
        return [
            (self.debit, self.credit),
            (self.since_debit, self.since_credit),
            (self.debit - whole, self.credit - whole),
            (self.since_debit - since, self.since_credit - since),
        ]


class _Once(dict[Cell, Of]):
    """What each cell says, read when it first stands somewhere."""

    def __init__(self, read: Callable[[Cell], Of]) -> None:
        super().__init__()
        self._read = read

    def __missing__(self, cell: Cell) -> Of:
        said = self[cell] = self._read(cell)
        return said


class LedgerReader:
    """Reads one sheet in one *manner*. *raw*: what was read; *passed*, *unplaced*: what was not."""

    def __init__(self, sheet: Sheet, heading: Heading, manner: Manner, currency: Currency) -> None:
        self._sheet, self._heading, self.manner = sheet, heading, manner
        self._places = heading.columns
        self._minor = _Once(
            lambda cell: minor_in(cell, manner.decimal, currency.places)
        ).__getitem__
        """An amount in minor units and the side that is marked in it."""
        self._day_in = _Once(lambda cell: day_in(cell, manner.order)).__getitem__
        places = heading.columns
        self._width = max(places.values(), default=-1) + 1
        self._texts = [(_FIELD[role], places[role]) for role in _TEXTS if role in places]
        self._days = [(_FIELD[role], places[role]) for role in _DAYS if role in places]
        self._says = sheet.says
        self._codes: dict[tuple[Cell, Cell], str] = {}
        self._sign = -1 if manner.turned else 1
        self._is_flat = manner.layout != BY_ACCOUNT
        self._has_sides = "debit" in places and "credit" in places
        self.raw = Raw()
        self.passed: list[PassedOver] = []
        self.unplaced: list[Unplaced] = []
        self.used = 0
        self._whole = _Block()
        self._block = _Block() if manner.layout == BY_ACCOUNT else self._whole
        self._held: dict[str, Cell] = {}
        self._balances: dict[str, list[tuple[Row, Minor, Minor]]] = defaultdict(list)
        self._totals = 0
        self._pair_before: tuple[date, tuple[Cell, ...], str, str, str] | None = None

    def read(self) -> Raw:
        if self.manner.layout == BY_ACCOUNT:
            self._begin_above()
        says_all = self.manner.layout == FLAT and not self.manner.fills and "day" in self._places
        for row in self._sheet.rows[self._heading.last + 1 :]:
            if not (says_all and self._took_plain(row)):
                self._take(row)
        self._end_block()
        self._prove_balances()
        for reached in (min, max):
            if self.raw.postings:
                self.raw.reach(reached(posting.day for posting in self.raw.postings))
        return self.raw

    # -- one row

    def _take(self, row: Row) -> None:
        day = self._day(row, "day")
        amounts = self._amounts(row)
        if amounts and day is not None and (self._text(row, "number") or self._is_flat):
            self._data(row, day, amounts)
            return
        if self._is_empty(row):
            return
        label = self._label(row)
        if label and begins_as(label, "carried") and (day is None or not self._cell(row, "number")):
            self.passed.append(PassedOver(row.line, "carried from page to page"))
            return
        if self.manner.layout == BY_ACCOUNT and self._by_account(row, label, day, amounts):
            return
        if day is None and label and (begins_as(label, "total") or begins_as(label, "closing")):
            self._total(row, label)
            return
        if amounts is None:
            self._without_amount(row, day)
            return
        if not amounts:
            self.passed.append(PassedOver(row.line, "of nil"))
            return
        self._data(row, day, amounts)

    def _took_plain(self, row: Row) -> bool:
        """Takes most rows of most lists: with a day, a sum and an account that was read before. False where
        more has to be looked at."""
        cells, places = row.cells, self._places
        if len(cells) < self._width or "account" not in places:
            return False
        day = self._day_in(cells[places["day"]])
        amount = self._amounts(row)
        name = cells[places["account_name"]] if "account_name" in places else ""
        account = self._codes.get((cells[places["account"]], name))
        if day is None or not amount or not account:
            return False
        self.used += 1
        self._add(row, account, amount, day)
        return True

    def _is_empty(self, row: Row) -> bool:
        """Whether there is nothing in it, or the heading once more."""
        if not row.texts:
            return True
        if self._heading.repeated(row):
            self.passed.append(PassedOver(row.line, "the heading once more"))
            return True
        return False

    def _label(self, row: Row) -> str:
        """The text that says what kind of row it is: the first that is neither figure nor day."""
        for cell in row.cells:
            if (
                isinstance(cell, str)
                and cell
                and amount_in(cell, self.manner.decimal) is None
                and self._day_in(cell) is None
            ):
                return cell
        return ""

    def _cell(self, row: Row, role: str) -> Cell:
        return row.at(self._places.get(role))

    def _text(self, row: Row, role: str) -> str:
        place = self._places.get(role)
        if place is None:
            return ""
        return _as_text(row.at(place))

    def _day(self, row: Row, role: str) -> date | None:
        place = self._places.get(role)
        return None if place is None else self._day_in(row.at(place))

    def _crossed(self, row: Row) -> Minor:
        """What a row has with a minus in its debit or credit column, without it."""
        if not self._has_sides:
            return 0
        found = (self._minor(row.at(self._places[side])) for side in ("debit", "credit"))
        return -min(min(said[0], 0) if said else 0 for said in found)

    def _amounts(self, row: Row) -> Minor | None:
        """Debit less credit of a row; None where it has no amount."""
        columns = self._places
        if "debit" in columns and "credit" in columns:
            debit, credit = (
                self._minor(row.at(columns["debit"])),
                self._minor(row.at(columns["credit"])),
            )
            if debit is None and credit is None:
                return None
            return self._sign * ((debit[0] if debit else 0) - (credit[0] if credit else 0))
        if "amount" not in columns:
            return None
        found = self._minor(self._cell(row, "amount"))
        if found is None:
            return None
        amount, side = found
        if "mark" in columns and not side:
            side = mark_of(self._text(row, "mark"))
        if side:
            return side * amount
        return self._sign * amount

    # -- what is in it

    def _data(self, row: Row, day: date | None, amount: Minor) -> None:
        if self.manner.layout == PAIRS:
            self._pair(row, day, amount)
            return
        account = self._account(row)
        if not account:
            self.unplaced.append(Unplaced(row.line, "an amount and no account"))
            return
        held = self._filled(row, day)
        if held is None:
            self.unplaced.append(Unplaced(row.line, "an amount and no day"))
            return
        self.used += 1
        self._add(row, account, amount, held)

    def _pair(self, row: Row, day: date | None, amount: Minor) -> None:
        debit, credit = self._named(row, "debit_account"), self._named(row, "credit_account")
        held = self._filled(row, day)
        if not debit or not credit or held is None:
            self.unplaced.append(Unplaced(row.line, "an amount without both accounts and a day"))
            return
        self.used += 1
        number = self._of_one_event(row, held, debit, credit)
        for account, signed in ((debit, amount), (credit, -amount)):
            self._add(row, account, signed, held, number=number)

    def _of_one_event(self, row: Row, day: date, debit: str, credit: str) -> str:
        """The number of a row's entry. Rows that follow each other, say the same, and have one of their
        two accounts in common, are one: a document's net and its tax."""
        said = tuple(self._cell(row, role) for role in ("reference", "text", "party", "party_name"))
        before = self._pair_before
        follows = before is not None and before[:2] == (day, said)
        if before is not None and follows and (before[2] == debit) != (before[3] == credit):
            return before[4]
        number = self._text(row, "number") or f"{OF_ROW}{row.line}"
        self._pair_before = (day, said, debit, credit, number) if any(said) else None
        return number

    def _filled(self, row: Row, day: date | None) -> date | None:
        """The day of a row; in a list by documents only the first row of each says it."""
        if day is not None and not self.manner.fills:
            return day
        if day is not None:
            self._held = {role: self._cell(row, role) for role in _HELD}
            self._held["day"] = day
            return day
        found = self._held.get("day")
        number = self._cell(row, "number")
        goes_on = self.manner.fills and number in ("", self._held.get("number"))
        return found if isinstance(found, date) and goes_on else None

    def _add(self, row: Row, account: str, amount: Minor, day: date, number: str = "") -> None:
        values = self._said_by(row)
        values[:4] = Where(self._says, row.line), account, day, amount
        if number:
            values[_FIELD["number"]] = number
        self.raw.postings.append(Posting._make(values))
        crossed = self._crossed(row)
        for block in {id(one): one for one in (self._whole, self._block)}.values():
            block.add(amount)
            if crossed:
                block.cross(crossed)
        if "balance" in self._places and (balance := self._balance(row)) is not None:
            self._balances[account].append((row, balance, amount))

    def _said_by(self, row: Row) -> list[Any]:
        """The fields of a posting that are texts and further days; without its first four."""
        values = list(_NOTHING_SAID)
        cells = row.cells
        if self.manner.fills:
            # What the first row of a document says holds for those below.
            for role in _HELD:
                values[_FIELD[role]] = self._said(row, role)
        for field_place, place in self._texts:
            if place < len(cells) and (cell := cells[place]) != "":
                values[field_place] = _as_text(cell)
        for field_place, place in self._days:
            if place < len(cells):
                values[field_place] = self._day_in(cells[place])
        if "contra" in self._places:
            values[_FIELD["contra"]] = split_account(values[_FIELD["contra"]])[0]
        values[_FIELD["is_opening"]] = says_opening(values[_FIELD["text"]])
        return values

    def _said(self, row: Row, role: str) -> str:
        own = self._text(row, role)
        if own or self._day(row, "day") is not None:
            return own
        held = self._held.get(role, "")
        return str(int(held)) if isinstance(held, Decimal) else str(held)

    def _balance(self, row: Row) -> Minor | None:
        found = self._minor(self._cell(row, "balance"))
        if found is None:
            return None
        side = found[1]
        if not side and "mark" in self._places and "debit" in self._places:
            # With a column for each side of what moved, the mark is the balance's.
            side = mark_of(self._text(row, "mark"))
        return found[0] * (side or (self._sign if self.manner.natural else 1))

    def _account(self, row: Row) -> str:
        if self.manner.layout != BY_ACCOUNT:
            return self._named(row, "account")
        named = self._named(row, "account") if "account" in self._places else ""
        if named and named != self._block.account:
            # Said in the first row of each, and left out below it.
            self._begin_block(named, self.raw.accounts[named].name)
        return self._block.account

    def _named(self, row: Row, role: str) -> str:
        said = self._text(row, role)
        name = self._text(row, "account_name") if role == "account" else ""
        if not said:
            said, name = name, ""
        if not said:
            return ""
        known = self._codes.get((said, name))
        if known is not None:
            return known
        alone = ONLY_CODE.fullmatch(said) and not CODE_SLASH_NAME.fullmatch(said)
        code, own = (said, name) if alone else split_account(said)
        self.raw.add_account(AccountRow(code, name or own or code))
        self._codes[said, name] = code
        return code

    def _without_amount(self, row: Row, day: date | None) -> None:
        cells = [str(self._cell(row, role)) for role in ("debit", "credit", "amount")]
        if day is not None and (unread := [cell for cell in cells if any(map(str.isdigit, cell))]):
            self.unplaced.append(Unplaced(row.line, f"{unread[0][:20]!r} is no amount"))
            return
        if day is not None:
            # The head of a document, whose lines come below.
            self._filled(row, day)
            self.passed.append(PassedOver(row.line, "the head of a document"))
            return
        alone = _as_text(row.texts[0]) if len(row.texts) == 1 else ""
        if alone and "day" not in self._places and self._began_document(alone):
            self.passed.append(PassedOver(row.line, "the head of a document"))
            return
        in_brackets = alone.startswith("(") and alone.endswith(")")
        if alone and self.raw.postings and (in_brackets or self._text(row, "text")):
            last = self.raw.postings[-1]
            text = f"{last.text} {alone.strip('()')}".strip()
            self.raw.postings[-1] = last._replace(text=text, is_opening=says_opening(text))
            self.passed.append(PassedOver(row.line, "the text of the row above goes on"))
            return
        self.passed.append(PassedOver(row.line, "text alone"))

    def _began_document(self, line: str) -> bool:
        """Whether a line says the one day that holds for the rows below it, `Journal 12 of 3 May: rent`."""
        days = days_in(line, self.manner.order)
        if len(days) != 1:
            return False
        words = WORD.findall(without_days(line))
        number = next((word for word in words if any(sign.isdigit() for sign in word)), line)
        self._held = {"day": days[0], "number": number, "text": line.rpartition(":")[2].strip()}
        return True

    # -- a block for each account

    def _by_account(self, row: Row, label: str, day: date | None, amount: Minor | None) -> bool:
        """Whether it is a row that only such a list has: the name of a block, or what an account held
        before."""
        if self._opened(row, label, day, amount):
            return True
        if day is not None or amount is not None or not label:
            return False
        if "account" in self._places and not self._text(row, "account"):
            return False
        if begins_as(label, "total") or begins_as(label, "closing"):
            return False
        texts = row.texts
        if len(texts) > 1 and plain(texts[0]) in account_words():
            texts = texts[1:]
        code, name = split_account(" ".join(texts[:2]))
        if len(texts) > 2 and self._balance(row) is None:
            return False
        if self._is_title(code, name) or (code == name and self._goes_on(row)):
            return False
        self._begin_block(code, name)
        self.raw.add_account(AccountRow(code, name))
        balance = self._balance(row)
        if balance is not None:
            self._block.opening = self._block.net = balance
            self.raw.openings[code, ""] = balance
        self.passed.append(PassedOver(row.line, f"the account {code}"))
        return True

    def _opened(self, row: Row, label: str, day: date | None, amount: Minor | None) -> bool:
        """Whether it says what the account held before."""
        text = self._text(row, "text")
        says = begins_as(label, "opening") or (day is None and begins_as(text, "opening"))
        if not says or self._text(row, "number"):
            return False
        if not begins_as(self._text(row, "account"), "opening"):
            # The account may stand beside it.
            self._account(row)
        held = amount if amount is not None else self._balance(row)
        self._block.opening += held or 0
        self._block.has_opening = True
        self._block.net += held or 0
        if held and self._block.account:
            key = (self._block.account, "")
            self.raw.openings[key] = self.raw.openings.get(key, 0) + held
        self.passed.append(PassedOver(row.line, "what the account held before"))
        return True

    def _begin_above(self) -> None:
        """Where each block has the heading in it, the account of the first stands above its heading."""
        code, name = split_account(self._sheet.name)
        if code != name:
            # Each account on a sheet of its own.
            self._begin_block(code, name)
            self.raw.add_account(AccountRow(code, name))
            return
        above = [row for row in self._sheet.rows[: self._heading.first] if row.texts]
        below = self._sheet.rows[self._heading.last + 1 :]
        if above and any(map(self._heading.repeated, below)):
            self._by_account(above[-1], self._label(above[-1]), None, None)

    def _goes_on(self, row: Row) -> bool:
        """Whether a text is of the row above: it stands where texts do, and accounts' names do not."""
        place = self._places.get("text")
        return bool(self._heads) and place not in self._heads and row.at(place) == row.texts[0]

    @cached_property
    def _heads(self) -> frozenset[int]:
        """The columns in which the accounts of blocks stand, where they have codes."""
        found = set()
        for row in self._sheet.rows[self._heading.last + 1 :]:
            texts = row.texts
            if 0 < len(texts) <= LONGEST_HEAD and self._day(row, "day") is None:
                code, name = split_account(" ".join(texts[-2:]))
                if code != name and self._amounts(row) is None:
                    found.add(next(n for n, cell in enumerate(row.cells) if cell != ""))
        return frozenset(found)

    def _is_title(self, code: str, name: str) -> bool:
        """Where accounts have codes, a text without one is no account."""
        coded = sum(account.code != account.name for account in self.raw.accounts.values())
        return code == name and coded > 2

    def _begin_block(self, code: str, name: str) -> None:
        self._end_block()
        self._block = _Block(account=code)
        if self.manner.natural:
            named = by_name(name)
            self._sign = -1 if named is not None and named.type in ON_CREDIT else 1

    def _end_block(self) -> None:
        self._block = _Block()

    # -- proofs

    def _total(self, row: Row, label: str) -> None:
        """What a row of totals says, against what was read: of the block, since the last total, of all."""
        block, whole = self._block, self._whole
        columns = self._heading.columns
        where = Where(self._sheet.says, row.line)
        if "debit" in columns and "credit" in columns:
            debit = self._minor(self._cell(row, "debit"))
            credit = self._minor(self._cell(row, "credit"))
            said = (debit[0] if debit else 0, credit[0] if credit else 0)
            if debit is None and credit is None:
                self._closing(row, label, where)
                return
            opening = block.opening
            opened = (max(opening, 0), max(-opening, 0))
            fits = [
                *block.columns,
                (block.debit + opened[0], block.credit + opened[1]),
                *whole.columns,
            ]
            net = [(max(value, 0), max(-value, 0)) for value in (block.net, block.net - opening)]
            if said in fits or said in net:
                ours = said
            else:
                ours = min(fits, key=lambda pair: abs(pair[0] - said[0]) + abs(pair[1] - said[1]))
            self._proof(f"total “{label}”, debit", ours[0], said[0], where)
            self._proof(f"total “{label}”, credit", ours[1], said[1], where)
            block.since_debit = block.since_credit = block.since_crossed = 0
        else:
            self._closing(row, label, where)

    def _closing(self, row: Row, label: str, where: Where) -> None:
        found = self._minor(self._cell(row, "amount")) or self._minor(self._cell(row, "balance"))
        if found is None:
            self.passed.append(PassedOver(row.line, "a total without figures"))
            return
        said = found[0] * (found[1] or 1)
        block, whole = self._block, self._whole
        fits = [
            block.net,
            block.net - block.opening,
            block.since_debit - block.since_credit,
            whole.net,
            whole.debit,
            block.debit,
            block.credit,
        ]
        both = [*fits, *(-value for value in fits)]
        ours = said if said in both else min(both, key=lambda value: abs(value - said))
        self._proof(f"“{label}”", ours, said, where)
        block.since_debit = block.since_credit = 0

    def _proof(self, what: str, ours: int, theirs: int, where: Where) -> None:
        self.raw.proofs.append(Proof(what, ours, theirs, where))
        self._totals += 1
        self.passed.append(PassedOver(where.line, "a total"))

    def _prove_balances(self) -> None:
        """Running balances, account by account: each is the one before and the row's amount, on the debit
        or on the credit side throughout."""
        for account, rows in self._balances.items():
            opening = self.raw.openings.get((account, ""), 0)
            best: list[tuple[Row, Minor, Minor]] | None = None
            end = (0, 0)
            # A list may have its newest rows first: then they run from below.
            for sign, way in product((1, -1), (rows, rows[::-1])):
                ours, broken = opening, list[tuple[Row, Minor, Minor]]()
                held = 0
                for row, said, amount in way:
                    ours += amount
                    held = ours
                    if sign * said != ours and abs(said) != abs(ours):
                        broken.append((row, ours, sign * said))
                        ours = sign * said
                if best is None or len(broken) < len(best):
                    best, end = broken, (held, int(math.copysign(way[-1][1], held)))
            for row, ours, said in (best or [])[:3]:
                where = Where(self._sheet.says, row.line)
                self.raw.proofs.append(Proof(f"running balance of {account}", ours, said, where))
            if not best:
                self.raw.proofs.append(
                    Proof(f"running balance of {account}, {len(rows)} rows", *end)
                )
