"""Cash books with a column for each account."""

from collections import Counter
from datetime import date

import pytest

from corkpost.core.money import Currency
from corkpost.formats.listings.cash_books import as_ledger
from corkpost.formats.listings.questions import Answers
from corkpost.formats.listings.sheets import sheets_in
from corkpost.formats.listings.understanding import understand
from tests.builders import TODAY
from tests.listings.test_taking_in import balance, books_of, file, take

PAID = """\
Marlow Garden Care: payments,,,,,,,
Date,Paid to,Chq,Bank,Fuel,Rent,VAT,Sundry
05/01/2026,Yard rent,101,300.00,,300.00,,
11/01/2026,Circle Fuels,102,123.00,100.00,,23.00,
19/01/2026,Stationers,103,61.50,,,11.50,50.00
05/02/2026,Yard rent,104,300.00,,300.00,,
25/02/2026,Circle Fuels,,-12.30,-10.00,,-2.30,
,Total,,772.20,90.00,600.00,32.20,50.00
"""
RECEIVED = """\
Date;Received from;Ref;Bank;Garden work;Plants sold
14/01/2026;Marlow House;R1;640,00;640,00;
21/01/2026;Teasel & Rook;R2;212,50;100,00;112,50
14/02/2026;Parish of St Wynn;R3;55,00;;55,00
"""


def read(text, name="book.csv"):
    asked = Answers({})
    found = understand(sheets_in(name, text.encode()), Currency("EUR"), asked, TODAY)
    return found, asked.asked


def held(text):
    sums = Counter[str]()
    found, _ = read(text)
    for row in found.raw.postings:
        sums[row.account] += row.amount
    return sums


def test_what_was_paid_and_received_stands_on_the_bank_and_on_each_account(office, tmp_path):
    paid = file(tmp_path, "payments.csv", PAID)
    take(office, paid, file(tmp_path, "receipts.csv", RECEIVED))
    assert len(books_of(office).tables.transactions) == 8
    end = date(2026, 2, 28)
    assert balance(office, "Bank", end) == 640_00 + 212_50 + 55_00 - 772_20
    assert balance(office, "Garden work", end) == -740_00
    assert balance(office, "Plants sold", end) == -167_50
    assert balance(office, "VAT", end) == 32_20
    (fuel,) = (t for t in books_of(office).tables.transactions if t.reference == "102")
    assert (fuel.posting_date, fuel.memo) == (date(2026, 1, 11), "Circle Fuels")


def test_how_it_was_read_is_said_with_its_own_lines():
    found, asked = read(PAID)
    assert (asked, found.faults) == ([], [])
    assert found.files[0].how[0] == "a cash book, with a column for each account"
    assert {row.where.line for row in found.raw.postings} == {3, 4, 5, 6, 7}
    assert [proof.holds for proof in found.raw.proofs] == [True, True]


CELLS = [(n, m) for n in range(2, 8) for m in range(3, 8) if PAID.splitlines()[n].split(",")[m]]


@pytest.mark.parametrize(("line", "place"), CELLS)
def test_no_figure_that_was_changed_comes_to_other_sums_unsaid(line, place):
    lines = PAID.splitlines()
    cells = lines[line].split(",")
    cells[place] = f"{float(cells[place]) + 1:.2f}"
    lines[line] = ",".join(cells)
    found, asked = read("\n".join(lines) + "\n")
    unproved = any(not proof.holds for proof in found.raw.proofs)
    assert asked or found.faults or unproved or held("\n".join(lines)) == held(PAID)


@pytest.mark.parametrize(
    "text",
    [
        # A day book of invoices: its total is what customers owe.
        "Sales receipts\nDate,Invoice,Customer,Net,VAT,Gross\n" + "".join(
            f"0{n}/03/2026,INV-{n},Moss Hall,100.00,23.00,123.00\n" for n in range(1, 6)
        ),
        RECEIVED.replace(";Ref", ";Invoice no"),
        # What is owed by age.
        "Payments due\nDate,Supplier,Ref,Current,31-60 days,Total\n" + "".join(
            f"0{n}/03/2026,Reedwharf,B-{n},10.00,,10.00\n" for n in range(1, 6)
        ),
        # Nothing says which way the money went.
        PAID.replace("payments", "book").replace("Paid to", "Who"),
        # What goes to the accounts is not what was paid.
        PAID.replace("300.00,,300", "30.00,,300"),
    ],
    ids=["day book", "of invoices", "ages", "no side", "does not add up"],
)  # fmt: skip
def test_what_only_looks_like_one_is_left_to_be_read_as_it_is(text):
    (sheet,) = sheets_in("book.csv", text.encode())
    assert as_ledger(sheet) is None


def test_a_row_keeps_what_it_is_in_the_next_file_of_the_same_name(office, tmp_path):
    take(office, file(tmp_path, "payments.csv", PAID))
    lines = PAID.splitlines()
    # The same book with a row that was forgotten, and then the next month's alone.
    lines.insert(3, "08/01/2026,Reed Wharf,100,20.00,20.00,,,")
    lines[-1] = ",Total,,792.20,110.00,600.00,32.20,50.00"
    outcome = take(office, file(tmp_path, "payments.csv", "\n".join(lines) + "\n"))
    assert (outcome.taken.new, outcome.taken.changed, outcome.taken.removed) == (1, 0, 0)
    march = "\n".join(
        [*lines[:2], *(f"1{n}/03/2026,Reed Wharf,20{n},9.50,9.50,,," for n in (3, 4, 5))]
    )
    outcome = take(office, file(tmp_path, "payments.csv", march + "\n"))
    assert (outcome.questions, outcome.faults) == ((), ())
    assert (outcome.taken.new, outcome.taken.changed, outcome.taken.removed) == (3, 0, 0)
