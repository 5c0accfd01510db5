"""Agreeing and taking apart, and what a change to an agreed entry does (handbook, section 5)."""

from collections.abc import Iterable, Iterator
from dataclasses import replace
from typing import NamedTuple

from corkpost.core.bank.dating import agreement_days
from corkpost.core.bank.sides import (
    BankSides,
    EntryKey,
    Group,
    apart_row,
    bank_sides,
    group_rows,
)
from corkpost.core.books import AgreementRow, Books, Transaction
from corkpost.core.change import ChangeKind, Plan, checked
from corkpost.core.foreign import currency_of_account
from corkpost.core.formatting import format_date
from corkpost.core.kinds import MONEY_ROLES, PeriodState
from corkpost.core.plan_rules import Answer, rules_of
from corkpost.core.refusals import BadEntry, BarredDate, Lift, Refusal, UnknownName


class FixedByReconciliation(Refusal):
    title = "A finished reconciliation fixes that"
    lift = Lift("Reopen that reconciliation on the Bank page", page="bank")

    def __init__(self, what: str, account: str, day: str) -> None:
        super().__init__(
            f"{what} is agreed in the reconciliation of {account} to {day}, which is finished. "
            "Reopen that reconciliation with a reason first."
        )


class SealedAgreement(Refusal):
    title = "That agreement is sealed"
    lift = Lift("Reopen what was signed on the Sign-off page", page="sign-off")


class Wanted(NamedTuple):
    """An agreement that is asked for. *why*: what spoke for it."""

    entries: tuple[EntryKey, ...]
    lines: tuple[str, ...]
    why: str = ""
    by_program: bool = False


def plan_agree(books: Books, account: str, wanted: Iterable[Wanted]) -> Plan:
    """Tie the wanted entries and statement lines, each group with equal sums on both sides.

    Raises UnknownName, or BadEntry where one is agreed already or the sums differ.
    """
    sides = bank_sides(books, account)
    asked = list(wanted)
    faults = [fault for asked_for in asked for fault in _faults(books, sides, asked_for)]
    members = [member for asked_for in asked for member in (*asked_for.entries, *asked_for.lines)]
    if len(set(members)) < len(members):
        faults.append("An entry or line is wanted in two agreements at once.")
    if faults:
        raise BadEntry(faults)
    rows: list[AgreementRow] = []
    for number, asked_for in enumerate(asked, 1):
        rows += group_rows(
            f"new-g{number}",
            account,
            asked_for.entries,
            asked_for.lines,
            why=asked_for.why,
            by_program=asked_for.by_program,
        )
    many = f"{len(asked)} agreements" if len(asked) != 1 else "1 agreement"
    return Plan(
        kind=ChangeKind.AGREEMENT,
        entries=(),
        allocations=(),
        agreements=tuple(rows),
        proposed_reason=f"{many} with the statements of {books.account(account).name}",
        about=tuple(dict.fromkeys(key[0] for asked_for in asked for key in asked_for.entries)),
    )


def _faults(books: Books, sides: BankSides, asked_for: Wanted) -> Iterator[str]:
    for key in asked_for.entries:
        if key not in sides.entries:
            raise UnknownName(f"line on {sides.account}", f"{key[0]}, {key[1]}")
        if key in sides.group_of_entry:
            yield f"{key[0]} is agreed already: take that apart first."
    for name in asked_for.lines:
        if name not in sides.lines:
            raise UnknownName("statement line", name)
        if name in sides.group_of_line:
            yield f"The statement line {name} is agreed already: take that apart first."
    mine = sum(sides.entries[key].amount for key in asked_for.entries)
    theirs = sum(sides.lines[name].amount for name in asked_for.lines)
    if mine != theirs or not (asked_for.entries or asked_for.lines):
        words = currency_of_account(books, sides.account).format
        yield (
            f"The entries come to {words(mine)}, the statement lines to {words(theirs)}: "
            "they must be equal to be agreed."
        )


def plan_apart(books: Books, account: str, names: Iterable[str]) -> Plan:
    """Take the agreements of these ids apart. Raises UnknownName or FixedByReconciliation."""
    sides = bank_sides(books, account)
    groups = []
    for name in names:
        if name not in sides.groups:
            raise UnknownName("agreement", name)
        groups.append(sides.groups[name])
    many = "an agreement" if len(groups) == 1 else f"{len(groups)} agreements"
    return Plan(
        kind=ChangeKind.AGREEMENT,
        entries=(),
        allocations=(),
        agreements=tuple(apart_row(group) for group in groups),
        proposed_reason=f"{many} of {books.account(account).name} taken apart",
        about=tuple(dict.fromkeys(e.posted.id for g in groups for e in g.entries)),
    )


