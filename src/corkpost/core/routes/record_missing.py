"""record-missing: a statement line becomes an entry, agreed with it at once.

The payee's open items are looked up and offered before a cost or income is: coding past them is how
costs get counted twice (handbook, section 5).
"""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from typing import NamedTuple

from corkpost.core.asks import Ask, AskKind
from corkpost.core.bank.sides import account_of_line, bank_sides, group_rows, statement_line
from corkpost.core.books import Allocation, Books, Line, Transaction
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import dated, profit_part
from corkpost.core.evidence.names import words_of
from corkpost.core.evidence.references import quotes
from corkpost.core.evidence.sums import exact_sets
from corkpost.core.evidence.who import finder_for
from corkpost.core.formatting import format_date
from corkpost.core.kinds import MONEY_ROLES, AccountRole, EntryKind, TransactionKind
from corkpost.core.matching.bank_lines import matcher_of, text_key
from corkpost.core.matching.clearing import left_after_pairing
from corkpost.core.matching.receipts_in_hand import left_on, paid_out
from corkpost.core.open_items import OpenItem, open_items
from corkpost.core.points import Point
from corkpost.core.recording import Part, lines_of_parts, number_used, parts_of
from corkpost.core.refusals import UnknownName
from corkpost.core.routes import Option, Route, Settings
from corkpost.core.statements import StatementLine

ROUTE = Route(
    "record-missing",
    did="A line of the bank statement that was missing is entered.",
    means="It is in the books now: do not enter it again.",
)
MOST_OPTIONS = 3

_CHARGES = frozenset("FEE FEES CHARGE CHARGES COMMISSION GEBUHR ENTGELT FRAIS".split())
_OTHER_SIDE = (AccountRole.BANK, AccountRole.CASH, AccountRole.CREDIT_CARD, AccountRole.CLEARING)


class _Habit(NamedTuple):
    """How the last line of such a text was booked."""

    account: str
    party: str | None
    tax_code: str | None
    times: int


PARTS = Ask("parts", AskKind.PARTS, "What it is")


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """What it settles, else what such lines were before, else what its words say; and anything else."""
    line = _line_of(books, point)
    found = [
        *_clears(books, line),
        *_card_takings(books, line),
        *_settling(books, line),
        *_as_before(books, line),
        *_by_words(books, line),
    ]
    title = "Record it as something else"
    told = [
        option if option.settings.keys() & {"items", "card"} else option._replace(asks=(PARTS,))
        for option in (*found[:MOST_OPTIONS], Option(ROUTE.id, {}, title, _reason(line)))
    ]
    return tuple(told)


def _line_of(books: Books, point: Point) -> StatementLine:
    (name,) = point.named("line")
    return statement_line(books, name)


def _reason(line: StatementLine) -> str:
    return f"On the statement ({line.words or 'no text'}) and not in the books."


def _settling(books: Books, line: StatementLine) -> Iterator[Option]:
    party = finder_for(books).named_in(line.words)
    if party is None:
        return
    opens = _open_of(books, party, line)
    wanted = abs(line.amount)
    quoted = [open for open in opens if quotes(line.words, open[0].transaction.reference)]
    exact = [pair for pair in quoted or opens if pair[1] == wanted]
    chosen = exact[:1]
    if not chosen:
        sets = exact_sets([left for _, left in opens], wanted, most=1).sets
        chosen = [opens[place] for place in sets[0]] if sets else quoted[:1]
    if chosen:
        names = [item.transaction.id for item, _ in chosen]
        shown = " and ".join(
            item.transaction.reference or item.transaction.id for item, _ in chosen
        )
        what = "payment of" if line.amount < 0 else "receipt for"
        title = f"Record it as {what} {shown}, {books.party_name(party)}"
        yield Option(ROUTE.id, {"items": ",".join(names)}, title, _reason(line))
    elif opens:
        title = f"Record it on the account of {books.party_name(party)}"
        settings = {"account": opens[0][0].account, "party": party}
        yield Option(ROUTE.id, settings, title, _reason(line))


