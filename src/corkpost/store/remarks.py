"""Remarks, and marks on the worksheet's lines."""

import sqlite3
from datetime import date, datetime

from corkpost.core.marks import Mark, MarkKind
from corkpost.core.remarks import About, Remark

REMARKS = """
    SELECT remark.number, remark.about, remark.name, remark.text, remark.asks, remark.answers,
           remark.made_by, remark.made_at, cleared.made_by, cleared.made_at, remark.paper
    FROM remarks AS remark
    LEFT JOIN remarks_cleared AS cleared
      ON cleared.client_id = remark.client_id AND cleared.number = remark.number
    WHERE remark.client_id = :client_id
    ORDER BY remark.number
"""
ADD_REMARK = """
    INSERT INTO remarks (client_id, number, about, name, text, asks, answers, made_by, made_at, paper)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :about, :name, :text, :asks, :answers,
           :made_by, :made_at, :paper
    FROM remarks
    WHERE client_id = :client_id
"""
CLEAR_REMARK = """
    INSERT INTO remarks_cleared (client_id, number, made_by, made_at)
    VALUES (:client_id, :number, :made_by, :made_at)
"""
MARKS = """
    SELECT account, as_at, kind, figure, made_by, made_at
    FROM line_marks
    WHERE client_id = :client_id
    ORDER BY number
"""
ADD_MARK = """
    INSERT INTO line_marks (client_id, number, account, as_at, kind, figure, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :account, :as_at, :kind, :figure,
           :made_by, :made_at
    FROM line_marks
    WHERE client_id = :client_id
"""


def remarks_of(connection: sqlite3.Connection, client_id: int) -> tuple[Remark, ...]:
    return tuple(
        Remark(
            row[0],
            About(row[1]),
            row[2],
            row[3],
            bool(row[4]),
            row[5],
            row[6],
            datetime.fromisoformat(row[7]),
            row[8],
            datetime.fromisoformat(row[9]) if row[9] else None,
            row[10],
        )
        for row in connection.execute(REMARKS, {"client_id": client_id})
    )


def add_remark(connection: sqlite3.Connection, client_id: int, remark: Remark) -> None:
    """Keep the remark under the client's next number."""
    connection.execute(
        ADD_REMARK,
        {
            "client_id": client_id,
            "about": remark.about,
            "name": remark.name,
            "text": remark.text,
            "asks": int(remark.asks),
            "answers": remark.answers,
            "made_by": remark.by,
            "made_at": remark.at.isoformat(timespec="seconds"),
            "paper": remark.paper,
        },
    )


def clear_remark(
    connection: sqlite3.Connection, client_id: int, number: int, made_by: str, made_at: datetime
) -> None:
    connection.execute(
        CLEAR_REMARK,
        {
            "client_id": client_id,
            "number": number,
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )


def marks_of(connection: sqlite3.Connection, client_id: int) -> tuple[Mark, ...]:
    return tuple(
        Mark(
            row[0],
            date.fromisoformat(row[1]),
            MarkKind(row[2]),
            row[3],
            row[4],
            datetime.fromisoformat(row[5]),
        )
        for row in connection.execute(MARKS, {"client_id": client_id})
    )


def add_mark(connection: sqlite3.Connection, client_id: int, mark: Mark) -> None:
    connection.execute(
        ADD_MARK,
        {
            "client_id": client_id,
            "account": mark.account,
            "as_at": mark.as_at.isoformat(),
            "kind": mark.kind,
            "figure": mark.figure,
            "made_by": mark.by,
            "made_at": mark.at.isoformat(timespec="seconds"),
        },
    )
