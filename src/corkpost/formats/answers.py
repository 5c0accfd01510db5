"""What the API and the command line answer with: one shape for both.

Amounts are decimal strings in the client's currency, debit positive, but for profit, where a profit
is positive; days are ISO.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import date as Day
from typing import Any

from corkpost.core.amendments import Amending, ChartAmending
from corkpost.core.arrangements import arranged, arrangement_named, arrangements_of
from corkpost.core.bank.sides import account_of_line, statement_line
from corkpost.core.books import (
    AccountAmendment,
    AgreementRow,
    Allocation,
    Amendment,
    Books,
    Party,
    PartyAmendment,
    Transaction,
)
from corkpost.core.change import PartyAmending
from corkpost.core.control_proof import ControlProof
from corkpost.core.effect import BalanceChange, Effect, Figures
from corkpost.core.foreign import currency_of_account
from corkpost.core.kinds import PROFIT_AND_LOSS, AccountType
from corkpost.core.lateness import late_because
from corkpost.core.money import Currency, Minor
from corkpost.core.open_items import AgedParty
from corkpost.core.points import Point, PointState
from corkpost.core.routes import options_for
from corkpost.core.statements import StatementLine
from corkpost.core.t_pair import TAccount, TLine
from corkpost.core.trial_balance import BROUGHT_FORWARD, BROUGHT_FORWARD_NAME, TrialBalance
from corkpost.core.worksheet import Figures as WorksheetFigures
from corkpost.core.worksheet import Worksheet, WorksheetRow
from corkpost.formats.shape import Shape


class BeforeAfter(Shape):
    before: str
    after: str
    change: str


class AccountMoved(Shape):
    account: str
    name: str
    before: str
    after: str
    change: str


class PartyMoved(Shape):
    party: str
    name: str
    before: str
    after: str
    change: str


class EffectAnswer(Shape):
    """*profit*: a profit positive. *tax* positive is to reclaim. *bank_difference*: of the latest
    statements, where there are any."""

    as_at: Day
    accounts: list[AccountMoved]
    profit: BeforeAfter
    tax: BeforeAfter
    receivables: BeforeAfter
    payables: BeforeAfter
    owners: BeforeAfter
    money: BeforeAfter
    turned_over: BeforeAfter
    parties: list[PartyMoved]
    bank: list[AccountMoved]
    bank_difference: BeforeAfter | None


class FiguresAnswer(Shape):
    profit: str
    tax: str
    receivables: str
    payables: str
    owners: str
    money: str
    turned_over: str
    out_by: str
    bank_difference: str | None


class LineAnswer(Shape):
    account: str
    name: str
    party: str | None
    party_name: str | None
    debit: str | None
    credit: str | None
    tax_code: str | None
    description: str | None
    dimensions: str | None
    tax_date: Day | None


class EntryAnswer(Shape):
    """A transaction, whoever brought it. *change*: the change that did; none for what was received.
    *late*: why it is marked as late."""

    id: str
    kind: str
    entry_kind: str | None
    date: Day
    document_date: Day | None
    due_date: Day | None
    entered_at: str | None
    entered_by: str | None
    reference: str | None
    party: str | None
    party_name: str | None
    memo: str | None
    reason: str | None
    corrects: str | None
    reverses: str | None
    change: int | None
    late: str | None
    total: str
    lines: list[LineAnswer]


class AllocationAnswer(Shape):
    id: str
    date: Day
    party: str
    debit_transaction: str
    credit_transaction: str
    amount: str
    undoes: str | None


class AmendingAnswer(Shape):
    """Words of a transaction that are put right. *field*: `reference` or `memo`, its text."""

    transaction: str
    field: str
    before: str | None
    after: str | None


class ChartAmendingAnswer(Shape):
    """A field of an account that is put right; before and after alike where it is confirmed."""

    account: str
    field: str
    before: str | None
    after: str | None


class MergeAnswer(Shape):
    """A party that is to be read as another, or (none *after*) no longer."""

    party: str
    name: str
    before: str | None
    after: str | None
    read_as: str | None


class ChangeAnswer(Shape):
    """*chart*: what it puts right in the chart of accounts. *agreed*, *taken_apart*: how many
    agreements with a statement it makes and takes apart. *parties*: the codes of those it adds."""

    change: int
    entries: list[EntryAnswer]
    allocations: list[AllocationAnswer]
    amendments: list[AmendingAnswer]
    chart: list[ChartAmendingAnswer]
    merges: list[MergeAnswer]
    agreed: int
    taken_apart: int
    parties: list[str]


class StatementLineAnswer(Shape):
    """*ref*: under which it is agreed. *id*: the bank's, where it has one; *path* and *number*: its
    file and place in it. *amount*: money in positive."""

    ref: str
    account: str
    date: Day
    amount: str
    text: str
    reference: str | None
    id: str | None
    path: str
    number: int


class PointAnswer(Shape):
    """A review point. `transactions` begin with those that it is about."""

    id: str
    check: str
    certainty: float
    amount: str
    transactions: list[str]
    statement_lines: list[StatementLineAnswer]
    accounts: list[str]
    parties: list[str]
    summary: str
    state: str
    routes: list[str]


class TLineAnswer(Shape):
    transaction: str
    debit: str | None
    credit: str | None


class TAccountAnswer(Shape):
    """*on*: the date, where an entry answers nothing; *before*: the balance before it, else nil."""

    account: str
    name: str
    party: str | None
    on: Day | None
    before: str | None
    booked: list[TLineAnswer]
    coming: list[TLineAnswer]
    balance_booked: str
    balance_after: str


class TrialBalanceRowAnswer(Shape):
    account: str
    name: str
    type: str
    balance: str


class TrialBalanceAnswer(Shape):
    client: str
    at: Day
    rows: list[TrialBalanceRowAnswer]
    debits: str
    credits: str


class WorksheetFiguresAnswer(Shape):
    last_year: str
    as_received: str
    corrections: str
    adjusting: str
    reclassifications: str
    closing: str
    budget: str
    adjusted: str
    change_percent: int | None


class DimensionValue(Shape):
    """*value*: as it is asked for, `site=QUAY`."""

    value: str
    name: str


class WorksheetRowAnswer(WorksheetFiguresAnswer):
    account: str
    name: str
    type: str
    profit_and_loss: str | None
    balance_sheet: str | None


class WorksheetGroupAnswer(WorksheetFiguresAnswer):
    """Accounts under a heading of their own, for another reader."""

    title: str
    accounts: list[str]


class WorksheetAnswer(Shape):
    """*compared*: where last year's figures come from. *totals* are nil where the books balance.

    *groups*: the rows under the headings of an arrangement, where one was asked for; *arrangements*: those
    that there are. *dimensions*: what it can be narrowed to. *has_budget*: whether that column is used.
    *is_narrowed*: it is of one dimension, and need not balance.
    """

    client: str
    year: str
    first: Day
    as_at: Day
    compared: str
    compared_from: Day
    compared_at: Day
    entries: dict[str, int]
    rows: list[WorksheetRowAnswer]
    sections: dict[str, WorksheetFiguresAnswer]
    totals: WorksheetFiguresAnswer
    groups: list[WorksheetGroupAnswer]
    arrangements: list[str]
    dimensions: list[DimensionValue]
    has_budget: bool
    is_narrowed: bool


class AgedItemAnswer(Shape):
    transaction: str
    date: Day
    due: Day
    open: str
    days_past_due: int
    reference: str | None


class AgedPartyAnswer(Shape):
    party: str | None
    name: str
    total: str
    buckets: dict[str, str]
    items: list[AgedItemAnswer]


class CauseAnswer(Shape):
    """*amount*: of the difference; none where it moves no figure of this list."""

    says: str
    amount: str | None
    transactions: list[str]


class ControlAnswer(Shape):
    """The control account, what parties hold, what lies between them and why."""

    control: str
    held: str
    difference: str
    causes: list[CauseAnswer]


class AgedAnswer(Shape):
    """*total*: of all that is listed. *proof*: the control account against what parties hold of it."""

    client: str
    at: Day
    total: str
    control: str
    proof: ControlAnswer
    parties: list[AgedPartyAnswer]


def effect_answer(effect: Effect, books: Books) -> EffectAnswer:
    currency = books.client.currency

    def pair(name: str) -> BeforeAfter:
        before, after = getattr(effect.before, name), getattr(effect.after, name)
        return _pair(currency, before, after)

    return EffectAnswer(
        as_at=effect.as_at,
        accounts=_accounts(effect.accounts, books),
        profit=pair("profit"),
        tax=pair("tax"),
        receivables=pair("receivables"),
        payables=pair("payables"),
        owners=pair("owners"),
        money=pair("bank"),
        turned_over=pair("turned_over"),
        parties=[
            PartyMoved(party=row.code, name=books.party_name(row.code), **_moved(currency, row))
            for row in effect.parties
        ],
        bank=_accounts(effect.banks, books),
        bank_difference=(
            _pair(currency, *effect.bank_difference) if effect.bank_difference else None
        ),
    )


def _pair(currency: Currency, before: Minor, after: Minor) -> BeforeAfter:
    return BeforeAfter(
        before=currency.format(before),
        after=currency.format(after),
        change=currency.format(after - before),
    )


def _moved(currency: Currency, row: BalanceChange) -> dict[str, str]:
    return _pair(currency, row.before, row.after).model_dump()


def _accounts(rows: Iterable[BalanceChange], books: Books) -> list[AccountMoved]:
    return [
        AccountMoved(
            account=row.code,
            name=account_name(books, row.code),
            **_moved(books.client.currency, row),
        )
        for row in rows
    ]


def account_name(books: Books, code: str) -> str:
    return BROUGHT_FORWARD_NAME if code == BROUGHT_FORWARD else books.accounts[code].name


def figures_answer(
    figures: Figures, bank_difference: Minor | None, currency: Currency
) -> FiguresAnswer:
    return FiguresAnswer(
        profit=currency.format(figures.profit),
        tax=currency.format(figures.tax),
        receivables=currency.format(figures.receivables),
        payables=currency.format(figures.payables),
        owners=currency.format(figures.owners),
        money=currency.format(figures.bank),
        turned_over=currency.format(figures.turned_over),
        out_by=currency.format(figures.out_by),
        bank_difference=None if bank_difference is None else currency.format(bank_difference),
    )


def entry_answer(posted: Transaction, books: Books) -> EntryAnswer:
    currency = books.client.currency
    return EntryAnswer(
        id=posted.id,
        kind=posted.kind,
        entry_kind=posted.entry_kind,
        date=posted.posting_date,
        document_date=posted.document_date,
        due_date=posted.due_date,
        entered_at=posted.entered_at.isoformat() if posted.entered_at else None,
        entered_by=posted.entered_by,
        reference=posted.reference,
        party=posted.party,
        party_name=books.party_name(posted.party) if posted.party else None,
        memo=posted.memo,
        reason=posted.reason,
        corrects=posted.corrects,
        reverses=posted.reverses,
        change=posted.change,
        late=late_because(books, posted),
        total=currency.format(posted.total),
        lines=[
            LineAnswer(
                account=line.account,
                name=account_name(books, line.account),
                party=line.party,
                party_name=books.party_name(line.party) if line.party else None,
                **_sides(currency, line.amount),
                tax_code=line.tax_code,
                description=line.description,
                dimensions=line.dimensions,
                tax_date=line.tax_date,
            )
            for line in posted.lines
        ],
    )


def _sides(currency: Currency, amount: Minor) -> dict[str, str | None]:
    return {
        "debit": currency.format(amount) if amount > 0 else None,
        "credit": currency.format(-amount) if amount < 0 else None,
    }


def allocation_answer(row: Allocation, books: Books) -> AllocationAnswer:
    return AllocationAnswer(
        id=row.id,
        date=row.date,
        party=row.party,
        debit_transaction=row.debit_transaction,
        credit_transaction=row.credit_transaction,
        amount=books.client.currency.format(row.amount),
        undoes=row.undoes,
    )


def amending_answer(row: Amending | Amendment) -> AmendingAnswer:
    return AmendingAnswer(
        transaction=row.transaction, field=row.field, before=row.before, after=row.after
    )


def change_answer(
    number: int,
    entries: Iterable[Transaction],
    allocations: Iterable[Allocation],
    rows: Mapping[str, Sequence[Any]],
    books: Books,
    *,
    parties: Iterable[Party] = (),
) -> ChangeAnswer:
    """*rows*: those of every other kind, by its name."""
    agreements: Sequence[AgreementRow] = rows.get("agreements", ())
    return ChangeAnswer(
        change=number,
        entries=[entry_answer(entry, books) for entry in entries],
        allocations=[allocation_answer(row, books) for row in allocations],
        amendments=[amending_answer(row) for row in rows.get("amendments", ())],
        chart=[chart_amending_answer(row) for row in rows.get("account_amendments", ())],
        merges=[merge_answer(row, books) for row in rows.get("party_amendments", ())],
        agreed=len({row.group for row in agreements if not row.takes_apart}),
        taken_apart=sum(row.takes_apart for row in agreements),
        parties=[party.code for party in parties],
    )


def chart_amending_answer(row: AccountAmendment | ChartAmending) -> ChartAmendingAnswer:
    return ChartAmendingAnswer(
        account=row.account, field=row.field, before=row.before, after=row.after
    )


def merge_answer(row: PartyAmendment | PartyAmending, books: Books) -> MergeAnswer:
    return MergeAnswer(
        party=row.party,
        name=books.party_name(row.party),
        before=row.before,
        after=row.after,
        read_as=books.party_name(row.after) if row.after else None,
    )


def statement_line_answer(line: StatementLine, books: Books) -> StatementLineAnswer:
    account = account_of_line(books, line)
    return StatementLineAnswer(
        ref=line.id,
        account=account,
        date=line.day,
        amount=currency_of_account(books, account).format(line.amount),
        text=line.words,
        reference=line.reference,
        id=line.bank_id,
        path=line.id.rpartition("#")[0],
        number=line.number,
    )


def _offered(point: Point, state: str, books: Books) -> list[str]:
    """The routes that there are for it just now; none for what is put right."""
    if state == PointState.CORRECTED:
        return []
    return list(dict.fromkeys(option.route for option in options_for(books, point)))


def point_answer(point: Point, state: str, books: Books) -> PointAnswer:
    return PointAnswer(
        id=point.id,
        check=point.check,
        certainty=point.certainty,
        amount=books.client.currency.format(point.amount),
        transactions=list(point.transactions),
        statement_lines=[
            statement_line_answer(statement_line(books, name), books)
            for name in point.statement_lines
        ],
        accounts=list(point.accounts),
        parties=list(point.parties),
        summary=point.summary,
        state=state,
        routes=_offered(point, state, books),
    )


def t_account_answer(account: TAccount, books: Books) -> TAccountAnswer:
    currency = books.client.currency

    def lines(of: Iterable[TLine]) -> list[TLineAnswer]:
        return [
            TLineAnswer(transaction=line.transaction, **_sides(currency, line.amount))
            for line in of
        ]

    return TAccountAnswer(
        account=account.account,
        name=account_name(books, account.account),
        party=books.party_name(account.party) if account.party else None,
        on=account.on,
        before=currency.format(account.before) if account.on else None,
        booked=lines(account.booked),
        coming=lines(account.coming),
        balance_booked=currency.format(account.balance_booked),
        balance_after=currency.format(account.balance_after),
    )


def trial_balance_answer(found: TrialBalance, books: Books) -> TrialBalanceAnswer:
    currency = books.client.currency
    return TrialBalanceAnswer(
        client=books.client.code,
        at=found.as_at,
        rows=[
            TrialBalanceRowAnswer(
                account=row.account,
                name=row.name,
                type=row.type,
                balance=currency.format(row.balance),
            )
            for row in found.rows
        ],
        debits=currency.format(found.debits),
        credits=currency.format(found.credits),
    )


def worksheet_answer(found: Worksheet, books: Books, grouped: str | None = None) -> WorksheetAnswer:
    """*grouped*: the name of an arrangement. Raises UnknownName."""
    currency = books.client.currency

    def row_answer(row: WorksheetRow) -> WorksheetRowAnswer:
        adjusted = currency.format(row.figures.adjusted)
        in_profit = row.type in PROFIT_AND_LOSS
        return WorksheetRowAnswer(
            account=row.account,
            name=row.name,
            type=row.type,
            profit_and_loss=adjusted if in_profit else None,
            balance_sheet=None if in_profit else adjusted,
            **_worksheet_figures(row.figures, currency).model_dump(),
        )

    sections = {kind.value: found.section(kind) for kind in AccountType}
    sections["profit"] = found.section(*PROFIT_AND_LOSS)
    return WorksheetAnswer(
        client=books.client.code,
        year=found.year.label,
        first=found.first,
        as_at=found.as_at,
        compared=found.compared,
        compared_from=found.compared_from,
        compared_at=found.compared_at,
        entries={column.value: count for column, count in found.entries.items()},
        rows=[row_answer(row) for row in found.rows],
        sections={name: _worksheet_figures(total, currency) for name, total in sections.items()},
        totals=_worksheet_figures(found.total, currency),
        groups=list(_groups(found, books, grouped)) if grouped else [],
        arrangements=[row.name for row in arrangements_of(books)],
        dimensions=[
            DimensionValue(value=f"{row.dimension}={row.code}", name=row.name)
            for row in books.tables.dimensions
        ],
        has_budget=any(row.figures.budget for row in found.rows),
        is_narrowed=found.is_narrowed,
    )


def _groups(found: Worksheet, books: Books, name: str) -> Iterator[WorksheetGroupAnswer]:
    figures = {row.account: row.figures for row in found.rows}
    for title, codes in arranged(books, arrangement_named(books, name), figures):
        total = WorksheetFigures()
        for code in codes:
            total = total.plus(figures[code])
        own = _worksheet_figures(total, books.client.currency)
        yield WorksheetGroupAnswer(title=title, accounts=codes, **own.model_dump())


def _worksheet_figures(figures: WorksheetFigures, currency: Currency) -> WorksheetFiguresAnswer:
    names = (*WorksheetFigures._fields, "adjusted")
    return WorksheetFiguresAnswer(
        **{name: currency.format(getattr(figures, name)) for name in names},
        change_percent=figures.change_percent,
    )


def control_answer(proof: ControlProof, books: Books, sign: int = 1) -> ControlAnswer:
    """*sign*: -1 where what is owed by us shall be positive."""
    money = books.client.currency.format
    return ControlAnswer(
        control=money(sign * proof.control),
        held=money(sign * proof.held),
        difference=money(sign * proof.difference),
        causes=[
            CauseAnswer(
                says=cause.says,
                amount=None if cause.amount is None else money(sign * cause.amount),
                transactions=list(cause.transactions),
            )
            for cause in proof.causes
        ],
    )


def aged_answer(
    parties: Iterable[AgedParty], proof: ControlProof, books: Books, as_at: Day
) -> AgedAnswer:
    currency = books.client.currency
    parties = list(parties)
    return AgedAnswer(
        client=books.client.code,
        at=as_at,
        total=currency.format(sum(party.total for party in parties)),
        control=currency.format(proof.control),
        proof=control_answer(proof, books),
        parties=[
            AgedPartyAnswer(
                party=party.party,
                name=books.party_name(party.party),
                total=currency.format(party.total),
                buckets={name: currency.format(sum_) for name, sum_ in party.buckets.items()},
                items=[
                    AgedItemAnswer(
                        transaction=item.transaction,
                        date=item.posting_date,
                        due=item.due_date,
                        open=currency.format(item.open),
                        days_past_due=item.days_past_due,
                        reference=item.reference,
                    )
                    for item in party.items
                ],
            )
            for party in parties
        ],
    )
