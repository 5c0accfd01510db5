"""Registers as tables: fixed assets and exchange rates, keyed on a page or taken in from CSV."""

import csv
import io
import re
from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from fractions import Fraction
from typing import Annotated

from pydantic import ConfigDict, Field

from corkpost.core.assets.register import Registered
from corkpost.core.books import Books
from corkpost.core.budgets import USUAL
from corkpost.core.cells import cell_said, plain_cell
from corkpost.core.keying import keyed_amount, keyed_number
from corkpost.core.kinds import AccountType
from corkpost.core.money import NotAnAmount
from corkpost.core.recipes.told import account_told
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.row_kinds.assets import FixedAsset
from corkpost.core.row_kinds.budgets import BudgetFigure
from corkpost.core.row_kinds.bureau_months import BureauMonth
from corkpost.core.row_kinds.rates import Rate
from corkpost.formats.shape import Shape
from corkpost.formats.statements.parsed import text_of

MOST_ROWS = 20_000
Cell = Annotated[str, Field(max_length=400)]


class AssetRow(Shape):
    """An asset as it is keyed, or stands in a table. *life* in years, or units; *rate* in percent a year;
    *depreciation*: written off by *depreciated_to*, where that is known."""

    model_config = ConfigDict(extra="forbid")

    asset: Cell
    account: Cell
    name: Cell
    bought: Cell
    cost: Cell
    method: Cell = "straight-line"
    life: Cell = ""
    rate: Cell = ""
    residual: Cell = ""
    part: Annotated[str, Field(pattern="^(month|day|)$")] = "month"
    depreciation_account: Cell = ""
    depreciation: Cell = ""
    depreciated_to: Cell = ""
    entry: Cell = ""

    def read(self, books: Books) -> FixedAsset:
        """Raises ValueError, NotAnAmount or UnknownName for what can't be read in it."""
        money = books.client.currency.parse
        if not self.asset.strip() or not self.name.strip():
            raise ValueError("an asset has an id and a name")
        return FixedAsset(
            asset=self.asset.strip(),
            account=account_told(books, self.account.strip()),
            name=" ".join(self.name.split()),
            bought=date.fromisoformat(self.bought.strip()),
            cost=money(self.cost.strip()),
            method=self.method.strip() or "straight-line",
            life=_number(self.life),
            rate=_number(self.rate.removesuffix("%")),
            residual=money(self.residual.strip()) if self.residual.strip() else 0,
            part=self.part or "month",
            depreciation_account=(
                account_told(books, self.depreciation_account.strip())
                if self.depreciation_account.strip()
                else None
            ),
            depreciation=money(self.depreciation.strip()) if self.depreciation.strip() else None,
            depreciated_to=(
                date.fromisoformat(self.depreciated_to.strip())
                if self.depreciated_to.strip()
                else None
            ),
            entry=self.entry.strip() or None,
        )


def _number(text: str) -> Fraction | None:
    return keyed_number(text) if text.strip() else None


def read_assets(rows: list[AssetRow], books: Books) -> tuple[FixedAsset, ...]:
    """Raises BadEntry with each row's fault."""
    found, faults = [], []
    for number, row in enumerate(rows, 1):
        try:
            found.append(row.read(books))
        except (NotAnAmount, UnknownName, ValueError) as wrong:
            faults.append(f"Row {number}, {row.asset or 'no id'}: {str(wrong).rstrip('.')}.")
    if faults:
        raise BadEntry(faults[:100])
    return tuple(found)


def asset_table(content: bytes) -> list[AssetRow]:
    """The rows of a CSV file with the columns of `AssetRow`. Raises BadEntry."""
    names = list(AssetRow.model_fields)
    needed = [name for name, field in AssetRow.model_fields.items() if field.is_required()]
    found = []
    for number, cells in _table(content, needed, names):
        known = {name: cells[name] for name in names if cells.get(name)}
        try:
            found.append(AssetRow(**dict.fromkeys(needed, "") | known))
        except ValueError:
            raise BadEntry([f"line {number}: part is month or day."]) from None
    return found


def csv_of(rows: Iterable[Mapping[str, object]]) -> str:
    """Rows of one shape as a CSV file with a heading; nothing for none."""
    found = list(rows)
    out = io.StringIO()
    if found:
        writer = csv.DictWriter(out, list(found[0]), lineterminator="\r\n")
        writer.writeheader()
        writer.writerows(
            {
                name: plain_cell(value) if isinstance(value, str) else value
                for name, value in row.items()
            }
            for row in found
        )
    return out.getvalue()


def rate_table(content: bytes) -> tuple[Rate, ...]:
    """The rows of a CSV file `date,currency,rate`. Raises BadEntry with each line's fault."""
    found, faults = [], []
    for number, cells in _table(content, ["date", "currency", "rate"], []):
        try:
            found.append(read_rate(cells["currency"], cells["date"], cells["rate"]))
        except ValueError as wrong:
            faults.append(f"line {number}: {wrong}.")
    if faults:
        raise BadEntry(faults[:100])
    return tuple(found)


def read_rate(currency: str, day: str, rate: str) -> Rate:
    """Raises ValueError for what can't be read."""
    code = currency.strip().upper()
    if len(code) != 3 or not code.isascii() or not code.isalpha():
        raise ValueError(f"{currency!r} is no code of a currency")
    found = _number(rate)
    if found is None:
        raise ValueError("the rate is missing")
    return Rate(code, date.fromisoformat(day.strip()), found)


_MONTH = re.compile(r"\d{4}-(0[1-9]|1[0-2])")


