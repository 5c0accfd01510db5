"""Questions to the client: gathered, sent through a mail server, answered, back at their points."""

from datetime import timedelta
from email.message import EmailMessage

import pytest

from corkpost.core.points import PointState
from corkpost.core.queries import QueryState
from corkpost.core.refusals import NoReason, Refusal, UnknownName
from corkpost.services import queries, review, store
from corkpost.services.mail import Mail, Malformed, NoMail
from corkpost.stand_ins.mailbox import Said, StandInMail
from tests.builders import TODAY
from tests.practice import only_point, void_twin

running: list[StandInMail] = []
QUESTION = "Were there two deliveries?"


@pytest.fixture
def server():
    """A mail server whose contact answers at once: to all but what begins with "Silence"."""

    def contact(number, text):
        if text.startswith("Silence"):
            return None
        return Said(f"To {number}: only one.", ("slip.pdf", b"%PDF paper"))

    made = StandInMail(contact, after=0)
    made.start()
    running.append(made)
    yield made
    if made in running:
        made.stop()


@pytest.fixture
def asked(office, server):
    """The office with mail, a contact, and the duplicate asked about; the point."""
    office.workplace.mail = Mail(server.out, server.into, "books@quay.example")
    queries.set_contact(office.workplace, office["IO"], "SMALL", "Mara Salt", "mara@salt.example")
    point = only_point(office).point.id
    review.decide(office.workplace, office["IO"], "SMALL", point, "ask", QUESTION)
    return point


def board(office):
    return queries.board(office.workplace, office["IO"], "SMALL")


def states(office):
    return [query.state(TODAY) for query in board(office).queries]


def send(office, *numbers):
    return queries.send(office.workplace, office["IO"], "SMALL", numbers or (1,))


def test_a_question_goes_out_and_its_point_comes_back_with_the_answer(office, asked, server):
    assert (states(office), only_point(office).state) == (["to send"], PointState.ASKED)
    letter = send(office)
    (mail,) = server.sent
    assert mail["To"] == "Mara Salt <mara@salt.example>"
    assert "Question 1: Were there two deliveries?" in letter.body
    assert "RW-0117" in letter.body
    assert (states(office), only_point(office).state) == (["waiting"], PointState.ASKED)
    assert queries.look_for_answers(office.workplace) == 1
    (answer,) = board(office).queries[0].answers
    assert (answer.text, answer.from_email) == ("To 1: only one.", "mara@salt.example")
    assert [file.name for file in answer.files] == ["slip.pdf", "the message as it came.eml"]
    stated = only_point(office)
    assert (stated.state, stated.query.state(TODAY)) == (PointState.OPEN, QueryState.ANSWERED)
    # The paper lies with the entry; the mailbox is empty; nothing is read twice.
    first = stated.point.transactions[0]
    papers = office.workplace.ledger(office["IO"], "SMALL").books.tables.attachments
    assert (first, "slip.pdf") in [(paper.transaction, paper.name) for paper in papers]
    assert (server.waiting(), queries.look_for_answers(office.workplace)) == ({}, 0)
    assert store.verify(office.workplace).broken == ()
    # What came is proved with the rest: the message as it came, too.
    message = office.workplace.database.files / answer.files[-1].digest
    message.write_bytes(b"another")
    assert "was altered" in store.verify(office.workplace).broken[0].what


def test_deciding_the_point_ends_the_question(office, asked):
    send(office)
    queries.look_for_answers(office.workplace)
    void_twin(office)
    assert states(office) == ["done"]


def test_opening_the_point_again_withdraws_a_question_that_was_not_sent(office, asked):
    review.reopen_point(office.workplace, office["IO"], "SMALL", asked, "they called")
    assert (states(office), only_point(office).state) == (["withdrawn"], PointState.OPEN)
    with pytest.raises(Malformed):
        send(office)


def test_without_an_answer_it_comes_back_on_the_day_that_was_chosen(office, asked):
    review.reopen_point(office.workplace, office["IO"], "SMALL", asked, "with a day")
    day = TODAY + timedelta(days=7)
    review.decide(office.workplace, office["IO"], "SMALL", asked, "ask", QUESTION, day)
    assert only_point(office).state is PointState.ASKED
    office.workplace._today = day
    stated = only_point(office)
    assert (stated.state, stated.query.state(day)) == (PointState.OPEN, QueryState.LATE)
    with pytest.raises(Refusal, match="choose a day after"):
        review.decide(office.workplace, office["IO"], "SMALL", asked, "ask", QUESTION, day)


