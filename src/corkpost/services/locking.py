"""Copies that only who has the key can read: age, by keys of the kind X25519."""

import os
from pathlib import Path

import pyrage

from corkpost.core.refusals import Refusal

BEGINS = b"age-encryption.org/v1"


class WrongKey(Refusal):
    title = "The key doesn't fit"


def make_key(file: Path) -> str:
    """Write a new secret key into a file of its own; the public one, to which copies are locked."""
    if file.exists():
        raise WrongKey(f"{file} is there already: name a new file, so that no key is lost.")
    secret = pyrage.x25519.Identity.generate()
    with os.fdopen(os.open(file, os.O_WRONLY | os.O_CREAT | os.O_EXCL, 0o600), "w") as written:
        written.write(f"# public key: {secret.to_public()}\n{secret}\n")
    return str(secret.to_public())


def lock(file: Path, public_key: str, to: Path) -> None:
    """Write the file so that only the secret key to *public_key* opens it. Raises WrongKey."""
    try:
        recipient = pyrage.x25519.Recipient.from_str(public_key.strip())
    except pyrage.RecipientError as wrong:
        raise WrongKey(f"{public_key} is no public key: one begins with age1.") from wrong
    pyrage.encrypt_file(str(file), str(to), [recipient])


def is_locked(file: Path) -> bool:
    with file.open("rb") as content:
        return content.read(len(BEGINS)) == BEGINS


def unlock(file: Path, key_file: Path | None, to: Path) -> None:
    """Write what was locked as it was. *key_file*: holds the secret key. Raises WrongKey."""
    if key_file is None:
        raise WrongKey(f"{file} is locked: name the file of its secret key by --key.")
    said = [
        line
        for line in key_file.read_text("utf-8", "replace").splitlines()
        if not line.startswith("#")
    ]
    try:
        secret = pyrage.x25519.Identity.from_str("".join(said).strip())
        pyrage.decrypt_file(str(file), str(to), [secret])
    except pyrage.IdentityError as wrong:
        raise WrongKey(
            f"{key_file} holds no secret key: one begins with AGE-SECRET-KEY-1."
        ) from wrong
    except pyrage.DecryptError as wrong:
        raise WrongKey(f"{file} was locked to another key, or was altered: {wrong}.") from wrong
