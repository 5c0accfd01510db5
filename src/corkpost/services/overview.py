"""A client at a glance: its years and periods, what is left, the figures as at a day."""

from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.cash_basis import cash_balances_at
from corkpost.core.chart.guessing import guesses
from corkpost.core.control_proof import ControlProof, control_proof
from corkpost.core.dating import materiality
from corkpost.core.effect import Figures, figures_of
from corkpost.core.kinds import AccountRole, PeriodState
from corkpost.core.ledger import Ledger, account_ledger, party_ledger
from corkpost.core.open_items import AgedParty, aged
from corkpost.core.periods import FinancialYear, Period
from corkpost.core.queries import TO_DO
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.row_kinds import arrangements as arrangement_rows
from corkpost.core.row_kinds.arrangements import Arrangement
from corkpost.core.trial_balance import (
    Basis,
    Closing,
    Column,
    TrialBalance,
    balances_at,
    trial_balance,
    trial_balance_of,
)
from corkpost.core.worksheet import EntryColumn, SheetOf, Worksheet, worksheet
from corkpost.core.years import sign_off_day, year_named, year_under_review
from corkpost.services.bank import agreed_in, unagreed
from corkpost.services.review import open_by_period, stated_points
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store.approvals import proposals_of
from corkpost.store.clients import archived, client_named
from corkpost.store.registers import standing_everywhere
from corkpost.store.sign_off import SealRow


class PeriodOverview(NamedTuple):
    """A month of the year ribbon. *seal*: the standing seal that ends with it. *agreed*: how much of
    its statement lines, in percent; None where it has none. *open_points*: None while they are counted."""

    period: Period
    state: PeriodState
    filed: bool
    open_points: int | None
    agreed: int | None
    seal: SealRow | None


class Overview(NamedTuple):
    """*years* are those that the books touch, and the next. *as_at*: the day to sign off next.
    *guesses*: accounts whose role is guessed and not confirmed. *queries_to_do*: questions to be sent,
    and those that came back. *to_approve*: what was handed in and this person may approve."""

    books: Books
    revision: int
    year: FinancialYear
    years: tuple[FinancialYear, ...]
    periods: tuple[PeriodOverview, ...]
    as_at: date
    open_points: int | None
    unagreed_lines: int
    guesses: int
    queries_to_do: int
    to_approve: int
    broken_seals: frozenset[int]
    last_seal: SealRow | None
    is_archived: bool


def overview(
    workplace: Workplace, person: Person, client_code: str, year_label: str | None = None
) -> Overview:
    """The client in the year of that label, else in the one under review."""
    ledger = workplace.ledger(person, client_code)
    books = ledger.books
    year = (
        year_named(books, year_label) if year_label else year_under_review(books, workplace.today)
    )
    # Where points are kept up behind, nobody waits for a whole run to be told their number.
    waits = workplace.keeps_up and not ledger.knows_points
    counts = {} if waits else open_by_period(books, stated_points(ledger))
    standing = [seal for seal in ledger.seals if seal.stands]
    return Overview(
        books=books,
        revision=ledger.client.revision,
        year=year,
        years=_years(ledger),
        periods=tuple(
            _period(books, period, None if waits else counts.get(period.first_day, 0), standing)
            for period in books.calendar.periods(year)
        ),
        as_at=sign_off_day(books, year, workplace.today),
        open_points=None if waits else sum(counts.values()),
        unagreed_lines=unagreed(books),
        guesses=len(guesses(books)),
        queries_to_do=sum(query.state(workplace.today) in TO_DO for query in ledger.queries),
        to_approve=_to_approve(workplace, person, ledger),
        broken_seals=ledger.broken_seals,
        last_seal=max(standing, key=lambda seal: seal.as_at, default=None),
        is_archived=ledger.client.id in archived(workplace.database.reading),
    )


def _to_approve(workplace: Workplace, person: Person, ledger: ClientState) -> int:
    if not person.may(May.APPROVE):
        return 0
    every = proposals_of(workplace.database.reading, ledger.client.id)
    return sum(proposal.ending is None and proposal.made_by != person.code for proposal in every)


def _period(
    books: Books, period: Period, open_points: int | None, seals: list[SealRow]
) -> PeriodOverview:
    filed = books.client.filed_through
    return PeriodOverview(
        period=period,
        state=books.calendar.state_on(period.last_day),
        filed=bool(filed and period.last_day <= filed),
        open_points=open_points,
        agreed=agreed_in(books, period.first_day, period.last_day),
        seal=next((seal for seal in reversed(seals) if seal.as_at == period.last_day), None),
    )


def _years(ledger: ClientState) -> tuple[FinancialYear, ...]:
    calendar = ledger.books.calendar
    days = [posted.posting_date for posted in ledger.books.tables.transactions] or [ledger.today]
    year = calendar.year_of(min(days))
    last = calendar.next_year(calendar.year_of(max(*days, ledger.today)))
    found = [year]
    while year != last and len(found) < 30:
        year = calendar.next_year(year)
        found.append(year)
    return tuple(found)


