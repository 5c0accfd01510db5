"""What moved among the points since a person was last here."""

from datetime import datetime, timedelta

from corkpost.services import review, visits
from tests.practice import only_point, void_twin

NOON = datetime(2026, 11, 16, 12, 0)


def come(office, who, minutes):
    office.workplace._clock = lambda: NOON + timedelta(minutes=minutes)
    return visits.visit(office.workplace, office[who], "SMALL")


def test_on_the_first_visit_nothing_is_told_and_on_the_next_what_others_did(office):
    assert come(office, "TV", 0).at is None
    assert come(office, "IO", 1).at is None
    twin = only_point(office).point.id
    void_twin(office)
    found = come(office, "TV", 60)
    assert (found.at, found.new, found.changed) == (NOON, (), ())
    assert found.decided == (twin,)
    # Within one visit it goes on being told; after a pause it is told no more.
    assert come(office, "TV", 70).decided == (twin,)
    assert come(office, "TV", 140).decided == ()


def test_what_comes_back_is_told(office):
    twin = only_point(office).point.id
    review.decide(office.workplace, office["IO"], "SMALL", twin, "leave", "two deliveries")
    come(office, "TV", 0)
    review.reopen_point(office.workplace, office["IO"], "SMALL", twin, "one after all")
    assert come(office, "TV", 60).changed == (twin,)


def test_each_client_s_visits_are_the_person_s_own(office):
    come(office, "TV", 0)
    void_twin(office)
    assert come(office, "OB", 60).at is None
