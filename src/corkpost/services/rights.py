"""Who may do what. A right belongs to the act, whatever way leads to it."""

from dataclasses import dataclass, field
from enum import StrEnum

from corkpost.core.approval import ApprovalRule
from corkpost.core.kinds import Role
from corkpost.core.refusals import NotAllowed, UnknownName


class May(StrEnum):
    """An act that needs a right, in words that fit after "may not"."""

    READ = "read a client's books"
    TAKE_IN = "take in books"
    POST = "post corrections and entries"
    CHANGE_CHART = "change the chart of accounts"
    DECIDE = "decide review points"
    APPROVE = "approve what was handed in"
    SIGN = "sign a trial balance off"
    REOPEN = "reopen what was signed off"
    SET_PERIODS = "set who may post in a period"
    SET_FACTS = "set what the practice answers for about a client"
    RUN_PRACTICE = "manage staff and the store"


ROLES: dict[May, frozenset[Role]] = {
    May.READ: frozenset(Role),
    May.TAKE_IN: frozenset(Role),
    May.POST: frozenset(Role),
    May.CHANGE_CHART: frozenset({Role.REVIEWER, Role.PARTNER}),
    May.DECIDE: frozenset(Role),
    May.APPROVE: frozenset({Role.REVIEWER, Role.PARTNER}),
    May.SIGN: frozenset({Role.REVIEWER, Role.PARTNER}),
    May.REOPEN: frozenset({Role.PARTNER}),
    May.SET_PERIODS: frozenset({Role.REVIEWER, Role.PARTNER}),
    May.SET_FACTS: frozenset({Role.PARTNER}),
    May.RUN_PRACTICE: frozenset({Role.PARTNER}),
}


@dataclass(frozen=True)
class Person:
    """A member of staff at work. *clients*: the codes of those given to them.

    A partner answers for the practice and sees every client.
    """

    code: str
    name: str
    role: Role
    clients: frozenset[str]
    rule: ApprovalRule = field(default_factory=ApprovalRule)
    """What of theirs waits for another's approval."""

    def sees(self, client_code: str) -> bool:
        return self.role is Role.PARTNER or client_code in self.clients

    def may(self, act: May) -> bool:
        return self.role in ROLES[act]

    def must_be_allowed(self, act: May) -> None:
        """Raise NotAllowed, saying who may, where this person may not."""
        if not self.may(act):
            who = " or ".join(sorted(ROLES[act]))
            raise NotAllowed(
                f"{self.name} is a {self.role} and may not {act}. Ask a {who} to do it."
            )

    def must_see(self, client_code: str) -> None:
        """Raise UnknownName for a client that is not this person's: not even that it is there."""
        if not self.sees(client_code):
            raise UnknownName("client", client_code)
