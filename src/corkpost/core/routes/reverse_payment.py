"""reverse-payment: a payment that was stopped or lost: the bills it paid are open again, or they stay
settled and the credit goes to an account of choice. A receipt that never came is taken back alike."""

from datetime import date, timedelta
from fractions import Fraction

from corkpost.core.asks import Ask, AskKind
from corkpost.core.bank.sides import bank_sides, group_rows
from corkpost.core.books import AgreementRow, Allocation, Books, Line, Transaction, opposite
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import correction_date, why_then
from corkpost.core.formatting import format_date
from corkpost.core.kinds import MONEY_ROLES, AccountRole, AccountType, EntryKind
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.money import Minor, in_shares
from corkpost.core.open_items import items_of, open_items
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.routes import Option, Route, Settings
from corkpost.core.statements import StatementLine
from corkpost.core.tax import with_tax_dates

ROUTE = Route(
    "reverse-payment",
    did="A payment that was stopped or never arrived is taken back.",
    means="What our entry shows as open again is owed again: pay it anew, with a new number.",
)


PAID_FROM = MONEY_ROLES | {AccountRole.UNBANKED}
"""Where the money of a payment or receipt lies: at the bank, or still in hand."""
LIKELY = 0.75
COMES_BACK_WITHIN = timedelta(days=190)


CREDITED = Ask("account", AskKind.PLACE, "What is credited")


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """What it settled opens again; or stays settled, with the credit where the bills were coded. For
    what a statement shows as paid, only against a line that shows it coming back."""
    posted = _entry_of(books, point)
    ways: list[dict[str, str]] = [{}]
    if is_shown_paid(books, posted):
        ways = [{"line": line.id} for line in coming_back(books, posted)]
    settled = open_items(books).standing_on(posted.id)
    again = "what it settles opens again" if settled else "its opposite is posted"
    coded = _coded_as_settled(books, posted)
    found = []
    for way in ways:
        found.append(Option(ROUTE.id, way, f"Reverse {posted.id}; {again}", _reason(posted, way)))
        if coded:
            names = " and ".join(dict.fromkeys(books.accounts[x.account].name for x in coded))
            title = f"Reverse {posted.id}; what it settles stays settled, {names} is credited"
            settings = {**way, "stays": "yes", "account": ""}
            found.append(Option(ROUTE.id, settings, title, _reason(posted, way), asks=(CREDITED,)))
    return tuple(found)


def _entry_of(books: Books, point: Point) -> Transaction:
    return books.transaction(point.named("entry")[0])


def _reason(posted: Transaction, settings: Settings) -> str:
    if settings.get("line"):
        return f"{posted.id} came back: the bank shows it."
    return f"{posted.id} never reached the bank: it was lost or stopped."


def _money_line(books: Books, posted: Transaction) -> Line:
    return next(x for x in posted.lines if books.accounts[x.account].role in PAID_FROM)


def is_shown_paid(books: Books, posted: Transaction) -> bool:
    """Whether a statement shows it: agreed with a line of one, or a line plainly is it."""
    own = _money_line(books, posted)
    key = (posted.id, own.number)
    group = bank_sides(books, own.account).group_of_entry.get(key)
    if group is not None:
        return bool(group.lines)
    return any(
        key in proposal.entries and proposal.certainty >= LIKELY
        for look in bank_looks(books)
        if look.account == own.account
        for proposal in look.proposals
    )


