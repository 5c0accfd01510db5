"""The register as at a day: each asset with what stands on its accounts and what should.

What a client's own bookkeeper wrote off names no asset: it is counted among those of the account whose past
is not told, by what each should have written off.
"""

import re
from collections import defaultdict
from collections.abc import Iterator, Mapping, Sequence
from datetime import date
from fractions import Fraction
from typing import NamedTuple

from corkpost.core.assets.depreciation import Added, Method, written_off
from corkpost.core.books import Account, Books, Line, Transaction
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.money import Minor, in_shares
from corkpost.core.refusals import BadEntry, NothingToDo, UnknownName
from corkpost.core.row_kinds import asset_moves, assets, standing
from corkpost.core.row_kinds.asset_moves import AssetMove, AssetMoved
from corkpost.core.row_kinds.assets import FixedAsset

LAND = frozenset({"land", "site", "grounds"})
BUILDINGS = frozenset({"building", "buildings", "premises", "property", "workshop", "house"})


class Registered(NamedTuple):
    """An asset as at a day. *cost* with what was added, *depreciation* as it stands, positive both; nil
    once it is disposed of. *should*: what its method would have written off."""

    asset: FixedAsset
    cost: Minor
    depreciation: Minor
    should: Minor
    disposed: date | None = None

    @property
    def carrying(self) -> Minor:
        return self.cost - self.depreciation

    @property
    def due(self) -> Minor:
        """What is still to be written off by the day; below nil where too much is."""
        return self.should - self.depreciation


class KeepAssets(NamedTuple):
    """Assets put into the register, or put right in it by their names."""

    assets: tuple[FixedAsset, ...]


def assets_of(books: Books) -> tuple[FixedAsset, ...]:
    """Every asset of the register, by name."""
    return tuple(sorted(standing(assets.KIND, books), key=lambda row: row.asset))


def asset_named(books: Books, name: str) -> FixedAsset:
    """The asset of that id, or of that name where it is the only one. Raises UnknownName."""
    every = assets_of(books)
    found = [row for row in every if row.asset == name] or [
        row for row in every if row.name.casefold() == name.casefold()
    ]
    if len(found) != 1:
        raise UnknownName("asset", name)
    return found[0]


def moves_of(books: Books) -> Mapping[str, tuple[AssetMove, ...]]:
    """What was done with each asset, by its id, in the order of the days."""
    found: dict[str, list[AssetMove]] = defaultdict(list)
    for row in sorted(standing(asset_moves.KIND, books), key=lambda row: row.day):
        found[row.asset].append(row)
    return {name: tuple(rows) for name, rows in found.items()}


def register(books: Books, as_at: date) -> tuple[Registered, ...]:
    """Every asset that was bought by the end of *as_at*."""
    moves = moves_of(books)
    own = [row for row in assets_of(books) if row.bought <= as_at]
    should = {row.asset: _should(books, row, moves.get(row.asset, ()), as_at) for row in own}
    stands = _stands(books, own, moves, should, as_at)
    found = []
    for row in own:
        done = [move for move in moves.get(row.asset, ()) if move.day <= as_at]
        gone = next((move.day for move in done if move.what is AssetMoved.DISPOSAL), None)
        if gone:
            found.append(Registered(row, 0, 0, 0, gone))
            continue
        cost = row.cost + sum(added.amount for added in additions(done))
        found.append(Registered(row, cost, stands[row.asset], should[row.asset]))
    return tuple(found)


def additions(moves: Sequence[AssetMove]) -> tuple[Added, ...]:
    """What was added to an asset's cost or value."""
    return tuple(
        Added(move.day, move.amount)
        for move in moves
        if move.what in (AssetMoved.ADDITION, AssetMoved.REVALUATION)
    )


def units_used(moves: Sequence[AssetMove], as_at: date) -> Fraction:
    """The units that were used up to the day, as they were told last."""
    told = [move.units for move in moves if move.units is not None and move.day <= as_at]
    return Fraction(told[-1]) if told else Fraction(0)


def _should(books: Books, row: FixedAsset, moves: Sequence[AssetMove], as_at: date) -> Minor:
    units = units_used(moves, as_at)
    return written_off(row, as_at, books.calendar, additions(moves), units)


