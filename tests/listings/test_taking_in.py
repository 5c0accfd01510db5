"""Taking listings in: what is asked, what is refused, what the next month brings, trial balances alone."""

import json
import zipfile
from datetime import date, datetime
from functools import cache

import pytest
import xlsxwriter

from corkpost.core.acts import PutChartRight
from corkpost.core.chart.changing import AccountWanted
from corkpost.core.chart.guessing import guesses
from corkpost.core.kinds import AccountRole, AccountType, Entity, PartyKind, TransactionKind
from corkpost.core.money import Currency
from corkpost.core.open_items import aged
from corkpost.core.periods import month_end, parse_year_end
from corkpost.core.refusals import BadAnswers, Refusal, UnknownName
from corkpost.core.trial_balance import trial_balance
from corkpost.demo.labelled import labelled
from corkpost.services import acts, books, listing_answers, listings, review
from corkpost.services.listings import NewClient, Refused
from corkpost.services.posting import PostRequest
from corkpost.stand_ins.statement_files import BankLine, BankStatement, as_camt053
from tests.listings.rendering import STYLES, Renderer, Style

NEW = NewClient("Heron Boats", Entity.SOLE_TRADER, (12, 31), Currency("EUR"))
SMALL = """\
Entry no,Date,Account,Account name,Customer,Document no,Description,Debit,Credit
1,2026-01-15,1100,Trade debtors,Moss Hall,INV-101,boat hire,120.00,
1,2026-01-15,4000,Sales,,INV-101,boat hire,,120.00
2,2026-01-20,1200,Bank account,,,paid by Moss Hall INV-101,120.00,
2,2026-01-20,1100,Trade debtors,Moss Hall,,paid by Moss Hall INV-101,,120.00
3,2026-01-25,5000,Rent,,R-17,rent of January,300.00,
3,2026-01-25,2100,Trade creditors,Quay Estates,R-17,rent of January,,300.00
4,2026-02-25,2100,Trade creditors,Quay Estates,,Quay Estates,100.00,
4,2026-02-25,1200,Bank account,,,Quay Estates,,100.00
"""


def file(folder, name, text):
    path = folder / name
    path.write_text(text, "utf-8")
    return path


def take(office, *paths, **more):
    return listings.take_in(office.workplace, office["OB"], "HERON", paths, **{"new": NEW, **more})


def books_of(office):
    return office.workplace.ledger(office["OB"], "HERON").books


def balance(office, account, day):
    rows = trial_balance(books_of(office), day).rows
    return next(row.balance for row in rows if row.account == account)


def test_a_small_ledger_becomes_books_with_kinds_parties_and_what_settles_what(office, tmp_path):
    outcome = take(office, file(tmp_path, "ledger.csv", SMALL))
    assert (outcome.questions, outcome.taken.new) == ((), 4)
    books = books_of(office)
    assert [row.kind for row in books.tables.transactions] == [
        TransactionKind.SALES_INVOICE,
        TransactionKind.CUSTOMER_RECEIPT,
        TransactionKind.PURCHASE_BILL,
        TransactionKind.SUPPLIER_PAYMENT,
    ]
    assert [(p.name, p.kind) for p in books.tables.parties] == [
        ("Moss Hall", PartyKind.CUSTOMER),
        ("Quay Estates", PartyKind.SUPPLIER),
    ]
    roles = {code: (row.type, row.role) for code, row in books.accounts.items()}
    assert roles["1100"] == (AccountType.ASSET, AccountRole.RECEIVABLES)
    assert roles["5000"] == (AccountType.EXPENSE, AccountRole.ORDINARY)
    why = [json.loads(row.other)["reckoned"] for row in books.tables.allocations]
    assert why == ["its number is named", "the oldest first"]
    (owed,) = aged(books, AccountRole.PAYABLES, date(2026, 2, 28))
    assert (owed.party, owed.total) == ("Quay Estates", -200_00)


def test_what_was_only_guessed_of_an_account_is_a_guess_until_somebody_confirms_it(
    office, tmp_path
):
    take(office, file(tmp_path, "ledger.csv", SMALL))
    found = guesses(books_of(office))
    assert (found["5000"].why, found["5000"].counts) == ("its name says “rent”", True)
    wanted = tuple(AccountWanted(code, role=guess.role.value) for code, guess in found.items())
    asked = PostRequest("looked through")
    acts.post(office.workplace, office["OB"], "HERON", PutChartRight(wanted), asked)
    assert guesses(books_of(office)) == {}
    # The next file does not make it one again.
    take(office, file(tmp_path, "next.csv", SMALL))
    assert guesses(books_of(office)) == {}


def test_a_bank_s_statement_that_came_with_the_lists_is_taken_in_after_them(office, tmp_path):
    ledger = file(tmp_path, "ledger.csv", SMALL)
    paid = BankLine(date(2026, 1, 20), 120_00, "MOSS HALL", bank_id="B1")
    days = date(2026, 1, 1), date(2026, 1, 31)
    content = as_camt053([BankStatement("XX00", Currency("EUR"), *days, 0, (paid,))])
    bank, spoiled = tmp_path / "january.xml", tmp_path / "february.xml"
    bank.write_bytes(content)
    spoiled.write_bytes(content[:-60])
    with pytest.raises(Refused, match=r"february\.xml"):
        take(office, ledger, spoiled)
    outcome = take(office, ledger, bank)
    assert [(row.path, row.read_as) for row in outcome.files] == [
        ("ledger.csv", "ledger"), ("january.xml", "bank-statement"),
    ]  # fmt: skip
    assert "january.xml: new lines on 1200: 1." in outcome.taken.warnings
    (found,) = books_of(office).statements
    assert found.account == "1200"


