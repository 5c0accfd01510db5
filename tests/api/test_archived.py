"""Nothing is written to an archived client, by any route; all of it is read."""

from corkpost.services import archive
from tests.api.test_security import ACTS, ask, routes
from tests.practice import void_twin

MOVES_NOTHING = {
    "/place": "where a person was last",
    "/since": "what a person has read",
    "/acts/preview": "it is not posted",
    "/entries/reading": "it is not posted",
    "/sharing": "it is not posted",
    "/closing": "it is not posted",
    "/queries/letter": "it is not sent",
    "/points/visit": "what a person has seen",
    "/books": "read by a job, which is refused",
    "/drafts/<draft>": "one that is there may be dropped",
}
"""Routes that may answer, and why."""


def content_of(office):
    """Every row of the client's tables but those that are of one person."""
    connection = office.workplace.database.reading
    tables = [
        name
        for (name,) in connection.execute(
            "SELECT m.name FROM sqlite_master AS m WHERE m.type = 'table' AND EXISTS "
            "(SELECT 1 FROM pragma_table_info(m.name) WHERE name = 'client_id')"
        )
        if name not in {"places", "visits", "readings", "summaries", "kept_points"}
        and not name.startswith("find_")
    ]
    return {name: connection.execute(f"SELECT * FROM {name}").fetchall() for name in tables}


def test_an_archived_client_is_read_and_not_written_to_by_any_route(desk):
    void_twin(desk.office)
    archive.archive(desk.office.workplace, desk.office["OB"], "SMALL", "they left us")
    before, answered = content_of(desk.office), {}
    browser = desk.of("OB")
    for method, rule, address in routes(desk.app, "<client>"):
        answer = ask(browser, method, rule, address)
        tail = rule.removeprefix("/api/clients/<client>")
        if method == "GET":
            assert answer.status_code < 500, rule
        elif answer.status_code < 300:
            answered[tail] = answer.status_code
    for act in ACTS:
        body = {"act": act, "reason": "x", "shown": "x", "key": "k" * 16}
        answer = browser.post("/api/clients/SMALL/acts", json=body)
        assert answer.status_code >= 400, act
    assert content_of(desk.office) == before
    assert set(answered) <= set(MOVES_NOTHING), answered