def _stands(
    books: Books,
    own: Sequence[FixedAsset],
    moves: Mapping[str, tuple[AssetMove, ...]],
    should: Mapping[str, Minor],
    as_at: date,
) -> Mapping[str, Minor]:
    """What is written off of each asset: told, moved by us, and its part of the account's rest."""
    stands = {row.asset: 0 for row in own}
    untold: dict[str, list[FixedAsset]] = defaultdict(list)
    left = _not_ours(books, own, moves, as_at)
    for row in own:
        stands[row.asset] += sum(
            move.amount
            for move in moves.get(row.asset, ())
            if move.what is AssetMoved.DEPRECIATION and move.day <= as_at
        )
        account = depreciation_account(books, row)
        if account is None:
            continue
        if row.depreciation is not None and (row.depreciated_to or row.bought) <= as_at:
            stands[row.asset] += row.depreciation
            left[account] -= row.depreciation
        elif not _is_gone(moves.get(row.asset, ()), as_at):
            untold[account].append(row)
    for account, rows in untold.items():
        # One account of depreciation often serves assets of one sort alone: its name says which.
        most = max(_in_common(books, row, account) for row in rows)
        near = [row for row in rows if _in_common(books, row, account) == most]
        weights = {row.asset: Fraction(max(should[row.asset], 0)) for row in near}
        if left[account] > 0 and any(weights.values()):
            for name, part in in_shares(left[account], weights).items():
                stands[name] += part
    return stands


def _is_gone(moves: Sequence[AssetMove], as_at: date) -> bool:
    return any(move.what is AssetMoved.DISPOSAL and move.day <= as_at for move in moves)


def _not_ours(
    books: Books,
    own: Sequence[FixedAsset],
    moves: Mapping[str, tuple[AssetMove, ...]],
    as_at: date,
) -> dict[str, Minor]:
    """By account: what is written off there that no move of the register brought, positive."""
    ours = {move.entry for rows in moves.values() for move in rows}
    codes = {account for row in own if (account := depreciation_account(books, row))}
    return {
        code: -sum(
            line.amount
            for posted, line in books.lines_on(code)
            if posted.posting_date <= as_at and posted.id not in ours
        )
        for code in codes
    }


def depreciation_account(books: Books, asset: FixedAsset) -> str | None:
    """Where it is written off: the account that it names, the only one, or the one named most alike.
    None where the chart has none."""
    if asset.depreciation_account:
        return asset.depreciation_account
    found = books.with_role(AccountRole.ACCUMULATED_DEPRECIATION)
    if not found:
        return None

    def nearness(account: Account) -> tuple[int, bool, str]:
        common = _in_common(books, asset, account.code)
        return (-common, account.code < asset.account, account.code)

    return min(found, key=nearness).code


def _in_common(books: Books, asset: FixedAsset, code: str) -> int:
    """How many words the asset's account and another have in common."""
    return len(_words_of(books, asset.account) & _words_of(books, code))


def _words_of(books: Books, code: str) -> set[str]:
    account = books.accounts.get(code)
    return set(re.findall(r"\w+", account.name.casefold())) if account else set()


def plan_keep_assets(books: Books, wanted: KeepAssets) -> Plan:
    """The assets into the register, or with what is otherwise now. Raises BadEntry with every fault, or
    NothingToDo."""
    faults = [f"{row.asset}: {fault}" for row in wanted.assets for fault in _faults(books, row)]
    names = [row.asset for row in wanted.assets]
    faults += [f"{name}: it stands twice." for name in set(names) if names.count(name) > 1]
    if faults:
        raise BadEntry(faults)
    known = {row.asset: row._replace(change=None) for row in assets_of(books)}
    rows = tuple(row for row in wanted.assets if known.get(row.asset) != row)
    if not rows:
        raise NothingToDo("The register has these assets just so already.")
    count = f"{len(rows)} assets" if len(rows) > 1 else rows[0].name
    return Plan(
        kind=ChangeKind.ENTRY,
        route="register-assets",
        entries=(),
        allocations=(),
        more={"assets": rows},
        proposed_reason=f"{count} in the register of fixed assets.",
    )