def named_otherwise():
    """Heron's ledger for half a year, in names that say nothing of the bank and of what pay is owed on."""
    head = SMALL.splitlines()[0]
    rows, number = [head], 0

    def entry(day, *lines):
        nonlocal number
        number += 1
        for code, name, who, paper, text, amount in lines:
            debit, credit = (f"{amount:.2f}", "") if amount > 0 else ("", f"{-amount:.2f}")
            rows.append(f"{number},{day},{code},{name},{who},{paper},{text},{debit},{credit}")

    for month in range(1, 7):
        due, paid = f"2026-{month:02d}-05", f"2026-{month:02d}-25"
        entry(
            due,
            ("1100", "Trade debtors", "Moss Hall", f"INV-{month}", "hire", 120 + month),
            ("4000", "Sales", "", f"INV-{month}", "hire", -120 - month),
        )
        entry(
            paid,
            ("1290", "No 4 pot", "", "", "Moss Hall", 120 + month),
            ("1100", "Trade debtors", "Moss Hall", "", "Moss Hall", -120 - month),
        )
        entry(
            paid,
            ("7000", "Wages", "", "", "pay", 900),
            ("2300", "Team pot", "", "", "pay", -700),
            ("2310", "State pot", "", "", "pay", -200),
        )
        entry(
            paid,
            ("3050", "Drawings", "", "", "monthly", 100),
            ("1290", "No 4 pot", "", "", "monthly", -100),
        )
    return "\n".join(rows) + "\n"


def test_accounts_are_known_by_what_moves_with_what_and_owners_by_what_the_client_is(
    office, tmp_path
):
    path = file(tmp_path, "ledger.csv", named_otherwise())
    new = NEW._replace(entity=Entity.PARTNERSHIP)
    take(office, path, new=new, answers={"*": "proposed"})
    books = books_of(office)
    roles = {code: row.role for code, row in books.accounts.items()}
    assert roles["1290"] is AccountRole.BANK
    assert (roles["2300"], roles["2310"]) == (AccountRole.PAYROLL_NET, AccountRole.PAYROLL_TAX)
    assert roles["3050"] is AccountRole.PARTNER_CURRENT
    assert {t.kind for t in books.tables.transactions} == {
        TransactionKind.SALES_INVOICE,
        TransactionKind.CUSTOMER_RECEIPT,
        TransactionKind.PAYROLL,
        TransactionKind.DIRECT_PAYMENT,
    }


@pytest.mark.parametrize(
    ("name", "entity", "role"),
    [
        ("Drawings", Entity.SOLE_TRADER, AccountRole.DRAWINGS),
        ("Partners current account", Entity.PARTNERSHIP, AccountRole.PARTNER_CURRENT),
        ("Director loan", Entity.COMPANY, AccountRole.OWNER_LOAN),
    ],
)
def test_what_a_new_client_is_shows_in_its_accounts_and_what_is_seen_is_what_is_taken_in(
    name, entity, role, office, tmp_path
):
    ledger = SMALL + (
        f"5,2026-03-20,3050,{name},,,for the house,80.00,\n"
        "5,2026-03-20,1200,Bank account,,,for the house,,80.00\n"
    )
    path = file(tmp_path, "ledger.csv", ledger)
    seen = take(office, path, new=None, preview=True)
    assert (seen.proposed.entity, seen.made.chart["3050"].role) == (entity, role)
    offered = NEW._replace(entity=seen.proposed.entity, year_end=seen.proposed.year_end)
    taken = take(office, path, new=offered)
    assert taken.made == seen.made
    assert books_of(office).accounts["3050"].role is role


def test_an_account_that_stands_on_the_other_side_is_not_what_its_name_says(office, tmp_path):
    sold = "".join(
        f"{5 + n},2026-03-{10 + n},1200,Bank account,,,two hours,{40 + n}.00,\n"
        f"{5 + n},2026-03-{10 + n},4100,Hire of kayaks,,,two hours,,{40 + n}.00\n"
        for n in range(4)
    )
    seen = take(office, file(tmp_path, "ledger.csv", SMALL + sold), preview=True)
    kind = seen.made.chart["4100"]
    assert (kind.type, kind.why) == (
        AccountType.INCOME,
        "it stands on the credit side, whatever its name",
    )
    assert seen.made.chart["5000"].type is AccountType.EXPENSE
    alone = """\
Account,Account name,31.03.2026
1200,Bank,450.00
3000,Capital,-300.00
4100,Hire of kayaks,-150.00
"""
    path = file(tmp_path, "balances.csv", alone)
    (asked,) = take(office, path, preview=True).questions
    # One name for a debit and one for a credit: too little to tell.
    assert (asked.about, asked.proposed) == ("amount-sign", "debit")
    seen = take(office, path, preview=True, answers={"*": "proposed"})
    assert seen.made.chart["4100"].type is AccountType.INCOME


def test_what_held_something_at_the_beginning_lasts_and_what_is_credited_is_earned(
    office, tmp_path
):
    rows = [
        ("2026-01-01", "0300", "Presses and tools", "Opening balance", 900),
        ("2026-01-01", "3000", "Share capital", "Opening balance", -900),
    ]
    for month in range(1, 5):
        rows += [
            (f"2026-0{month}-20", "1200", "Bank", f"binding {month}", 120),
            (f"2026-0{month}-20", "4000", "Binding and repair", f"binding {month}", -120),
            (f"2026-0{month}-21", "6000", "Rent", f"rent {month}", 50),
            (f"2026-0{month}-21", "6300", "Insurance", f"rent {month}", 10),
            (f"2026-0{month}-21", "6400", "Electricity", f"rent {month}", 10),
            (f"2026-0{month}-21", "1200", "Bank", f"rent {month}", -70),
        ]
    text = "Date,Account,Account name,Description,Amount\n"
    text += "".join(f"{','.join(row)},{amount}.00\n" for *row, amount in rows)
    made = take(office, file(tmp_path, "ledger.csv", text), preview=True).made
    assert made.chart["0300"].type is AccountType.ASSET
    assert (made.chart["4000"].type, made.chart["4000"].role) == (AccountType.INCOME, "")
    assert made.chart["3000"].role is AccountRole.CAPITAL


def test_a_year_ends_where_trial_balances_come_again_or_an_opening_stands(office, tmp_path):
    balances = """\
Account,Account name,31.03.2025,31.03.2026
1200,Bank,300.00,450.00
3000,Capital,-300.00,-300.00
4000,Sales,0.00,-150.00
"""
    seen = take(office, file(tmp_path, "two years.csv", balances), new=None, preview=True)
    assert seen.proposed.year_end == (3, 31)
    opened = """\
Entry no,Date,Account,Account name,Description,Debit,Credit
1,2025-07-01,1200,Bank,Opening balance,300.00,
1,2025-07-01,3000,Capital,Opening balance,,300.00
2,2025-07-14,5000,Rent,July,90.00,
2,2025-07-14,1200,Bank,July,,90.00
"""
    seen = take(office, file(tmp_path, "ledger.csv", opened), new=None, preview=True)
    assert seen.proposed.year_end == parse_year_end("06-30")
    balances = balances.replace("31.03.2025", "29.02.2024").replace("31.03.2026", "28.02.2026")
    seen = take(office, file(tmp_path, "february.csv", balances), new=None, preview=True)
    assert seen.proposed.year_end == parse_year_end("02-28")


