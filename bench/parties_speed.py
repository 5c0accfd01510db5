"""The open items of five thousand parties: what the page waits for. Run by `make bench`."""

import time
from dataclasses import replace
from datetime import date, timedelta

from corkpost.core.books import Allocation, Books, Line, Party, Transaction
from corkpost.core.checks import run_checks
from corkpost.core.kinds import AccountRole, PartyKind, TransactionKind
from corkpost.core.open_items import aged
from corkpost.core.points import CheckRun
from corkpost.core.threads import threads_of
from corkpost.demo.labelled import labelled

PARTIES, EACH = 5_000, 5
AT = date(2026, 10, 31)


def many_parties() -> Books:
    """Every party with five invoices and money for three of them."""
    base = labelled(1).books
    codes = {account.role.value: account.code for account in base.tables.accounts}
    rows, links = [], []
    for number in range(PARTIES):
        party = f"C{number:05d}"
        for place in range(EACH):
            day = date(2026, 1, 5) + timedelta(days=(37 * number + 53 * place) % 290)
            amount = 5_000 + 7 * number + 100 * place
            name = f"I{number}-{place}"
            sold = (Line(1, codes["receivables"], amount, party), Line(2, codes["sales"], -amount))
            rows.append(Transaction(name, TransactionKind.SALES_INVOICE, day, sold, party=party))
            if place < 3:
                came = (
                    Line(1, codes["bank"], amount),
                    Line(2, codes["receivables"], -amount, party),
                )
                paid = f"R{number}-{place}"
                rows.append(
                    Transaction(paid, TransactionKind.CUSTOMER_RECEIPT, day, came, party=party)
                )
                links.append(Allocation(f"A{paid}", day, party, name, paid, amount))
    tables = replace(
        base.tables,
        parties=(
            *(Party(f"C{n:05d}", f"Customer {n}", PartyKind.CUSTOMER) for n in range(PARTIES)),
            *(party for party in base.tables.parties if party.kind is PartyKind.OWNER),
        ),
        transactions=tuple(rows),
        allocations=tuple(links),
    )
    return replace(base, tables=tables)


def main() -> None:
    books = many_parties()
    print(
        f"{PARTIES:,} parties with {len(books.tables.transactions):,} transactions, milliseconds:"
    )
    for what, post_request in (
        ("aged list, first of these books", lambda: aged(books, AccountRole.RECEIVABLES, AT)),
        (
            "aged list, at another day",
            lambda: aged(books, AccountRole.RECEIVABLES, date(2026, 8, 31)),
        ),
        ("threads of one", lambda: threads_of(books, AccountRole.RECEIVABLES, "C04711", AT)),
        ("threads of another", lambda: threads_of(books, AccountRole.RECEIVABLES, "C00815", AT)),
        ("all checks", lambda: run_checks(CheckRun(books, date(2026, 11, 16)))),
    ):
        begun = time.perf_counter()
        found = post_request()
        took = 1000 * (time.perf_counter() - begun)
        print(f"  {took:7.0f}  {what} ({len(found)})")


if __name__ == "__main__":
    main()
