"""What a posting touches: the transactions of which something may be otherwise than it was."""

from corkpost.core.books import Allocation, Books, Transaction


def touched_since(
    books: Books, transactions: tuple[Transaction, ...], allocations: tuple[Allocation, ...]
) -> set[str] | None:
    """The ids of those whose own words, settlements or standing (put right, taken back) may have changed
    since the books had these rows. None where the books do not go on from them: then all may have."""
    exchanged = books.kept.exchanged(transactions, books.tables.transactions)
    links = books.tables.allocations
    if exchanged is None or links[: len(allocations)] != allocations:
        return None
    found = {new.id for _, new in exchanged}
    for row in links[len(allocations) :]:
        found |= {row.debit_transaction, row.credit_transaction}
    for posted in books.tables.transactions[len(transactions) :]:
        found.add(posted.id)
        for name in (posted.corrects, posted.reverses):
            if name is not None:
                found.add(name)
                # A correction that is taken back leaves what it put right as it was.
                answered = books.transactions.get(name)
                if answered is not None and answered.corrects is not None:
                    found.add(answered.corrects)
    return found
