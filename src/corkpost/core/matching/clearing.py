"""What is left on an account that things pass through, once what makes nil is set aside."""

from datetime import date

from corkpost.core.books import Books, Transaction
from corkpost.core.evidence.sums import MOST_CANDIDATES, exact_sets
from corkpost.core.money import Minor
from corkpost.core.periods import LAST_DAY


def left_after_pairing(
    books: Books, account: str, as_at: date = LAST_DAY
) -> list[tuple[Transaction, Minor]]:
    """The transactions on the account by *as_at* that no others make nil: one by one first, then exact
    sets."""
    sums: dict[str, Minor] = {}
    for posted, line in books.lines_on(account):
        if posted.posting_date > as_at:
            continue
        sums[posted.id] = sums.get(posted.id, 0) + line.amount
    rows = [(books.transactions[name], amount) for name, amount in sums.items() if amount]
    rows.sort(key=lambda row: (row[0].posting_date, row[0].id))
    left = list(rows)
    for row in rows:
        if row in left:
            pair = next((other for other in left if other[1] == -row[1]), None)
            if pair:
                left.remove(row)
                left.remove(pair)
    for row in list(left):
        if row not in left:
            continue
        sign = 1 if row[1] > 0 else -1
        field = [other for other in left if other[1] * sign < 0][:MOST_CANDIDATES]
        sets = exact_sets([abs(other[1]) for other in field], abs(row[1]), most=1).sets
        if sets:
            for gone in (row, *(field[place] for place in sets[0])):
                left.remove(gone)
    return left
