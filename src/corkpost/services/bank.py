"""The bank: the state of a reconciliation, finishing it and opening it again."""

import json
from datetime import date
from typing import NamedTuple

from corkpost.core.bank.agreeing_sure import statement_named
from corkpost.core.bank.reconciling import Reconciliation
from corkpost.core.bank.sides import (
    bank_accounts,
    bank_sides,
)
from corkpost.core.books import Account, Books
from corkpost.core.foreign import about_account, currency_of_account
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, PeriodState
from corkpost.core.matching.bank_lines import Proposal
from corkpost.core.matching.bank_look import BankLook, bank_look
from corkpost.core.money import Currency
from corkpost.core.points import Level
from corkpost.core.refusals import NoReason, NothingToDo, Refusal
from corkpost.core.statements import Statement
from corkpost.core.states import StatedPoint
from corkpost.services.review import stated_points
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import statements as statement_store
from corkpost.store.clients import raise_revision
from corkpost.store.statements import FinishedRow, finished_of


class NotToFinish(Refusal):
    title = "This reconciliation can't be finished"


class StatementState(NamedTuple):
    """A statement in the list. *unagreed*: its lines that are not agreed."""

    statement: Statement
    unagreed: int
    finished: FinishedRow | None


class AccountState(NamedTuple):
    """A bank account with its statements, oldest first. *note*: what one in another currency counts."""

    account: Account
    statements: tuple[StatementState, ...]
    currency: Currency
    note: str | None = None


class BankState(NamedTuple):
    """One statement of an account: its sum, what matches, and the review points about it.

    *points*: by statement line and by transaction. *finished*: all its finishings, oldest first.
    """

    ledger: ClientState
    look: BankLook
    points: dict[str, StatedPoint]
    finished: tuple[FinishedRow, ...]
    earlier: Statement | None

    @property
    def standing(self) -> FinishedRow | None:
        return next((row for row in self.finished if row.stands), None)

    @property
    def hindrances(self) -> tuple[str, ...]:
        """Why it can't be finished now; none when it can."""
        return tuple(self.look.state.hindrances)


def accounts(workplace: Workplace, person: Person, client_code: str) -> tuple[AccountState, ...]:
    """The client's bank accounts, those with statements first."""
    ledger = workplace.ledger(person, client_code)
    books = ledger.books
    with workplace.database.snapshot() as connection:
        done = finished_of(connection, ledger.client.id)
    standing = {row.statement: row for row in done if row.stands}
    with_statements = bank_accounts(books)
    others = [a.code for a in books.with_role(AccountRole.BANK) if a.code not in with_statements]
    found = []
    for code in (*with_statements, *others):
        sides = bank_sides(books, code)
        found.append(
            AccountState(
                books.account(code),
                tuple(
                    StatementState(
                        statement,
                        sum(line.id not in sides.group_of_line for line in statement.lines),
                        standing.get(statement.number),
                    )
                    for statement in sides.statements
                ),
                currency_of_account(books, code),
                about_account(books, code),
            )
        )
    return tuple(found)


def unagreed(books: Books) -> int:
    """How many statement lines of the client are not agreed."""
    return sum(
        lines - agreed
        for code in bank_accounts(books)
        for lines, agreed in bank_sides(books, code).agreed_by_day.values()
    )


def agreed_in(books: Books, first: date, last: date) -> int | None:
    """How much of the statement lines of these days is agreed, in percent; None where there are none."""
    lines = agreed = 0
    for code in bank_accounts(books):
        for day, (of_day, agreed_then) in bank_sides(books, code).agreed_by_day.items():
            if first <= day <= last:
                lines += of_day
                agreed += agreed_then
    return agreed * 100 // lines if lines else None