def test_a_party_is_what_the_ledger_has_it_as_whatever_list_it_is_on(office, tmp_path):
    items = "Open debtors as at 2026-02-28\nCustomer,Document no,Date,Outstanding\n"
    listed = file(
        tmp_path,
        "open.csv",
        items + "Quay Estates,R-17,2026-01-25,-9.00\nQuay Estates,X,2026-01-26,9.00\n",
    )
    answers = {"*": "proposed"}
    take(office, file(tmp_path, "ledger.csv", SMALL), listed, answers=answers)
    kinds = {party.name: party.kind for party in books_of(office).tables.parties}
    assert kinds["Quay Estates"] is PartyKind.SUPPLIER


IN_A_TABLE = """Date;Details;Money in;Money out;Balance
01/01/2026;OPENING BALANCE;;;0.00
20/01/2026;MOSS HALL;120.00;;120.00
21/01/2026;QUAY ESTATES;;50.00;70.00
"""
WITH_TWO_BANKS = SMALL + (
    "9,2026-01-22,1210,Savings bank account,,,,10.00,\n9,2026-01-22,1200,Bank account,,,,,10.00\n"
)


def test_a_bank_s_table_among_the_lists_is_told_from_them_and_its_account_asked_once(
    office, tmp_path
):
    ledger = file(tmp_path, "ledger.csv", WITH_TWO_BANKS)
    bank = file(tmp_path, "bank January.csv", IN_A_TABLE)
    (asked,) = take(office, ledger, bank).questions
    # Its balance runs, so it is a statement; what the ledger has of its sums is on 1200.
    assert (asked.about, asked.proposed) == ("bank-account", "1200")
    assert [choice.value for choice in asked.choices] == ["1200", "1210", "later"]
    outcome = take(office, ledger, bank, answers={asked.id: "1200"})
    assert "bank January.csv: new lines on 1200: 2." in outcome.taken.warnings
    (found,) = books_of(office).statements
    assert (found.account, found.closing) == ("1200", 70_00)
    february = IN_A_TABLE.replace("/01/", "/02/").replace("120.00\n", "190.00\n")
    february = february.replace("70.00\n", "140.00\n").replace(";0.00\n", ";70.00\n")
    outcome = take(office, ledger, file(tmp_path, "bank Feb 2026.csv", february))
    assert outcome.questions == ()
    assert "bank Feb 2026.csv: new lines on 1200: 2." in outcome.taken.warnings


def test_a_bank_s_table_in_a_spreadsheet_is_a_statement_as_well(office, tmp_path):
    bank = tmp_path / "bank January.xlsx"
    with xlsxwriter.Workbook(bank) as book:
        sheet, day = book.add_worksheet(), book.add_format({"num_format": "dd/mm/yyyy"})
        sheet.write(0, 0, "Averin Savings, account 4471")
        sheet.write_row(2, 0, ["Date", "Details", "Money in", "Money out", "Balance"])
        for place, (number, text, *sums) in enumerate(
            ((20, "MOSS HALL", 120.0, None, 120.0), (21, "QUAY ESTATES", None, 50.1, 69.9)), 3
        ):
            sheet.write_datetime(place, 0, datetime(2026, 1, number), day)
            sheet.write_row(place, 1, [text, *sums])
    outcome = take(office, file(tmp_path, "ledger.csv", SMALL), bank)
    assert "bank January.xlsx: new lines on 1200: 2." in outcome.taken.warnings
    (found,) = books_of(office).statements
    assert [(line.day.day, line.amount, line.text) for line in found.lines] == [
        (20, 120_00, "MOSS HALL"),
        (21, -50_10, "QUAY ESTATES"),
    ]
    assert found.closing == 69_90


def test_a_table_that_no_balance_proves_is_a_statement_only_where_somebody_says_so(
    office, tmp_path
):
    ledger = file(tmp_path, "ledger.csv", SMALL)
    bare = "\n".join(
        line.rpartition(";")[0] for line in IN_A_TABLE.splitlines() if "OPEN" not in line
    )
    bank = file(tmp_path, "bank.csv", bare)
    (asked,) = take(office, ledger, bank).questions
    assert (asked.about, asked.proposed) == ("bank-or-list", "bank-statement")
    outcome = take(office, ledger, bank, answers={asked.id: "bank-statement"})
    assert "bank.csv: new lines on 1200: 2." in outcome.taken.warnings


def test_an_account_is_what_one_of_that_name_is_in_the_practice_s_other_charts(office, tmp_path):
    named = SMALL.replace("Rent", "Hull insurance and moorings")
    take(office, file(tmp_path, "ledger.csv", named))
    right = PutChartRight((AccountWanted("5000", role="repairs"),))
    asked = PostRequest("so they use it")
    acts.post(office.workplace, office["OB"], "HERON", right, asked)
    path = file(tmp_path, "other.csv", named)
    of_partner = listings.take_in(
        office.workplace, office["OB"], "OTHER", [path], new=NEW, preview=True
    )
    kind = of_partner.made.chart["5000"]
    assert (kind.role, "HERON has one of that name" in kind.why) == (AccountRole.REPAIRS, True)
    # Who does not see that client learns nothing of it.
    of_other = listings.take_in(
        office.workplace, office["PH"], "THIRD", [path], new=NEW, preview=True
    )
    assert "HERON" not in of_other.made.chart["5000"].why


AMBIGUOUS = SMALL.replace("2026-01-15", "02/01/2026").replace("2026-01-20", "03/01/2026")
AMBIGUOUS = AMBIGUOUS.replace("2026-01-25", "04/01/2026").replace("2026-02-25", "05/02/2026")


def test_days_that_can_be_read_in_two_orders_are_asked_about_once(office, tmp_path):
    path = file(tmp_path, "ledger.csv", AMBIGUOUS)
    outcome = take(office, path)
    (question,) = outcome.questions
    assert (question.about, outcome.taken) == ("date-order", None)
    assert [choice.example for choice in question.choices] == [
        "02/01/2026 is 2 January 2026",
        "02/01/2026 is 1 February 2026",
    ]
    with pytest.raises(Refusal):
        office.workplace.ledger(office["OB"], "HERON")
    take(office, path, answers={question.id: "mdy"})
    assert books_of(office).transactions["1"].posting_date == date(2026, 2, 1)
    # The next file of the layout asks nothing.
    again = take(office, file(tmp_path, "other.csv", AMBIGUOUS))
    assert (again.questions, again.taken.new, again.taken.changed) == ((), 0, 0)


