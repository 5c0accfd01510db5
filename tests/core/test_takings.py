"""Takings: worked example 13 of the handbook from the till to the bank, and what goes short."""

import pytest

from corkpost.core.checks import run_checks
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun
from corkpost.core.refusals import BadEntry, MissingAccount, UnknownName
from corkpost.core.routes import options_for, plan_route
from corkpost.core.takings import DayTakings, plan_takings, settled_by_day
from corkpost.core.undo import plan_undo
from tests.builders import (
    CODES,
    TODAY,
    after,
    bank_line,
    books_with,
    day,
    direct_payment,
    posted,
    with_statement,
)
from tests.core.routes.test_bank_routes import difference
from tests.notation import eur, journal

SALES = CODES["sales"]


def takings(on="2026-09-04", cash="412.40", card="1163.85", returns="38.20", **more):
    return DayTakings(day(on), eur(cash), eur(card), eur(returns), **more)


def taken(*days, books=None, tax_code="S23"):
    start = books or books_with(direct_payment("2026-10-30", office="1.00"))
    return start, plan_takings(start, days or (takings(),), SALES, tax_code)


def test_a_day_is_posted_net_of_returns_with_the_tax_on_the_net():
    books, plan = taken()
    assert journal(plan, books) == (
        "2026-09-04: Dr in hand 374.20, Dr card takings 1163.85, Cr sales 1250.45, Cr tax 287.60"
    )
    assert (plan.entries[0].kind, plan.proposed_reason) == (
        "takings",
        "Takings of 4 September 2026",
    )


def test_the_cash_is_banked_and_the_cards_are_paid_out_less_the_fee():
    books, plan = taken()
    books = with_statement(
        after(books, plan),
        bank_line("2026-09-05", "374.20", "LODGEMENT"),
        bank_line("2026-09-07", "1149.88", "CARDPAY SETTLEMENT"),
        first="2026-09-01",
        last="2026-09-30",
    )
    points = [p for p in run_checks(CheckRun(books, TODAY)) if p.check == "bank-missing"]
    entries = []
    for number, point in enumerate(sorted(points, key=lambda p: p.amount), 2):
        first = options_for(books, point)[0]
        plan = plan_route(books, point, first.route, first.settings)
        entries.append(journal(plan, books))
        books = after(books, plan, number)
    assert entries == [
        "2026-09-05: Dr bank 374.20, Cr in hand 374.20",
        "2026-09-07: Dr bank 1149.88, Dr charges 13.97, Cr card takings 1163.85",
    ]
    assert difference(books) == 0
    assert not [
        p for p in run_checks(CheckRun(books, TODAY)) if p.check.startswith(("bank", "takings"))
    ]


@pytest.mark.parametrize(
    ("entry", "tax_code"),
    [
        ("2026-09-04: Dr in hand 412.40, Dr card takings 1125.65, Cr sales 1538.05", None),
        (
            "2026-09-04: Dr in hand 412.40, Dr card takings 1125.65, Cr sales 1250.45, Cr tax 287.60",
            "S23",
        ),
    ],
)
def test_what_is_given_back_on_a_card_lessens_the_cards(entry, tax_code):
    books, plan = taken(takings(returns_on_card=True), tax_code=tax_code)
    assert journal(plan, books) == entry


def test_days_are_posted_in_their_order_and_a_till_s_day_once():
    later, earlier = takings("2026-09-05", reference="Z2"), takings("2026-09-04", reference="Z1")
    books, plan = taken(later, earlier, takings("2026-09-06", "0", "0", "0"))
    assert [entry.reference for entry in plan.entries] == ["Z1", "Z2"]
    assert plan.proposed_reason == "Takings of 4 September 2026 to 5 September 2026"
    with pytest.raises(BadEntry, match="4 September 2026: Z1 was taken in before"):
        taken(earlier, books=after(books, plan))