def test_an_answer_by_telephone_counts_as_one(office, asked):
    queries.write_down(office.workplace, office["TV"], "SMALL", 1, "She says: one delivery.")
    (answer,) = board(office).queries[0].answers
    assert (answer.text, answer.taken_by) == ("She says: one delivery.", "TV")
    assert only_point(office).state is PointState.OPEN


def test_any_entry_can_be_asked_about_and_the_words_changed_until_they_are_sent(office, asked):
    number = queries.ask(office.workplace, office["IO"], "SMALL", "What is this?", ["T2"])
    queries.reword(office.workplace, office["IO"], "SMALL", number, "Silence: what is T2?")
    assert board(office).queries[1].question == "Silence: what is T2?"
    send(office, 1, number)
    with pytest.raises(Malformed, match="sent already"):
        queries.reword(office.workplace, office["IO"], "SMALL", number, "x")
    queries.look_for_answers(office.workplace)
    assert states(office) == ["answered", "waiting"]
    send(office, number)
    assert len(board(office).queries[1].sent) == 2
    queries.end(office.workplace, office["IO"], "SMALL", number)
    assert states(office)[1] == "done"
    for wrong in ([], ["T0"]):
        with pytest.raises((NoReason, UnknownName)):
            queries.ask(office.workplace, office["IO"], "SMALL", "?" if wrong else " ", wrong)


def test_what_answers_nothing_of_ours_stays_in_the_mailbox_and_says_nothing(office, asked, server):
    send(office)
    queries.look_for_answers(office.workplace)
    offer = EmailMessage()
    offer["From"], offer["Subject"] = "shop@elsewhere.example", f"An offer [CP-{'0' * 20}]"
    offer.set_content("cheap")
    server.deliver(offer)
    assert queries.look_for_answers(office.workplace) == 0
    assert len(server.waiting()) == 1
    assert len(board(office).queries[0].answers) == 1


def test_an_answer_that_names_no_question_is_kept_for_the_client(office, asked, server):
    queries.ask(office.workplace, office["IO"], "SMALL", "Silence", ["T2"])
    letter = send(office, 1, 2)
    queries.look_for_answers(office.workplace)
    more = EmailMessage()
    more["From"], more["Subject"] = "mara@salt.example", f"Re: {letter.subject}"
    more.set_content("And all the rest was right.")
    server.deliver(more)
    assert queries.look_for_answers(office.workplace) == 1
    slip, answer = board(office).unsorted
    assert (slip.text, answer.text) == ("", "And all the rest was right.")
    queries.sort(office.workplace, office["IO"], "SMALL", slip.number, 1)
    assert board(office).unsorted == (answer,)
    assert [file.name for file in board(office).queries[0].answers[-1].files] == ["slip.pdf"]
    with pytest.raises(UnknownName):
        queries.sort(office.workplace, office["IO"], "SMALL", slip.number, 1)


def test_when_the_server_is_away_nothing_counts_as_sent(office, asked, server):
    server.stop()
    running.remove(server)
    with pytest.raises(NoMail, match="Nothing was sent"):
        send(office)
    with pytest.raises(NoMail, match="did not answer"):
        queries.look_for_answers(office.workplace)
    office.workplace.mail = None
    with pytest.raises(NoMail, match="no mail server"):
        send(office)
    assert states(office) == ["to send"]


@pytest.mark.parametrize(
    ("name", "email"),
    [("", "a@b.example"), ("Mara", "mara"), ("Mara", "a@b.example, c@d.example"), ("M", "a@b@c.d")],
)
def test_a_contact_needs_a_name_and_one_address(office, name, email):
    with pytest.raises(Malformed):
        queries.set_contact(office.workplace, office["IO"], "SMALL", name, email)


def test_sent_again_it_is_a_reminder_that_says_when_it_was_asked(office, asked, server):
    queries.ask(office.workplace, office["IO"], "SMALL", "Silence is what this gets", ["T6"])
    send(office, 2)
    assert send(office, 2).subject.startswith("Reminder: A question about the books")
    assert "(asked on 16 November 2026; no answer has come yet)" in server.sent[-1].get_content()
    # With a new question among them it is no mere reminder.
    both = send(office, 1, 2)
    assert both.subject.startswith("2 questions")
    assert both.body.count("asked on 16 November 2026") == 1
    assert queries.look_for_answers(office.workplace) == 1
    answers = [[answer.text for answer in query.answers] for query in board(office).queries]
    assert answers == [["To 1: only one."], []]
