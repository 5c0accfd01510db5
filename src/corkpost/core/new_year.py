"""What the year after one begins with, and what it still wants: found from the books, not ticked."""

from collections.abc import Iterator, Mapping
from datetime import date

from corkpost.core.assets.register import register
from corkpost.core.books import Books
from corkpost.core.budgets import budget_of
from corkpost.core.closing import CloseYear, closing_of
from corkpost.core.dating import materiality
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, TaxKind
from corkpost.core.money import Minor
from corkpost.core.periods import ONE_DAY, FinancialYear
from corkpost.core.rates import rates_of
from corkpost.core.recipes.revaluation import held_in_others
from corkpost.core.refusals import BadEntry, MissingAccount
from corkpost.core.schedules import due, schedules_of
from corkpost.core.seal import Condition
from corkpost.core.trial_balance import Closing, balances_at

_SET_ASIDE = (AccountRole.ACCRUAL, AccountRole.PREPAYMENT, AccountRole.DEFERRED_INCOME)
_OLD_RATE = 7
"""A rate that is older than so many days at the year's end is asked for anew."""


def needs_of_new_year(books: Books, as_at: date) -> tuple[Condition, ...]:
    """What the year begins with after the one that *as_at* ends, each with whether it is there (handbook,
    sections 8 to 10); none where it ends no year. Says nothing about what this client does not have."""
    year = books.calendar.year_of(as_at)
    if year.last_day != as_at:
        return ()
    return (
        _closed(books, year),
        *_taken_back(books, year),
        *_steps(books, year),
        *_written_off(books, year),
        *_rates(books, year),
        *_budget(books, year),
        *_tax(books),
        _thresholds(books, year),
    )


def _closed(books: Books, year: FinancialYear) -> Condition:
    name = "The old year closed"
    try:
        found = closing_of(books, CloseYear(year.label))
    except (BadEntry, MissingAccount) as refused:
        return Condition(name, False, str(refused), "sign-off")
    if not found.lines:
        says = (
            f"Closed by {', '.join(posted.id for posted in found.before)}."
            if found.before
            else "There is nothing to carry."
        )
        return Condition(name, True, says, "sign-off")
    left = "What came after the closing is" if found.before else "The year's result is"
    return Condition(name, False, f"{left} still on the accounts of income and costs.", "sign-off")


def _taken_back(books: Books, year: FinancialYear) -> Iterator[Condition]:
    """What was set aside at the year's end, against what takes it back later."""
    balances = balances_at(books, year.last_day, closing=Closing.OUT)
    words = books.client.currency.format_amount
    accounts = [own for own in books.with_role(*_SET_ASIDE) if balances.get(own.code)]
    if not accounts:
        return
    later = _later(books, year.last_day)
    left = []
    for account in accounts:
        stands = balances[account.code]
        # A mirror that takes back more than stands leaves as much unexplained as one that is missing.
        rest = stands + later.get(account.code, 0)
        if rest:
            left.append(f"{account.name}: {words(abs(rest))} of {words(abs(stands))}")
    name = "What was set aside, taken back"
    if left:
        yield Condition(
            name, False, f"Neither a mirror nor a schedule moves {'; '.join(left)}.", "entries"
        )
    else:
        total = sum(abs(balances[own.code]) for own in accounts)
        yield Condition(
            name, True, f"{words(total)}, all of it by mirrors and schedules.", "entries"
        )


def _later(books: Books, day: date) -> Mapping[str, Minor]:
    """What mirrors and schedules move after *day*, by account."""
    found: dict[str, Minor] = {}
    for posted in books.tables.transactions:
        if posted.posting_date > day and posted.reverses and posted.id not in books.never_was:
            for line in posted.lines:
                found[line.account] = found.get(line.account, 0) + line.amount
    for row in schedules_of(books):
        for step in row.steps:
            if step.day > day and not row.copies:
                found[row.debit] = found.get(row.debit, 0) + step.amount
                found[row.credit] = found.get(row.credit, 0) - step.amount
    return found


def _steps(books: Books, year: FinancialYear) -> Iterator[Condition]:
    late = list(due(books, year.last_day))
    if late:
        first = min(row.step.day for row in late)
        yield Condition(
            "Steps of schedules",
            False,
            f"{len(late)} due by {format_date(year.last_day)} not posted, the first of "
            f"{format_date(first)}.",
            "entries/recipes",
        )
        return
    coming = list(due(books, books.calendar.next_year(year).last_day))
    if coming:
        first = min(row.step.day for row in coming)
        many = len({row.schedule.schedule for row in coming})
        yield Condition(
            "Steps of schedules",
            True,
            f"{len(coming)} of {many} schedules come in the year, the first on {format_date(first)}.",
            "entries/recipes",
        )


def _written_off(books: Books, year: FinancialYear) -> Iterator[Condition]:
    rows = [row for row in register(books, year.last_day) if row.disposed is None]
    if not rows:
        return
    left = [row for row in rows if row.due]
    words = books.client.currency.format_amount
    says = f"{_assets(len(rows))} as the methods say."
    if left:
        says = (
            f"{words(sum(row.due for row in left))} of {_assets(len(left))} not written off by "
            f"{format_date(year.last_day)}."
        )
    yield Condition("Depreciation of the old year", not left, says, "entries/recipe-depreciation")


def _assets(count: int) -> str:
    return f"{count} asset{'s' if count != 1 else ''}"


def _rates(books: Books, year: FinancialYear) -> Iterator[Condition]:
    currencies = sorted({held.currency for held in held_in_others(books, year.last_day)})
    if not currencies:
        return
    latest = {row.currency: row.day for row in rates_of(books) if row.day <= year.last_day}
    old = []
    for code in currencies:
        day = latest.get(code)
        if day is None:
            old.append(f"no rate of {code}")
        elif (year.last_day - day).days > _OLD_RATE:
            old.append(f"the last of {code} is of {format_date(day)}")
    says = f"{', '.join(currencies)} known as at {format_date(year.last_day)}."
    if old:
        says = f"At {format_date(year.last_day)}: {'; '.join(old)}."
    yield Condition("Rates of the last day", not old, says, "entries/rates")


def _budget(books: Books, year: FinancialYear) -> Iterator[Condition]:
    """Only for who had one."""
    if not budget_of(books, year.first_day, year.last_day):
        return
    coming = books.calendar.next_year(year)
    there = bool(budget_of(books, coming.first_day, coming.last_day))
    says = f"{'There' if there else 'None yet'} for {coming.label}."
    yield Condition("A budget", there, says, "worksheet")


def _tax(books: Books) -> Iterator[Condition]:
    """The rates that entries will be reckoned with. Whether they still are the law's, no book says: the
    checklist has a person see to it."""
    rated = [tax for tax in books.tables.taxes if tax.kind is not TaxKind.ZERO and tax.rate]
    if not books.client.tax_registered or not rated:
        return
    rates = ", ".join(f"{float(rate):g}%" for rate in sorted({tax.rate for tax in rated}))
    yield Condition("Tax rates", True, f"Entries are reckoned with {rates} from here on.", "books")


def _thresholds(books: Books, year: FinancialYear) -> Condition:
    words = books.client.currency.format_amount
    limit = f"materiality {words(materiality(books))}"
    if books.client.materiality is None:
        limit += ", not set by a partner"
    says = (
        f"From {format_date(year.last_day + ONE_DAY)}: {limit}; a cost is an asset from "
        f"{words(books.capital_item)}."
    )
    return Condition("Thresholds", True, says, "sign-off")
