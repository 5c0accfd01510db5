"""The demo practice, made once for all tests that look at it."""

import pytest

from corkpost.demo import practice
from corkpost.services.workplace import Workplace


@pytest.fixture(scope="session")
def demo(tmp_path_factory):
    place = Workplace(tmp_path_factory.mktemp("demo"), practice.TODAY)
    practice.make(place)
    yield place
    place.close()
