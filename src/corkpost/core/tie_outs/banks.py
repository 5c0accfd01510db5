"""Each bank and card account to its statement: the bank's balance, and what is on its way there.

What stands on the statement and not in the books belongs to no side: it keeps the two apart.
"""

from collections.abc import Iterator
from datetime import date
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.bank.reconciling import start_of
from corkpost.core.bank.sides import BankSides, Entry, bank_accounts, bank_sides
from corkpost.core.books import Account, Books
from corkpost.core.control_proof import Cause
from corkpost.core.foreign import foreign_accounts
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Currency, Minor, Money
from corkpost.core.rates import rate_on
from corkpost.core.refusals import BadEntry
from corkpost.core.statements import Statement, StatementLine
from corkpost.core.tie_outs.accounts import balances_of, is_used
from corkpost.core.tie_outs.tie_out import Part, TieOut, account_part

ORDER = 1
ROLES = (AccountRole.BANK, AccountRole.CREDIT_CARD)


class _AtBank(NamedTuple):
    """What the bank had by a day. *on_way*: entries that it had not yet; *early*: lines of which the
    entries are dated later; *strange*: lines that nothing in the books is agreed with."""

    statement: Statement
    balance: Minor
    on_way: tuple[Entry, ...]
    early: tuple[StatementLine, ...]
    strange: tuple[StatementLine, ...]


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    with_statements = set(bank_accounts(books))
    for account in books.tables.accounts:
        proved = account.role in ROLES or account.code in with_statements
        if proved and account.role is not AccountRole.CASH and is_used(books, account, as_at):
            yield _proof(books, account, as_at)


def _proof(books: Books, account: Account, as_at: date) -> TieOut:
    balance = balances_of(books, [account.code], as_at)[account.code]
    proof = TieOut(
        id=f"bank {account.code}",
        kind="bank",
        title=account.name,
        accounts=(account.code,),
        books=balance,
        outside=None,
        of_books=(account_part(account.code, account.name, balance),),
        keyed=True,
    )
    sides = bank_sides(books, account.code)
    if not sides.statements:
        return proof._replace(lacks="No statement was taken in: the bank is not proved.")
    reach = max(statement.last_day for statement in sides.statements)
    later = [e for e in sides.entries.values() if reach < e.day <= as_at]
    if reach < as_at and later:
        return proof._replace(
            lacks=(
                f"The last statement ends on {format_date(reach)}, and "
                f"{len(later)} {'entries are' if len(later) > 1 else 'entry is'} dated after it: "
                "the bank is not proved."
            )
        )
    found = _at_bank(sides, as_at)
    if found is None:
        return proof._replace(
            lacks="The statement gives no balance to compare with: the bank is not proved."
        )
    kept = foreign_accounts(books).get(account.code)
    return (
        _against(books, proof, found) if kept is None else _abroad(books, proof, found, kept, as_at)
    )


def _at_bank(sides: BankSides, as_at: date) -> _AtBank | None:
    """None where no statement by then gives a balance."""
    begun = [brought for brought in sides.statements if brought.first_day <= as_at]
    if not begun:
        return None
    statement = begun[-1]
    after = sum(line.amount for line in statement.lines if line.day > as_at)
    if statement.closing is not None:
        balance = statement.closing - after
    elif statement.opening is not None:
        balance = statement.opening + sum(x.amount for x in statement.lines) - after
    else:
        return None
    start = start_of(sides)
    lines = {line.id: line for brought in begun for line in brought.lines if line.day <= as_at}
    on_way = tuple(
        entry
        for key, entry in sides.entries.items()
        if entry.day <= as_at
        and (entry.day >= start.first_day or key in start.outstanding)
        and not _has_come(sides, entry, lines)
    )
    early, strange = [], []
    for line in lines.values():
        group = sides.group_of_line.get(line.id)
        if group is None:
            strange.append(line)
        elif all(entry.day > as_at for entry in group.entries):
            early.append(line)
    return _AtBank(statement, balance, on_way, tuple(early), tuple(strange))


def _has_come(sides: BankSides, entry: Entry, lines: dict[str, StatementLine]) -> bool:
    """Whether all that it is agreed with had come by then; what is agreed with its own opposite came."""
    group = sides.group_of_entry.get(entry.key)
    return group is not None and all(line.id in lines for line in group.lines)


def _abroad(books: Books, proof: TieOut, found: _AtBank, kept: Currency, as_at: date) -> TieOut:
    """The proof of an account in another currency: the bank's balance with what is on its way there, at the
    closing rate."""
    there = _against(books, proof, found)
    whole = Money(there.outside or 0, kept)
    try:
        rate = rate_on(books, kept.code, as_at)
    except BadEntry as unknown:
        return there._replace(outside=None, of_outside=(), lacks=str(unknown))
    own = books.client.currency
    worth = whole.at(rate.rate, own).amount
    first, *others = there.of_outside
    parts = [
        part._replace(
            says=f"{part.says}, {Money(part.amount, kept)}",
            amount=Money(part.amount, kept).at(rate.rate, own).amount,
        )
        for part in others
    ]
    # The bank's balance takes what rounding leaves, so that the parts come to the whole.
    rest = worth - sum(part.amount for part in parts)
    at_rate = f"{Money(first.amount, kept)} at {float(rate.rate):g} of {format_date(rate.day)}"
    causes = tuple(_cause_at(cause, kept, rate.rate, own) for cause in there.causes)
    return there._replace(
        outside=worth,
        of_outside=(first._replace(says=f"{first.says}, {at_rate}", amount=rest), *parts),
        causes=causes,
    )


def _cause_at(cause: Cause, kept: Currency, rate: Fraction, own: Currency) -> Cause:
    there = Money(cause.amount or 0, kept)
    return cause._replace(says=f"{cause.says}, {there}", amount=there.at(rate, own).amount)


def _against(books: Books, proof: TieOut, found: _AtBank) -> TieOut:
    of_outside = [
        Part(f"the bank's balance, {found.statement.last_day:%-d %b %Y}", found.balance),
        *(
            Part(_on_way(entry), entry.amount, transaction=entry.posted.id)
            for entry in found.on_way
        ),
        *(
            Part(f"at the bank already: {line.text}, {line.day:%-d %b %Y}", -line.amount)
            for line in found.early
        ),
    ]
    finished = any(
        reconciled.account == proof.accounts[0] and reconciled.statement == found.statement.number
        for reconciled in books.finished
    )
    causes: list[Cause] = []
    if found.strange:
        many = len(found.strange)
        causes.append(
            Cause(
                f"{many} statement {'lines are' if many > 1 else 'line is'} not in the books",
                -sum(line.amount for line in found.strange),
                (),
            )
        )
    day = format_date(found.statement.last_day)
    return proof._replace(
        outside=sum(part.amount for part in of_outside),
        of_outside=tuple(of_outside),
        causes=tuple(causes),
        evidence=(f"statement to {day}, {'finished' if finished else 'not finished'}",),
        lacks="" if finished else f"The reconciliation to {day} is not finished.",
    )


def _on_way(entry: Entry) -> str:
    what = "not presented" if entry.amount < 0 else "not credited"
    name = entry.posted.reference or entry.posted.id
    return f"{what}: {name}, {entry.day:%-d %b %Y}"
