"""A trial balance to what each account held, at one day or several: debit and credit columns, one signed
column, opening, movement and closing, or a column for each day."""

from collections.abc import Iterator, Sequence
from datetime import date
from functools import cached_property
from itertools import pairwise
from typing import NamedTuple

from corkpost.core.chart.trade_words import type_said
from corkpost.core.intake.raw import AccountRow, Balance, Proof, Raw, Where
from corkpost.core.money import Currency, Minor
from corkpost.core.periods import month_end
from corkpost.formats.listings.days import days_in, month_in, year_in, years_back
from corkpost.formats.listings.headings import Heading
from corkpost.formats.listings.ledger import (
    ONLY_CODE,
    LedgerReader,
    Manner,
    PassedOver,
    Unplaced,
    split_account,
)
from corkpost.formats.listings.sheets import Row, Sheet
from corkpost.formats.listings.words import begins_as, only_moved


class _Column(NamedTuple):
    """A day, and the columns of its figures: one alone, or debit and credit."""

    day: date
    one: int | None = None
    debit: int | None = None
    credit: int | None = None


class BalanceReader(LedgerReader):
    """Reads a trial balance. *as_at*: its day, where no column names one. *opens*: the day before its
    first, where it has what was held then. *moves*: its months hold what moved in them, and not what was
    held at their end."""

    def __init__(
        self,
        sheet: Sheet,
        heading: Heading,
        manner: Manner,
        currency: Currency,
        as_at: date,
        opens: date | None = None,
        moves: bool = False,
    ) -> None:
        super().__init__(sheet, heading, manner, currency)
        self._as_at, self._opens, self._moves = as_at, opens, moves
        self._columns = list(self._found_columns())
        self._sums: dict[int, list[Minor]] = {n: [0, 0] for n in range(len(self._columns))}
        self._since: dict[int, list[Minor]] = {n: [0, 0] for n in range(len(self._columns))}
        self._section: str = ""
        self._place = 0

    def read(self) -> Raw:
        for place, row in enumerate(self._sheet.rows):
            if place > self._heading.last:
                self._place = place
                self._take(row)
        for number, column in enumerate(self._columns):
            debit, credit = self._sums[number]
            if self.used:
                what = f"debits and credits at {column.day.isoformat()}"
                self.raw.proofs.append(Proof(what, debit, -credit))
            self.raw.reach(column.day)
        return self.raw

    @property
    def has_months(self) -> bool:
        """Whether it has a column for each of several months of one year: they may be what was held at
        their end, or what moved in them."""
        days = [c.day for c in self._columns if c.day != self._opens]
        return (
            len(days) > 1
            and all(day == month_end(day.year, day.month, 31) for day in days)
            and all((a.year, a.month) != (b.year, b.month) for a, b in pairwise(days))
            and (days[-1] - days[0]).days < 12 * 31
            and any((b - a).days <= 31 for a, b in pairwise(days))
        )

    def _found_columns(self) -> Iterator[_Column]:
        columns = self._heading.columns
        if self._opens is not None:
            if "opening" in columns:
                yield _Column(self._opens, one=columns["opening"])
            elif "opening_debit" in columns:
                yield _Column(
                    self._opens, None, columns["opening_debit"], columns.get("opening_credit")
                )
        dated = list(self._dated())
        if dated:
            yield from dated
        elif "closing_debit" in columns:
            yield _Column(
                self._as_at, None, columns["closing_debit"], columns.get("closing_credit")
            )
        elif "closing" in columns:
            yield _Column(self._as_at, one=columns["closing"])
        elif "balance" in columns:
            yield _Column(self._as_at, one=columns["balance"])
        elif "debit" in columns and "credit" in columns:
            yield _Column(self._as_at, None, columns["debit"], columns["credit"])
        elif "amount" in columns and not only_moved(self._heading.names[columns["amount"]]):
            yield _Column(self._as_at, one=columns["amount"])

    def _dated(self) -> Iterator[_Column]:
        """Columns whose names say a day or a year: `31.12.2025`, `2025`, `2025 / Debit`."""
        pairs: dict[date, dict[str, int]] = {}
        taken = set(self._heading.columns.values())
        for place, name in enumerate(self._heading.names):
            day = self._day_of_column(name)
            if day is None:
                continue
            side = next(
                (s for s in ("debit", "credit") if self._heading.columns.get(s) == place), "one"
            )
            below = name.partition(" / ")[2].casefold()
            side = below if below in ("debit", "credit", "soll", "haben") else side
            side = {"soll": "debit", "haben": "credit"}.get(side, side)
            if side == "one" and place in taken and not name[:1].isdigit():
                continue
            pairs.setdefault(day, {})[side] = place
        for day, at in sorted(pairs.items()):
            yield _Column(day, at.get("one"), at.get("debit"), at.get("credit"))

    def _day_of_column(self, name: str) -> date | None:
        days = days_in(name, self.manner.order)
        if days:
            return days[-1]
        back = years_back(name)
        if back is not None:
            return month_end(self._as_at.year - back, self._as_at.month, self._as_at.day)
        month = month_in(name)
        if month is not None:
            year = self._as_at.year - (month > self._as_at.month)
            return month_end(year, month, 31)
        said = year_in(name)
        return month_end(said, self._as_at.month, self._as_at.day) if said else None

    # -- rows

    def _take(self, row: Row) -> None:
        if self._is_empty(row):
            return
        label = self._label(row)
        figures = [self._figures(row, column) for column in self._columns]
        if not any(found is not None for found in figures):
            said = type_said(label) if label else None
            if said is not None:
                self._section = said.value
            self.passed.append(PassedOver(row.line, "no figures"))
            return
        if not code_in(self._text(row, "account")) and self._was_sum(row, label, figures):
            return
        account = self._named(row, "account")
        if not account:
            if any(found and found != (0, 0) for found in figures):
                self.unplaced.append(Unplaced(row.line, "an amount and no account"))
            return
        said = type_said(self._text(row, "type")) or type_said(self._text(row, "journal"))
        said = said or (type_said(self._section) if self._section else None)
        self.raw.add_account(AccountRow(account, self.raw.accounts[account].name, said))
        self.used += 1
        reached = 0
        for number, (column, found) in enumerate(zip(self._columns, figures, strict=True)):
            debit, credit = found or (0, 0)
            for held in (self._sums[number], self._since[number]):
                held[0] += debit
                held[1] += credit
            reached = debit + credit + (reached if self._moves else 0)
            self.raw.balances.append(
                Balance(Where(self._sheet.says, row.line), account, column.day, reached)
            )
        self._prove_movement(row, account)
        self._prove_sum(row, account, reached, sum(map(sum, filter(None, figures))))

    @cached_property
    def _codes_are_said(self) -> bool:
        """Whether most accounts have a code, in its column or before the name."""
        told = [
            code_in(self._text(row, "account"))
            for row in self._sheet.rows[self._heading.last + 1 :]
            if any(self._figures(row, column) is not None for column in self._columns)
        ]
        return 2 * sum(told) > len(told)

    def _was_sum(self, row: Row, label: str, figures: Sequence[tuple[Minor, Minor] | None]) -> bool:
        """Whether a row without a code is a total, or the sum of accounts beside it."""
        if label and (begins_as(label, "total") or begins_as(label, "carried")):
            self._sum_row(row, label, figures)
            return True
        if not self._codes_are_said:
            return False
        where = next((name for name, sums in self._sums_beside() if _are(figures, sums)), None)
        if where is not None:
            self.passed.append(PassedOver(row.line, f"a sum of what stands {where}"))
        return where is not None

    def _sums_beside(self) -> Iterator[tuple[str, list[Minor]]]:
        """What a row without a code may be the sum of, by column: what was read so far, or since the last
        sum, or the accounts from it to the next such row."""
        yield "above", [sum(sums) for sums in self._sums.values()]
        yield "above", [sum(sums) for sums in self._since.values()]
        below = [0] * len(self._columns)
        for row in self._sheet.rows[self._place + 1 :]:
            if not code_in(self._text(row, "account")):
                break
            for number, column in enumerate(self._columns):
                below[number] += sum(self._figures(row, column) or (0, 0))
        yield "below", below

    def _figures(self, row: Row, column: _Column) -> tuple[Minor, Minor] | None:
        """Debit and (negative) credit of a column; None where it has no figure."""
        if column.one is not None:
            found = self._minor(row.at(column.one))
            if found is None:
                return None
            amount = found[0] * found[1] if found[1] else found[0]
            amount = -amount if self.manner.turned and not found[1] else amount
            return (max(amount, 0), min(amount, 0))
        debit, credit = self._minor(row.at(column.debit)), self._minor(row.at(column.credit))
        if debit is None and credit is None:
            return None
        net = (debit[0] if debit else 0) - abs(credit[0] if credit else 0)
        net = -net if self.manner.turned and not self._heading.sides_said else net
        return (max(net, 0), min(net, 0))

    def _sum_row(self, row: Row, label: str, figures: Sequence[tuple[Minor, Minor] | None]) -> None:
        """A row of totals, against the sums of what was read: of all, or since the last such row."""
        where = Where(self._sheet.says, row.line)
        for number, (column, said) in enumerate(zip(self._columns, figures, strict=True)):
            if said is None:
                continue
            plain_debit, plain_credit = self._plain(row, column)
            fits = [tuple(self._sums[number]), tuple(self._since[number])]
            both = (plain_debit, -plain_credit)
            nets = [(sum(pair),) for pair in fits]
            if column.one is not None:
                ours = next((pair[0] for pair in nets if pair[0] == sum(said)), nets[0][0])
                self.raw.proofs.append(Proof(f"“{label}”", ours, sum(said), where))
            else:
                found = next((pair for pair in fits if pair == both), fits[0])
                self.raw.proofs.append(Proof(f"“{label}”, debit", found[0], both[0], where))
                self.raw.proofs.append(Proof(f"“{label}”, credit", -found[1], -both[1], where))
            self._since[number] = [0, 0]
        self.passed.append(PassedOver(row.line, "a total"))

    def _plain(self, row: Row, column: _Column) -> tuple[Minor, Minor]:
        debit, credit = self._minor(row.at(column.debit)), self._minor(row.at(column.credit))
        return (debit[0] if debit else 0), abs(credit[0] if credit else 0)

    def _prove_movement(self, row: Row, account: str) -> None:
        """What was held before, and debits less credits, is what is held at the end."""
        columns = self._heading.columns
        if self._opens is None or not {"debit", "credit"} <= columns.keys():
            return
        by_day = {b.day: b.amount for b in self.raw.balances[-len(self._columns) :]}
        debit, credit = (
            self._minor(self._cell(row, side)) or (0, 0) for side in ("debit", "credit")
        )
        ours = by_day.get(self._opens, 0) + debit[0] - credit[0]
        theirs = by_day.get(self._as_at, 0)
        if ours != theirs:
            where = Where(self._sheet.says, row.line)
            self.raw.proofs.append(Proof(f"{account}: before and movement", ours, theirs, where))

    def _prove_sum(self, row: Row, account: str, reached: Minor, moved: Minor) -> None:
        """What the months come to, where a column beside them says it."""
        if not self.has_months:
            return
        columns = self._heading.columns
        closing = next((columns[r] for r in ("closing", "balance") if r in columns), None)
        place = closing if closing is not None else columns.get("amount")
        said = self._minor(row.at(place)) if place is not None else None
        if place is None or said is None or place in {column.one for column in self._columns}:
            return
        theirs = said[0] * (said[1] or (-1 if self.manner.turned else 1))
        # A sum beside months that moved may be of them alone.
        ours = moved if self._moves and closing is None and theirs == moved else reached
        if ours != theirs:
            where = Where(self._sheet.says, row.line)
            self.raw.proofs.append(Proof(f"{account}: its months", ours, theirs, where))


def _are(figures: Sequence[tuple[Minor, Minor] | None], sums: Sequence[Minor]) -> bool:
    told = [(sum(found), said) for found, said in zip(figures, sums, strict=True) if found]
    return bool(told) and all(found == said for found, said in told)


def code_in(text: str) -> bool:
    """Whether a text is, or begins with, an account's code."""
    return bool(text) and (
        ONLY_CODE.fullmatch(text) is not None or split_account(text)[0] != split_account(text)[1]
    )