def with_opposites(plan: Plan, books: Books) -> Plan:
    """The plan with the agreements that follow from its entries.

    An entry on a bank account and its exact opposite are agreed with each other; what the entry was
    agreed with is free again. Raises FixedByReconciliation where that is fixed.
    """
    rows: list[AgreementRow] = list(plan.agreements)
    # What the plan agrees otherwise, as with the line that brings a payment back, stays as it is.
    agreed = {(row.transaction, row.line) for row in plan.agreements}
    number = 0
    for entry in plan.entries:
        answered = books.transactions.get(entry.reverses or entry.corrects or "")
        if answered is None:
            continue
        for account, line, other in _opposite_lines(books, answered, entry):
            if (entry.id, other) in agreed:
                continue
            sides = bank_sides(books, account)
            if (answered.id, line) not in sides.entries:
                # What moves nothing in the account's currency, as a revaluation, is agreed with nothing.
                continue
            group = sides.group_of_entry.get((answered.id, line))
            if group:
                rows += [apart_row(group)] if apart_row(group) not in rows else []
            number += 1
            keys = ((answered.id, line), (entry.id, other))
            rows += group_rows(
                f"new-o{number}", account, keys, (), why="one takes back the other", by_program=True
            )
    return replace(plan, agreements=tuple(rows)) if rows else plan


def _opposite_lines(
    books: Books, answered: Transaction, entry: Transaction
) -> Iterator[tuple[str, int, int]]:
    """Account and line numbers of what stands on a bank account in both, as exact opposites."""
    used: set[int] = set()
    for line in answered.lines:
        if books.accounts[line.account].role not in MONEY_ROLES:
            continue
        for other in entry.lines:
            same = other.account == line.account and other.amount == -line.amount
            if same and other.number not in used:
                used.add(other.number)
                yield line.account, line.number, other.number
                break


def ready(plan: Plan, books: Books) -> Plan:
    """The plan as it would be posted: with what follows for the bank, if it may be posted at all.

    Preview and posting both go through here.
    """
    whole = _ruled(checked(with_opposites(plan, books), books), books)
    _refuse_agreed(whole, books)
    _refuse_barred(whole, books)
    refuse_fixed(whole, books)
    return whole


def _refuse_barred(plan: Plan, books: Books) -> None:
    """Raise BarredDate where agreements alone would move in a period that somebody barred."""
    for day in agreement_days(plan, books):
        if books.calendar.set_state(books.calendar.period_of(day)) is PeriodState.BARRED:
            raise BarredDate(
                day, books.calendar.why_barred(day), books.calendar.first_open_day(day)
            )


def _ruled(plan: Plan, books: Books) -> Plan:
    """The plan with what the rules ask and tell. Raises BadEntry with all that they refuse."""
    rulings = rules_of(plan, books)
    refused = [ruling.says for ruling in rulings if ruling.answer is Answer.REFUSED]
    if refused:
        raise BadEntry(refused)
    warnings = dict.fromkeys((*plan.warnings, *(ruling.says for ruling in rulings)))
    return replace(plan, warnings=tuple(warnings))


def _refuse_agreed(plan: Plan, books: Books) -> None:
    """Raise BadEntry where the plan would agree what is agreed already, and not by itself taken apart."""
    freed = {row.group for row in plan.agreements if row.takes_apart}
    for row in plan.agreements:
        if row.takes_apart:
            continue
        sides = bank_sides(books, row.account)
        line = row.statement_line
        if line is not None:
            group, name = sides.group_of_line.get(line), "The statement line"
        else:
            key = (row.transaction or "", row.line or 0)
            group, name = sides.group_of_entry.get(key), f"{row.transaction}"
        if group and group.id not in freed:
            raise BadEntry([f"{name} is agreed already: take that apart first."])


def refuse_fixed(plan: Plan, books: Books) -> None:
    """Raise where the plan would move what a finished reconciliation or a seal fixes."""
    for row in plan.agreements:
        if row.takes_apart:
            group = bank_sides(books, row.account).groups.get(row.group)
            if group:
                _refuse_group(books, group)
    sealed = books.calendar.sealed_through
    if sealed is None:
        return
    for account in {row.account for row in plan.agreements}:
        after = bank_sides(
            books.with_posted(plan.entries, (), _standing_in(plan.agreements)), account
        )
        for name in {row.group for row in plan.agreements if row.account == account}:
            group = after.groups.get(name)
            if group and group.day <= sealed:
                raise SealedAgreement(
                    f"All of it is dated by {format_date(sealed)}, which is signed off and sealed. "
                    "Ask a partner to reopen."
                )


def _standing_in(rows: tuple[AgreementRow, ...]) -> tuple[AgreementRow, ...]:
    return tuple(row for row in rows if not row.takes_apart)


def _refuse_group(books: Books, group: Group) -> None:
    for finished in books.finished:
        if group.id in finished.groups:
            statement = bank_sides(books, group.account).statement_of[finished.statement]
            what = group.entries[0].posted.id if group.entries else group.lines[0].text
            raise FixedByReconciliation(what, group.account, format_date(statement.last_day))
    sealed = books.calendar.sealed_through
    if sealed and group.day <= sealed:
        raise SealedAgreement(
            f"All of it is dated by {format_date(sealed)}, which is signed off and sealed. "
            "Ask a partner to reopen."
        )
