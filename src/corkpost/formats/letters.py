"""A message with files, as bytes of mail."""

from collections.abc import Iterable
from email.message import EmailMessage
from email.policy import default
from email.utils import formataddr, make_msgid


def letter(
    *,
    subject: str,
    body: str,
    sender: tuple[str, str],
    to: tuple[str, str],
    message_id: str | None = None,
    files: Iterable[tuple[str, bytes]] = (),
) -> EmailMessage:
    """The message. *sender*, *to*: name and address. *files*: names (they end in .pdf or .csv) and
    contents. Raises ValueError for an address that no message can bear."""
    made = EmailMessage(policy=default)
    made["Subject"] = _one_line(subject)
    made["From"] = formataddr((_one_line(sender[0]), sender[1]))
    made["To"] = formataddr((_one_line(to[0]), to[1]))
    made["Message-ID"] = message_id or make_msgid(domain=sender[1].rpartition("@")[2] or None)
    made.set_content(body)
    for name, content in files:
        kind = {"pdf": ("application", "pdf"), "csv": ("text", "csv")}[name.rpartition(".")[2]]
        made.add_attachment(content, maintype=kind[0], subtype=kind[1], filename=name)
    return made


def _one_line(text: str) -> str:
    """Names come with the books: a break in one would end the head of the message."""
    return " ".join(text.split())
