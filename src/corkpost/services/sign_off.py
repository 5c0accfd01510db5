"""Sign-off: what it needs, signing and sealing, what broke a seal, reopening."""

from collections import Counter
from collections.abc import Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books, Transaction
from corkpost.core.checklists import StatedItem, Tick, item_named, stated_items
from corkpost.core.formatting import format_date
from corkpost.core.kinds import Role
from corkpost.core.new_year import needs_of_new_year
from corkpost.core.periods import ONE_DAY
from corkpost.core.points import PointState
from corkpost.core.refusals import (
    BadEntry,
    ChangedMeanwhile,
    NoReason,
    NotAllowed,
    NotReady,
    UnknownName,
)
from corkpost.core.reopenings import open_until
from corkpost.core.seal import (
    Condition,
    conditions,
    lies_by,
    refuse_signer,
    sealed_balances,
)
from corkpost.core.seal_forms import NEWEST, Differing, canonical, differing, digest_of_form
from corkpost.core.states import Decision
from corkpost.core.trial_balance import TrialBalance, digest_of, profit_of
from corkpost.core.unadjusted import Schedule, unadjusted
from corkpost.services import tries
from corkpost.services.review import preparers_of, stated_points
from corkpost.services.rights import May, Person
from corkpost.services.staff import password_fits
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import sign_off as seal_store
from corkpost.store.changes import last_change
from corkpost.store.clients import raise_revision
from corkpost.store.practice import practice_of
from corkpost.store.remarks import remarks_of
from corkpost.store.sign_off import SealRow


class SealMoved(NamedTuple):
    """An account that no longer is what was signed, debit positive."""

    account: str
    signed: int
    now: int


class SealState(NamedTuple):
    """*moved*: for a broken seal, the accounts that differ; empty where only entries do. *rows*: the
    entries, allocations and agreements that differ; none for a seal that kept no form."""

    seal: SealRow
    broken: bool
    moved: tuple[SealMoved, ...] = ()
    rows: tuple[Differing, ...] = ()


class Readiness(NamedTuple):
    """What a sign-off as at a date needs. *may_not*: why this person may not sign it, if so."""

    as_at: date
    conditions: tuple[Condition, ...]
    may_not: str | None

    @property
    def ready(self) -> bool:
        return all(condition.met for condition in self.conditions)


def seal_states(workplace: Workplace, ledger: ClientState) -> tuple[SealState, ...]:
    """Every seal of the client, the latest first, and whether the books still fit it."""
    return tuple(_seal_state(workplace, ledger, seal) for seal in reversed(ledger.seals))


def _seal_state(workplace: Workplace, ledger: ClientState, seal: SealRow) -> SealState:
    if seal.number not in ledger.broken_seals:
        return SealState(seal, broken=False)
    signed = seal_store.form_of_seal(workplace.database.reading, ledger.client.id, seal.number)
    comparable = signed is not None and seal.form == NEWEST
    rows = differing(signed or "", canonical(ledger.books, seal.as_at)) if comparable else ()
    return SealState(seal, True, _moved(ledger, seal), rows)


def sealed_form(workplace: Workplace, person: Person, client_code: str, as_at: date) -> str:
    """The text that a seal as at the end of that day would be the digest of (docs/seal.md)."""
    return canonical(workplace.ledger(person, client_code).books, as_at)


def _moved(ledger: ClientState, seal: SealRow) -> tuple[SealMoved, ...]:
    now = _balances(ledger, seal.as_at)
    codes = sorted(now.keys() | seal.balances)
    rows = (SealMoved(code, seal.balances.get(code, 0), now.get(code, 0)) for code in codes)
    return tuple(row for row in rows if row.signed != row.now)


def _balances(ledger: ClientState, as_at: date) -> dict[str, int]:
    return {row.account: row.balance for row in sealed_balances(ledger.books, as_at).rows}


def readiness(workplace: Workplace, person: Person, client_code: str, as_at: date) -> Readiness:
    """What the sign-off as at *as_at* needs, where each stands, and whether this person may."""
    ledger = workplace.ledger(person, client_code)
    preparers = preparers_of(workplace)
    decided = [stated.decided(preparers) for stated in stated_points(ledger)]
    broken = [seal.as_at for seal in ledger.seals if seal.number in ledger.broken_seals]
    may_not = None
    try:
        _refuse(workplace, person, ledger, as_at)
    except NotAllowed as refused:
        may_not = str(refused)
    connection = workplace.database.reading
    found = conditions(
        ledger.books,
        decided,
        as_at,
        broken=broken,
        ticks=seal_store.ticks_of(connection, ledger.client.id),
        remarks=remarks_of(connection, ledger.client.id),
    )
    return Readiness(as_at, found, may_not)


