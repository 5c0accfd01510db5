"""Putting the chart right: names, types, roles, owners and tax codes, as recorded amendments.

The row stays as the client's books gave it; what was put right is laid over it (handbook, section
7, `set-type`). Nothing signed or filed may move by it.
"""

from collections.abc import Iterable, Iterator
from datetime import date
from typing import NamedTuple

from corkpost.core.amendments import CHART_FIELDS, LONGEST, ChartAmending, with_field
from corkpost.core.books import Account, Books
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.chart.fitting import FITTING, fits
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.open_items import open_items
from corkpost.core.refusals import BadEntry, Refusal, UnknownName

ROUTE = "set-account"


class AccountWanted(NamedTuple):
    """What one account is to be. None leaves a field as it is; an empty text takes it away."""

    account: str
    name: str | None = None
    type: str | None = None
    role: str | None = None
    owner: str | None = None
    tax_code: str | None = None


class FixedBySigning(Refusal):
    title = "That type is fixed by what was signed or filed"


def plan_chart(books: Books, wanted: Iterable[AccountWanted]) -> Plan:
    """Put these accounts right, all or none. A role that is given as it stands is thereby confirmed.

    Raises UnknownName, BadEntry with every fault, FixedBySigning, or NothingToDo on posting where
    nothing would change.
    """
    rows: list[ChartAmending] = []
    faults: list[str] = []
    asked = list(wanted)
    for asked_for in asked:
        account = books.account(asked_for.account)
        amendings = list(_amendings(account, asked_for))
        made = account
        for row in amendings:
            try:
                made = with_field(made, row.field, row.after)
            except ValueError:
                raise UnknownName(row.field, row.after or "") from None
        faults += _faults(books, account, made)
        _refuse_fixed(books, account, made)
        rows += amendings
    if faults:
        raise BadEntry(faults)
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE,
        entries=(),
        allocations=(),
        chart=tuple(rows),
        proposed_reason=_reason(books, rows),
        warnings=tuple(_warnings(books, rows)),
    )


def _amendings(account: Account, wanted: AccountWanted) -> Iterator[ChartAmending]:
    for field in CHART_FIELDS:
        value = getattr(wanted, field)
        if value is None:
            continue
        now = getattr(account, field)
        words = " ".join(value.split())
        after = words if field in ("name", "type", "role") else words or None
        if field == "role" or after != now:
            yield ChartAmending(account.code, field, now, after)


def _faults(books: Books, was: Account, made: Account) -> Iterator[str]:
    where = f"{was.code} {was.name}"
    if not made.name or len(made.name) > LONGEST:
        yield f"{where}: give it a name of up to {LONGEST} signs."
    if (made.type, made.role) != (was.type, was.role) and not fits(made.role, made.type):
        types = " or ".join(sorted(FITTING[made.role]))
        yield f"{where}: the role {made.role} goes with the type {types}, not with {made.type}."
    if made.owner and made.owner not in books.parties:
        raise UnknownName("party", made.owner)
    if made.tax_code and made.tax_code not in books.taxes:
        raise UnknownName("tax code", made.tax_code)
    if made.role is was.role:
        return
    if was.is_control and _is_allocated(books, was.code):
        yield (
            f"{where}: its lines are open items of parties, with allocations. It stays a control "
            "account; move what does not belong on it by a reclassifying entry."
        )
    if any(statement.account == was.code for statement in books.statements):
        yield f"{where}: bank statements of it were taken in, so it stays {was.role or 'as it is'}."


def _is_allocated(books: Books, code: str) -> bool:
    items = open_items(books)
    return any(
        items.standing_on(transaction)
        for transaction, account, _ in items.open_now
        if account == code
    )


def _refuse_fixed(books: Books, was: Account, made: Account) -> None:
    if was.is_profit_and_loss == made.is_profit_and_loss:
        return
    days = [posted.posting_date for posted, _ in books.lines_on(was.code)]
    fixed = _fixed_through(books)
    if fixed and days and min(days) <= fixed:
        raise FixedBySigning(
            f"{was.code} {was.name} has postings by {format_date(fixed)}, which is signed off or filed: as "
            f"{made.type} it would move profit there. Reclassify what the open span has on it, by an "
            "entry; or ask a partner to reopen."
        )


def _fixed_through(books: Books) -> date | None:
    calendar = books.calendar
    days = [day for day in (calendar.filed_through, calendar.sealed_through) if day]
    return max(days, default=None)


def _warnings(books: Books, rows: Iterable[ChartAmending]) -> Iterator[str]:
    for row in rows:
        account = books.account(row.account)
        if row.field != "role" or account.is_control:
            continue
        if with_field(account, "role", row.after).is_control:
            bare = sum(line.party is None for _, line in books.lines_on(row.account))
            if bare:
                yield (
                    f"{bare} line{'s' if bare > 1 else ''} on {row.account} {account.name} name no "
                    "party: they will be in the control account and on no party's list."
                )


def _reason(books: Books, rows: list[ChartAmending]) -> str:
    changed = [row for row in rows if row.before != row.after]
    if not changed:
        return f"Roles of {len(rows)} account{'s' if len(rows) != 1 else ''} confirmed."
    if len(changed) == 1:
        (row,) = changed
        name = books.account(row.account).name
        return f"{row.account} {name}: {_said(row.field)} set to {_value(row)}."
    accounts = len({row.account for row in changed})
    many = f"{accounts} account{'s' if accounts > 1 else ''}"
    return f"{many}: given the role that use and name say."


def _said(field: str) -> str:
    return field.replace("_", " ")


def _value(row: ChartAmending) -> str:
    value = row.after or ("ordinary" if row.field == "role" else "none")
    return value.replace("-", " ") if row.field == "role" else value


def plan_account(books: Books, account: Account) -> Plan:
    """Add an account to the chart. Raises BadEntry where its code is taken or something is missing."""
    faults = []
    if account.code in books.accounts:
        there = books.accounts[account.code].name
        faults.append(f"The code {account.code} is taken: {there}. Choose another.")
    if not account.code or len(account.code) > 40 or not account.code.isprintable():
        faults.append("Give a code of up to 40 signs.")
    if account.role is not AccountRole.ORDINARY and not fits(account.role, account.type):
        types = " or ".join(sorted(FITTING[account.role]))
        faults.append(f"The role {account.role} goes with the type {types}, not {account.type}.")
    same = [a for a in books.tables.accounts if a.name.casefold() == account.name.casefold()]
    if same:
        faults.append(f"{same[0].code} has that very name: use it, or give another name.")
    if not account.name or len(account.name) > LONGEST:
        faults.append(f"Give a name of up to {LONGEST} signs.")
    if account.tax_code and account.tax_code not in books.taxes:
        raise UnknownName("tax code", account.tax_code)
    if account.owner and account.owner not in books.parties:
        raise UnknownName("party", account.owner)
    if faults:
        raise BadEntry(faults)
    return Plan(
        kind=ChangeKind.ENTRY,
        route="new-account",
        entries=(),
        allocations=(),
        accounts=(account,),
        proposed_reason=f"Account {account.code} {account.name} added to the chart.",
    )


def account_type(value: str) -> AccountType:
    """Raises UnknownName."""
    try:
        return AccountType(value)
    except ValueError:
        raise UnknownName("type of account", value) from None


def account_role(value: str) -> AccountRole:
    """Raises UnknownName."""
    try:
        return AccountRole(value)
    except ValueError:
        raise UnknownName("role", value) from None
