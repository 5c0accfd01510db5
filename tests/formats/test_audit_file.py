"""The standard audit file: a year written and read back the same, and files that others wrote."""

from collections import defaultdict
from dataclasses import replace
from datetime import date
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from lxml import etree

from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.open_items import open_items
from corkpost.core.trial_balance import balances_at
from corkpost.formats.audit_file.reading import read_audit_file
from corkpost.formats.audit_file.writing import write_audit_file
from corkpost.formats.books_folder.archive import UnreadableBooks
from corkpost.formats.books_folder.faults import FaultyBooks
from tests.builders import CODES, after, books_with, day
from tests.core.strategies import any_books
from tests.core.test_entries import cr, dr, entry, plan_entry
from tests.formats.folders import small_books

YEAR = date(2026, 12, 31)
XSD = etree.XMLSchema(file=str(Path(__file__).parents[2] / "docs/formats/audit-file.xsd"))


def written(books, to: Path) -> Path:
    write_audit_file(books, books.calendar.year_of(YEAR), to, created=date(2027, 1, 5))
    return to


def as_books(folder, like):
    return replace(like, client=folder.client, tables=folder.tables, kept=type(like.kept)())


def rows(books):
    """What the file carries of each transaction of the year, by id."""
    year = books.calendar.year_of(YEAR)
    return {
        row.id: (
            row.kind, row.entry_kind, row.posting_date, row.day,
            row.corrects or row.reference, row.party, row.entered_by,
            [(x.account, x.amount, x.party, x.tax_code, x.dimensions) for x in row.lines],
        )
        for row in books.tables.transactions
        if year.first_day <= row.posting_date <= year.last_day
    }  # fmt: skip


def settled(books, inside):
    undone = {row.undoes for row in books.tables.allocations}
    return {
        (row.party, row.debit_transaction, row.credit_transaction, row.amount)
        for row in books.tables.allocations
        if row.undoes is None
        and row.id not in undone
        and {row.debit_transaction, row.credit_transaction} <= inside
    }


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(any_books())
def test_a_year_comes_back_as_it_went(tmp_path_factory, books):
    """The same transactions, what settles them, and trial balance on every day of the year."""
    file = written(books, tmp_path_factory.mktemp("saft") / "year.xml")
    XSD.assertValid(etree.parse(str(file)))
    found = as_books(read_audit_file(file), books)
    assert rows(found) == rows(books)
    assert settled(found, rows(found).keys()) == settled(books, rows(books).keys())
    for month in range(1, 13):
        at = day(f"2026-{month:02d}-28")
        assert nonzero(balances_at(found, at)) == nonzero(balances_at(books, at))
    assert by_party(found) == by_party(books)


def nonzero(sums):
    return {code: amount for code, amount in sums.items() if amount}


def by_party(books):
    sums: defaultdict[tuple[str | int, ...], int] = defaultdict(int)
    for key, left in open_items(books).open_now.items():
        sums[key[1:]] += left
    return {key: amount for key, amount in sums.items() if amount}


def test_our_entries_are_a_journal_of_their_own(tmp_path):
    books = small_books()
    done = after(
        books, plan_entry(books, entry("2026-10-31", dr("fuel", "9.00"), cr("accruals", "9.00")))
    )
    tree = etree.parse(str(written(done, tmp_path / "year.xml")))
    names = {"n": "urn:OECD:StandardAuditFile-Taxation/2.00"}
    ours = tree.xpath(
        "//n:Journal[n:JournalID='ADJ']/n:Transaction/n:TransactionType", namespaces=names
    )
    assert [node.text for node in ours] == ["journal/adjusting"]


def test_what_is_known_of_an_account_and_the_file_does_not_say_stays(tmp_path):
    books = small_books()
    found = read_audit_file(written(books, tmp_path / "year.xml"), lambda code: books)
    assert found.tables.accounts == books.tables.accounts
    assert {row.id: row for row in found.tables.transactions} == {
        row.id: row for row in books.tables.transactions if row.posting_date.year == 2026
    }
    assert found.tables.allocations == books.tables.allocations
    # The books of the year before are there: nothing opens a second time.
    assert all(row.kind != "opening" for row in found.tables.transactions)


