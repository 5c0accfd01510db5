"""The pack: the same figures in every file, the same bytes twice, and what was overridden printed."""

import csv
import io
import json
import re
import zipfile

import pytest

from corkpost.core.refusals import BadEntry
from corkpost.core.seal import sealed_balances
from corkpost.formats.pack import Column, Part, as_csv
from corkpost.services import pack, sign_off
from tests.builders import CODES, day
from tests.notation import EUR
from tests.practice import PASSWORD, accrue, agree_all, decide_the_rest, void_twin

AT = day("2026-10-31")


def made(office):
    return pack.pack_of(office.workplace, office["IO"], "SMALL", AT)


def test_every_file_has_the_same_figures_and_the_same_bytes_twice(office):
    void_twin(office)
    accrue(office)
    found = pack.written(made(office))
    assert found == pack.written(made(office))
    balance = sealed_balances(office.workplace.ledger(office["IO"], "SMALL").books, AT)
    rows = list(csv.DictReader(io.StringIO(found["trial-balance.csv"].decode("utf-8-sig"))))
    debits = sum(EUR.parse(row["Debit"] or "0") for row in rows)
    assert (len(rows), debits) == (len(balance.rows), balance.debits)
    told = json.loads(found["pack.json"])
    assert told["parts"]["trial-balance"][0]["account"] == rows[0]["Account"]
    assert {row["entry"] for row in told["parts"]["entries"]} - {""} == {"C-2026-1", "A-2026-1"}
    with zipfile.ZipFile(io.BytesIO(found["pack.xlsx"])) as book:
        sheet = book.read("xl/worksheets/sheet1.xml").decode()
    last = 3 + len(rows)
    assert re.search(rf"<f>SUM\(C4:C{last}\)</f><v>{debits / 100:.0f}(\.0)?</v>", sheet)
    assert found["pack.pdf"].startswith(b"%PDF")
    names = zipfile.ZipFile(io.BytesIO(pack.zipped(made(office)))).namelist()
    assert sorted(names) == sorted(found)


def outline(content):
    """The titles that a reader of the PDF shows beside it."""
    return content.count(b"/Title")


def test_the_pdf_has_its_parts_in_the_outline_and_text_not_pictures(office):
    found = pack.written(made(office))["pack.pdf"]
    # The document's own title, and one for each part.
    assert outline(found) == 1 + len(made(office).parts)
    assert b"/Subtype /Image" not in found
    assert found.count(b"/Font") > 1


def test_a_signed_one_says_who_and_an_override_prints(office):
    facts = dict(made(office).facts)
    assert facts["Sign-off"] == "Not signed: this is how it stands."
    decide_the_rest(office)
    accrue(office)
    sign_off.sign_off(
        office.workplace, office["OB"], "SMALL", AT, PASSWORD, override_reason="the bank waits"
    )
    signed = made(office)
    assert dict(signed.facts)["Signed by"] == "OB, 2026-11-16 12:00:00"
    assert signed.signed == ("IO", "OB", "16 November 2026")
    needs = next(part for part in signed.parts if part.name == "sign-off")
    assert needs.notes == ("Signed by OB over what was missing: the bank waits",)
    assert any(row[1] == "no" for row in needs.rows)
    agree_all(office, AT)
    ties = next(part for part in made(office).parts if part.name == "tie-outs")
    assert all(str(row[-1]).startswith("agreed by IO, 2026-11-16 12:00:00") for row in ties.rows)


def test_no_cell_of_text_becomes_a_formula():
    part = Part(
        "x", "x", (Column("Text"), Column("Sum", figure=True)), (("=1+1", -500), ("-2+3", None))
    )
    assert as_csv(part, EUR).decode("utf-8-sig") == "Text,Sum\r\n'=1+1,-5.00\r\n'-2+3,\r\n"


def tags_of(office):
    part = next(part for part in made(office).parts if part.name == "tags")
    return {row[2]: (row[0], row[4]) for row in part.rows}


def test_figures_are_tagged_by_account_role_or_type_and_a_practice_has_its_own_tags(office):
    found = tags_of(office)
    assert found[CODES["bank"]][0] == "BS.40"
    assert found[CODES["fuel"]][0] == "PL.55"
    assert sum(amount for _, amount in found.values()) == 0
    own = office.workplace.database.folder / pack.OWN_TAGS
    rows = f"account,role,type,tag,name\n,,expense,X.9,Costs\n{CODES['fuel']},,,X.1,Fuel\n,bank,,B.1,Bank\n"
    own.write_text(rows)
    found = tags_of(office)
    assert [found[CODES[name]][0] for name in ("fuel", "office", "bank", "payables")] == [
        "X.1",
        "X.9",
        "B.1",
        "no tag",
    ]
    own.write_text(rows + ",till,,X,x\n,bank,asset,Y,y\n,bank,,,z\nshort\n")
    with pytest.raises(BadEntry) as refused:
        made(office)
    assert [fault.split(": ")[0] for fault in refused.value.faults] == [
        f"tags.csv:{line}" for line in (5, 6, 7, 8)
    ]
