"""Staff: who works here, their passwords, and which clients they were given."""

import hashlib
import secrets
import threading
import time
from collections.abc import Sequence
from functools import cache
from typing import NamedTuple

from argon2 import PasswordHasher
from argon2.exceptions import InvalidHashError, VerificationError
from zxcvbn import zxcvbn

from corkpost.core.approval import ApprovalRule
from corkpost.core.kinds import Role
from corkpost.core.refusals import BadEntry, NotAllowed, UnknownName
from corkpost.services.record import Kind, note
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import approvals as approval_store
from corkpost.store import practice as practice_store
from corkpost.store import sessions as session_store
from corkpost.store import tokens as token_store
from corkpost.store.clients import client_named
from corkpost.store.practice import Practice, StaffRow

SHORTEST_PASSWORD = 12
LONGEST_PASSWORD = 200
FEWEST_BESIDE_NAME = 8
"""Signs that a password has beside its person's name, where that is in it."""
WEAKEST = 3
"""Of the five grades from 0 to 4, by how many guesses a password takes."""
INVITED_SECONDS = 7 * 24 * 3600
_hasher = PasswordHasher()
_hashing = threading.BoundedSemaphore(2)
"""At most two passwords are reckoned at once: each takes a tenth of a second and much memory."""


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
    left_on: str | None = None
    has_factor: bool = False


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
    hashed = _hashed(password, code, full_name) if password is not None else None
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
            row.left_on,
            session_store.factor_of(connection, row.code) is not None,
        )
        for row in practice_store.all_staff(connection)
    ]


def sign_in(workplace: Workplace, code: str, password: str) -> StaffRow:
    """The member of staff whose password that is. Raises NotAllowed, in words that tell nobody
    whether the name or the password was wrong."""
    row = practice_store.staff_named(workplace.database.reading, code.strip().upper())
    row = row or practice_store.staff_named(workplace.database.reading, code.strip())
    hashed = row.password_hash if row and row.password_hash else _nobody()
    if not _fits(hashed, password) or row is None or row.password_hash is None or row.left_on:
        raise NotAllowed("That name and password do not belong together. Try again.")
    return row


def password_fits(workplace: Workplace, code: str, password: str) -> bool:
    """Whether it is that person's password. Nobody's is empty."""
    row = practice_store.staff_named(workplace.database.reading, code)
    return bool(row and row.password_hash and _fits(row.password_hash, password))


def _fits(hashed: str, password: str) -> bool:
    try:
        with _hashing:
            return _hasher.verify(hashed, password)
    except (VerificationError, InvalidHashError):
        return False


def _hashed(password: str, *names: str) -> str:
    """Raises BadEntry for a password that is short, has the person's name in it, or is soon guessed."""
    if len(password) < SHORTEST_PASSWORD:
        raise BadEntry([f"A password has at least {SHORTEST_PASSWORD} signs: make it longer."])
    if len(password) > LONGEST_PASSWORD:
        raise BadEntry([f"A password has at most {LONGEST_PASSWORD} signs: make it shorter."])
    words = {word.casefold() for name in names for word in name.split() if len(word) > 2}
    rest = password.casefold()
    for word in words:
        rest = rest.replace(word, "")
    if len(rest) < min(len(password), FEWEST_BESIDE_NAME):
        raise BadEntry(["One's own name is soon guessed: choose another."])
    found = zxcvbn(password[:72], user_inputs=sorted(words))
    if found["score"] < WEAKEST:
        why = found["feedback"]["warning"] or "It is soon guessed."
        raise BadEntry(
            [f"{why.rstrip('.')}: choose another, as three words that go together for you."]
        )
    with _hashing:
        return _hasher.hash(password)


def add_staff(
    workplace: Workplace, by: Person, code: str, name: str, role: Role, password: str | None
) -> None:
    """A new member of staff; without a password they can't sign in yet."""
    by.must_be_allowed(May.RUN_PRACTICE)
    if not (code.isascii() and code.isalnum() and len(code) <= 12):
        raise BadEntry([f"{code!r} is no code for a person: up to 12 letters and digits."])
    hashed = _hashed(password, code, name) if password is not None else None
    with workplace.database.writing() as connection:
        if practice_store.staff_named(connection, code):
            raise BadEntry([f"There is a {code!r} already: choose another code."])
        practice_store.add_staff(connection, code, name, role, hashed)
        note(workplace, Kind.STAFF, by.code, f"{code} {name} joins, {role}")


def set_password(workplace: Workplace, by: Person, code: str, password: str) -> None:
    """One's own, or anybody's for a partner. Ends that person's sessions."""
    if by.code != code:
        by.must_be_allowed(May.RUN_PRACTICE)
    person = person_named(workplace, code)
    hashed = _hashed(password, code, person.name)
    with workplace.database.writing() as connection:
        practice_store.set_password(connection, code, hashed)
        session_store.end_sessions(
            connection, at=workplace.now, by=by.code, why="a new password", staff_code=code
        )
        session_store.forget_invitations(connection, code)
        note(workplace, Kind.PASSWORD, by.code, f"a new password of {code}")


