"""An asset sold or scrapped: cost and depreciation go, proceeds come, the rest is gain or loss."""

from corkpost.core.asks import Ask, AskKind
from corkpost.core.assets.register import Registered, depreciation_account, register
from corkpost.core.books import Account, Books
from corkpost.core.change import new_entry
from corkpost.core.entries import EntryLine
from corkpost.core.keying import keyed_amount
from corkpost.core.kinds import AccountRole, TaxKind
from corkpost.core.money import NotAnAmount, rounded
from corkpost.core.recipes.recipe import Made, Recipe, adjusting
from corkpost.core.recipes.told import Told
from corkpost.core.refusals import BadEntry
from corkpost.core.row_kinds.asset_moves import AssetMove, AssetMoved
from corkpost.core.tax import tax_account


def _make(books: Books, told: Told) -> Made:
    on, (name, *others) = told.day("date"), told.names("asset")
    if others:
        raise BadEntry(["asset: one at a time is disposed of."])
    row = next((row for row in register(books, on) if row.asset.asset == name), None)
    if row is None:
        raise BadEntry([f"asset: {name} was not there yet on {on:%-d %B %Y}."])
    if row.disposed:
        raise BadEntry([f"asset: {row.asset.name} was disposed of on {row.disposed:%-d %B %Y}."])
    proceeds = told.maybe_amount("proceeds") or 0
    lines = list(_lines(books, told, row, proceeds))
    gain = proceeds - row.carrying
    words = books.client.currency.format_amount
    what = "gain" if gain > 0 else "loss"
    if gain:
        lines.append(EntryLine(_result_account(books, told), -gain, description=f"{what} on it"))
    reason = f"{row.asset.name} {'sold' if proceeds else 'scrapped'}."
    working = (
        f"cost {words(row.cost)} less {words(row.depreciation)} written off is "
        f"{words(row.carrying)}; proceeds {words(proceeds)}: "
        + (f"{what} {words(gain)}" if gain else "neither gain nor loss"),
    )
    move = AssetMove(name, on, AssetMoved.DISPOSAL, row.cost, new_entry(1))
    return Made(
        (adjusting(on, reason, *lines),),
        reason,
        working,
        rows={"asset_moves": (move,)},
        warnings=tuple(_warnings(books, row)),
    )


def _warnings(books: Books, row: Registered) -> list[str]:
    if not row.due:
        return []
    words = books.client.currency.format_amount(row.due)
    return [
        f"{words} of depreciation up to this day is not posted: as it stands it is part of the loss."
    ]


def _lines(books: Books, told: Told, row: Registered, proceeds: int) -> list[EntryLine]:
    name = row.asset.name
    lines = [EntryLine(row.asset.account, -row.cost, description=name)]
    off = depreciation_account(books, row.asset)
    if row.depreciation and off:
        lines.insert(0, EntryLine(off, row.depreciation, description=name))
    if proceeds:
        code, owed = _tax_on(books, told, proceeds)
        party = told.maybe_code("party")
        lines.insert(0, EntryLine(_proceeds_account(books, told), proceeds + owed, party=party))
        if owed:
            tax = books.taxes.get(code or "")
            account = tax_account(books, tax) if tax else _any_tax_account(books)
            lines.append(EntryLine(account, -owed, tax_code=code))
    return lines


def _tax_on(books: Books, told: Told, proceeds: int) -> tuple[str | None, int]:
    """The code and the sum of the tax that comes on top: told by its code, or as the sum itself."""
    text = told.text("tax")
    tax = books.taxes.get(text)
    if tax is not None:
        bears = tax.kind is not TaxKind.OUTSIDE
        return tax.code, rounded(proceeds * tax.rate / 100) if bears else 0
    try:
        return None, keyed_amount(text, books.client.currency) if text else 0
    except NotAnAmount:
        raise BadEntry([f"tax: {text!r} is neither a tax code of the books nor a sum."]) from None


def _any_tax_account(books: Books) -> str:
    accounts = books.with_role(AccountRole.TAX)
    if not accounts:
        raise BadEntry(["tax: no account has the role tax."])
    return accounts[0].code


def _proceeds_account(books: Books, told: Told) -> str:
    """Where the proceeds come in, or stand already: the first bank unless told. Raises BadEntry where there
    is none."""
    code = told.maybe_code("into")
    if code:
        return code
    banks = books.with_role(AccountRole.BANK)
    if not banks:
        raise BadEntry(["into: say on which account the proceeds are."])
    return banks[0].code


def _result_account(books: Books, told: Told) -> str:
    code = told.maybe_code("account")
    if code:
        return code

    def is_named(account: Account) -> bool:
        return account.is_profit_and_loss and "dispos" in account.name.casefold()

    found = [account for account in books.tables.accounts if is_named(account)]
    found += books.with_role(AccountRole.DEPRECIATION)
    if not found:
        raise BadEntry(["account: say where the gain or loss belongs."])
    return found[0].code


RECIPE = Recipe(
    "disposal",
    5,
    "Disposal of an asset",
    "An asset sold or scrapped: it leaves its accounts, and what is left over is gain or loss.",
    (
        Ask("asset", AskKind.ASSET, "Which asset", needed=True),
        Ask("date", AskKind.DAY, "On the day", needed=True),
        Ask("proceeds", AskKind.AMOUNT, "Proceeds, net of tax"),
        Ask("tax", AskKind.TEXT, "Tax on the sale: its code, or the sum"),
        Ask("into", AskKind.ACCOUNT, "Account that the proceeds are on: the bank unless told"),
        Ask("party", AskKind.PARTY, "Who bought it"),
        Ask("account", AskKind.ACCOUNT, "Gain or loss goes to"),
    ),
    _make,
)
