"""What taking in listings says, as one document."""

from collections import Counter
from collections.abc import Sequence
from typing import Any, Protocol

from corkpost.core.intake.making import Made
from corkpost.core.intake.proposing import Proposed
from corkpost.core.intake.raw import Proof
from corkpost.core.money import Currency
from corkpost.core.periods import year_end_text
from corkpost.formats.listings.questions import Question
from corkpost.formats.listings.understanding import FileRead
from corkpost.formats.shape import Shape

SHOWN = 8


class Taken(Protocol):
    @property
    def transactions(self) -> int: ...
    @property
    def lines(self) -> int: ...
    @property
    def new(self) -> int: ...
    @property
    def changed(self) -> int: ...
    @property
    def removed(self) -> int: ...
    @property
    def warnings(self) -> tuple[str, ...]: ...


class Outcome(Protocol):
    """What `services/listings` tells."""

    @property
    def currency(self) -> Currency: ...
    @property
    def files(self) -> tuple[FileRead, ...]: ...
    @property
    def questions(self) -> tuple[Question, ...]: ...
    @property
    def faults(self) -> tuple[str, ...]: ...
    @property
    def proposed(self) -> Proposed | None: ...
    @property
    def made(self) -> Made | None: ...
    @property
    def taken(self) -> Taken | None: ...


class PassedOverAnswer(Shape):
    """Rows that hold nothing to take in, by why. *lines*: the first of them."""

    why: str
    count: int
    lines: list[int]


class FileReadAnswer(Shape):
    """*says*: how questions name it. *how*: in which way it was read. *places*: the column of each role,
    from 0."""

    says: str
    path: str
    sheet: str
    read_as: str
    rows: int
    used: int
    passed_over: list[PassedOverAnswer]
    how: list[str]
    names: list[str]
    places: dict[str, int]
    sample: list[list[str]]
    first: str | None
    last: str | None


class ListingChoiceAnswer(Shape):
    value: str
    text: str
    example: str


class QuestionAnswer(Shape):
    id: str
    file: str
    about: str
    text: str
    choices: list[ListingChoiceAnswer]
    proposed: str


class ProofAnswer(Shape):
    what: str
    ours: str
    theirs: str
    difference: str
    where: str | None


class AccountTakenAnswer(Shape):
    """*why*: what speaks for what it was taken for."""

    code: str
    name: str
    type: str
    role: str
    guessed: bool
    why: str


class MonthComingAnswer(Shape):
    """How many transactions of each kind a month has."""

    month: str
    kinds: dict[str, int]


class ProposedAnswer(Shape):
    """What a new client may be. *year_end*: month and day, as 12-31. *why*: what speaks for the entity."""

    code: str
    name: str
    entity: str
    year_end: str
    currency: str
    why: str


class ListingsAnswer(Shape):
    """*questions*: what has to be answered first; *faults*: what stands in the way. *held*: how many
    figures of the files agree; *failed*: the others. *taken*: it is in the books now."""

    client: str
    proposed: ProposedAnswer | None
    files: list[FileReadAnswer]
    faults: list[str]
    questions: list[QuestionAnswer]
    held: int
    failed: list[ProofAnswer]
    accounts: list[AccountTakenAnswer]
    months: list[MonthComingAnswer]
    parties: int
    settled: int
    transactions: int
    lines: int
    new: int
    changed: int
    removed: int
    warnings: list[str]
    taken: bool


def listings_answer(client: str, outcome: Outcome, *, is_taken: bool) -> ListingsAnswer:
    """What came of reading a client's files."""
    made, taken = outcome.made, outcome.taken
    proofs = made.proofs if made else ()
    return ListingsAnswer(
        client=client,
        proposed=proposed_answer(outcome.proposed, outcome.currency) if outcome.proposed else None,
        faults=list(outcome.faults),
        files=[_file(row) for row in outcome.files],
        questions=[QuestionAnswer(**question_answer(row)) for row in outcome.questions],
        held=sum(row.holds for row in proofs),
        failed=[ProofAnswer(**proof_answer(r, outcome.currency)) for r in proofs if not r.holds],
        accounts=[AccountTakenAnswer(**row) for row in chart_answer(made)] if made else [],
        months=list(_months(made)) if made else [],
        parties=len(made.tables.parties) if made else 0,
        settled=len(made.tables.allocations) if made else 0,
        transactions=taken.transactions if taken else 0,
        lines=taken.lines if taken else 0,
        new=taken.new if taken else 0,
        changed=taken.changed if taken else 0,
        removed=taken.removed if taken else 0,
        warnings=list(taken.warnings) if taken else [],
        taken=is_taken,
    )


def proposed_answer(found: Proposed, currency: Currency) -> ProposedAnswer:
    """What a new client may be, as an answer."""
    return ProposedAnswer(
        code=found.code,
        name=found.name,
        entity=found.entity.value,
        year_end=year_end_text(found.year_end),
        currency=currency.code,
        why=found.why,
    )


def _months(made: Made) -> Sequence[MonthComingAnswer]:
    counts: dict[str, Counter[str]] = {}
    for row in made.tables.transactions:
        counts.setdefault(f"{row.posting_date:%Y-%m}", Counter())[row.kind.value] += 1
    return [
        MonthComingAnswer(month=month, kinds=dict(kinds)) for month, kinds in sorted(counts.items())
    ]


def _file(file: FileRead) -> FileReadAnswer:
    why: dict[str, list[int]] = {}
    for row in file.passed_over:
        # The account that a block is of says nothing of why it is passed over.
        words = "the name of an account" if row.why.startswith("the account ") else row.why
        why.setdefault(words, []).append(row.line)
    return FileReadAnswer(
        says=f"{file.path}, sheet {file.sheet}" if file.sheet else file.path,
        path=file.path,
        sheet=file.sheet,
        read_as=file.read_as,
        rows=file.rows,
        used=file.used,
        passed_over=[
            PassedOverAnswer(why=words, count=len(lines), lines=lines[:SHOWN])
            for words, lines in why.items()
        ],
        how=list(file.how),
        names=list(file.names),
        places=dict(file.places),
        sample=[list(row) for row in file.sample],
        first=file.first.isoformat() if file.first else None,
        last=file.last.isoformat() if file.last else None,
    )


def file_answer(file: FileRead) -> dict[str, Any]:
    """As the command tells it."""
    return {
        "path": file.path,
        "sheet": file.sheet,
        "read_as": file.read_as,
        "rows": file.rows,
        "used": file.used,
        "passed_over": [row._asdict() for row in file.passed_over],
        "how": list(file.how),
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
