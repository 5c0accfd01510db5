"""capital-as-cost: one item over the client's capital limit in repairs or small costs.

Keeps quiet: about repeated services, and what its text calls one.
"""

from bisect import bisect_left, bisect_right
from collections import defaultdict
from collections.abc import Iterator, Sequence
from statistics import median

from corkpost.core.books import Account, Books, Line, Transaction
from corkpost.core.evidence.names import words_of
from corkpost.core.evidence.private_words import telling
from corkpost.core.evidence.said import said_of
from corkpost.core.evidence.services import is_service
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.money import Minor
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "capital-as-cost",
    family=Family.CODING,
    routes=("adjust", "ask", "leave", "waive"),
    after=("duplicate-party",),
    follows=(
        "transfer-miscoded",
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
NOTHING_SAID = 0.6
UNUSUAL = 3
"""So many times what is usual there is no repeated service any more."""
KINDS = (TransactionKind.PURCHASE_BILL, TransactionKind.DIRECT_PAYMENT)


def find(run: CheckRun) -> Iterator[Point]:
    books, limit = run.books, run.books.capital_item
    assets = books.with_role(AccountRole.FIXED_ASSET)
    if not limit:
        return
    small = _small_accounts(books)
    usual = _Usual(run, small)
    large = books.rows_by(
        "large among them",
        lambda posted: (True,) if any(x.amount >= limit for x in _bought(posted, small)) else (),
        *KINDS,
        ground=limit,
    )
    for posted in large.get(True, ()):
        if books.is_answered(posted.id):
            continue
        # What is done lasts no longer than its year, whatever it costs.
        if is_service(said_of(books, posted)):
            continue
        for line in _bought(posted, small):
            if line.amount < limit or usual.explains(posted, line):
                continue
            said = bool(_bought_by_text(books, posted, line))
            # Where no text says what was bought, the payee's name may say what it sells.
            if said or not is_service(books.party_name(posted.party)):
                likely = _likely_asset(run, assets, posted, line) if assets else None
                yield _point(run, limit, likely, posted, line, says_what=said)


def _small_accounts(books: Books) -> set[str]:
    """Where repairs and small things are put."""
    return {
        account.code
        for account in books.tables.accounts
        if account.role is AccountRole.REPAIRS
        or (account.role is AccountRole.ORDINARY and words_of(account.name) & SMALL)
    }


class _Usual:
    """What each payee usually puts on each of these accounts, whatever name they were keyed under."""

    def __init__(self, run: CheckRun, small: set[str]) -> None:
        self._books = run.books
        self._bought = run.books.rows_by(
            "small things", lambda posted: _whose(posted, small), *KINDS
        )
        self._kept_as = {
            code: point.named("party")[0]
            for point in run.found_before(CHECK, "duplicate-party")
            for code in point.named("party")
        }
        self._names: dict[str, list[str]] = defaultdict(list)
        for code, kept in self._kept_as.items():
            self._names[kept].append(code)
        self._known: dict[tuple[str | None, str], tuple[float, list[Minor]]] = {}

    def explains(self, posted: Transaction, line: Line) -> bool:
        """Whether such a sum of such a payee is a repeated service."""
        who = self._kept_as.get(posted.party or "", posted.party)
        key = who or posted.memo, line.account
        if key not in self._known:
            names = self._names.get(who, [who]) if who else [posted.memo]
            rows = [
                transaction
                for name in names
                for transaction in self._bought.get((name, line.account), ())
            ]
            self._known[key] = _usual(self._books, rows, line.account)
        usual, sums = self._known[key]
        low, high = line.amount * 6 // 7, line.amount * 8 // 7
        alike = bisect_right(sums, high) - bisect_left(sums, low)
        return bool(usual) and (line.amount < UNUSUAL * usual or alike >= REPEATED)


def _point(
    run: CheckRun,
    limit: Minor,
    likely: Account | None,
    posted: Transaction,
    line: Line,
    *,
    says_what: bool,
) -> Point:
    books = run.books
    account = books.accounts[line.account]
    words = books.client.currency.format_amount
    return CHECK.point(
        books,
        subjects={"item": (posted.id,)},
        amount=line.amount,
        certainty=0.82 if says_what else NOTHING_SAID,
        summary=(
            f"{words(line.amount)} to {books.party_name(posted.party)} on "
            f"{posted.posting_date:%-d %B %Y} went to {account.name}; from {words(limit)} on it may "
            "be something of lasting use."
        ),
        short=f"{posted.reference or posted.memo or posted.id}, {account.name}",
        because=(f"over the capital limit of {words(limit)}", "not a repeated service"),
        against=() if says_what else ("no text says what was bought",),
        remedy=DraftEntry(
            on=posted.posting_date,
            sides=(Side("", line.amount), Side(line.account, -line.amount)),
            title="Bring it to an asset account",
            reason=f"{posted.reference or posted.id} is of lasting use.",
            asks=True,
            account=likely.code if likely else "",
            answers=posted.id,
        ),
    )


def _bought_by_text(books: Books, posted: Transaction, line: Line) -> frozenset[str]:
    """The words that say what was bought: those of the texts that are neither the payee's nor a number."""
    said = telling(f"{said_of(books, posted)} {line.description or ''}")
    who = words_of(books.party_name(posted.party)) if posted.party else frozenset()
    mine = {word for word in said if not any(sign.isdigit() for sign in word)}
    return frozenset(mine - who)


def _bought(posted: Transaction, small: set[str]) -> list[Line]:
    if posted.change is not None:
        return []
    return [line for line in posted.lines if line.account in small and line.amount > 0]


def _whose(posted: Transaction, small: set[str]) -> set[tuple[str | None, str]]:
    """From whom (else for what) it was bought, on each such account."""
    return {(posted.party or posted.memo, line.account) for line in _bought(posted, small)}


def _usual(books: Books, rows: Sequence[Transaction], account: str) -> tuple[float, list[Minor]]:
    """What these usually put on the account, nil where they are too few to repeat; and all of it."""
    live = [posted for posted in rows if not books.is_answered(posted.id)]
    sums = sorted(
        x.amount for posted in live for x in posted.lines if x.account == account and x.amount > 0
    )
    return median(sums) if len(sums) >= REPEATED else 0, sums


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
