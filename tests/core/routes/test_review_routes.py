"""The routes of the review: worked examples 4 and 9 of the handbook for each entity and for open and
filed years, money moved to whom it belongs, pairs set off, what came late brought into this year."""

import json

import pytest

from corkpost.core.amendments import with_chart
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Account
from corkpost.core.kinds import AccountRole, AccountType, Entity
from corkpost.core.money import Minor
from corkpost.core.open_items import aged, open_items
from corkpost.core.owners import NoOwners
from corkpost.core.points import Check, Family
from corkpost.core.refusals import BadEntry, NothingToDo, UnknownName
from corkpost.core.routes import options_for, plan_route
from corkpost.core.trial_balance import trial_balance
from corkpost.core.undo import plan_undo
from tests.builders import (
    ACCOUNTS,
    after,
    allocated,
    bill,
    books_with,
    day,
    direct_payment,
    direct_receipt,
    invoice,
    posted,
    receipt,
)
from tests.notation import eur, journal, settlements

MORE = (
    Account("3500", "owner's loan", AccountType.EQUITY, AccountRole.OWNER_LOAN, "O1"),
    Account("3110", "introduced", AccountType.EQUITY, AccountRole.CAPITAL_INTRODUCED, "O1"),
    Account("7000", "bad debt", AccountType.EXPENSE, AccountRole.BAD_DEBT),
)


def chart(entity):
    """Nobody but a partnership has current accounts, nobody but a company an owner's loan."""
    unfit = {
        Entity.SOLE_TRADER: ("owner-loan", "partner-current"),
        Entity.PARTNERSHIP: ("owner-loan", "drawings", "capital-introduced"),
        Entity.COMPANY: ("drawings", "partner-current", "capital-introduced"),
        Entity.ASSOCIATION: ("drawings", "partner-current", "owner-loan", "capital-introduced"),
    }[entity]
    return tuple(account for account in (*ACCOUNTS, *MORE) if account.role not in unfit)


def books_of(*transactions, entity=Entity.SOLE_TRADER, **more):
    return books_with(*transactions, entity=entity, accounts=chart(entity), **more)


def point(books, route, subjects, *, hints=None, amount: Minor = 1, about=None):
    check = Check("test", family=Family.BY_HAND, routes=(route,))
    return check.point(
        books, subjects=subjects, amount=amount, certainty=1, summary="seen", short="", because=(),
        hints=hints, about=about,
    )  # fmt: skip


def put_right(books, route, subjects, *, hints=None, about=None, **settings):
    made = plan_route(
        books, point(books, route, subjects, hints=hints, about=about), route, settings
    )
    plan = ready(made, books)
    return plan, after(books, plan)


# -- worked example 4: private spending

TOYS = direct_payment("2026-05-02", id="T1", office="81.30", tax="18.70", memo="toy shop")


@pytest.mark.parametrize(
    ("entity", "share", "entry"),
    [
        (Entity.SOLE_TRADER, "100", "Dr drawings 100.00, Cr office 81.30, Cr tax 18.70"),
        (Entity.COMPANY, "100", "Dr owner's loan 100.00, Cr office 81.30, Cr tax 18.70"),
        (
            Entity.PARTNERSHIP,
            "100",
            "Dr current account Thorn 100.00, Cr office 81.30, Cr tax 18.70",
        ),
        (Entity.SOLE_TRADER, "60", "Dr drawings 60.00, Cr office 48.78, Cr tax 11.22"),
    ],
)
def test_private_spending_goes_to_the_account_that_the_entity_names(entity, share, entry):
    books = books_of(TOYS, entity=entity)
    whose = {"account": "3310"} if entity is Entity.PARTNERSHIP else {}
    plan, done = put_right(books, "to-owner", {"owner": ("T1",)}, share=share, **whose)
    assert journal(plan, done) == f"2026-05-02: {entry}"
    back = after(done, plan_undo(done, 1), 2)
    at = day("2026-12-31")
    assert trial_balance(back, at).rows == trial_balance(books, at).rows


def test_of_several_partners_whose_it_is_is_asked_unless_it_names_one():
    books = books_of(TOYS, entity=Entity.PARTNERSHIP)
    with pytest.raises(BadEntry, match="current account Fennel or current account Thorn"):
        put_right(books, "to-owner", {"owner": ("T1",)})


def test_where_all_of_it_is_the_owners_already_nothing_is_left_to_move():
    own = posted("Dr drawings 9.00, Cr bank 9.00", on="2026-05-02", id="T2")
    books = books_of(own)
    with pytest.raises(NothingToDo, match="nothing is left to move"):
        put_right(books, "to-owner", {"owner": ("T2",)})


