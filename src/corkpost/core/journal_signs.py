"""What is unusual about journals that people wrote: for a reviewer who reads those first.

A sign is no fault and makes no review point: it says why an entry deserves a second look.
"""

from collections import Counter
from collections.abc import Iterator, Mapping
from datetime import timedelta

from corkpost.core.books import Books, Transaction
from corkpost.core.kinds import AccountRole, AccountType, TransactionKind

FEWEST = 20
"""Journals, or keyed entries, from which on a habit can be told."""
RARE = 0.05
NIGHT = (22, 6)
ROUND = 1_000
JUST_UNDER = 95
"""Percent of a limit."""
AFTER_FILING = timedelta(days=30)
PASSING = frozenset({AccountRole.CLEARING, AccountRole.SUSPENSE})


def journal_signs(books: Books) -> Mapping[str, tuple[str, ...]]:
    """For each journal with anything unusual about it: what, in words. By transaction."""
    known: Mapping[str, tuple[str, ...]] | None = books.derived.get("journal_signs")
    if known is None:
        journals = [posted for posted in books.tables.transactions if _is_journal(posted)]
        keyers = Counter(posted.entered_by for posted in journals if posted.entered_by)
        nights = _works_at_night(books)
        passing = sum(_passes(books, posted) for posted in journals)
        habit = passing > max(2, len(journals) / 5)
        told = (
            (posted.id, tuple(_signs(books, posted, keyers, nights=nights, passes=habit)))
            for posted in journals
        )
        known = books.derived["journal_signs"] = {name: signs for name, signs in told if signs}
    return known


def _is_journal(posted: Transaction) -> bool:
    """Of those that came with the books: ours are read where they are approved and signed."""
    ours = posted.change is not None
    return posted.kind is TransactionKind.JOURNAL and posted.reverses is None and not ours


def _works_at_night(books: Books) -> bool:
    """Whether entries of the night are usual here, or nobody knows the hour of any."""
    hours = [
        posted.entered_at.hour
        for posted in books.tables.transactions
        if posted.entered_at and (posted.entered_at.hour or posted.entered_at.minute)
    ]
    late = sum(_is_night(hour) for hour in hours)
    return len(hours) < FEWEST or late > len(hours) * RARE


def _is_night(hour: int) -> bool:
    return hour >= NIGHT[0] or hour < NIGHT[1]


def _signs(
    books: Books, posted: Transaction, keyers: Mapping[str, int], *, nights: bool, passes: bool
) -> Iterator[str]:
    """*nights*, *passes*: working at night, and journals between profit and clearing, are usual here."""
    every = sum(keyers.values())
    own = keyers.get(posted.entered_by or "", 0)
    if every >= FEWEST and 0 < own <= max(1, every * RARE):
        yield f"keyed by {posted.entered_by}, who keyed {own} of {every} journals"
    if not nights and posted.entered_at and _is_night(posted.entered_at.hour):
        yield f"keyed at {posted.entered_at:%H:%M}"
    whole = books.client.currency.parse("1")
    if posted.total >= ROUND * whole and posted.total % (100 * whole) == 0:
        yield "a round sum"
    limit = books.capital_item
    if limit and any(
        limit * JUST_UNDER // 100 <= abs(line.amount) < limit
        for line in posted.lines
        if books.accounts[line.account].type is AccountType.EXPENSE
    ):
        yield f"just under {books.client.currency.format_amount(limit)}, the limit for lasting things"
    yield from _after_filing(books, posted)
    if not passes and _passes(books, posted):
        yield "between profit and a clearing account"


def _passes(books: Books, posted: Transaction) -> bool:
    """Whether it moves between profit and a clearing or suspense account."""
    accounts = [books.accounts[line.account] for line in posted.lines]
    return any(account.role in PASSING for account in accounts) and any(
        account.is_profit_and_loss for account in accounts
    )


def _after_filing(books: Books, posted: Transaction) -> Iterator[str]:
    filed, through = books.filed_on, books.client.filed_through
    if filed is None or through is None or posted.entered_at is None:
        return
    later = posted.entered_at - filed
    if posted.posting_date <= through and timedelta() < later <= AFTER_FILING:
        yield f"keyed {max(later.days, 1)} days after its year was filed"
