"""reclassify: from one account to another, on the date of what it moves.

For a sum banked to income whose receipts are still in hand: income and tax are given back, and the
receipts are banked.
"""

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Books, Line, Transaction, opposite
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import dated, profit_part
from corkpost.core.kinds import MONEY_ROLES, AccountRole, EntryKind
from corkpost.core.matching.receipts_in_hand import in_hand, left_on
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.remedies import Moving, moving_of
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "reclassify",
    did="An amount stood on the wrong account and is moved to the right one.",
    means="Leave your own entry as it is. Use the right account next time.",
)


PLACE = Ask("account", AskKind.PLACE, "Where it belongs")


def options(books: Books, point: Point) -> tuple[Option, ...]:
    if point.named("banked"):
        (name,) = point.named("banked")
        receipts = ", ".join(point.named("receipt"))
        reason = f"{name} is the banking of {receipts}; it had been coded to income a second time."
        return (Option(ROUTE.id, {}, f"Take {name} out of income: it banks {receipts}", reason),)
    moving = moving_of(point)
    if moving:
        asks = moving.asks or moving.account
        settings = {"account": moving.account} if asks else {}
        place = (PLACE,) if asks else ()
        return (Option(ROUTE.id, settings, moving.title, moving.reason, asks=place),)
    if point.named("left"):
        (name,) = point.named("left")
        title = f"Move {name} to the account that it belongs on"
        return (Option(ROUTE.id, {"account": ""}, title, "", asks=(PLACE,)),)
    return ()


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Move what the point is about; `account` (and `party`) says where, unless the point does."""
    moving = moving_of(point)
    if moving:
        moved = books.transaction(point.transactions[0])
        lines = _worked_out(books, moving, settings)
    elif point.named("banked"):
        moved = books.transaction(point.named("banked")[0])
        lines = _to_receipts(books, point, moved)
    else:
        moved = books.transaction(point.named("left")[0])
        lines = _to_account(books, point, moved, settings)
    correction = dated(books, moved, lines, profit_part(settings))
    entry = entry_of(new_entry(1), correction.posting_date, EntryKind.CORRECTING, moved)._replace(
        lines=correction.lines, memo=f"{moved.id} moved", corrects=moved.id
    )
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=(),
        proposed_reason=options(books, point)[0].proposed_reason,
        notes=correction.notes,
        prior_parts=correction.prior_parts,
        about=(moved.id,),
    )


def _worked_out(books: Books, moving: Moving, settings: Settings) -> list[Line]:
    """The lines that the check worked out; `account` and `party` where it leaves them open."""
    lines = []
    for account, amount, party, tax_code, dimensions in moving.sides:
        code = account or settings.get("account", "")
        if not code:
            raise BadEntry(["Choose the account that it belongs on."])
        whose = party or None
        if books.account(code).is_control and not whose and account != moving.leaves:
            whose = settings.get("party") or None
            if whose is None:
                raise BadEntry(
                    [f"{books.account(code).name} is a control account: name the party."]
                )
        if whose is not None and whose not in books.parties:
            raise UnknownName("party", whose)
        lines.append(Line(0, code, amount, whose, tax_code or None, None, dimensions or None))
    return lines


def _to_receipts(books: Books, point: Point, moved: Transaction) -> list[Line]:
    """What was coded is given back, and the receipts leave the hand."""
    held = {receipt.posted.id: receipt for receipt in in_hand(books)}
    parts = []
    for name in point.named("receipt"):
        if name not in held:
            raise UnknownName("receipt in hand", name)
        parts.append(held[name])
    coded = [x for x in moved.lines if books.accounts[x.account].role not in MONEY_ROLES]
    return [
        *opposite(coded),
        *(
            Line(0, receipt.account, -receipt.left, description=receipt.posted.id)
            for receipt in parts
        ),
    ]


_OPEN_ROLES = (
    AccountRole.CLEARING,
    AccountRole.SUSPENSE,
    AccountRole.UNBANKED,
    AccountRole.CARD_CLEARING,
)


def _stays_open(books: Books, line: Line) -> bool:
    return books.accounts[line.account].role in _OPEN_ROLES


def _to_account(books: Books, point: Point, moved: Transaction, settings: Settings) -> list[Line]:
    code = settings.get("account", "")
    if not code:
        raise BadEntry(["Choose the account that it belongs on."])
    own = [x for x in moved.lines if x.account in point.accounts and _stays_open(books, x)]
    if point.check == "takings-short":
        own = [
            x._replace(amount=point.amount)
            for x in own
            for receipt in left_on(books, x.account)
            if receipt.posted.id == moved.id and receipt.left == point.amount
        ][:1]
    other, party = books.account(code), settings.get("party") or None
    if other.is_control and party is None:
        raise BadEntry([f"{other.name} is a control account: name the party."])
    if party is not None and party not in books.parties:
        raise UnknownName("party", party)
    total = sum(x.amount for x in own)
    return [*opposite(own), Line(0, code, total, party if other.is_control else None)]
