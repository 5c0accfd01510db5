"""Tries at what a guess could open: counted in the store before anything is reckoned, then waiting."""

import time

from corkpost.core.refusals import Refusal
from corkpost.services.workplace import Workplace
from corkpost.store import sessions as store

FREE = 5
FREE_OF_ADDRESS = 20
LONGEST_WAIT = 15 * 60
FORGOTTEN_SECONDS = 24 * 3600


class TooManyTries(Refusal):
    title = "Too many tries"


def account(code: str) -> str:
    """The name that an account's tries are counted under."""
    return f"account {code.strip().upper()[:40]}"


def address(sender: str) -> str:
    """The name that an address's tries are counted under."""
    return f"address {sender}"


def count(workplace: Workplace, *names: str) -> None:
    """Count a try of each; raises TooManyTries while one of them waits."""
    now = int(time.time())
    with workplace.database.writing() as connection:
        for name in names:
            failed, last = store.tries_of(connection, name)
            free = FREE_OF_ADDRESS if name.startswith("address") else FREE
            if failed >= free and now - last < FORGOTTEN_SECONDS:
                wait = min(5 * 2 ** min(failed - free, 20), LONGEST_WAIT) - (now - last)
                if wait > 0:
                    words = f"{wait} seconds" if wait < 90 else f"{wait // 60 + 1} minutes"
                    raise TooManyTries(f"Wait {words}, then try again.")
        for name in names:
            store.count_try(connection, name, now, now - FORGOTTEN_SECONDS)


def forget(workplace: Workplace, *names: str) -> None:
    """Forget the tries of each: one was right."""
    with workplace.database.writing() as connection:
        for name in names:
            store.forget_tries(connection, name)