def budget_table(text: str, books: Books) -> tuple[BudgetFigure, ...]:
    """The figures of a table, separated by commas, semicolons or tabs: account, month and amount a row, or
    account and a column a month. Income and costs are positive as people read them. Raises BadEntry."""
    first = text.partition("\n")[0]
    separator = max(",;\t", key=first.count)
    reader = csv.DictReader(io.StringIO(text.lstrip("\ufeff")), delimiter=separator)
    heading = [name.strip().lower() for name in reader.fieldnames or ()]
    months = [name for name in heading if _MONTH.fullmatch(name)]
    if "account" not in heading or not (months or {"month", "amount"} <= set(heading)):
        raise BadEntry(
            ["Its columns are account, month and amount; or account and a column for each 2026-01."]
        )
    reader.fieldnames = heading
    found: list[BudgetFigure] = []
    faults: list[str] = []
    for number, cells in enumerate(reader, 2):
        own = {name: (value or "").strip() for name, value in cells.items() if name}
        pairs = [(month, own[month]) for month in months] or [(own["month"], own["amount"])]
        for month, amount in pairs:
            if not amount:
                continue
            try:
                found.append(_budget_figure(books, own["account"], month, amount))
            except (NotAnAmount, UnknownName, ValueError) as wrong:
                faults.append(f"line {number}: {str(wrong).rstrip('.')}.")
    if faults or not found:
        raise BadEntry(faults[:100] or ["There is no figure in the table."])
    return tuple(found)


PAYROLL_SUMS = (
    *("gross", "employer_contributions", "net_pay"),
    *("income_tax", "employee_contributions", "other_deductions"),
)


def payroll_table(text: str, books: Books) -> tuple[BureauMonth, ...]:
    """The months of a bureau's file. Raises BadEntry with each line's fault."""
    found, faults = [], []
    rows = _table(text.encode(), ["month", "gross", "net_pay"], ["employee_group", *PAYROLL_SUMS])
    for number, cells in rows:
        try:
            if not _MONTH.fullmatch(cells["month"]):
                raise ValueError(f"{cells['month']!r} is no month: write 2026-03")
            sums = [keyed_amount(cells.get(n) or "0", books.client.currency) for n in PAYROLL_SUMS]
            group = cells.get("employee_group") or None
            found.append(BureauMonth._make((cells["month"], group, *sums, True, None)))
        except (NotAnAmount, ValueError) as wrong:
            faults.append(f"line {number}: {wrong}.")
    if faults or not found:
        raise BadEntry(faults[:100] or ["There is no month in the file."])
    return tuple(found)


def _budget_figure(books: Books, account: str, month: str, amount: str) -> BudgetFigure:
    if not _MONTH.fullmatch(month):
        raise ValueError(f"{month!r} is no month: write 2026-03")
    code = account_told(books, account)
    sign = -1 if books.account(code).type is AccountType.INCOME else 1
    return BudgetFigure(USUAL, code, month, sign * keyed_amount(amount, books.client.currency))


def _table(
    content: bytes, needed: list[str], others: list[str]
) -> Iterator[tuple[int, dict[str, str]]]:
    text = text_of(content).replace("\r\n", "\n").replace("\r", "\n").lstrip("\ufeff")
    reader = csv.DictReader(io.StringIO(text))
    heading = [name.strip().lower() for name in reader.fieldnames or ()]
    missing = [name for name in needed if name not in heading]
    unknown = [name for name in heading if name not in needed and name not in others]
    if missing or unknown:
        wrong = f"lacks {', '.join(missing)}" if missing else f"has {', '.join(unknown)} too"
        known = dict.fromkeys([*needed, *others])
        raise BadEntry([f"The table {wrong}: its columns are {', '.join(known)}."])
    reader.fieldnames = heading
    for number, cells in enumerate(reader, 2):
        if number > MOST_ROWS:
            raise BadEntry([f"The table has more than {MOST_ROWS:,} rows."])
        yield (
            number,
            {name: cell_said((value or "").strip()) for name, value in cells.items() if name},
        )


class RegisteredAnswer(Shape):
    """An asset as at a day. *cost* with what was added, *depreciation* as it stands in the books, *due*:
    what is still to be written off by the day."""

    asset: str
    account: str
    name: str
    bought: date
    cost: str
    method: str
    life: str | None
    rate: str | None
    residual: str
    part: str
    depreciation: str
    carrying: str
    due: str
    disposed: date | None
    entry: str | None


def registered_answer(row: Registered, books: Books) -> RegisteredAnswer:
    money, own = books.client.currency.format, row.asset
    return RegisteredAnswer(
        asset=own.asset,
        account=own.account,
        name=own.name,
        bought=own.bought,
        cost=money(row.cost),
        method=own.method,
        life=plain_number(own.life),
        rate=plain_number(own.rate),
        residual=money(own.residual),
        part=own.part,
        depreciation=money(row.depreciation),
        carrying=money(row.carrying),
        due=money(row.due),
        disposed=row.disposed,
        entry=own.entry,
    )


def plain_number(value: Fraction | None) -> str | None:
    """As people write it: `5`, `12.5`."""
    return None if value is None else f"{float(value):.6f}".rstrip("0").rstrip(".")


def asset_row(asset: FixedAsset, books: Books) -> AssetRow:
    """An asset as a form holds it."""
    money = books.client.currency.format
    return AssetRow(
        asset=asset.asset,
        account=asset.account,
        name=asset.name,
        bought=asset.bought.isoformat(),
        cost=money(asset.cost),
        method=asset.method,
        life=plain_number(asset.life) or "",
        rate=plain_number(asset.rate) or "",
        residual=money(asset.residual) if asset.residual else "",
        part=asset.part,
        depreciation_account=asset.depreciation_account or "",
        depreciation="" if asset.depreciation is None else money(asset.depreciation),
        depreciated_to=asset.depreciated_to.isoformat() if asset.depreciated_to else "",
        entry=asset.entry or "",
    )
