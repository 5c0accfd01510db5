"""Fixtures that many tests share."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from argon2 import PasswordHasher
from hypothesis import settings

from corkpost.services import staff
from corkpost.services.mail import Mail
from corkpost.stand_ins.mailbox import StandInMail
from tests.practice import Office, open_office

# Machines differ in speed; a slow one is no fault of the books.
settings.register_profile("corkpost", deadline=None, derandomize=True)
settings.load_profile("corkpost")

# Passwords are made slow to guess: for the made-up people of each test that would take most of its time.
staff._hasher = PasswordHasher(time_cost=1, memory_cost=8, parallelism=1)


@pytest.fixture
def office(tmp_path: Path) -> Iterator[Office]:
    """A small practice with the client SMALL."""
    made = open_office(tmp_path)
    yield made
    made.workplace.close()


@pytest.fixture
def mailbox(office: Office) -> Iterator[StandInMail]:
    """The office's mail server, with contacts who say nothing."""
    made = StandInMail(lambda _number, _text: None, after=0)
    made.start()
    office.workplace.mail = Mail(made.out, made.into, "books@quay.example")
    yield made
    made.stop()