def test_what_was_answered_is_proposed_for_another_client_and_can_be_forgotten(office, tmp_path):
    path = file(tmp_path, "ledger.csv", AMBIGUOUS)
    (question,) = take(office, path).questions
    take(office, path, answers={question.id: "mdy"})
    (kept,), _ = listing_answers.answers(office.workplace, office["OB"], "HERON")
    assert (kept.answer, kept.by) == ("mdy", "OB")
    (lent,) = listings.take_in(office.workplace, office["OB"], "OTHER", [path], new=NEW).questions
    assert (lent.proposed, "For HERON" in lent.text) == ("mdy", True)
    # Who does not see that client is not told of it.
    (own,) = listings.take_in(office.workplace, office["PH"], "THIRD", [path], new=NEW).questions
    assert (own.proposed, "For" in own.text) == ("dmy", False)
    assert listing_answers.forget_all(office.workplace, office["OB"], "HERON") == 1
    (again,) = take(office, path).questions
    assert again.id == question.id


def test_answers_are_named_changed_one_by_one_and_brought_to_another_practice(office, tmp_path):
    path = file(tmp_path, "ledger.csv", AMBIGUOUS)
    (question,) = take(office, path).questions
    take(office, path, answers={question.id: "mdy"})
    of = (office.workplace, office["OB"], "HERON")
    (kept,), _ = listing_answers.answers(*of)
    listing_answers.name(*of, kept.layout, "their monthly ledger")
    listing_answers.change(*of, kept.about, kept.layout, "dmy")
    # The next file is read by what is said now.
    assert listings.take_in(*of, [path], preview=True).taken.changed == 4
    with pytest.raises(BadAnswers, match="'soon' is no answer"):
        listing_answers.change(*of, kept.about, kept.layout, "soon")
    with pytest.raises(UnknownName):
        listing_answers.change(*of, kept.about, "other|columns", "dmy")
    document = listing_answers.given_out(*of)
    listing_answers.forget(*of, kept.about, kept.layout)
    assert listing_answers.answers(*of)[0] == []
    spoiled = json.loads(json.dumps(document).replace("dmy", "soon"))
    with pytest.raises(BadAnswers, match="Layout 1"):
        listing_answers.brought(*of, spoiled)
    # Whose files are, and a column before the first, come by no such file.
    for about, answer in (("whose", "take-in"), ("columns", '{"day": -1}')):
        row = {"layout": "heron boats", "answers": {about: answer}}
        with pytest.raises(BadAnswers):
            listing_answers.brought(*of, {"form": document["form"], "layouts": [row]})
    assert listing_answers.brought(*of, document) == 1
    (again,), names = listing_answers.answers(*of)
    assert (again.answer, names) == ("dmy", {kept.layout: "their monthly ledger"})


SIGNED = """\
Entry no,Date,Account,Description,Amount
1,2026-01-15,710,x,120.00
1,2026-01-15,820,x,-120.00
"""


def test_a_sign_that_nothing_proves_is_asked_and_one_that_names_prove_is_not(office, tmp_path):
    outcome = take(office, file(tmp_path, "signed.csv", SIGNED))
    assert [question.about for question in outcome.questions] == ["amount-sign"]
    proposed = take(office, file(tmp_path, "signed.csv", SIGNED), answers={"*": "proposed"})
    assert proposed.taken.new == 1
    rent = SIGNED.replace("710", "Rent").replace("820", "Bank account")
    named = f"{rent}2,2026-01-16,Insurance,x,120.00\n2,2026-01-16,Bank account,x,-120.00\n"
    credit_first = (
        named.replace(",120.00", ",X").replace("-120.00", "120.00").replace("X", "-120.00")
    )
    for text in (named, credit_first):
        outcome = take(office, file(tmp_path, "named.csv", text), preview=True)
        assert outcome.questions == ()
        made, _ = outcome.made.tables.transactions
        assert {line.account: line.amount for line in made.lines}["Rent"] == 120_00


def test_a_number_that_many_rows_lack_is_their_paper_s_unless_each_document_says_it_once(
    office, tmp_path
):
    heads = "No,Date,Account,Account name,Customer,Debit,Credit\n"
    rows = [
        (number, f"2026-0{month}-15", amount)
        for month, (number, amount) in enumerate((("", 90), ("A-1", 120), ("", 80), ("A-2", 70)), 1)
    ]
    each = "".join(
        f"{number},{day},1100,Trade debtors,Moss Hall,{amount}.00,\n"
        f"{number},{day},4000,Sales,,,{amount}.00\n"
        for number, day, amount in rows
    )
    seen = take(office, file(tmp_path, "each.csv", heads + each), preview=True)
    assert [row.reference for row in seen.made.tables.transactions] == [None, "A-1", None, "A-2"]
    once = "".join(
        f"J{place},{day},1100,Trade debtors,Moss Hall,{amount}.00,\n,,4000,Sales,,,{amount}.00\n"
        for place, (_, day, amount) in enumerate(rows)
    )
    seen = take(office, file(tmp_path, "once.csv", heads + once), preview=True)
    assert [row.id for row in seen.made.tables.transactions] == ["J0", "J1", "J2", "J3"]


def test_two_columns_of_sums_without_a_name_are_sides_by_what_their_accounts_are(office, tmp_path):
    left_first = SMALL.replace("Debit,Credit", "Left,Right")
    seen = take(office, file(tmp_path, "left.csv", left_first), preview=True)
    assert seen.questions == ()
    rows = [row.rpartition(",") for row in left_first.splitlines()]
    turned = "\n".join(
        f"{head.rpartition(',')[0]},{last},{head.rpartition(',')[2]}" for head, _, last in rows
    )
    swapped = take(office, file(tmp_path, "right.csv", turned + "\n"), preview=True)
    assert swapped.questions == ()
    assert swapped.made.tables.transactions == seen.made.tables.transactions
    # Accounts that nothing names say nothing of sides.
    bare = "\n".join(
        ",".join((*row.split(",")[:3], *row.split(",")[4:])) for row in left_first.splitlines()
    )
    (asked,) = take(office, file(tmp_path, "bare.csv", bare), preview=True).questions
    assert (asked.about, "column 'Left'" in asked.text) == ("amount-sign", True)


