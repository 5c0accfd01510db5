"""The worksheet, and what its figures open to: an account's movements, a party's, aged lists."""

import csv
import io
import tempfile
from collections.abc import Iterable
from pathlib import Path

from flask import Blueprint, Response
from pydantic import Field

from corkpost.api.security import person, workplace
from corkpost.api.spec import Asked, AtDay, Day, answers
from corkpost.api.views import XLSX, as_file
from corkpost.core.books import Books
from corkpost.core.cells import plain_cell
from corkpost.core.kinds import AccountRole
from corkpost.core.lateness import late_because
from corkpost.core.ledger import Ledger
from corkpost.core.refusals import UnknownName
from corkpost.core.trial_balance import Basis, Closing, Column
from corkpost.core.worksheet import EntryColumn, Worksheet
from corkpost.formats.answers import (
    AgedAnswer,
    TrialBalanceAnswer,
    WorksheetAnswer,
    account_name,
    aged_answer,
    trial_balance_answer,
    worksheet_answer,
)
from corkpost.formats.shape import Shape
from corkpost.services import overview as service

bp = Blueprint("worksheet", __name__)


class SheetQuery(Asked):
    """*first*: the day that income and costs are counted from, the year's first unless said. *dimension*:
    of what stands on it alone, as `site=QUAY`."""

    first: Day | None = None
    closing: Closing = Closing.OUT
    dimension: str | None = Field(default=None, max_length=200)


class WorksheetQuery(SheetQuery):
    """*against*: the label of the earlier year beside it, the last one unless said. *grouped*: the name of
    the arrangement that its accounts are grouped by."""

    year: str = Field(max_length=20)
    at: Day | None = None
    against: str | None = Field(default=None, max_length=20)
    grouped: str | None = Field(default=None, max_length=100)


class TrialBalanceQuery(Asked):
    at: Day
    column: Column = Column.ADJUSTED
    closing: Closing = Closing.IN
    basis: Basis = Basis.ACCRUALS


class Span(Asked):
    first: Day
    last: Day


class MovementAnswer(Shape):
    """*against*: the other accounts of the transaction, in words. *late*: why it is marked as late."""

    transaction: str
    date: Day
    kind: str
    reference: str | None
    party: str | None
    text: str | None
    against: str
    ours: bool
    late: str | None
    debit: str | None
    credit: str | None
    running: str


class AccountSpan(Span):
    """*column*: only what adds to it. *closing*: whether the closing entries of the last year are in it.
    *alone*: income and costs begin at nil with the first day. *dimension*: only what stands on it."""

    column: EntryColumn | None = None
    closing: Closing = Closing.IN
    alone: bool = False
    dimension: str | None = Field(default=None, max_length=200)


class StatementAnswer(Shape):
    """A statement file that is kept with the books: the bank's own words, under its digest."""

    name: str
    format: str
    digest: str


class LedgerAnswer(Shape):
    """Opening + debits - credits = closing, debit positive. *statements*: kept for the account."""

    code: str
    name: str
    first: Day
    last: Day
    opening: str
    movements: list[MovementAnswer]
    debits: str
    credits: str
    closing: str
    statements: list[StatementAnswer]


class OpenItemAnswer(Shape):
    transaction: str
    date: Day
    reference: str | None
    account: str
    amount: str
    open: str


class PartyAnswer(Shape):
    """A party's history, and what is open of it now, debit positive. *also*: its other names."""

    also: list[str]
    ledger: LedgerAnswer
    items: list[OpenItemAnswer]
    open: str


@bp.get("/clients/<client>/worksheet")
@answers(WorksheetAnswer, "worksheet")
def show(client: str, query: WorksheetQuery) -> WorksheetAnswer:
    """Last year, as received, corrections, adjusting, reclassifications, adjusted."""
    books, found = _sheet(client, query)
    return worksheet_answer(found, books, query.grouped)


def _sheet(client: str, query: WorksheetQuery) -> tuple[Books, Worksheet]:
    return service.client_worksheet(
        workplace(),
        person(),
        client,
        query.year,
        query.at,
        query.against,
        first=query.first,
        closing=query.closing,
        dimension=query.dimension,
    )


class GroupAnswer(Shape):
    heading: str
    picks: list[str]


class ArrangementAnswer(Shape):
    """*client*: whose it is."""

    client: str
    name: str
    groups: list[GroupAnswer]


class ArrangementsAnswer(Shape):
    arrangements: list[ArrangementAnswer]


@bp.get("/clients/<client>/arrangements")
@answers(ArrangementsAnswer, "worksheet")
def arrangements(client: str) -> ArrangementsAnswer:
    """The groupings of this client, and those of one's other clients to begin with."""
    found = service.arrangements(workplace(), person(), client)
    return ArrangementsAnswer(
        arrangements=[
            ArrangementAnswer(
                client=code,
                name=row.name,
                groups=[GroupAnswer(heading=g.heading, picks=list(g.picks)) for g in row.groups],
            )
            for code, row in found
        ]
    )


