"""Each list of a client's books, with every correction: to be saved apart as CSV or as a workbook."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books, Transaction
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole
from corkpost.core.open_items import aged
from corkpost.core.refusals import UnknownName
from corkpost.core.trial_balance import trial_balance
from corkpost.formats.pack import Cell, Column, Pack, Part, as_csv
from corkpost.pack.pack_xlsx import pack_xlsx
from corkpost.services import staff
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace


def lists_of(books: Books) -> tuple[Part, ...]:
    """The lists of a client's books, with all corrections: ledger, trial balances at each year's end and
    now, open items, accounts, customers and suppliers."""
    return (
        _ledger(books),
        *(_balances(books, day) for day in _days(books)),
        _items(books, AccountRole.RECEIVABLES, "customers", "Open items of customers"),
        _items(books, AccountRole.PAYABLES, "suppliers", "Open items of suppliers"),
        _accounts(books),
        _parties(books),
    )


def pack_of(workplace: Workplace, books: Books) -> Pack:
    """All the lists, as at the last day that the books have."""
    client = books.client
    return Pack(
        client.code,
        client.name,
        client.currency,
        _last(books),
        staff.practice(workplace).name,
        workplace.now.isoformat(),
        (),
        None,
        lists_of(books),
    )


def list_csv(workplace: Workplace, person: Person, client_code: str, name: str) -> bytes:
    """One list. Raises UnknownName."""
    pack, part = _part(workplace, person, client_code, name)
    return as_csv(part, pack.currency)


def list_xlsx(workplace: Workplace, person: Person, client_code: str, name: str) -> bytes:
    """One list as a workbook. Raises UnknownName."""
    pack, part = _part(workplace, person, client_code, name)
    return pack_xlsx(pack._replace(parts=(part,)))


def all_xlsx(workplace: Workplace, person: Person, client_code: str) -> bytes:
    """Every list, a sheet each, in one workbook. Raises UnknownName."""
    return pack_xlsx(pack_of(workplace, workplace.ledger(person, client_code).books))


def _part(workplace: Workplace, person: Person, client_code: str, name: str) -> tuple[Pack, Part]:
    pack = pack_of(workplace, workplace.ledger(person, client_code).books)
    for part in pack.parts:
        if part.name == name:
            return pack, part
    raise UnknownName("list", name)


def _last(books: Books) -> date:
    days = [row.posting_date for row in books.tables.transactions]
    return max([*days, books.client.books_to or date.min])


def _days(books: Books) -> Iterator[date]:
    last = _last(books)
    first = min((row.posting_date for row in books.tables.transactions), default=last)
    year = books.calendar.year_of(first)
    while year.last_day < last:
        yield year.last_day
        year = books.calendar.next_year(year)
    yield last


def _figure(name: str) -> Column:
    return Column(name, figure=True)


def _sides(amount: int) -> tuple[Cell, Cell]:
    return (amount, None) if amount > 0 else (None, -amount)


def _ledger(books: Books) -> Part:
    rows = [
        cells
        for posted in sorted(books.tables.transactions, key=lambda row: (row.posting_date, row.id))
        for cells in _lines(books, posted)
    ]
    names = (
        "Entry no", "Date", "Document date", "Due date", "Journal", "Kind", "Account", "Account name",
        "Contact", "Customer/supplier name", "Document no", "Description", "Tax code", "Keyed by",
    )  # fmt: skip
    columns = (*map(Column, names), _figure("Debit"), _figure("Credit"))
    return Part("ledger", "Ledger", columns, tuple(rows))


def _lines(books: Books, posted: Transaction) -> Iterator[tuple[Cell, ...]]:
    for line in posted.lines:
        party = books.parties.get(line.party or "")
        yield (
            posted.id,
            posted.posting_date.isoformat(),
            posted.document_date.isoformat() if posted.document_date else "",
            posted.due_date.isoformat() if posted.due_date else "",
            posted.source or "",
            posted.kind.value,
            line.account,
            books.accounts[line.account].name,
            line.party or "",
            party.name if party else "",
            posted.reference or "",
            line.description or posted.memo or posted.reason or "",
            line.tax_code or "",
            posted.entered_by or "",
            *_sides(line.amount),
        )


def _balances(books: Books, day: date) -> Part:
    rows = [
        (row.account, row.name, row.type.value, *_sides(row.balance))
        for row in trial_balance(books, day).rows
    ]
    columns = (
        *map(Column, ("Account", "Account name", "Account type")),
        _figure("Debit"),
        _figure("Credit"),
    )
    name, title = f"trial-balance-{day.isoformat()}", f"Trial balance {format_date(day)}"
    return Part(name, title, columns, tuple(rows))


def _items(books: Books, role: AccountRole, name: str, title: str) -> Part:
    rows = [
        (
            owed.party or "",
            party.name if (party := books.parties.get(owed.party or "")) else "",
            item.transaction,
            item.reference or "",
            item.posting_date.isoformat(),
            item.due_date.isoformat(),
            item.open,
        )
        for owed in aged(books, role, _last(books))
        for item in owed.items
    ]
    names = ("Contact", "Customer/supplier name", "Entry no", "Document no", "Date", "Due date")
    return Part(
        f"open-items-{name}", title, (*map(Column, names), _figure("Outstanding")), tuple(rows)
    )


def _accounts(books: Books) -> Part:
    rows = [(row.code, row.name, row.type.value, row.role.value) for row in books.accounts.values()]
    columns = tuple(map(Column, ("Account", "Account name", "Account type", "Role")))
    return Part("accounts", "Accounts", columns, tuple(rows))


def _parties(books: Books) -> Part:
    rows = [(row.code, row.name, row.kind.value) for row in books.parties.values()]
    columns = tuple(map(Column, ("Contact", "Customer/supplier name", "Kind")))
    return Part("parties", "Customers and suppliers", columns, tuple(rows))