def test_private_spending_of_a_filed_year_moves_nothing_in_it():
    old = direct_payment("2025-05-02", id="T1", office="81.30", tax="18.70")
    books = books_of(old, filed_through="2025-12-31", materiality="500.00")
    plan, done = put_right(books, "to-owner", {"owner": ("T1",)})
    assert journal(plan, done) == "2026-01-01: Dr drawings 100.00, Cr office 81.30, Cr tax 18.70"
    filed = day("2025-12-31")
    assert trial_balance(done, filed) == trial_balance(books, filed)


def test_a_partner_s_own_account_is_offered_first_and_either_can_be_chosen():
    books = books_of(TOYS, entity=Entity.PARTNERSHIP)
    ways = options_for(books, point(books, "to-owner", {"owner": ("T1",)}, hints={"owner": "O2"}))
    assert [way.settings["account"] for way in ways] == ["3310", "3300"]


def test_a_company_s_payment_may_be_pay_that_stands_owed_and_only_as_much_as_does():
    wages = posted("Dr wages 100.00, Cr net pay owed 100.00", "2026-04-30", id="W1")
    books = books_of(wages, TOYS, entity=Entity.COMPANY)
    ways = options_for(books, point(books, "to-owner", {"owner": ("T1",)}))
    assert [way.settings["account"] for way in ways] == ["3500", "2250"]
    plan, done = put_right(books, "to-owner", {"owner": ("T1",)}, account="2250")
    assert journal(plan, done).startswith("2026-05-02: Dr net pay owed 100.00, Cr office 81.30")
    # A cent less is owed, or it is owed only later: then it is the loan.
    for on, owed in (("2026-04-30", "99.99"), ("2026-05-31", "100.00")):
        less = posted(f"Dr wages {owed}, Cr net pay owed {owed}", on)
        books = books_of(less, TOYS, entity=Entity.COMPANY)
        assert len(options_for(books, point(books, "to-owner", {"owner": ("T1",)}))) == 1
        with pytest.raises(UnknownName):
            put_right(books, "to-owner", {"owner": ("T1",)}, account="2250")


def test_an_association_has_no_owner_to_move_it_to():
    books = books_of(TOYS, entity=Entity.ASSOCIATION)
    assert options_for(books, point(books, "to-owner", {"owner": ("T1",)})) == ()
    with pytest.raises(NoOwners):
        put_right(books, "to-owner", {"owner": ("T1",)})


@pytest.mark.parametrize(
    ("entity", "to"),
    [(Entity.SOLE_TRADER, "introduced"), (Entity.COMPANY, "owner's loan")],
)
def test_an_owner_s_money_leaves_income_with_its_tax(entity, to):
    books = books_of(
        direct_receipt("2026-05-02", id="T1", sales="100.00", tax="23.00"), entity=entity
    )
    plan, done = put_right(books, "to-owner", {"owner": ("T1",)})
    assert journal(plan, done) == f"2026-05-02: Cr {to} 123.00, Dr sales 100.00, Dr tax 23.00"


def test_an_owner_s_money_taken_for_a_customer_s_frees_the_invoice():
    owed, paid = (
        invoice("SK-1", on="2026-05-01", id="I1", sales="100.00"),
        receipt("2026-05-02", "100.00", id="R1"),
    )
    books = books_of(owed, paid, allocations=[allocated(owed, paid, "100.00")])
    plan, done = put_right(books, "to-owner", {"owner": ("R1",)})
    assert journal(plan, done) == (
        "2026-05-02: Cr introduced 100.00, Dr receivables (Harbour School) 100.00"
    )
    assert {k[0]: v for k, v in open_items(done).open_now.items() if v} == {"I1": eur("100.00")}


@pytest.mark.parametrize("share", ["0", "101", "half", "-5"])
def test_a_share_that_is_none_is_refused(share):
    with pytest.raises(BadEntry):
        put_right(books_of(TOYS), "to-owner", {"owner": ("T1",)}, share=share)


def test_what_is_no_owner_s_account_is_refused_and_what_is_done_is_not_done_twice():
    books = books_of(TOYS)
    with pytest.raises(UnknownName):
        put_right(books, "to-owner", {"owner": ("T1",)}, account="6100")
    _, done = put_right(books, "to-owner", {"owner": ("T1",)})
    with pytest.raises(NothingToDo, match="put right already"):
        put_right(done, "to-owner", {"owner": ("T1",)})


# -- money set against the wrong one