def state(
    workplace: Workplace, person: Person, client_code: str, account: str, number: int | None = None
) -> BankState:
    """The state of a statement's reconciliation; of the first that is not finished unless said.

    Raises UnknownName where the account has no such statement.
    """
    ledger = workplace.ledger(person, client_code)
    with workplace.database.snapshot() as connection:
        done = finished_of(connection, ledger.client.id)
    sides = bank_sides(ledger.books, ledger.books.account(account).code)
    statement = statement_named(sides, number, {row.statement for row in done if row.stands})
    look = bank_look(ledger.books, sides, statement)
    points: dict[str, StatedPoint] = {}
    for stated in stated_points(ledger):
        if account in stated.point.accounts and stated.point.check.startswith("bank-"):
            for name in (*stated.point.statement_lines, *stated.point.transactions):
                points.setdefault(name, stated)
    place_of = sides.statements.index(statement)
    return BankState(
        ledger,
        look,
        points,
        tuple(row for row in done if row.statement == statement.number),
        sides.statements[place_of - 1] if place_of else None,
    )


def finish(
    workplace: Workplace,
    person: Person,
    client_code: str,
    account: str,
    number: int,
) -> None:
    """Finish the reconciliation of a statement and fix its list.

    Raises NotToFinish with what stands against it.
    """
    person.must_be_allowed(May.POST)
    with workplace.database.writing() as connection:
        found = state(workplace, person, client_code, account, number)
        if found.standing:
            raise NothingToDo("This reconciliation is finished already.")
        if found.hindrances:
            raise NotToFinish(" ".join(found.hindrances))
        statement_store.add_finished(
            connection,
            found.ledger.client.id,
            account=account,
            statement=number,
            content=json.dumps(fixed_list(found.look.state), ensure_ascii=False),
            made_by=person.code,
            made_at=workplace.now,
        )
        raise_revision(connection, found.ledger.client.id)


def fixed_list(state: Reconciliation) -> dict[str, object]:
    """What finishing fixes: the sum in minor units, the agreements, what is outstanding."""
    return {
        "ledger": state.ledger,
        "not_presented": state.not_presented,
        "not_credited": state.not_credited,
        "booked_later": state.booked_later,
        "closing": state.closing,
        "groups": sorted(group.id for group in state.groups),
        "outstanding": [
            [*entry.key, entry.day.isoformat(), entry.amount] for entry in state.outstanding
        ],
    }


def moved_since(found: BankState) -> bool:
    """Whether a finished reconciliation would now come to another list than the one it fixed."""
    standing = found.standing
    return standing is not None and json.loads(standing.content) != json.loads(
        json.dumps(fixed_list(found.look.state))
    )


def reopen(
    workplace: Workplace, person: Person, client_code: str, account: str, number: int, reason: str
) -> None:
    """Open the finished reconciliation of a statement again, with a reason that stays.

    Later finished ones of the account rest on it: those are reopened first.
    """
    person.must_be_allowed(May.POST)
    if not reason.strip():
        raise NoReason()
    with workplace.database.writing() as connection:
        found = state(workplace, person, client_code, account, number)
        if found.standing is None:
            raise NothingToDo("This reconciliation is not finished.")
        state_then = found.ledger.books.calendar.state_on(found.look.state.statement.last_day)
        if state_then is not PeriodState.OPEN:
            person.must_be_allowed(
                May.SET_PERIODS if state_then is PeriodState.HELD else May.REOPEN
            )
        order = found.look.state.statement.order
        later = [
            found.look.sides.statement_of[finished.statement]
            for finished in found.ledger.books.finished
            if finished.account == account
            and found.look.sides.statement_of[finished.statement].order > order
        ]
        if later:
            days = ", ".join(
                format_date(statement.last_day)
                for statement in sorted(later, key=lambda x: x.order)
            )
            raise NotToFinish(f"Later ones rest on it: reopen that to {days} first.")
        statement_store.add_reopening(
            connection,
            found.ledger.client.id,
            number=found.standing.number,
            reason=reason.strip(),
            made_by=person.code,
            made_at=workplace.now,
        )
        raise_revision(connection, found.ledger.client.id)


def sure_of(look: BankLook) -> tuple[Proposal, ...]:
    """The proposals that may be agreed at once."""
    return tuple(proposal for proposal in look.proposals if proposal.level is Level.SURE)
