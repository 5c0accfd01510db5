"""What a client who leaves is handed: readable, whole, and taken in again by another practice as it was."""

import html
import io
import zipfile
from collections import defaultdict

import pytest

from corkpost.core.kinds import Entity
from corkpost.core.money import Currency
from corkpost.core.refusals import UnknownName
from corkpost.formats.listings.sheets import read_sheets
from corkpost.services import client_lists, handover, listings, papers
from corkpost.services.listings import NewClient
from tests.practice import accrue


def sums_of(books):
    sums: dict[tuple[str, str | None], int] = defaultdict(int)
    for posted in books.tables.transactions:
        for line in posted.lines:
            sums[line.account, line.party] += line.amount
    return {key: amount for key, amount in sums.items() if amount}


def test_everything_is_in_one_zip_with_an_index_and_its_ledger_comes_back(office, tmp_path):
    accrue(office, amount="12.34", reverse_on=None)
    papers.keep_paper(office.workplace, office["IO"], "SMALL", "T1", "bill.pdf", b"a paper")
    content = handover.hand_over(office.workplace, office["OB"], "SMALL")
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        names = archive.namelist()
        archive.extractall(tmp_path / "out")
    books = office.workplace.ledger(office["OB"], "SMALL").books
    index = (tmp_path / "out" / "index.html").read_text("utf-8")
    assert html.escape(books.client.name) in index
    for name in names:
        if name.startswith("lists/"):
            assert f'href="{name}"' in index
    assert any(name.endswith("bill.pdf") for name in names)
    assert "books/datapackage.json" in names
    sheets = {sheet.name for sheet in read_sheets(tmp_path / "out" / "SMALL.xlsx")}
    assert {"Ledger", "Accounts", "Customers and suppliers"} <= sheets
    lists = [tmp_path / "out" / name for name in names if name.startswith("lists/")]
    chosen = [file for file in lists if file.stem in ("ledger", "accounts")]
    chosen += [file for file in lists if file.stem.startswith("trial-balance")]
    outcome = listings.take_in(
        office.workplace,
        office["OB"],
        "AGAIN",
        chosen,
        new=NewClient("Small again", Entity.SOLE_TRADER, (12, 31), Currency("EUR")),
    )
    assert [question.text for question in outcome.questions] == []
    assert [proof for proof in outcome.made.proofs if not proof.holds] == []
    again = office.workplace.ledger(office["OB"], "AGAIN").books
    assert sums_of(again) == sums_of(books)


def test_each_list_is_given_out_apart_as_a_table_and_as_a_workbook(office, tmp_path):
    accrue(office, amount="12.34", reverse_on=None)
    of = (office.workplace, office["OB"], "SMALL")
    for part in client_lists.pack_of(
        office.workplace, office.workplace.ledger(*of[1:]).books
    ).parts:
        table, workbook = tmp_path / f"{part.name}.csv", tmp_path / f"{part.name}.xlsx"
        table.write_bytes(client_lists.list_csv(*of, part.name))
        workbook.write_bytes(client_lists.list_xlsx(*of, part.name))
        (as_table,), (as_sheet,) = read_sheets(table), read_sheets(workbook)
        heads = tuple(column.name for column in part.columns)
        assert as_table.rows[0].cells == heads
        assert len(as_table.rows) == len(part.rows) + 1
        assert [row.cells for row in as_sheet.rows].count(heads) == 1
    with pytest.raises(UnknownName, match="no list 'wages'"):
        client_lists.list_csv(*of, "wages")
