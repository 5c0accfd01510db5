"""Books of any content: what must hold for all of them is asked of these."""

from dataclasses import replace
from datetime import date

from hypothesis import strategies as st

from corkpost.core.books import Account, Books, Transaction
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.kinds import TransactionKind as Kind
from tests.builders import (
    ACCOUNTS,
    PARTIES,
    allocated,
    bill,
    books_with,
    direct_payment,
    direct_receipt,
    invoice,
    payment,
    posted,
    receipt,
    with_statement,
)
from tests.core.scenes import FILED_ON, SCENES, Make
from tests.notation import EUR

BAD_DEBT = Account("7000", "bad debt", AccountType.EXPENSE, AccountRole.BAD_DEBT)
SUMS = st.integers(1, 5_000).map(lambda cents: EUR.format(cents * 5))
DAYS = st.dates(date(2025, 1, 1), date(2026, 10, 31)).map(str)
SCENE_DAYS = st.dates(date(2026, 2, 1), date(2026, 7, 31))
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
def any_books(draw: st.DrawFn, /, must: Make | None = None, **facts: object) -> Books:
    """Up to eight transactions, some allocated to each other as far as they go, and up to two scenes
    beside the one that there must be."""
    rows = [posted("Dr fuel 0.05, Cr capital 0.05", "2026-10-31")]
    rows += draw(st.lists(any_transaction(), max_size=8))
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
    makers = draw(st.lists(st.sampled_from(SCENES), max_size=2, unique=True))
    makers = list(dict.fromkeys([*([must] if must else []), *makers]))
    scenes = [make(draw(SUMS), draw(SCENE_DAYS)) for make in makers]
    facts = {"accounts": (*ACCOUNTS, BAD_DEBT), "parties": PARTIES, **facts}
    for scene in scenes:
        rows += scene.rows
        links += scene.allocations
        for name, more in scene.tables.items():
            facts[name] = (*facts.get(name, ()), *more)  # type: ignore[misc]
    books = books_with(*rows, allocations=links, **facts)  # type: ignore[arg-type]
    for scene in scenes:
        arrived = {**books.arrived, **scene.arrived}
        books = replace(books, changes=(*books.changes, *scene.changes), arrived=arrived)
    filed_on = FILED_ON if books.client.filed_through else None
    books = replace(books, client=replace(books.client, filed_on=filed_on))
    lines = [line for scene in scenes for line in scene.lines]
    return with_statement(books, *lines, last="2026-09-30") if lines else books
