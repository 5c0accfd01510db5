"""Receipts issued, sent, and issued again as copies."""

from io import BytesIO

import pytest
from pypdf import PdfReader

from corkpost.core.by_hand import Picked
from corkpost.core.refusals import UnknownName
from corkpost.services import acts, receipts
from corkpost.services.mail import Malformed, NoMail
from corkpost.services.posting import PostRequest

PAID = "T5"


def issue(office, **said):
    return receipts.issue(office.workplace, office["IO"], "SMALL", PAID, **said)


def text_of(content):
    return "\n".join(page.extract_text() for page in PdfReader(BytesIO(content)).pages)


def test_it_is_sent_with_a_number_and_reissued_as_a_copy_that_says_the_same(office, mailbox):
    assert issue(office, method="cash", to="school@harbour.example").number == 1
    again = issue(office, to="school@harbour.example")
    assert (again.number, len(again.issues)) == (1, 2)
    first, second = mailbox.sent
    assert (first["Subject"], second["Subject"]) == (
        "Receipt 1, SMALL & Co", "Receipt 1 (copy), SMALL & Co",
    )  # fmt: skip
    original, copy = (
        text_of(next(mail.iter_attachments()).get_content()) for mail in (first, second)
    )
    assert "cash" in original
    assert "copy" not in original.lower()
    assert "COPY of the receipt issued on 16 November 2026" in copy
    assert set(original.split()) - set(copy.split()) == set()


def test_what_was_issued_stays_though_what_it_settles_moves(office):
    issued = issue(office)
    name, content = receipts.paper(office.workplace, office["TV"], "SMALL", 1, 1)
    assert (name, "Receipt 1" in text_of(content)) == ("receipt-1.pdf", True)
    _, found = receipts.standing(office.workplace, office["IO"], "SMALL", PAID)
    assert (found.now, found.receipt) == (None, issued.receipt)
    _, card = receipts.standing(office.workplace, office["IO"], "SMALL", PAID, "card")
    assert (card.receipt.method, card.now.method) == (issued.receipt.method, "card")
    settle = Picked("allocate", PAID, ("T4",), {})
    acts.post(office.workplace, office["IO"], "SMALL", settle, PostRequest("it pays SK-1"))
    _, moved = receipts.standing(office.workplace, office["IO"], "SMALL", PAID)
    assert [part.reference for part in moved.now.settles] == ["SK-1"]
    assert moved.receipt == issued.receipt
    with pytest.raises(UnknownName):
        receipts.paper(office.workplace, office["IO"], "SMALL", 1, 2)


def test_without_mail_or_address_nothing_goes_out_and_the_number_waits_for_the_first_that_does(
    office,
):
    with pytest.raises(NoMail):
        issue(office, to="school@harbour.example")
    with pytest.raises(Malformed):
        issue(office, to="school at harbour")
    assert receipts.standing(office.workplace, office["IO"], "SMALL", PAID)[1].issued is None
    assert issue(office).number == 1
