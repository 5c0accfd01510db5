"""Worked examples 16 to 20 of the handbook, to the letter: what is posted, and that the point is gone."""

from dataclasses import replace

import pytest

from corkpost.core.approval import ApprovalRule, why_held
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Account, PayrollMonth, PostedChange
from corkpost.core.by_hand import picked, routes_for
from corkpost.core.checks import run_checks
from corkpost.core.kinds import AccountRole, AccountType, Entity, Role
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.open_items import open_items
from corkpost.core.points import CheckRun
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import options_for, plan_route
from tests.builders import (
    ACCOUNTS,
    CODES,
    TODAY,
    after,
    allocated,
    bank_line,
    bill,
    books_with,
    day,
    direct_payment,
    payment,
    posted,
    with_statement,
)
from tests.notation import eur, journal, settlements

FEES = Account("6400", "platform fees", AccountType.EXPENSE)
ROOMS = Account("1270", "card clearing", AccountType.ASSET, AccountRole.CARD_CLEARING)


def found(books, check):
    return [point for point in run_checks(CheckRun(books, TODAY)) if point.check == check]


def put_right(books, check, place=0, **settings):
    """The first way (or another) that is offered for the one point, and the books with it."""
    (point,) = found(books, check)
    option = options_for(books, point)[place]
    plan = ready(plan_route(books, point, option.route, {**option.settings, **settings}), books)
    done = after(books, plan)
    assert found(done, check) == []
    return plan, done


# -- 16: cut-off. Bill of 2025-12-20, net 292.85, posted on 2026-01-22


def cut_off(**facts):
    late = bill("CR 109", on="2026-01-22", id="B1", office="292.85", tax="67.36")
    return books_with(late._replace(document_date=day("2025-12-20")), **facts)


def test_in_an_open_year_the_cost_is_accrued_and_mirrored_on_the_next_years_first_day():
    books = cut_off()
    plan, _ = put_right(books, "cut-off")
    assert journal(plan, books) == (
        "2025-12-31: Dr office 292.85, Cr accruals 292.85\n"
        "2026-01-01: Cr office 292.85, Dr accruals 292.85"
    )


def test_in_a_filed_year_within_materiality_nothing_is_posted_and_the_point_says_who_bears_it():
    books = cut_off(filed_through="2025-12-31", materiality="500.00")
    (point,) = found(books, "cut-off")
    first = options_for(books, point)[0]
    assert first.route == "leave"
    assert "within materiality of 500.00: the year that it is posted in bears it" in first.title


@pytest.mark.parametrize(
    ("entity", "entry"),
    [
        (Entity.SOLE_TRADER, "Dr capital 292.85, Cr office 292.85"),
        (Entity.COMPANY, "Dr retained earnings 292.85, Cr office 292.85"),
        (
            Entity.PARTNERSHIP,
            "Dr current account Fennel 175.71, Dr current account Thorn 117.14, Cr office 292.85",
        ),
    ],
)
def test_beyond_materiality_it_leaves_this_years_cost_for_kept_profit(entity, entry):
    books = cut_off(filed_through="2025-12-31", materiality="200.00", entity=entity)
    plan, _ = put_right(books, "cut-off")
    assert journal(plan, books) == f"2026-01-01: {entry}"
    assert [(part.year, part.amount) for part in plan.prior_parts] == [("2025", -eur("292.85"))]
    assert "dated 1 January 2026, the first open day" in plan.notes[0]


def test_a_paper_of_next_year_posted_in_this_one_is_held_over_the_other_way():
    early = bill("CR 110", on="2025-12-28", id="B1", office="80.00")
    prepaid = Account("1400", "prepayments", AccountType.ASSET, AccountRole.PREPAYMENT)
    books = books_with(
        early._replace(document_date=day("2026-01-05")), accounts=(*ACCOUNTS, prepaid)
    )
    plan, _ = put_right(books, "cut-off")
    assert journal(plan, books) == (
        "2025-12-31: Cr office 80.00, Dr prepayments 80.00\n"
        "2026-01-01: Dr office 80.00, Cr prepayments 80.00"
    )


# -- 17: net pay coded to wages


def pay(month):
    return posted(
        "Dr wages 11800.00, Cr net pay owed 4263.00, Cr payroll tax 7537.00",
        on=f"2026-{month:02}-26",
        kind=Kind.PAYROLL,
        id=f"J{month}",
    )