@pytest.mark.parametrize(
    ("days", "more", "refused"),
    [
        ((takings(cash="-1.00"),), {}, BadEntry),
        ((takings(cash="38.20", card="0"),), {}, BadEntry),
        ((takings(),), {"tax_code": "Z"}, UnknownName),
    ],
)
def test_what_can_not_be_takings_is_refused(days, more, refused):
    with pytest.raises(refused):
        taken(*days, **more)
    with pytest.raises(BadEntry, match="is no income account"):
        plan_takings(books_with(), (takings(),), CODES["bank"], None)


def test_a_day_is_taken_in_once_whether_it_comes_from_the_till_or_is_keyed():
    monday = DayTakings(day("2026-05-01"), eur("120.00"), eur("50.00"))
    books = books_with()
    done = after(books, plan_takings(books, [monday], CODES["sales"], None))
    with pytest.raises(
        BadEntry, match="takings of just these sums are in the books already, as E1-1"
    ):
        plan_takings(done, [monday], CODES["sales"], None)
    with pytest.raises(BadEntry, match="the same sums are here twice"):
        plan_takings(books, [monday, monday], CODES["sales"], None)
    undone = after(done, plan_undo(done, 1), 2)
    assert plan_takings(undone, [monday], CODES["sales"], None).entries


def test_a_chart_that_has_no_place_for_a_tender_is_told():
    accounts = tuple(a for a in books_with().tables.accounts if a.role != "card-clearing")
    with pytest.raises(MissingAccount, match="card takings"):
        plan_takings(books_with(accounts=accounts), (takings(),), SALES, None)


def test_a_day_whose_money_never_came_in_full_is_short():
    books, plan = taken()
    books = with_statement(
        after(books, plan),
        bank_line("2026-09-05", "350.00", "LODGEMENT"),
        first="2026-09-01",
        last="2026-10-31",
    )
    point = next(p for p in run_checks(CheckRun(books, TODAY)) if p.check == "bank-missing")
    plan = plan_route(books, point, "record-missing", {"account": CODES["in hand"]})
    assert plan.entries[0].kind == "banking"
    books = after(books, plan, 2)
    found = [p.summary for p in run_checks(CheckRun(books, TODAY)) if p.check == "takings-short"]
    assert found == [
        "Of 1,163.85 card taken on 4 September 2026, 1,163.85 never reached the bank.",
        "Of 374.20 cash taken on 4 September 2026, 24.20 never reached the bank.",
    ]
    point = next(p for p in run_checks(CheckRun(books, TODAY)) if p.amount == eur("24.20"))
    plan = plan_route(books, point, "reclassify", {"account": CODES["office"]})
    assert journal(plan, books) == "2026-09-04: Cr in hand 24.20, Dr office 24.20"


def test_by_day_it_is_told_what_is_short_over_and_still_to_come():
    early, late = takings("2026-09-04"), takings("2026-11-12", cash="100.00", card="0", returns="0")
    books, plan = taken(early, late)
    books = after(books, plan).with_posted(
        [
            posted("Dr bank 350.00, Cr in hand 350.00", on="2026-09-05", kind=Kind.BANKING),
            posted("Dr bank 1180.00, Cr card takings 1180.00", on="2026-09-06", kind=Kind.TRANSFER),
        ],
        (),
    )
    days, in_full = settled_by_day(books, day("2026-09-01"), day("2026-11-30"), TODAY)
    told = [
        (f"{row.posted.posting_date:%d/%m}", row.tender, row.left, row.over, row.short)
        for row in days
    ]
    assert told == [
        ("04/09", "cash", eur("24.20"), 0, True),
        ("06/09", "card", 0, eur("16.15"), False),
        ("12/11", "cash", eur("100.00"), 0, False),
    ]
    assert in_full == 1
    assert settled_by_day(books, day("2026-10-01"), day("2026-10-31"), TODAY) == ((), 0)
