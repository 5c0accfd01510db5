"""The books folder: out and in again the same, and every refusal with file, line and column."""

import io
import json
import shutil
import stat
import subprocess
import sys
import zipfile
from dataclasses import replace
from datetime import date, datetime
from pathlib import Path

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.seal_forms import seal_digest
from corkpost.formats.books_folder.archive import UnreadableBooks
from corkpost.formats.books_folder.columns import TABLES
from corkpost.formats.books_folder.faults import FaultyBooks
from corkpost.formats.books_folder.writing import FolderInUse
from tests.builders import books_with, posted
from tests.core.strategies import any_books
from tests.formats.folders import again, describe, edit, put, read, small_books, write

PROVE_SEAL = Path(__file__).parents[2] / "docs" / "prove_seal.py"


@pytest.fixture
def folder(tmp_path: Path) -> Path:
    return write(small_books(), tmp_path / "books")


def faults(folder: Path) -> list[str]:
    with pytest.raises(FaultyBooks) as refused:
        read(folder)
    return list(refused.value.faults)


def test_what_is_written_is_read_again_table_by_table(folder):
    books = small_books()
    found = read(folder)
    assert found.client == books.client
    assert found.tables == books.tables
    assert found.warnings == ()


@settings(max_examples=25, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(any_books(filed_through="2025-12-31"), st.dates(date(2025, 6, 1), date(2026, 12, 31)))
def test_the_program_outside_finds_the_seal_from_what_was_written(tmp_path_factory, books, at):
    folder = write(books, tmp_path_factory.mktemp("seal") / "out")
    found = subprocess.run(
        [sys.executable, PROVE_SEAL, folder, str(at)], capture_output=True, text=True, check=True
    )
    assert found.stdout.strip() == seal_digest(books, at)


@settings(max_examples=60, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(any_books(filed_through="2025-12-31", returned_through="2026-03-31"))
def test_any_books_come_back_as_they_went(tmp_path_factory, books):
    to = tmp_path_factory.mktemp("any") / "books"
    found = read(write(books, to))
    assert (found.client, found.tables) == (books.client, as_received(books.tables))


def as_received(tables):
    """Without which change brought a row: who takes the folder in takes all of it as received."""
    return replace(
        tables,
        transactions=tuple(row._replace(change=None) for row in tables.transactions),
        allocations=tuple(row._replace(change=None) for row in tables.allocations),
    )


def test_the_package_declares_every_column_with_its_type(folder):
    package = json.loads((folder / "datapackage.json").read_text("utf-8"))
    assert package["profile"] == "tabular-data-package"
    fields = {
        resource["name"]: {field["name"]: field for field in resource["schema"]["fields"]}
        for resource in package["resources"]
    }
    assert set(fields) == set(TABLES)
    assert fields["transactions"]["date"]["type"] == "date"
    assert fields["transactions"]["id"]["constraints"]["required"] is True
    assert fields["accounts"]["type"]["constraints"]["enum"] == [
        "asset", "liability", "equity", "income", "expense",
    ]  # fmt: skip
    for name, table in TABLES.items():
        assert tuple(fields[name]) == table.names


def test_column_order_is_free_a_mark_is_accepted_and_so_are_both_line_ends(folder):
    edit(folder, "parties", lambda rows: rows.__setitem__(slice(None), [r[::-1] for r in rows]))
    for name in ("accounts", "transactions"):
        file = folder / f"{name}.csv"
        text = (
            file.read_text("utf-8").replace("\n", "\r\n")
            if name == "accounts"
            else file.read_text("utf-8")
        )
        file.write_text("\ufeff" + text, "utf-8", newline="")
    assert read(folder).tables == small_books().tables


def test_an_unknown_column_is_kept_with_its_row_reported_and_written_again(folder, tmp_path):
    def widen(rows):
        rows[0].append("colour")
        for number, row in enumerate(rows[1:]):
            row.append("blue" if number == 0 else "")

    edit(folder, "transactions", widen)
    found = read(folder)
    assert found.tables.transactions[0].other == '{"colour": "blue"}'
    assert found.tables.transactions[1].other == ""
    assert any("'colour' is not known here" in warning for warning in found.warnings)
    books = small_books()
    grown = type(books)(found.client, found.tables, books.calendar)
    assert read(write(grown, tmp_path / "again")).tables == found.tables


def test_a_table_that_is_not_known_is_left_aside_and_said(folder):
    describe("resources", 0, to={"name": "weather", "path": "weather.csv"})(folder)
    assert "weather is no table of a books folder" in read(folder).warnings[0]


def test_papers_and_statements_are_kept_by_their_digest(tmp_path):
    papers = {"papers/b.pdf": b"a paper", "statements/april.csv": b"date,description,amount\n"}
    found = read(write(small_books(), tmp_path / "books", papers))
    kept = {path.name for path in (tmp_path / "kept").iterdir()}
    papers_, statements = found.tables.attachments, found.tables.statements
    assert kept == {papers_[0].digest, statements[0].digest}
    assert found.files["papers/b.pdf"].read_bytes() == b"a paper"


def remove(name):
    return lambda folder: (folder / name).unlink()


def drop_column(table, column):
    def spoil(folder):
        def change(rows):
            at = rows[0].index(column)
            for row in rows:
                del row[at]

        edit(folder, table, change)

    return spoil


def rename_column(table, column, to):
    return lambda folder: edit(
        folder, table, lambda rows: rows[0].__setitem__(rows[0].index(column), to)
    )


def raw(table, text):
    return lambda folder: (folder / f"{table}.csv").write_bytes(text)


def lengthen(rows):
    rows[2].append("extra")


REFUSALS = [
    (remove("accounts.csv"), "accounts.csv:1: -: is missing: the table accounts must be there"),
    (remove("datapackage.json"), "datapackage.json:1: -: is missing"),
    (drop_column("transactions", "kind"), "transactions.csv:1: kind: is missing"),
    (drop_column("lines", "credit"), "lines.csv:1: credit: is missing"),
    (rename_column("parties", "name", "code"), "parties.csv:1: code: is there twice in the heading"),
    (put("transactions", 1, "date", "3.4.2026"), "transactions.csv:2: date: '3.4.2026' is not a date: write 2026-03-31"),
    (put("transactions", 1, "date", "0026-04-03"), "transactions.csv:2: date: '0026-04-03' is a slip"),
    (put("transactions", 1, "entered_at", "noon"), "transactions.csv:2: entered_at: 'noon' is not a time"),
    (put("transactions", 1, "kind", "bill"), "transactions.csv:2: kind: 'bill' is not known here: write one of opening"),
    (put("accounts", 1, "role", "till"), "accounts.csv:2: role: 'till' is not known here"),
    (put("accounts", 1, "type", "income,"), "accounts.csv:2: type: 'income,' is not known here"),
    (put("parties", 1, "kind", ""), "parties.csv:2: kind: is empty: it must be filled"),
    (put("lines", 1, "debit", "200,00"), "lines.csv:2: debit: '200,00' is not a plain decimal"),
    (put("lines", 1, "debit", "200.001"), "more than 2 decimal places"),
    (put("lines", 1, "debit", "-200.00"), "lines.csv:2: debit:"),
    (put("lines", 1, "credit", "200.00"), "lines.csv:2: debit: both debit and credit are filled"),
    (put("lines", 1, "debit", ""), "lines.csv:2: debit: neither side is filled"),
    (put("lines", 1, "account", "9999"), "lines.csv:2: account: '9999' is not in accounts.csv"),
    (put("lines", 1, "party", "X"), "lines.csv:2: party: 'X' is not in parties.csv"),
    (put("lines", 1, "tax_code", "X"), "lines.csv:2: tax_code: 'X' is not in taxes.csv"),
    (put("lines", 1, "dimensions", "site=PIER"), "lines.csv:2: dimensions: 'site=PIER' is not in dimensions.csv"),
    (put("lines", 1, "transaction", "T99"), "lines.csv:2: transaction: 'T99' is no transaction of this folder"),
    (put("lines", 2, "line", "1"), "is there twice: number them apart"),
    (put("lines", 1, "debit", "201.00"), "transactions.csv:2: id: the debits of 'T1' are greater by 1.00"),
    (put("transactions", 2, "party", "X"), "transactions.csv:3: party: 'X' is not in parties.csv"),
    (put("transactions", 2, "reverses", "T99"), "transactions.csv:3: reverses: 'T99' is not in transactions.csv"),
    (put("taxes", 1, "rate", "-1"), "taxes.csv:2: rate: '-1' is not a percentage"),
    (put("taxes", 1, "recoverable", "yes"), "taxes.csv:2: recoverable: 'yes' is neither true nor false"),
    (put("payroll", 1, "month", "2026-13"), "payroll.csv:2: month: '2026-13' is not a month"),
    (put("allocations", 1, "amount", "246.01"), "allocations.csv:2: amount: more is allocated than is open on"),
    (put("allocations", 1, "debit_transaction", "T4"), "allocations.csv:2: amount:"),
    (again("allocations", 1, id="L2"), "more is allocated than is open"),
    (again("transactions", 1), "transactions.csv:11: id: 'T1' is there twice"),
    (again("accounts", 1), "'0100' is there twice"),
    (again("prior_year", 1), "prior_year.csv:3: account:"),
    (put("prior_year", 1, "debit", "5.00"), "prior_year.csv:2: debit: both sides are filled"),
    (lambda f: edit(f, "parties", lengthen), "parties.csv:3: -: the row has 6 fields, the heading has 5"),
    (raw("parties", b"code,name,kind\nS1,\xff,supplier\n"), "parties.csv:2: -: is not UTF-8 here"),
    (raw("parties", b'code,name,kind\nS1,"open,supplier\n'), "can't be read as CSV"),
    (raw("parties", b""), "parties.csv:1: -: is empty: it needs a heading"),
    (describe("books", "format", to=2), "books.format: 2 is not known here: write 1"),
    (describe("books", "client", "entity", to="club"), "books.client.entity: 'club' is not known here"),
    (describe("books", "client", "year_end", to="31-12"), "books.client.year_end: '31-12' is no month and day"),
    (describe("books", "client", "code", to="A B"), "books.client.code: 'A B' is not a code"),
    (describe("books", "client", "currency", to="euro"), "books.client.currency: 'euro' is no currency"),
    (describe("books", "filed_through", to="end of 2025"), "books.filed_through: 'end of 2025' is not a date"),
    (describe("books", "limits", to={"materiality": "5,00"}), "books.limits.materiality"),
    (describe("books", "years", to=[
        {"label": "a", "from": "2025-01-01", "to": "2025-12-30"},
        {"label": "b", "from": "2026-01-01", "to": "2026-12-31"}]), "years follow each other day by day"),
    (describe("resources", 0, "path", to="../accounts.csv"), "resources[0].path: '../accounts.csv' leaves the folder"),
    (lambda f: (f / "datapackage.json").write_text("{", "utf-8"), "datapackage.json:1: 2: is not JSON"),
]  # fmt: skip


@pytest.mark.parametrize(("spoil", "fault"), REFUSALS, ids=[fault[:58] for _, fault in REFUSALS])
def test_it_is_refused_with_file_line_and_column(folder, spoil, fault):
    spoil(folder)
    assert any(fault in told for told in faults(folder)), faults(folder)


def test_every_fault_is_told_at_once_each_once(folder):
    put("transactions", 1, "date", "soon")(folder)
    put("accounts", 2, "type", "thing")(folder)
    put("lines", 9, "account", "9999")(folder)
    told = faults(folder)
    assert [fault.split(":")[0] for fault in told] == [
        "accounts.csv",
        "transactions.csv",
        "lines.csv",
    ]


def test_a_hundred_faults_are_listed_and_the_rest_counted(folder):
    for _ in range(7):
        edit(folder, "transactions", lambda rows: rows.extend(list(map(list, rows[1:]))))
    with pytest.raises(FaultyBooks, match="more") as refused:
        read(folder)
    assert len(refused.value.faults) == 100
    assert refused.value.count > 1000


def test_a_path_that_leaves_the_folder_is_refused_wherever_it_stands(tmp_path):
    folder = write(small_books(), tmp_path / "books", {"papers/b.pdf": b"x"})
    put("attachments", 1, "path", "../../etc/passwd")(folder)
    assert "leaves the folder" in faults(folder)[0]
    put("attachments", 1, "path", "papers/none.pdf")(folder)
    assert "no readable file 'papers/none.pdf'" in faults(folder)[0]
    (tmp_path / "secret").write_text("secret")
    (folder / "link.pdf").symlink_to(tmp_path / "secret")
    put("attachments", 1, "path", "link.pdf")(folder)
    assert "no readable file 'link.pdf'" in faults(folder)[0]


def test_what_the_review_is_for_is_let_through(folder):
    put("lines", 3, "party", "")(folder)  # a control line with no party
    put("transactions", 5, "date", "2031-02-28")(folder)
    put("transactions", 3, "reference", "RW-0117")(folder)
    assert len(read(folder).tables.transactions) == 8


def zipped(folder: Path, to: Path, prefix: str = "") -> Path:
    with zipfile.ZipFile(to, "w") as archive:
        for file in sorted(folder.rglob("*")):
            if file.is_file():
                archive.write(file, prefix + str(file.relative_to(folder)))
    return to


@pytest.mark.parametrize("prefix", ["", "saltmarsh-2026/"])
def test_a_zip_is_read_as_the_folder_in_it(folder, tmp_path, prefix):
    found = read(zipped(folder, tmp_path / "books.zip", prefix))
    assert found.tables == small_books().tables


def hostile(tmp_path: Path, member: str, content: bytes = b"x", *, link: bool = False) -> Path:
    file = tmp_path / "hostile.zip"
    with zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive:
        info = zipfile.ZipInfo(member)
        info.compress_type = zipfile.ZIP_DEFLATED
        if link:
            info.external_attr = (stat.S_IFLNK | 0o777) << 16
        archive.writestr(info, content)
    return file


def test_an_archive_that_leaves_its_folder_or_is_none_is_refused(tmp_path):
    with pytest.raises(UnreadableBooks, match="leaves the folder"):
        read(hostile(tmp_path, "../datapackage.json"))
    with pytest.raises(FaultyBooks, match="is missing"):
        read(hostile(tmp_path, "datapackage.json", b"/etc/passwd", link=True))
    (tmp_path / "no.zip").write_bytes(b"PK but not really")
    with pytest.raises(UnreadableBooks, match="neither a folder nor a readable zip"):
        read(tmp_path / "no.zip")
    with pytest.raises(UnreadableBooks, match="There is no folder or zip"):
        read(tmp_path / "nowhere")


def test_an_archive_that_would_unpack_to_more_than_512_mb_is_refused(tmp_path):
    file = tmp_path / "bomb.zip"
    with (
        zipfile.ZipFile(file, "w", zipfile.ZIP_DEFLATED) as archive,
        archive.open("lines.csv", "w", force_zip64=True) as member,
    ):
        piece = bytes(8 * 1024 * 1024)
        for _ in range(65):
            member.write(piece)
    with pytest.raises(UnreadableBooks, match="512 MB"):
        read(file)


def test_a_member_that_is_larger_than_its_archive_says_is_refused(folder, tmp_path):
    file = zipped(folder, tmp_path / "books.zip")
    content = file.read_bytes()
    with zipfile.ZipFile(io.BytesIO(content)) as archive:
        size = archive.getinfo("lines.csv").file_size
    lie = content.replace(size.to_bytes(4, "little"), (size - 100).to_bytes(4, "little"))
    file.write_bytes(lie)
    with pytest.raises((UnreadableBooks, FaultyBooks)):
        read(file)


def test_a_folder_that_holds_other_things_is_never_written_over(folder):
    with pytest.raises(FolderInUse):
        write(small_books(), folder)
    assert read(folder).tables == small_books().tables
    shutil.rmtree(folder)


DESCRIBED = [
    (describe("books", to=None), "books: is missing: an object is needed here"),
    (describe("books", "client", to=[]), "books.client: is missing"),
    (describe("books", "client", "name", to=" "), "books.client.name: is missing: text is needed here"),
    (describe("books", "client", "tax_registered", to="yes"), "books.client.tax_registered: is neither true nor false"),
    (describe("books", "filed_on", to="in April"), "books.filed_on: 'in April' is not a time"),
    (describe("books", "books_from", to=2025), "books.books_from: 2025 must be written as text"),
    (describe("books", "limits", to=[1]), "books.limits: must be an object"),
    (describe("books", "years", to={}), "books.years: must be a list of objects"),
    (describe("books", "years", to=[{"label": "x", "from": "2026-01-01"}]), "books.years[0]: needs `from` and `to`"),
    (describe("resources", 0, to={"name": "accounts"}), "resources[0]: needs a name and one path"),
    (lambda f: (f / "datapackage.json").write_bytes(b"\xff{}"), "datapackage.json:1: -: is not UTF-8"),
]  # fmt: skip


@pytest.mark.parametrize(("spoil", "fault"), DESCRIBED, ids=[fault[:50] for _, fault in DESCRIBED])
def test_a_descriptor_that_can_t_be_used_is_told_member_by_member(folder, spoil, fault):
    spoil(folder)
    assert any(fault in told for told in faults(folder)), faults(folder)


def test_years_and_limits_that_a_practice_set_come_back(folder):
    years = [
        {"label": "2025", "from": "2025-01-01", "to": "2026-03-31"},
        {"label": "2027", "from": "2026-04-01", "to": "2027-03-31", "due": "2027-06-30"},
    ]
    describe("books", "years", to=years)(folder)
    describe("books", "limits", to={"materiality": "750.00", "capital_item": "300.00"})(folder)
    client = read(folder).client
    assert [(year.label, str(year.last_day), str(year.due)) for year in client.years] == [
        ("2025", "2026-03-31", "None"),
        ("2027", "2027-03-31", "2027-06-30"),
    ]
    assert (client.materiality, client.capital_item) == (75000, 30000)


def test_what_the_books_do_not_say_of_filing_and_lasting_things_is_as_the_format_has_it():
    closed = posted(
        "Dr sales 30.00, Cr capital 30.00", "2025-12-31", Kind.CLOSING, keyed="2026-03-04T10:00"
    )
    made = books_with(closed, filed_through="2025-12-31")
    assert (made.filed_on, made.capital_item) == (datetime(2026, 3, 4, 10), 50000)
    assert books_with(filed_through="2025-12-31").filed_on == datetime(2026, 6, 30)
    assert books_with().filed_on is None


def test_a_sign_that_no_program_writes_is_told_at_its_cell(folder):
    put("transactions", 1, "memo", "paid\x00twice")(folder)
    (told,) = faults(folder)
    assert told.startswith("transactions.csv:2: memo: holds a NUL sign")


def test_an_encrypted_archive_is_refused(folder, tmp_path):
    content = bytearray(zipped(folder, tmp_path / "books.zip").read_bytes())
    # The flag that says so, in the directory's first entry.
    content[content.index(b"PK\x01\x02") + 8] |= 1
    (tmp_path / "locked.zip").write_bytes(content)
    with pytest.raises(UnreadableBooks, match="without a password"):
        read(tmp_path / "locked.zip")
