"""Every act, by every role, on a span of every state, of one's own, another's and what was approved: what must
come of it. There is no act that is not in it."""

import json
from itertools import product
from typing import get_args

import pytest

from corkpost.core.approval import ApprovalRule
from corkpost.core.kinds import PeriodState
from corkpost.core.refusals import NotAllowed, Refusal
from corkpost.formats.acts import AnyAct, act_of
from corkpost.services import acts, approvals, periods, sign_off, staff
from tests.api.test_security import ACTS, LINE
from tests.builders import day
from tests.practice import PASSWORD, accrue, open_office
from tests.services.test_approvals import ENTRY

DAYS = {
    "filed": "2025-12-31", "sealed": "2026-02-15", "barred": "2026-03-15", "open": "2026-04-15",
    "held": "2026-05-15",
}  # fmt: skip
ROLES = ("preparer", "drafts", "reviewer", "partner")
POSTS, WAITS, REFUSED, MAY_NOT = "posts", "waits", "refused", "may not"
EVERYBODY = dict.fromkeys(ROLES, POSTS)
NOBODY = dict.fromkeys(ROLES, REFUSED)
WRITES = EVERYBODY | {"drafts": WAITS}
ABOVE = EVERYBODY | {"preparer": WAITS, "drafts": WAITS}
REVIEWERS = EVERYBODY | {"preparer": MAY_NOT, "drafts": MAY_NOT}
PARTNERS = dict.fromkeys(ROLES, MAY_NOT) | {"partner": POSTS}

# What a person dates stands where they date it, or is refused.
DATED = {"open": WRITES, "held": ABOVE, "barred": NOBODY, "sealed": NOBODY, "filed": NOBODY}
# What puts a received entry right is dated by the rule: on the first open day where its own is barred.
BY_RULE = {"open": WRITES, "held": ABOVE, "barred": WRITES, "sealed": WRITES, "filed": WRITES}
UNDONE = {"open": WRITES, "held": ABOVE, "barred": WRITES, "sealed": WRITES}

TABLE = {
    "entry": DATED,
    "recipe": DATED,
    "own-pocket": DATED,
    "takings": DATED,
    "by-hand": BY_RULE,
    "recode": {"open": WRITES, "filed": WRITES},
    "undo own": UNDONE,
    "undo another's": UNDONE,
    "undo approved": UNDONE,
    # Outside every bar, and for who signs.
    "close-year": {"open": ABOVE},
    # Beside the figures: no span holds them, but who may.
    "chart": {"open": REVIEWERS},
    "account": {"open": REVIEWERS},
    "mark-account": {"open": REVIEWERS},
    "file-return": {"open": REVIEWERS},
    # SMALL is not registered: who may set it is told so.
    "tax-scheme": {"open": REVIEWERS | {"reviewer": REFUSED, "partner": REFUSED}},
    "set-facts": {"open": PARTNERS},
    "party": {"open": EVERYBODY},
    "merge": {"open": EVERYBODY},
    "assets": {"open": EVERYBODY},
    "rates": {"open": EVERYBODY},
    "budget": {"open": EVERYBODY},
    "arrange": {"open": EVERYBODY},
    "payroll": {"open": EVERYBODY},
    "tie-out": {"open": EVERYBODY},
}
ELSEWHERE = {
    "point": "tests/services/test_review.py: as by-hand, but that drafts may take what a check found",
    "together": "tests/core/test_together.py: each as point",
    "agree": "tests/core/test_approval.py: held waits, barred and sealed are refused",
    "agree-sure": "as agree, of which it is made",
    "apart": "as agree",
    "sharing": "refused for who is no partnership; its lines as own-pocket's",
}


