"""The checks of parties and owners: what each sees, and the look-alikes on which it keeps quiet."""

import pytest

from corkpost.core.books import Account, Party
from corkpost.core.checks import run_checks
from corkpost.core.evidence.private_words import left_as_business
from corkpost.core.kinds import AccountRole, AccountType, Entity, PartyKind
from corkpost.core.points import CheckRun
from corkpost.core.routes import options_for
from tests.builders import (
    ACCOUNTS,
    PARTIES,
    TODAY,
    allocated,
    books_with,
    direct_payment,
    direct_receipt,
    invoice,
    posted,
    receipt,
)
from tests.core.routes.test_review_routes import books_of
from tests.notation import eur


def found(books, check):
    return [point for point in run_checks(CheckRun(books, TODAY)) if point.check == check]


def seen(books, check):
    """What the check's points are about, and how certain they are."""
    return [(tuple(name for _, name in p.subjects), p.level.value) for p in found(books, check)]


# -- set against the wrong party


def scouts_money(memo, *, amount="100.00", against="100.00", alias=()):
    """The School's invoice settled by money whose text says otherwise; the Scouts' own is open."""
    school = invoice("SK-101", on="2026-05-01", id="I1", sales=against)
    scouts = invoice("SK-202", "2026-05-04", "Averin Scouts", id="I2", sales="100.00")
    paid = receipt("2026-05-10", amount, id="R1", memo=memo)
    parties = [p._replace(aliases=alias) if p.code == "C1" else p for p in PARTIES]
    settled = min(amount, against, key=eur)
    return books_with(
        school, scouts, paid, allocations=[allocated(school, paid, settled)], parties=tuple(parties)
    )


@pytest.mark.parametrize(
    ("memo", "level"),
    [
        ("AVERIN SCOUTS", "sure"),
        ("transfer SK-202", "sure"),
        ("AVERIN SCOUTS FOR HARBOUR", "look"),
    ],
)
def test_money_that_names_another_or_quotes_their_number_is_seen(memo, level):
    assert seen(scouts_money(memo), "wrong-party") == [(("R1", "I2"), level)]


@pytest.mark.parametrize(
    "books",
    [
        scouts_money("SK-101 AVERIN SCOUTS"),  # it quotes what it pays
        scouts_money("transfer"),  # an amount alone says nothing
        scouts_money("AVERIN SCOUTS", alias=("Averin Scouts",)),  # a known alias
        scouts_money("AVERIN SCOUTS", amount="90.00"),  # nothing open has that sum
    ],
)
def test_money_that_may_be_right_is_left_alone(books):
    assert seen(books, "wrong-party") == []


def test_one_who_pays_for_another_by_habit_is_left_alone():
    rows, links = [], []
    for n in range(1, 5):
        owed = invoice(f"SK-{n}00", on=f"2026-0{n}-01", id=f"I{n}", sales="100.00")
        paid = receipt(f"2026-0{n}-10", "100.00", id=f"R{n}", memo="AVERIN SCOUTS")
        rows += [owed, paid]
        links.append(allocated(owed, paid, "100.00"))
    rows.append(invoice("SK-900", "2026-04-04", "Averin Scouts", id="I9", sales="100.00"))
    assert seen(books_with(*rows, allocations=links), "wrong-party") == []


# -- set against the wrong item


def two_invoices(memo, *, against="I1", amount="60.00"):
    one = invoice("SK-101", on="2026-05-01", id="I1", sales="100.00")
    two = invoice("SK-202", on="2026-05-04", id="I2", sales="60.00")
    paid = receipt("2026-05-10", amount, id="R1", memo=memo)
    other = one if against == "I1" else two
    return books_with(one, two, paid, allocations=[allocated(other, paid, "60.00")])


def test_money_for_another_item_of_the_party_is_seen_by_number_or_by_sum():
    assert seen(two_invoices("SK-202"), "wrong-item") == [(("R1", "I2"), "sure")]
    assert seen(two_invoices("transfer"), "wrong-item") == [(("R1", "I2"), "likely")]
    assert seen(two_invoices("SK-101"), "wrong-item") == []
    assert seen(two_invoices("transfer", against="I2"), "wrong-item") == []


def test_part_payments_of_the_oldest_are_left_alone():
    one = invoice("SK-101", on="2026-05-01", id="I1", sales="300.00")
    two = invoice("SK-202", on="2026-05-04", id="I2", sales="60.00")
    paid = [receipt(f"2026-06-{day}", "60.00", id=f"R{day}") for day in (10, 11, 12)]
    links = [allocated(one, money, "60.00") for money in paid]
    assert seen(books_with(one, two, *paid, allocations=links), "wrong-item") == []