def change_own_password(workplace: Workplace, person: Person, old: str, new: str) -> None:
    """A new password of one's own, by saying the old one. Raises NotAllowed or BadEntry."""
    if not password_fits(workplace, person.code, old):
        raise NotAllowed("That is not your password as it is. Nothing was changed.")
    set_password(workplace, person, person.code, new)


def invite(workplace: Workplace, by: Person, code: str) -> str:
    """What a link holds by which that person sets a password of their own, once, within a week."""
    by.must_be_allowed(May.RUN_PRACTICE)
    person_named(workplace, code)
    token = secrets.token_urlsafe(24)
    with workplace.database.writing() as connection:
        row = practice_store.staff_named(connection, code)
        if row is None or row.left_on:
            raise BadEntry([f"{code} does not work here any more."])
        until = int(time.time()) + INVITED_SECONDS
        session_store.invite(connection, _id_of(token), code, by.code, until)
        note(workplace, Kind.STAFF, by.code, f"{code} invited")
    return token


def invited(workplace: Workplace, token: str) -> StaffRow:
    """Whom a link invites. Raises NotAllowed for one that is used, too old, or none."""
    found = session_store.invited(workplace.database.reading, _id_of(token))
    row = staff_row(workplace, found[0]) if found and found[1] > time.time() else None
    if row is None or row.left_on:
        raise NotAllowed("This invitation was used, or is too old. Ask for another.")
    return row


def accept(workplace: Workplace, token: str, password: str) -> StaffRow:
    """Set one's first password by an invitation. Raises NotAllowed or BadEntry."""
    row = invited(workplace, token)
    set_password(workplace, person_named(workplace, row.code), row.code, password)
    return row


def _id_of(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()


def leave(workplace: Workplace, by: Person, code: str, to: str | None) -> None:
    """A person leaves: sessions end, their clients go to *to* where somebody is named, and their name stays
    wherever it is. The last partner stays."""
    by.must_be_allowed(May.RUN_PRACTICE)
    person = person_named(workplace, code)
    if to is not None and (to == code or _has_left(workplace, to)):
        raise BadEntry([f"{to} can't take the work over: name somebody who stays."])
    with workplace.database.writing() as connection:
        partners = [
            row.code
            for row in practice_store.all_staff(connection)
            if row.role is Role.PARTNER and not row.left_on
        ]
        if partners == [code]:
            raise BadEntry(["A practice needs a partner: make somebody else one first."])
        for client_code in sorted(person.clients) if to is not None else ():
            client = client_named(connection, client_code)
            if client is not None and to is not None:
                practice_store.give_client(connection, to, client.id)
        practice_store.set_left(connection, code, workplace.today)
        session_store.end_sessions(
            connection, at=workplace.now, by=by.code, why="left the practice", staff_code=code
        )
        session_store.forget_invitations(connection, code)
        session_store.drop_factor(connection, code)
        token_store.drop_token(connection, code)
        handed = f", work to {to}" if to else ""
        note(workplace, Kind.STAFF, by.code, f"{code} {person.name} left{handed}")


def _has_left(workplace: Workplace, code: str) -> bool:
    person_named(workplace, code)
    row = staff_row(workplace, code)
    return bool(row and row.left_on)


def set_role(workplace: Workplace, by: Person, code: str, role: Role) -> None:
    """Change what a person may do. The last partner stays one."""
    by.must_be_allowed(May.RUN_PRACTICE)
    person_named(workplace, code)
    with workplace.database.writing() as connection:
        partners = [
            row.code
            for row in practice_store.all_staff(connection)
            if row.role is Role.PARTNER and not row.left_on
        ]
        if partners == [code] and role is not Role.PARTNER:
            raise BadEntry(["A practice needs a partner: make somebody else one first."])
        practice_store.set_role(connection, code, role)
        note(workplace, Kind.STAFF, by.code, f"{code} is a {role} now")


def set_approval(workplace: Workplace, by: Person, code: str, rule: ApprovalRule) -> None:
    """Say what that person's postings need another's approval for. A partner's need none."""
    by.must_be_allowed(May.RUN_PRACTICE)
    person = person_named(workplace, code)
    if person.role is Role.PARTNER and rule != ApprovalRule():
        raise BadEntry([f"{person.name} is a partner, and nobody approves a partner's work."])
    with workplace.database.writing() as connection:
        approval_store.set_rule(connection, code, rule, by.code, workplace.now)
        above = f", above {rule.above}" if rule.above is not None else ""
        what = "every entry" if rule.journals else "no entry"
        note(workplace, Kind.RULE, by.code, f"of {code} {what} waits{above}")


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
            how = "given to" if give else "taken from"
            note(workplace, Kind.STAFF, by.code, f"{how} {code}", client=client_code)


def set_second_person(workplace: Workplace, by: Person, on: bool) -> None:
    """Whether who posted in a trial balance may not sign it: a practice of one may switch it off."""
    by.must_be_allowed(May.RUN_PRACTICE)
    with workplace.database.writing() as connection:
        practice_store.set_second_person(connection, on)
        note(workplace, Kind.RULE, by.code, f"a second person {'signs' if on else 'is not needed'}")
