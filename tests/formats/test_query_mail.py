"""Questions as mail, and answers read back, as people and their programs write them."""

import base64
import time
from email.message import EmailMessage
from email.policy import default

import pytest
from hypothesis import given
from hypothesis import strategies as st

from corkpost.formats import query_mail
from corkpost.formats.mail_apart import read_apart
from corkpost.formats.query_mail import (
    Asked,
    body_of,
    message_of,
    new_token,
    read_reply,
    subject_of,
    token_in,
)

TOKEN = "0123456789abcdefghij"
ASKED = (
    Asked(4, "Whose are the riding lessons?", ("12 May 2026, 40.00, CARD RIDING LESSONS",)),
    Asked(
        7, "Was this cheque stopped?\nThe bill counts as paid.", ("3 Jul 2026, 75.00, cheque 104",)
    ),
)
SENT = body_of("Mara Salt", "Ines Okonjo", "Quay & Lantern", "Saltmarsh Kayaks", ASKED)


def reply(text, *, files=(), subject=f"Re: questions [CP-{TOKEN}]", kind="plain", **heads):
    mail = EmailMessage(policy=default)
    mail["From"] = "Mara Salt <mara@saltmarsh.example>"
    mail["Subject"] = subject
    for name, value in heads.items():
        mail[name.replace("_", "-")] = value
    mail.set_content(text, subtype=kind)
    for name, data in files:
        mail.add_attachment(data, maintype="application", subtype="octet-stream", filename=name)
    return mail.as_bytes()


def said(content, numbers=(4, 7)):
    return {part.query: part.text for part in read_reply(content, numbers, SENT).parts}


def quoted(text):
    return "\n".join(f"> {line}" for line in text.splitlines())


def test_every_question_stands_with_its_entries_and_room_for_the_answer():
    assert SENT.count("Your answer:") == 2
    assert "    12 May 2026, 40.00, CARD RIDING LESSONS" in SENT
    assert "Question 7: Was this cheque stopped?" in SENT


@pytest.mark.parametrize("as_sent", [lambda text: text, quoted])
def test_answers_written_under_the_questions_come_to_them(as_sent):
    lines = []
    for line in as_sent(SENT).splitlines():
        lines.append(line)
        if "Your answer:" in line:
            lines.append(["Ours, privately.", "Yes, lost in the post."][len(lines) > 12])
    assert said(reply("\n".join(lines))) == {4: "Ours, privately.", 7: "Yes, lost in the post."}


def test_answers_are_found_though_the_room_for_them_was_deleted():
    text = SENT.replace("Your answer:\n", "ours\n", 1).replace(
        "Your answer:\n", "lost in the post\n", 1
    )
    assert said(reply(text)) == {4: "ours", 7: "lost in the post"}


def test_an_answer_on_the_line_itself_counts_too():
    text = quoted(SENT).replace("> Your answer:", "> Your answer: ours", 1)
    assert said(reply(text))[4] == "ours"


def test_what_is_written_on_top_belongs_to_no_question_unless_there_is_but_one():
    text = f"All of it was ours.\n\nOn Mon, Ines Okonjo wrote:\n{quoted(SENT)}"
    assert said(reply(text)) == {None: "All of it was ours."}
    assert said(reply(text), [4]) == {4: "All of it was ours."}


def test_html_alone_is_read_as_text():
    found = said(reply("<p>Ours,<br>privately</p><p>Mara</p>", kind="html"), [4])
    assert found[4].split() == ["Ours,", "privately", "Mara"]


@pytest.mark.parametrize(
    ("page", "words"),
    [
        ("<?xml version='1.0' encoding='utf-8'?><html><body><p>Ours.</p></body></html>", "Ours."),
        ("<style>p { color: red }</style><p>Ours.</p><script>x()</script><!-- y -->", "Ours."),
        ("<!-- nothing -->", None),
    ],
)
def test_what_mail_programs_write_into_html_is_no_answer_and_no_hindrance(page, words):
    assert said(reply(page, kind="html"), [4]).get(4) == words


