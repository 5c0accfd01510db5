"""to-owner: moves what is an owner's from cost, income or a customer to the owner's account that the kind
of entity names (handbook, section 3), all of it or the private share, with the tax on it."""

from collections.abc import Iterable
from fractions import Fraction

from corkpost.core.asks import Ask, AskKind
from corkpost.core.books import Account, Books, Line, Transaction, opposite
from corkpost.core.change import AllocationWriter, ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import dated, profit_part
from corkpost.core.keying import keyed_number
from corkpost.core.kinds import MONEY_ROLES, OWNER_ROLES, AccountRole, Entity, EntryKind
from corkpost.core.money import Minor, rounded
from corkpost.core.open_items import open_items
from corkpost.core.owners import NoOwners, chosen_owner_account, owner_accounts
from corkpost.core.points import Point
from corkpost.core.refusals import BadEntry, NothingToDo, UnknownName
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "to-owner",
    did="Money of the owner's stood among costs or income: it is moved to the owner's account.",
    means="Leave your own entry as it is. Tax claimed on it is given back by our entry.",
)


OWED_ROLES = (AccountRole.DIVIDENDS, AccountRole.PAYROLL_NET, AccountRole.MEMBER_PAYABLE)


SHARE = Ask("share", AskKind.PERCENT, "Private share, in percent", "100")


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """To each account that it could go to, the owner's first whom it names. Where it may be any of
    several owners', the first way asks whose."""
    moved = books.transaction(point.named("owner")[0])
    total = _total(_coded(books, moved, point.hint("lines")))
    try:
        accounts = owner_accounts(books, comes_in=total < 0, owner=point.hint("owner") or None)
    except NoOwners:
        return ()
    share = point.hint("share") or "100"
    named = point.hint("owner") and accounts[0].owner == point.hint("owner")
    asks = [] if named or len(accounts) == 1 else [_whose(share)]
    accounts = (*accounts, *_owed_to_director(books, moved, total))
    return (
        *asks,
        *(
            Option(
                ROUTE.id,
                {"account": account.code, "share": share},
                f"Move {_share_words(share)} to {account.name}",
                _reason(books, moved, account.name),
                asks=(SHARE,),
            )
            for account in accounts
        ),
    )


def _whose(share: str) -> Option:
    title = f"Move {_share_words(share)} to an owner's account: say whose"
    return Option(ROUTE.id, {"account": "", "share": share}, title, asks=(SHARE,))


def _owed_to_director(books: Books, moved: Transaction, total: Minor) -> tuple[Account, ...]:
    """Where a company's payment to its director may belong instead, because that much stands owed there on
    the day: a dividend, net pay, costs that they paid."""
    if books.client.entity is not Entity.COMPANY or total <= 0:
        return ()
    return tuple(
        account
        for account in books.with_role(*OWED_ROLES)
        if total <= (owed := _owed_on(books, account, moved))
        # Staff's net pay stands on the same account: a director's is known by the very sum.
        and (account.role is not AccountRole.PAYROLL_NET or total == owed)
    )


def _owed_on(books: Books, account: Account, moved: Transaction) -> Minor:
    """What stands owed there on the day, without the movement itself."""
    return -sum(
        line.amount
        for posted, line in books.lines_on(account.code)
        if posted.posting_date <= moved.posting_date and posted.id != moved.id
    )


def _share_words(share: str) -> str:
    return "it" if share == "100" else f"{share}% of it"


def _reason(books: Books, moved: Transaction, to: str) -> str:
    what = moved.memo or moved.reference or moved.id
    return f"{what} is the owner's own and not the business's: to {to}."


def _coded(books: Books, moved: Transaction, only: str = "") -> list[Line]:
    """What the money was coded to: neither bank nor cash, nor an owner's account already. *only*: the
    numbers of the lines that are the owner's, with the tax on them, where the others are not."""
    lines = [line for line in moved.lines if books.accounts[line.account].role not in MONEY_ROLES]
    if not only:
        return lines
    own = [line for line in lines if str(line.number) in only.split(",")]
    for tax in (x for x in lines if books.accounts[x.account].role is AccountRole.TAX):
        taxed = [x.amount for x in lines if x.tax_code == tax.tax_code and x is not tax]
        mine = sum(x.amount for x in own if x.tax_code == tax.tax_code)
        if mine and sum(taxed):
            own.append(tax._replace(amount=rounded(Fraction(tax.amount * mine, sum(taxed)))))
    return own


def _total(lines: Iterable[Line]) -> Minor:
    return sum(line.amount for line in lines)


def share_of(text: str) -> Fraction:
    """A percentage as it was keyed: above 0, at most 100. Raises BadEntry."""
    try:
        share = keyed_number(text.strip().removesuffix("%"))
    except ValueError:
        raise BadEntry([f"{text!r} is no share: write a percentage such as 60."]) from None
    if not 0 < share <= 100:
        raise BadEntry(["The private share is above 0 and at most 100 percent."])
    return share


def shared(lines: list[Line], share: Fraction) -> list[Line]:
    """The lines' private part: each rounded, the largest taking what is left of the whole."""
    wanted = rounded(_total(lines) * share / 100)
    parts = [line._replace(amount=rounded(line.amount * share / 100)) for line in lines]
    largest = max(range(len(parts)), key=lambda place: abs(parts[place].amount))
    over = wanted - _total(parts)
    parts[largest] = parts[largest]._replace(amount=parts[largest].amount + over)
    return [part for part in parts if part.amount]


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Move the point's transaction, or `share` percent of it, to the owner's `account`."""
    moved = books.transaction(point.named("owner")[0])
    if moved.id in books.corrected:
        raise NothingToDo(f"{moved.id} was put right already, by {books.corrected[moved.id]}.")
    coded = _coded(books, moved, point.hint("lines"))
    account = chosen_owner_account(
        books,
        settings.get("account") or point.hint("account"),
        comes_in=_total(coded) < 0,
        owner=point.hint("owner") or None,
    )
    code = account.code
    owed = _owed_to_director(books, moved, _total(coded))
    if account.role not in OWNER_ROLES and account not in owed:
        raise UnknownName("owner's account", code)
    share = share_of(settings.get("share") or point.hint("share") or "100")
    elsewhere = [line for line in coded if line.account != code]
    parts = shared(elsewhere, share) if elsewhere else []
    if not parts:
        raise NothingToDo(f"{moved.id} is on {account.name} already: nothing is left to move.")
    lines = [Line(0, code, _total(parts)), *opposite(parts)]
    correction = dated(books, moved, lines, profit_part(settings))
    entry = entry_of(new_entry(1), correction.posting_date, EntryKind.CORRECTING, moved)._replace(
        lines=correction.lines, memo=f"{moved.id} to {account.name}", corrects=moved.id
    )
    writer = AllocationWriter(books)
    on_control = [line for line in parts if line.party and books.accounts[line.account].is_control]
    if on_control:
        writer.free_all(open_items(books), moved.id)
        for line in on_control:
            writer.between(line.party or "", moved, entry, line.amount)
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(entry,),
        allocations=tuple(writer.rows),
        proposed_reason=_reason(books, moved, account.name),
        notes=correction.notes,
        prior_parts=correction.prior_parts,
        about=(moved.id,),
    )