def misapplied():
    """The Scouts' money set against the School's invoice; theirs is open."""
    school = invoice("SK-1", on="2026-05-01", id="I1", sales="100.00")
    scouts = invoice("SK-2", "2026-05-04", "Averin Scouts", id="I2", sales="100.00")
    paid = receipt("2026-05-10", "100.00", id="R1")
    return (school, scouts, paid), [allocated(school, paid, "100.00")]


def test_a_receipt_moves_to_the_customer_whose_it_is_and_no_account_moves():
    rows, allocations = misapplied()
    books = books_of(*rows, allocations=allocations)
    plan, done = put_right(books, "move-allocation", {"money": ("R1",), "item": ("I2",)})
    assert journal(plan, done) == (
        "2026-05-10: Dr receivables (Harbour School) 100.00, Cr receivables (Averin Scouts) 100.00"
    )
    assert {k[0]: v for k, v in open_items(done).open_now.items() if v} == {"I1": eur("100.00")}
    at = day("2026-12-31")
    assert trial_balance(done, at).rows == trial_balance(books, at).rows
    back = after(done, plan_undo(done, 1), 2)
    assert aged(back, AccountRole.RECEIVABLES, at) == aged(books, AccountRole.RECEIVABLES, at)


def test_in_a_filed_year_it_moves_on_the_first_open_day_and_the_old_list_still_proves():
    rows, allocations = misapplied()
    books = books_of(*rows, allocations=allocations, sealed_through="2026-05-31")
    plan, done = put_right(books, "move-allocation", {"money": ("R1",), "item": ("I2",)})
    assert plan.entries[0].posting_date == day("2026-06-01")
    assert plan.notes == ("dated 1 June 2026, the first open day after both",)
    at = day("2026-05-31")
    assert aged(done, AccountRole.RECEIVABLES, at) == aged(books, AccountRole.RECEIVABLES, at)


def test_within_one_party_it_is_set_against_the_right_item_without_an_entry():
    one = invoice("SK-1", on="2026-05-01", id="I1", sales="100.00")
    two = invoice("SK-2", on="2026-05-12", id="I2", sales="100.00")
    paid = receipt("2026-05-10", "100.00", id="R1", memo="SK-2")
    books = books_of(one, two, paid, allocations=[allocated(one, paid, "100.00")])
    plan, done = put_right(books, "move-allocation", {"money": ("R1",), "item": ("I2",)})
    assert plan.entries == ()
    assert settlements(plan) == (
        "2026-05-10: free I1 with R1 100.00\n2026-05-12: I2 with R1 100.00"
    )
    assert plan.notes == ("dated 12 May 2026, the later of the two",)
    assert {k[0]: v for k, v in open_items(done).open_now.items() if v} == {"I1": eur("100.00")}


def test_money_can_not_be_set_against_money():
    books = books_of(
        receipt("2026-05-10", "100.00", id="R1"), receipt("2026-05-11", "1.00", id="R2")
    )
    with pytest.raises(NothingToDo, match="same side"):
        put_right(books, "move-allocation", {"money": ("R1",), "item": ("R2",)})
    with pytest.raises(UnknownName):
        put_right(books, "move-allocation", {"money": ("R1",)}, items="R9")


# -- pairs and both sides


def test_a_journal_and_its_reversal_settle_each_other():
    one = posted("Dr receivables (Harbour School) 50.00, Cr sales 50.00", on="2026-05-01", id="J1")
    two = posted("Cr receivables (Harbour School) 50.00, Dr sales 50.00", on="2026-05-09", id="J2")
    books = books_of(one, two)
    plan, done = put_right(books, "offset", {"pair": ("J1", "J2")})
    assert settlements(plan) == "2026-05-09: J1 with J2 50.00"
    assert not any(open_items(done).open_now.values())
    with pytest.raises(NothingToDo):
        put_right(done, "offset", {"pair": ("J1", "J2")})


def test_a_customer_who_is_a_supplier_too_is_set_off_for_the_smaller_balance():
    owed = invoice("SK-1", "2026-05-01", "Reedwharf", id="I1", sales="300.00")
    owing = [
        bill("RW-1", on="2026-05-02", id="B1", fuel="60.00"),
        bill("RW-2", on="2026-05-03", id="B2", fuel="40.00"),
    ]
    books = books_of(owed, *owing)
    plan, done = put_right(books, "offset", {}, about={"party": ("S1",)})
    assert journal(plan, done) == (
        "2026-05-03: Dr payables (Reedwharf) 100.00, Cr receivables (Reedwharf) 100.00"
    )
    assert {k[0]: v for k, v in open_items(done).open_now.items() if v} == {"I1": eur("200.00")}


