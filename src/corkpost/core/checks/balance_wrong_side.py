"""balance-wrong-side: cash or stock below nil, customers in credit, suppliers in debit.

Keeps quiet: about what comes right within the same month; about a bank account, whose overdraft may be
agreed.
"""

from collections import Counter
from collections.abc import Iterator
from datetime import date, timedelta

from corkpost.core.books import Account, Books
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, AccountType, EntryKind
from corkpost.core.money import Minor
from corkpost.core.periods import ONE_DAY, Period
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import DraftEntry, Side

CHECK = Check(
    "balance-wrong-side",
    family=Family.PROOF,
    routes=("adjust", "ask", "leave", "waive"),
    after=(
        "entered-too",
        "unallocated",
        "wrong-party",
        "wrong-item",
        "owner-money-in",
        "duplicate-payment",
        "bill-paid-direct",
        "duplicate-document",
        "journal-pair-open",
        "control-without-party",
    ),
    finds="balances on the wrong side",
    avoid=(
        "When a balance shows on the other side than usual, look at the last entries on it: "
        "most often one was entered the wrong way round."
    ),
)
SAME_MONTH = timedelta(days=31)
SIDES = ((AccountRole.RECEIVABLES, -1, "in credit"), (AccountRole.PAYABLES, 1, "in debit"))
SHOWN_AS = {AccountRole.RECEIVABLES: AccountType.ASSET, AccountRole.PAYABLES: AccountType.LIABILITY}
"""Of which type the account is that stands for the control account where balances are only shown
otherwise: no party is touched by that."""
SHOWN_BELOW = {
    AccountRole.RECEIVABLES: (AccountRole.PRESENTATION, AccountRole.DEFERRED_INCOME),
    AccountRole.PAYABLES: (AccountRole.PRESENTATION, AccountRole.PREPAYMENT),
}
"""Where the balance is shown instead: a presentation account on the other side, else as what it is."""


def find(run: CheckRun) -> Iterator[Point]:
    for account in run.books.with_role(AccountRole.CASH, AccountRole.STOCK):
        point = _below_nil(run, account)
        if point:
            yield point
    told = {party for point in run.found_before(CHECK) for party in point.parties}
    for role, sign, where in SIDES:
        yield from _parties(run, role, sign, where, told)


def _below_nil(run: CheckRun, account: Account) -> Point | None:
    """The longest stretch below nil that did not come right within a month."""
    books = run.books
    balance, since, worst, worst_id, found = 0, None, 0, "", None
    rows = sorted(
        books.lines_on(account.code), key=lambda row: (row[0].posting_date, -row[1].amount)
    )
    for posted, line in rows:
        balance += line.amount
        if balance < 0:
            since = since or posted.posting_date
            if balance < worst:
                worst, worst_id = balance, posted.id
        elif since is not None:
            if posted.posting_date - since > SAME_MONTH:
                found = (since, worst, worst_id)
            since, worst = None, 0
    if since is not None and run.today - since > SAME_MONTH:
        found = (since, worst, worst_id)
    if found is None:
        return None
    words = books.client.currency.format_amount
    day, lowest, name = found
    return CHECK.point(
        books,
        subjects={},
        about={"account": (account.code,)},
        account=account.code,
        related=(name,),
        amount=lowest,
        certainty=0.93,
        summary=(
            f"{account.name} is below nil from {format_date(day)} on, by up to {words(-lowest)}: "
            "more left it "
            "than came in."
        ),
        short=f"{account.name}, {words(-lowest)} below nil",
        because=("nobody can pay out cash, or hand out stock, that is not there",),
        remedy=_filled_up(account, lowest, day),
        # Stock moves by a count alone: what is wrong with it is looked for first.
        routes=("ask", "leave", "waive") if account.role is AccountRole.STOCK else None,
    )


def _filled_up(account: Account, lowest: Minor, since: date) -> DraftEntry:
    """What the cash lacked, from wherever it came: nothing but its other side is left to say."""
    return DraftEntry(
        on=since,
        sides=(Side(account.code, -lowest), Side("", lowest)),
        title=f"Bring what {account.name} lacked in from another account",
        reason=f"Cash that came in and was not entered: {account.name} can't be below nil.",
        asks=True,
    )


def _parties(
    run: CheckRun, role: AccountRole, sign: int, where: str, told: set[str]
) -> Iterator[Point]:
    books = run.books
    accounts = {account.code for account in books.with_role(role)}
    sums: dict[str, int] = {}
    oldest: dict[str, tuple[str, str]] = {}
    for item, left in run.items.open_on(accounts):
        party = item.party
        if party is not None:
            sums[party] = sums.get(party, 0) + left
            if left * sign > 0:
                entry = (item.transaction.posting_date.isoformat(), item.transaction.id)
                oldest[party] = min(oldest.get(party, entry), entry)
    shown = _shown_already(run, role)
    for party, balance in sorted(sums.items()):
        if balance * sign <= 0 or party in told:
            continue
        if shown[-balance]:
            shown[-balance] -= 1
            continue
        _, name = oldest[party]
        posted = books.transactions[name]
        if run.today - posted.posting_date <= SAME_MONTH:
            continue
        words = books.client.currency.format_amount
        yield CHECK.point(
            books,
            subjects={},
            about={"party": (party,)},
            related=(name,),
            amount=balance,
            certainty=0.8,
            summary=(
                f"{books.party_name(party)} is {where} by {words(abs(balance))}, since "
                f"{format_date(posted.posting_date)}."
            ),
            short=f"{books.party_name(party)}, {words(abs(balance))} {where}",
            because=(
                "what was paid is more than what was owed: a refund, or a paper that is missing",
            ),
            remedy=_shown(run, role, party, balance),
            routes=None if _standing(run.books, role) else ("ask", "leave", "waive"),
        )


def _standing(books: Books, role: AccountRole) -> list[Account]:
    """The accounts that stand beside the control account where its balances are shown otherwise."""
    accounts = books.with_role(AccountRole.PRESENTATION)
    return [account for account in accounts if account.type is SHOWN_AS[role]]


def _shown_at(run: CheckRun) -> Period:
    """The last month that is over: its end is where balances are shown as what they are."""
    return run.books.calendar.period_of(run.today.replace(day=1) - ONE_DAY)


def _shown_already(run: CheckRun, role: AccountRole) -> Counter[Minor]:
    """The sums that stand beside the control account at that month's end, by how many entries."""
    books, on = run.books, _shown_at(run).last_day
    return Counter(
        line.amount
        for account in _standing(books, role)
        for posted, line in books.lines_on(account.code)
        if posted.posting_date == on and posted.id not in books.never_was
    )


def _shown(run: CheckRun, role: AccountRole, party: str, balance: int) -> DraftEntry | None:
    """An entry that shows the balance on the other side at the last month's end, and no longer the day
    after; nothing where the chart has no account for it."""
    books = run.books
    standing = _standing(books, role)
    if not standing:
        return None
    below = next(
        (a for a in books.with_role(*SHOWN_BELOW[role]) if a.type is not SHOWN_AS[role]), None
    )
    period = _shown_at(run)
    on = format_date(period.last_day)
    name = books.party_name(party)
    other = below.code if below else ""
    return DraftEntry(
        on=period.last_day,
        sides=(Side(standing[0].code, -balance), Side(other, balance)),
        title=f"Show it on the other side as at {on}, and no longer the day after",
        reason=f"{name}: shown as what it is at {on}; the party's own list stays.",
        kind=EntryKind.RECLASSIFYING,
        reverse_on=period.last_day + ONE_DAY,
        asks=not other,
    )
