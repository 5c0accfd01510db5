"""What is done by itself goes on after it went wrong."""

import threading
import time

from corkpost.core.refusals import Refusal
from corkpost.services import overview, record
from corkpost.services.background import Repeating, background_of
from corkpost.services.keeping_up import QUIET, bring_up_to_date, keep_one
from corkpost.store.find import behind
from tests.builders import TODAY
from tests.practice import void_twin


def test_a_deed_that_fails_is_tried_again_until_it_is_stopped(caplog):
    done = threading.Event()
    wrongs = [Refusal("not now"), ValueError("broken")]

    def post_request():
        if wrongs:
            raise wrongs.pop(0)
        done.set()

    one = Repeating("a deed", 0.01, post_request)
    one.start()
    assert done.wait(5)
    one.stop()
    assert [record.levelname for record in caplog.records] == ["WARNING", "ERROR"]


def test_the_index_is_kept_up_and_mail_is_read_only_where_there_is_any(office):
    record.note_later(office.workplace, record.Kind.OPENED, "IO", client="SMALL")
    threads = background_of(office.workplace)
    for thread in threads:
        thread.start()
    for _ in range(100):
        if behind(office.workplace.database.reading) == [] and not keep_one(office.workplace):
            break
        threading.Event().wait(0.05)
    for _ in range(100):
        if not office.workplace.seen:
            break
        threading.Event().wait(0.05)
    for thread in threads:
        thread.stop()
    asked = record.Asked(TODAY, TODAY, "client opened")
    assert len(record.listed(office.workplace, office["OB"], asked)) == 1
    assert behind(office.workplace.database.reading) == []
    office.workplace.forget(office.workplace.ledger(office["IO"], "SMALL"))
    assert office.workplace.ledger(office["IO"], "SMALL").knows_points


def test_a_client_that_was_just_opened_is_left_for_a_moment(office):
    office.workplace.ledger(office["IO"], "SMALL")
    assert not keep_one(office.workplace, patient=True)
    assert keep_one(office.workplace)
    # Once its checks were run, what follows goes on from them: that takes no time worth waiting for.
    void_twin(office)
    assert keep_one(office.workplace, patient=True)
    assert not keep_one(office.workplace)


def test_clients_that_nobody_has_open_wait_until_nobody_asks(office):
    office.workplace.asked_at = time.monotonic()
    assert not keep_one(office.workplace, patient=True)
    office.workplace.asked_at = time.monotonic() - QUIET
    assert keep_one(office.workplace, patient=True)


def test_a_client_that_can_not_be_read_stops_no_other(office):
    with office.workplace.database.writing() as connection:
        connection.execute("INSERT INTO clients (code) VALUES ('AAA')")
    assert keep_one(office.workplace)
    assert keep_one(office.workplace)
    assert not keep_one(office.workplace)
    assert office.workplace.ledger(office["IO"], "SMALL").knows_points


def test_a_client_opens_before_its_points_are_counted_and_they_come_by_themselves(office):
    office.workplace.keeps_up = True
    seen = overview.overview(office.workplace, office["IO"], "SMALL")
    assert seen.open_points is None
    assert {period.open_points for period in seen.periods} == {None}
    bring_up_to_date(office.workplace)
    seen = overview.overview(office.workplace, office["IO"], "SMALL")
    assert seen.open_points == sum(period.open_points or 0 for period in seen.periods) > 0
