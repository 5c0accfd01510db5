"""What taking in listings says, as one document."""

from typing import Any

from corkpost.core.intake.making import Made
from corkpost.core.intake.raw import Proof
from corkpost.core.money import Currency
from corkpost.formats.listings.questions import Question
from corkpost.formats.listings.understanding import FileRead


def file_answer(file: FileRead) -> dict[str, Any]:
    return {
        "path": file.path,
        "sheet": file.sheet,
        "read_as": file.read_as,
        "rows": file.rows,
        "used": file.used,
        "passed_over": [row._asdict() for row in file.passed_over],
        "columns": dict(file.columns),
        "from": file.first.isoformat() if file.first else None,
        "to": file.last.isoformat() if file.last else None,
    }


def question_answer(question: Question) -> dict[str, Any]:
    return {
        **question._asdict(),
        "about": question.about.value,
        "choices": [choice._asdict() for choice in question.choices],
    }


def proof_answer(proof: Proof, currency: Currency) -> dict[str, Any]:
    """Amounts as decimals; counts as they are."""
    shown = str if proof.counts else currency.format
    return {
        "what": proof.what,
        "ours": shown(proof.ours),
        "theirs": shown(proof.theirs),
        "difference": shown(proof.difference),
        "where": str(proof.where) if proof.where else None,
    }


def chart_answer(made: Made) -> list[dict[str, Any]]:
    """What each account was taken for, and why."""
    rows = {account.code: account for account in made.tables.accounts}
    return [
        {
            "code": code,
            "name": rows[code].name,
            "type": kind.type.value,
            "role": kind.role.value,
            "guessed": kind.guessed,
            "why": kind.why,
        }
        for code, kind in sorted(made.chart.items())
        if code in rows
    ]
