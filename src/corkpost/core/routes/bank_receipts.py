"""bank-receipts: one banking out of the receipts in hand that the bank credited in one sum, dated by
the statement line and agreed with it."""

from corkpost.core.bank.sides import account_of_line, group_rows, statement_line
from corkpost.core.books import Books, Line
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import correction_date
from corkpost.core.kinds import EntryKind, TransactionKind
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.matching.receipts_in_hand import ReceiptInHand, in_hand, set_of
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.routes import Option, Route, Settings
from corkpost.core.statements import StatementLine

ROUTE = Route(
    "bank-receipts",
    did="The receipts in hand that the bank credited in one sum are taken to the bank together.",
    means="They are no longer in hand: do not bank them again.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """For a statement line: the receipts that it is. For receipts: the line that shows them."""
    found = _found(books, point)
    if found is None:
        return ()
    line, parts = found
    names = ",".join(receipt.posted.id for receipt in parts)
    many = "the receipt" if len(parts) == 1 else f"the {len(parts)} receipts"
    title = f"Bank {many} in hand: {' + '.join(_words(books, held) for held in parts)}"
    settings = {"line": line.id, "receipts": names}
    reason = f"Paid in as one sum on {line.day}: {names.replace(',', ', ')}."
    return (Option(ROUTE.id, settings, title, reason),)


def _words(books: Books, banked: ReceiptInHand) -> str:
    party = banked.posted.party
    who = f"{books.party_name(party)} " if party else ""
    return f"{who}{books.client.currency.format_amount(banked.left)}"


def _found(books: Books, point: Point) -> tuple[StatementLine, tuple[ReceiptInHand, ...]] | None:
    if point.named("line"):
        line = statement_line(books, point.named("line")[0])
        parts = set_of(in_hand(books), line.amount, line.day) if line.amount > 0 else ()
        return (line, parts) if parts else None
    wanted = set(point.named("receipt"))
    for look in bank_looks(books):
        for line in look.missing:
            if line.amount > 0:
                parts = set_of(in_hand(books), line.amount, line.day)
                if wanted & {receipt.posted.id for receipt in parts}:
                    return line, parts
    return None


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Bank `receipts` (ids, commas between) as the statement line `line`. Their sum is the line's."""
    option = next(iter(options(books, point)), None)
    name = settings.get("line") or (option.settings["line"] if option else "")
    names = settings.get("receipts") or (option.settings["receipts"] if option else "")
    line = statement_line(books, name)
    held = {banked.posted.id: banked for banked in in_hand(books)}
    chosen = []
    for receipt in names.split(","):
        if receipt not in held:
            raise UnknownName("receipt in hand", receipt)
        chosen.append(held[receipt])
    if sum(banked.left for banked in chosen) != line.amount:
        words = books.client.currency.format_amount
        raise BadEntry(
            [
                f"The receipts come to {words(sum(held.left for held in chosen))}, the bank credited "
                f"{words(line.amount)}: they must be equal."
            ]
        )
    account = account_of_line(books, line)
    on = correction_date(books, line.day)
    lines = [Line(1, account, line.amount)]
    for number, banked in enumerate(chosen, 2):
        lines.append(Line(number, banked.account, -banked.left, description=banked.posted.id))
    entry = entry_of(new_entry(1), on, EntryKind.CORRECTING)._replace(
        kind=TransactionKind.BANKING,
        lines=tuple(lines),
        reference=line.reference,
        memo=f"Banking of {', '.join(held.posted.id for held in chosen)}",
        source="bank",
    )
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=(),
        agreements=group_rows(
            "new-g1", account, [(entry.id, 1)], [line.id], why="receipts in hand, banked together"
        ),
        proposed_reason=option.proposed_reason if option else "",
        notes=(f"dated {on}, the day of the statement line",),
    )
