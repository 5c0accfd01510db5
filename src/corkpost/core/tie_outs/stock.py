"""Stock to the count, item by item."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole
from corkpost.core.tie_outs.accounts import balances_of, is_used, parts_of
from corkpost.core.tie_outs.tie_out import Part, TieOut

ORDER = 5


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    accounts = [
        account for account in books.with_role(AccountRole.STOCK) if is_used(books, account, as_at)
    ]
    if not accounts:
        return
    balances = balances_of(books, (account.code for account in accounts), as_at)
    proof = TieOut(
        id="stock",
        kind="stock",
        title="Stock",
        accounts=tuple(balances),
        books=sum(balances.values()),
        outside=None,
        of_books=parts_of(books, balances),
        keyed=True,
    )
    items = [item for item in books.tables.stock if item.date == as_at]
    if not items:
        latest = max((x.date for x in books.tables.stock if x.date < as_at), default=None)
        counted = f" The last count is of {format_date(latest)}." if latest else ""
        yield proof._replace(lacks=f"No count of {format_date(as_at)} is known.{counted}")
        return
    yield proof._replace(
        outside=sum(item.value for item in items),
        of_outside=tuple(
            Part(f"{item.item}, {item.quantity} at {item.unit_cost}", item.value) for item in items
        ),
        evidence=(f"count of {format_date(as_at)}, {len(items)} items",),
    )
