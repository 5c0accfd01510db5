"""capital-as-cost: one item over the client's capital limit in repairs or small costs.

Keeps quiet: about repeated services.
"""

import json
from collections import Counter, defaultdict
from collections.abc import Iterator, Sequence
from statistics import median

from corkpost.core.books import Account, Line, Transaction
from corkpost.core.checks import found_by
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.matching.names import words_of
from corkpost.core.money import Minor
from corkpost.core.points import Check, Family, Look, Point

CHECK = Check(
    "capital-as-cost",
    family=Family.CODING,
    routes=("adjust", "ask", "leave", "waive"),
    finds="things of lasting use among repairs and small costs",
    avoid=(
        "Things that last for years and cost more than the limit that we agreed go to the "
        "asset account, not to repairs."
    ),
)
SMALL = frozenset(
    "REPAIR REPAIRS MAINTENANCE UPKEEP SMALL TOOLS EQUIPMENT OFFICE GEAR SUNDRY GENERAL".split()
)
EXPLAINED_BY = ("bill-paid-direct", "duplicate-document", "owner-spending", "unusual-account",
                "payroll-not-cleared", "loan-repayment-as-cost")  # fmt: skip
LAND = frozenset("LAND PLOT SITE GRUNDSTUCK TERRAIN TERRENO GROND".split())
REPEATED = 3
UNUSUAL = 3
"""So many times what is usual there is no repeated service any more."""
KINDS = (TransactionKind.PURCHASE_BILL, TransactionKind.DIRECT_PAYMENT)


def find(look: Look) -> Iterator[Point]:
    books = look.books
    limit = books.capital_item
    assets = books.with_role(AccountRole.FIXED_ASSET)
    if not limit or not assets:
        return
    small = {
        account.code
        for account in books.tables.accounts
        if account.role is AccountRole.REPAIRS
        or (account.role is AccountRole.ORDINARY and words_of(account.name) & SMALL)
    }
    rows = [
        (posted, line)
        for posted in books.tables.transactions
        if posted.kind in KINDS
        and posted.change is None
        and posted.id not in books.corrected
        and posted.id not in books.reversed_by
        for line in posted.lines
        if line.account in small and line.amount > 0
    ]
    same = {
        code: point.named("party")[0]
        for point in found_by(look, "duplicate-party")
        for code in point.named("party")
    }
    sums: dict[tuple[str | None, str], list[Minor]] = defaultdict(list)
    for posted, line in rows:
        who = same.get(posted.party or "", posted.party)
        sums[who or posted.memo, line.account].append(line.amount)
    told = {
        name for check in EXPLAINED_BY for p in found_by(look, check) for name in p.transactions
    }
    for posted, line in rows:
        if posted.id in told:
            continue
        who = same.get(posted.party or "", posted.party)
        usual = sums[who or posted.memo, line.account]
        repeated = len(usual) >= REPEATED and line.amount < UNUSUAL * median(usual)
        if line.amount < limit or repeated:
            continue
        account = books.accounts[line.account]
        likely = _likely_asset(look, assets, posted, line)
        words = books.client.currency.words
        yield CHECK.point(
            books,
            subjects={"item": (posted.id,)},
            amount=line.amount,
            certainty=0.82,
            summary=(
                f"{words(line.amount)} to {books.party_name(posted.party)} on "
                f"{posted.posting_date:%-d %B %Y} went to {account.name}; from {words(limit)} on it may "
                "be something of lasting use."
            ),
            short=f"{posted.reference or posted.memo or posted.id}, {account.name}",
            because=(f"over the capital limit of {words(limit)}", "not a repeated service"),
            hints={
                "answers": posted.id,
                "asks": "account",
                "account": likely.code,
                "lines": json.dumps([["", line.amount, None], [line.account, -line.amount, None]]),
                "date": posted.posting_date.isoformat(),
                "title": "Bring it to an asset account",
                "reason": f"{posted.reference or posted.id} is of lasting use.",
            },
        )


def _likely_asset(
    look: Look, assets: Sequence[Account], posted: Transaction, line: Line
) -> Account:
    """The asset account whose name shares most with what is known of the buy; else the one that was
    bought on most often. Land is never repaired or bought in small things."""
    books = look.books
    texts = (posted.memo, line.description, books.accounts[line.account].name)
    said = words_of(" ".join([*filter(None, texts), books.party_name(posted.party)]))
    bought = Counter(x.account for t in books.tables.transactions for x in t.lines if x.amount > 0)

    def fits(account: Account) -> tuple[bool, int, int, str]:
        name = words_of(account.name)
        return (not name & LAND, len(name & said), bought[account.code], account.code)

    return max(assets, key=fits)
