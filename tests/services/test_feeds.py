"""The bank asked for many clients: overlaps, late lines, and one that fails stops no other."""

from datetime import date

import pytest

from corkpost.core.kinds import StatementFormat
from corkpost.core.refusals import UnknownName
from corkpost.services import feeds, jobs
from corkpost.services.feeds import NoBank
from corkpost.stand_ins.bank import Bank, BankServer, Erred, Issued
from tests.formats.folders import small_books
from tests.notation import EUR, eur
from tests.practice import take_in
from tests.services.test_bank import CARD, FEE, REEDWHARF, SCHOOL

LINES = (REEDWHARF, SCHOOL, CARD, FEE)
JUNE = date(2026, 6, 15)
JULY = date(2026, 7, 2)


def issued(identifier="XX00", late=None):
    return Issued(
        identifier,
        EUR,
        StatementFormat.CAMT053,
        date(2026, 1, 1),
        eur("530.00"),
        LINES,
        {2: late} if late else {},
        {1: Erred(eur("10.00"), date(2026, 6, 20))},
    )


@pytest.fixture
def bank(office):
    """A bank with the account of SMALL, whose card payment it knows a month late."""
    server = BankServer(Bank(lambda: (issued(late=date(2026, 7, 1)),), closed=frozenset({"SHUT"})))
    server.start()
    office.workplace.bank_address = server.address
    yield server
    server.stop()


def ask(office, *clients, on, who="OB"):
    office.workplace._today = on
    return feeds.take_in_from_bank(office.workplace, office[who], clients)


def test_what_the_bank_knows_comes_and_what_it_knew_later_comes_later(office, bank):
    (first,) = ask(office, "SMALL", on=JUNE)
    assert ([t.new for t in first.taken], first.problem) == ([2], None)
    (again,) = ask(office, "SMALL", on=JUNE)
    assert [(t.new, t.already) for t in again.taken] == [(0, 0)]
    (corrected,) = ask(office, "SMALL", on=date(2026, 6, 21))
    assert [t.new for t in corrected.taken] == [1]
    lines = [
        x
        for statement in office.workplace.ledger(office["OB"], "SMALL").books.statements
        for x in statement.lines
    ]
    assert [(x.amount, x.text) for x in lines[-2:]] == [
        (eur("10.00"), "HARBOUR SCHOOL"),
        (eur("90.00"), "CORRECTION 20/05"),
    ]
    # The card payment of 2 June lies too far back to be asked for again: the sums say so.
    (later,) = ask(office, "SMALL", on=JULY)
    assert [t.new for t in later.taken] == [1]
    assert "lines between them may be missing" in " ".join(later.taken[0].warnings)


def test_a_client_that_fails_is_told_and_the_others_go_on(office, bank, tmp_path):
    other = small_books("OTHER")
    shut = tuple(row._replace(identifier="SHUT") for row in other.tables.bank_accounts)
    tables = type(other.tables)(**{**vars(other.tables), "bank_accounts": shut})
    take_in(
        office.workplace,
        office["OB"],
        type(other)(other.client, tables, other.calendar),
        tmp_path / "o",
    )
    strange = tuple(row._replace(identifier="NOBODY") for row in shut)
    third = small_books("THIRD")
    tables = type(third.tables)(**{**vars(third.tables), "bank_accounts": strange})
    take_in(
        office.workplace,
        office["OB"],
        type(third)(third.client, tables, third.calendar),
        tmp_path / "t",
    )
    found = ask(office, "OTHER", "THIRD", "SMALL", on=JUNE)
    assert [fed.problem for fed in found] == [
        "1200: the bank could not answer (503). Try again later.",
        "1200: the bank has no such account (404). Try again later.",
        None,
    ]
    assert found[2].taken[0].new == 2
    bank.stop()
    (gone,) = ask(office, "SMALL", on=JULY)
    assert gone.problem == "1200: the bank did not answer. Try again later."
    bank._server.server_close = lambda: None
    bank._server.shutdown = lambda: None


def test_the_job_tells_a_report_per_client_and_refuses_what_is_not_one_s_own(office, bank):
    office.workplace._today = JUNE
    job = jobs.start_statements(office.workplace, office["IO"], ["SMALL"])
    assert jobs.run_next(office.workplace)
    (report,) = jobs.job(office.workplace, office["IO"], job).result["statements"]
    assert (report["client"], report["new"], report["problem"]) == ("SMALL", 2, None)
    with pytest.raises(UnknownName):
        jobs.start_statements(office.workplace, office["PH"], ["SMALL"])
    with pytest.raises(UnknownName):
        jobs.job(office.workplace, office["OB"], job)


def test_without_a_bank_nothing_is_asked(office):
    with pytest.raises(NoBank):
        jobs.start_statements(office.workplace, office["OB"], ["SMALL"])
    with pytest.raises(NoBank):
        feeds.take_in_from_bank(office.workplace, office["OB"], ["SMALL"])
