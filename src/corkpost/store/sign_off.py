"""Seals and their reopenings, on the record for good."""

import json
import sqlite3
import zlib
from collections.abc import Mapping
from datetime import date, datetime
from typing import Any, NamedTuple

from corkpost.core.checklists import Tick
from corkpost.core.reopenings import Reopening, stands

SEALS = """
    SELECT seal.number, seal.as_at, seal.digest, seal.balances, seal.head, seal.prepared_by,
           seal.override_reason, seal.second_person, seal.signed_by, seal.signed_at,
           seal.form, reopening.reason, reopening.made_by, reopening.made_at,
           reopening.until
    FROM seals AS seal
    LEFT JOIN seal_reopenings AS reopening
      ON reopening.client_id = seal.client_id AND reopening.seal_number = seal.number
     AND reopening.number = (
       SELECT MAX(number) FROM seal_reopenings AS own
       WHERE own.client_id = seal.client_id AND own.seal_number = seal.number)
    WHERE seal.client_id = :client_id
    ORDER BY seal.number
"""
ADD_SEAL = """
    INSERT INTO seals (
      client_id, number, as_at, digest, balances, head, prepared_by, override_reason,
      second_person, signed_by, signed_at, form, content)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :as_at, :digest, :balances, :head,
           :prepared_by, :override_reason, :second_person, :signed_by, :signed_at,
           :form, :content
    FROM seals
    WHERE client_id = :client_id
"""
CONTENT = """
    SELECT content FROM seals WHERE client_id = :client_id AND number = :number
"""
ADD_REOPENING = """
    INSERT INTO seal_reopenings (client_id, seal_number, number, reason, until, made_by, made_at)
    SELECT :client_id, :seal_number, COALESCE(MAX(number), 0) + 1, :reason, :until, :made_by, :made_at
    FROM seal_reopenings
    WHERE client_id = :client_id AND seal_number = :seal_number
"""


TICKS = """
    SELECT item, as_at, done, made_by, made_at
    FROM checklist_ticks
    WHERE client_id = :client_id
    ORDER BY number
"""
ADD_TICK = """
    INSERT INTO checklist_ticks (client_id, number, item, as_at, done, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :item, :as_at, :done, :made_by, :made_at
    FROM checklist_ticks
    WHERE client_id = :client_id
"""


class SealRow(NamedTuple):
    """A seal. *balances*: what was signed, by account, debit positive. *form*: the version of the
    canonical form that *digest* is of."""

    number: int
    as_at: date
    digest: str
    balances: Mapping[str, int]
    head: str
    prepared_by: str | None
    override_reason: str | None
    second_person: bool
    signed_by: str
    signed_at: str
    form: int
    reopening: Reopening | None
    stands: bool


def seals_of(connection: sqlite3.Connection, client_id: int, today: date) -> list[SealRow]:
    """Every seal of the client, oldest first; which of them stand, is as of *today*."""
    rows = [_seal(row) for row in connection.execute(SEALS, {"client_id": client_id})]
    return [
        row._replace(
            stands=stands(row.as_at, row.reopening, (r.as_at for r in rows[place + 1 :]), today)
        )
        for place, row in enumerate(rows)
    ]


def _seal(row: tuple[Any, ...]) -> SealRow:
    return SealRow(
        number=row[0],
        as_at=date.fromisoformat(row[1]),
        digest=row[2],
        balances=json.loads(row[3]),
        head=row[4],
        prepared_by=row[5],
        override_reason=row[6],
        second_person=bool(row[7]),
        signed_by=row[8],
        signed_at=row[9],
        form=row[10],
        reopening=_reopening(row[11:]) if row[11] is not None else None,
        stands=True,
    )


def _reopening(row: tuple[Any, ...]) -> Reopening:
    reason, made_by, made_at, until = row
    return Reopening(reason, made_by, made_at, date.fromisoformat(until) if until else None)


def form_of_seal(connection: sqlite3.Connection, client_id: int, number: int) -> str | None:
    """The canonical form that was signed; None for a seal of the first version, which kept none."""
    row = connection.execute(CONTENT, {"client_id": client_id, "number": number}).fetchone()
    return zlib.decompress(row[0]).decode() if row and row[0] is not None else None


class NewSeal(NamedTuple):
    """*content*: the canonical form, of version *form*."""

    as_at: date
    digest: str
    balances: Mapping[str, int]
    head: str
    prepared_by: str | None
    override_reason: str | None
    second_person: bool
    signed_by: str
    signed_at: datetime
    form: int
    content: str


def add_seal(connection: sqlite3.Connection, client_id: int, seal: NewSeal) -> None:
    connection.execute(
        ADD_SEAL,
        {
            **seal._asdict(),
            "client_id": client_id,
            "as_at": seal.as_at.isoformat(),
            "balances": json.dumps(seal.balances, sort_keys=True),
            "second_person": int(seal.second_person),
            "signed_at": seal.signed_at.isoformat(timespec="seconds"),
            "content": zlib.compress(seal.content.encode()),
        },
    )


def add_reopening(
    connection: sqlite3.Connection,
    client_id: int,
    seal_number: int,
    *,
    reason: str,
    until: date,
    made_by: str,
    made_at: datetime,
) -> None:
    connection.execute(
        ADD_REOPENING,
        {
            "client_id": client_id,
            "seal_number": seal_number,
            "reason": reason,
            "until": until.isoformat(),
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )


def ticks_of(connection: sqlite3.Connection, client_id: int) -> tuple[Tick, ...]:
    """What was ticked on the checklists, the latest last."""
    return tuple(
        Tick(
            row[0], date.fromisoformat(row[1]), bool(row[2]), row[3], datetime.fromisoformat(row[4])
        )
        for row in connection.execute(TICKS, {"client_id": client_id})
    )


def add_tick(connection: sqlite3.Connection, client_id: int, tick: Tick) -> None:
    connection.execute(
        ADD_TICK,
        {
            "client_id": client_id,
            "item": tick.item,
            "as_at": tick.as_at.isoformat(),
            "done": int(tick.done),
            "made_by": tick.by,
            "made_at": tick.at.isoformat(timespec="seconds"),
        },
    )
