"""The bank at work: statements in, agreeing, finishing, reopening, and what is kept of it."""

from dataclasses import replace
from datetime import date

import pytest

from corkpost.core.acts import Agree, AgreeSure, TakeApart, TakeBack
from corkpost.core.bank.agreeing import FixedByReconciliation, Wanted, plan_agree
from corkpost.core.bank.whose_statement import WhoseStatement
from corkpost.core.books import BankAccount
from corkpost.core.by_hand import Picked
from corkpost.core.money import Currency
from corkpost.core.points import Level
from corkpost.core.refusals import BadEntry, NoReason, NothingToDo, UnknownName
from corkpost.core.row_kinds import registry
from corkpost.formats.books_folder.faults import FaultyBooks
from corkpost.formats.books_folder.reading import read_books
from corkpost.formats.statements.csv_table import Columns, NeedsColumns
from corkpost.formats.statements.parsed import UnreadableStatement
from corkpost.services import acts, bank, books, review, statements, store
from corkpost.services.bank import NotToFinish
from corkpost.services.posting import PostRequest, post
from corkpost.stand_ins.statement_files import BankLine, BankStatement, as_camt053, as_csv, as_ofx
from corkpost.store.changes import Content
from corkpost.store.verify import EARLIER_ORDER
from tests.builders import CODES
from tests.formats.folders import small_books, write
from tests.formats.test_statements import NO_BALANCE
from tests.notation import EUR, eur
from tests.practice import by_route, void_twin

BANK = CODES["bank"]
REEDWHARF = BankLine(date(2026, 4, 21), -24600, "REEDWHARF", bank_id="B1")
SCHOOL = BankLine(date(2026, 5, 20), 10000, "HARBOUR SCHOOL", bank_id="B2")
CARD = BankLine(date(2026, 6, 2), -1230, "CARD, QUOTED", bank_id="B3")
FEE = BankLine(date(2026, 6, 30), -650, "FEE", bank_id="B4")


def statement(*lines, opening="530.00", first=date(2026, 1, 1), last=date(2026, 6, 30)):
    return BankStatement("XX00", EUR, first, last, eur(opening), lines)


def take(office, content, name="may.csv", account=None, columns=None):
    return statements.take_in(
        office.workplace, office["IO"], "SMALL", name, content, account, columns
    )


def state(office, number=None):
    return bank.state(office.workplace, office["IO"], "SMALL", BANK, number)


@pytest.fixture
def half_year(office):
    take(office, as_camt053([statement(REEDWHARF, SCHOOL, CARD)]))
    return office


def finish(office, number=1, who="IO"):
    acts.post(
        office.workplace,
        office[who],
        "SMALL",
        AgreeSure(BANK, number, Level.LIKELY),
        PostRequest(""),
    )
    bank.finish(office.workplace, office[who], "SMALL", BANK, number)


def test_a_statement_is_agreed_finished_reopened_and_the_store_proves_it_all(half_year):
    office = half_year
    assert state(office).look.state.difference == eur("-158.30")
    finish(office)
    found = state(office, 1)
    assert (found.look.state.difference, found.standing.made_by) == (0, "IO")
    assert not bank.moved_since(found)
    with pytest.raises(NothingToDo):
        bank.finish(office.workplace, office["IO"], "SMALL", BANK, 1)
    group = next(iter(found.look.sides.groups))
    with pytest.raises(FixedByReconciliation):
        acts.post(
            office.workplace, office["IO"], "SMALL", TakeApart(BANK, (group,)), PostRequest("")
        )
    with pytest.raises(NoReason):
        bank.reopen(office.workplace, office["IO"], "SMALL", BANK, 1, " ")
    bank.reopen(office.workplace, office["IO"], "SMALL", BANK, 1, "doubted")
    acts.post(office.workplace, office["IO"], "SMALL", TakeApart(BANK, (group,)), PostRequest(""))
    assert [row.reopened_why for row in state(office, 1).finished] == ["doubted"]
    assert store.verify(office.workplace).broken == ()


