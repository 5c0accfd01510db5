"""Whose postings wait for approval, what was handed in, and how that ended."""

import sqlite3
from datetime import datetime
from typing import NamedTuple

from corkpost.core.approval import ApprovalRule

RULE = """
    SELECT journals, above FROM approval_rules
    WHERE staff_code = :staff_code
    ORDER BY number DESC
    LIMIT 1
"""
ADD_RULE = """
    INSERT INTO approval_rules (staff_code, number, journals, above, made_by, made_at)
    SELECT :staff_code, COALESCE(MAX(number), 0) + 1, :journals, :above, :made_by, :made_at
    FROM approval_rules
    WHERE staff_code = :staff_code
"""
PROPOSALS = """
    SELECT proposal.number, proposal.act, proposal.asked, proposal.reason, proposal.shown,
           proposal.why, proposal.made_by, proposal.made_at, ending.how, ending.remark,
           ending.change, ending.made_by, ending.made_at
    FROM proposals AS proposal
    LEFT JOIN proposal_ends AS ending
      ON ending.client_id = proposal.client_id AND ending.proposal = proposal.number
    WHERE proposal.client_id = :client_id
    ORDER BY proposal.number
"""
ADD_PROPOSAL = """
    INSERT INTO proposals (client_id, number, act, asked, reason, shown, why, made_by, made_at)
    SELECT :client_id, COALESCE(MAX(number), 0) + 1, :act, :asked, :reason, :shown, :why, :made_by,
           :made_at
    FROM proposals
    WHERE client_id = :client_id
    RETURNING number
"""
ADD_END = """
    INSERT INTO proposal_ends (client_id, proposal, how, remark, change, made_by, made_at)
    VALUES (:client_id, :proposal, :how, :remark, :change, :made_by, :made_at)
"""


class Ending(NamedTuple):
    """*how*: posted, sent-back or withdrawn. *change*: what it was posted as."""

    how: str
    remark: str
    change: int | None
    by: str
    at: str


class Proposal(NamedTuple):
    """*asked*: the act as JSON. *shown*: the digest of what it would have posted. *why*: it waits."""

    number: int
    act: str
    asked: str
    reason: str
    shown: str
    why: str
    made_by: str
    made_at: str
    ending: Ending | None


def rule_of(connection: sqlite3.Connection, staff_code: str) -> ApprovalRule:
    row = connection.execute(RULE, {"staff_code": staff_code}).fetchone()
    return ApprovalRule(bool(row[0]), row[1]) if row else ApprovalRule()


def set_rule(
    connection: sqlite3.Connection,
    staff_code: str,
    rule: ApprovalRule,
    made_by: str,
    at: datetime,
) -> None:
    connection.execute(
        ADD_RULE,
        {
            "staff_code": staff_code,
            "journals": int(rule.journals),
            "above": rule.above,
            "made_by": made_by,
            "made_at": at.isoformat(timespec="seconds"),
        },
    )


def proposals_of(connection: sqlite3.Connection, client_id: int) -> tuple[Proposal, ...]:
    """Everything that was handed in for the client, oldest first."""
    return tuple(
        Proposal._make((*row[:8], Ending(*row[8:]) if row[8] else None))
        for row in connection.execute(PROPOSALS, {"client_id": client_id})
    )


def add_proposal(
    connection: sqlite3.Connection,
    client_id: int,
    *,
    act: str,
    asked: str,
    reason: str,
    shown: str,
    why: str,
    made_by: str,
    made_at: datetime,
) -> int:
    row = connection.execute(
        ADD_PROPOSAL,
        {
            "client_id": client_id,
            "act": act,
            "asked": asked,
            "reason": reason,
            "shown": shown,
            "why": why,
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    ).fetchone()
    return int(row[0])


def end_proposal(
    connection: sqlite3.Connection,
    client_id: int,
    proposal: int,
    how: str,
    *,
    remark: str,
    change: int | None,
    made_by: str,
    made_at: datetime,
) -> None:
    connection.execute(
        ADD_END,
        {
            "client_id": client_id,
            "proposal": proposal,
            "how": how,
            "remark": remark,
            "change": change,
            "made_by": made_by,
            "made_at": made_at.isoformat(timespec="seconds"),
        },
    )
