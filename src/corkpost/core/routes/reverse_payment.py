"""reverse-payment: a payment that was stopped or lost: the bills it paid are open again, or they stay
settled and the credit goes to an account of choice. A receipt that never came is taken back alike."""

from datetime import date

from corkpost.core.bank.sides import bank_sides
from corkpost.core.books import Allocation, Books, Line, Transaction, opposite
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import correction_date
from corkpost.core.kinds import MONEY_ROLES, AccountRole, EntryKind
from corkpost.core.open_items import open_items
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.routes import Option, Route, Settings
from corkpost.core.tax import with_tax_dates

ROUTE = Route(
    "reverse-payment",
    did="A payment that was stopped or never arrived is taken back.",
    means="What our entry shows as open again is owed again: pay it anew, with a new number.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """What it settled opens again; or stays settled, with the credit where the bill was coded."""
    posted = _entry_of(books, point)
    settled = open_items(books).standing_on(posted.id)
    again = "what it settles opens again" if settled else "its opposite is posted"
    found = [Option(ROUTE.id, {}, f"Reverse {posted.id}; {again}", _reason(posted))]
    account = _coded_to(books, posted) if settled else None
    if account:
        title = (
            f"Reverse {posted.id}; what it settles stays settled, "
            f"{books.accounts[account].name} is credited"
        )
        found.append(Option(ROUTE.id, {"account": account}, title, _reason(posted)))
    return tuple(found)


def _entry_of(books: Books, point: Point) -> Transaction:
    return books.transaction(point.named("entry")[0])


def _reason(posted: Transaction) -> str:
    return f"{posted.id} never reached the bank: it was lost or stopped."


def _coded_to(books: Books, posted: Transaction) -> str | None:
    """The account that the first settled paper was coded to."""
    for row in open_items(books).standing_on(posted.id):
        paper = (
            row.credit_transaction if row.debit_transaction == posted.id else row.debit_transaction
        )
        for line in books.transactions[paper].lines:
            if books.accounts[line.account].is_profit_and_loss:
                return line.account
    return None


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Reverse the point's entry: `account` keeps what it settled settled; `date`, when it was stopped.

    Raises NothingToDo, BadEntry, or UnknownName.
    """
    posted = _entry_of(books, point)
    if books.is_answered(posted.id):
        raise NothingToDo(f"{posted.id} was put right already.")
    on = correction_date(books, _day(books, posted, settings))
    code = settings.get("account")
    lines = _to_account(books, posted, code) if code else opposite(posted.lines)
    numbered = tuple(line._replace(number=number) for number, line in enumerate(lines, 1))
    entry = entry_of(new_entry(1), on, EntryKind.CORRECTING, posted)._replace(
        lines=with_tax_dates(books, numbered, on),
        memo=f"Reverses {posted.id}, which never reached the bank",
        corrects=posted.id,
        party=None if code else posted.party,
    )
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=() if code else _allocations(books, posted, entry),
        proposed_reason=_reason(posted),
        notes=(f"dated {on}, the day it was stopped or found missing",),
        about=(posted.id,),
    )


def _day(books: Books, posted: Transaction, settings: Settings) -> date:
    """The day asked for; else the end of the latest statement that should have shown it."""
    text = settings.get("date")
    if text:
        try:
            return date.fromisoformat(text)
        except ValueError:
            raise BadEntry([f"{text!r} is not a date: write 2026-03-31."]) from None
    own = next(x for x in posted.lines if books.accounts[x.account].role in MONEY_ROLES)
    statements = bank_sides(books, own.account).statements
    return max([one.last_day for one in statements], default=posted.posting_date)


def _to_account(books: Books, posted: Transaction, code: str) -> tuple[Line, ...]:
    account = books.account(code)
    if account.is_control or account.role is AccountRole.TAX:
        raise BadEntry([f"{account.name} can't take it: choose a cost, income or other account."])
    money = [x for x in posted.lines if books.accounts[x.account].role in MONEY_ROLES]
    back = opposite(money)
    return (*back, Line(0, code, -sum(line.amount for line in back)))


def _allocations(books: Books, posted: Transaction, entry: Transaction) -> tuple[Allocation, ...]:
    writer = AllocationWriter(books)
    # What it settled was settled until it was stopped: earlier aged lists stay what they were.
    writer.free_all(open_items(books), posted.id, entry.posting_date)
    writer.settle_each_other(posted, entry)
    return tuple(writer.rows)
