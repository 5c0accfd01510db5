"""The API served to a test client."""

from collections.abc import Iterator
from pathlib import Path

import pytest
from flask.testing import FlaskClient

from corkpost.api.app import create_app
from tests.practice import PASSWORD, Office, open_office


class Desk:
    """The API with a browser for each person. Works on the client SMALL."""

    def __init__(self, office: Office) -> None:
        self.office = office
        self.app = create_app(office.workplace, ("localhost", "cork.example"))
        self._browsers: dict[str, FlaskClient] = {}

    def nobody(self) -> FlaskClient:
        return self.app.test_client()

    def forget(self, who: str) -> None:
        """Sign in anew the next time."""
        self._browsers.pop(who, None)

    def of(self, who: str) -> FlaskClient:
        """A browser in which that person is signed in."""
        if who not in self._browsers:
            browser = self._browsers[who] = self.app.test_client()
            answer = browser.post("/api/session", json={"code": who, "password": PASSWORD})
            assert answer.status_code == 200, answer.text
        return self._browsers[who]


@pytest.fixture(scope="module")
def shared_desk(tmp_path_factory) -> Iterator[Desk]:
    """One for tests that post nothing."""
    office = open_office(tmp_path_factory.mktemp("office"))
    yield Desk(office)
    office.workplace.close()


@pytest.fixture
def desk(tmp_path: Path) -> Iterator[Desk]:
    office = open_office(tmp_path)
    yield Desk(office)
    office.workplace.close()
