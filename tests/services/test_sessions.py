"""Sessions, second factors, invitations and leaving; and that each goes on record."""

import time

import pyotp
import pytest

from corkpost.core.refusals import BadEntry, NotAllowed, UnknownName
from corkpost.services import record, second_factor, sessions, staff, store
from corkpost.services.record import Asked
from corkpost.services.sessions import SayPasswordAgain, SecondFactorNeeded
from corkpost.services.tries import TooManyTries
from corkpost.store import practice as practice_store
from tests.builders import TODAY
from tests.practice import PASSWORD


@pytest.fixture
def clock(monkeypatch):
    """The seconds since 1970, which a test moves on."""
    now = [1_800_000_000.0]
    monkeypatch.setattr(time, "time", lambda: now[0])

    def wait(seconds):
        now[0] += seconds

    return wait


def come_in(office, code="IO", password=PASSWORD, factor="", address="192.0.2.7"):
    return sessions.come_in(
        office.workplace, code, password, factor, address=address, agent="a browser"
    ).token


def on_record(office, words=""):
    rows = record.listed(office.workplace, office["OB"], Asked(TODAY, TODAY, words))
    return [(row.kind, row.who, row.detail) for row in rows]


def test_a_session_ends_after_half_an_hour_without_a_sign_of_life_and_after_half_a_day(
    office, clock
):
    token = come_in(office)
    for _ in range(3):
        clock(29 * 60)
        assert sessions.of_token(office.workplace, token)
    clock(31 * 60)
    assert sessions.of_token(office.workplace, token) is None
    long = come_in(office)
    for _ in range(24):
        clock(29 * 60)
        alive = sessions.of_token(office.workplace, long)
        sessions.write_seen(office.workplace)
    assert alive
    clock(25 * 60)
    assert sessions.of_token(office.workplace, long) is None
    assert sessions.of_token(office.workplace, "made up") is None


def test_a_session_is_ended_by_its_person_or_a_partner_and_by_a_new_password(office, clock):
    one, other = come_in(office), come_in(office, address="198.51.100.4")
    listed = sessions.listed(office.workplace, office["IO"], "IO")
    assert {row.address for row in listed} == {"192.0.2.7", "198.51.100.4"}
    with pytest.raises(NotAllowed):
        sessions.listed(office.workplace, office["TV"], "IO")
    with pytest.raises(UnknownName):
        sessions.end(office.workplace, office["TV"], sessions.own_id(one), "not mine")
    sessions.end(office.workplace, office["OB"], sessions.own_id(one), "lost")
    assert sessions.of_token(office.workplace, one) is None
    assert sessions.of_token(office.workplace, other)
    staff.change_own_password(office.workplace, office["IO"], PASSWORD, "heron by the tidal gate")
    assert sessions.of_token(office.workplace, other) is None
    with pytest.raises(NotAllowed, match="as it is"):
        staff.change_own_password(office.workplace, office["IO"], PASSWORD, "another good one here")
    kinds = [kind for kind, _, _ in on_record(office) if "staff" not in kind]
    assert kinds == ["password or factor changed", "session ended", "signed in", "signed in"]


def test_tries_are_counted_with_growing_waits_and_a_right_one_forgets_them(office, clock):
    for _ in range(5):
        with pytest.raises(NotAllowed):
            come_in(office, password="guess")
    with pytest.raises(TooManyTries, match="Wait 5 seconds"):
        come_in(office)
    # From elsewhere it is the same account; another account at the address may come in.
    with pytest.raises(TooManyTries):
        come_in(office, address="203.0.113.1")
    assert come_in(office, "TV")
    clock(6)
    with pytest.raises(NotAllowed):
        come_in(office, password="guess")
    with pytest.raises(TooManyTries, match="Wait 10 seconds"):
        come_in(office)
    clock(11)
    assert come_in(office)
    assert come_in(office)
    assert ("refused at the door", "IO", "") in on_record(office, "refused")


def test_what_matters_asks_for_the_password_once_more(office, clock):
    token = come_in(office)
    sessions.must_be_confirmed(office.workplace, token)
    clock(11 * 60)
    with pytest.raises(SayPasswordAgain):
        sessions.must_be_confirmed(office.workplace, token)
    with pytest.raises(NotAllowed):
        sessions.confirm(office.workplace, token, "guess")
    sessions.confirm(office.workplace, token, PASSWORD)
    sessions.must_be_confirmed(office.workplace, token)


