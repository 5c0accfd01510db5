"""What must hold between the tables of a books folder. What is odd but possible is let through:
it is what the review is for."""

from collections import Counter
from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Any

from corkpost.core.books import Books, ClientFacts, Line, Tables, Transaction
from corkpost.core.change import over_allocated
from corkpost.core.open_items import open_items
from corkpost.core.periods import Calendar
from corkpost.formats.books_folder.faults import Faults


@dataclass(frozen=True)
class Places:
    """Where the rows of each table stood: its file, and the line of each row.

    *lines_of*: for each transaction, where its lines stood. *on_transactions*: the transaction that
    each row of lines.csv names. *spoiled*: by table, what rows with a fault begin with.
    """

    files: Mapping[str, str]
    lines: Mapping[str, Sequence[int]]
    lines_of: Callable[[], Mapping[str, Sequence[int]]]
    spoiled: Mapping[str, set[str]]
    on_transactions: Sequence[str]


class _Checker:
    """Notes faults at their places."""

    def __init__(self, tables: Tables, places: Places, faults: Faults) -> None:
        self._tables = tables
        self._places = places
        self._faults = faults

    def wrong(self, table: str, row: int, column: str, what: str) -> None:
        self.at(table, self._places.lines[table][row], column, what)

    def at(self, table: str, line: int, column: str, what: str) -> None:
        self._faults.add(self._places.files[table], line, column, what)

    def spoiled(self, table: str) -> set[str]:
        return self._places.spoiled[table]

    def each_line(self) -> Iterator[tuple[int, Transaction, Line]]:
        """Every line with its place in the file. Slow: only where there is something to tell."""
        places = self._places.lines_of()
        for posted in self._tables.transactions:
            for place, line in zip(places.get(posted.id, ()), posted.lines, strict=False):
                yield place, posted, line

    def repeated(self, table: str, column: str, keys: Iterable[Any]) -> None:
        seen: set[Any] = set()
        for row, key in enumerate(keys):
            if key in seen:
                shown = key if isinstance(key, str) else ", ".join(map(str, key))
                self.wrong(table, row, column, f"{shown!r} is there twice: each may stand once")
            seen.add(key)

    def known(
        self, table: str, column: str, codes: Iterable[str | None], known: Iterable[str], where: str
    ) -> None:
        known = set(known)
        if known.issuperset(set(codes := list(codes)) - {None}):
            return
        for row, code in enumerate(codes):
            if code is not None and code not in known:
                what = f"{code!r} is not in {where}: use one that is there, or add it there"
                self.wrong(table, row, column, what)


def check_tables(
    client: ClientFacts,
    tables: Tables,
    places: Places,
    faults: Faults,
    earlier: Books | None,
) -> None:
    """Note every fault between the tables. *earlier*: books of this client already taken in, whose
    accounts, parties and transactions newer books may speak of."""
    checker = _Checker(tables, places, faults)
    _repeated_ids(checker, tables)
    _codes(checker, tables, earlier)
    _orphan_lines(checker, tables, places)
    _repeated_lines(checker, tables)
    _unbalanced(checker, client, tables)
    if not faults.count:
        _allocations(checker, client, tables, earlier)


def _repeated_ids(checker: _Checker, tables: Tables) -> None:
    checker.repeated("accounts", "code", (row.code for row in tables.accounts))
    checker.repeated("parties", "code", (row.code for row in tables.parties))
    checker.repeated("taxes", "code", (row.code for row in tables.taxes))
    checker.repeated("dimensions", "code", ((r.dimension, r.code) for r in tables.dimensions))
    checker.repeated("transactions", "id", (row.id for row in tables.transactions))
    checker.repeated("allocations", "id", (row.id for row in tables.allocations))
    checker.repeated("bank_accounts", "account", (row.account for row in tables.bank_accounts))
    checker.repeated("statements", "path", ((r.account, r.path) for r in tables.statements))
    checker.repeated("prior_year", "account", ((r.year_end, r.account) for r in tables.prior_year))
    checker.repeated("stock", "item", ((row.date, row.item) for row in tables.stock))
    checker.repeated(
        "payroll", "month", ((row.month, row.employee_group or "") for row in tables.payroll)
    )
    undone = [row.undoes for row in tables.allocations]
    times = Counter(name for name in undone if name)
    for row, name in enumerate(undone):
        if name and times[name] > 1:
            checker.wrong("allocations", row, "undoes", f"{name!r} is undone twice: once is enough")


def _codes(checker: _Checker, tables: Tables, earlier: Books | None) -> None:
    before = earlier.tables if earlier else Tables()
    accounts = {row.code for row in (*before.accounts, *tables.accounts)}
    parties = {row.code for row in (*before.parties, *before.written.parties, *tables.parties)}
    taxes = {row.code for row in (*before.taxes, *tables.taxes)}
    ids = {row.id for row in (*before.transactions, *tables.transactions)}
    allocations = {row.id for row in (*before.allocations, *tables.allocations)}
    accounts |= checker.spoiled("accounts")
    parties |= checker.spoiled("parties")
    taxes |= checker.spoiled("taxes")
    ids |= checker.spoiled("transactions")
    allocations |= checker.spoiled("allocations")

    def in_accounts(table: str, codes: Iterable[str | None]) -> None:
        checker.known(table, "account", codes, accounts, "accounts.csv")

    checker.known("accounts", "owner", (r.owner for r in tables.accounts), parties, "parties.csv")
    checker.known("accounts", "tax_code", (r.tax_code for r in tables.accounts), taxes, "taxes.csv")
    for column in ("reverses", "corrects"):
        named = (getattr(row, column) for row in tables.transactions)
        checker.known("transactions", column, named, ids, "transactions.csv")
    checker.known(
        "transactions", "party", (r.party for r in tables.transactions), parties, "parties.csv"
    )
    rows = tables.allocations
    checker.known("allocations", "party", (r.party for r in rows), parties, "parties.csv")
    for column in ("debit_transaction", "credit_transaction"):
        named = (getattr(row, column) for row in rows)
        checker.known("allocations", column, named, ids, "transactions.csv")
    checker.known("allocations", "undoes", (r.undoes for r in rows), allocations, "allocations.csv")
    in_accounts("bank_accounts", (row.account for row in tables.bank_accounts))
    in_accounts("statements", (row.account for row in tables.statements))
    in_accounts("prior_year", (row.account for row in tables.prior_year))
    in_accounts("agreements", (row.account for row in tables.agreements))
    for table in ("agreements", "amendments", "attachments"):
        named = (row.transaction for row in getattr(tables, table))
        checker.known(table, "transaction", named, ids, "transactions.csv")
    _line_codes(checker, tables, before, (accounts, parties, taxes))