# -- pairs of journals, debts


def test_a_journal_and_its_opposite_are_seen_and_others_are_not():
    one = posted("Dr receivables (Harbour School) 50.00, Cr sales 50.00", on="2026-05-01", id="J1")
    two = posted("Cr receivables (Harbour School) 50.00, Dr sales 50.00", on="2026-05-09", id="J2")
    other = posted("Cr receivables (Averin Scouts) 50.00, Dr sales 50.00", on="2026-05-09", id="J3")
    assert seen(books_with(one, two, other), "journal-pair-open") == [(("J1", "J2"), "sure")]
    looked = run_checks(CheckRun(books_with(one, two), TODAY))
    assert "ask" in next(p.routes for p in looked if p.check == "journal-pair-open")
    assert seen(books_with(one, other), "journal-pair-open") == []
    money = receipt("2026-05-09", "50.00", id="R1")
    assert seen(books_with(one, money), "journal-pair-open") == []


def test_a_debt_long_overdue_is_doubtful_unless_it_is_being_paid_off():
    owed = invoice("SK-101", on="2026-01-05", id="I1", sales="300.00")
    (point,) = found(books_with(owed), "doubtful-debt")
    assert (point.amount, point.hint("date")) == (eur("300.00"), "2026-11-16")
    part = receipt("2026-09-01", "60.00", id="R1", memo="SK-101")
    paying = books_with(owed, part, allocations=[allocated(owed, part, "60.00")])
    assert seen(paying, "doubtful-debt") == []
    recent = invoice("SK-102", on="2026-06-05", id="I2", sales="300.00")
    assert seen(books_with(recent), "doubtful-debt") == []


def test_an_old_debt_is_not_silenced_by_a_receipt_that_can_t_be_for_it():
    old = invoice("SK-101", on="2025-10-01", id="I1", sales="1200.00")
    small = receipt("2026-06-20", "50.00", id="R1", memo="HARBOUR SCHOOL")
    before = receipt("2025-09-20", "900.00", id="R2", memo="HARBOUR SCHOOL")
    part = receipt("2026-06-20", "900.00", id="R3", memo="HARBOUR SCHOOL")
    for money, seen_so in ((small, True), (before, True), (part, False)):
        found_debts = seen(books_with(old, money), "doubtful-debt")
        assert bool(found_debts) is seen_so, money.id


def test_an_invoice_whose_money_was_set_elsewhere_is_not_called_doubtful():
    school = invoice("SK-101", on="2026-01-01", id="I1", sales="100.00")
    scouts = invoice("SK-202", "2026-01-04", "Averin Scouts", id="I2", sales="100.00")
    paid = receipt("2026-01-20", "100.00", id="R1", memo="AVERIN SCOUTS")
    books = books_with(school, scouts, paid, allocations=[allocated(school, paid, "100.00")])
    assert seen(books, "wrong-party") == [(("R1", "I2"), "sure")]
    assert seen(books, "doubtful-debt") == []


# -- the owners' money


def private(text, on="2026-02-01", **more):
    return posted("Dr drawings 40.00, Cr bank 40.00", on=on, memo=text, **more)


@pytest.mark.parametrize(
    ("memo", "level"),
    [
        ("TRANSFER BEA FENNEL", "likely"),
        ("B FENNEL STANDING ORDER", "likely"),
        ("ATM WITHDRAWAL QUAY", "likely"),
        ("CARD RIDING LESSONS", "likely"),
    ],
)
def test_private_spending_in_costs_is_seen_by_name_machine_or_learned_word(memo, level):
    spent = direct_payment("2026-05-02", id="T1", office="40.00", memo=memo)
    books = books_of(private("CARD RIDING LESSONS"), spent)
    assert seen(books, "owner-spending") == [(("T1",), level)]
    (first, *_) = options_for(books, found(books, "owner-spending")[0])
    assert first.title == "Move it to drawings"


def test_an_employee_of_the_owner_s_family_is_not_the_owner_by_an_initial():
    spent = direct_payment("2026-05-02", id="T1", office="40.00", memo="B FENNEL WAGES")
    employee = Party("E1", "Ben Fennel", PartyKind.OTHER)
    books = books_with(spent, parties=(*PARTIES, employee))
    assert seen(books, "owner-spending") == []
    in_full = spent._replace(memo="TRANSFER BEA FENNEL")
    books = books_with(in_full, parties=(*PARTIES, employee))
    assert seen(books, "owner-spending") == [(("T1",), "likely")]


def test_without_an_earlier_private_entry_a_word_means_nothing():
    spent = direct_payment("2026-05-02", id="T1", office="40.00", memo="CARD RIDING LESSONS")
    assert seen(books_of(spent), "owner-spending") == []