SMALLEST = """<?xml version="1.0" encoding="UTF-8"?>
<AuditFile xmlns="urn:OECD:StandardAuditFile-Tax:PT_1.04_01">
  <Header><CompanyID>HARBOUR-7</CompanyID><CompanyName>Harbour Ltd</CompanyName>
    <StartDate>2026-01-01</StartDate><EndDate>2026-12-31</EndDate><CurrencyCode>EUR</CurrencyCode></Header>
  <MasterFiles><GeneralLedgerAccounts>
    <Account><AccountID>11</AccountID><AccountDescription>Bank</AccountDescription><AccountType>Asset</AccountType>
      <OpeningDebitBalance>50.00</OpeningDebitBalance><OpeningCreditBalance>0.00</OpeningCreditBalance>
      <ClosingDebitBalance>{closing}</ClosingDebitBalance><ClosingCreditBalance>0.00</ClosingCreditBalance></Account>
    <Account><AccountID>21</AccountID><AccountDescription>Customers</AccountDescription><AccountType>Asset</AccountType></Account>
    <Account><AccountID>51</AccountID><AccountDescription>Capital</AccountDescription><AccountType>Other</AccountType>
      <OpeningCreditBalance>50.00</OpeningCreditBalance></Account>
    <Account><AccountID>71</AccountID><AccountDescription>Sales</AccountDescription><AccountType>Sale</AccountType></Account>
  </GeneralLedgerAccounts>
  <Customer><CustomerID>C1</CustomerID><AccountID>21</AccountID><CompanyName>Averin Scouts</CompanyName></Customer></MasterFiles>
  <GeneralLedgerEntries><Journal><JournalID>V</JournalID>
    <Transaction><TransactionID>V1</TransactionID><Period>1</Period><TransactionDate>2026-01-15</TransactionDate>
      <Description>Sale</Description><GLPostingDate>2026-01-15</GLPostingDate><CustomerID>C1</CustomerID>
      <Lines><DebitLine><RecordID>1</RecordID><AccountID>21</AccountID><SourceDocumentID>F 7</SourceDocumentID>
          <CustomerID>C1</CustomerID><Description>Sale</Description><DebitAmount>119.00</DebitAmount></DebitLine>
        <CreditLine><RecordID>2</RecordID><AccountID>{sales}</AccountID><Description>Sale</Description>
          <CreditAmount>119.00</CreditAmount></CreditLine></Lines></Transaction>
    <Transaction><TransactionID>B1</TransactionID><Period>2</Period><TransactionDate>2026-02-01</TransactionDate>
      <Description>Paid</Description><GLPostingDate>2026-02-01</GLPostingDate><CustomerID>C1</CustomerID>
      <Lines><DebitLine><RecordID>1</RecordID><AccountID>11</AccountID><DebitAmount>119.00</DebitAmount></DebitLine>
        <CreditLine><RecordID>2</RecordID><AccountID>21</AccountID><CustomerID>C1</CustomerID>
          <CreditAmount>119.00</CreditAmount></CreditLine></Lines></Transaction>
  </Journal></GeneralLedgerEntries>
  <SourceDocuments><Payments><Payment><PaymentRefNo>R 1</PaymentRefNo><TransactionID>B1</TransactionID>
    <TransactionDate>2026-02-01</TransactionDate>
    <Line><SourceDocumentID>F 7</SourceDocumentID><CustomerID>C1</CustomerID>
      <PaymentLineAmount><Amount>119.00</Amount></PaymentLineAmount></Line></Payment></Payments></SourceDocuments>
</AuditFile>
"""


def other(tmp_path, text=SMALLEST, closing="169.00", sales="71"):
    file = tmp_path / "other.xml"
    file.write_text(text.replace("{closing}", closing).replace("{sales}", sales))
    return file