def _faults(books: Books, row: FixedAsset) -> Iterator[str]:
    account = books.accounts.get(row.account)
    if account is None or account.role is not AccountRole.FIXED_ASSET:
        yield f"{row.account!r} is no account of fixed assets: give it that role first, or name one."
    yield from _faults_of_method(row)
    if row.cost <= 0 or not 0 <= row.residual <= row.cost:
        yield "its cost is more than nil, and what it is worth in the end no more than that."
    if row.depreciation is not None and not 0 <= row.depreciation <= row.cost:
        yield "no more than its cost can be written off."
    other = row.depreciation_account
    if other and other not in books.accounts:
        yield f"there is no account {other!r} in the chart."


def _faults_of_method(row: FixedAsset) -> Iterator[str]:
    if row.method not in set(Method):
        yield f"there is no method {row.method!r}: {', '.join(Method)}."
    elif row.method == Method.REDUCING_BALANCE and not row.rate:
        yield "say by which rate a year, in percent, it is written off."
    elif row.method == Method.STRAIGHT_LINE and not (row.life or row.rate):
        yield "say over how many years it is written off."
    elif row.method == Method.UNITS and not row.life:
        yield "say how many units it lasts for."
    if row.life is not None and row.life <= 0:
        yield "its life is more than nil."
    if row.rate is not None and not 0 < row.rate <= 100:
        yield "its rate is above nil and at most 100 percent."


def offered(books: Books) -> tuple[FixedAsset, ...]:
    """What the books bought on the accounts of fixed assets and the register does not have: one entry, one
    asset, with the method and life of the last one on its account."""
    known = assets_of(books)
    entries = {row.entry for row in known} | {
        move.entry for rows in moves_of(books).values() for move in rows
    }
    rest = _not_named(books, known)
    found: list[FixedAsset] = []
    for account in books.with_role(AccountRole.FIXED_ASSET):
        like = next((row for row in reversed(known) if row.account == account.code), None)
        for posted, line in books.lines_on(account.code):
            taken = posted.id in entries or posted.id in books.never_was
            if line.amount <= 0 or taken or rest[account.code] < line.amount:
                continue
            rest[account.code] -= line.amount
            usual = like or _usual(books, account)
            found.append(
                usual._replace(
                    asset=f"FA-{len(known) + len(found) + 1}",
                    name=_name_of(books, posted, line),
                    bought=posted.day,
                    cost=line.amount,
                    residual=0,
                    depreciation=None,
                    depreciated_to=None,
                    entry=posted.id,
                    change=None,
                )
            )
    return tuple(found)


def _usual(books: Books, account: Account) -> FixedAsset:
    """How an asset of the account is written off as a rule, by the words of its name."""
    words = _words_of(books, account.code)
    method = Method.NONE if words & LAND else Method.STRAIGHT_LINE
    years = 50 if words & BUILDINGS else 5
    life = None if method is Method.NONE else Fraction(years)
    return FixedAsset("", account.code, "", date.min, 0, method, life)


def _name_of(books: Books, posted: Transaction, line: Line) -> str:
    """What was bought, in the words of its line or entry; its account's where those are of several."""
    accounts = {own.account for own in posted.lines if own.amount > 0}
    if line.description:
        return line.description
    if posted.kind is TransactionKind.OPENING or len(accounts) > 2:
        return books.account(line.account).name
    if posted.party:
        return f"{books.party_name(posted.party)} {posted.reference or ''}".strip()
    return posted.memo or books.account(line.account).name


def _not_named(books: Books, known: Sequence[FixedAsset]) -> dict[str, Minor]:
    """By account: its balance less the cost of the assets in the register that name no entry."""
    last = books.reach.last_day
    found = {}
    held = {row.asset.asset for row in register(books, last) if row.disposed is None}
    for account in books.with_role(AccountRole.FIXED_ASSET):
        balance = sum(line.amount for _, line in books.lines_on(account.code))
        cost = sum(row.cost for row in known if row.account == account.code and row.asset in held)
        found[account.code] = balance - cost
    return found