# -- worked example 9: a bad debt


@pytest.mark.parametrize(
    ("relief", "entry"),
    [
        ("yes", "Dr bad debt 1000.00, Dr tax 230.00, Cr receivables (Harbour School) 1230.00"),
        ("no", "Dr bad debt 1230.00, Cr receivables (Harbour School) 1230.00"),
    ],
)
def test_a_debt_is_written_off_with_and_without_relief(relief, entry):
    owed = invoice("SK-1", on="2026-01-05", id="I1", sales="1000.00", tax="230.00")
    books = books_of(owed)
    plan, done = put_right(
        books, "write-off", {"invoice": ("I1",)}, hints={"date": "2026-11-16"}, relief=relief
    )
    assert journal(plan, done) == f"2026-11-16: {entry}"
    assert aged(done, AccountRole.RECEIVABLES, day("2026-11-16")) == ()
    assert aged(done, AccountRole.RECEIVABLES, day("2026-11-15")) != ()


def test_what_is_left_of_a_part_paid_invoice_bears_its_part_of_the_tax():
    owed = invoice("SK-1", on="2026-01-05", id="I1", sales="1000.00", tax="230.00")
    paid = receipt("2026-02-01", "615.00", id="R1")
    books = books_of(owed, paid, allocations=[allocated(owed, paid, "615.00")])
    plan, _ = put_right(books, "write-off", {"invoice": ("I1",)}, date="2026-11-16")
    assert journal(plan, books) == (
        "2026-11-16: Dr bad debt 500.00, Dr tax 115.00, Cr receivables (Harbour School) 615.00"
    )


def test_a_write_off_needs_a_day_an_account_and_something_open():
    owed = invoice("SK-1", on="2026-01-05", id="I1", sales="10.00")
    with pytest.raises(BadEntry, match="on which day"):
        put_right(books_of(owed), "write-off", {"invoice": ("I1",)})
    with pytest.raises(BadEntry, match="Choose the account"):
        put_right(books_with(owed), "write-off", {"invoice": ("I1",)}, date="2026-11-16")
    paid = receipt("2026-02-01", "10.00", id="R1")
    books = books_of(owed, paid, allocations=[allocated(owed, paid, "10.00")])
    with pytest.raises(NothingToDo):
        put_right(books, "write-off", {"invoice": ("I1",)}, date="2026-11-16")


# -- entries that a check worked out, types, what came late


def test_an_adjusting_entry_is_filled_in_and_asks_for_what_is_left_open():
    books = books_of(TOYS)
    hints = {
        "lines": json.dumps([["5310", 41_000, None], ["", -41_000, None]]),
        "date": "2026-10-31",
        "reverse_on": "2026-11-01",
        "reason": "electricity to 31 October",
    }
    with pytest.raises(BadEntry, match="Choose the account"):
        put_right(books, "adjust", {"owner": ("T1",)}, hints=hints)
    plan, _ = put_right(books, "adjust", {"owner": ("T1",)}, hints=hints, account="2210")
    assert journal(plan, books) == (
        "2026-10-31: Dr electricity 410.00, Cr accruals 410.00\n"
        "2026-11-01: Cr electricity 410.00, Dr accruals 410.00"
    )
    assert [entry.entry_kind for entry in plan.entries] == ["adjusting", "reversing"]


def test_a_type_is_set_by_the_route_and_kept_as_an_amendment():
    books = books_of(TOYS)
    plan, done = put_right(
        books, "set-type", {}, about={"account": ("6100",)}, hints={"type": "asset"}
    )
    assert (plan.route, done.accounts["6100"].type) == ("set-type", AccountType.ASSET)
    assert with_chart(books, ()).accounts["6100"].type is AccountType.EXPENSE


def test_what_came_late_into_a_filed_year_counts_in_this_one():
    late = posted("Dr fuel 90.00, Cr bank 90.00", on="2025-11-03", id="L1")
    books = books_of(late, filed_through="2025-12-31")
    plan, done = put_right(books, "to-this-year", {"late": ("L1",)})
    assert journal(plan, done) == "2026-01-01: Dr fuel 90.00, Cr capital 90.00"
    filed = day("2025-12-31")
    assert trial_balance(done, filed) == trial_balance(books, filed)


def test_a_transfer_that_came_late_has_no_profit_part():
    late = posted("Dr savings 90.00, Cr bank 90.00", on="2025-11-03", id="L1")
    with pytest.raises(NothingToDo, match="no profit part"):
        put_right(books_of(late, filed_through="2025-12-31"), "to-this-year", {"late": ("L1",)})