def test_the_books_in_mind_are_those_in_the_store(half_year):
    acts.post(
        half_year.workplace,
        half_year["IO"],
        "SMALL",
        AgreeSure(BANK, 1, Level.SURE),
        PostRequest(""),
    )
    kept = half_year.workplace.ledger(half_year["IO"], "SMALL").books
    half_year.workplace._ledgers.clear()
    assert half_year.workplace.ledger(half_year["IO"], "SMALL").books == kept


def test_what_is_not_explained_can_not_be_finished(office):
    take(office, as_camt053([statement(REEDWHARF, SCHOOL, CARD, FEE)]))
    with pytest.raises(NotToFinish, match="The difference is not nil"):
        finish(office)


def test_agreeing_sent_twice_is_done_once(half_year):
    wanted = [Wanted((("T2", 2),), ("statements/may.csv#1",))]
    one = acts.post(
        half_year.workplace,
        half_year["IO"],
        "SMALL",
        Agree(BANK, tuple(wanted)),
        PostRequest("", key="k" * 16),
    )
    again = acts.post(
        half_year.workplace,
        half_year["IO"],
        "SMALL",
        Agree(BANK, tuple(wanted)),
        PostRequest("", key="k" * 16),
    )
    assert one == again


@pytest.mark.parametrize("form", [as_csv, as_ofx, as_camt053])
def test_the_same_lines_in_another_form_or_an_overlap_are_known(half_year, form):
    longer = statement(SCHOOL, CARD, FEE, opening="284.00", first=date(2026, 5, 1))
    changes = len(half_year.workplace.ledger(half_year["IO"], "SMALL").books.changes)
    (same,) = take(half_year, form([statement(REEDWHARF, SCHOOL, CARD)]), account=BANK)
    assert (same.lines, same.already) == (3, 3)
    books_now = half_year.workplace.ledger(half_year["IO"], "SMALL").books
    assert len(books_now.changes) == changes
    (more,) = take(half_year, form([longer]), account=BANK)
    assert (more.lines, more.already) == (3, 2)
    books_now = half_year.workplace.ledger(half_year["IO"], "SMALL").books
    assert [line.text for line in books_now.statements[-1].lines] == ["FEE"]


def test_ids_that_the_bank_gave_anew_do_not_make_lines_new(half_year):
    renamed = [replace(line, bank_id=f"X{n}") for n, line in enumerate((REEDWHARF, SCHOOL, CARD))]
    (taken,) = take(half_year, as_ofx([statement(*renamed)]), account=BANK)
    assert taken.new == 0


def test_a_statement_that_does_not_add_up_is_taken_in_said_and_not_finished(office):
    wrong = as_csv([statement(REEDWHARF, SCHOOL)]).replace(b"384.00", b"383.00")
    (taken,) = take(office, wrong, account=BANK)
    assert taken.warnings == (
        "Opening and lines come to 1.00 more than the closing balance, from line 2 on: this "
        "statement can't be finished.",
    )
    assert "do not come to its closing balance" in " ".join(state(office).hindrances)


def test_a_gap_between_two_statements_is_said(half_year):
    (taken,) = take(
        half_year,
        as_camt053([statement(opening="999.00", first=date(2026, 8, 1), last=date(2026, 8, 31))]),
    )
    assert taken.warnings == (
        "By the statement to 30 June 2026 the account stood at 371.70, this one opens at 999.00 on "
        "1 August 2026: lines between them may be missing.",
    )


@pytest.mark.parametrize(
    ("content", "account", "refused", "says"),
    [
        (b"", BANK, UnreadableStatement, "empty"),
        (as_camt053([replace(statement(), identifier="YY99")]), None, BadEntry, "number YY99"),
        (as_camt053([statement()]), CODES["office"], BadEntry, "is no bank account"),
        (as_camt053([statement()]), "9999", UnknownName, "9999"),
        (
            as_camt053([statement(FEE)]).replace(b"6.50", b"6.505"),
            BANK,
            UnreadableStatement,
            "2 decimal",
        ),
        (as_camt053([statement()]).replace(b"EUR", b"USD"), BANK, BadEntry, "in USD"),
    ],
)
def test_what_can_not_be_taken_in_is_refused_whole(office, content, account, refused, says):
    with pytest.raises(refused, match=says):
        take(office, content, account=account)
    assert office.workplace.ledger(office["IO"], "SMALL").books.statements == ()


