"""Registers over the API: tables read from files as they are, papers that came in."""

ASSETS = b"asset,account,name,bought,cost,life\nA1,0100,launch,2026-03-01,12000.00,5\n"
RATES = b"date,currency,rate\n2026-10-31,usd,0.935\n"
BYTES = {"Content-Type": "application/octet-stream"}
C = "/api/clients/SMALL"


def test_tables_are_read_from_the_files_that_are_sent_and_nothing_is_kept(desk):
    browser = desk.of("IO")
    (row,) = browser.post(f"{C}/assets/table", data=ASSETS, headers=BYTES).json["assets"]
    assert (row["asset"], row["cost"], row["method"]) == ("A1", "12000.00", "straight-line")
    rates = browser.post(f"{C}/rates/table", data=RATES, headers=BYTES).json["rates"]
    assert rates == [{"currency": "USD", "day": "2026-10-31", "rate": "0.935"}]
    assert browser.get(f"{C}/rates").json["rates"] == []
    for address, wrong in (
        ("assets", b"name,cost\nx,1"),
        ("rates", b"date,currency,rate\nx,USD,1"),
    ):
        refused = browser.post(f"{C}/{address}/table", data=wrong, headers=BYTES)
        assert refused.status_code == 422, refused.text


def test_a_paper_is_taken_in_and_told_as_waiting(desk):
    browser = desk.of("IO")
    assert (
        browser.post(f"{C}/incoming?name=fuel.pdf", data=b"%PDF", headers=BYTES).status_code == 200
    )
    (paper,) = browser.get(f"{C}/incoming").json["papers"]
    assert (paper["name"], paper["used_by"]) == ("fuel.pdf", [])
    assert browser.get(f"{C}/papers/{paper['digest']}").data == b"%PDF"
    used = {"digest": paper["digest"], "transaction": "T1"}
    assert browser.post(f"{C}/incoming/used", json=used).json["also"] == []
    assert browser.get(f"{C}/incoming").json["papers"][0]["used_by"] == ["T1"]
