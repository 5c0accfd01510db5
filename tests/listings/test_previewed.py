"""What was seen of a new client's files is what comes into the books, and it is not read a second time."""

import io
import os
import time
from datetime import date, timedelta

import pytest

from corkpost.core.kinds import Entity
from corkpost.core.money import Currency
from corkpost.core.periods import parse_year_end
from corkpost.core.refusals import Refusal
from corkpost.services import listing_job, listings, previewed, tray
from corkpost.services.listing_job import ListingsAsked, NewClientAsked
from corkpost.services.listings import NewClient
from corkpost.services.workplace import Workplace
from corkpost.stand_ins.statement_files import BankLine, BankStatement, as_camt053
from corkpost.store import changes, clients
from tests.listings.other_hands import LAYOUTS
from tests.listings.test_taking_in import SMALL
from tests.practice import TODAY, open_office

HERON = NewClientAsked(
    name="Heron Boats", entity=Entity.SOLE_TRADER, year_end="12-31", currency="EUR"
)
NO_DAY = "Account,Name,Balance\n1200,Bank,500.00\n4000,Sales,-500.00\n"


class Desk:
    """A person who brings files and looks at what they hold; *reads*: how often they were read."""

    def __init__(self, office, monkeypatch, who="OB"):
        self.workplace, self.person, self.reads = office.workplace, office[who], 0
        through = listings.take_in

        def counted(*args, **more):
            self.reads += 1
            return through(*args, **more)

        monkeypatch.setattr(listings, "take_in", counted)

    def bring(self, content, name="ledger.csv"):
        if isinstance(content, str):
            content = content.encode()
        return tray.keep(self.workplace, self.person, name, io.BytesIO(content))

    def look(self, *files, take=False, **more):
        said = {"client": "HERON" if take else None, "new": HERON, **more}
        asked = ListingsAsked(files=list(files), take=take, **said)
        return listing_job.take_in_listings(self.workplace, self.person, asked, lambda _: None)


@pytest.fixture
def desk(office, monkeypatch):
    return Desk(office, monkeypatch)


def written(office, code):
    """All that a client's only change brought, as its digest."""
    connection = office.workplace.database.reading
    client = clients.client_named(connection, code)
    (change,) = changes.changes_of(connection, client.id)
    return change.content


@pytest.mark.parametrize("layout", LAYOUTS, ids=lambda layout: layout.__name__)
def test_what_was_seen_is_written_to_the_last_row_as_reading_again_would(
    layout, office, desk, tmp_path
):
    path = layout(tmp_path)
    kept = desk.bring(path.read_bytes(), path.name)
    seen = desk.look(kept, new=None)
    said = NewClientAsked(
        name="Heron Boats",
        entity=seen.proposed.entity,
        year_end=seen.proposed.year_end,
        currency=seen.proposed.currency,
    )
    taken = desk.look(kept, new=said, take=True)
    assert desk.reads == 1
    assert taken == seen.model_copy(update={"client": "HERON", "taken": True})
    new = NewClient(said.name, said.entity, parse_year_end(said.year_end), Currency(said.currency))
    elsewhere = open_office(tmp_path / "elsewhere")
    listings.take_in(elsewhere.workplace, elsewhere["OB"], "HERON", [path], new=new)
    assert written(office, "HERON") == written(elsewhere, "HERON")
    elsewhere.workplace.close()
    assert office.workplace.ledger(desk.person, "HERON").books.client.name == "Heron Boats"
    assert list((office.workplace.database.folder / "uploads").rglob("*.*")) == []


def test_what_anything_else_was_said_of_is_read_again(office, desk):
    kept = desk.bring(SMALL)
    desk.look(kept)
    other = HERON.model_copy(update={"entity": Entity.PARTNERSHIP})
    assert desk.look(kept, new=other, take=True).taken
    assert desk.reads == 2
    assert office.workplace.ledger(desk.person, "HERON").books.client.entity is Entity.PARTNERSHIP


