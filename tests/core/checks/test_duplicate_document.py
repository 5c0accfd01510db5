"""duplicate-document: what it finds, how sure it is, and where it keeps quiet."""

import pytest

from corkpost.core.books import Attachment
from corkpost.core.checks import duplicate_document
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun, Level
from tests.builders import TODAY, after, allocated, bill, books_with, invoice, payment
from tests.notation import eur


def found(*transactions, **facts):
    return list(duplicate_document.find(CheckRun(books_with(*transactions, **facts), TODAY)))


def pair(first, second, gap=2, total="246.00"):
    return (
        bill(first, on="2026-04-03", id="T1", fuel=total),
        bill(second, on=f"2026-04-{3 + gap:02d}", id="T2", fuel=total),
    )


@pytest.mark.parametrize(
    ("first", "second", "level"),
    [
        ("RW-0117", "RW-0117", Level.SURE),
        ("RW-0117", "RW 117", Level.SURE),
        ("RW-0117", "rw0117", Level.SURE),
        ("INV 10I5", "INV 1015", Level.SURE),
        ("RW-0117", None, Level.LIKELY),
        (None, None, Level.LOOK),
    ],
)
def test_the_same_number_however_it_was_keyed(first, second, level):
    (point,) = found(*pair(first, second))
    assert (point.named("same"), point.level, point.amount) == (("T1", "T2"), level, eur("246.00"))


def sequence(*numbers):
    """Bills of other sums, one a fortnight, with these numbers."""
    return [
        bill(f"TP {number}", on=f"2026-{1 + place // 2:02d}-{1 + 14 * (place % 2):02d}",
             party="Tern Print Ltd", fuel=f"{90 + place}.00")
        for place, number in enumerate(numbers)
    ]  # fmt: skip


def twin(number, on):
    return bill(f"TP {number}", on=on, party="Tern Print Ltd", fuel="97.00")


def test_digits_that_changed_places_and_leave_the_sequence_are_a_slip():
    others = sequence(2100, 2130, 2160, 2185, 2210, 2225, 2240)
    (point,) = found(*others, twin(2216, "2026-03-10"), twin(2261, "2026-03-10"))
    assert point.level is Level.LIKELY
    assert "one keying slip" in point.because[1]


@pytest.mark.parametrize(
    "quiet",
    [
        # consecutive numbers from the supplier's own sequence
        [*sequence(2100, 2130, 2160, 2210, 2240), twin(2216, "2026-03-10"), twin(2217, "2026-03-12")],
        # two documents bought on one day with their own numbers
        [twin(2216, "2026-03-10"), twin(2305, "2026-03-10")],
        # monthly and weekly repeats
        [bill(None, on=f"2026-{month:02d}-01", fuel="600.00") for month in range(1, 11)],
        [bill(None, on=f"2026-03-{day:02d}", fuel="60.00") for day in (1, 8, 15, 22, 29)],
        # the same words on each of a landlord's bills
        [bill("RENT", on=f"2026-{month:02d}-01", fuel="600.00") for month in range(1, 11)],
        # another party, another total, a reference missing but far apart
        [*pair("RW-0117", "RW-0118", total="246.00")],
        [bill("RW-0117", on="2026-04-03", fuel="246.00"),
         bill("RW-0117", on="2026-04-03", party="Kittiwake Signs", fuel="246.00")],
        [bill("RW-0117", on="2026-04-03", fuel="246.00"), bill("RW-0117", on="2026-04-03", fuel="246.10")],
        [bill("RW-0117", on="2026-04-03", fuel="246.00"), bill(None, on="2026-04-09", fuel="246.00")],
        # one already credited
        [*pair("RW-0117", "RW 117"),
         bill("CN 4", on="2026-04-20", kind=Kind.PURCHASE_CREDIT, fuel="-246.00")],
        # a bill and an invoice
        [bill("A-0117", on="2026-04-03", fuel="246.00"), invoice("A-0117", on="2026-04-03", sales="246.00")],
    ],
)  # fmt: skip
def test_it_keeps_quiet_on_what_is_ordinary(quiet):
    assert found(*quiet) == []


def test_an_invoice_or_credit_twice_is_found_as_well():
    (sold,) = found(
        invoice("SK-0301", on="2026-04-03", sales="80.00"),
        invoice("SK-301", on="2026-04-04", sales="80.00"),
    )
    assert "invoice to Harbour School" in sold.summary
    (credit,) = found(
        bill("CN-4", on="2026-04-03", kind=Kind.PURCHASE_CREDIT, fuel="-30.00"),
        bill("CN 04", on="2026-04-05", kind=Kind.PURCHASE_CREDIT, fuel="-30.00"),
    )
    assert "credit" in credit.summary


def test_three_of_one_make_two_points():
    points = found(
        *pair("RW-0117", "RW 117"), bill("RW117", on="2026-04-09", id="T3", fuel="246.00")
    )
    assert {name for point in points for name in point.named("same")} == {"T1", "T2", "T3"}
    assert len(points) == 2


def test_a_second_payment_makes_a_true_twin_less_certain():
    twins = pair("RW-0117", "RW 117")
    paid = [payment("2026-04-20", "246.00"), payment("2026-04-28", "246.00")]
    links = [allocated(money, to, "246.00") for money, to in zip(paid, twins, strict=True)]
    (point,) = found(*twins, *paid, allocations=links)
    assert point.certainty < found(*twins)[0].certainty
    assert "each of them is settled" in point.against


def test_its_identity_survives_a_new_run_and_its_facts_tell_when_they_change():
    first, second = pair("RW-0117", "RW 117")
    (before,) = found(first, second)
    (reworded,) = found(first, second._replace(memo="noted"))
    (dearer,) = found(
        *(
            t._replace(lines=tuple(x._replace(amount=2 * x.amount) for x in t.lines))
            for t in (first, second)
        )
    )
    assert before.id == reworded.id == dearer.id
    assert before.facts == reworded.facts != dearer.facts


def test_the_one_with_a_paper_is_kept():
    papers = (Attachment("T2", "papers/1", "bill.pdf", "0" * 64),)
    books = books_with(*pair("RW-0117", "RW 117"), attachments=papers)
    (point,) = duplicate_document.find(CheckRun(books, TODAY))
    from corkpost.core.routes import void

    assert void.options(books, point)[0].settings == {"transaction": "T1"}
    done = after(books, void.plan(books, point, {}))
    assert list(duplicate_document.find(CheckRun(done, TODAY))) == []
