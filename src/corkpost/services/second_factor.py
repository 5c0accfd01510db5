"""A second factor: codes by time (RFC 6238), and recovery codes that are taken once."""

import hashlib
import io
import re
import secrets
import time
from typing import NamedTuple

import pyotp
import segno

from corkpost.core.refusals import BadEntry, NotAllowed
from corkpost.services import record
from corkpost.services.record import Kind
from corkpost.services.rights import May, Person
from corkpost.services.workplace import Workplace
from corkpost.store import practice as practice_store
from corkpost.store import sessions as store
from corkpost.store.sessions import Factor

STEP_SECONDS = 30
RECOVERY_CODES = 8
PENDING_SECONDS = 15 * 60
OFFERED = re.compile(r"[A-Z2-7]{32}")
"""What a secret of ours looks like."""


class Offered(NamedTuple):
    """A secret that is not set yet, to be read by a device. *drawn*: a picture of it, as SVG."""

    secret: str
    drawn: str


def has_one(workplace: Workplace, code: str) -> bool:
    return store.factor_of(workplace.database.reading, code) is not None


def is_demanded(workplace: Workplace) -> bool:
    """Whether everybody in the practice needs one."""
    practice = practice_store.practice_of(workplace.database.reading)
    return bool(practice and practice.second_factor)


def demand(workplace: Workplace, by: Person, on: bool) -> None:
    """Demand one of everybody, or leave it to each."""
    by.must_be_allowed(May.RUN_PRACTICE)
    with workplace.database.writing() as connection:
        practice_store.set_second_factor(connection, on)
        record.note(
            workplace,
            Kind.RULE,
            by.code,
            f"a second factor is {'needed by all' if on else 'left to each'}",
        )


def offer(person: Person, practice: str) -> Offered:
    """A new secret; it is set once a code of it was said."""
    secret = pyotp.random_base32()
    uri = pyotp.TOTP(secret).provisioning_uri(name=person.code, issuer_name=practice)
    drawn = io.BytesIO()
    segno.make(uri, error="m").save(drawn, kind="svg", scale=5, border=2, xmldecl=False)
    return Offered(secret, drawn.getvalue().decode())


def set_up(workplace: Workplace, person: Person, secret: str, code: str) -> tuple[str, ...]:
    """Set the offered secret; the recovery codes, which are shown this once. Raises BadEntry where the code
    is not of it."""
    if not OFFERED.fullmatch(secret):
        raise BadEntry(["That is no secret of ours. Ask for a new one."])
    step = _step_of(secret, code)
    if step is None:
        raise BadEntry(["That code is not of this secret. Key the one that your device shows now."])
    recovery = tuple(_recovery_code() for _ in range(RECOVERY_CODES))
    factor = Factor(
        secret, tuple(_hashed(one) for one in recovery), step, workplace.now.isoformat()
    )
    with workplace.database.writing() as connection:
        store.set_factor(connection, person.code, factor)
        record.note(workplace, Kind.PASSWORD, person.code, "second factor set up")
    return recovery


def drop(workplace: Workplace, by: Person, code: str) -> None:
    """Take a second factor away: one's own where none is demanded, or another's who lost their device."""
    if by.code != code:
        by.must_be_allowed(May.RUN_PRACTICE)
    elif is_demanded(workplace):
        raise NotAllowed("Everybody here needs a second factor. Set up another in its place.")
    with workplace.database.writing() as connection:
        store.drop_factor(connection, code)
        record.note(workplace, Kind.PASSWORD, by.code, f"second factor of {code} taken away")


def must_fit(workplace: Workplace, code: str, said: str) -> None:
    """Raise NotAllowed where it is neither a code of now nor a recovery code that is left."""
    if not fits(workplace, code, said):
        raise NotAllowed("That code does not fit. Key the one that your device shows now.")


def fits(workplace: Workplace, code: str, said: str) -> bool:
    """Whether it is a code of now that was not taken before, or a recovery code, which is used up by it."""
    with workplace.database.writing() as connection:
        factor = store.factor_of(connection, code)
        if factor is None:
            return False
        step = _step_of(factor.secret, said)
        if step is not None and step > factor.used:
            store.set_factor(connection, code, factor._replace(used=step))
            return True
        hashed = _hashed(said)
        if hashed in factor.recovery:
            left = tuple(one for one in factor.recovery if one != hashed)
            store.set_factor(connection, code, factor._replace(recovery=left))
            record.note(workplace, Kind.PASSWORD, code, f"recovery code used, {len(left)} left")
            return True
    return False


def _step_of(secret: str, said: str) -> int | None:
    """The half minute that the code is of: this one, or one beside it; None where it is of none."""
    figures = "".join(said.split())
    if not (figures.isascii() and figures.isdigit() and len(figures) == 6):
        return None
    now = int(time.time()) // STEP_SECONDS
    clock = pyotp.TOTP(secret)
    for step in (now, now - 1, now + 1):
        if secrets.compare_digest(clock.at(step * STEP_SECONDS), figures):
            return step
    return None


def _recovery_code() -> str:
    letters = "abcdefghjkmnpqrstuvwxyz23456789"
    return "-".join("".join(secrets.choice(letters) for _ in range(4)) for _ in range(3))


def _hashed(code: str) -> str:
    return hashlib.sha256(code.strip().lower().encode()).hexdigest()
