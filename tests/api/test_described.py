"""Every answer is as the API's own description says, whatever is asked, by whom: requests are made from the
description itself, and from what breaks it."""

import json
import re
from collections import Counter
from urllib.parse import parse_qsl

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st
from schemathesis import GenerationMode
from schemathesis import openapi as described
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import (
    content_type_conformance,
    response_schema_conformance,
    status_code_conformance,
)

from corkpost.api.openapi import document
from tests.api.conftest import Desk
from tests.api.test_security import ACTS, BODIES, FILLED, QUERIES
from tests.practice import PASSWORD, accrue, open_office, void_twin

SCHEMA = described.from_dict(json.loads(document()))
OPERATIONS = [found.ok() for found in SCHEMA.get_all_operations()]
CHECKS = [
    not_a_server_error,
    status_code_conformance,
    content_type_conformance,
    response_schema_conformance,
]
PLAIN = {"Accept-Encoding": "identity"}
WHO = ("OB", "TV", "IO", "PH", None)
"""A partner, a reviewer, a preparer, one without the client, and one who is not signed in."""


def placed(match):
    """As the routes are written."""
    return f"<{'int:' if match[1] in ('number', 'issue') else ''}{match[1]}>"


def asked(desk, who, operation, examples):
    """Ask it so often; the answers' statuses."""
    statuses = []

    @settings(
        max_examples=examples, database=None, suppress_health_check=list(HealthCheck), deadline=None
    )
    @given(data=st.data())
    def ask(data):
        case = drawn(data, operation)
        browser = desk.nobody() if who is None else confirmed(desk, who)
        response = case.call(app=desk.app, cookies=cookies_of(browser), headers=PLAIN)
        if response.status_code == 401 and who is not None:
            # It was signed out by what was asked before.
            desk.forget(who)
        case.validate_response(response, checks=CHECKS)
        statuses.append(response.status_code)

    ask()
    return statuses


def drawn(data, operation):
    """A request as described, or not; or one of this client, well-made but for one thing in it."""
    wrong = data.draw(st.booleans())
    mode = GenerationMode.NEGATIVE if wrong else GenerationMode.POSITIVE
    case = data.draw(operation.as_strategy(generation_mode=mode))
    # What is really there is asked of most often: else every answer would be that it is not.
    for name in case.path_parameters or {}:
        if data.draw(st.integers(0, 9)):
            case.path_parameters[name] = FILLED[name]
    if data.draw(st.integers(0, 2)):
        tail = re.sub(r"{(\w+)}", placed, operation.path).removeprefix("/api/clients/<client>")
        made = data.draw(st.sampled_from(ACTS)) if tail.startswith("/acts") else None
        body = {**BODIES[tail], "act": made} if made else BODIES.get(tail)
        query = dict(parse_qsl(QUERIES.get(tail, "")))
        case.body = but_for_one(data, body, case.body)
        case.query = but_for_one(data, query, case.query) if query else case.query
    return case


def but_for_one(data, good, bad):
    """What is well-made, with one of its values from what was drawn."""
    if not isinstance(good, dict) or not isinstance(bad, dict) or not bad:
        return good if good is not None else bad
    if data.draw(st.booleans()):
        return good
    name = data.draw(st.sampled_from(sorted(bad)))
    return {**good, name: bad[name]}


def confirmed(desk, who):
    """Their browser, with the password given again just now."""
    browser = desk.of(who)
    browser.post("/api/session/confirmed", json={"password": PASSWORD})
    return browser


def cookies_of(browser):
    """What a browser sends of itself."""
    return {cookie.key: cookie.value for cookie in browser._cookies.values()}


def told(who, statuses):
    """Most of what is asked comes through to where it is worked on; the counts are seen with `-s`."""
    counts = Counter(statuses)
    print(who, sum(counts.values()), sorted(counts.items()))
    return counts


LONG = [pytest.param(who, 100, marks=pytest.mark.soak) for who in WHO]


SHORT = [(who, 4 if who == "OB" else 2) for who in WHO]


@pytest.mark.parametrize(("who", "examples"), [*SHORT, *LONG])
def test_every_answer_is_as_described(desk, tmp_path_factory, who, examples):
    void_twin(desk.office)
    accrue(desk.office)
    statuses = []
    for operation in OPERATIONS:
        if operation.path.startswith("/api/clients/"):
            statuses += asked(desk, who, operation, examples)
        else:
            # What is done to people and the practice may leave nobody who can do the next.
            office = open_office(tmp_path_factory.mktemp("office"))
            statuses += asked(Desk(office), who, operation, examples)
            office.workplace.close()
    counts = told(who, statuses)
    if who is None:
        assert counts[401] > counts.total() / 2
    elif who != "PH":
        assert counts[200] > counts.total() / 8
