"""Staff: who works here, their passwords, and which clients they were given."""

from collections.abc import Sequence
from functools import cache
from typing import NamedTuple

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError

from corkpost.core.approval import ApprovalRule
from corkpost.core.kinds import Role
from corkpost.core.refusals import BadEntry, NotAllowed, UnknownName
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import approvals as approval_store
from corkpost.store import practice as practice_store
from corkpost.store.clients import client_named
from corkpost.store.practice import Practice, StaffRow

SHORTEST_PASSWORD = 10
_hasher = PasswordHasher()


@cache
def _nobody() -> str:
    """Verified against when there is nobody of that name, so that an answer takes as long as any other."""
    return _hasher.hash("nobody at all")


class StaffMember(NamedTuple):
    code: str
    name: str
    role: Role
    clients: tuple[str, ...]
    can_sign_in: bool
    rule: ApprovalRule


def practice(workplace: Workplace) -> Practice:
    """The practice; a plain one where nobody has worked yet."""
    return practice_store.practice_of(workplace.database.reading) or Practice(
        "Practice", False, True
    )


def found_practice(
    workplace: Workplace, name: str, first: tuple[str, str, str | None], *, is_demo: bool = False
) -> Person:
    """Begin a practice with its first partner: code, name, password."""
    code, full_name, password = first
    hashed = _hashed(password) if password is not None else None
    with workplace.database.writing() as connection:
        practice_store.found_practice(connection, name, is_demo=is_demo)
        practice_store.add_staff(connection, code, full_name, Role.PARTNER, hashed)
    return person_named(workplace, code)


def person_named(workplace: Workplace, code: str) -> Person:
    """The member of staff at work. Raises UnknownName."""
    connection = workplace.database.reading
    row = practice_store.staff_named(connection, code)
    if row is None:
        raise UnknownName("member of staff", code)
    given = practice_store.given_clients(connection, code)
    return Person(row.code, row.name, row.role, given, approval_store.rule_of(connection, code))


def is_demo(workplace: Workplace) -> bool:
    """Whether the practice is made up, for trying things out."""
    practice = practice_store.practice_of(workplace.database.reading)
    return practice is not None and practice.is_demo


def has_staff(workplace: Workplace) -> bool:
    return bool(practice_store.all_staff(workplace.database.reading))


def staff_row(workplace: Workplace, code: str) -> StaffRow | None:
    return practice_store.staff_named(workplace.database.reading, code)


def everybody(workplace: Workplace) -> list[StaffMember]:
    """All the staff, by code."""
    connection = workplace.database.reading
    return [
        StaffMember(
            row.code,
            row.name,
            row.role,
            tuple(sorted(practice_store.given_clients(connection, row.code))),
            row.password_hash is not None,
            approval_store.rule_of(connection, row.code),
        )
        for row in practice_store.all_staff(connection)
    ]


def sign_in(workplace: Workplace, code: str, password: str) -> StaffRow:
    """The member of staff whose password that is. Raises NotAllowed, in words that tell nobody
    whether the name or the password was wrong."""
    row = practice_store.staff_named(workplace.database.reading, code.strip().upper())
    row = row or practice_store.staff_named(workplace.database.reading, code.strip())
    hashed = row.password_hash if row and row.password_hash else _nobody()
    if not _fits(hashed, password) or row is None or row.password_hash is None:
        raise NotAllowed("That name and password do not belong together. Try again.")
    return row


def password_fits(workplace: Workplace, code: str, password: str) -> bool:
    """Whether it is that person's password. Nobody's is empty."""
    row = practice_store.staff_named(workplace.database.reading, code)
    return bool(row and row.password_hash and _fits(row.password_hash, password))


def _fits(hashed: str, password: str) -> bool:
    try:
        return _hasher.verify(hashed, password)
    except (VerificationError, InvalidHashError):
        return False


def _hashed(password: str) -> str:
    if len(password) < SHORTEST_PASSWORD:
        raise BadEntry([f"A password has at least {SHORTEST_PASSWORD} signs: make it longer."])
    return _hasher.hash(password)


def add_staff(
    workplace: Workplace, by: Person, code: str, name: str, role: Role, password: str | None
) -> None:
    """A new member of staff; without a password they can't sign in yet."""
    by.must_be_allowed(May.RUN_PRACTICE)
    if not (code.isascii() and code.isalnum() and len(code) <= 12):
        raise BadEntry([f"{code!r} is no code for a person: up to 12 letters and digits."])
    hashed = _hashed(password) if password is not None else None
    with workplace.database.writing() as connection:
        if practice_store.staff_named(connection, code):
            raise BadEntry([f"There is a {code!r} already: choose another code."])
        practice_store.add_staff(connection, code, name, role, hashed)


def set_password(workplace: Workplace, by: Person, code: str, password: str) -> None:
    """One's own, or anybody's for a partner. Ends that person's sessions."""
    if by.code != code:
        by.must_be_allowed(May.RUN_PRACTICE)
    person_named(workplace, code)
    hashed = _hashed(password)
    with workplace.database.writing() as connection:
        practice_store.set_password(connection, code, hashed)


def set_role(workplace: Workplace, by: Person, code: str, role: Role) -> None:
    """Change what a person may do. The last partner stays one."""
    by.must_be_allowed(May.RUN_PRACTICE)
    person_named(workplace, code)
    with workplace.database.writing() as connection:
        partners = [r.code for r in practice_store.all_staff(connection) if r.role is Role.PARTNER]
        if partners == [code] and role is not Role.PARTNER:
            raise BadEntry(["A practice needs a partner: make somebody else one first."])
        practice_store.set_role(connection, code, role)


def set_approval(workplace: Workplace, by: Person, code: str, rule: ApprovalRule) -> None:
    """Say what that person's postings need another's approval for. A partner's need none."""
    by.must_be_allowed(May.RUN_PRACTICE)
    person = person_named(workplace, code)
    if person.role is Role.PARTNER and rule != ApprovalRule():
        raise BadEntry([f"{person.name} is a partner, and nobody approves a partner's work."])
    with workplace.database.writing() as connection:
        approval_store.set_rule(connection, code, rule, by.code, workplace.now)


def give_client(
    workplace: Workplace, by: Person, code: str, client_code: str, *, give: bool
) -> None:
    """Give a client to a person, or take it away."""
    assign(workplace, by, code, [client_code], give=give)


def assign(
    workplace: Workplace, by: Person, code: str, clients: Sequence[str], *, give: bool
) -> None:
    """Give these clients to a person, or take them away: all of them or none."""
    by.must_be_allowed(May.RUN_PRACTICE)
    person_named(workplace, code)
    act = practice_store.give_client if give else practice_store.take_client_away
    with workplace.database.writing() as connection:
        for client_code in clients:
            client = client_named(connection, client_code)
            if client is None:
                raise UnknownName("client", client_code)
            act(connection, code, client.id)


def set_second_person(workplace: Workplace, by: Person, on: bool) -> None:
    """Whether who posted in a trial balance may not sign it: a practice of one may switch it off."""
    by.must_be_allowed(May.RUN_PRACTICE)
    with workplace.database.writing() as connection:
        practice_store.set_second_person(connection, on)
