"""The composer's text and the command line's JSON, read as entries."""

import pytest

from corkpost.core.entries import plan_entry
from corkpost.core.kinds import EntryKind
from corkpost.core.refusals import BadEntry
from corkpost.core.tax import TaxTreatment
from corkpost.formats.composed import ComposedEntry, ComposedLine, read_composed
from corkpost.formats.entry import read_entry, request_of
from tests.builders import books_with, day
from tests.notation import EUR, eur

BOOKS = books_with()
NEAR = day("2026-10-31")


def line(account="", debit="", credit="", party="", **more):
    blank = {"tax_code": "", "tax": TaxTreatment.NONE, "text": "", "dimensions": ""}
    return ComposedLine(
        account=account, party=party, debit=debit, credit=credit, **{**blank, **more}
    )


def composed(*lines, date="pe", reverse_on="", reason="why"):
    return ComposedEntry(
        kind=EntryKind.ADJUSTING, date=date, reverse_on=reverse_on, reference="", reason=reason,
        lines=list(lines),
    )  # fmt: skip


def read(*lines, **more):
    return read_composed(composed(*lines, **more), BOOKS, NEAR)


def test_what_was_keyed_is_worked_out_and_blank_lines_are_passed_over():
    found = read(line("5310", debit="1639*0.25"), line(), line("2210", credit="409.75"))
    assert (found.debits, found.credits) == (eur("409.75"), eur("409.75"))
    assert found.date == NEAR
    assert found.request is not None
    assert [keyed.amount for keyed in found.request.lines] == [40975, -40975]


def test_days_are_read_near_the_span_and_the_reversal_near_the_entry():
    found = read(date="30.6", reverse_on="np")
    assert (found.date, found.reverse_on) == (day("2026-06-30"), day("2026-07-01"))
    assert read(date="").faults == ("The date is missing.",)
    assert "is no day" in read(date="soon").faults[0]


def test_the_days_of_the_paper_are_read_like_any_and_none_is_none():
    found = read_composed(
        composed(date="30.6").model_copy(update={"document_date": "28.5", "due_date": "pe"}),
        BOOKS,
        NEAR,
    )
    assert (found.document_date, found.due_date) == (day("2026-05-28"), day("2026-06-30"))
    assert (read(date="30.6").document_date, read(date="30.6").due_date) == (None, None)


@pytest.mark.parametrize(
    ("bad", "fault"),
    [
        (line("5310"), "amount is missing"),
        (line("", debit="5"), "account is missing"),
        (line("5310", debit="5", credit="5"), "exactly one of debit and credit"),
        (line("5310", debit="five"), "can't be worked out"),
        (line("5310", debit="-5"), "put it on the other side"),
        (line("5310", debit="0"), "nil"),
        (line("9999", debit="5"), "no account '9999'"),
        (line("2100", debit="5"), "name the party"),
    ],
)
def test_each_line_is_told_what_is_wrong_in_it_and_nothing_can_be_posted(bad, fault):
    found = read(line("2210", credit="5"), bad)
    assert found.request is None
    assert found.lines[0].faults == ()
    assert any(fault in told for told in found.lines[1].faults), found.lines[1].faults


def test_tax_on_top_counts_on_the_scale_as_it_will_be_posted():
    taxed = line("5310", debit="100", tax_code="S23", tax=TaxTreatment.ADDED)
    found = read(taxed, line("2210", credit="123"))
    assert (found.debits, found.credits) == (eur("123.00"), eur("123.00"))
    plan = plan_entry(BOOKS, found.request)
    assert sum(x.amount for x in plan.entries[0].lines) == 0


def entry_json(lines, **more):
    head = '"kind": "adjusting", "date": "2026-06-30", "reason": "why"'
    extra = "".join(f', "{name}": {value}' for name, value in more.items())
    return f'{{{head}, "lines": {lines}{extra}}}'.encode()


GOOD = '[{"account": "5310", "debit": "410.00"}, {"account": "2210", "credit": "410.00", "party": null, "dimensions": {"site": "QUAY"}}]'


def test_an_entry_s_json_is_read_as_it_is_documented():
    request = request_of(read_entry(entry_json(GOOD, reverse_on='"2026-07-01"')), EUR)
    assert [line.amount for line in request.lines] == [41000, -41000]
    assert request.lines[1].dimensions == "site=QUAY"
    assert request.reverse_on == day("2026-07-01")


@pytest.mark.parametrize(
    ("content", "fault"),
    [
        (b"{", "no JSON"),
        (b"[]", "valid dictionary"),
        (entry_json(GOOD, colour='"blue"'), "colour: Extra inputs"),
        (entry_json('[{"account": "5310"}]'), "Line 1: fill exactly one"),
        (entry_json('[{"account": "5310", "debit": "1,00"}]'), "Line 1: '1,00' is not a plain decimal"),
        (entry_json('[{"account": "5310", "debit": "-1.00"}]'), "below nil"),
        (entry_json('[{"account": "5310", "debit": 1.5}]'), "lines.0.debit: Input should be a valid string"),
        (b'{"kind": "odd", "date": "x", "lines": []}', "kind: Input should be"),
    ],
)  # fmt: skip
def test_an_entry_that_does_not_fit_is_refused_at_its_place(content, fault):
    with pytest.raises(BadEntry) as refused:
        request_of(read_entry(content), EUR)
    assert fault in str(refused.value)