def test_a_second_factor_is_asked_for_taken_once_and_recovered_from(office, clock):
    offered = second_factor.offer(office["IO"], "Test & Co")
    assert offered.drawn.startswith("<svg")
    device = pyotp.TOTP(offered.secret)
    with pytest.raises(BadEntry):
        second_factor.set_up(office.workplace, office["IO"], offered.secret, "000000")
    for made_up in ("", "x", "AAAA"):
        with pytest.raises(BadEntry, match="no secret of ours"):
            second_factor.set_up(office.workplace, office["IO"], made_up, "000000")
    codes = second_factor.set_up(
        office.workplace, office["IO"], offered.secret, device.at(int(time.time()))
    )
    assert len(set(codes)) == 8
    with pytest.raises(SecondFactorNeeded):
        come_in(office)
    # The code that set it up was seen: only a later one is taken, and that once.
    with pytest.raises(NotAllowed):
        come_in(office, factor=device.at(int(time.time())))
    clock(30)
    assert come_in(office, factor=device.at(int(time.time())))
    with pytest.raises(NotAllowed):
        come_in(office, factor=device.at(int(time.time())))
    assert come_in(office, factor=codes[0].upper())
    with pytest.raises(NotAllowed):
        come_in(office, factor=codes[0])
    second_factor.demand(office.workplace, office["OB"], True)
    with pytest.raises(NotAllowed, match="Everybody here"):
        second_factor.drop(office.workplace, office["IO"], "IO")
    second_factor.drop(office.workplace, office["OB"], "IO")
    assert come_in(office)


def test_an_invitation_sets_a_first_password_once_and_within_a_week(office, clock):
    token = staff.invite(office.workplace, office["OB"], "PH")
    assert staff.invited(office.workplace, token).code == "PH"
    second = staff.invite(office.workplace, office["OB"], "PH")
    with pytest.raises(NotAllowed, match="too old"):
        staff.accept(office.workplace, token, "heron by the tidal gate")
    staff.accept(office.workplace, second, "heron by the tidal gate")
    assert come_in(office, "PH", "heron by the tidal gate")
    with pytest.raises(NotAllowed):
        staff.invited(office.workplace, second)
    late = staff.invite(office.workplace, office["OB"], "PH")
    clock(8 * 24 * 3600)
    with pytest.raises(NotAllowed):
        staff.invited(office.workplace, late)


def test_who_leaves_is_out_at_once_their_work_goes_on_and_their_name_stays(office, clock):
    token = come_in(office)
    staff.leave(office.workplace, office["OB"], "IO", "PH")
    assert sessions.of_token(office.workplace, token) is None
    with pytest.raises(NotAllowed):
        come_in(office)
    assert staff.person_named(office.workplace, "PH").sees("SMALL")
    assert not staff.person_named(office.workplace, "IO").sees("SMALL")
    (gone,) = (row for row in staff.everybody(office.workplace) if row.code == "IO")
    assert (gone.name, gone.left_on) == ("Ines Okonjo", TODAY.isoformat())
    with pytest.raises(BadEntry):
        staff.invite(office.workplace, office["OB"], "IO")
    with pytest.raises(BadEntry, match="can't take the work over"):
        staff.leave(office.workplace, office["OB"], "TV", "IO")
    with pytest.raises(BadEntry, match="needs a partner"):
        staff.leave(office.workplace, office["OB"], "OB", None)
    assert ("staff changed", "OB", "IO Ines Okonjo left, work to PH") in on_record(office)


def test_the_record_is_for_who_runs_the_practice_is_searched_and_proves(office, clock):
    come_in(office)
    record.note_later(office.workplace, record.Kind.PAPER, "IO", "bill.pdf", client="SMALL")
    assert on_record(office, "bill") == [("paper seen", "IO", "bill.pdf")]
    with pytest.raises(NotAllowed):
        record.listed(office.workplace, office["TV"], Asked(TODAY, TODAY))
    assert store.verify(office.workplace).broken == ()
    connection = office.workplace.database.reading
    connection.execute("DROP TRIGGER record_is_never_updated")
    connection.execute("UPDATE record SET who = 'TV' WHERE kind = 'paper seen'")
    broken = store.verify(office.workplace).broken
    assert [row.what[:35] for row in broken] == [
        "the trigger record_is_never_updated",
        "the record was altered: row 7 is no",
    ]
    assert practice_store.staff_named(connection, "IO") is not None