def _open_of(books: Books, party: str, line: StatementLine) -> list[tuple[OpenItem, int]]:
    """The party's open items that the money may be for, with what is left, positive."""
    return [
        (item, abs(left))
        for item, left in open_items(books).open_of(party)
        if (left > 0) is (line.amount > 0)
    ]


def _as_before(books: Books, line: StatementLine) -> Iterator[Option]:
    habit = _habit(books, line)
    if habit is None:
        return
    account = books.accounts[habit.account]
    if account.is_control:
        return
    settings = {"account": habit.account}
    settings |= {"party": habit.party} if habit.party else {}
    settings |= {"tax_code": habit.tax_code} if habit.tax_code else {}
    title = f"Record it as {account.name}, as {habit.times} times before"
    yield Option(ROUTE.id, settings, title, _reason(line))


def _habit(books: Books, line: StatementLine) -> _Habit | None:
    account = account_of_line(books, line)
    sides = bank_sides(books, account)
    matcher = matcher_of(books, sides)
    known = matcher.habits.get(text_key(line.words))
    if known is None:
        return None
    alike = [
        entry
        for group in sides.groups.values()
        for own in group.lines
        if text_key(own.words) == text_key(line.words)
        for entry in group.entries
        if matcher.who(entry) == known.who
    ]
    if not alike:
        return None
    latest = max(alike, key=lambda entry: (entry.day, entry.key)).posted
    coded = [
        x
        for x in latest.lines
        if x.account != account and books.accounts[x.account].role is not AccountRole.TAX
    ]
    if len(coded) != 1:
        return None
    party = coded[0].party or latest.party
    return _Habit(coded[0].account, party, coded[0].tax_code, len(alike))


def _clears(books: Books, line: StatementLine) -> Iterator[Option]:
    """The correction of an error of the bank that waits on clearing, and whatever else waits there."""
    for account in books.with_role(AccountRole.CLEARING):
        for posted, amount in left_after_pairing(books, account.code):
            if amount == line.amount and posted.posting_date <= line.day:
                title = f"Record it as what {posted.id} waits for: {account.name} is nil again"
                reason = f"It clears {posted.id}: {posted.memo or 'what waited on clearing'}."
                yield Option(ROUTE.id, {"account": account.code}, title, reason)
                return


def _card_takings(books: Books, line: StatementLine) -> Iterator[Option]:
    """What the card processor pays out, net of its fee, against the takings that it is for."""
    parts = paid_out(books, line)
    if not parts:
        return
    fee = sum(receipt.left for receipt in parts) - line.amount
    fees = books.with_role(AccountRole.BANK_CHARGES)
    if fee and not fees:
        return
    words = books.client.currency.format_amount
    days = " and ".join(format_date(receipt.day) for receipt in parts)
    title = f"Record it as card takings of {days}" + (
        f", less a fee of {words(fee)}" if fee else ""
    )
    settings = {"card": ",".join(receipt.posted.id for receipt in parts)}
    settings |= {"account": fees[0].code} if fee else {}
    reason = f"Card takings of {days}, paid out" + (f" less a fee of {words(fee)}." if fee else ".")
    yield Option(ROUTE.id, settings, title, reason)


