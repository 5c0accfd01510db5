"""Mail over TLS with sign-in: nothing goes to a server that can't prove who it is."""

import ssl

import pytest
import trustme

from corkpost.formats.letters import letter
from corkpost.services.mail import Mail, NoMail, address_of, receive, send
from corkpost.stand_ins.mailbox import StandInMail


def written():
    return letter(
        subject="One thing",
        body="More of it",
        sender=("Quay & Lantern", "books@quay.example"),
        to=("Mara Salt", "mara@salt.example"),
    )


@pytest.fixture(scope="module")
def authority():
    return trustme.CA()


@pytest.fixture
def server(authority):
    context = ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER)
    authority.issue_cert("localhost").configure_cert(context)
    made = StandInMail(
        lambda _number, _text: None, after=0, encrypted=context, password="a/long:one"
    )
    made.start()
    yield made
    made.stop()


@pytest.fixture
def trusted(authority, monkeypatch, tmp_path):
    """The machine trusts who issued the server's certificate."""
    file = tmp_path / "trusted.pem"
    authority.cert_pem.write_to_path(str(file))
    monkeypatch.setenv("SSL_CERT_FILE", str(file))


def own(server, password="a%2Flong%3Aone"):
    out, into = (text.replace(server.password, password) for text in (server.out, server.into))
    return Mail(out, into, "books@quay.example")


def test_what_is_sent_and_read_goes_encrypted_to_who_has_the_password(server, trusted):
    send(own(server), written())
    assert [mail["Subject"] for mail in server.sent] == ["One thing"]
    server.deliver(written())
    found = receive(own(server), lambda _: False, lambda paper: b"More of it" in paper.content)
    assert found == 1
    assert server.waiting() == {}


def test_a_server_that_nobody_vouches_for_gets_neither_message_nor_password(server):
    with pytest.raises(NoMail, match="certificate verify failed"):
        send(own(server), written())
    with pytest.raises(NoMail, match="certificate verify failed"):
        receive(own(server), lambda _: False, lambda _: True)
    assert server.sent == []


def test_a_wrong_password_is_told_and_nothing_is_sent(server, trusted):
    with pytest.raises(NoMail, match="did not take the message"):
        send(own(server, "guess"), written())
    with pytest.raises(NoMail, match="wrong name or password"):
        receive(own(server, "guess"), lambda _: False, lambda _: True)
    assert server.sent == []


@pytest.mark.parametrize("text", ["", "mara", "mara@salt", "a b@salt.example", "a@b@salt.example",
                                  "mara@salt.example\r\nBcc: x@y.example", "<m@salt.example>"])  # fmt: skip
def test_what_is_no_address_is_refused(text):
    from corkpost.services.mail import Malformed

    with pytest.raises(Malformed):
        address_of(text)


def test_a_name_with_a_break_in_it_ends_no_head():
    made = letter(
        subject="For\r\nBcc: x@y.example",
        body="More",
        sender=("Quay\n& Lantern", "books@quay.example"),
        to=("Mara\r\nSalt", "mara@salt.example"),
        files=[("a.csv", b"a,b")],
    )
    assert (made["To"], made["Bcc"]) == ("Mara Salt <mara@salt.example>", None)
    assert made["Subject"] == "For Bcc: x@y.example"
    assert [part.get_filename() for part in made.iter_attachments()] == ["a.csv"]