def revision(workplace: Workplace, person: Person, client_code: str) -> int:
    """The client's revision, which whatever is posted or decided raises; asked without loading."""
    person.must_be_allowed(May.READ)
    person.must_see(client_code)
    client = client_named(workplace.database.reading, client_code)
    if client is None:
        raise UnknownName("client", client_code)
    return client.revision


def figures(workplace: Workplace, person: Person, client_code: str, as_at: date) -> Figures:
    """The figures of the effect strip at the end of *as_at*."""
    books = workplace.ledger(person, client_code).books
    # Before the year's closing entries: a year that is closed made a profit all the same.
    sums = balances_at(books, as_at, closing=Closing.OUT)
    return figures_of(sums, books)


def chart(workplace: Workplace, person: Person, client_code: str) -> Books:
    """The books, for their chart, parties, taxes and dimensions."""
    return workplace.ledger(person, client_code).books


def proof_of_control(books: Books, role: AccountRole, as_at: date) -> ControlProof:
    """The control accounts of *role* against what their parties hold at the end of *as_at*."""
    return control_proof(books, (account.code for account in books.with_role(role)), as_at)


def client_materiality(books: Books) -> int:
    """What was set for the client, or what the rule gives until then, in minor units."""
    return materiality(books)


def account_balances(books: Books, as_at: date) -> dict[str, int]:
    return balances_at(books, as_at)


def client_trial_balance(
    workplace: Workplace,
    person: Person,
    client_code: str,
    as_at: date,
    *,
    column: Column = Column.ADJUSTED,
    closing: Closing = Closing.IN,
    basis: Basis = Basis.ACCRUALS,
) -> TrialBalance:
    """The client's trial balance at the end of *as_at*. Raises BadEntry for one by settlement that is as
    received: what settles is not told apart."""
    books = workplace.ledger(person, client_code).books
    if basis is Basis.ACCRUALS:
        return trial_balance(books, as_at, column=column, closing=closing)
    if column is Column.AS_RECEIVED:
        raise BadEntry(["By settlement there is the adjusted trial balance alone."])
    return trial_balance_of(books, as_at, cash_balances_at(books, as_at, closing=closing))


def client_worksheet(
    workplace: Workplace,
    person: Person,
    client_code: str,
    label: str,
    as_at: date | None = None,
    against: str | None = None,
    *,
    first: date | None = None,
    closing: Closing = Closing.OUT,
    dimension: str | None = None,
) -> tuple[Books, Worksheet]:
    """The worksheet of the year of that label, as at its last day unless said. *against*: the label of the
    earlier year beside it, the last one unless said; the others as in `SheetOf`."""
    books = workplace.ledger(person, client_code).books
    year = year_named(books, label)
    earlier = year_named(books, against) if against else None
    of = SheetOf(earlier, first, closing, dimension)
    return books, worksheet(books, year, as_at or year.last_day, of)


def arrangements(
    workplace: Workplace, person: Person, client_code: str
) -> tuple[tuple[str, Arrangement], ...]:
    """The groupings of accounts of this client, then those of the person's other clients, each with the
    code of whose it is."""
    workplace.ledger(person, client_code)
    found = standing_everywhere(workplace.database.reading, arrangement_rows.KIND)
    seen = ((code, row) for code, row in found if person.sees(code))
    return tuple(sorted(seen, key=lambda pair: (pair[0] != client_code, *pair)))


def client_ledger(
    workplace: Workplace,
    person: Person,
    client_code: str,
    account: str,
    first: date,
    last: date,
    *,
    column: EntryColumn | None = None,
    closing: Closing = Closing.IN,
    alone: bool = False,
    dimension: str | None = None,
) -> tuple[Books, Ledger]:
    """One account's movements from *first* to *last*, both included: all, or those of a column of the
    worksheet; as `account_ledger`."""
    books = workplace.ledger(person, client_code).books
    return books, account_ledger(
        books,
        account,
        first,
        last,
        column=column,
        closing=closing,
        alone=alone,
        dimension=dimension,
    )


def client_party(
    workplace: Workplace, person: Person, client_code: str, party: str, first: date, last: date
) -> tuple[ClientState, Ledger]:
    """One party's history from *first* to *last*, both included, and the books that it is in."""
    ledger = workplace.ledger(person, client_code)
    return ledger, party_ledger(ledger.books, party, first, last)


def client_aged(
    workplace: Workplace, person: Person, client_code: str, role: AccountRole, as_at: date
) -> tuple[Books, tuple[AgedParty, ...]]:
    """The aged list of receivables or payables at the end of *as_at*."""
    books = workplace.ledger(person, client_code).books
    return books, aged(books, role, as_at)
