"""Fixed assets to their register: what each account has, against what each asset should stand at.

The register says what should be written off by the method of each asset, not what was posted: depreciation
that was not run, or was run wrong, keeps the two apart.
"""

from collections.abc import Iterator
from datetime import date

from corkpost.core.assets.register import Registered, depreciation_account, register
from corkpost.core.books import Books
from corkpost.core.control_proof import Cause
from corkpost.core.kinds import AccountRole
from corkpost.core.tie_outs.accounts import balances_of, is_used, parts_of
from corkpost.core.tie_outs.tie_out import Part, TieOut

ORDER = 7


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    roles = (AccountRole.FIXED_ASSET, AccountRole.ACCUMULATED_DEPRECIATION)
    accounts = [own for own in books.with_role(*roles) if is_used(books, own, as_at)]
    if not accounts:
        return
    balances = balances_of(books, (own.code for own in accounts), as_at)
    proof = TieOut(
        id="fixed-assets",
        kind="fixed-assets",
        title="Fixed assets, less depreciation",
        accounts=tuple(balances),
        books=sum(balances.values()),
        outside=None,
        of_books=parts_of(books, balances),
        keyed=True,
    )
    rows = [row for row in register(books, as_at) if row.disposed is None]
    if not rows:
        yield proof._replace(
            lacks="The register of fixed assets is empty: take it in, build it from the books, or key "
            "the sum of the client's list."
        )
        return
    should = sum(row.cost - row.should for row in rows)
    yield proof._replace(
        outside=should,
        of_outside=tuple(
            Part(f"{row.asset.name}, {row.asset.method}", row.cost - row.should) for row in rows
        ),
        causes=tuple(_causes(books, rows, balances)),
        evidence=(f"the register, {len(rows)} assets",),
        apart=_apart(books, rows, balances),
    )


def _expected(books: Books, rows: list[Registered]) -> dict[str, int]:
    """What each account should have, debit positive."""
    found: dict[str, int] = {}
    for row in rows:
        found[row.asset.account] = found.get(row.asset.account, 0) + row.cost
        off = depreciation_account(books, row.asset)
        if off:
            found[off] = found.get(off, 0) - row.should
    return found


def _apart(books: Books, rows: list[Registered], balances: dict[str, int]) -> int | None:
    """The largest difference of one account, where those of several hide each other; else None."""
    expected = _expected(books, rows)
    differences = [balances.get(code, 0) - expected.get(code, 0) for code in {*balances, *expected}]
    if sum(differences) or not any(differences):
        return None
    return max(differences, key=abs)


def _causes(books: Books, rows: list[Registered], balances: dict[str, int]) -> Iterator[Cause]:
    expected = _expected(books, rows)
    for code in sorted({*balances, *expected}):
        difference = balances.get(code, 0) - expected.get(code, 0)
        if difference:
            name = books.account(code).name
            yield Cause(f"{code} {name} has other than its assets in the register", difference, ())
    due = [row for row in rows if row.due]
    if due:
        yield Cause(
            f"depreciation by the day that is not posted, of {len(due)} assets",
            sum(row.due for row in due),
            (),
        )