def test_a_message_that_can_t_be_read_tells_its_token_and_stops_no_other(monkeypatch):
    def fails(*_):
        raise IndexError("a header that nobody reads")

    monkeypatch.setattr(query_mail, "_read", fails)
    assert query_mail.read_reply(reply("x")) == (TOKEN, "", ())


def test_files_go_to_the_question_that_their_name_speaks_of():
    content = reply("see attached", files=[("q7 stop.pdf", b"a"), ("photo.jpg", b"b")])
    parts = {
        part.query: [name for name, _ in part.files] for part in read_reply(content, (4, 7)).parts
    }
    assert parts == {7: ["q7 stop.pdf"], None: ["photo.jpg"]}


@pytest.mark.parametrize(
    ("content", "token"),
    [
        (reply("x"), TOKEN),
        (reply("x", subject="Re: yours", In_Reply_To=f"<{TOKEN}@quay.example>"), TOKEN),
        (reply(f"x\n> [CP-{TOKEN}]", subject="hello"), TOKEN),
        (reply("x", subject="An offer [CP-123]"), None),
        (b"", None),
        (b"\xff\x00 no mail at all", None),
    ],
)
def test_an_answer_is_known_by_its_token_alone(content, token):
    assert read_reply(content).token == token


def test_a_message_goes_to_whom_it_should_and_can_be_known_again():
    token = new_token()
    subject = subject_of("Saltmarsh Kayaks", 2, token)
    made = message_of(
        subject=subject, body=SENT, sender=("Quay & Lantern", "books@quay.example"),
        to=("Mara Salt", "mara@saltmarsh.example"), token=token,
    )  # fmt: skip
    assert (made["To"], made["Subject"]) == ("Mara Salt <mara@saltmarsh.example>", subject)
    assert read_reply(made.as_bytes()).token == token
    assert new_token() != token


@given(st.binary(max_size=400))
def test_no_bytes_make_reading_fail(content):
    read_reply(b"Subject: x\nContent-Type: text/html\n\n" + content, [1])
    read_reply(content, [1, 2])


BAD_BODIES = {
    "tags never closed": b"<br" * 130_000,
    "only brackets": b"<" * 400_000,
    "styles": b"<p>a</p><style>b</style>c" * 16_000,
    "nested": b"<div>" * 80_000,
    "one line": b"Am " + b"x schrieb " * 40_000,
    "a quote": b"On " + b"a" * 399_000,
}


@pytest.mark.parametrize("body", BAD_BODIES.values(), ids=BAD_BODIES)
@pytest.mark.parametrize("kind", ["plain", "html"])
def test_no_body_of_a_stranger_keeps_the_reader_busy(body, kind):
    head = f"From: a@b.example\r\nSubject: [CP-{TOKEN}]\r\nContent-Type: text/{kind}\r\n\r\n"
    began = time.monotonic()
    found = read_reply(head.encode() + body, [1], "")
    assert found.token == TOKEN
    assert time.monotonic() - began < 3


@pytest.mark.parametrize(
    "head",
    [
        f"Subject: Re: [CP-{TOKEN}]",
        f"Subject: =?utf-8?b?{base64.b64encode(f'Aw: ü [CP-{TOKEN}]'.encode()).decode()}?=",
        f"subject: Re: a long one\r\n [CP-{TOKEN}]",
        f"In-Reply-To: <{TOKEN}@cork.example>",
        f"References: <x@y>\r\n <{TOKEN}@cork.example>",
    ],
)
def test_the_token_is_found_without_reading_the_message(head):
    assert token_in(f"From: a@b.example\r\n{head}\r\n\r\nyes".encode()) == TOKEN
    assert token_in(b"Subject: hello\r\n\r\nnothing of ours " + b"a" * 1_000_000) is None
    assert token_in(b"Subject: " + b"=?x?" * 200_000) is None


def test_a_message_is_read_in_a_process_of_its_own_with_all_that_it_brings():
    made = reply("Question 1: why?\nfor fuel", files=(("bill.pdf", b"%PDF"),))
    here, apart = read_reply(made, [1], ""), read_apart(made, [1], "")
    assert here == apart
    assert here.parts
