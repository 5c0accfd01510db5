"""What a party usually is, beside the case; and what changed in a point, in words."""

from corkpost.core.changed_facts import changes_since
from corkpost.core.checks import run_checks
from corkpost.core.points import CheckRun
from corkpost.core.usual import usual_of
from tests.builders import TODAY, bill, books_with, direct_payment, payment, posted, receipt


def point_of(books, check="duplicate-document"):
    return next(p for p in run_checks(CheckRun(books, TODAY)) if p.check == check)


def twins(amount="90.00", on="2026-08-03"):
    return [
        bill("RW-80", on="2026-08-01", fuel=amount, id="A"),
        bill("RW 80", on=on, fuel=amount, id="B"),
    ]


def test_the_usual_account_sums_and_distance_are_told_and_the_point_itself_is_left_out():
    months = [
        bill(f"RW-{n}", on=f"2026-0{n}-01", fuel=f"{50 + n}.00", id=f"U{n}") for n in range(1, 8)
    ]
    odd = bill("RW-99", on="2026-07-20", office="57.00", id="U9")
    books = books_with(*months, odd, payment("2026-02-10", "51.00"), *twins())
    usual = usual_of(books, point_of(books))
    assert usual.says == (
        "fuel 7 times of 8",
        "51.00 to 57.00, mostly about 54.50",
        "about every 30 days",
    )
    assert [row.transaction.id for row in usual.rows] == ["U3", "U4", "U5", "U6", "U7", "U9"]
    assert usual.rows[-1].account == "6100"
    # Our own entries, and what they put right, are nobody's habit.
    moved = posted("Dr drawings 53.00, Cr fuel 53.00", on="2026-03-01", corrects="U3", change=1)
    corrected = books_with(*months, odd, moved, *twins())
    assert usual_of(corrected, point_of(corrected)).says[0] == "fuel 6 times of 7"


def test_without_a_party_the_words_say_who_it_is_and_too_few_say_nothing():
    shop = [
        direct_payment(f"2026-0{n}-02", office="40.00", memo=f"CARD {n} ROPE LOCKER", id=f"U{n}")
        for n in range(1, 6)
    ]
    books = books_with(*shop, *twins())
    lone = point_of(books)._replace(parties=(), transactions=("U5",), subjects=(("owner", "U5"),))
    usual = usual_of(books, lone)
    assert (usual.party, usual.says[:2]) == (None, ("office 4 times of 4", "always 40.00"))
    assert usual_of(books, point_of(books)) is None
    assert usual_of(books, lone._replace(transactions=("gone",))) is None


def test_what_changed_since_a_decision_is_said():
    books = books_with(*twins(), receipt("2026-08-01", "1.00"))
    seen = point_of(books)
    assert changes_since(books, seen._replace(amount=2000), seen) == (
        "90.00 is at stake now, it was 20.00",
    )
    later = seen._replace(transactions=("A", "C"), certainty=0.5, statement_lines=("s#1",))
    assert changes_since(books, seen, later) == (
        "it is look now, it was sure",
        "C came to it",
        "B went from it",
        "other statement lines belong to it",
    )
    (moved,) = changes_since(books, seen, seen._replace(summary="otherwise"))
    assert moved == f"it was said: {seen.summary}"
    (same,) = changes_since(books, seen, seen)
    assert "newer books have other dates or lines" in same
