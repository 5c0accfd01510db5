"""What changed in a point since somebody decided it, in words."""

from collections.abc import Iterator

from corkpost.core.books import Books
from corkpost.core.points import Point


def changes_since(books: Books, seen: Point, now: Point) -> tuple[str, ...]:
    """Each difference between the point as it was decided and as it is found now."""
    return tuple(_changes(books, seen, now))


def _changes(books: Books, seen: Point, now: Point) -> Iterator[str]:
    words = books.client.currency.format_amount
    if seen.amount != now.amount:
        yield f"{words(now.amount)} is at stake now, it was {words(seen.amount)}"
    if seen.level != now.level:
        yield f"it is {now.level} now, it was {seen.level}"
    gone = [name for name in seen.transactions if name not in now.transactions]
    come = [name for name in now.transactions if name not in seen.transactions]
    if come:
        yield f"{' and '.join(come)} came to it"
    if gone:
        yield f"{' and '.join(gone)} went from it"
    if set(seen.statement_lines) != set(now.statement_lines):
        yield "other statement lines belong to it"
    same = not (come or gone) and seen.amount == now.amount and seen.level == now.level
    if same and seen.summary != now.summary:
        yield f"it was said: {seen.summary}"
    elif same:
        yield "the client's newer books have other dates or lines for the entries that it speaks of"
