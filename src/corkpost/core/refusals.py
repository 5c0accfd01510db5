"""What the program will not do, each with words that say what is wrong, where, and what to do."""

from collections.abc import Iterable
from datetime import date
from typing import NamedTuple

from corkpost.core.formatting import format_date


class Lift(NamedTuple):
    """How a person with the right to it lifts a refusal. *page*: the client's page where that is done.
    *setting*: what is said with the same request, where that is enough."""

    says: str
    page: str | None = None
    setting: str | None = None


class Refusal(Exception):
    """A deed that is refused. `str()` of it is fit to show to a person."""

    title = "This can't be done"
    lift: Lift | None = None


class UnknownName(Refusal):
    """A client, point, account, party, change or year that is not there (or not yours to see)."""

    title = "Not found"

    def __init__(self, what: str, name: str) -> None:
        super().__init__(f"There is no {what} {name!r} here. Check the spelling.")


class NotAllowed(Refusal):
    title = "Not within your rights"


class BarredDate(Refusal):
    title = "That date is barred"
    lift = Lift("Who may post, and reopening, is on the Sign-off page", page="sign-off")

    def __init__(self, posting_date: date, why: str, first_open_day: date) -> None:
        super().__init__(
            f"{format_date(posting_date)} is in a barred span: {why}. Nothing in it may move by a cent. "
            f"Date the entry {format_date(first_open_day)} or later, or ask a partner to reopen the span."
        )


class NoYear(Refusal):
    """A day that the books have no financial year for. *next_year*: the label of the one that could be
    opened next; None where the day lies before them."""

    title = "There is no financial year for that day"
    lift = Lift("Open the next year on the Sign-off page", page="sign-off")

    def __init__(self, day: date, first_day: date, last_day: date, next_year: str | None) -> None:
        offer = (
            f"If you mean it, have a reviewer or partner open the year {next_year} on the Sign-off page."
            if next_year
            else "Date it later, or take in the books of that year."
        )
        super().__init__(
            f"{format_date(day)} lies outside the years of these books, which go from "
            f"{format_date(first_day)} to "
            f"{format_date(last_day)}. {offer}"
        )


class OutOfBalance(Refusal):
    title = "The entry does not balance"


class BadEntry(Refusal):
    title = "The entry can't be posted as it stands"

    def __init__(self, faults: Iterable[str]) -> None:
        self.faults = tuple(faults)
        super().__init__(" ".join(self.faults))


class BadAnswers(BadEntry):
    title = "These answers can't be taken as they are"


class NoReason(Refusal):
    title = "A reason is needed"

    def __init__(self) -> None:
        super().__init__(
            "Say why: somebody else has to understand this in six months, "
            "and the reason prints in the pack."
        )


class MissingAccount(Refusal):
    title = "An account is missing"
    lift = Lift("Give an account that role on the Books page", page="books")

    def __init__(self, role: str, purpose: str) -> None:
        super().__init__(
            f"The chart has no account with the role {str(role)!r}, which {purpose} needs. "
            "Give an account that role on the client's Books page."
        )


class DependedOn(Refusal):
    title = "Later changes depend on this one"

    def __init__(self, number: int, later: Iterable[str]) -> None:
        super().__init__(
            f"Change {number} can't be taken back while these rest on it: {', '.join(later)}. "
            "Take those back first, the latest first."
        )


class AlreadyTakenBack(Refusal):
    title = "Already taken back"


class NothingToDo(Refusal):
    title = "Nothing to post"


class ChangedMeanwhile(Refusal):
    """What a plan was made from is no longer what the books say."""

    title = "The books have moved since this was prepared"


class NotReady(Refusal):
    title = "Not ready to be signed off"

    def __init__(self, missing: Iterable[str]) -> None:
        self.missing = tuple(missing)
        super().__init__("The trial balance can't be signed off yet. " + " ".join(self.missing))