def test_the_columns_of_a_csv_are_said_once(office):
    with pytest.raises(NeedsColumns):
        take(office, NO_BALANCE.encode(), account=BANK)
    said = Columns(day=0, text=(1,), day_order="dmy", money_out=2, money_in=3)
    (taken,) = take(office, NO_BALANCE.encode(), account=BANK, columns=said)
    assert taken.new == 2
    (more,) = take(office, NO_BALANCE.replace("2026", "2027").encode(), account=BANK)
    assert (more.new, more.first_day) == (2, date(2027, 5, 4))


def test_statements_and_agreements_go_out_and_come_back(half_year, tmp_path):
    finish(half_year)
    group = next(iter(state(half_year, 1).look.sides.groups))
    bank.reopen(half_year.workplace, half_year["IO"], "SMALL", BANK, 1, "doubted")
    acts.post(
        half_year.workplace, half_year["IO"], "SMALL", TakeApart(BANK, (group,)), PostRequest("")
    )
    books.give_out(half_year.workplace, half_year["OB"], "SMALL", tmp_path / "out")
    found = read_books(tmp_path / "out", tmp_path / "kept")
    assert [
        len(statement.lines) for statement in found.statements["statements/may.csv"].statements
    ] == [3]
    assert group not in {row.group for row in found.tables.agreements}
    before = store.verify(half_year.workplace).heads
    again = books.take_in(half_year.workplace, half_year["OB"], tmp_path / "out")
    assert (again.new, again.changed, again.removed) == (0, 0, 0)
    assert store.verify(half_year.workplace).heads == before


def test_statements_that_come_with_the_books_are_read_or_the_books_are_refused(office, tmp_path):
    kept = {"statements/may.csv": as_csv([statement(REEDWHARF, SCHOOL, CARD)])}
    books.take_in(office.workplace, office["OB"], write(small_books(), tmp_path / "good", kept))
    assert len(state(office).look.state.statement.lines) == 3
    for name, content, fault in (
        ("cut", b"<OFX><STMTRS>", "The OFX file is cut off"),
        ("within", as_ofx([statement(CARD)]).partition(b"<FITID>")[0], "The OFX file is cut off"),
        ("columns", b"date,description,balance\n2026-06-02,CARD,1.00\n", "Choose the columns once"),
    ):
        bad = write(small_books(), tmp_path / name, {"statements/june.csv": content})
        with pytest.raises(FaultyBooks) as refused:
            books.take_in(office.workplace, office["OB"], bad)
        (told,) = [said for said in refused.value.faults if fault in said]
        assert told.startswith("statements.csv:2: path: 'statements/june.csv': ")


def test_a_point_of_the_bank_is_corrected_and_taken_back(office):
    take(office, as_camt053([statement(REEDWHARF, SCHOOL, CARD, FEE)]))
    point = next(
        found_point.point
        for found_point in review.points(office.workplace, office["IO"], "SMALL")
        if found_point.point.check == "bank-missing"
    )
    settings = {"account": CODES["charges"]}
    posted = acts.post(
        office.workplace,
        office["IO"],
        "SMALL",
        by_route(point.id, "record-missing", settings),
        PostRequest("a fee"),
    )
    finish(office)
    with pytest.raises(FixedByReconciliation):
        acts.post(
            office.workplace,
            office["IO"],
            "SMALL",
            TakeBack(posted.number),
            PostRequest("not ours"),
        )
    bank.reopen(office.workplace, office["IO"], "SMALL", BANK, 1, "the fee was taken back")
    acts.post(
        office.workplace, office["IO"], "SMALL", TakeBack(posted.number), PostRequest("not ours")
    )
    assert [line.text for line in state(office, 1).look.state.unmatched] == ["FEE"]
    assert state(office, 1).look.state.outstanding == ()
    assert void_twin(office).number > posted.number


