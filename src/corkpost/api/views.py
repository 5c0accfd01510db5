"""What several areas answer with, beside `formats/answers.py`: previews, slips, seals."""

from collections.abc import Iterable
from datetime import date as Day
from io import BytesIO

from flask import Response, send_file

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books
from corkpost.core.periods import Period
from corkpost.formats import answers
from corkpost.formats.answers import (
    AllocationAnswer,
    AmendingAnswer,
    ChartAmendingAnswer,
    EffectAnswer,
    EntryAnswer,
    MergeAnswer,
    TAccountAnswer,
)
from corkpost.formats.shape import Shape
from corkpost.services.entries import Preview
from corkpost.services.workplace import ClientState
from corkpost.store.sign_off import SealRow

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


def as_file(name: str, content: bytes, kind: str) -> Response:
    """A file to be saved under that name, whatever letters it has. *kind*: its media type."""
    response = send_file(BytesIO(content), kind, as_attachment=True, download_name=name, max_age=0)
    # It is checked against what the route says that it answers.
    response.direct_passthrough = False
    return response


class StepAnswer(Shape):
    """What follows on a day: *amount* of the step, and what is *left* after it."""

    day: Day
    amount: str
    left: str


class PreviewAnswer(Shape):
    """What posting would do. *digest* is sent with the post, which is refused if it would differ.

    *notes* say why it is dated and booked so; *warnings* ask for a second look. *earlier_year*: the
    correction has a profit part of an earlier year, and the person may choose where it goes. *held*:
    why this person hands it in for approval instead of posting it. *opens*: the barred periods that
    are opened for it alone.
    """

    digest: str
    reason: str
    notes: list[str]
    warnings: list[str]
    entries: list[EntryAnswer]
    allocations: list[AllocationAnswer]
    amendments: list[AmendingAnswer]
    chart: list[ChartAmendingAnswer]
    merges: list[MergeAnswer]
    effect: EffectAnswer
    t_accounts: list[TAccountAnswer]
    earlier_year: bool
    held: str | None
    opens: list[str]
    schedule: list[StepAnswer]


class ChoiceAnswer(Shape):
    value: str
    says: str


class AskAnswer(Shape):
    """Something that is asked for about an act, or may be said: *name* is of the setting that answers it.
    A day without a *value* begins on the last day that is looked at."""

    name: str
    kind: AskKind
    label: str
    value: str
    choices: list[ChoiceAnswer]
    needed: bool


def asks_of(asks: Iterable[Ask]) -> list[AskAnswer]:
    """What is asked for, as it is answered with."""
    return [
        AskAnswer(
            **{
                **ask._asdict(),
                "choices": [ChoiceAnswer(**choice._asdict()) for choice in ask.choices],
            }
        )
        for ask in asks
    ]


def period_name(period: Period) -> str:
    """A period by its month: `March 2026`."""
    return f"{period.last_day:%B %Y}"


def preview_of(shown: Preview, books: Books) -> PreviewAnswer:
    """A preview as it is answered with."""
    plan, effect, t_accounts, held, opens = shown
    return PreviewAnswer(
        digest=plan.digest,
        reason=plan.proposed_reason,
        notes=list(plan.notes),
        warnings=list(plan.warnings),
        entries=[answers.entry_answer(entry, books) for entry in plan.entries],
        allocations=[answers.allocation_answer(row, books) for row in plan.allocations],
        amendments=[answers.amending_answer(row) for row in plan.amendments],
        chart=[answers.chart_amending_answer(row) for row in plan.chart],
        merges=[answers.merge_answer(row, books) for row in plan.parties_amended],
        effect=answers.effect_answer(effect, books),
        t_accounts=[answers.t_account_answer(account, books) for account in t_accounts],
        earlier_year=bool(plan.prior_parts),
        held=held,
        opens=[period_name(period) for period in opens],
        schedule=[
            StepAnswer(
                day=step.day,
                amount=books.client.currency.format(step.amount),
                left=books.client.currency.format(step.left),
            )
            for step in plan.schedule
        ],
    )


class PaperAnswer(Shape):
    name: str
    digest: str


class SlipAnswer(EntryAnswer):
    """A transaction as evidence. *open*: what is left of it on control accounts, without sign; none
    where it has no item there. *settled_on*: the day since which nothing is left."""

    open: str | None
    settled_on: Day | None
    days_open: int | None
    papers: list[PaperAnswer]


def slip_answer(ledger: ClientState, name: str) -> SlipAnswer:
    """The slip of a transaction that is in the books."""
    books = ledger.books
    standing = ledger.items.standing_of(name, ledger.today)
    return SlipAnswer(
        **answers.entry_answer(books.transactions[name], books).model_dump(),
        open=books.client.currency.format(abs(standing.open)) if standing else None,
        settled_on=standing.settled_on if standing else None,
        days_open=standing.days_open if standing else None,
        papers=papers_of(books, name),
    )


def papers_of(books: Books, name: str) -> list[PaperAnswer]:
    return [
        PaperAnswer(name=paper.name or paper.path.rpartition("/")[2], digest=paper.digest)
        for paper in books.tables.attachments
        if paper.transaction == name
    ]


class SealAnswer(Shape):
    """*reopened_until*: the last day that it is open; it stands again after that. None where it stands, and
    for what was reopened for good."""

    number: int
    as_at: Day
    digest: str
    prepared_by: str | None
    signed_by: str
    signed_at: str
    override_reason: str | None
    second_person: bool
    broken: bool
    reopened_by: str | None
    reopened_at: str | None
    reopened_why: str | None
    reopened_until: Day | None


def seal_answer(seal: SealRow, *, broken: bool) -> SealAnswer:
    reopening = None if seal.stands else seal.reopening
    return SealAnswer(
        number=seal.number,
        as_at=seal.as_at,
        digest=seal.digest,
        prepared_by=seal.prepared_by,
        signed_by=seal.signed_by,
        signed_at=seal.signed_at,
        override_reason=seal.override_reason,
        second_person=seal.second_person,
        broken=broken,
        reopened_by=reopening.made_by if reopening else None,
        reopened_at=reopening.made_at if reopening else None,
        reopened_why=reopening.reason if reopening else None,
        reopened_until=reopening.until if reopening else None,
    )
