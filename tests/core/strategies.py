"""Books of any content: what must hold for all of them is asked of these."""

from datetime import date

from hypothesis import strategies as st

from corkpost.core.books import Account, Books, Transaction
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.kinds import TransactionKind as Kind
from tests.builders import (
    ACCOUNTS,
    allocated,
    bill,
    books_with,
    direct_payment,
    direct_receipt,
    invoice,
    payment,
    posted,
    receipt,
)
from tests.notation import EUR

BAD_DEBT = Account("7000", "bad debt", AccountType.EXPENSE, AccountRole.BAD_DEBT)
SUMS = st.integers(1, 5_000).map(lambda cents: EUR.format(cents * 5))
DAYS = st.dates(date(2025, 1, 1), date(2026, 10, 31)).map(str)
SUPPLIERS = st.sampled_from(("Reedwharf", "Kittiwake Signs", "Tern Print Ltd"))
CUSTOMERS = st.sampled_from(("Harbour School", "Averin Scouts"))
REFERENCES = st.sampled_from(("RW-0117", "RW 117", "KS 04790", "KS 4790", "2216", "2261", None))


def any_transaction() -> st.SearchStrategy[Transaction]:
    """One of what small books hold."""
    return st.one_of(
        st.builds(
            lambda reference, on, party, net, tax: bill(
                reference, on=on, party=party, fuel=net, tax=tax
            ),
            REFERENCES, DAYS, SUPPLIERS, SUMS, SUMS,
        ),
        st.builds(
            lambda reference, on, party, net: invoice(reference, on=on, party=party, sales=net),
            REFERENCES, DAYS, CUSTOMERS, SUMS,
        ),
        st.builds(lambda on, party, sum_: payment(on, sum_, party), DAYS, SUPPLIERS, SUMS),
        st.builds(lambda on, party, sum_: receipt(on, sum_, party), DAYS, CUSTOMERS, SUMS),
        st.builds(lambda on, party, sum_: direct_payment(on, party=party, office=sum_),
                  DAYS, SUPPLIERS, SUMS),
        st.builds(lambda on, party, sum_: direct_receipt(on, party=party, sales=sum_),
                  DAYS, CUSTOMERS, SUMS),
        st.builds(lambda on, sum_: posted(f"Dr fuel {sum_}, Cr accruals {sum_}", on), DAYS, SUMS),
        st.builds(
            lambda on, sum_: posted(f"Dr sales {sum_}, Cr capital {sum_}", on, Kind.CLOSING),
            DAYS, SUMS,
        ),
    )  # fmt: skip


@st.composite
def any_books(draw: st.DrawFn, /, **facts: object) -> Books:
    """Up to twelve transactions, some allocated to each other as far as they go."""
    rows = draw(st.lists(any_transaction(), max_size=12))
    links = []
    used: set[str] = set()
    for debit in rows:
        for credit in rows:
            sides = {line.account: line for line in debit.lines if line.party}
            match = next(
                (
                    line
                    for line in credit.lines
                    if line.party
                    and line.account in sides
                    and sides[line.account].party == line.party
                    and sides[line.account].amount > 0 > line.amount
                ),
                None,
            )
            if match and not {debit.id, credit.id} & used and draw(st.booleans()):
                used |= {debit.id, credit.id}
                most = min(sides[match.account].amount, -match.amount)
                links.append(allocated(debit, credit, EUR.format(most)))
    facts = {"accounts": (*ACCOUNTS, BAD_DEBT), **facts}
    return books_with(*rows, allocations=links, **facts)  # type: ignore[arg-type]
