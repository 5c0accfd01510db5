"""capital-as-cost: one item over the client's capital limit in repairs or small costs.

Keeps quiet: about repeated services.
"""

from collections import defaultdict
from collections.abc import Iterator, Sequence
from statistics import median

from corkpost.core.books import Account, Books, Line, Transaction
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.matching.names import words_of
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "capital-as-cost",
    family=Family.CODING,
    routes=("adjust", "ask", "leave", "waive"),
    after=(
        "duplicate-party",
        "bill-paid-direct",
        "duplicate-document",
        "owner-spending",
        "unusual-account",
        "payroll-not-cleared",
        "loan-repayment-as-cost",
    ),
    finds="things of lasting use among repairs and small costs",
    avoid=(
        "Things that last for years and cost more than the limit that we agreed go to the "
        "asset account, not to repairs."
    ),
)
SMALL = frozenset(
    "REPAIR REPAIRS MAINTENANCE UPKEEP SMALL TOOLS EQUIPMENT OFFICE GEAR SUNDRY GENERAL".split()
)
LAND = frozenset("LAND PLOT SITE GRUNDSTUCK TERRAIN TERRENO GROND".split())
REPEATED = 3
UNUSUAL = 3
"""So many times what is usual there is no repeated service any more."""
KINDS = (TransactionKind.PURCHASE_BILL, TransactionKind.DIRECT_PAYMENT)


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
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
    whose = books.rows_by("small things", lambda posted: _whose(posted, small), *KINDS)
    large = books.rows_by(
        "large among them",
        lambda posted: (True,) if any(x.amount >= limit for x in _bought(posted, small)) else (),
        *KINDS,
        ground=limit,
    )
    same = {
        code: point.named("party")[0]
        for point in run.found_before(CHECK, "duplicate-party")
        for code in point.named("party")
    }
    alike: dict[str | None, list[str]] = defaultdict(list)
    for code, kept in same.items():
        alike[kept].append(code)
    explained = run.found_before(
        CHECK, *(name for name in CHECK.after if name != "duplicate-party")
    )
    told = {name for point in explained for name in point.transactions}
    usual: dict[tuple[str | None, str], float] = {}
    for posted, line in ((t, x) for t in large.get(True, ()) for x in _bought(t, small)):
        if line.amount < limit or posted.id in told or books.is_answered(posted.id):
            continue
        who = same.get(posted.party or "", posted.party)
        key = who or posted.memo, line.account
        if key not in usual:
            payees = [*alike.get(who, ()), *([who] if who not in same else [])]
            payees = payees if who else [posted.memo]
            rows = [one for payee in payees for one in whose.get((payee, line.account), ())]
            usual[key] = _usual(books, rows, line.account)
        if usual[key] and line.amount < UNUSUAL * usual[key]:
            continue
        account = books.accounts[line.account]
        likely = _likely_asset(run, assets, posted, line)
        words = books.client.currency.format_amount
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
            remedy=DraftEntry(
                on=posted.posting_date,
                sides=(Side("", line.amount), Side(line.account, -line.amount)),
                title="Bring it to an asset account",
                reason=f"{posted.reference or posted.id} is of lasting use.",
                asks=True,
                account=likely.code,
                answers=posted.id,
            ),
        )


def _bought(posted: Transaction, small: set[str]) -> list[Line]:
    if posted.change is not None:
        return []
    return [line for line in posted.lines if line.account in small and line.amount > 0]


def _whose(posted: Transaction, small: set[str]) -> set[tuple[str | None, str]]:
    """From whom (else for what) it was bought, on each such account."""
    return {(posted.party or posted.memo, line.account) for line in _bought(posted, small)}


def _usual(books: Books, rows: Sequence[Transaction], account: str) -> float:
    """What these usually put on the account; nil where they are too few to repeat."""
    live = [one for one in rows if not books.is_answered(one.id)]
    sums = [x.amount for one in live for x in one.lines if x.account == account and x.amount > 0]
    return median(sums) if len(sums) >= REPEATED else 0


def _likely_asset(
    run: CheckRun, assets: Sequence[Account], posted: Transaction, line: Line
) -> Account:
    """The asset account whose name shares most with what is known of the buy; else the one that was
    bought on most often. Land is never repaired or bought in small things."""
    books = run.books
    texts = (posted.memo, line.description, books.accounts[line.account].name)
    said = words_of(" ".join([*filter(None, texts), books.party_name(posted.party)]))

    def fits(account: Account) -> tuple[bool, int, int, str]:
        name = words_of(account.name)
        bought = sum(line.amount > 0 for _, line in books.lines_on(account.code))
        return (not name & LAND, len(name & said), bought, account.code)

    return max(assets, key=fits)