def test_a_file_of_another_kind_and_country_is_read(tmp_path):
    found = read_audit_file(other(tmp_path))
    assert (found.client.code, found.client.name) == ("HARBOUR-7", "Harbour Ltd")
    assert [(row.code, row.type, row.role) for row in found.tables.accounts] == [
        ("11", AccountType.ASSET, AccountRole.ORDINARY),
        ("21", AccountType.ASSET, AccountRole.RECEIVABLES),
        ("51", AccountType.EQUITY, AccountRole.ORDINARY),
        ("71", AccountType.INCOME, AccountRole.ORDINARY),
    ]
    opening, sale, paid = found.tables.transactions
    assert [(x.account, x.amount) for x in opening.lines] == [("11", 5000), ("51", -5000)]
    assert (sale.reference, sale.party, sale.total) == ("F 7", "C1", 11900)
    (link,) = found.tables.allocations
    assert (link.debit_transaction, link.credit_transaction, link.amount) == ("V1", "B1", 11900)
    assert found.warnings == (
        "The file does not say what kind of client it is: taken as a company.",
    )
    assert paid.posting_date == day("2026-02-01")


def test_what_does_not_add_up_is_told_and_left(tmp_path):
    found = read_audit_file(other(tmp_path, closing="170.00"))
    assert "11: opening and movements come to 169.00; the file says that it closes at 170.00." in (
        found.warnings
    )


@pytest.mark.parametrize(
    ("change", "says"),
    [
        (("<TransactionID>V1</TransactionID>", ""), "TransactionID and GLPostingDate are needed"),
        (
            (
                "<DebitAmount>119.00</DebitAmount></DebitLine>\n        <CreditLine><RecordID>2",
                "<DebitAmount>lots</DebitAmount></DebitLine>\n        <CreditLine><RecordID>2",
            ),
            "lots",
        ),
        (("2026-01-15</GLPostingDate>", "15/01</GLPostingDate>"), "is not a date"),
        (("{sales}", "99"), "'99' is not in"),
        (("2026-01-15</GLPostingDate>", "0001-01-15</GLPostingDate>"), "between 1900 and 2999"),
    ],
)
def test_a_fault_is_told_with_its_line_and_nothing_is_taken_in(tmp_path, change, says):
    with pytest.raises(FaultyBooks) as refused:
        read_audit_file(other(tmp_path, SMALLEST.replace(*change)))
    assert any(says in fault and fault.startswith("other.xml:") for fault in refused.value.faults)


@pytest.mark.parametrize(
    "text",
    [
        "<AuditFile><Header>",
        "<AuditFile></AuditFile>",
        SMALLEST.replace("<CurrencyCode>EUR", "<CurrencyCode>euros"),
        SMALLEST.replace("<EndDate>2026", "<EndDate>9999"),
        SMALLEST.replace("<EndDate>2026", "<EndDate>2025"),
        '<!DOCTYPE x [<!ENTITY a "b">]>' + SMALLEST.partition("?>")[2],
    ],
)
def test_what_is_no_audit_file_is_refused(tmp_path, text):
    with pytest.raises(UnreadableBooks):
        read_audit_file(other(tmp_path, text))


def test_an_empty_year_is_written_too(tmp_path):
    books = books_with(accounts=small_books().tables.accounts)
    found = read_audit_file(written(books, tmp_path / "year.xml"))
    assert found.tables.transactions == ()
    assert CODES["bank"] in {row.code for row in found.tables.accounts}


def test_another_companys_file_is_told_and_one_in_another_currency_refused(tmp_path):
    books = small_books()
    found = read_audit_file(other(tmp_path), lambda code: books, only="SMALL")
    assert found.client.code == "SMALL"
    assert found.warnings[0] == (
        "The file is of 'Harbour Ltd', and these are the books of 'SMALL & Co': is it theirs?"
    )
    with pytest.raises(UnreadableBooks, match="in USD, and the books of SMALL are in EUR"):
        read_audit_file(
            other(tmp_path, SMALLEST.replace("<CurrencyCode>EUR", "<CurrencyCode>USD")),
            lambda code: books,
            only="SMALL",
        )
