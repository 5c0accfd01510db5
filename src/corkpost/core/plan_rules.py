"""What every plan is asked before it is posted, whatever way it came about (handbook, section 4).

A rule of the job that must hold for the composer, a route, a move by hand, a part of a statement line,
takings and an undo alike stands here once. `rules_of` is asked by `bank/agreeing.ready`, through which
every preview and every posting goes.
"""

from collections.abc import Iterable, Iterator
from enum import StrEnum
from typing import NamedTuple

from corkpost.core.books import Account, Allocation, Books, Line, Transaction
from corkpost.core.branches import apart_by_branch
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.chart.marking import mark_faults
from corkpost.core.formatting import format_date
from corkpost.core.kinds import (
    MONEY_ROLES,
    OWNER_ROLES,
    AccountRole,
    Entity,
    EntryKind,
    MayChange,
    TransactionKind,
)
from corkpost.core.money import Minor
from corkpost.core.open_items import OpenItem, items_of, open_items
from corkpost.core.owners import OWNERS_HAVE


class Answer(StrEnum):
    """REFUSED: it is not posted. ASKED: a person who sees it may mean it. TOLD: it is worth knowing."""

    REFUSED = "refused"
    ASKED = "asked"
    TOLD = "told"


class Ruling(NamedTuple):
    """*says*: what is wrong, where, and what to do."""

    answer: Answer
    says: str


UNTAXED_ROLES = (
    OWNER_ROLES
    | MONEY_ROLES
    | {
        AccountRole.RECEIVABLES,
        AccountRole.PAYABLES,
        AccountRole.WAGES,
        AccountRole.DIRECTOR_PAY,
        AccountRole.EMPLOYER_CONTRIBUTIONS,
        AccountRole.PAYROLL_NET,
        AccountRole.PAYROLL_TAX,
        AccountRole.LOAN,
        AccountRole.DIVIDENDS,
        AccountRole.RETAINED_EARNINGS,
        AccountRole.ACCUMULATED_FUND,
        AccountRole.CLEARING,
        AccountRole.UNBANKED,
    }
)
"""What is on such accounts bears no tax: neither wages, transfers, debts nor owners' money."""


OWNED_ON = {
    Entity.SOLE_TRADER: "drawings and capital introduced",
    Entity.PARTNERSHIP: "the partners' current accounts",
    Entity.COMPANY: "the owner's loan account",
    Entity.ASSOCIATION: "what is owed to members",
}


def rules_of(plan: Plan, books: Books) -> tuple[Ruling, ...]:
    """What the rules say of the plan on these books, each thing once."""
    found: list[Ruling] = []
    for entry in plan.entries:
        found += _of_entry(plan, books, entry)
    found += _of_allocations(plan, books)
    found += _of_the_letter(plan, books)
    return tuple(dict.fromkeys(found))


def _of_entry(plan: Plan, books: Books, entry: Transaction) -> Iterator[Ruling]:
    agreed = {row.line for row in plan.agreements if row.transaction == entry.id}
    taken_back = _Taken(plan, books, entry)
    for line in entry.lines:
        account = books.accounts[line.account]
        if taken_back.covers(line):
            continue
        fault = control_fault(account, line.party) or private_fault(account)
        if fault is None and not plan.counts_stock:
            fault = stock_fault(account)
        if fault:
            yield Ruling(Answer.REFUSED, fault)
        # A correction may have to touch what entries may not; it is told.
        refuses = plan.kind is ChangeKind.ENTRY and entry.kind is not TransactionKind.CLOSING
        for marked in mark_faults(books, line):
            yield Ruling(Answer.REFUSED if refuses else Answer.TOLD, marked)
        if account.role in MONEY_ROLES and line.number not in agreed:
            yield Ruling(Answer.ASKED, _bank_words(account))
        if account.role in OWNER_ROLES and account.role not in OWNERS_HAVE[books.client.entity]:
            yield Ruling(
                Answer.ASKED,
                f"{account.name} does not go with a {books.client.entity.value.replace('-', ' ')}: its "
                f"owners' money stands on {OWNED_ON[books.client.entity]}. Is it meant?",
            )
        tax = books.taxes.get(line.tax_code or "")
        if tax is not None and tax.rate and account.role in UNTAXED_ROLES:
            yield Ruling(
                Answer.ASKED,
                f"{account.name} bears no tax as a rule, and {tax.name} is on it here. Is it meant?",
            )
    yield from _profit_of_reclassifying(books, entry)
    apart = apart_by_branch(books, entry.lines)
    if apart:
        sums = ", ".join(
            f"{branch} {books.client.currency.format_amount(amount)}"
            for branch, amount in sorted(apart.items())
        )
        yield Ruling(Answer.TOLD, f"The entry does not balance by branch: {sums}.")


