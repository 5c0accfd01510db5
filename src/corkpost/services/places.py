"""Where copies go: a folder on another machine's disk, or a bucket that speaks the S3 protocol.

What a place holds has names with `/` between: under `store-0001` as the streaming program lays it
out, `files/<digest>`, `terms/0001.json`. Nothing in it is ever written over.
"""

import shutil
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any, Protocol
from urllib.parse import parse_qs, unquote, urlsplit

from corkpost.core.refusals import Refusal
from corkpost.services.store import put_in_place


class NotReached(Refusal):
    """The place can't be written to or read now."""

    title = "The place for copies is not reached"


class Place(Protocol):
    """`str()` of it is what it is told by. Each deed raises NotReached. *every*: seconds after which it is
    looked at again."""

    every: float

    def address(self, name: str) -> str:
        """By which the streaming program finds what is under the name."""

    def names(self, under: str) -> set[str]:
        """What is there, without what all of them begin with."""

    def put(self, name: str, source: Path) -> None:
        """Copy a file there: it is there whole, or not at all."""

    def get(self, name: str, to: Path) -> None:
        """Bring a file back."""

    def read(self, name: str) -> bytes: ...

    def claim(self, name: str, content: bytes) -> bool:
        """Write it if it is not there; whether it was not."""


class Folder:
    """A folder, best on another machine's disk."""

    every = 1.0

    def __init__(self, path: Path) -> None:
        self._path = path.absolute()

    def __str__(self) -> str:
        return str(self._path)

    def address(self, name: str) -> str:
        return (self._path / name).resolve().as_uri()

    def names(self, under: str) -> set[str]:
        folder = self._path / under
        with self._told():
            found = [file for file in folder.rglob("*") if file.is_file()]
        return {file.relative_to(folder).as_posix() for file in found if file.name[0] != "."}

    def put(self, name: str, source: Path) -> None:
        there = self._path / name
        part = there.with_name(f".{there.name}.part")
        with self._told():
            there.parent.mkdir(parents=True, exist_ok=True)
            shutil.copyfile(source, part)
            put_in_place(part, there)

    def get(self, name: str, to: Path) -> None:
        with self._told():
            shutil.copyfile(self._path / name, to)

    def read(self, name: str) -> bytes:
        with self._told():
            return (self._path / name).read_bytes()

    def claim(self, name: str, content: bytes) -> bool:
        there = self._path / name
        with self._told():
            there.parent.mkdir(parents=True, exist_ok=True)
            try:
                with there.open("xb") as file:
                    file.write(content)
            except FileExistsError:
                return False
        return True

    @contextmanager
    def _told(self) -> Iterator[None]:
        try:
            yield
        except OSError as wrong:
            raise NotReached(f"{self} can't be used for copies: {wrong.strerror}.") from wrong


class Bucket:
    """A bucket of any keeper that speaks the S3 protocol. Keys come from the environment
    (`AWS_ACCESS_KEY_ID`, `AWS_SECRET_ACCESS_KEY`)."""

    # Its keeper may charge for each look.
    every = 3.0

    def __init__(self, address: str) -> None:
        split = urlsplit(address)
        said = {name: values[-1] for name, values in parse_qs(split.query).items()}
        self._bucket, self._prefix = split.netloc, split.path.strip("/")
        self._query, self._endpoint = split.query, said.get("endpoint")
        self._region = said.get("region", "us-east-1")
        self._made: Any = None

    def __str__(self) -> str:
        return f"s3://{self._bucket}/{self._prefix}"

    def address(self, name: str) -> str:
        query = f"?{self._query}" if self._query else ""
        return f"s3://{self._bucket}/{self._key(name)}{query}"

    def names(self, under: str) -> set[str]:
        start = self._key(under).rstrip("/") + "/"
        with self._told() as keeper:
            pages = keeper.get_paginator("list_objects_v2").paginate(
                Bucket=self._bucket, Prefix=start
            )
            return {
                entry["Key"].removeprefix(start)
                for page in pages
                for entry in page.get("Contents", ())
            }

    def put(self, name: str, source: Path) -> None:
        with self._told() as keeper:
            keeper.upload_file(str(source), self._bucket, self._key(name))

    def get(self, name: str, to: Path) -> None:
        with self._told() as keeper:
            keeper.download_file(self._bucket, self._key(name), str(to))

    def read(self, name: str) -> bytes:
        with self._told() as keeper:
            found = keeper.get_object(Bucket=self._bucket, Key=self._key(name))
            return bytes(found["Body"].read())

    def claim(self, name: str, content: bytes) -> bool:
        from botocore.exceptions import ClientError

        with self._told() as keeper:
            try:
                keeper.put_object(
                    Bucket=self._bucket, Key=self._key(name), Body=content, IfNoneMatch="*"
                )
            except ClientError as wrong:
                if wrong.response["Error"]["Code"] == "PreconditionFailed":
                    return False
                raise
        return True

    def _key(self, name: str) -> str:
        return f"{self._prefix}/{name}" if self._prefix else name

    @contextmanager
    def _told(self) -> Iterator[Any]:
        # Only who copies to a bucket waits for it to be read in.
        import boto3
        from boto3.exceptions import Boto3Error
        from botocore.config import Config
        from botocore.exceptions import BotoCoreError, ClientError

        try:
            if self._made is None:
                self._made = boto3.client(
                    "s3",
                    endpoint_url=self._endpoint,
                    region_name=self._region,
                    config=Config(
                        connect_timeout=5, read_timeout=20, retries={"total_max_attempts": 2}
                    ),
                )
            yield self._made
        except (BotoCoreError, ClientError, Boto3Error) as wrong:
            raise NotReached(f"{self} can't be used for copies: {wrong}") from wrong


def place_of(address: str) -> Place:
    """The place that an address names: a folder, or `s3://bucket/path`, with `?endpoint=` and `&region=`
    where the keeper needs them. Raises Refusal for what is neither."""
    split = urlsplit(address)
    if split.scheme in ("", "file"):
        return Folder(Path(unquote(split.path or address)))
    if split.scheme == "s3" and split.netloc:
        return Bucket(address)
    raise Refusal(
        f"{address} is no place for copies. Name a folder on another machine's disk, or a bucket as "
        "s3://bucket/path?endpoint=https://keeper.example"
    )