def _line_codes(
    checker: _Checker, tables: Tables, before: Tables, codes: tuple[set[str], ...]
) -> None:
    """Codes on lines, told by set first: 200,000 lines are looked at singly only for a fault."""
    pairs = {f"{row.dimension}={row.code}" for row in (*before.dimensions, *tables.dimensions)}
    accounts, parties, taxes = codes
    used: tuple[set[Any], ...] = (set(), set(), set(), set())
    for posted in tables.transactions:
        for line in posted.lines:
            used[0].add(line.account)
            used[1].add(line.party)
            used[2].add(line.tax_code)
            used[3].add(line.dimensions)
    named = {pair for text in used[3] if text for pair in text.split(";")}
    unknown = (used[0] - accounts, used[1] - parties - {None}, used[2] - taxes - {None})
    columns = (("account", "accounts.csv"), ("party", "parties.csv"), ("tax_code", "taxes.csv"))
    for missing, (column, where) in zip(unknown, columns, strict=True):
        for place, _, line in checker.each_line() if missing else ():
            code = getattr(line, column)
            if code in missing:
                what = f"{code!r} is not in {where}: use one that is there, or add it there"
                checker.at("lines", place, column, what)
    for place, _, line in checker.each_line() if named - pairs else ():
        for pair in (line.dimensions or "").split(";"):
            if pair and pair not in pairs:
                what = f"{pair!r} is not in dimensions.csv: write name=code, joined by semicolons"
                checker.at("lines", place, "dimensions", what)


def _orphan_lines(checker: _Checker, tables: Tables, places: Places) -> None:
    ids = {posted.id for posted in tables.transactions} | checker.spoiled("transactions")
    if ids.issuperset(places.on_transactions):
        return
    for row, name in enumerate(places.on_transactions):
        if name not in ids:
            what = f"{name!r} is no transaction of this folder: a line needs its transaction"
            checker.wrong("lines", row, "transaction", what)


def _repeated_lines(checker: _Checker, tables: Tables) -> None:
    twice = {
        posted.id
        for posted in tables.transactions
        if len({line.number for line in posted.lines}) < len(posted.lines)
    }
    seen: set[tuple[str, int]] = set()
    for place, posted, line in checker.each_line() if twice else ():
        key = (posted.id, line.number)
        if key in seen:
            what = f"line {line.number} of {posted.id!r} is there twice: number them apart"
            checker.at("lines", place, "line", what)
        seen.add(key)


def _unbalanced(checker: _Checker, client: ClientFacts, tables: Tables) -> None:
    spoiled = checker.spoiled("lines")
    for row, posted in enumerate(tables.transactions):
        difference = sum(line.amount for line in posted.lines)
        if difference and posted.id not in spoiled:
            side = "debits" if difference > 0 else "credits"
            what = (
                f"the {side} of {posted.id!r} are greater by {client.currency.format_amount(difference)}: "
                "debits and credits must be equal"
            )
            checker.wrong("transactions", row, "id", what)


def _allocations(
    checker: _Checker, client: ClientFacts, tables: Tables, earlier: Books | None
) -> None:
    """Allocations larger than what is open on either side, once all that is undone is gone."""
    calendar = Calendar(client.year_end, client.years)
    before = earlier.tables if earlier else Tables()
    mine = {posted.id for posted in tables.transactions}
    rows = {row.id for row in tables.allocations}
    both = replace(
        tables,
        accounts=(*tables.accounts, *before.accounts),
        transactions=(
            *(posted for posted in before.transactions if posted.id not in mine),
            *tables.transactions,
        ),
        allocations=(
            *(row for row in before.allocations if row.id not in rows),
            *tables.allocations,
        ),
    )
    books = Books(client, both, calendar)
    over = set(over_allocated(books))
    without_item = _without_item(books)
    undone = {row.undoes for row in tables.allocations}
    for place, row in enumerate(tables.allocations):
        if row.undoes is None and row.id not in undone:
            for column in ("debit_transaction", "credit_transaction"):
                name = getattr(row, column)
                if name in over or row.id in without_item:
                    what = f"more is allocated than is open on {name!r}: lower the amount"
                    checker.wrong("allocations", place, "amount", what)
                    break


def _without_item(books: Books) -> set[str]:
    """The allocations that find nothing on that side of a control account."""
    counted = {settlement.allocation.id for settlement in open_items(books).settlements}
    return {
        row.id for row in books.tables.allocations if row.undoes is None and row.id not in counted
    }
