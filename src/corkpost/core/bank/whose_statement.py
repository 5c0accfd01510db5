"""Whose a statement is, where its file and the books do not both know the account's number (section 5).

Opening balance, lines that were here before, sums that the books have too and names that they know are
weighed. Where more speaks against the account than for it, a person is asked.
"""

from collections.abc import Iterator, Sequence
from datetime import date, timedelta
from typing import NamedTuple

from corkpost.core.books import Books
from corkpost.core.evidence.who import finder_for
from corkpost.core.foreign import currency_of_account
from corkpost.core.matching.bank_lines import text_key
from corkpost.core.money import Minor
from corkpost.core.refusals import Lift, Refusal
from corkpost.core.statements import Given

ENOUGH_LINES = 3
"""Of fewer lines, sums and names say nothing."""
NEAR = timedelta(days=7)
SHORTEST_NUMBER = 6


class WhoseStatement(Refusal):
    """A person must say whether the statement is of the account: then it is taken in."""

    title = "Is it this account's statement?"
    lift = Lift("It is of this account: take it in", setting="sure")

    def __init__(self, account: str, name: str, reasons: Sequence[str]) -> None:
        super().__init__(
            f"Little in this file speaks for {account} {name}: {'; '.join(reasons)}. Nothing was taken in. "
            "If it is this account's statement all the same, say so, and it is."
        )


class Speaks(NamedTuple):
    """*weight*: for the account positive."""

    weight: int
    says: str


def same_number(one: str | None, other: str | None) -> bool | None:
    """Whether two account numbers are one, as an IBAN and the number within it; None where one is not
    known."""
    mine, theirs = _plain(one), _plain(other)
    if not mine or not theirs:
        return None
    short, long = sorted((mine, theirs), key=len)
    return short == long or (len(short) >= SHORTEST_NUMBER and short in long)


def _plain(number: str | None) -> str:
    return "".join(sign for sign in (number or "").upper() if sign.isalnum())


def evidence(
    books: Books,
    account: str,
    given: Sequence[Given],
    *,
    opening: Minor | None,
    stood: Minor | None,
    already: int,
) -> tuple[Speaks, ...]:
    """What speaks for and against. *stood*: the account's balance when the statement begins, by the
    statements before; None where none is known. *already*: how many of the lines were here before."""
    return tuple(_evidence(books, account, given, opening, stood, already))


def _evidence(
    books: Books,
    account: str,
    given: Sequence[Given],
    opening: Minor | None,
    stood: Minor | None,
    already: int,
) -> Iterator[Speaks]:
    words = currency_of_account(books, account).format_amount
    if already:
        yield Speaks(6, f"{already} of its lines were here before")
    if opening is not None and stood is not None:
        if opening == stood:
            yield Speaks(3, "it opens where the account stood")
        else:
            yield Speaks(
                -2, f"it opens at {words(opening)}, and the account stood at {words(stood)}"
            )
    if len(given) < ENOUGH_LINES:
        return
    sums = sum(_has_sum(books, account, line.day, line.amount) for line in given)
    if sums * 4 >= len(given):
        yield Speaks(2, f"{sums} of its {len(given)} sums are in the books too")
    elif sums * 20 <= len(given):
        yield Speaks(-2, f"{sums or 'none'} of its {len(given)} sums are in the books")
    named = sum(_is_known(books, account, line) for line in given)
    if named * 5 >= len(given):
        yield Speaks(1, f"{named} of its lines name whom the books know")
    elif not named:
        yield Speaks(-1, "no line names anybody whom the books know")


def _has_sum(books: Books, account: str, day: date, amount: Minor) -> bool:
    kept: dict[str, dict[Minor, list[date]]] = books.derived.setdefault("days by sum", {})
    if account not in kept:
        days: dict[Minor, list[date]] = {}
        for posted, line in books.lines_on(account):
            days.setdefault(line.amount, []).append(posted.posting_date)
        kept[account] = days
    return any(abs(when - day) <= NEAR for when in kept[account].get(amount, ()))


def _is_known(books: Books, account: str, line: Given) -> bool:
    words = " ".join(filter(None, (line.counterparty, line.text)))
    if finder_for(books).named_in(words) is not None:
        return True
    kept: dict[str, set[str]] = books.derived.setdefault("texts of statements", {})
    if account not in kept:
        kept[account] = {
            text_key(x.words)
            for statement in books.statements
            if statement.account == account
            for x in statement.lines
        } | {text_key(posted.memo or "") for posted, _ in books.lines_on(account)}
    return bool(text_key(words)) and text_key(words) in kept[account]


def refuse_doubtful(books: Books, account: str, found: Sequence[Speaks]) -> None:
    """Raise WhoseStatement where more speaks against the account than for it."""
    if sum(speaks.weight for speaks in found) < 0:
        against = [speaks.says for speaks in found if speaks.weight < 0]
        raise WhoseStatement(account, books.account(account).name, against)


def other_number(account: str, name: str, given: str, own: str) -> str:
    """In words: the file bears the number of another account."""
    return (
        f"This statement bears the number {given}; {account} {name} has {own}. It is of another account, "
        "perhaps of another client: look at where it came from."
    )
