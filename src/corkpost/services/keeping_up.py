"""What is worked out from clients' books and kept for the next who asks: points, and the desk's rows.

It is brought up to date behind what people do: nobody waits for it, and until then they see what was
known last, with a word that it is.
"""

import json
import logging
import time
from dataclasses import asdict

from corkpost.services.desk import from_json, summarise
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import desk as desk_store
from corkpost.store.clients import all_clients, client_named
from corkpost.store.kept_points import keep_points, with_fresh_points

log = logging.getLogger(__name__)
AT_A_TIME = 1.0
"""Seconds after which others get their turn."""


AFTER_OPENING = 2.0
"""Seconds in which the pages of a client that was just opened have the machine to themselves."""


QUIET = 0.7
"""So many seconds without a request, and nobody is waiting for a page."""


def keep_up(workplace: Workplace, seconds: float = AT_A_TIME) -> None:
    """Bring up to date what is kept, first of the clients that are open, for about so long."""
    until = time.monotonic() + seconds
    while keep_one(workplace, patient=True) and time.monotonic() < until:
        pass


def bring_up_to_date(workplace: Workplace) -> None:
    """Bring all that is kept up to date."""
    while keep_one(workplace):
        pass


def keep_one(workplace: Workplace, *, patient: bool = False) -> bool:
    """Bring what is kept of one client up to date; whether there was one to do. *patient*: clients that
    were just opened are left for later, and those that nobody has open until nobody asks for anything."""
    stale = _stale(workplace)
    opened = time.monotonic() - AFTER_OPENING
    for ledger in workplace.open_ledgers():
        if patient and ledger.read_at > opened and not ledger.goes_on:
            stale.discard(ledger.client.id)
            continue
        if ledger.client.id in stale or not ledger.has_run:
            # The next posting goes on from this run, and whoever posts need not wait for a whole one.
            ledger.checked()
            if ledger.client.id in stale:
                _keep(workplace, ledger)
            return True
    if patient and time.monotonic() - workplace.asked_at < QUIET:
        return False
    for client in all_clients(workplace.database.reading):
        if client.id in stale and client not in workplace.could_not_keep:
            try:
                _keep(workplace, workplace.ledger_apart(client))
            except Exception:
                # One that can't be read stops no other; it is tried again when something of it changes.
                log.exception("what is kept of %s could not be brought up to date", client.code)
                workplace.could_not_keep.add(client)
            return True
    return False


def _stale(workplace: Workplace) -> set[int]:
    connection = workplace.database.reading
    fresh = with_fresh_points(connection, workplace.today)
    kept = desk_store.summaries(connection)
    return {
        client.id
        for client in all_clients(connection)
        if client.id not in fresh
        or (known := kept.get(client.id)) is None
        or (known.revision, known.today) != (client.revision, workplace.today)
        or from_json(known.content) is None
    }


def _keep(workplace: Workplace, ledger: ClientState) -> None:
    points, summary = ledger.points, summarise(workplace, ledger)
    row = desk_store.Summary(ledger.client.revision, ledger.today, json.dumps(asdict(summary)))
    with workplace.database.writing() as connection:
        # Whoever wrote meanwhile made it stale: it comes round again.
        if client_named(connection, ledger.client.code) == ledger.client:
            keep_points(connection, ledger.client, ledger.today, points)
            desk_store.keep_summary(connection, ledger.client.id, row)