def test_net_pay_leaves_wages_and_the_journal_still_agrees_with_the_bureau():
    rows = [pay(month) for month in (4, 5, 6, 7)]
    rows += [
        posted("Dr net pay owed 4263.00, Cr bank 4263.00", on=f"2026-{month:02}-28")
        for month in (4, 5, 6)
    ]
    rows += [
        posted("Dr payroll tax 7537.00, Cr bank 7537.00", on=f"2026-{month:02}-14")
        for month in (5, 6, 7, 8)
    ]
    wrong = direct_payment("2026-07-28", wages="4263.00", id="P1")
    last = posted("Dr fuel 1.00, Cr bank 1.00", on="2026-10-31")
    bureau = [
        PayrollMonth(
            f"2026-{month:02}", None, eur("11800.00"), 0, eur("4263.00"), eur("7537.00"), 0
        )
        for month in (4, 5, 6, 7)
    ]
    books = books_with(*rows, wrong, last, payroll=tuple(bureau))
    assert found(books, "payroll-disagrees") == []
    plan, done = put_right(books, "payroll-not-cleared")
    assert journal(plan, books) == "2026-07-28: Dr net pay owed 4263.00, Cr wages 4263.00"
    assert found(done, "payroll-disagrees") == []


# -- 18: a payment undone, its bill stays settled


def undone_payment():
    own = bill("A-1", on="2026-01-02", id="B1", office="830.98", tax="191.13")
    paid = payment("2026-01-10", "1022.11", id="P1")
    books = books_with(own, paid, allocations=[allocated(paid, own, "1022.11")])
    return with_statement(books, last="2026-09-30")


def test_the_credit_goes_to_the_bills_cost_and_its_tax_in_proportion():
    books = undone_payment()
    (point,) = found(books, "bank-not-presented")
    titles = [option.title for option in options_for(books, point)]
    assert "stays settled, office and tax is credited" in titles[1]
    plan, done = put_right(books, "bank-not-presented", 1)
    assert journal(plan, books) == "2026-09-30: Dr bank 1022.11, Cr office 830.98, Cr tax 191.13"
    assert not any(open_items(done).open_now.values())


def test_what_the_payment_had_left_on_account_goes_back_to_its_party():
    own = bill("A-1", on="2026-01-02", id="B1", office="100.00", tax="23.00")
    paid = payment("2026-01-10", "150.00", id="P1")
    books = books_with(own, paid, allocations=[allocated(paid, own, "123.00")])
    books = with_statement(books, last="2026-09-30")
    plan, done = put_right(books, "bank-not-presented", 1)
    assert journal(plan, books) == (
        "2026-09-30: Dr bank 150.00, Cr office 100.00, Cr tax 23.00, Cr payables (Reedwharf) 27.00"
    )
    assert not any(open_items(done).open_now.values())


# -- 19: a platform's pay-out


def test_a_fee_that_is_missing_is_one_point_with_its_entry():
    accounts = (*ACCOUNTS, FEES, ROOMS)

    def on_rooms(entry, on, kind):
        codes = {"clearing": ROOMS.code, "office": FEES.code}
        row = posted(entry, on, kind)
        lines = tuple(
            x._replace(
                account=codes.get(next(n for n, c in CODES.items() if c == x.account), x.account)
            )
            for x in row.lines
        )
        return row._replace(lines=lines)

    rows = []
    for month in (3, 4, 5, 6, 7):
        gross, fee, net = (
            ("2852.86", "427.92", "2424.94") if month == 7 else ("1000.00", "150.00", "850.00")
        )
        end = f"2026-{month:02}-28"
        rows.append(on_rooms(f"Dr clearing {gross}, Cr sales {gross}", end, Kind.JOURNAL))
        rows.append(on_rooms(f"Dr bank {net}, Cr clearing {net}", end, Kind.DIRECT_RECEIPT))
        if month != 7:
            rows.append(on_rooms(f"Dr office {fee}, Cr clearing {fee}", end, Kind.JOURNAL))
    last = posted("Dr fuel 1.00, Cr bank 1.00", on="2026-10-31")
    books = books_with(*rows, last, accounts=accounts)
    plan, done = put_right(books, "clearing-balance")
    assert journal(plan, books) == "2026-07-28: Dr platform fees 427.92, Cr card clearing 427.92"
    assert found(done, "takings-short") == found(books, "takings-short") == []


# -- a payment that a statement shows as paid (section 7)


def test_what_the_bank_shows_as_paid_is_reversed_only_against_the_line_that_brings_it_back():
    own = bill("A-1", on="2026-01-02", id="B1", office="400.00")
    paid = payment("2026-01-10", "400.00", id="P1")
    plain = books_with(own, paid, allocations=[allocated(paid, own, "400.00")])
    out = bank_line("2026-01-12", "-400.00", "REEDWHARF")
    books = with_statement(plain, out, last="2026-09-30")
    assert "reverse-payment" not in routes_for(books, paid)
    point = picked(books, "reverse-payment", "P1")
    with pytest.raises(BadEntry, match="A statement shows P1 as paid"):
        plan_route(books, point, "reverse-payment", {})
    books = with_statement(
        plain, out, bank_line("2026-03-02", "400.00", "RETURNED"), last="2026-09-30"
    )
    assert "reverse-payment" in routes_for(books, paid)
    plan = ready(plan_route(books, point, "reverse-payment", {}), books)
    assert journal(plan, books) == "2026-03-02: Cr payables (Reedwharf) 400.00, Dr bank 400.00"
    done = after(books, plan)
    assert found(done, "bank-missing") == []