@pytest.mark.parametrize(
    ("text", "says"),
    [
        (SMALL.replace("4000,Sales,,INV-101,boat hire,,120.00", "4000,Sales,,INV-101,boat hire,,12.00"),
         "ledger.csv, line 2: the entries of 2026-01-15 do not balance, the debits are greater by 108.00"),
        (SMALL.rsplit("\n", 2)[0] + "\n", "ledger.csv, line 8"),
        (SMALL.replace("3,2026-01-25,5000,Rent,,R-17", "3,5000,Rent,,R-17,"), "can't be placed: line 6"),
        ("", "is empty"),
        (SMALL + f"9,2026-02-26,5000,Rent,,,x,{'9' * 5000}.00,\n9,2026-02-26,1200,Bank,,,x,,{'9' * 5000}.00\n",
         "can't be placed: line 10"),
        ("Dear all\nplease find attached\n", "no row names the columns"),
        (SMALL + ',,,,,,Total,640.00,640.01\n', "read 64000, written 64001"),
        (SMALL.replace("boat hire", '"boat hire', 1), "opened and not closed"),
        ("Date,Description,Amount,Balance\n2026-01-15,CARD FEES,-5.00,95.00\n", "on the Bank page"),
    ],
    ids=["a wrong sum", "cut off", "shifted", "empty", "no sum of money", "a letter", "a wrong total", "a quote", "a statement"],
)  # fmt: skip
def test_what_is_wrong_is_refused_with_its_place_and_nothing_is_taken_in(
    office, tmp_path, text, says
):
    # A total that disagrees is asked about first; the proposal is to refuse.
    with pytest.raises(Refused) as refused:
        take(office, file(tmp_path, "ledger.csv", text), answers={"*": "proposed"})
    assert says in str(refused.value)
    assert str(refused.value).endswith("Nothing was taken in.")
    with pytest.raises(Refusal):
        office.workplace.ledger(office["OB"], "HERON")


@pytest.mark.parametrize(
    ("content", "says"),
    [
        (b"\x89PNG\r\n\x1a\n....", "is a picture"),
        (b"%PDF-1.7 ....", "is a picture or a printed page"),
        (b"PK\x03\x04 and then nothing", "no whole spreadsheet"),
        (b"\xd0\xcf\x11\xe0" + "EncryptedPackage".encode("utf-16-le"), "locked with a password"),
    ],
    ids=["a picture", "a print", "cut off", "locked"],
)
def test_what_is_no_table_is_refused_in_words(office, tmp_path, content, says):
    path = tmp_path / "ledger.xlsx"
    path.write_bytes(content)
    other = file(tmp_path, "empty.csv", "")
    with pytest.raises(Refused) as refused:
        take(office, path, other)
    assert says in str(refused.value)
    assert "empty.csv is empty" in str(refused.value)


def test_a_total_that_disagrees_is_taken_in_by_somebodys_answer_and_stays_a_proof_that_failed(
    office, tmp_path
):
    path = file(tmp_path, "ledger.csv", SMALL + ",,,,,,Total,640.00,640.01\n")
    outcome = take(office, path, answers={"difference:ledger.csv": "take-in"})
    failed = [proof for proof in outcome.made.proofs if not proof.holds]
    assert [(proof.ours, proof.theirs, proof.where.line) for proof in failed] == [
        (64000, 64001, 10)
    ]
    assert outcome.taken.new == 4


@cache
def source():
    return labelled(4).books


def written(style, tmp_path, name, keep=lambda _row: True):
    renderer = Renderer(source(), style)
    rows = [row for row in renderer.ledger() if keep(row)]
    return renderer.write(rows, tmp_path / name)


def test_the_next_export_of_a_layout_brings_only_what_is_new_changed_and_gone(office, tmp_path):
    def until_june(row):
        return not str(row[0]).startswith(("2026-07", "2026-08", "2026-09", "2026-10"))

    take(office, written(STYLES[0], tmp_path, "june", until_june))
    before = len(books_of(office).tables.transactions)
    outcome = take(office, written(STYLES[0], tmp_path, "october"))
    assert outcome.taken.changed == outcome.taken.removed == 0
    assert outcome.taken.new == len(books_of(office).tables.transactions) - before
    again = take(office, written(STYLES[0], tmp_path, "again"))
    assert (again.taken.new, again.taken.changed, again.taken.removed) == (0, 0, 0)


def test_without_numbers_an_entry_is_known_by_what_is_in_it(office, tmp_path):
    style = next(row for row in STYLES if row.name == "flat, without numbers")
    take(office, written(style, tmp_path, "first"))
    again = take(office, written(style, tmp_path, "again"))
    assert (again.taken.new, again.taken.changed, again.taken.removed) == (0, 0, 0)


def test_a_ledger_that_begins_later_must_begin_where_the_books_ended(office, tmp_path):
    by_account = Style("by account", layout="by-account", running=True)
    take(office, written(by_account, tmp_path, "all"))
    text = (
        "Date,Document no,Description,Debit,Credit,Balance\n"
        "{code},Bank\nOpening balance,,,,,{opening}\n2026-11-05,V1,fee,,5.00,{closing}\n"
        "{cost},Office\n2026-11-05,V1,fee,5.00,,5.00\n"
    )
    bank, office_cost = "10", "100"
    held = balance(office, bank, date(2026, 10, 31))

    def november(opening):
        shown = {"opening": f"{opening / 100:.2f}", "closing": f"{(opening - 500) / 100:.2f}"}
        return file(tmp_path, "november.csv", text.format(code=bank, cost=office_cost, **shown))

    outcome = take(office, november(held + 100))
    assert [question.about for question in outcome.questions] == ["difference"]
    outcome = take(office, november(held))
    assert (outcome.taken.new, outcome.taken.removed) == (1, 0)
    assert balance(office, bank, date(2026, 11, 30)) == held - 5_00


