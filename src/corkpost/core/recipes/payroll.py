"""A month's pay from the bureau's summary (handbook, section 8; worked example 10)."""

from collections.abc import Iterator
from typing import NamedTuple

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.books import Books, PayrollMonth
from corkpost.core.entries import EntryLine
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor
from corkpost.core.owners import chosen_owner_account
from corkpost.core.payroll import payroll_months
from corkpost.core.periods import month_end
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry


class Pay(NamedTuple):
    """The sums of a month, all positive."""

    gross: Minor
    employer_contributions: Minor
    net_pay: Minor
    income_tax: Minor
    employee_contributions: Minor
    other_deductions: Minor


def _make(books: Books, told: Told) -> Made:
    month, director = told.text("month"), told.text("director") == "yes"
    pay = _told(books, told, month)
    words = books.client.currency.format_amount
    apart = pay.gross - sum((pay.net_pay, *pay[3:]))
    if apart:
        raise BadEntry(
            [
                f"The columns do not add up: gross {words(pay.gross)} less net pay and deductions leaves "
                f"{words(apart)}{' too little' if apart < 0 else ''} without a name."
            ]
        )
    year, number = map(int, month.split("-"))
    on = told.maybe_day("date") or month_end(year, number, 31)
    group = told.text("group")
    whose = f" of {group}" if group else ""
    reason = f"Payroll{whose}, {month_end(year, number, 1):%B %Y}, by the bureau's summary."
    total = pay.gross + pay.employer_contributions
    working = (
        f"gross {words(pay.gross)} and employer's contributions "
        f"{words(pay.employer_contributions)} make {words(total)} on each side",
    )
    lines = tuple(_lines(books, told, pay, director=director))
    warnings = tuple(_stands_already(books, lines[0], month))
    return Made((adjusting(on, reason, *lines),), reason, working, warnings=warnings)


def _stands_already(books: Books, cost: EntryLine, month: str) -> Iterator[str]:
    """The month's pay that the books have: posted twice it would count twice."""
    for posted, line in books.lines_on(cost.account):
        same = f"{posted.posting_date:%Y-%m}" == month and line.amount == cost.amount
        if same and posted.id not in books.never_was:
            words = books.client.currency.format_amount(cost.amount)
            yield f"{posted.id} of that month has {words} of pay already. Is this meant to stand twice?"
            return


def _told(books: Books, told: Told, month: str) -> Pay:
    """What was keyed, else what the client's table has of the month and group."""
    rows = list(_of_group(books, told, month))
    keyed = {name: told.maybe_amount(name) for name in Pay._fields}
    if not rows and keyed["gross"] is None:
        raise BadEntry([f"month: no summary of {month} is known: key its sums, or take it in."])
    return Pay(*(_sum(rows, name) if keyed[name] is None else keyed[name] for name in Pay._fields))  # type: ignore[arg-type]


def _of_group(books: Books, told: Told, month: str) -> Iterator[PayrollMonth]:
    """The month's rows of the group that was told; else a director's apart from the others', where the
    bureau tells them apart."""
    group, director = told.text("group").casefold(), told.text("director") == "yes"
    rows = [row for row in payroll_months(books) if row.month == month]
    apart = any("director" in (row.employee_group or "").casefold() for row in rows)
    for row in rows:
        own = (row.employee_group or "").casefold()
        if (own == group) if group else (not apart or ("director" in own) is director):
            yield row


def _sum(rows: list[PayrollMonth], name: str) -> Minor:
    return sum(getattr(row, name) or 0 for row in rows)


def _lines(books: Books, told: Told, pay: Pay, *, director: bool) -> Iterator[EntryLine]:
    yield EntryLine(_cost(books, told, director=director), pay.gross)
    if pay.employer_contributions:
        yield EntryLine(_only(books, told, "contributions"), pay.employer_contributions)
    yield EntryLine(_net(books, told, director=director), -pay.net_pay)
    owed = _owed(books, told)
    yield EntryLine(owed[0], -pay.income_tax, description="income tax")
    yield EntryLine(
        owed[-1],
        -(pay.employer_contributions + pay.employee_contributions),
        description="contributions",
    )
    yield EntryLine(
        told.maybe_code("deductions") or owed[-1],
        -pay.other_deductions,
        description="other deductions",
    )


def _cost(books: Books, told: Told, *, director: bool) -> str:
    named = told.maybe_code("account")
    if named:
        return named
    roles = (AccountRole.DIRECTOR_PAY, AccountRole.WAGES) if director else (AccountRole.WAGES,)
    found = [account for role in roles for account in books.with_role(role)]
    if not found:
        raise BadEntry(["account: say which cost the pay is."])
    return found[0].code


def _net(books: Books, told: Told, *, director: bool) -> str:
    named = told.maybe_code("net")
    if named:
        return named
    if director:
        return chosen_owner_account(books, None, comes_in=True, owner=told.maybe_code("owner")).code
    found = books.with_role(AccountRole.PAYROLL_NET)
    if not found:
        raise BadEntry(["net: no account has the role payroll-net: say where net pay is owed."])
    return found[0].code


def _owed(books: Books, told: Told) -> tuple[str, ...]:
    """The account of withheld tax and that of contributions: one, or two, as the client has it."""
    accounts = [account.code for account in books.with_role(AccountRole.PAYROLL_TAX)]
    tax = told.maybe_code("tax_account") or (accounts[0] if accounts else None)
    if tax is None:
        raise BadEntry(["tax_account: no account has the role payroll-tax: say where it is owed."])
    other = told.maybe_code("contributions_account")
    return (tax, other or (accounts[1] if len(accounts) > 1 else tax))


def _only(books: Books, told: Told, name: str) -> str:
    found = books.with_role(AccountRole.EMPLOYER_CONTRIBUTIONS)
    code = told.maybe_code(name) or (found[0].code if found else None)
    if code is None:
        raise BadEntry([f"{name}: say which cost the employer's contributions are."])
    return code


RECIPE = Recipe(
    "payroll",
    7,
    "Payroll",
    "A month's pay by the bureau's summary. A director's is apart: the net goes to the owner's account.",
    (
        Ask("month", AskKind.MONTH, "Month", needed=True),
        Ask("date", AskKind.DAY, "On the day: the month's last unless told"),
        Ask("group", AskKind.TEXT, "Group of employees"),
        Ask("gross", AskKind.AMOUNT, "Gross pay: by the client's table unless told"),
        Ask("employer_contributions", AskKind.AMOUNT, "Employer's contributions"),
        Ask("net_pay", AskKind.AMOUNT, "Net pay"),
        Ask("income_tax", AskKind.AMOUNT, "Income tax withheld"),
        Ask("employee_contributions", AskKind.AMOUNT, "Employees' contributions"),
        Ask("other_deductions", AskKind.AMOUNT, "Other deductions"),
        Ask(
            "director",
            AskKind.CHOICE,
            "A director's pay",
            "no",
            (Choice("no", "no"), Choice("yes", "yes, and the net is not paid out")),
        ),
        Ask("owner", AskKind.PARTY, "Which director"),
        Ask("account", AskKind.ACCOUNT, "Cost of the pay"),
        Ask("contributions", AskKind.ACCOUNT, "Cost of employer's contributions"),
        Ask("net", AskKind.ACCOUNT, "Net pay is owed on"),
        Ask("tax_account", AskKind.ACCOUNT, "Withheld tax is owed on"),
        Ask("contributions_account", AskKind.ACCOUNT, "Contributions are owed on"),
        Ask("deductions", AskKind.ACCOUNT, "Other deductions are owed on"),
    ),
    _make,
)
