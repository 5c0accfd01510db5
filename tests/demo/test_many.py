"""A practice of many clients, for the desk's speed."""

from corkpost.demo.many import NAMES, TRADES, add_clients, client_number
from corkpost.services import desk
from corkpost.store.clients import all_clients


def test_clients_are_added_until_there_are_so_many_and_given_to_the_staff(office):
    place, orla = office.workplace, office["OB"]
    told: list[str] = []
    add_clients(place, orla, 3, told.append)
    rows = {row.code: row for row in desk.desk(place, orla).rows}
    assert rows.keys() == {"SMALL", "N002", "N003"}
    assert all(row.staff for row in rows.values())
    add_clients(place, orla, 3, told.append)
    assert told == ["making N002, 2 of 3", "making N003, 3 of 3"]
    assert len(all_clients(place.database.reading)) == 3


def test_no_two_of_them_have_one_name():
    assert len(NAMES) * len(TRADES) > 300
    assert len({client_number(number).client.name for number in range(1, 40)}) == 39