def _by_words(books: Books, line: StatementLine) -> Iterator[Option]:
    charges = books.with_role(AccountRole.BANK_CHARGES)
    if charges and words_of(line.words) & _CHARGES:
        title = f"Record it as {charges[0].name}"
        yield Option(ROUTE.id, {"account": charges[0].code}, title, _reason(line))


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Record the point's line: settling `items`, or on `account` (with `party`, `tax_code`,
    `dimensions`), or as `parts`, several of those that add up to it.

    Raises BadEntry where nothing is said or it does not add up, or UnknownName.
    """
    line = _line_of(books, point)
    account = account_of_line(books, line)
    if settings.get("card"):
        return _pays_out(books, line, account, settings)
    return recorded(books, line, settings)


def recorded(books: Books, line: StatementLine, settings: Settings) -> Plan:
    """The line recorded as what the settings tell of it."""
    account = account_of_line(books, line)
    parts = parts_of(books, line, settings)
    lines = lines_of_parts(books, line, account, parts)
    kinds = {_kind(books, books.accounts[part.account].role, line) for part in parts}
    parties = {part.party for part in parts if part.party}
    made = _plan(
        books,
        line,
        account,
        lines,
        kinds.pop() if len(kinds) == 1 else _straight(line),
        parties.pop() if len(parties) == 1 else None,
        settings,
        parts,
    )
    return replace(made, warnings=tuple(number_used(books, account, line.reference)))


def _pays_out(books: Books, line: StatementLine, account: str, settings: Settings) -> Plan:
    """Dr bank net, Dr fees, Cr card clearing gross: the clearing account reaches nil."""
    left = {
        receipt.posted.id: receipt
        for clearing in books.with_role(AccountRole.CARD_CLEARING)
        for receipt in left_on(books, clearing.code)
    }
    names = settings["card"].split(",")
    unknown = [name for name in names if name not in left]
    if unknown:
        raise UnknownName("card takings still to come", ", ".join(unknown))
    parts = [left[name] for name in names]
    fee = sum(receipt.left for receipt in parts) - line.amount
    lines = [Line(0, account, line.amount)]
    if fee:
        lines.append(Line(0, books.account(settings.get("account", "")).code, fee))
    lines += [
        Line(0, receipt.account, -receipt.left, description=receipt.posted.id) for receipt in parts
    ]
    return _plan(books, line, account, lines, TransactionKind.TRANSFER, None, settings, ())


def _kind(books: Books, role: AccountRole, line: StatementLine) -> TransactionKind:
    comes_in = line.amount > 0
    if role is AccountRole.PAYABLES:
        return TransactionKind.SUPPLIER_REFUND if comes_in else TransactionKind.SUPPLIER_PAYMENT
    if role is AccountRole.RECEIVABLES:
        return TransactionKind.CUSTOMER_RECEIPT if comes_in else TransactionKind.CUSTOMER_REFUND
    if role is AccountRole.UNBANKED:
        return TransactionKind.BANKING
    if role in _OTHER_SIDE or role in MONEY_ROLES:
        return TransactionKind.TRANSFER
    return _straight(line)


def _straight(line: StatementLine) -> TransactionKind:
    return TransactionKind.DIRECT_RECEIPT if line.amount > 0 else TransactionKind.DIRECT_PAYMENT


def _plan(
    books: Books,
    line: StatementLine,
    account: str,
    lines: list[Line],
    kind: TransactionKind,
    party: str | None,
    settings: Settings,
    parts: Sequence[Part],
) -> Plan:
    as_of = Transaction("", kind, line.day, ())
    choice = profit_part(settings)
    correction = dated(books, as_of, lines, choice, day_is="the day of the statement line")
    text = settings.get("text") or line.text
    entry = entry_of(new_entry(1), correction.posting_date, EntryKind.CORRECTING)._replace(
        kind=kind,
        lines=correction.lines,
        party=party,
        reference=line.reference,
        memo=text,
        source="bank",
    )
    rows = group_rows(
        "new-g1", account, [(entry.id, 1)], [line.id], why="recorded from the statement"
    )
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=_allocations(books, entry, parts),
        agreements=rows,
        proposed_reason=_reason(line),
        notes=correction.notes,
        prior_parts=correction.prior_parts,
    )


def _allocations(books: Books, entry: Transaction, parts: Sequence[Part]) -> tuple[Allocation, ...]:
    writer = AllocationWriter(books)
    open_now = open_items(books).open_now
    for part in parts:
        left = part.amount
        for item in part.items:
            settled = min(left, abs(open_now[item.key]))
            left -= settled
            if settled > 0:
                signed = settled if item.amount > 0 else -settled
                writer.between(item.party or "", item.transaction, entry, signed)
    return tuple(writer.rows)
