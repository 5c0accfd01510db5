"""The tie-outs of a client as at a day, each with where it stands and who agreed it when."""

from datetime import date
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.tie_outs.agreeing import StatedTieOut, TieOutState, stated_tie_outs
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace
from corkpost.store.changes import changes_of


class TieOutRow(NamedTuple):
    """*at*: the time of its last agreement, where it has one."""

    stated: StatedTieOut
    at: str | None


def tie_outs(
    workplace: Workplace, person: Person, client_code: str, as_at: date
) -> tuple[Books, tuple[TieOutRow, ...]]:
    """Every proof as at the end of *as_at*."""
    ledger = workplace.ledger(person, client_code)
    found = stated_tie_outs(ledger.books, as_at)
    times: dict[int | None, str] = {}
    if any(stated.agreed for stated in found):
        rows = changes_of(workplace.database.reading, ledger.client.id)
        times = {row.number: row.made_at for row in rows}
    return ledger.books, tuple(
        TieOutRow(stated, times.get(stated.agreed.change) if stated.agreed else None)
        for stated in found
    )


def open_tie_outs(books: Books, as_at: date) -> int:
    """How many are not agreed."""
    return sum(stated.state is not TieOutState.AGREED for stated in stated_tie_outs(books, as_at))