def test_a_trial_balance_and_open_items_beside_the_ledger_prove_it(office, tmp_path):
    renderer = Renderer(source(), STYLES[0])
    day = date(2026, 10, 31)
    held = {row.account: row.balance for row in trial_balance(source(), day).rows}
    balances = renderer.write(renderer.balances(held, day), tmp_path / "trial balance")
    ledger = renderer.write(renderer.ledger(), tmp_path / "ledger")
    outcome = take(office, ledger, balances, preview=True)
    proof = next(row for row in outcome.made.proofs if "trial balance at 2026-10-31" in row.what)
    assert proof.ours == proof.theirs == len(held)
    held["10"] += 1
    held["60"] -= 1
    wrong = renderer.write(renderer.balances(held, day), tmp_path / "trial balance")
    outcome = take(office, ledger, wrong)
    (question,) = outcome.questions
    assert (question.about, question.file) == ("difference", "the files together")


TWO_YEARS = """\
Heron Boats
Trial balance as at 31 October 2026

Account,Account name,31.12.2025,31.10.2026
1100,Trade debtors,90.00,70.00
1200,Bank account,410.00,670.00
3000,Owner's capital,-100.00,-500.00
4000,Sales,-900.00,-700.00
5000,Rent,500.00,460.00
"""


def test_a_client_of_whom_only_trial_balances_are_known_is_a_whole_client(office, tmp_path):
    outcome = take(office, file(tmp_path, "tb.csv", TWO_YEARS))
    assert outcome.taken.new == 2
    books = books_of(office)
    opening, moved = books.tables.transactions
    assert (opening.kind, opening.posting_date) == (TransactionKind.OPENING, date(2025, 12, 31))
    assert {line.account: line.amount for line in opening.lines} == {
        "1100": 90_00,
        "1200": 410_00,
        "3000": -500_00,
    }
    assert {row.account: row.balance for row in trial_balance(books, date(2026, 10, 31)).rows} == {
        "1100": 70_00, "1200": 670_00, "3000": -500_00, "4000": -700_00, "5000": 460_00,
    }  # fmt: skip
    assert moved.kind is TransactionKind.JOURNAL
    (owed,) = aged(books, AccountRole.RECEIVABLES, date(2026, 10, 31))
    assert (books.parties[owed.party].name, owed.total) == ("Customers, taken together", 70_00)
    # What needs entries keeps quiet.
    assert list(review.points(office.workplace, office["OB"], "HERON")) == []


@pytest.mark.parametrize("year_end", ["06-30", "02-28", "12-31"])
def test_the_last_day_of_any_month_ends_a_year(office, tmp_path, year_end):
    new = NEW._replace(year_end=parse_year_end(year_end))
    ends = month_end(2024, *new.year_end)
    ledger = f"""\
Entry no,Date,Account,Account name,Description,Debit,Credit
1,{ends},4000,Sales,year closed,500.00,
1,{ends},5000,Rent,year closed,,300.00
1,{ends},5100,Wages,year closed,,150.00
1,{ends},3100,Retained earnings,year closed,,50.00
"""
    seen = take(office, file(tmp_path, "ledger.csv", ledger), new=new, preview=True)
    assert [row.kind for row in seen.made.tables.transactions] == [TransactionKind.CLOSING]
    balances = f"Account,Name,{ends}\n1200,Bank,50.00\n3100,Retained earnings,-50.00\n"
    seen = take(office, file(tmp_path, "tb.csv", balances), new=new, preview=True)
    assert [row.kind for row in seen.made.tables.transactions] == [TransactionKind.OPENING]


def test_a_trial_balance_that_does_not_balance_makes_no_books(office, tmp_path):
    path = file(tmp_path, "tb.csv", TWO_YEARS.replace("460.00", "461.00"))
    with pytest.raises(Refused, match=r"debits are greater by 1\.00"):
        take(office, path, answers={"*": "proposed", "difference:tb.csv": "take-in"})


FEC = """\
JournalCode|JournalLib|EcritureNum|EcritureDate|CompteNum|CompteLib|CompAuxNum|CompAuxLib|PieceRef|PieceDate|EcritureLib|Debit|Credit
AN|A nouveaux|1|20250101|512000|Banque||||20250101|A nouveaux|5000,00|0,00
AN|A nouveaux|1|20250101|101000|Capital||||20250101|A nouveaux|0,00|5000,00
VE|Ventes|2|20250215|411000|Clients|C001|Moulin Vert|FA-101|20250214|Facture|1200,00|0,00
VE|Ventes|2|20250215|706000|Prestations de services||||20250214|Facture|0,00|1200,00
"""
AUDIT_DATA = """\
Journal_ID|Journal_ID_Line_Number|JE_Line_Description|Source|Business_Unit_Code|Effective_Date|GL_Account_Number|Amount|Amount_Credit_Debit_Indicator|Amount_Currency
J1|1|rent of January|AP|01|2026-01-05|6100|300.00|D|EUR
J1|2|rent of January|AP|01|2026-01-05|2100|300.00|C|EUR
"""
AUDIT_CHART = """\
GL_Account_Number|GL_Account_Name|Account_Type
6100|Rent|Expense
2100|Trade creditors|Liability
"""


def test_the_legal_ledger_of_a_country_is_read_as_it_is(office, tmp_path):
    take(office, file(tmp_path, "123456789FEC20251231.txt", FEC))
    books = books_of(office)
    opening, invoice = books.tables.transactions
    assert (opening.kind, invoice.kind) == (TransactionKind.OPENING, TransactionKind.SALES_INVOICE)
    assert (invoice.reference, invoice.document_date) == ("FA-101", date(2025, 2, 14))
    assert (invoice.party, books.parties["C001"].name) == ("C001", "Moulin Vert")
    assert books.accounts["706000"].role is AccountRole.SALES


def test_a_set_of_the_audit_data_standard_is_read_together(office, tmp_path):
    detail = file(tmp_path, "GL_Detail_20260101_20260131.txt", AUDIT_DATA)
    chart = file(tmp_path, "Chart_Of_Accounts.txt", AUDIT_CHART)
    outcome = take(office, detail, chart)
    assert [row.read_as for row in outcome.files] == ["accounts", "ledger"]
    (posted,) = books_of(office).tables.transactions
    assert {line.account: line.amount for line in posted.lines} == {"6100": 300_00, "2100": -300_00}
    assert books_of(office).accounts["6100"].other == ""