def changed_answer(desk, kept):
    return desk.look(kept, take=True, answers={"sign:ledger.csv": "as-written"})


def changed_file(desk, kept):
    (path,) = tray.files(desk.workplace, desk.person, [kept])
    path.write_text(SMALL.replace("300.00", "310.00"), "utf-8")
    return desk.look(kept, take=True)


def changed_day(desk, kept):
    desk.workplace = Workplace(desk.workplace.database.folder, TODAY + timedelta(days=1))
    try:
        return desk.look(kept, take=True)
    finally:
        desk.workplace.close()


def answered_elsewhere(desk, kept):
    listings.keep_answers(desk.workplace, desk.person, "SMALL", {"dates:Date": "dmy"})
    return desk.look(kept, take=True)


@pytest.mark.parametrize("moved", [changed_answer, changed_file, changed_day, answered_elsewhere])
def test_what_it_rested_on_moved_and_it_is_read_again(desk, moved):
    kept = desk.bring(SMALL)
    desk.look(kept)
    assert moved(desk, kept).taken
    assert desk.reads == 2


def test_what_still_asks_or_hangs_on_what_is_there_is_never_kept(office, desk):
    asks = desk.bring(NO_DAY, "balances.csv")
    assert desk.look(asks).questions
    paid = BankLine(date(2026, 1, 20), 120_00, "MOSS HALL", bank_id="B1")
    days = date(2026, 1, 1), date(2026, 1, 31)
    bank = as_camt053([BankStatement("XX00", Currency("EUR"), *days, 0, (paid,))])
    files = desk.bring(SMALL), desk.bring(bank, "january.xml")
    desk.look(*files)
    folder = office.workplace.database.folder / "uploads" / "previewed"
    assert not list(folder.glob("*"))
    assert desk.look(*files, take=True).taken
    assert office.workplace.ledger(desk.person, "HERON").books.statements
    again = desk.bring(SMALL)
    desk.look(again, client="HERON", new=None)
    assert not list(folder.glob("*"))


def test_what_was_not_kept_whole_is_read_again(office, desk):
    kept = desk.bring(SMALL)
    desk.look(kept)
    (there,) = (office.workplace.database.folder / "uploads" / "previewed").iterdir()
    there.write_bytes(there.read_bytes()[:-40])
    assert desk.look(kept, take=True).taken
    assert desk.reads == 2


def test_what_could_not_be_kept_is_read_again(office, desk):
    kept = desk.bring(SMALL)
    (office.workplace.database.folder / "uploads" / "previewed").write_text("in the way")
    desk.look(kept)
    assert desk.look(kept, take=True).taken
    assert desk.reads == 2


def test_what_one_saw_is_nobody_else_s_and_goes_after_a_day(office, desk, monkeypatch):
    kept = desk.bring(SMALL)
    desk.look(kept)
    folder = office.workplace.database.folder / "uploads" / "previewed"
    (there,) = folder.iterdir()
    other = Desk(office, monkeypatch, "IO")
    theirs = other.bring(SMALL)
    other.look(theirs, take=True, client="THEIRS")
    assert there.exists()
    assert other.reads == 1
    old = time.time() - previewed.KEPT_SECONDS - 1
    os.utime(there, (old, old))
    other.look(other.bring(SMALL))
    assert not there.exists()


def test_a_code_that_somebody_took_meanwhile_is_not_written_over(office, desk):
    kept = desk.bring(SMALL)
    desk.look(kept)
    small = "Somebody Else", Entity.COMPANY, (12, 31), Currency("EUR")
    (path,) = tray.files(office.workplace, desk.person, [kept])
    listings.take_in(office.workplace, desk.person, "HERON", [path], new=NewClient(*small))
    before = written(office, "HERON")
    with pytest.raises(Refusal, match="HERON is Somebody Else already"):
        desk.look(kept, take=True)
    assert written(office, "HERON") == before
