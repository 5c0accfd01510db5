"""The Books page at work: the chart in the store, files told and set aside, newer books."""

from dataclasses import replace
from datetime import date

import pytest

from corkpost.core.acts import AddAccount, AddParty, AgreeSure, PutChartRight, TakeBack
from corkpost.core.bank.setting_aside import InUse
from corkpost.core.books import Account
from corkpost.core.chart.changing import AccountWanted
from corkpost.core.kinds import AccountRole, AccountType, PartyKind
from corkpost.core.points import Level
from corkpost.core.refusals import AlreadyTakenBack, NoReason, NotAllowed, UnknownName
from corkpost.formats.books_folder.reading import read_books
from corkpost.services import acts, books, chart, entries, statements, store
from corkpost.services.books import BooksOfAnother
from corkpost.services.posting import KeyUsed, PostRequest
from corkpost.services.workplace import Workplace
from corkpost.stand_ins.statement_files import as_camt053, as_ofx
from tests.builders import CODES, TODAY, bill
from tests.formats.folders import small_books, write
from tests.practice import take_in
from tests.services.test_bank import BANK, CARD, FEE, REEDWHARF, SCHOOL, statement, take

FUEL = CODES["fuel"]
KEY = "k" * 16


def put(office, who="TV", key=None, reason="as it is used", **fields):
    act = PutChartRight((AccountWanted(FUEL, **fields),))
    return acts.post(office.workplace, office[who], "SMALL", act, PostRequest(reason, key=key))


def kept(office):
    """The books as they are kept in mind, which a store that is read anew must agree to."""
    mind = office.workplace.ledger(office["IO"], "SMALL").books
    other = Workplace(office.workplace.database.folder, TODAY)
    read = other.ledger(office["IO"], "SMALL").books
    other.close()
    assert mind == read
    return mind


def test_what_is_put_right_is_kept_proved_undone_and_given_out(office, tmp_path):
    posted = put(office, role="cost-of-sales", name="Fuel and oil")
    assert kept(office).accounts[FUEL][1:4:2] == ("Fuel and oil", AccountRole.COST_OF_SALES)
    assert (
        put(office, key=KEY, tax_code="S23").number == put(office, key=KEY, tax_code="S23").number
    )
    with pytest.raises(KeyUsed):
        put(office, key=KEY, tax_code="")
    put(office, tax_code="")
    assert store.verify(office.workplace).broken == ()
    given = {}
    for name, as_received in (("mine", False), ("theirs", True)):
        books.give_out(
            office.workplace, office["IO"], "SMALL", tmp_path / name, as_received=as_received
        )
        folder = read_books(tmp_path / name, tmp_path / "files")
        given[name] = next(a for a in folder.tables.accounts if a.code == FUEL)
    assert given["mine"].name == "Fuel and oil"
    assert given["theirs"] == Account(FUEL, "fuel", AccountType.EXPENSE)
    acts.post(
        office.workplace,
        office["TV"],
        "SMALL",
        TakeBack(posted.number),
        PostRequest("it was right"),
    )
    assert kept(office).accounts[FUEL].name == "fuel"


def test_newer_books_leave_it_right_whether_they_know_of_it_or_not(office, tmp_path):
    put(office, role="cost-of-sales")
    ropes = AddAccount(Account("5210", "Ropes", AccountType.EXPENSE))
    acts.post(office.workplace, office["TV"], "SMALL", ropes, PostRequest("", key=KEY))
    mine = office.workplace.ledger(office["IO"], "SMALL").books
    for name, accounts in (("unaware", small_books().tables.accounts), ("aware", None)):
        made = small_books()
        tables = replace(made.tables, accounts=accounts or mine.tables.accounts)
        taken = take_in(
            office.workplace, office["IO"], replace(made, tables=tables), tmp_path / name
        )
        assert (taken.new, taken.changed) == (0, 0)
    late = bill("RW 9", on="2026-08-01", id="T9", fuel="9.00")
    made = small_books()
    tables = replace(made.tables, transactions=(*made.tables.transactions, late))
    take_in(office.workplace, office["IO"], replace(made, tables=tables), tmp_path / "late")
    now = kept(office)
    assert (now.accounts[FUEL].role, now.accounts["5210"].name) == ("cost-of-sales", "Ropes")
    assert len(entries.change_log(office.workplace, office["IO"], "SMALL")) == 4