@pytest.fixture(scope="module")
def office(tmp_path_factory):
    """SMALL with February sealed, March barred, May held; an entry in each by Ines, by Tomas, and one that he
    approved."""
    office = open_office(tmp_path_factory.mktemp("table"))
    workplace, orla = office.workplace, office["OB"]
    made = {}
    for state in ("sealed", "barred", "open", "held"):
        own = accrue(office, on=DAYS[state], amount="11.00", reverse_on=None)
        other = accrue(office, "TV", on=DAYS[state], amount="12.00", reverse_on=None)
        staff.set_approval(workplace, orla, "IO", ApprovalRule(journals=True))
        ines = staff.person_named(workplace, "IO")
        entry = ENTRY.model_dump(mode="json")
        lines = [{**line, "debit": line["debit"] and "13", "credit": line["credit"] and "13"}
                 for line in entry["entry"]["lines"]]  # fmt: skip
        entry["entry"] |= {"date": DAYS[state], "lines": lines}
        act = act_of(json.dumps(entry))
        shown = acts.preview(workplace, ines, "SMALL", act).plan.digest
        number = approvals.hand_in(workplace, ines, "SMALL", act, reason="so", shown=shown)
        approved = approvals.approve(workplace, office["TV"], "SMALL", number, shown=shown)
        staff.set_approval(workplace, orla, "IO", ApprovalRule())
        made[state] = {
            "own": own.number, "another's": other.number, "approved": approved.number,
            "entry": own.entries[0].id,
        }  # fmt: skip
    made["filed"] = {"entry": "T8"}
    sign_off.sign_off(
        workplace, orla, "SMALL", day("2026-02-28"), PASSWORD, override_reason="for the table"
    )
    for state in (PeriodState.BARRED, PeriodState.HELD):
        periods.set_period(workplace, orla, "SMALL", day(DAYS[state.value]), state, "closed")
    drafts = staff.person_named(workplace, "IO")
    people = {
        "preparer": drafts,
        "drafts": drafts.__class__(**{**vars(drafts), "rule": ApprovalRule(journals=True)}),
        "reviewer": office["TV"],
        "partner": orla,
    }
    return workplace, people, made


def asked(name, state, made):
    """The act of the table's row, about a day or an entry of that state."""
    kind, _, whose = name.partition(" ")
    act = dict(next(act for act in ACTS if act["act"] == kind))
    on = DAYS[state]
    if kind == "entry":
        lines = [{**LINE, "debit": "5"}, {**LINE, "account": "2210", "debit": "", "credit": "5"}]
        act["entry"] = {**act["entry"], "date": on, "reason": "the table", "lines": lines}
    elif kind == "recipe":
        act["said"] = {
            "account": "5310", "amount": "5", "date": on, "reverse_on": "none", "counter": "2210",
        }  # fmt: skip
    elif kind == "own-pocket":
        act |= {"day": on}
    elif kind == "takings":
        act["days"] = [{"day": on, "cash": "12.30"}]
    elif kind == "by-hand":
        act |= {"transaction": made[state]["entry"]}
    elif kind == "recode":
        received, account = ("T8", "4000") if state == "filed" else ("T1", "5200")
        act |= {"transactions": [received], "account": account, "to_account": "6100"}
    elif kind == "undo":
        act["number"] = made[state][whose]
    elif kind == "assets":
        act["assets"] = [{**act["assets"][0], "life": "5"}]
    return act_of(json.dumps(act))


def outcome(workplace, person, act, *, opens=False):
    try:
        shown = acts.preview(workplace, person, "SMALL", act, opens=opens)
    except NotAllowed:
        return MAY_NOT
    except Refusal:
        return REFUSED
    return WAITS if shown.held else POSTS


CASES = [
    (name, state, role) for name, states in TABLE.items() for state, role in product(states, ROLES)
]


@pytest.mark.parametrize(("name", "state", "role"), CASES)
def test_what_comes_of_each(office, name, state, role):
    workplace, people, made = office
    act = asked(name, state, made)
    assert outcome(workplace, people[role], act) == TABLE[name][state][role]


@pytest.mark.parametrize("name", ["entry", "recipe", "own-pocket", "takings"])
@pytest.mark.parametrize("role", ROLES)
def test_a_partner_alone_has_a_barred_day_opened_for_one_posting_and_nothing_opens_what_is_finished(
    office, name, role
):
    workplace, people, made = office
    barred = outcome(workplace, people[role], asked(name, "barred", made), opens=True)
    assert barred == (POSTS if role == "partner" else MAY_NOT)
    for state in ("sealed", "filed"):
        found = outcome(workplace, people[role], asked(name, state, made), opens=True)
        assert found == (REFUSED if role == "partner" else MAY_NOT)


def test_there_is_no_act_that_is_not_in_the_table():
    union, _ = get_args(AnyAct)
    names = {get_args(act.model_fields["act"].annotation)[0] for act in get_args(union)}
    assert names == {name.partition(" ")[0] for name in TABLE} | ELSEWHERE.keys()
    assert names == {act["act"] for act in ACTS}
