"""Files that were sent together in a zip."""

import io
import zipfile

import pytest

from corkpost.formats.listings import packed
from corkpost.services.listings import Refused
from tests.listings.test_taking_in import SMALL, books_of, take


def zipped(folder, **files):
    path = folder / "books.zip"
    with zipfile.ZipFile(path, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in files.items():
            archive.writestr(name.replace("__", "/"), content)
    return path


def test_what_a_zip_holds_is_taken_in_as_if_it_had_come_apart(office, tmp_path):
    path = zipped(tmp_path, **{"2026__ledger.csv": SMALL, "2026__.DS_Store": b"\1", "2026__": b""})
    outcome = take(office, path)
    assert [row.path for row in outcome.files] == ["ledger.csv"]
    assert len(books_of(office).tables.transactions) == 4


def test_two_of_one_name_are_told_by_their_folders(tmp_path):
    path = zipped(tmp_path, **{"a__list.csv": "1", "b__list.csv": "2", "..__x__list.csv": "3"})
    found = packed.unpacked([path], tmp_path)
    assert [row.name for row in found] == ["list.csv", "b_list.csv", "x_list.csv"]
    assert [row.read_text() for row in found] == ["1", "2", "3"]
    assert {row.parent for row in found} == {tmp_path / "0"}


def locked(content):
    """The same, with the mark of a password on its file."""
    place = content.index(b"PK\x01\x02") + 8
    return content[:place] + b"\x01" + content[place + 1 :]


def spoiled(content):
    return content[:60] + bytes(60) + content[120:]


@pytest.mark.parametrize(
    ("change", "says"), [(locked, "locked with a password"), (spoiled, "no whole zip")]
)
def test_a_zip_that_can_t_be_opened_is_refused_in_words(office, tmp_path, change, says):
    path = zipped(tmp_path, ledger=SMALL)
    path.write_bytes(change(path.read_bytes()))
    with pytest.raises(Refused, match=says):
        take(office, path)


def test_a_zip_of_very_much_is_refused(office, tmp_path, monkeypatch):
    with pytest.raises(Refused, match="more than 40 files"):
        take(office, zipped(tmp_path, **{f"{n}.csv": SMALL for n in range(41)}))
    monkeypatch.setattr(packed, "LARGEST", 100)
    with pytest.raises(Refused, match="512 MB"):
        take(office, zipped(tmp_path, ledger=SMALL))
    with pytest.raises(Refused, match="nothing in it"):
        take(office, zipped(tmp_path))


def test_a_zip_in_a_zip_is_named(office, tmp_path):
    inner = zipped(tmp_path, ledger=SMALL).read_bytes()
    with pytest.raises(Refused, match=r"inner in books\.zip is a zip itself"):
        take(office, zipped(tmp_path, inner=inner))


def test_a_spreadsheet_is_no_zip(tmp_path):
    path = zipped(tmp_path, **{"[Content_Types].xml": "<x/>"})
    assert packed.unpacked([path], tmp_path) == [path]
    assert zipfile.is_zipfile(io.BytesIO(path.read_bytes()))
