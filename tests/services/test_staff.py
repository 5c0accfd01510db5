"""Staff: roles, passwords, clients given; and who may do what."""

import pytest

from corkpost.core.kinds import Role
from corkpost.core.refusals import BadEntry, NotAllowed, UnknownName
from corkpost.services import staff
from corkpost.services.rights import ROLES, May, Person
from tests.practice import PASSWORD


def test_rights_by_role_are_these():
    table = {act.name: "".join(sorted(role[2] for role in roles)) for act, roles in ROLES.items()}
    everybody, seniors, partners = "erv", "rv", "r"
    assert table == {
        "READ": everybody, "TAKE_IN": everybody, "POST": everybody, "DECIDE": everybody,
        "CHANGE_CHART": seniors, "APPROVE": seniors, "SIGN": seniors, "SET_PERIODS": seniors, "REOPEN": partners, "RUN_PRACTICE": partners, "SET_FACTS": partners,
    }  # fmt: skip
    assert set(ROLES) == set(May)


def test_a_refusal_of_rights_says_who_may():
    person = Person("IO", "Ines Okonjo", Role.PREPARER, frozenset())
    with pytest.raises(NotAllowed, match="Ask a partner to do it"):
        person.must_be_allowed(May.REOPEN)


def test_a_password_is_kept_hashed_and_only_its_own_person_s_fits(office):
    row = staff.staff_row(office.workplace, "IO")
    assert row.password_hash.startswith("$argon2id$")
    assert PASSWORD not in row.password_hash
    assert staff.sign_in(office.workplace, " io ", PASSWORD).code == "IO"
    for code, password in (("IO", "wrong"), ("XX", PASSWORD), ("IO", "")):
        with pytest.raises(NotAllowed, match="do not belong together"):
            staff.sign_in(office.workplace, code, password)


def test_a_new_password_ends_one_s_sessions_and_only_a_partner_sets_another_s(office):
    before = staff.staff_row(office.workplace, "IO").epoch
    staff.set_password(office.workplace, office["IO"], "IO", "another long one")
    assert staff.staff_row(office.workplace, "IO").epoch == before + 1
    with pytest.raises(NotAllowed):
        staff.set_password(office.workplace, office["IO"], "TV", "another long one")
    staff.set_password(office.workplace, office["OB"], "TV", "another long one")
    with pytest.raises(BadEntry, match="at least 12"):
        staff.set_password(office.workplace, office["OB"], "TV", "short")
    for guessed in ("password1234", "Tomas Vell12", "aaaaaaaaaaaaaa"):
        with pytest.raises(BadEntry, match="choose another"):
            staff.set_password(office.workplace, office["OB"], "TV", guessed)


def test_only_a_partner_runs_the_practice_and_it_keeps_one(office):
    for post_request in (
        lambda by: staff.add_staff(office.workplace, by, "NN", "New", Role.PREPARER, None),
        lambda by: staff.set_role(office.workplace, by, "IO", Role.PARTNER),
        lambda by: staff.give_client(office.workplace, by, "PH", "SMALL", give=True),
        lambda by: staff.assign(office.workplace, by, "PH", ["SMALL"], give=True),
        lambda by: staff.set_second_person(office.workplace, by, False),
    ):
        with pytest.raises(NotAllowed):
            post_request(office["TV"])
    with pytest.raises(BadEntry, match="needs a partner"):
        staff.set_role(office.workplace, office["OB"], "OB", Role.PREPARER)
    with pytest.raises(BadEntry, match="choose another code"):
        staff.add_staff(office.workplace, office["OB"], "IO", "Again", Role.PREPARER, None)
    with pytest.raises(BadEntry, match="no code for a person"):
        staff.add_staff(office.workplace, office["OB"], "I O", "Spaced", Role.PREPARER, None)


def test_a_client_is_given_and_taken_away(office):
    staff.give_client(office.workplace, office["OB"], "PH", "SMALL", give=True)
    assert staff.person_named(office.workplace, "PH").sees("SMALL")
    staff.give_client(office.workplace, office["OB"], "PH", "SMALL", give=False)
    assert not staff.person_named(office.workplace, "PH").sees("SMALL")
    with pytest.raises(UnknownName):
        staff.give_client(office.workplace, office["OB"], "PH", "NONE", give=True)


def test_clients_are_assigned_all_or_none(office):
    with pytest.raises(UnknownName):
        staff.assign(office.workplace, office["OB"], "PH", ["SMALL", "NONE"], give=True)
    assert staff.person_named(office.workplace, "PH").clients == frozenset()
    for give, has in ((True, {"SMALL"}), (False, set())):
        staff.assign(office.workplace, office["OB"], "PH", ["SMALL"], give=give)
        assert staff.person_named(office.workplace, "PH").clients == has