@bp.get("/clients/<client>/worksheet.xlsx")
@answers(None, "worksheet")
def spreadsheet(client: str, query: WorksheetQuery) -> Response:
    """The same as a spreadsheet."""
    books, found = _sheet(client, query)
    with tempfile.TemporaryDirectory() as folder:
        file = Path(folder) / "worksheet.xlsx"
        # Takes half a second to import: only who wants a paper waits for it.
        from corkpost.pack.worksheet_xlsx import write_worksheet

        write_worksheet(worksheet_answer(found, books), books.client.name, file)
        content = file.read_bytes()
    return as_file(f"{client} worksheet {found.as_at}.xlsx", content, XLSX)


@bp.get("/clients/<client>/trial-balance")
@answers(TrialBalanceAnswer, "worksheet")
def balance(client: str, query: TrialBalanceQuery) -> TrialBalanceAnswer:
    """The trial balance at the end of a day."""
    return _trial_balance(client, query)


@bp.get("/clients/<client>/trial-balance.csv")
@answers(None, "worksheet")
def balance_csv(client: str, query: TrialBalanceQuery) -> Response:
    """The same for a spreadsheet."""
    found = _trial_balance(client, query)
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(("account", "name", "type", "balance"))
    writer.writerows(
        (row.account, plain_cell(row.name), row.type, row.balance) for row in found.rows
    )
    # The mark tells spreadsheets that it is UTF-8.
    content = ("\ufeff" + out.getvalue()).encode()
    return as_file(f"{client} trial balance {found.at}.csv", content, "text/csv")


def _trial_balance(client: str, query: TrialBalanceQuery) -> TrialBalanceAnswer:
    found = service.client_trial_balance(
        workplace(),
        person(),
        client,
        query.at,
        column=query.column,
        closing=query.closing,
        basis=query.basis,
    )
    return trial_balance_answer(found, service.chart(workplace(), person(), client))


@bp.get("/clients/<client>/accounts/<account>")
@answers(LedgerAnswer, "worksheet")
def account(client: str, account: str, query: AccountSpan) -> LedgerAnswer:
    """One account's movements between two days, both included: all, or those of a worksheet's column."""
    books, found = service.client_ledger(
        workplace(),
        person(),
        client,
        account,
        query.first,
        query.last,
        column=query.column,
        closing=query.closing,
        alone=query.alone,
        dimension=query.dimension,
    )
    return _ledger(found, account_name(books, account), books)


@bp.get("/clients/<client>/parties/<party>")
@answers(PartyAnswer, "worksheet")
def party(client: str, party: str, query: Span) -> PartyAnswer:
    """One party's history in order, and its open items."""
    ledger, found = service.client_party(
        workplace(), person(), client, party, query.first, query.last
    )
    books, open_ = ledger.books, ledger.items.open_of(party)
    money = books.client.currency.format
    known = books.parties.get(party)
    return PartyAnswer(
        also=list(known.aliases) if known else [],
        ledger=_ledger(found, books.party_name(party), books),
        items=[
            OpenItemAnswer(
                transaction=item.transaction.id,
                date=item.transaction.posting_date,
                reference=item.transaction.reference,
                account=item.account,
                amount=money(item.amount),
                open=money(left),
            )
            for item, left in open_
        ],
        open=money(sum(left for _, left in open_)),
    )


def _ledger(found: Ledger, name: str, books: Books) -> LedgerAnswer:
    money = books.client.currency.format
    amounts = [movement.line.amount for movement in found.movements]
    return LedgerAnswer(
        code=found.of,
        name=name,
        first=found.first_day,
        last=found.last_day,
        opening=money(found.opening),
        movements=[
            MovementAnswer.model_construct(
                transaction=move.posted.id,
                date=move.posted.posting_date,
                kind=move.posted.kind.value,
                reference=move.posted.reference,
                party=books.party_name(move.posted.party) if move.posted.party else None,
                text=move.line.description or move.posted.memo,
                against=_against(move.line.account, (x.account for x in move.posted.lines), books),
                ours=move.posted.change is not None,
                late=late_because(books, move.posted),
                debit=money(move.line.amount) if move.line.amount > 0 else None,
                credit=money(-move.line.amount) if move.line.amount < 0 else None,
                running=money(move.running),
            )
            for move in found.movements
        ],
        debits=money(sum(amount for amount in amounts if amount > 0)),
        credits=money(-sum(amount for amount in amounts if amount < 0)),
        closing=money(found.closing),
        statements=[
            StatementAnswer(name=row.path.rpartition("/")[2], format=row.format, digest=row.digest)
            for row in books.tables.statements
            if row.account == found.of
        ],
    )


def _against(own: str, accounts: Iterable[str], books: Books) -> str:
    others = dict.fromkeys(code for code in accounts if code != own)
    names = [books.accounts[code].name for code in others]
    return names[0] if len(names) == 1 else ", ".join(names[:3]) + (" ..." if names[3:] else "")


@bp.get("/clients/<client>/aged/<which>")
@answers(AgedAnswer, "worksheet")
def aged(client: str, which: str, query: AtDay) -> AgedAnswer:
    """What is open at the end of a day, by party and age, and the control account beside it."""
    if which not in (AccountRole.RECEIVABLES, AccountRole.PAYABLES):
        raise UnknownName("aged list", which)
    role = AccountRole(which)
    books, parties = service.client_aged(workplace(), person(), client, role, query.at)
    return aged_answer(parties, service.proof_of_control(books, role, query.at), books, query.at)
