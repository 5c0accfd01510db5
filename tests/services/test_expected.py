"""An error of the bank from its booking to its correction, which is agreed by itself."""

from datetime import date

from corkpost.core.acts import TakeBack
from corkpost.core.kinds import PeriodState
from corkpost.services import acts, bank, entries, periods, review, store
from corkpost.services.posting import PostRequest
from corkpost.stand_ins.statement_files import BankLine, as_camt053
from tests.builders import day
from tests.notation import EUR
from tests.practice import by_route
from tests.services.test_bank import BANK, CARD, SCHOOL, statement, take

WRONG = BankLine(date(2026, 4, 21), -26400, "REEDWHARF", bank_id="B1")
PUT_RIGHT = BankLine(date(2026, 7, 2), 1800, "ADJUSTMENT", bank_id="B9")


def book_the_error(office):
    """The bank paid 264.00 for 246.00."""
    take(office, as_camt053([statement(WRONG, SCHOOL, CARD)]))
    found = review.points(office.workplace, office["IO"], "SMALL")
    point = next(stated.point for stated in found if stated.point.check == "bank-amount-differs")
    acts.post(
        office.workplace,
        office["IO"],
        "SMALL",
        by_route(point.id, "bank-error", {}),
        PostRequest("the cheque says 246"),
    )


def july(office):
    opening = statement(WRONG, SCHOOL, CARD)
    total = opening.opening + sum(line.amount for line in opening.lines)
    later = statement(
        PUT_RIGHT, opening=EUR.format(total), first=date(2026, 7, 1), last=date(2026, 7, 31)
    )
    return take(office, as_camt053([later]), name="july.xml")


def test_it_is_recorded_and_agreed_as_it_comes_and_can_be_taken_back(office):
    book_the_error(office)
    (taken,) = july(office)
    (words,) = taken.settled
    assert "expected since 21 April 2026" in words
    assert "Agreed with C-2026-2" in words
    state = bank.state(office.workplace, office["IO"], "SMALL", BANK, 2)
    assert [group.by_program for group in state.look.state.groups] == [True]
    assert store.verify(office.workplace).broken == ()
    last = entries.change_log(office.workplace, office["IO"], "SMALL")[-1].number
    acts.post(
        office.workplace,
        office["IO"],
        "SMALL",
        TakeBack(last),
        PostRequest("it was something else"),
    )
    (again,) = july(office)
    assert (again.already, again.settled) == (1, ())


def test_where_it_may_not_be_posted_it_stays_a_point(office):
    book_the_error(office)
    periods.set_period(
        office.workplace, office["TV"], "SMALL", day("2026-07-01"), PeriodState.HELD, "under review"
    )
    (taken,) = july(office)
    assert taken.settled == ()
    found = review.points(office.workplace, office["IO"], "SMALL")
    assert "bank-missing" in {stated.point.check for stated in found}
