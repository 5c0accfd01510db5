"""Everything that a person can have posted: previewed, and posted, in one way.

An act is asked for as JSON (`formats/acts.py`) or as a value of the core (`core/acts.py`). It is read anew
on the books as they stand each time, so that what is posted is what it means on those.
"""

from collections.abc import Callable, Iterator
from dataclasses import replace
from datetime import date

from corkpost.core import acts as core
from corkpost.core.acts import plan_of
from corkpost.core.arrangements import Arrange
from corkpost.core.assets.register import KeepAssets
from corkpost.core.budgets import SetBudget
from corkpost.core.change import Plan
from corkpost.core.chart.marking import MarkAccount
from corkpost.core.client_facts import SetFacts
from corkpost.core.entries import EntryRequest
from corkpost.core.payroll import TakePayroll
from corkpost.core.rates import AddRates
from corkpost.core.tax_returns import FileReturn
from corkpost.core.tax_schemes import SetTaxScheme
from corkpost.core.tie_outs.agreeing import AgreeTieOut
from corkpost.core.together import together
from corkpost.formats import acts as formats
from corkpost.services.entries import Preview, preview_plan
from corkpost.services.papers import known_paper
from corkpost.services.posting import Answered, PostRequest
from corkpost.services.posting import post as post_plan
from corkpost.services.review import uncorrected
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Posted, Workplace
from corkpost.store import drafts as draft_store

Asked = core.Act | formats.AnyAct
SAY_WHY = (
    core.AddAccount | core.AddParty | core.Agree | core.AgreeSure | core.TakeApart,
    formats.AddAccountAct | formats.AddPartyAct,
    formats.AgreeAct | formats.AgreeSureAct | formats.ApartAct,
    AgreeTieOut | formats.AgreeTieOutAct,
    KeepAssets | AddRates | SetBudget | Arrange | MarkAccount | TakePayroll | FileReturn,
    SetTaxScheme | formats.TaxSchemeAct,
    formats.MarkAccountAct | formats.PayrollAct | formats.FileReturnAct,
    formats.AssetsAct | formats.RatesAct | formats.BudgetAct | formats.ArrangeAct,
)
"""Acts whose reason is what they are: none is asked for, and they may be posted without being shown."""
PUT_RIGHT = (core.PutRight, core.PutRightTogether, formats.PointAct, formats.TogetherAct)
"""Acts that put review points right."""


def preview(
    workplace: Workplace,
    person: Person,
    client_code: str,
    asked: Asked,
    as_at: date | None = None,
    *,
    opens: bool = False,
) -> Preview:
    """What the act would post and move on the books as they stand, read at the end of *as_at* (the
    year's end unless given). Raises what it is refused for."""
    ledger = workplace.ledger(person, client_code)

    def make_plan(ledger: ClientState) -> Plan:
        return plan_of(ledger.books, _read(workplace, ledger, person, asked))

    return preview_plan(workplace, ledger, person, make_plan, as_at, opens=opens)


def post(
    workplace: Workplace,
    person: Person,
    client_code: str,
    asked: Asked,
    post_request: PostRequest,
    *,
    draft: str | None = None,
) -> Posted:
    """Post the act, all or nothing; the points that it puts right are corrected by it. *draft*: what it
    was kept as while it was unfinished, dropped. An entry's reason is its own, whatever is asked.

    Raises what `posting.post` raises.
    """
    reason = _own_reason(asked) or post_request.reason
    posted = post_plan(
        workplace,
        person,
        client_code,
        lambda ledger: plan_of(ledger.books, _read(workplace, ledger, person, asked)),
        replace(post_request, reason=reason, asked=_in_words(asked)),
        answers=_answers(workplace, person, asked) if isinstance(asked, PUT_RIGHT) else None,
        says_why=isinstance(asked, SAY_WHY),
    )
    if draft:
        ledger = workplace.ledger(person, client_code)
        with workplace.database.writing() as connection:
            draft_store.drop_draft(connection, ledger.client.id, draft)
    return posted


def _read(workplace: Workplace, ledger: ClientState, person: Person, asked: Asked) -> core.Act:
    act: core.Act
    if isinstance(asked, formats.Act):
        act = asked.read(ledger.books, lambda name: uncorrected(ledger, name))
    else:
        act = asked
    if isinstance(act, core.PutChartRight | core.AddAccount | MarkAccount):
        person.must_be_allowed(May.CHANGE_CHART)
    if isinstance(act, FileReturn | SetTaxScheme):
        person.must_be_allowed(May.SET_PERIODS)
    if isinstance(act, SetFacts):
        person.must_be_allowed(May.SET_FACTS)
    if isinstance(act, AgreeTieOut) and act.paper is not None:
        known_paper(workplace, ledger, act.paper)
    return act


def _own_reason(asked: Asked) -> str:
    if isinstance(asked, formats.EntryAct):
        return asked.entry.reason
    return asked.reason if isinstance(asked, EntryRequest) else ""


def _in_words(asked: Asked) -> str:
    """By which the same request, sent again, is known."""
    return asked.model_dump_json() if isinstance(asked, formats.Act) else repr(asked)


def _answers(
    workplace: Workplace, person: Person, asked: Asked
) -> Callable[[ClientState], Iterator[Answered]]:
    def answered(ledger: ClientState) -> Iterator[Answered]:
        act = _read(workplace, ledger, person, asked)
        if isinstance(act, core.PutRight):
            yield Answered(act.point)
        if isinstance(act, core.PutRightTogether):
            for point in together(ledger.books, act.points).taken:
                yield Answered(point.point, point.reason)

    return answered
