"""Receivables and payables to what parties hold, document by document (section 4)."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books
from corkpost.core.control_proof import control_proof
from corkpost.core.kinds import AccountRole
from corkpost.core.open_items import open_items
from corkpost.core.tie_outs.accounts import balances_of, is_used, parts_of
from corkpost.core.tie_outs.tie_out import Part, TieOut

ORDER = 3
TITLES = {
    AccountRole.RECEIVABLES: "What customers owe",
    AccountRole.PAYABLES: "What is owed to suppliers",
}


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    for role, title in TITLES.items():
        accounts = [own for own in books.with_role(role) if is_used(books, own, as_at)]
        if not accounts:
            continue
        codes = [account.code for account in accounts]
        proof = control_proof(books, codes, as_at)
        held: dict[str, int] = {}
        for item, left in open_items(books).open_at(as_at):
            if item.account in codes and item.party is not None:
                held[item.party] = held.get(item.party, 0) + left
        yield TieOut(
            id=role.value,
            kind="control",
            title=title,
            accounts=tuple(codes),
            books=proof.control,
            outside=proof.held,
            of_books=parts_of(books, balances_of(books, codes, as_at)),
            of_outside=tuple(
                Part(books.party_name(party), left, party=party)
                for party, left in sorted(held.items())
                if left
            ),
            causes=proof.causes,
            evidence=("open items, party by party",),
        )
