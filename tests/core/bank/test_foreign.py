"""An account kept in another currency: matched and proved in its own, never added to what is not."""

from fractions import Fraction

import pytest

from corkpost.core.bank.agreeing import Wanted, plan_agree, ready
from corkpost.core.bank.reconciling import reconciliation
from corkpost.core.bank.sides import bank_sides
from corkpost.core.books import BankAccount, FinishedReconciliation
from corkpost.core.checks import run_checks
from corkpost.core.entries import plan_entry
from corkpost.core.foreign import about_account
from corkpost.core.kinds import EntryKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.matching.bank_look import bank_look
from corkpost.core.money import Currency, MixedCurrencies, Money
from corkpost.core.points import CheckRun
from corkpost.core.refusals import BadEntry
from corkpost.core.row_kinds.rates import Rate
from corkpost.core.tie_outs.banks import find
from corkpost.formats.composed import ComposedEntry, ComposedLine, read_composed, request_in
from tests.builders import CODES, TODAY, after, bank_line, books_with, day, posted, with_statement
from tests.notation import eur

DOLLARS = CODES["savings"]
AT = day("2026-05-31")


def dollars(text, on, foreign, **more):
    """An entry whose line on the dollar account says what it is in dollars."""
    entry = posted(text, on, **more)
    lines = (
        line._replace(currency="USD", foreign_amount=foreign) if line.account == DOLLARS else line
        for line in entry.lines
    )
    return entry._replace(lines=tuple(lines))


def dollar_books(*more, rate="0.9", lines=None):
    books = books_with(
        dollars("Dr savings 920.00, Cr sales 920.00", "2026-05-04", "1000.00", id="IN"),
        dollars("Dr fuel 92.00, Cr savings 92.00", "2026-05-20", "-100.00", id="OUT"),
        *more,
        bank_accounts=(BankAccount(DOLLARS, currency="USD"),),
        more={"rates": (Rate("USD", day("2026-05-31"), Fraction(rate)),)},
    )
    shown = lines or (
        bank_line("2026-05-05", "1000.00", "WIRE IN"),
        bank_line("2026-05-21", "-100.00", "FUEL STOP"),
    )
    return with_statement(books, *shown, account=DOLLARS, last="2026-05-31")


def proof(books):
    return next(t for t in find(books, AT) if t.accounts == (DOLLARS,))


def test_its_lines_are_matched_and_reckoned_in_dollars():
    revalued = posted("Cr savings 8.00, Dr charges 8.00", "2026-05-31", Kind.REVALUATION)
    books = dollar_books(revalued)
    sides = bank_sides(books, DOLLARS)
    assert [entry.amount for entry in sides.entries.values()] == [100_000, -10_000]
    look = bank_look(books, sides, sides.statements[-1])
    pairs = {(p.entries[0][0], sides.lines[p.lines[0]].text) for p in look.proposals}
    assert pairs == {("IN", "WIRE IN"), ("OUT", "FUEL STOP")}
    wanted = [Wanted(p.entries, p.lines) for p in look.proposals]
    done = after(books, ready(plan_agree(books, DOLLARS, wanted), books))
    state = reconciliation(bank_sides(done, DOLLARS), sides.statements[-1])
    assert (state.ledger, state.difference, state.unmatched) == (90_000, 0, ())
    # What is left on it is no amount of ours: no point offers to post it as euro.
    strange = dollar_books(lines=(bank_line("2026-05-09", "-15.00", "FEE"),))
    assert not [p for p in run_checks(CheckRun(strange, TODAY)) if p.check.startswith("bank-")]


def test_it_is_proved_at_the_closing_rate_once_it_is_finished():
    books = dollar_books()
    sides = bank_sides(books, DOLLARS)
    look = bank_look(books, sides, sides.statements[-1])
    wanted = [Wanted(p.entries, p.lines) for p in look.proposals]
    done = after(books, ready(plan_agree(books, DOLLARS, wanted), books))
    finished = FinishedReconciliation(1, DOLLARS, sides.statements[-1].number, frozenset())
    done = done.followed_by(finished=(finished,))
    found = proof(done)
    # 900.00 dollars at 0.9; the books have what each was at its own rate, until they are revalued.
    assert (found.books, found.outside, found.lacks) == (82_800, 81_000, "")
    assert sum(part.amount for part in found.of_outside) == found.outside
    assert "USD 900.00 at 0.9 of 31 May 2026" in found.of_outside[0].says
    unknown = done.followed_by(tables=done.tables.with_rows("rates", ()))
    assert "No rate of USD" in proof(unknown).lacks


def test_what_says_no_sum_in_dollars_is_told_and_not_counted():
    silent = posted("Dr savings 50.00, Cr sales 50.00", "2026-05-10", id="SILENT")
    books = dollar_books(silent)
    assert "SILENT say no sum in it" in (about_account(books, DOLLARS) or "")
    assert ("SILENT", 1) not in bank_sides(books, DOLLARS).entries
    assert about_account(books, CODES["bank"]) is None


def test_dollars_and_euros_have_no_sum():
    one, other = Money(100, Currency("USD")), Money(100, Currency("EUR"))
    with pytest.raises(MixedCurrencies):
        one + other
    assert one + one == Money(200, Currency("USD"))
    assert str(-one) == "USD -1.00"
    assert one.at(Fraction("0.925"), Currency("EUR")) == Money(93, Currency("EUR"))
    assert Money(1500, Currency("JPY")).at(Fraction("0.006"), Currency("EUR")).amount == 900


def keyed(amount, **more):
    blank = {"party": "", "debit": "", "credit": "", "tax_code": "", "tax": "none", "text": ""}
    rows = (
        {"account": DOLLARS, "credit": amount, **more},
        {"account": CODES["charges"], "debit": "13.50"},
    )
    lines = [ComposedLine(**{**blank, "dimensions": "", **row}) for row in rows]
    return ComposedEntry(
        kind=EntryKind.ADJUSTING,
        date="2026-05-31",
        reverse_on="",
        reference="",
        reason="fee",
        lines=lines,
    )


@pytest.mark.parametrize("text", ["USD 15", "15 usd", "10+5usd"])
def test_an_amount_keyed_with_its_code_is_posted_at_the_rate_of_the_day(text):
    books = dollar_books()
    plan = plan_entry(books, request_in(keyed(text), books, AT))
    line = plan.entries[0].lines[0]
    assert (line.amount, line.currency, line.foreign_amount) == (-eur("13.50"), "USD", "-15.00")
    back = bank_sides(after(books, plan), DOLLARS).entries
    assert sum(entry.amount for entry in back.values()) == 88_500


@pytest.mark.parametrize(
    ("text", "more", "fault"),
    [
        ("XQX 15", {}, "no currency of ISO 4217"),
        ("CHF 15", {}, "No rate of CHF is known"),
        ("JPY 15.5", {}, "a fraction that JPY lacks"),
        ("USD 15", {"tax_code": "S23", "tax": "included"}, "takes no tax with it"),
        ("USD -15", {}, "below nil"),
    ],
)
def test_a_code_that_can_not_be_posted_is_refused_in_words(text, more, fault):
    books = dollar_books()
    with pytest.raises(BadEntry, match=fault):
        request_in(keyed(text, **more), books, AT)
    assert read_composed(keyed("EUR 13.50"), books, AT).request is not None
