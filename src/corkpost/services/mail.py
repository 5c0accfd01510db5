"""The practice's mail: messages out by SMTP, what came in by POP3."""

import poplib
import smtplib
import ssl
from collections.abc import Callable, Mapping
from email.message import EmailMessage
from typing import NamedTuple
from urllib.parse import SplitResult, unquote, urlsplit

from corkpost.core.refusals import Refusal

SECONDS = 20
LONGEST_LINE = 1_000_000
"""Octets: mail programs write longer lines than they should, and one that is refused blocks the box."""
LARGEST = 30 * 1024 * 1024
"""Octets of one message that is read; a larger one stays where it is."""


LOOPBACK = frozenset({"127.0.0.1", "::1", "localhost"})


class NoMail(Refusal):
    title = "No mail"


class Malformed(Refusal):
    title = "That can't be sent"


def address_of(text: str) -> str:
    """An address to send to. Raises Malformed for what is none."""
    address = text.strip()
    local, _, domain = address.partition("@")
    strange = any(sign.isspace() or sign in ',;<>"\\' for sign in address)
    if not address.isprintable() or not local or "." not in domain or strange or "@" in domain:
        raise Malformed("Give an address such as mara@saltmarsh.example.")
    return address


class Mail(NamedTuple):
    """*out*: `smtp://` or `smtps://` with name and password where the server wants them; *into*: `pop3://`
    or `pop3s://`; *address*: whose mail it is."""

    out: str
    into: str
    address: str


def mail_named(environment: Mapping[str, str]) -> Mail | None:
    """The mail that CORKPOST_SMTP, CORKPOST_POP3 and CORKPOST_MAIL name; None unless all three do."""
    names = ("CORKPOST_SMTP", "CORKPOST_POP3", "CORKPOST_MAIL")
    out, into, address = (environment.get(name) for name in names)
    return Mail(out, into, address) if out and into and address else None


class Received(NamedTuple):
    """*mark*: the mailbox's own of the message, which stays the same."""

    mark: str
    content: bytes


def own(mail: Mail | None) -> Mail:
    """The practice's mail. Raises NoMail where it has none."""
    if mail is None:
        raise NoMail(
            "This practice has no mail server yet. Set CORKPOST_SMTP, CORKPOST_POP3 and "
            "CORKPOST_MAIL and start it again. "
            "Nothing is lost meanwhile, and what is to go out can be handed over otherwise."
        )
    return mail


def send(mail: Mail, message: EmailMessage) -> None:
    """Send it. Raises NoMail where the server refuses: then nothing went out."""
    where = urlsplit(mail.out)
    try:
        with _smtp(where, mail.address.rpartition("@")[2]) as server:
            if where.username:
                server.login(*_login(where))
            server.send_message(message)
    except (OSError, smtplib.SMTPException) as error:
        raise NoMail(
            f"The mail server did not take the message ({_said(error)}). Nothing was sent; all is as "
            "it was before. Try again later."
        ) from None


def receive(mail: Mail, is_known: Callable[[str], bool], read: Callable[[Received], bool]) -> int:
    """Hand each message that is not known yet to *read*; what it takes is removed from the mailbox.

    How many were taken. Raises NoMail where the mailbox does not answer.
    """
    where = urlsplit(mail.into)
    taken = 0
    try:
        setattr(poplib, "_MAXLINE", LONGEST_LINE)  # noqa: B010
        box = _pop3(where)
        try:
            name, password = _login(where)
            box.user(name or mail.address)
            box.pass_(password)
            sizes = {row.split()[0]: int(row.split()[1]) for row in box.list()[1]}
            for row in box.uidl()[1]:
                number, mark = row.split()[:2]
                if is_known(mark.decode()) or sizes.get(number, 0) > LARGEST:
                    continue
                content = b"\n".join(box.retr(int(number))[1])
                if read(Received(mark.decode(), content)):
                    taken += 1
                    box.dele(int(number))
        finally:
            box.quit()
    except (OSError, poplib.error_proto) as error:
        raise NoMail(f"The mailbox did not answer ({_said(error)}). Try again later.") from None
    return taken


def _smtp(where: SplitResult, name: str) -> smtplib.SMTP:
    """The server, encrypted and proved to be who it says before any password goes to it. The *name* to
    greet with is given: looking one up can take many seconds."""
    host, trusted = where.hostname or "", ssl.create_default_context()
    if where.scheme == "smtps":
        return smtplib.SMTP_SSL(
            host, where.port or 465, local_hostname=name, timeout=SECONDS, context=trusted
        )
    server = smtplib.SMTP(host, where.port or 25, local_hostname=name, timeout=SECONDS)
    if where.username or host not in LOOPBACK:
        server.starttls(context=trusted)
    return server


def _pop3(where: SplitResult) -> poplib.POP3:
    """The mailbox likewise; within this machine alone a password goes in the clear."""
    host, trusted = where.hostname or "", ssl.create_default_context()
    if where.scheme == "pop3s":
        return poplib.POP3_SSL(host, where.port or 995, timeout=SECONDS, context=trusted)
    box = poplib.POP3(host, where.port or 110, timeout=SECONDS)
    if host not in LOOPBACK:
        box.stls(trusted)
    return box


def _login(where: SplitResult) -> tuple[str, str]:
    return unquote(where.username or ""), unquote(where.password or "")


def _said(error: Exception) -> str:
    text = str(error).strip() or type(error).__name__
    return text[:120]