def test_a_payment_can_not_be_stopped_before_it_was_made():
    books = undone_payment()
    (point,) = found(books, "bank-not-presented")
    with pytest.raises(BadEntry, match="before P1 itself, of 10 January 2026"):
        plan_route(books, point, "reverse-payment", {"date": "2026-01-09"})
    barred = replace(books, calendar=replace(books.calendar, sealed_through=day("2026-09-30")))
    plan = plan_route(barred, point, "reverse-payment", {"date": "2026-08-31"})
    assert plan.notes[0].startswith("dated 1 October 2026, the first open day")


# -- 20: a bill of 246.00 voided on 04-05; newer books bring the client's own credit of 06-02


def credited_too(arrives_as=2, on="2026-06-02", reference="CR RW-0117"):
    first = bill("RW-0117", on="2026-04-03", id="B1", fuel="200.00", tax="46.00")
    second = bill("RW 117", on="2026-04-05", id="B2", fuel="200.00", tax="46.00")
    _, done = put_right(books_with(first, second), "duplicate-document")
    credit = bill(reference, on=on, id="C1", fuel="200.00", tax="46.00")
    opposite = tuple(line._replace(amount=-line.amount) for line in credit.lines)
    credit = credit._replace(kind=Kind.PURCHASE_CREDIT, lines=opposite)
    arrival = PostedChange(arrives_as, "import", "OB", "newer books")
    grown = done.with_posted([credit], [])
    return replace(grown, changes=(*done.changes, arrival), arrived={"C1": arrives_as})


def test_what_the_client_entered_too_stands_and_ours_is_taken_back():
    books = credited_too()
    (point,) = found(books, "entered-too")
    assert (point.certainty, point.amount) == (0.97, eur("246.00"))
    plan, done = put_right(books, "entered-too")
    assert journal(plan, done).splitlines() == [
        "2026-04-05: Dr fuel 200.00, Dr tax 46.00, Cr payables (Reedwharf) 246.00"
    ]
    assert settlements(plan).splitlines() == [
        "2026-04-05: free E1-1 with B2 246.00",
        "2026-06-02: C1 with B2 246.00",
        "2026-04-05: E1-1 with new-1 246.00",
    ]
    # Counted once: one bill's cost stands, and the bill that was entered twice is known as answered.
    assert sum(line.amount for _, line in done.lines_on(CODES["fuel"])) == eur("200.00")
    assert found(done, "duplicate-document") == []
    assert (done.transactions["C1"].corrects, done.is_void("B2")) == ("B2", True)
    assert [left for _, left in open_items(done).open_of("S1")] == [-eur("246.00")]


def test_or_theirs_is_voided_and_ours_stands():
    (point,) = found(credited_too(), "entered-too")
    titles = [option.title for option in options_for(credited_too(), point)]
    assert titles[:2] == [
        "Take E1-1 of ours back; C1 stands in its place",
        "Void C1, of 2 June 2026",
    ]


@pytest.mark.parametrize(
    ("books", "why"),
    [
        (lambda: credited_too(arrives_as=0), "it was there when we posted"),
        (
            lambda: credited_too(on="2026-09-02", reference="77"),
            "far in date, and it quotes nothing",
        ),
        (lambda: replace(credited_too(), arrived={}), "it came with the first books"),
    ],
)
def test_what_is_no_answer_to_ours_is_none(books, why):
    assert found(books(), "entered-too") == [], why


def test_who_writes_drafts_takes_an_entry_back_by_no_way():
    entry = posted("Dr fuel 30.00, Cr accruals 30.00", "2026-04-05", id="E1")._replace(change=1)
    twin = posted("Dr fuel 30.00, Cr accruals 30.00", "2026-04-06", id="C1")
    changes = (PostedChange(1, "entry", "IO", "fuel"), PostedChange(2, "import", "OB", "newer"))
    books = replace(books_with(entry, twin), changes=changes, arrived={"C1": 2})
    (point,) = found(books, "entered-too")
    plan = plan_route(books, point, "theirs-stands", {})
    assert why_held(ApprovalRule(journals=True), Role.PREPARER, plan, books)
    assert why_held(ApprovalRule(), Role.PREPARER, plan, books) is None