def test_a_regular_supplier_of_the_business_is_left_alone_though_the_owner_bought_there_too():
    shop = [
        direct_payment(f"2026-0{n}-02", id=f"T{n}", office="40.00", memo="CARD GARDEN CENTRE")
        for n in range(1, 5)
    ]
    assert seen(books_of(private("CARD GARDEN CENTRE"), *shop), "owner-spending") == []
    named = direct_payment("2026-05-02", party="Reedwharf", id="T9", office="1.00", memo="RIDING")
    assert seen(books_of(private("RIDING"), named), "owner-spending") == []


def test_a_correction_of_ours_teaches_neither_that_it_is_private_nor_that_it_is_not():
    first = direct_payment("2026-03-02", id="T1", office="40.00", memo="CARD SWIMMING CLUB")
    moved = posted(
        "Dr drawings 40.00, Cr office 40.00", on="2026-03-02", id="C1", corrects="T1", change=2
    )
    again = direct_payment("2026-05-02", id="T2", office="40.00", memo="CARD SWIMMING CLUB")
    assert seen(books_of(first, moved, again), "owner-spending") == []
    own = private("CARD SWIMMING CLUB", on="2026-04-02", id="T3")
    assert seen(books_of(first, own, again), "owner-spending") == []
    assert seen(books_of(first, moved, own, again), "owner-spending") == [(("T2",), "likely")]


def test_an_owner_s_own_money_is_seen_in_income_and_among_receipts():
    income = direct_receipt("2026-05-02", id="T1", sales="500.00", memo="TRANSFER BEA FENNEL")
    taken = receipt("2026-05-03", "100.00", id="R1", memo="B. FENNEL")
    books = books_of(income, taken)
    assert seen(books, "owner-money-in") == [(("T1",), "likely"), (("R1",), "likely")]
    customer = Party("C9", "Bea Fennel", PartyKind.CUSTOMER)
    own = receipt("2026-05-03", "100.00", id="R1", memo="BEA FENNEL")
    own = own._replace(
        party="C9",
        lines=tuple(x._replace(party="C9") if x.party else x for x in own.lines),
    )
    books = books_with(own, parties=(*PARTIES, customer))
    assert seen(books, "owner-money-in") == []


def test_an_owner_s_account_that_the_entity_does_not_have_is_told():
    books = books_with(private("CARD", id="T1"), entity=Entity.COMPANY)
    assert seen(books, "owner-account-kind") == [(("T1",), "sure")]
    assert seen(books_with(private("CARD", id="T1")), "owner-account-kind") == []


def test_an_overdrawn_loan_account_tells_since_when_how_much_and_how_high():
    loan = Account("3500", "owner's loan", AccountType.LIABILITY, AccountRole.OWNER_LOAN, "O1")
    moves = (
        ("Cr", "100.00", "2026-01-05"),
        ("Dr", "350.00", "2026-02-01"),
        ("Cr", "90.00", "2026-03-01"),
    )
    rows = [
        posted(f"{side} clearing {amount}, {'Cr' if side == 'Dr' else 'Dr'} bank {amount}", on=on)
        for side, amount, on in moves
    ]
    rows = [
        row._replace(
            lines=tuple(x._replace(account="3500") if x.account == "1290" else x for x in row.lines)
        )
        for row in rows
    ]
    books = books_with(*rows, accounts=(*ACCOUNTS, loan), entity=Entity.COMPANY)
    (point,) = found(books, "owner-loan-overdrawn")
    assert point.amount == eur("160.00")
    assert "since 1 February 2026; at most by 250.00 on 1 February 2026" in point.summary
    trader = books_with(*rows, accounts=(*ACCOUNTS, loan))
    assert seen(trader, "owner-loan-overdrawn") == []


def test_what_people_left_as_the_business_s_teaches_and_what_they_left_with_the_owner_does_not():
    spent = [
        direct_payment(f"2026-0{n}-02", id=f"T{n}", office="40.00", memo="CARD RIDING LESSONS")
        for n in (5, 6)
    ]
    own = [private("CARD RIDING LESSONS", on=f"2026-0{n}-01") for n in (1, 2)]
    books = books_of(*own, *spent)

    def told(check):
        business = left_as_business([(check, [["owner", "T5"]])])
        points = run_checks(CheckRun(books, TODAY, business))
        return sorted(p.named("owner")[0] for p in points if p.check == "owner-spending")

    # The one that was left stays, as decided; the other of its text is not told again.
    assert told("owner-spending") == ["T5"]
    assert told("owner-account-kind") == ["T5", "T6"]
