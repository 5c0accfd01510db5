"""Entries and statement lines that are the same, and what takes such a group apart (section 5)."""

from corkpost.core.bank.sides import bank_sides
from corkpost.core.books import AgreementRow, Books
from corkpost.core.row_kinds import Posting, RowKind


def _posted(row: AgreementRow, posting: Posting) -> AgreementRow:
    names = posting.names
    transaction = names.get(row.transaction, row.transaction) if row.transaction else None
    return row._replace(group=names.get(row.group, row.group), transaction=transaction)


def _inverse(books: Books, number: int) -> tuple[AgreementRow, ...]:
    """What the change agreed is taken apart, what it took apart is agreed again."""
    rows: list[AgreementRow] = []
    mine = KIND.of_change(books, number)
    for name, account in dict.fromkeys((row.group, row.account) for row in mine):
        members = [row for row in mine if row.group == name and not row.takes_apart]
        if members:
            stands = name in bank_sides(books, account).groups
            rows += [AgreementRow(name, account)] if stands else []
        else:
            again = [row for row in books.tables.agreements if row.group == name]
            rows += [
                row._replace(group=f"new-{name}", change=None)
                for row in again
                if not row.takes_apart
            ]
    return tuple(rows)


KIND = RowKind(
    "agreements",
    6,
    AgreementRow,
    key=lambda row: [row.group, row.account, row.transaction, row.line, row.statement_line],
    planned="agreements",
    posted=_posted,
    laid_over=lambda books, rows: books.with_posted((), (), rows),
    inverse=_inverse,
)
