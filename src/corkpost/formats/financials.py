"""Financial statements as they are answered with, exact or in whole units."""

from collections.abc import Iterable, Mapping
from datetime import date as Day

from corkpost.core.books import Books
from corkpost.core.financials import (
    BalanceSheet,
    EquityMovement,
    MoneyMoved,
    ProfitAndLoss,
    Section,
    StatementRow,
    whole_units,
)
from corkpost.core.money import Minor
from corkpost.formats.shape import Shape


class StatementRowAnswer(Shape):
    """As people read it. *bent*: rounded otherwise than alone, so that the whole adds up."""

    section: str
    account: str
    name: str
    amount: str
    before: str
    bent: bool


class FinancialStatementAnswer(Shape):
    """*totals*: by name, now and (`... before`) a year earlier."""

    rows: list[StatementRowAnswer]
    totals: dict[str, str]


class EquityAnswer(Shape):
    account: str
    name: str
    opening: str
    moved: str
    closing: str


class MoneyAnswer(Shape):
    source: str
    came: str
    went: str


class FinancialsAnswer(Shape):
    """*first*, *last*: of the span; the balance sheet is of its last day."""

    first: Day
    last: Day
    profit_and_loss: FinancialStatementAnswer
    balance_sheet: FinancialStatementAnswer
    equity: list[EquityAnswer]
    money: list[MoneyAnswer]


def profit_and_loss_answer(
    found: ProfitAndLoss, books: Books, *, whole: bool = False
) -> FinancialStatementAnswer:
    """*whole*: in whole units, each section rounded so that it still adds up."""
    return _answer(found.rows, books, _PROFIT, whole=whole)


def balance_sheet_answer(
    found: BalanceSheet, books: Books, *, whole: bool = False
) -> FinancialStatementAnswer:
    """*whole*: in whole units, so that assets still are what is owed and kept."""
    return _answer(found.rows, books, _BALANCE, whole=whole)


_PROFIT: Mapping[str, Mapping[Section, int]] = {
    "income": {Section.INCOME: 1},
    "cost_of_sales": {Section.COST_OF_SALES: 1},
    "gross_profit": {Section.INCOME: 1, Section.COST_OF_SALES: -1},
    "expenses": {Section.EXPENSES: 1},
    "profit": {Section.INCOME: 1, Section.COST_OF_SALES: -1, Section.EXPENSES: -1},
}
_BALANCE: Mapping[str, Mapping[Section, int]] = {
    "fixed_assets": {Section.FIXED_ASSETS: 1},
    "current_assets": {Section.CURRENT_ASSETS: 1},
    "assets": {Section.FIXED_ASSETS: 1, Section.CURRENT_ASSETS: 1},
    "liabilities": {Section.LIABILITIES: 1, Section.LOANS: 1},
    "equity": {Section.EQUITY: 1},
    "liabilities_and_equity": {Section.LIABILITIES: 1, Section.LOANS: 1, Section.EQUITY: 1},
}
_COUNTED_OFF = (
    Section.COST_OF_SALES,
    Section.EXPENSES,
    Section.LIABILITIES,
    Section.LOANS,
    Section.EQUITY,
)
"""With the other sign these and the rest of a statement come to profit, or to nil."""


def _answer(
    rows: tuple[StatementRow, ...],
    books: Books,
    totals: Mapping[str, Mapping[Section, int]],
    *,
    whole: bool,
) -> FinancialStatementAnswer:
    now, bent = _shown(rows, [row.amount for row in rows], books, whole=whole)
    before, bent_before = _shown(rows, [row.before for row in rows], books, whole=whole)
    money = _plain if whole else books.client.currency.format
    sums = {}
    for name, signs in totals.items():
        for suffix, amounts in (("", now), ("_before", before)):
            sums[name + suffix] = money(
                sum(
                    signs.get(row.section, 0) * amount
                    for row, amount in zip(rows, amounts, strict=True)
                )
            )
    return FinancialStatementAnswer(
        rows=[
            StatementRowAnswer(
                section=row.section,
                account=row.account,
                name=row.name,
                amount=money(amount),
                before=money(earlier),
                bent=first or other,
            )
            for row, amount, earlier, first, other in zip(
                rows, now, before, bent, bent_before, strict=True
            )
        ],
        totals=sums,
    )


def _shown(
    rows: tuple[StatementRow, ...], amounts: list[Minor], books: Books, *, whole: bool
) -> tuple[list[int], list[bool]]:
    if not whole:
        return amounts, [False] * len(amounts)
    per_unit = books.client.currency.parse("1")
    # Rounded together with their signs, so that what comes to nil or to profit still does.
    signs = [-1 if row.section in _COUNTED_OFF else 1 for row in rows]
    found = whole_units([s * x for s, x in zip(signs, amounts, strict=True)], per_unit)
    return [s * rounded.units for s, rounded in zip(signs, found, strict=True)], [
        rounded.bent for rounded in found
    ]


def _plain(units: int) -> str:
    return str(units)


def equity_answer(rows: Iterable[EquityMovement], books: Books) -> list[EquityAnswer]:
    money = books.client.currency.format
    return [
        EquityAnswer(
            account=row.account,
            name=row.name,
            opening=money(row.opening),
            moved=money(row.moved),
            closing=money(row.closing),
        )
        for row in rows
    ]


def money_answer(rows: Iterable[MoneyMoved], books: Books) -> list[MoneyAnswer]:
    money = books.client.currency.format
    return [
        MoneyAnswer(source=row.source, came=money(row.came), went=money(row.went)) for row in rows
    ]
