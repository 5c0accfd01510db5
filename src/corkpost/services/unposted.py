"""What is written and not posted: drafts, and what waits for approval, with what posting it would do."""

import json
from collections.abc import Iterator
from datetime import date
from typing import Any, NamedTuple

from pydantic import ValidationError

from corkpost.core.change import Plan
from corkpost.core.entries import plan_entry
from corkpost.core.recipes import UseRecipe, plan_recipe
from corkpost.core.refusals import Refusal
from corkpost.core.unadjusted import Worth, worth_of
from corkpost.formats.acts import act_of
from corkpost.formats.composed import ComposedEntry, read_composed
from corkpost.services import acts, approvals
from corkpost.services.rights import Person
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store import drafts as draft_store


class Unposted(NamedTuple):
    """*name*: of its page under the entries. *worth*: what it would add by the day; None where it is not
    whole, or refused as it stands."""

    name: str
    what: str
    reason: str
    by: str
    worth: Worth | None


def unposted(
    workplace: Workplace, person: Person, client_code: str, as_at: date
) -> tuple[ClientState, tuple[Unposted, ...]]:
    """Every draft and proposal of the client, with what it would do to the figures as at a day."""
    ledger = workplace.ledger(person, client_code)
    return ledger, (
        *_proposals(workplace, person, ledger, as_at),
        *_drafts(workplace, ledger, as_at),
    )


def _proposals(
    workplace: Workplace, person: Person, ledger: ClientState, as_at: date
) -> Iterator[Unposted]:
    for proposal in approvals.listed(workplace, person, ledger.client.code):
        if proposal.ending is None:
            act = act_of(proposal.asked)
            try:
                plan = acts.preview(workplace, person, ledger.client.code, act, as_at).plan
                worth = worth_of(plan, ledger.books, as_at)
            except Refusal:
                worth = None
            yield Unposted(
                f"proposal-{proposal.number}",
                "waits for approval",
                proposal.reason,
                proposal.made_by,
                worth,
            )


def _drafts(workplace: Workplace, ledger: ClientState, as_at: date) -> Iterator[Unposted]:
    for draft in draft_store.drafts_of(workplace.database.reading, ledger.client.id):
        content = json.loads(draft.content)
        plan = _plan_of(ledger, content, as_at)
        yield Unposted(
            f"draft-{draft.id}",
            "draft",
            str(content.get("reason") or ""),
            draft.made_by,
            worth_of(plan, ledger.books, as_at) if plan else None,
        )


def _told(content: dict[str, Any]) -> UseRecipe:
    """What a recipe was told, as it was kept."""
    near = date.fromisoformat(content["near"]) if content.get("near") else None
    return UseRecipe(str(content["recipe"]), dict(content.get("said") or {}), near)


def _plan_of(ledger: ClientState, content: object, near: date) -> Plan | None:
    """The plan of a draft that is whole; None of one that is not."""
    try:
        if isinstance(content, dict) and "recipe" in content:
            return plan_recipe(ledger.books, _told(content))
        request = read_composed(ComposedEntry.model_validate(content), ledger.books, near).request
        return plan_entry(ledger.books, request) if request else None
    except (ValidationError, Refusal, ValueError, TypeError):
        return None
