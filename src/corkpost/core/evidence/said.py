"""What is said of a transaction: by the books, and by the bank where it is agreed with a line."""

from collections.abc import Iterable, Mapping

from corkpost.core.bank.sides import BankSides, bank_sides, own_accounts
from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.who import PartyFinder
from corkpost.core.matching.bank_lines import SAME_MOVEMENT, Proposal
from corkpost.core.matching.bank_look import bank_looks


def statement_words(books: Books) -> Mapping[str, str]:
    """What the bank wrote of each transaction that is agreed with a statement line, or likely will be: one
    entry and one line of a sum that have no other partner are one movement, whoever they name."""
    sides = tuple(bank_sides(books, code) for code in own_accounts(books))
    groups = tuple(side.groups for side in sides)
    offers = tuple((look.sides, look.proposals) for look in bank_looks(books))
    given = (groups, tuple(proposals for _, proposals in offers))
    return books.kept.once(
        "statement words", given, lambda: {**_proposed(offers), **_agreed(sides)}
    )


def _agreed(sides: Iterable[BankSides]) -> Mapping[str, str]:
    return {
        entry.posted.id: group.lines[0].words
        for side in sides
        for group in side.groups.values()
        if len(group.lines) == 1
        for entry in group.entries
    }


def _proposed(offers: Iterable[tuple[BankSides, Iterable[Proposal]]]) -> Mapping[str, str]:
    return {
        proposal.entries[0][0]: side.lines[proposal.lines[0]].words
        for side, proposals in offers
        for proposal in proposals
        if proposal.certainty >= SAME_MOVEMENT and len(proposal.entries) == len(proposal.lines) == 1
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