def test_newer_books_that_change_what_was_agreed_let_it_fall_apart_and_mark_the_finished_list(
    half_year, tmp_path
):
    finish(half_year)
    made = small_books()
    rows = tuple(row for row in made.tables.transactions if row.id != "T6")
    newer = replace(made, tables=replace(made.tables, transactions=rows))
    books.take_in(half_year.workplace, half_year["OB"], write(newer, tmp_path / "newer"))
    found = state(half_year, 1)
    # One came with the books and names a statement that never did.
    assert [name for name in found.look.sides.fallen if name != "g1"] == ["G-3-3"]
    assert [line.text for line in found.look.state.unmatched] == ["CARD, QUOTED"]
    assert bank.moved_since(found)


STRANGE = [BankLine(date(2026, 6, n), -1000 * n - 33, f"BAKER {n}") for n in range(2, 20)]


def with_number(tmp_path, identifier, **more):
    made = small_books()
    row = BankAccount(BANK, "Test", identifier, **more)
    return replace(made, tables=replace(made.tables, bank_accounts=(row,)))


def test_another_s_statement_is_taken_in_only_once_a_person_says_that_it_is_this_account_s(office):
    content = as_csv([statement(*STRANGE, opening="9.00")])
    with pytest.raises(WhoseStatement):
        take(office, content, account=BANK)
    assert office.workplace.ledger(office["IO"], "SMALL").books.statements == ()
    found = statements.take_in(
        office.workplace, office["IO"], "SMALL", "june.csv", content, BANK, sure=True
    )
    assert found[0].new == len(STRANGE)


def test_the_number_of_another_account_is_refused_and_its_own_needs_no_weighing(office, tmp_path):
    folder = write(with_number(tmp_path, "IE99 OTHER 12345678"), tmp_path / "b")
    books.take_in(office.workplace, office["OB"], folder)
    foreign = replace_number(statement(REEDWHARF), "IE11 OURS 12345678")
    with pytest.raises(BadEntry, match=r"bears the number IE11 ?OURS ?12345678; .* has IE99"):
        take(office, as_camt053([foreign]), account=BANK)
    own = replace_number(statement(*STRANGE, opening="9.00"), "IE99OTHER12345678")
    assert take(office, as_camt053([own]))[0].new == len(STRANGE)


def replace_number(parsed, number):
    return replace(parsed, identifier=number)


def test_an_account_in_another_currency_says_what_it_counts_and_raises_no_point(office, tmp_path):
    folder = write(with_number(tmp_path, "US1234567", currency="USD"), tmp_path / "b")
    books.take_in(office.workplace, office["OB"], folder)
    before = review.points(office.workplace, office["IO"], "SMALL")
    dollars = BankStatement(
        "US1234567", Currency("USD"), date(2026, 1, 1), date(2026, 6, 30), 0, (REEDWHARF,)
    )
    (found,) = take(office, as_camt053([dollars]))
    assert found.closing == REEDWHARF.amount
    assert review.points(office.workplace, office["IO"], "SMALL") == before
    (account, *_) = bank.accounts(office.workplace, office["IO"], "SMALL")
    assert (len(account.statements), account.currency) == (1, Currency("USD"))
    assert account.note is not None
    assert "say no sum in it, and are not counted" in account.note


@pytest.mark.parametrize(
    "order", [tuple(registry()), EARLIER_ORDER], ids=["as written", "as once written"]
)
def test_a_change_that_amends_and_agrees_is_proved(half_year, monkeypatch, order):
    office = half_year
    ledger = office.workplace.ledger(office["IO"], "SMALL")
    picked = Picked("amend-reference", "T3", (), {"reference": "RW-0118"})
    amends = acts.preview(office.workplace, office["IO"], "SMALL", picked).plan
    wanted = Wanted((("T2", 2),), ("statements/may.csv#1",))
    agrees = plan_agree(ledger.books, BANK, [wanted])
    both = replace(amends, agreements=agrees.agreements)
    with monkeypatch.context() as earlier:
        earlier.setattr(Content.digest, "__defaults__", (order,))
        post(office.workplace, office["IO"], "SMALL", lambda _: both, PostRequest("two cheques"))
    assert store.verify(office.workplace).broken == ()