def coming_back(books: Books, posted: Transaction) -> tuple[StatementLine, ...]:
    """The lines not in the books that bring just its sum back, on its day or later."""
    own = _money_line(books, posted)
    last = posted.posting_date + COMES_BACK_WITHIN
    return tuple(
        line
        for look in bank_looks(books)
        if look.account == own.account
        for line in look.missing
        if line.amount == -own.amount and posted.posting_date <= line.day <= last
    )


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Reverse the point's entry: `stays` or `account` keep what it settled settled; `date`, when it was
    stopped; `line`, the statement line that brings it back.

    Raises NothingToDo, BadEntry, or UnknownName.
    """
    posted = _entry_of(books, point)
    if books.is_answered(posted.id):
        raise NothingToDo(f"{posted.id} was put right already.")
    line = _line(books, posted, settings)
    day = _day(books, posted, line, settings)
    on = correction_date(books, day)
    lines = _credited(books, posted, settings)
    stays = bool(lines)
    numbered = tuple(x._replace(number=n) for n, x in enumerate(lines or opposite(posted.lines), 1))
    entry = entry_of(new_entry(1), on, EntryKind.CORRECTING, posted)._replace(
        lines=with_tax_dates(books, numbered, on),
        memo=f"Reverses {posted.id}" + ("" if line else ", which never reached the bank"),
        corrects=posted.id,
        party=None if stays else posted.party,
    )
    day_is = "the day it came back" if line else "the day it was stopped or found missing"
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=_allocations(books, posted, entry, stays=stays),
        agreements=_agreed(books, entry, line),
        proposed_reason=_reason(posted, {"line": line.id} if line else {}),
        notes=(why_then(books, day, on, day_is),),
        about=(posted.id,),
    )


def _line(books: Books, posted: Transaction, settings: Settings) -> StatementLine | None:
    """The line that brings it back; None for what the bank never had. Raises BadEntry."""
    named = settings.get("line")
    if not named and not is_shown_paid(books, posted):
        return None
    lines = [x for x in coming_back(books, posted) if named in (None, "", x.id)]
    if not lines:
        raise BadEntry(
            [
                f"A statement shows {posted.id} as paid. It can be reversed only against the line that "
                "shows it coming back, and none does: take in the statement that has it."
            ]
        )
    return lines[0]


def _agreed(
    books: Books, entry: Transaction, line: StatementLine | None
) -> tuple[AgreementRow, ...]:
    if line is None:
        return ()
    own = _money_line(books, entry)
    key = (entry.id, own.number)
    return group_rows("new-g1", own.account, [key], [line.id], why="it came back")


def _day(books: Books, posted: Transaction, line: StatementLine | None, settings: Settings) -> date:
    """The line's day; else the day asked for; else the end of the latest statement that should have
    shown it."""
    if line:
        return line.day
    text = settings.get("date")
    if not text:
        statements = bank_sides(books, _money_line(books, posted).account).statements
        return max([posted.posting_date, *(statement.last_day for statement in statements)])
    try:
        day = date.fromisoformat(text)
    except ValueError:
        raise BadEntry([f"{text!r} is not a date: write 2026-03-31."]) from None
    if day < posted.posting_date:
        raise BadEntry(
            [
                f"{format_date(day)} is before {posted.id} itself, of "
                f"{format_date(posted.posting_date)}: it can't have "
                "been stopped before it was made."
            ]
        )
    return day


def _credited(books: Books, posted: Transaction, settings: Settings) -> tuple[Line, ...]:
    """The lines where what it settled stays settled; none where that opens again."""
    code = settings.get("account")
    if not code and settings.get("stays") != "yes":
        return ()
    back = opposite(x for x in posted.lines if books.accounts[x.account].role in PAID_FROM)
    if not code:
        coded = _coded_as_settled(books, posted)
        if not coded:
            raise BadEntry(["Choose the account that is credited: the bills do not say where."])
        return (*back, *coded)
    account = books.account(code)
    if account.is_control or account.role is AccountRole.TAX:
        raise BadEntry([f"{account.name} can't take it: choose a cost, income or other account."])
    return (*back, Line(0, code, -sum(line.amount for line in back)))


def _coded_as_settled(books: Books, posted: Transaction) -> tuple[Line, ...]:
    """Its sum on the accounts and the tax that the papers it settles were coded to, in proportion; what
    settles nothing stays with its party. None where a paper does not say (an opening balance)."""
    sums: dict[tuple[str, str | None, str | None, str | None], Minor] = {}
    left = {
        (x.account, x.party): x.amount for x in posted.lines if books.accounts[x.account].is_control
    }
    rows = open_items(books).standing_on(posted.id)
    for row in rows:
        other = {row.debit_transaction, row.credit_transaction} - {posted.id}
        paper = books.transactions[other.pop()]
        coded = [x for x in paper.lines if not books.accounts[x.account].is_control]
        whole = sum(x.amount for x in coded)
        if not whole or any(books.accounts[x.account].type is AccountType.EQUITY for x in coded):
            return ()
        sign = 1 if posted.id == row.credit_transaction else -1
        shares = {str(n): Fraction(x.amount, whole) for n, x in enumerate(coded)}
        for n, amount in in_shares(sign * row.amount, shares).items():
            x = coded[int(n)]
            key = (x.account, x.tax_code, x.dimensions, None)
            sums[key] = sums.get(key, 0) + amount
        for control, party in left:
            if party == row.party:
                left[control, party] += sign * row.amount
                break
    if not rows:
        return ()
    for (account, party), amount in left.items():
        if amount:
            sums[account, None, None, party] = -amount
    return tuple(
        Line(0, account, amount, party, tax_code, None, dimensions)
        for (account, tax_code, dimensions, party), amount in sums.items()
        if amount
    )


def _allocations(
    books: Books, posted: Transaction, entry: Transaction, *, stays: bool
) -> tuple[Allocation, ...]:
    """What it settled is freed; where that stays settled, only what settled nothing meets its opposite."""
    writer = AllocationWriter(books)
    if stays:
        for item in items_of(entry, books.control_accounts):
            writer.between(item.party or "", posted, entry, -item.amount)
        return tuple(writer.rows)
    # What it settled was settled until it was stopped: earlier aged lists stay what they were.
    writer.free_all(open_items(books), posted.id, entry.posting_date)
    writer.settle_each_other(posted, entry)
    return tuple(writer.rows)
