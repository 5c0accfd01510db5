"""Questions as a message, and an answer read back: bytes of mail to what was said to which question."""

import logging
import re
import secrets
from collections.abc import Iterable, Sequence
from email import message_from_bytes
from email.errors import HeaderParseError
from email.header import decode_header, make_header
from email.message import EmailMessage
from email.policy import default
from email.utils import parseaddr
from typing import NamedTuple

from lxml import etree, html

from corkpost.formats.letters import letter

MARK = "CP-"
_TOKEN = re.compile(r"\[CP-([0-9a-z]{20})\]")
_QUESTION = re.compile(r"^[>\s|]*Question (\d+)\s*:")
_ROOM = "Your answer:"
_QUOTE = re.compile(r"^\s*[>|]")
_HEAD_OF_QUOTE = re.compile(
    r"^\s*(On .+ wrote:|Am .+ schrieb.*:|Le .+ a écrit\s*:|-+ ?Original.*-+)\s*$"
)
MOST_FILES = 20
LONGEST_HEAD = 64 * 1024
LARGEST_SEARCHED = 512 * 1024
LONGEST_HTML = 256 * 1024
_REFERRED = re.compile(r"<([0-9a-z]{20})@")
LONGEST_ANSWER = 20_000
_SIGNS = "0123456789abcdefghijklmnopqrstuvwxyz"


class Asked(NamedTuple):
    """A question as it goes into a message. *about*: its entries, one a line. *before*: the day on which it
    was sent first, in words, where it was."""

    number: int
    text: str
    about: tuple[str, ...]
    before: str | None = None


class Part(NamedTuple):
    """What was answered to one question; *query* None where it does not say to which."""

    query: int | None
    text: str
    files: tuple[tuple[str, bytes], ...]


class Reply(NamedTuple):
    """*token*: of the message that it answers; None where it answers none of ours."""

    token: str | None
    sender: str
    parts: tuple[Part, ...]


def new_token() -> str:
    """A token that nobody can guess: an answer is taken for whom it was sent to by it alone."""
    return "".join(secrets.choice(_SIGNS) for _ in range(20))


def subject_of(client: str, count: int, token: str, *, again: bool = False) -> str:
    """*again*: all of it was asked before."""
    what = "A question" if count == 1 else f"{count} questions"
    reminder = "Reminder: " if again else ""
    return f"{reminder}{what} about the books of {client} [{MARK}{token}]"


def body_of(to: str, sender: str, practice: str, client: str, asked: Sequence[Asked]) -> str:
    """The message as a person reads it, with room under every question."""
    many = len(asked) > 1
    lines = [
        f"Dear {to},",
        "",
        f"we are going through the books of {client} and need your help with "
        f"{'these questions' if many else 'one question'}.",
        "Please answer this message and write under each question; files may be attached.",
        "",
    ]
    for question in asked:
        lines.append(f"Question {question.number}: {question.text}")
        lines += [f"    {about}" for about in question.about]
        if question.before:
            lines.append(f"    (asked on {question.before}; no answer has come yet)")
        lines += [_ROOM, "", ""]
    lines += ["Thank you,", sender, practice]
    return "\n".join(lines)


def message_of(
    *, subject: str, body: str, sender: tuple[str, str], to: tuple[str, str], token: str
) -> EmailMessage:
    """The message itself. *sender*, *to*: name and address."""
    domain = sender[1].rpartition("@")[2] or "localhost"
    return letter(
        subject=subject, body=body, sender=sender, to=to, message_id=f"<{token}@{domain}>"
    )


def read_reply(content: bytes, numbers: Iterable[int] | None = None, sent: str = "") -> Reply:
    """What a message answers. *numbers*: of the questions that the answered message, *sent*, asked.

    The token stands in the subject, else in what the message refers to, else in what it quotes. Of a
    message that can't be read the token alone is told: it must not stand in the way of the others.
    """
    try:
        return _read(content, list(numbers or ()), sent)
    except Exception:
        logging.getLogger("corkpost").exception("a message could not be read")
        return Reply(token_in(content), "", ())


def token_in(content: bytes) -> str | None:
    """The token of ours that a message has in its subject, in what it refers to, or in plain sight in its
    first part; found without reading the message, in a time that its length bounds."""
    head = content[:LONGEST_HEAD].replace(b"\r\n", b"\n").partition(b"\n\n")[0]
    lines = re.sub(rb"\n[ \t]+", b" ", head).split(b"\n")
    heads = {
        name.strip().lower(): value[:4_000].decode("latin-1")
        for name, _, value in (line.partition(b":") for line in lines)
    }
    subject = _decoded(heads.get(b"subject", ""))
    found = _TOKEN.search(subject)
    if found:
        return found[1]
    for name in (b"in-reply-to", b"references"):
        named = _REFERRED.search(heads.get(name, ""))
        if named:
            return named[1]
    found = _TOKEN.search(content[:LARGEST_SEARCHED].decode("latin-1"))
    return found[1] if found else None


