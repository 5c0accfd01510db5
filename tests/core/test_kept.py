"""What is kept from run to run says what a full run would, after any row of postings."""

from collections import Counter
from dataclasses import replace
from datetime import date
from random import Random

import pytest

from corkpost.core.amendments import with_amendments
from corkpost.core.bank.agreeing import ready
from corkpost.core.books import Amendment, Books
from corkpost.core.checks import run_checks
from corkpost.core.kept import FEW, Kept
from corkpost.core.open_items import open_items
from corkpost.core.points import CheckRun
from corkpost.core.refusals import Refusal
from corkpost.core.running_sums import account_sums, party_sums
from corkpost.core.trial_balance import balances, balances_at
from corkpost.core.undo import plan_undo
from corkpost.demo.labelled import labelled
from tests.builders import NOW, TODAY, after
from tests.core.laws import planned, posting_options

STEPS = 8
DAYS = (date(2025, 11, 14), date(2025, 12, 31), date(2026, 6, 30), date(2027, 3, 1))


def afresh(books: Books) -> Books:
    """The same books with nothing kept."""
    return replace(books, kept=Kept())


def differences(books: Books) -> list[str]:
    """What the books that go on say otherwise than the same books read anew."""
    full = afresh(books)
    found = []
    if run_checks(CheckRun(books, TODAY)) != run_checks(CheckRun(full, TODAY)):
        found.append("points")
    if open_items(books) != open_items(full):
        found.append("open items")
    for name in ("open_now", "by_item", "by_party", "by_transaction", "still_open"):
        if getattr(open_items(books), name) != getattr(open_items(full), name):
            found.append(name)
    for day in DAYS:
        every = books.tables.transactions
        if balances_at(books, day) != balances(every, books, day):
            found.append(f"balances at {day}")
        if party_sums(books, day) != party_sums(full, day):
            found.append(f"parties at {day}")
    return found


def steps(books: Books, rng: Random) -> Books:
    """The next books: a point put right by one of its ways, a change taken back, or words amended."""
    number = max((change.number for change in books.changes), default=0) + 1
    kind = rng.choice(("correct", "correct", "correct", "undo", "amend"))
    if kind == "amend":
        posted = rng.choice(books.tables.transactions)
        row = Amendment(posted.id, NOW, "memo", posted.memo, f"about {number}", "", change=number)
        return with_amendments(books, (row,))
    standing = [
        c.number for c in books.changes if c.number not in books.undone and c.undoes is None
    ]
    if kind == "undo" and standing:
        return after(books, ready(plan_undo(books, rng.choice(standing)), books), number)
    point = rng.choice(run_checks(CheckRun(books, TODAY)))
    options = list(posting_options(books, point))
    if not options:
        return books
    return after(books, planned(books, point, rng.choice(options)), number)


def a_row_of_postings(seed: int, many: int) -> Counter[str]:
    """Books after each of *many* steps compared; how many were taken, and how many were refused."""
    rng = Random(f"kept {seed}")
    books = labelled(seed).books
    run_checks(CheckRun(books, TODAY))
    reached: Counter[str] = Counter()
    for _ in range(many):
        try:
            following = steps(books, rng)
        except Refusal:
            reached["refused"] += 1
            continue
        reached["taken" if following is not books else "nothing"] += 1
        books = following
        assert differences(books) == [], (seed, reached)
    return reached


@pytest.mark.parametrize("seed", [211, 212, 213])
def test_books_that_go_on_say_what_books_read_anew_say(seed):
    assert a_row_of_postings(seed, STEPS)["taken"] >= STEPS // 2


@pytest.mark.soak
@pytest.mark.parametrize("seed", range(220, 260))
def test_the_same_over_long_rows(seed):
    assert a_row_of_postings(seed, 40)["taken"] >= 20


def test_only_what_changed_is_made_anew():
    made = []

    def make(key: str, given: int) -> int:
        made.append(key)
        return given * 2

    kept = Kept()
    assert list(kept.each("doubled", [("a", 1), ("b", 2)], make)) == [2, 4]
    following = kept.handed_on()
    assert list(following.each("doubled", [("b", 3), ("a", 1), ("c", 5)], make)) == [6, 2, 10]
    assert made == ["a", "b", "b", "c"]
    # The books before still have theirs.
    assert list(kept.each("doubled", [("b", 2)], make)) == [4]
    assert made == ["a", "b", "b", "c"]


def test_an_index_goes_on_with_its_rows_and_is_made_anew_when_its_ground_shifts():
    asked = []

    def first(row: list[str]) -> str:
        asked.append(row[0])
        return row[0][:1]

    kept = Kept()
    ant, bee, ape = ["ant"], ["bee"], ["ape"]
    assert kept.by_key("first", (ant, bee), first) == {"a": (ant,), "b": (bee,)}
    assert kept.by_key("first", (ant, bee, ape), first) == {"a": (ant, ape), "b": (bee,)}
    assert asked == ["ant", "bee", "ape"]
    bat = ["bat"]
    assert kept.by_key("first", (ant, bat, ape), first) == {"a": (ant, ape), "b": (bat,)}
    assert asked[3:] == ["bee", "bat"]
    del asked[:]
    assert kept.by_key("first", (ant,), first) == {"a": (ant,)}
    assert kept.by_key("first", (ant,), first, ground="another chart") == {"a": (ant,)}
    assert asked == ["ant", "ant"]
    many = tuple([str(place)] for place in range(FEW + 1))
    kept.by_key("many", many, first)
    del asked[:]
    kept.by_key("many", tuple([row[0]] for row in many), first)
    assert len(asked) == len(many)


def test_sums_of_any_days_are_those_of_the_lines():
    books = labelled(214).books
    first, last = date(2025, 3, 9), date(2026, 2, 3)
    found: Counter[str] = Counter()
    for _, account, amount in account_sums(books, first, last):
        found[account] += amount
    wanted: Counter[str] = Counter()
    for posted in books.tables.transactions:
        if first <= posted.posting_date <= last:
            for line in posted.lines:
                wanted[line.account] += line.amount
    assert {code: x for code, x in found.items() if x} == {c: x for c, x in wanted.items() if x}