def checklist(
    workplace: Workplace, person: Person, client_code: str, as_at: date
) -> tuple[StatedItem, ...]:
    """What there is to see to before the sign-off as at that day, and who did."""
    ledger = workplace.ledger(person, client_code)
    ticks = seal_store.ticks_of(workplace.database.reading, ledger.client.id)
    return stated_items(ledger.books, as_at, ticks)


def tick(
    workplace: Workplace, person: Person, client_code: str, as_at: date, item: str, *, done: bool
) -> None:
    """Say that something on the checklist was seen to, or take that back. Raises UnknownName."""
    person.must_be_allowed(May.DECIDE)
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        found = item_named(ledger.books, as_at, item)
        sealed = ledger.books.calendar.sealed_through
        if sealed and as_at <= sealed:
            raise NotAllowed(
                f"It is signed off through {format_date(sealed)}: what was seen to for it stays as it was."
            )
        made = Tick(found.id, as_at, done, person.code, workplace.now)
        seal_store.add_tick(connection, ledger.client.id, made)
        raise_revision(connection, ledger.client.id)


class Waived(NamedTuple):
    """The schedule of unadjusted differences, and for each point what was decided about it."""

    schedule: Schedule
    decisions: Mapping[str, Decision]
    books: Books


def waived(workplace: Workplace, person: Person, client_code: str, as_at: date) -> Waived:
    """What was waived of what lies by *as_at*, and what it would have moved."""
    ledger = workplace.ledger(person, client_code)
    points = [
        stated.point
        for stated in stated_points(ledger)
        if stated.state is PointState.WAIVED and lies_by(ledger.books, stated.point, as_at)
    ]
    return Waived(unadjusted(ledger.books, points, as_at), ledger.decisions, ledger.books)


class About(NamedTuple):
    """What a sign-off as at a date is about. *changes*: how many of ours are in its year by then.

    *coming*: our entries after the date, which the next span begins with. *new_year*: what the next year
    begins with, and what it still wants; none where the date ends no year.
    """

    ledger: ClientState
    balance: TrialBalance
    profit: int
    changes: int
    preparer: str | None
    sealed: bool
    coming: tuple[Transaction, ...]
    new_year: tuple[Condition, ...]


def about(workplace: Workplace, person: Person, client_code: str, as_at: date) -> About:
    """What would be signed as at that day."""
    ledger = workplace.ledger(person, client_code)
    books = ledger.books
    balance = sealed_balances(books, as_at)
    ours = [posted for posted in books.tables.transactions if posted.change is not None]
    year = books.calendar.year_of(as_at)
    inside = {p.change for p in ours if year.first_day <= p.posting_date <= as_at}
    coming = (p for p in ours if p.posting_date > as_at and p.id not in books.never_was)
    sealed = books.calendar.sealed_through
    return About(
        ledger=ledger,
        balance=balance,
        profit=profit_of({row.account: row.balance for row in balance.rows}, books),
        changes=len(inside - books.undone),
        preparer=_preparer(ledger, as_at),
        sealed=bool(sealed and as_at <= sealed),
        coming=tuple(sorted(coming, key=lambda p: (p.posting_date, p.id))),
        new_year=needs_of_new_year(books, as_at),
    )


def _second_person(workplace: Workplace) -> bool:
    practice = practice_of(workplace.database.reading)
    return practice.second_person if practice else True


def _refuse(workplace: Workplace, person: Person, ledger: ClientState, as_at: date) -> None:
    if not person.may(May.SIGN):
        refuse_signer(ledger.books, person.code, Role.PREPARER, as_at, second_person=True)
    second = _second_person(workplace)
    refuse_signer(ledger.books, person.code, person.role, as_at, second_person=second)