def _decoded(subject: str) -> str:
    try:
        return str(make_header(decode_header(subject)))
    except (ValueError, LookupError, HeaderParseError):
        return subject


def _read(content: bytes, known: list[int], sent: str) -> Reply:
    mail = message_from_bytes(content, policy=default)
    text = _text_of(mail)
    token = _token_of(mail, text)
    said = _by_question(text, known, sent)
    files = _files_of(mail)
    by_query: dict[int | None, list[tuple[str, bytes]]] = {}
    for name, data in files:
        by_query.setdefault(_whose(name, known), []).append((name, data))
    parts = [
        Part(query, said.get(query, ""), tuple(by_query.get(query, ())))
        for query in (*known, None)
        if said.get(query) or by_query.get(query)
    ]
    return Reply(token, parseaddr(str(mail.get("From", "")))[1], tuple(parts))


def _token_of(mail: EmailMessage, text: str) -> str | None:
    found = _TOKEN.search(str(mail.get("Subject", "")))
    if found:
        return found[1]
    for head in ("In-Reply-To", "References"):
        named = _REFERRED.search(str(mail.get(head, "")))
        if named:
            return named[1]
    found = _TOKEN.search(text)
    return found[1] if found else None


def _text_of(mail: EmailMessage) -> str:
    body = mail.get_body(preferencelist=("plain", "html"))
    if body is None:
        return ""
    try:
        content = str(body.get_content())
    except (LookupError, UnicodeError):
        payload = body.get_payload(decode=True)
        content = payload.decode("utf-8", "replace") if isinstance(payload, bytes) else ""
    if body.get_content_subtype() == "html":
        content = _words_of_html(content[:LONGEST_HTML])
    return content[: LONGEST_ANSWER * 4]


def _words_of_html(content: str) -> str:
    """The words, a line to each line or paragraph; styles, scripts and comments are none."""
    broken = re.sub(r"(?i)<(?:br|/p|/div|/tr|/li)[^<>]{0,200}>", "\n", content)
    try:
        # Bytes: a declaration of their encoding, as some programs write, is refused in text.
        tree = html.fromstring(broken.encode(), parser=html.HTMLParser(encoding="utf-8"))
        silent = ("style", "script", etree.Comment, etree.ProcessingInstruction)
        etree.strip_elements(tree, *silent, with_tail=False)
        return str(tree.text_content())
    except (etree.ParserError, ValueError, AttributeError):
        return re.sub(r"<[^<>]*>", " ", broken)


def _by_question(text: str, numbers: list[int], sent: str) -> dict[int | None, str]:
    """What was written under each question: our own words, quoted or not, are left out."""
    said: dict[int | None, list[str]] = {}
    at: int | None = numbers[0] if len(numbers) == 1 else None
    own = {line.strip() for line in sent.splitlines()}
    for line in text.splitlines():
        asked = _QUESTION.match(line)
        if asked:
            number = int(asked[1])
            at = number if number in numbers else at
            continue
        bare = line.strip().lstrip(">| ").strip()
        if _ROOM in bare:
            rest = bare.partition(_ROOM)[2].strip()
            if rest:
                said.setdefault(at, []).append(rest)
            continue
        quoted = _QUOTE.match(line) or (len(line) < 400 and _HEAD_OF_QUOTE.match(line))
        if (bare and bare in own) or quoted:
            continue
        said.setdefault(at, []).append(line.rstrip())
    return {
        query: words
        for query, lines in said.items()
        if (words := "\n".join(lines).strip()[:LONGEST_ANSWER])
    }


def _files_of(mail: EmailMessage) -> list[tuple[str, bytes]]:
    found = []
    for number, part in enumerate(mail.iter_attachments(), 1):
        data = part.get_payload(decode=True)
        if isinstance(data, bytes) and data:
            found.append((part.get_filename() or f"file {number}", data))
    return found[:MOST_FILES]


def _whose(name: str, numbers: list[int]) -> int | None:
    """The question that a file's name speaks of; the only one where there is but one."""
    if len(numbers) == 1:
        return numbers[0]
    named = [int(run) for run in re.findall(r"(?i)(?:question|q)[ _-]*(\d+)", name)]
    fits = [number for number in named if number in numbers]
    return fits[0] if fits else None
