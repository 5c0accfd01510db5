"""Books of any size, for measuring: what a busy client's bookkeeper would have written."""

from datetime import date, timedelta
from random import Random

from corkpost.core.books import Allocation, Books, ClientFacts, Line, Tables, Transaction
from corkpost.core.kinds import Entity, TransactionKind
from corkpost.core.periods import Calendar, FinancialYear
from corkpost.demo.client import EUR, TAXES
from corkpost.demo.labelled import labelled

FIRST = date(2025, 1, 1)
DAYS = 668


def books_of(transactions: int, seed: int = 1) -> Books:
    """About *transactions* transactions, most with four lines, over 22 months.

    Bills and invoices, two in three of them paid and allocated; payments coded straight beside.
    """
    rng = Random(f"size {seed}")
    base = labelled(seed).books
    codes = {account.role.value: account.code for account in base.tables.accounts}
    costs = [a.code for a in base.tables.accounts if a.type == "expense"]
    parties = [party.code for party in base.tables.parties]
    suppliers = [code for code in parties if code.startswith("S")]
    rows: list[Transaction] = []
    links: list[Allocation] = []
    number = 0
    lines: tuple[Line, ...]
    while len(rows) < transactions:
        number += 1
        day = FIRST + timedelta(days=rng.randrange(DAYS))
        party = rng.choice(suppliers)
        net, cost = rng.randrange(1_000, 90_000), rng.choice(costs)
        tax = net * 23 // 100
        gross = net + tax
        bill = Transaction(
            f"B{number:06d}",
            TransactionKind.PURCHASE_BILL,
            day,
            (
                Line(1, cost, net - net // 3, tax_code="S23"),
                Line(2, rng.choice(costs), net // 3, tax_code="S23"),
                Line(3, codes["tax"], tax, tax_code="S23"),
                Line(4, codes["payables"], -gross, party=party),
            ),
            document_date=day,
            reference=f"{party}-{number:05d}",
            party=party,
        )
        rows.append(bill)
        kind = rng.random()
        paid_on = day + timedelta(days=rng.randrange(5, 40))
        if kind < 0.6:
            paid = Transaction(
                f"P{number:06d}",
                TransactionKind.SUPPLIER_PAYMENT,
                paid_on,
                (Line(1, codes["payables"], gross, party=party), Line(2, codes["bank"], -gross)),
                party=party,
                memo=f"payment {party}",
            )
            rows.append(paid)
            links.append(Allocation(f"L{number}", paid_on, party, paid.id, bill.id, gross))
        elif kind < 0.62:
            lines = (Line(1, cost, gross), Line(2, codes["bank"], -gross))
            rows.append(
                Transaction(
                    f"D{number:06d}",
                    TransactionKind.DIRECT_PAYMENT,
                    paid_on,
                    lines,
                    party=party,
                    memo="bank",
                )
            )
        elif kind < 0.9:
            lines = (
                Line(1, codes["bank"], gross),
                Line(2, codes["sales"], -net, tax_code="S23"),
                Line(3, codes["tax"], -tax, tax_code="S23"),
            )
            rows.append(
                Transaction(
                    f"R{number:06d}", TransactionKind.DIRECT_RECEIPT, day, lines, memo="till"
                )
            )
    facts = ClientFacts(
        code=f"BIG{seed}", name="Busy", entity=Entity.COMPANY, currency=EUR, year_end=(12, 31),
        books_from=FIRST, books_to=FIRST + timedelta(days=DAYS + 40),
        years=(FinancialYear("2025", FIRST, date(2025, 12, 31)),),
    )  # fmt: skip
    tables = Tables(
        accounts=base.tables.accounts,
        parties=base.tables.parties,
        taxes=TAXES,
        transactions=tuple(rows),
        allocations=tuple(links),
    )
    return Books(facts, tables, Calendar((12, 31)))
