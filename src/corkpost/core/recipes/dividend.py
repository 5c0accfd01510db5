"""A company's dividend, to its owners by share (handbook, section 3)."""

from fractions import Fraction

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.books import Books
from corkpost.core.entries import EntryLine
from corkpost.core.kinds import AccountRole, AccountType, Entity, PartyKind
from corkpost.core.money import in_shares
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told, account_told
from corkpost.core.refusals import BadEntry
from corkpost.core.trial_balance import BROUGHT_FORWARD, Closing, balances_at, profit_of


def _make(books: Books, told: Told) -> Made:
    if books.client.entity is not Entity.COMPANY:
        raise BadEntry(["Only a company pays a dividend: what another's owner takes is drawings."])
    on, amount = told.day("date"), told.amount("amount")
    reserves = distributable(books, told)
    words = books.client.currency.format_amount
    above = told.text("above")
    if amount > reserves and not above:
        raise BadEntry(
            [
                f"amount: {words(amount)} is more than the {words(max(0, reserves))} that may be paid out. "
                "Say why it may be above the reserves (above), or pay less."
            ]
        )
    shares = _shares(books, told)
    parts = in_shares(amount, shares)
    lines = [EntryLine(told.code("account"), amount)]
    lines += [_owed(books, told, owner, part) for owner, part in parts.items()]
    names = ", ".join(books.party_name(owner) for owner in parts)
    reason = f"Dividend to {names}." + (f" Above the reserves: {above}" if above else "")
    working = (f"reserves to be paid out of: {words(reserves)}", _by_share(books, parts))
    warnings = ("It is more than the reserves that may be paid out.",) if amount > reserves else ()
    return Made((adjusting(on, reason, *lines),), reason, working, warnings=warnings)


def distributable(books: Books, told: Told) -> int:
    """Retained earnings, what earlier years brought and the year's profit, less dividends; positive."""
    sums = balances_at(books, told.day("date"), closing=Closing.OUT)
    kept = [account.code for account in books.with_role(AccountRole.RETAINED_EARNINGS)]
    paid = [account.code for account in books.with_role(AccountRole.DIVIDENDS)]
    brought = sum(sums.get(code, 0) for code in (*kept, *paid, BROUGHT_FORWARD))
    return profit_of(sums, books) - brought


def _shares(books: Books, told: Told) -> dict[str, Fraction]:
    owner = told.maybe_code("owner")
    if owner:
        return {owner: Fraction(1)}
    owners = [party for party in books.parties.values() if party.kind is PartyKind.OWNER]
    shares = {party.code: party.share for party in owners if party.share}
    if not shares and len(owners) == 1:
        return {owners[0].code: Fraction(1)}
    if not shares:
        raise BadEntry(["owner: the books know no owner with a share: say whose it is."])
    return shares


def _by_share(books: Books, parts: dict[str, int]) -> str:
    words = books.client.currency.format_amount
    return "; ".join(f"{books.party_name(owner)} {words(part)}" for owner, part in parts.items())


def _owed(books: Books, told: Told, owner: str, part: int) -> EntryLine:
    """The owner's loan account, or that on which dividends are owed."""
    if told.text("pay_to") == "owed":
        named = told.text("owed_on")
        if named:
            return EntryLine(account_told(books, named), -part, party=owner)
        found = [
            account
            for account in books.tables.accounts
            if account.type is AccountType.LIABILITY and "dividend" in account.name.casefold()
        ]
        if len(found) != 1:
            raise BadEntry(["owed_on: say on which account dividends are owed."])
        return EntryLine(found[0].code, -part, party=owner)
    loans = books.with_role(AccountRole.OWNER_LOAN)
    own = [account for account in loans if account.owner == owner] or list(loans[:1])
    if not own:
        raise BadEntry(["pay_to: no account has the role owner-loan: say `owed`."])
    return EntryLine(own[0].code, -part)


RECIPE = Recipe(
    "dividend",
    15,
    "Dividend",
    "What a company pays its owners out of its reserves: to their loan accounts, or owed.",
    (
        Ask("date", AskKind.DAY, "On the day", needed=True),
        Ask("amount", AskKind.AMOUNT, "Amount, all together", needed=True),
        Ask("owner", AskKind.PARTY, "To one owner alone: all by share unless told"),
        Ask(
            "pay_to",
            AskKind.CHOICE,
            "It goes to",
            "owner-loan",
            (Choice("owner-loan", "the owner's loan account"), Choice("owed", "dividends owed")),
        ),
        Ask("owed_on", AskKind.ACCOUNT, "Dividends are owed on"),
        Ask(
            "account",
            AskKind.ACCOUNT,
            "Dividends",
            needed=True,
            roles=(AccountRole.DIVIDENDS,),
        ),
        Ask("above", AskKind.TEXT, "Why it may be above the reserves"),
    ),
    _make,
)