def test_whole_books_come_by_the_same_way(office, tmp_path):
    folder = tmp_path / "small.zip"
    with zipfile.ZipFile(folder, "w") as archive:
        for made in sorted((tmp_path / "small").rglob("*")):
            if made.is_file():
                archive.write(made, made.relative_to(tmp_path / "small"))
    outcome = listings.take_in(office.workplace, office["OB"], "SMALL", [folder])
    assert [row.read_as for row in outcome.files] == ["books-folder"]
    assert (outcome.taken.new, outcome.taken.changed) == (0, 0)
    audit = tmp_path / "audit.xml"
    books.give_out_audit_file(office.workplace, office["OB"], "SMALL", "2026", audit)
    outcome = listings.take_in(office.workplace, office["OB"], "SMALL", [audit], preview=True)
    assert [row.read_as for row in outcome.files] == ["audit-file"]


def test_a_trial_balance_that_says_no_day_is_asked_for_it(office, tmp_path):
    text = "Account,Account name,Debit,Credit\n1200,Bank account,5.00,\n3000,Capital,,5.00\n"
    outcome = take(office, file(tmp_path, "tb.csv", text))
    (question,) = outcome.questions
    assert question.about == "year"
    outcome = take(office, file(tmp_path, "tb.csv", text), answers={question.id: "2025-12-31"})
    assert books_of(office).tables.transactions[0].posting_date == date(2025, 12, 31)


def test_a_workbook_is_read_with_merged_headings_hidden_rows_and_kept_formulas(office, tmp_path):
    path = tmp_path / "ledger.xlsx"
    with xlsxwriter.Workbook(str(path)) as book:
        sheet = book.add_worksheet("2026")
        book.add_worksheet("Notes").write(0, 0, "")
        day = book.add_format({"num_format": "dd/mm/yyyy"})
        sheet.write_row(0, 0, ("Date", "Details", "Debit", "Credit", "Balance"))
        line = 1
        for account, sign in (("1200 Bank account", -1), ("6100 Rent", 1)):
            sheet.merge_range(line, 0, line, 4, account)
            for number, cents in enumerate((30_000, 12_550), 1):
                sheet.write_datetime(line + number, 0, datetime(2026, 1, number), day)
                sheet.write(line + number, 1, "rent")
                sheet.write_formula(line + number, 2 if sign > 0 else 3, "=1*1", None, cents / 100)
            sheet.set_row(line + 2, None, None, {"hidden": True})
            total = sign * 42_550 / 100
            sheet.write_row(
                line + 3, 0, ("Total", "", *((total, "") if sign > 0 else ("", -total)))
            )
            line += 5
    outcome = take(office, path)
    assert outcome.questions == ()
    assert [proof for proof in outcome.made.proofs if not proof.holds] == []
    assert balance(office, "6100", date(2026, 1, 31)) == 425_50
    assert len(books_of(office).tables.transactions) == 2


def test_files_that_name_another_client_are_asked_about_before_they_replace_books(office, tmp_path):
    own = file(tmp_path, "ledger.csv", "Heron Boats Ltd\n\n" + SMALL)
    take(office, own)
    other = file(tmp_path, "other.csv", "Teal Bindery Ltd\n\n" + SMALL.replace("120.00", "121.00"))
    (question,) = take(office, other).questions
    assert (question.about, question.proposed) == ("whose", "refuse")
    with pytest.raises(Refused, match="Teal Bindery"):
        take(office, other, answers={"*": "proposed"})
    assert balance(office, "4000", date(2026, 2, 28)) == -120_00
    take(office, other, answers={question.id: "take-in"})
    assert take(office, other).questions == ()


def test_what_is_barred_is_barred_by_this_way_too(office, tmp_path):
    """SMALL is filed to the end of 2025; a list that moves what lies before is refused whole."""
    text = SMALL.replace("2026-01-", "2025-08-").replace("2026-02-", "2025-09-")
    path = file(tmp_path, "ledger.csv", text)
    before = office.workplace.ledger(office["OB"], "SMALL").client.revision
    for who in ("IO", "TV"):
        with pytest.raises(Refusal, match="finished or held months"):
            listings.take_in(
                office.workplace, office[who], "SMALL", [path], answers={"*": "proposed"}
            )
    with pytest.raises(Refusal, match="You can't take in"):
        listings.take_in(office.workplace, office["PH"], "SMALL", [path])
    assert office.workplace.ledger(office["OB"], "SMALL").client.revision == before


def test_a_new_client_does_not_fall_into_the_books_of_one_that_has_its_code(office, tmp_path):
    path = file(tmp_path, "ledger.csv", SMALL)
    before = office.workplace.ledger(office["OB"], "SMALL").client.revision
    with pytest.raises(Refusal, match="is SMALL & Co already"):
        listings.take_in(office.workplace, office["OB"], "SMALL", [path], new=NEW)
    assert office.workplace.ledger(office["OB"], "SMALL").client.revision == before
    # Asked twice, as by a key that is held down, it is there once.
    take(office, path)
    assert (take(office, path).taken.new, len(books_of(office).tables.transactions)) == (0, 4)


def clinic(months=6):
    """A ledger whose names do not say what is owed, nor what is earned; each loan's interest is a whole part
    of its repayment, as a tax would be."""
    rows, number = ["No,Date,Account,Name,Contact,Reference,Text,Debit,Credit"], 0

    def entry(day, who, reference, *lines):
        nonlocal number
        number += 1
        for account, name, amount in lines:
            sides = (f"{amount}.00,", f",{-amount}.00")[amount < 0]
            rows.append(f"{number},2026-{day},{account},{name},{who},{reference},{who},{sides}")

    bank, owed, bills = (1300, "Main account"), (1200, "Patients owing"), (2000, "Suppliers owed")
    entry(
        "01-01",
        "",
        "OB",
        (*bank, 9000),
        (2300, "Loan Averin", -6000),
        (3000, "Share capital", -3000),
    )
    for month in range(1, months + 1):
        who, paper = ("Corvin Mutual", "Vesta Club")[month % 2], f"LP-{month:02d}"
        entry(
            f"{month:02d}-05",
            who,
            paper,
            (*owed, 3000 + month),
            (4000, "Treatments", -3000 - month),
        )
        entry(f"{month:02d}-25", who, paper, (*bank, 3000 + month), (*owed, -3000 - month))
        cost = (5000, "Aids bought", 200), (2100, "VAT", 46)
        entry(f"{month:02d}-07", "Kinemed", f"K-{month}7", *cost, (*bills, -246))
        entry(f"{month:02d}-27", "Kinemed", f"K-{month}7", (*bills, 246), (*bank, -246))
        loan = (2300, "Loan Averin", 500), (6710, "Loan interest", 90)
        entry(f"{month:02d}-15", "", "", *loan, (*bank, -590))
        entry(f"{month:02d}-20", "", "", (*bank, 40), (4900, "Odds and ends", -40))
    return "\n".join(rows) + "\n"