def _profit_of_reclassifying(books: Books, entry: Transaction) -> Iterator[Ruling]:
    profit = sum(x.amount for x in entry.lines if books.accounts[x.account].is_profit_and_loss)
    if entry.entry_kind is EntryKind.RECLASSIFYING and profit:
        words = books.client.currency.format_amount(profit)
        yield Ruling(Answer.TOLD, f"A reclassifying entry moves profit by {words}.")


def _of_the_letter(plan: Plan, books: Books) -> Iterator[Ruling]:
    """By the letter of engagement the client may have to agree before their own rows are corrected."""
    client = books.client
    if plan.kind is not ChangeKind.CORRECTION or client.may_change is not MayChange.ASKED:
        return
    of = f" of {format_date(client.engaged_on)}" if client.engaged_on else ""
    yield Ruling(
        Answer.ASKED,
        f"By the letter of engagement{of} the client agrees before their own rows are corrected. Say in "
        "the reason who agreed, and when.",
    )


def control_fault(account: Account, party: str | None) -> str | None:
    """Why the line may not stand on the account without a party; None where it may."""
    if not account.is_control or party is not None:
        return None
    return (
        f"{account.name} is a control account: name the party, or the list of open items and "
        "the account would stop agreeing."
    )


def stock_fault(account: Account) -> str | None:
    """Why a line that no count brings may not stand on the account; None where it may."""
    if account.role is not AccountRole.STOCK:
        return None
    return f"{account.name} moves only by a stock count."


def private_fault(account: Account) -> str | None:
    """Why nothing may stand on the account; None where it may."""
    if account.role is not AccountRole.PRIVATE:
        return None
    return (
        f"{account.name} is private and does not belong in the books: choose the owner's account."
    )


def _bank_words(account: Account) -> str:
    return (
        f"{account.name} moves with the bank's own lines; a journal on it will stand "
        "beside the statement. Say in the reason why."
    )


class _Taken:
    """What the transaction that an entry answers put on an account, by party: taking it back, whole or
    in part, is no new line there."""

    def __init__(self, plan: Plan, books: Books, entry: Transaction) -> None:
        self._left: dict[tuple[str, str | None], Minor] = {}
        answered = {posted.id: posted for posted in plan.entries}.get(entry.reverses or "")
        answered = answered or books.transactions.get(entry.reverses or entry.corrects or "")
        for line in answered.lines if answered else ():
            key = (line.account, line.party)
            self._left[key] = self._left.get(key, 0) + line.amount

    def covers(self, line: Line) -> bool:
        """Whether the line takes back no more than what is left of it, which it then uses."""
        key = (line.account, line.party)
        left = self._left.get(key, 0)
        if left * line.amount >= 0 or abs(line.amount) > abs(left):
            return False
        self._left[key] = left + line.amount
        return True


def _of_allocations(plan: Plan, books: Books) -> Iterator[Ruling]:
    rows = [row for row in plan.allocations if row.undoes is None]
    if not rows:
        return
    items = dict(open_items(books).by_transaction)
    for entry in plan.entries:
        items[entry.id] = tuple(items_of(entry, books.control_accounts))
    for row in rows:
        owed = _accounts_of(items.get(row.debit_transaction, ()), row.party, debit=True)
        paid = _accounts_of(items.get(row.credit_transaction, ()), row.party, debit=False)
        if not owed & paid and not _stood(plan, books, row):
            yield Ruling(
                Answer.REFUSED,
                f"{row.debit_transaction} and {row.credit_transaction} are not a debit and a credit of "
                f"one party on one account: only what {books.party_name(row.party)} owes and has "
                "paid settles each other. Move the money to the right party first.",
            )


def _accounts_of(items: Iterable[OpenItem], party: str, *, debit: bool) -> set[str]:
    """The control accounts on which the party has an item of that side among these."""
    return {item.account for item in items if item.party == party and (item.amount > 0) is debit}


def _stood(plan: Plan, books: Books, row: Allocation) -> bool:
    """Whether an undo brings back an allocation as it came in, which may join what no rule would."""
    return plan.kind is ChangeKind.UNDO and any(
        (allocation.debit_transaction, allocation.credit_transaction)
        == (row.debit_transaction, row.credit_transaction)
        for allocation in books.tables.allocations
    )
