"""Amendments: numbers and texts put right after posting, what stood before kept (section 7).

They move no figure and are free at any time, in barred spans too. The posted row stays as it was;
the amendment is laid over it whenever the books are read.
"""

from collections.abc import Iterable
from dataclasses import replace
from typing import NamedTuple

from corkpost.core.books import (
    Account,
    AccountAmendment,
    Amendment,
    Books,
    Party,
    Tables,
    Transaction,
)
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.refusals import BadEntry

AMENDABLE = ("reference", "memo", "corrects")
"""The columns of a transaction that move no figure: words, and what it puts right."""

LONGEST = 400


class Amending(NamedTuple):
    """An amendment that is not posted yet. None: nothing there."""

    transaction: str
    field: str
    before: str | None
    after: str | None


class ChartAmending(NamedTuple):
    """A field of an account that is put right, not posted yet. Before and after alike: confirmed."""

    account: str
    field: str
    before: str | None
    after: str | None


CHART_FIELDS = ("name", "type", "role", "owner", "tax_code")
"""The columns of an account that may be put right."""


def amended(
    transactions: tuple[Transaction, ...], amendments: Iterable[Amendment]
) -> tuple[Transaction, ...]:
    """The transactions with the amendments laid over them, in their order.

    One counts where what it says stood before is what stands: books that were given out with their
    amendments come back amended, and are not amended a second time.
    """
    rows = [row for row in amendments if row.field in AMENDABLE]
    wanted = {row.transaction for row in rows}
    if not wanted:
        return transactions
    now = {posted.id: posted for posted in transactions if posted.id in wanted}
    for row in rows:
        posted = now.get(row.transaction)
        if posted is not None and getattr(posted, row.field) == row.before:
            now[row.transaction] = _with(posted, row.field, row.after)
    return tuple(now.get(posted.id, posted) for posted in transactions)


def _with(posted: Transaction, field: str, words: str | None) -> Transaction:
    if field == "corrects":
        return posted._replace(corrects=words)
    return posted._replace(reference=words) if field == "reference" else posted._replace(memo=words)


def as_amended(tables: Tables) -> Tables:
    """The tables with their amendments laid over their transactions and accounts."""
    return replace(
        tables,
        transactions=amended(tables.transactions, tables.amendments),
        accounts=amended_accounts(tables.accounts, tables.account_amendments),
    )


def amended_accounts(
    accounts: tuple[Account, ...], amendments: Iterable[AccountAmendment]
) -> tuple[Account, ...]:
    """The accounts with the amendments laid over them, in their order; by the rule of `amended`."""
    now = {account.code: account for account in accounts}
    for row in amendments:
        account = now.get(row.account)
        if account is not None and getattr(account, row.field) == row.before:
            now[row.account] = with_field(account, row.field, row.after)
    return tuple(now.values())


def with_field(account: Account, field: str, value: str | None) -> Account:
    """The account with another value in one of CHART_FIELDS."""
    if field == "type":
        return account._replace(type=AccountType(value or ""))
    if field == "role":
        return account._replace(role=AccountRole(value or ""))
    if field == "name":
        return account._replace(name=value or "")
    if field == "owner":
        return account._replace(owner=value)
    return account._replace(tax_code=value)


def with_chart(
    books: Books,
    rows: tuple[AccountAmendment, ...],
    accounts: tuple[Account, ...] = (),
    parties: tuple[Party, ...] = (),
) -> Books:
    """These books with more accounts and parties, and accounts put right, as they will stand."""
    if not (rows or accounts or parties):
        return books
    tables = replace(
        books.tables,
        accounts=amended_accounts((*books.tables.accounts, *accounts), rows),
        parties=(*books.tables.parties, *parties),
        account_amendments=books.tables.account_amendments + rows,
    )
    return books.followed_by(tables=tables)


def with_amendments(books: Books, rows: tuple[Amendment, ...]) -> Books:
    """These books with more amendments, as they will stand once those are posted."""
    if not rows:
        return books
    tables = replace(
        books.tables,
        transactions=amended(books.tables.transactions, rows),
        amendments=books.tables.amendments + rows,
    )
    return books.followed_by(tables=tables)


def amendings(posted: Transaction, reference: str | None, memo: str | None) -> tuple[Amending, ...]:
    """What makes of the transaction's reference and text what is wanted; None leaves as it is.

    Blanks at the ends and doubled ones don't count; nothing but blanks takes it away. Raises
    BadEntry for one that is too long.
    """
    found = []
    for field, text in (("reference", reference), ("memo", memo)):
        if text is None:
            continue
        words = " ".join(text.split())
        if len(words) > LONGEST:
            raise BadEntry([f"The {field} has {len(words)} signs: {LONGEST} are the most."])
        if words != (getattr(posted, field) or ""):
            found.append(Amending(posted.id, field, getattr(posted, field), words or None))
    return tuple(found)