def test_a_preparer_adds_a_party_and_leaves_the_chart_to_others(office):
    with pytest.raises(NotAllowed, match=r"partner or reviewer"):
        put(office, "IO", role="repairs")
    other = AddAccount(Account("1", "x", AccountType.ASSET))
    with pytest.raises(NotAllowed):
        acts.post(office.workplace, office["IO"], "SMALL", other, PostRequest("", key=KEY))
    party = AddParty("Gull Roofing", PartyKind.SUPPLIER)
    args = (office.workplace, office["IO"], "SMALL", party, PostRequest("", key=KEY))
    assert acts.post(*args).number == acts.post(*args).number
    assert kept(office).parties["GULLROOF"].name == "Gull Roofing"
    assert store.verify(office.workplace).broken == ()


def test_a_reason_is_needed_to_put_the_chart_right(office):
    with pytest.raises(NoReason):
        put(office, reason=" ", role="repairs")


def test_files_are_told_with_what_they_brought(office, tmp_path):
    dearer = bill("RW 117", on="2026-04-05", id="T3", fuel="200.00", tax="46.01")
    made = small_books()
    rows = [dearer if t.id == "T3" else t for t in made.tables.transactions if t.id != "T6"]
    take_in(
        office.workplace,
        office["IO"],
        replace(made, tables=replace(made.tables, transactions=tuple(rows))),
        tmp_path / "newer",
    )
    take(office, as_camt053([statement(REEDWHARF, SCHOOL)]), name="half.xml")
    found = chart.intake(office.workplace, office["IO"], "SMALL")
    told = [
        (row.change.reason, *row.brought[:3], [brought.lines for brought in row.brought.statements])
        for row in found.files
    ]
    assert told == [
        ("statement half.xml of 1200 taken in", 0, 0, 0, [2]),
        ("books taken in from newer", 0, 1, 1, []),
        ("books taken in from small", 8, 0, 0, []),
    ]


def set_aside(office, change, reason="of another account"):
    statements.set_aside(office.workplace, office["IO"], "SMALL", change, reason)


def test_a_statement_set_aside_counts_no_more_and_can_be_taken_in_again(office, tmp_path):
    content = as_camt053([statement(REEDWHARF, SCHOOL)])
    take(office, content)
    acts.post(
        office.workplace,
        office["IO"],
        "SMALL",
        AgreeSure(BANK, 1, Level.SURE),
        PostRequest("", key=KEY),
    )
    with pytest.raises(InUse, match=r"agreed. Take that apart"):
        set_aside(office, 2)
    acts.post(office.workplace, office["IO"], "SMALL", TakeBack(3), PostRequest("too soon"))
    set_aside(office, 2)
    assert (kept(office).statements, kept(office).tables.statements) == ((), ())
    with pytest.raises(AlreadyTakenBack):
        set_aside(office, 2)
    (taken,) = take(office, content)
    assert taken.new == 2
    (now,) = kept(office).statements
    assert (now.number, len(now.lines)) == (2, 2)
    assert store.verify(office.workplace).broken == ()
    books.give_out(office.workplace, office["IO"], "SMALL", tmp_path / "out")
    folder = read_books(tmp_path / "out", tmp_path / "files")
    assert len(folder.tables.statements) == 1


def test_a_statement_that_a_later_one_was_compared_with_is_set_aside_after_it(office):
    take(office, as_camt053([statement(REEDWHARF, SCHOOL, last=date(2026, 5, 31))]))
    later = statement(SCHOOL, CARD, FEE, opening="284.00", first=date(2026, 5, 1))
    take(office, as_ofx([later]))
    with pytest.raises(InUse, match="Set that one aside first"):
        set_aside(office, 2)
    set_aside(office, 3)
    set_aside(office, 2)
    with pytest.raises(UnknownName):
        set_aside(office, 1)
    with pytest.raises(NoReason):
        set_aside(office, 3, " ")


def test_a_client_s_page_takes_in_that_client_s_books_alone(office, tmp_path):
    made = small_books()
    other = replace(made, client=replace(made.client, code="OTHER"))
    with pytest.raises(BooksOfAnother, match="books of OTHER, and you are in those of SMALL"):
        books.take_in(
            office.workplace,
            office["OB"],
            write(other, tmp_path / "other"),
            only="SMALL",
            name="x.zip",
        )
