"""What is said of a transaction: by the books, and by the bank where it is agreed with a line."""

from collections.abc import Iterable, Mapping

from corkpost.core.bank.sides import BankSides, bank_sides, own_accounts
from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.who import PartyFinder


def statement_words(books: Books) -> Mapping[str, str]:
    """What the bank wrote of each transaction that is agreed with a statement line."""
    sides = tuple(bank_sides(books, code) for code in own_accounts(books))
    groups = tuple(side.groups for side in sides)
    return books.kept.once("statement words", groups, lambda: _statement_words(sides))


def _statement_words(sides: Iterable[BankSides]) -> Mapping[str, str]:
    return {
        entry.posted.id: group.lines[0].words
        for side in sides
        for group in side.groups.values()
        if len(group.lines) == 1
        for entry in group.entries
    }


def said_of(books: Books, posted: Transaction) -> str:
    """All that the books and the bank say of it."""
    words = (posted.memo, statement_words(books).get(posted.id))
    return " ".join(word for word in words if word)


def told_by(books: Books, posted: Transaction) -> str:
    """What tells it from others and stays the same from month to month: the bank's own words, where there
    are any; a bookkeeper's vary."""
    return statement_words(books).get(posted.id) or posted.memo or ""


def payee(books: Books, finder: PartyFinder, posted: Transaction) -> str | None:
    """Whose it is: its own party, else the one that its memo names, else the one that the bank names."""
    return finder.payee(posted) or finder.named_in(statement_words(books).get(posted.id))