def test_what_is_owed_and_earned_is_known_where_interest_looks_like_a_tax(office, tmp_path):
    take(office, file(tmp_path, "ledger.csv", clinic()))
    roles = {
        code: (row.type.value, row.role.value) for code, row in books_of(office).accounts.items()
    }
    assert roles["1200"] == ("asset", "receivables")
    assert roles["4000"][0] == "income"
    # It is credited and never paid: no debt is.
    assert roles["4900"][0] == "income"
    assert roles["6710"] == ("expense", "loan-interest")


def test_money_that_names_another_s_paper_or_one_that_is_paid_is_for_no_other(office, tmp_path):
    rows = clinic(3)
    rows += "90,2026-03-28,1300,Main account,,LP-02,x,3002.00,\n"
    rows += "90,2026-03-28,1200,Patients owing,Vesta Club,LP-02,x,,3002.00\n"
    rows += "91,2026-03-29,1200,Patients owing,Vesta Club,LP-99,x,800.00,\n"
    rows += "91,2026-03-29,4000,Treatments,Vesta Club,LP-99,x,,800.00\n"
    rows += "92,2026-03-30,2000,Suppliers owed,Kinemed,K-17,x,246.00,\n"
    rows += "92,2026-03-30,1300,Main account,,K-17,x,,246.00\n"
    rows += "93,2026-03-30,5000,Aids bought,Kinemed,K-98,x,90.00,\n"
    rows += "93,2026-03-30,2000,Suppliers owed,Kinemed,K-98,x,,90.00\n"
    take(office, file(tmp_path, "ledger.csv", rows))
    books = books_of(office)
    settled = {
        name
        for row in books.tables.allocations
        for name in (row.debit_transaction, row.credit_transaction)
    }
    assert settled.isdisjoint({"90", "91", "92", "93"})
    assert {row.point.check for row in review.points(office.workplace, office["OB"], "HERON")} >= {
        "duplicate-payment",
    }


@pytest.mark.parametrize(
    ("name", "owner"),
    [
        ("Director's current account, M. Larkin", "M. Larkin"),
        ("Anna Berg - drawings", "Anna Berg"),
        ("Drawings, personal", None),
        ("Drawings", None),
    ],
)
def test_whom_an_owner_s_account_names_is_an_owner(office, tmp_path, name, owner):
    rows = clinic(1) + (
        f'80,2026-02-01,3100,"{name}",,,taken,50.00,\n80,2026-02-01,1300,Main account,,,taken,,50.00\n'
    )
    take(office, file(tmp_path, "ledger.csv", rows))
    owners = [row.name for row in books_of(office).parties.values() if row.kind is PartyKind.OWNER]
    assert owners == ([owner] if owner else [])
    # Newer files make nobody else of whom somebody said, nor take anybody away.
    renamed = rows.replace("Larkin", "Larkins").replace("Berg", "Bergs")
    take(office, file(tmp_path, "ledger.csv", renamed))
    again = [row.name for row in books_of(office).parties.values() if row.kind is PartyKind.OWNER]
    assert again == owners


def people_as_accounts(customers, costs):
    """Three customers with accounts of their own, each charged and paid twice; and three costs alike."""
    rows, number = ["No,Date,Account,Name,Text,Debit,Credit"], 0

    def entry(day, *lines):
        nonlocal number
        number += 1
        for account, name, amount in lines:
            sides = (f"{amount}.00,", f",{-amount}.00")[amount < 0]
            rows.append(f"{number},2026-{day},{account},{name},,{sides}")

    for month in (1, 2, 3):
        for code, name in zip(customers, ("Durand", "Fayolle", "Zephyr Ortega"), strict=True):
            entry(f"0{month}-05", (code, name, 100), ("700000", "Sales", -100))
            entry(f"0{month}-25", ("512000", "Bank account", 100), (code, name, -100))
        for code, name in zip(costs, ("Roses", "Tulips", "Asters"), strict=True):
            entry(f"0{month}-08", (code, name, 40), ("512000", "Bank account", -40))
    return "\n".join(rows) + "\n"


@pytest.mark.parametrize(
    "customers",
    [("411DUR", "411FAY", "411ORT"), ("411001", "411002", "411003")],
    ids=["letters", "figures"],
)
def test_accounts_of_people_that_are_no_longer_than_others_are_taken_together(
    office, tmp_path, customers
):
    costs = ("607001", "607002", "607003")
    take(office, file(tmp_path, "ledger.csv", people_as_accounts(customers, costs)))
    books = books_of(office)
    assert {row.name for row in books.parties.values() if row.kind is PartyKind.CUSTOMER} == {
        "Durand", "Fayolle", "Zephyr Ortega",
    }  # fmt: skip
    assert set(costs) <= books.accounts.keys()
    assert not set(customers) & books.accounts.keys()
    (control,) = books.with_role(AccountRole.RECEIVABLES)
    assert balance(office, control.code, date(2026, 3, 10)) == 300_00


@pytest.mark.parametrize(
    "codes",
    [("512DOK", "512AVE", "512LIT"), ("455001", "455002", "455003")],
    ids=["banks", "partners"],
)
def test_accounts_alike_that_no_bank_settles_are_nobody_s(office, tmp_path, codes):
    rows = ["No,Date,Account,Name,Text,Debit,Credit"]
    others = ("700000", "Sales"), ("613200", "Rent"), ("616000", "Insurance")
    for number in range(24):
        code, name = codes[number % 3], ("Dock", "Averin", "Litoral")[number % 3]
        other, called = (
            others[number % 2 + (number // 12)] if codes[0] == "512DOK" else ("512000", "Bank")
        )
        day = f"2026-0{number // 4 + 1}-{number % 4 + 10}"
        amounts = ("50.00,", ",50.00")
        rows.append(f"{number},{day},{code},{name},,{amounts[number % 2]}")
        rows.append(f"{number},{day},{other},{called},,{amounts[1 - number % 2]}")
    take(office, file(tmp_path, "ledger.csv", "\n".join(rows) + "\n"))
    assert set(codes) <= books_of(office).accounts.keys()