def sign_off(
    workplace: Workplace,
    person: Person,
    client_code: str,
    as_at: date,
    password: str,
    *,
    override_reason: str | None = None,
    shown: str | None = None,
) -> SealRow:
    """Sign the trial balance as at the end of a period, and seal all that is dated by then. *shown*: the
    digest of the trial balance that was seen.

    Raises ChangedMeanwhile where it is another by now, NotAllowed (preparers, who posted in it, a wrong
    password), BadEntry where *as_at* ends no period or is sealed already, NotReady unless a partner
    overrides with a reason that prints.
    """
    ledger = workplace.ledger(person, client_code)
    _refuse(workplace, person, ledger, as_at)
    if override_reason is not None and person.role is not Role.PARTNER:
        raise NotAllowed("Only a partner may sign over what is missing. Ask a partner to sign.")
    tries.count(workplace, tries.account(person.code))
    if not password_fits(workplace, person.code, password):
        raise NotAllowed("That password is not yours. Nothing was signed. Type it again.")
    tries.forget(workplace, tries.account(person.code))
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        # What the signer posted at the same moment counts too: it is looked for again in here.
        _refuse(workplace, person, ledger, as_at)
        _refuse_date(ledger, as_at)
        if shown is not None and shown != digest_of(sealed_balances(ledger.books, as_at)):
            raise ChangedMeanwhile(
                "The trial balance is not the one that you were shown: somebody posted meanwhile. "
                "Nothing was signed. Look at it again, then sign."
            )
        _refuse_unready(workplace, person, client_code, as_at, override_reason)
        content = canonical(ledger.books, as_at)
        seal = seal_store.NewSeal(
            as_at=as_at,
            digest=digest_of_form(content),
            balances=_balances(ledger, as_at),
            head=last_change(connection, ledger.client.id)[1],
            prepared_by=_preparer(ledger, as_at),
            override_reason=override_reason,
            second_person=_second_person(workplace),
            signed_by=person.code,
            signed_at=workplace.now,
            form=NEWEST,
            content=content,
        )
        seal_store.add_seal(connection, ledger.client.id, seal)
        raise_revision(connection, ledger.client.id)
    return workplace.ledger(person, client_code).seals[-1]


def _refuse_date(ledger: ClientState, as_at: date) -> None:
    period = ledger.books.calendar.period_of(as_at)
    if period.last_day != as_at:
        raise BadEntry(
            [
                f"{format_date(as_at)} ends no period. Sign as at "
                f"{format_date(period.last_day)}, its last day."
            ]
        )
    sealed = ledger.books.calendar.sealed_through
    if sealed and as_at <= sealed:
        raise BadEntry(
            [
                f"The trial balance is signed off through {format_date(sealed)} already. Reopen it first."
            ]
        )


def _refuse_unready(
    workplace: Workplace, person: Person, client_code: str, as_at: date, override_reason: str | None
) -> None:
    missing = [
        c.says for c in readiness(workplace, person, client_code, as_at).conditions if not c.met
    ]
    if not missing:
        return
    if override_reason is None:
        raise NotReady(missing)
    if not override_reason.strip():
        raise NoReason()


def _preparer(ledger: ClientState, as_at: date) -> str | None:
    """Who posted most of what is in the trial balance."""
    numbers = {t.change for t in ledger.books.tables.transactions if t.posting_date <= as_at}
    posted = Counter(change.by for change in ledger.books.changes if change.number in numbers)
    return posted.most_common(1)[0][0] if posted else None


def reopen(
    workplace: Workplace,
    person: Person,
    client_code: str,
    first_day: date,
    reason: str,
    until: date | None = None,
) -> tuple[SealRow, ...]:
    """Reopen every seal that covers *first_day* or later; those reopened. A reason is needed. It ends by
    itself after *until*, two weeks from today unless said: then the seals stand again."""
    person.must_be_allowed(May.REOPEN)
    last = open_until(workplace.today, until)
    if not reason.strip():
        raise NoReason()
    with workplace.database.writing() as connection:
        ledger = workplace.ledger(person, client_code)
        seals = tuple(seal for seal in ledger.seals if seal.stands and seal.as_at >= first_day)
        if not seals:
            raise UnknownName("sign-off that covers", format_date(first_day))
        filed = ledger.books.client.filed_through
        if filed and first_day <= filed:
            raise NotAllowed(
                f"The year is filed through {format_date(filed)}: what went to the authorities stays as it "
                f"is. Reopen from {format_date(filed + ONE_DAY)} on."
            )
        for seal in seals:
            seal_store.add_reopening(
                connection,
                ledger.client.id,
                seal.number,
                reason=reason.strip(),
                until=last,
                made_by=person.code,
                made_at=workplace.now,
            )
        raise_revision(connection, ledger.client.id)
    return seals
