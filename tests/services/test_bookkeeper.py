"""Telling the bookkeeper: what is new, sent once, and what was taken back since."""

import csv
import io

import pytest
from pypdf import PdfReader

from corkpost.core.acts import TakeBack
from corkpost.core.refusals import Refusal
from corkpost.services import acts, bookkeeper
from corkpost.services.posting import PostRequest
from tests.practice import accrue, void_twin


def found(office, **which):
    return bookkeeper.for_bookkeeper(office.workplace, office["IO"], "SMALL", **which)


def tell(office, to=None):
    numbers = bookkeeper.numbers_of(found(office))
    return bookkeeper.tell(office.workplace, office["IO"], "SMALL", numbers, to)


def test_what_was_posted_is_sent_once_with_its_journals(office, mailbox):
    void_twin(office)
    accrue(office)
    assert [kind.words.heading for kind in found(office).kinds] == [
        "An invoice, bill or credit recorded twice",
        "Entries for the statements",
    ]
    tell(office, "kept@books.example")
    (mail,) = mailbox.sent
    body = mail.get_body().get_content()
    assert "RW 117 of 5 April 2026, Reedwharf, 246.00" in body
    assert "So that it does not happen again: Before you enter a bill" in body
    paper, table = (part.get_payload(decode=True) for part in mail.iter_attachments())
    text = "\n".join(page.extract_text() for page in PdfReader(io.BytesIO(paper)).pages)
    assert "C-2026-1" in text
    assert "one delivery, one bill." in text
    rows = list(csv.DictReader(io.StringIO(table.decode("utf-8-sig"))))
    assert {row["entry"] for row in rows} == {"C-2026-1", "A-2026-1", "R-2026-1"}
    assert sum(float(row["debit"] or 0) - float(row["credit"] or 0) for row in rows) == 0
    # Told once; the address is known from then on.
    assert (found(office).items, found(office).to[1]) == ((), "kept@books.example")
    assert len(found(office, told_too=True).items) == 2
    with pytest.raises(Refusal, match="told everything"):
        tell(office)


def test_what_is_taken_back_after_it_was_told_is_told_too_and_before_it_never_was(office):
    accrued = accrue(office)
    tell(office)
    for number in (accrued.number, accrue(office, amount="1.00").number):
        acts.post(
            office.workplace,
            office["IO"],
            "SMALL",
            TakeBack(number),
            PostRequest("billed after all"),
        )
    assert [undone.change for undone in found(office).taken_back] == [accrued.number]
    assert found(office).items == ()
    assert tell(office).changes == (-accrued.number,)
    assert found(office).taken_back == ()


def test_news_that_came_in_between_is_not_sent_unseen(office):
    void_twin(office)
    shown = bookkeeper.numbers_of(found(office))
    accrue(office)
    with pytest.raises(Refusal, match="other news now"):
        bookkeeper.tell(office.workplace, office["IO"], "SMALL", shown)


def test_an_entry_can_be_read_in_plain_words_alone(office):
    number = void_twin(office).number
    ledger = office.workplace.ledger(office["IO"], "SMALL")
    assert bookkeeper.in_plain_words(ledger, number).reason == "one delivery, one bill"
    assert bookkeeper.in_plain_words(ledger, 1) is None
