"""Who it is on the command line: proved by a token of a person, that they make on their own page."""

import hashlib
import secrets

from corkpost.core.refusals import NotAllowed
from corkpost.services import record
from corkpost.services.record import Kind
from corkpost.services.rights import May, Person
from corkpost.services.staff import person_named
from corkpost.services.workplace import Workplace
from corkpost.store import tokens as store

BEGINS = "corkpost-"


def make(workplace: Workplace, person: Person) -> str:
    """A new token of the person's, in place of the one before; it is told this once."""
    token = BEGINS + secrets.token_urlsafe(32)
    with workplace.database.writing() as connection:
        store.set_token(connection, person.code, _id(token), workplace.now)
        record.note(workplace, Kind.PASSWORD, person.code, "token for the command line made")
    return token


def drop(workplace: Workplace, person: Person) -> None:
    """The person's token counts no more."""
    with workplace.database.writing() as connection:
        store.drop_token(connection, person.code)
        record.note(workplace, Kind.PASSWORD, person.code, "token for the command line ended")


def since(workplace: Workplace, code: str) -> str | None:
    """When the person's token was made; None where they have none."""
    return store.since(workplace.database.reading, code)


def person_of(workplace: Workplace, token: str) -> Person:
    """The person whose token it is. Raises NotAllowed."""
    code = store.whose(workplace.database.reading, _id(token.strip()))
    if code is None:
        record.note(workplace, Kind.REFUSED, "nobody", "a token of nobody on the command line")
        raise NotAllowed("That token is nobody's. Make a new one on your page, Your account.")
    return person_named(workplace, code)


def is_needed(workplace: Workplace) -> bool:
    """Whether the command line takes nobody at their word."""
    return store.is_needed(workplace.database.reading)


def need(workplace: Workplace, by: Person, on: bool) -> None:
    """Take nobody at their word on the command line, or whoever `--by` names."""
    by.must_be_allowed(May.RUN_PRACTICE)
    with workplace.database.writing() as connection:
        store.set_needed(connection, on)
        how = "needs a token of a person" if on else "takes whom --by names"
        record.note(workplace, Kind.RULE, by.code, f"the command line {how}")


def _id(token: str) -> str:
    return hashlib.sha256(token.encode()).hexdigest()
