"""The practice and its staff: roles, sign-in, and which clients each was given."""

import sqlite3
from datetime import date, datetime
from typing import NamedTuple

from corkpost.core.kinds import Role
from corkpost.store.steps import in_one_step

PRACTICE = """
    SELECT name, is_demo, second_person, second_factor FROM practice
"""
FOUND_PRACTICE = """
    INSERT INTO practice (id, name, is_demo, second_person)
    VALUES (1, :name, :is_demo, 1)
"""
SET_SECOND_FACTOR = """
    UPDATE practice SET second_factor = :on
"""
SET_LEFT = """
    UPDATE staff SET left_on = :left_on, password_hash = NULL, epoch = epoch + 1 WHERE code = :code
"""
TAKE_ALL_AWAY = """
    DELETE FROM staff_clients WHERE staff_code = :staff_code
"""
SET_SECOND_PERSON = """
    UPDATE practice SET second_person = :second_person
"""
STAFF = """
    SELECT code, name, role, password_hash, epoch, left_on FROM staff ORDER BY code
"""
ONE_OF_STAFF = """
    SELECT code, name, role, password_hash, epoch, left_on FROM staff WHERE code = :code
"""
ADD_STAFF = """
    INSERT INTO staff (code, name, role, password_hash)
    VALUES (:code, :name, :role, :password_hash)
"""
SET_PASSWORD = """
    UPDATE staff SET password_hash = :password_hash, epoch = epoch + 1 WHERE code = :code
"""
SET_ROLE = """
    UPDATE staff SET role = :role WHERE code = :code
"""
GIVEN = """
    SELECT client.code
    FROM staff_clients AS given
    JOIN clients AS client ON client.id = given.client_id
    WHERE given.staff_code = :staff_code
    ORDER BY client.code
"""
GIVERS = """
    SELECT code, staff_code
    FROM staff_clients AS given
    JOIN clients AS client ON client.id = given.client_id
"""
GIVE = """
    INSERT INTO staff_clients (staff_code, client_id)
    VALUES (:staff_code, :client_id)
    ON CONFLICT DO NOTHING
"""
TAKE_AWAY = """
    DELETE FROM staff_clients WHERE staff_code = :staff_code AND client_id = :client_id
"""
KEEP_PLACE = """
    INSERT INTO places (staff_code, client_id, path, at)
    VALUES (:staff_code, :client_id, :path, :at)
    ON CONFLICT (staff_code, client_id) DO UPDATE SET path = :path, at = :at
"""
PLACES = """
    SELECT client.code, place.path
    FROM places AS place
    JOIN clients AS client ON client.id = place.client_id
    WHERE place.staff_code = :staff_code
"""


class Practice(NamedTuple):
    """*second_person*: who posted a change may not sign the trial balance that it is in. *second_factor*:
    everybody needs one."""

    name: str
    is_demo: bool
    second_person: bool
    second_factor: bool = False


class StaffRow(NamedTuple):
    """*epoch*: raised to end this person's sessions. No password hash: can't sign in. *left_on*: the day
    on which they left."""

    code: str
    name: str
    role: Role
    password_hash: str | None
    epoch: int
    left_on: str | None = None


def practice_of(connection: sqlite3.Connection) -> Practice | None:
    row = connection.execute(PRACTICE).fetchone()
    return Practice(row[0], *map(bool, row[1:])) if row else None


def found_practice(connection: sqlite3.Connection, name: str, *, is_demo: bool) -> None:
    connection.execute(FOUND_PRACTICE, {"name": name, "is_demo": int(is_demo)})


def set_second_person(connection: sqlite3.Connection, second_person: bool) -> None:
    connection.execute(SET_SECOND_PERSON, {"second_person": int(second_person)})


def set_second_factor(connection: sqlite3.Connection, on: bool) -> None:
    connection.execute(SET_SECOND_FACTOR, {"on": int(on)})


def set_left(connection: sqlite3.Connection, code: str, left_on: date) -> None:
    """They left: no password, no client, and the name stays."""
    connection.execute(SET_LEFT, {"code": code, "left_on": left_on.isoformat()})
    connection.execute(TAKE_ALL_AWAY, {"staff_code": code})


def all_staff(connection: sqlite3.Connection) -> list[StaffRow]:
    return [_staff(*row) for row in connection.execute(STAFF)]


def staff_named(connection: sqlite3.Connection, code: str) -> StaffRow | None:
    row = connection.execute(ONE_OF_STAFF, {"code": code}).fetchone()
    return _staff(*row) if row else None


def _staff(
    code: str, name: str, role: str, password_hash: str | None, epoch: int, left_on: str | None
) -> StaffRow:
    return StaffRow(code, name, Role(role), password_hash, epoch, left_on)


def add_staff(
    connection: sqlite3.Connection, code: str, name: str, role: Role, password_hash: str | None
) -> None:
    parameters = {"code": code, "name": name, "role": role, "password_hash": password_hash}
    connection.execute(ADD_STAFF, parameters)


def set_password(connection: sqlite3.Connection, code: str, password_hash: str) -> None:
    """Sets it and ends the person's sessions."""
    connection.execute(SET_PASSWORD, {"code": code, "password_hash": password_hash})


def set_role(connection: sqlite3.Connection, code: str, role: Role) -> None:
    connection.execute(SET_ROLE, {"code": code, "role": role})


def given_clients(connection: sqlite3.Connection, staff_code: str) -> frozenset[str]:
    """The codes of the clients that the person was given."""
    return frozenset(row[0] for row in connection.execute(GIVEN, {"staff_code": staff_code}))


def staff_by_client(connection: sqlite3.Connection) -> dict[str, list[str]]:
    """For each client's code, the staff that it was given to."""
    found: dict[str, list[str]] = {}
    for client, staff in sorted(in_one_step(connection, GIVERS)):
        found.setdefault(client, []).append(staff)
    return found


def give_client(connection: sqlite3.Connection, staff_code: str, client_id: int) -> None:
    connection.execute(GIVE, {"staff_code": staff_code, "client_id": client_id})


def take_client_away(connection: sqlite3.Connection, staff_code: str, client_id: int) -> None:
    connection.execute(TAKE_AWAY, {"staff_code": staff_code, "client_id": client_id})


def keep_place(
    connection: sqlite3.Connection, staff_code: str, client_id: int, path: str, at: datetime
) -> None:
    parameters = {
        "staff_code": staff_code,
        "client_id": client_id,
        "path": path,
        "at": at.isoformat(timespec="seconds"),
    }
    connection.execute(KEEP_PLACE, parameters)


def places_of(connection: sqlite3.Connection, staff_code: str) -> dict[str, str]:
    """For each client's code, the page where the person left it."""
    return dict(connection.execute(PLACES, {"staff_code": staff_code}).fetchall())
