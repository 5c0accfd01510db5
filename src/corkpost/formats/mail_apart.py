"""Reading a message in a process of its own: whatever a stranger sends takes its time and memory there,
within limits, and nothing else stops.

Run as a program it reads, on standard input, a line of JSON (the questions' numbers and the message that
was sent) and then the message; it answers in JSON.
"""

import base64
import json
import resource
import subprocess
import sys
from collections.abc import Sequence

from corkpost.formats.query_mail import Part, Reply, read_reply, token_in

SECONDS = 10
MEMORY = 1024 * 1024 * 1024
"""Octets of address space: the interpreter and its libraries take a third of it."""


def read_apart(content: bytes, numbers: Sequence[int], sent: str) -> Reply:
    """What a message answers, as `read_reply`; of one that takes too long or too much, its token alone."""
    head = json.dumps({"numbers": list(numbers), "sent": sent}).encode() + b"\n"
    try:
        found = subprocess.run(
            [sys.executable, "-m", "corkpost.formats.mail_apart"],
            input=head + content,
            capture_output=True,
            timeout=SECONDS + 5,
            check=True,
        )
        told = json.loads(found.stdout)
    except (subprocess.SubprocessError, ValueError):
        return Reply(token_in(content), "", ())
    parts = tuple(
        Part(
            part["query"],
            part["text"],
            tuple((name, base64.b64decode(data)) for name, data in part["files"]),
        )
        for part in told["parts"]
    )
    return Reply(told["token"], told["sender"], parts)


def main() -> None:
    resource.setrlimit(resource.RLIMIT_CPU, (SECONDS, SECONDS))
    resource.setrlimit(resource.RLIMIT_AS, (MEMORY, MEMORY))
    asked = json.loads(sys.stdin.buffer.readline())
    reply = read_reply(sys.stdin.buffer.read(), asked["numbers"], asked["sent"])
    json.dump(
        {
            "token": reply.token,
            "sender": reply.sender,
            "parts": [
                {
                    "query": part.query,
                    "text": part.text,
                    "files": [[name, base64.b64encode(data).decode()] for name, data in part.files],
                }
                for part in reply.parts
            ],
        },
        sys.stdout,
    )


if __name__ == "__main__":
    main()
