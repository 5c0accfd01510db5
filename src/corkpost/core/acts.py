"""Everything that a person can have posted, each as a value, and the one way from it to its plan.

Previewing and posting both go through `plan_of`, whoever asks: a page, the command line, an approval.
"""

from dataclasses import replace
from typing import NamedTuple, assert_never

from corkpost.core.arrangements import Arrange, plan_arrange
from corkpost.core.assets.register import KeepAssets, plan_keep_assets
from corkpost.core.bank.agreeing import Wanted, plan_agree, plan_apart
from corkpost.core.bank.agreeing_sure import plan_agree_sure
from corkpost.core.books import Account, Books
from corkpost.core.budgets import SetBudget, plan_set_budget
from corkpost.core.by_hand import Picked, picked
from corkpost.core.change import Plan
from corkpost.core.chart.changing import AccountWanted, plan_account, plan_chart
from corkpost.core.chart.marking import MarkAccount, plan_mark_account
from corkpost.core.chart.parties import plan_party
from corkpost.core.client_facts import SetFacts, plan_set_facts
from corkpost.core.closing import CloseYear, plan_closing
from corkpost.core.entries import EntryRequest, plan_entry
from corkpost.core.kinds import PartyKind
from corkpost.core.merging import plan_merge
from corkpost.core.own_pocket import OwnPocket, plan_own_pocket
from corkpost.core.payroll import TakePayroll, plan_take_payroll
from corkpost.core.points import Level, Point
from corkpost.core.rates import AddRates, plan_add_rates
from corkpost.core.recipes import UseRecipe, plan_recipe
from corkpost.core.recoding import Recode, plan_recode
from corkpost.core.refusals import BadEntry
from corkpost.core.routes import Settings, plan_route, settings_of
from corkpost.core.sharing import Terms, plan_sharing
from corkpost.core.takings import Sold, plan_takings
from corkpost.core.tax_returns import FileReturn, plan_file_return
from corkpost.core.tax_schemes import SetTaxScheme, plan_tax_scheme
from corkpost.core.tie_outs.agreeing import AgreeTieOut, plan_agree_tie_out
from corkpost.core.together import together
from corkpost.core.undo import plan_undo


class PutRight(NamedTuple):
    """A review point put right by a route."""

    point: Point
    route: str
    settings: Settings


class PutRightTogether(NamedTuple):
    """Points of one check, each put right by its recommended route, in one change."""

    points: tuple[Point, ...]


class TakeBack(NamedTuple):
    """A change taken back by its inverse."""

    change: int


class Merge(NamedTuple):
    """The party *other* read as the party *keep* from now on."""

    keep: str
    other: str


class PutChartRight(NamedTuple):
    """Accounts given another name, type, role, owner or tax code."""

    accounts: tuple[AccountWanted, ...]


class AddAccount(NamedTuple):
    account: Account


class AddParty(NamedTuple):
    """*code*: the next free one unless given."""

    name: str
    kind: PartyKind
    code: str | None = None


class Agree(NamedTuple):
    """Entries of an account tied to lines of its statements, each group with equal sums."""

    account: str
    groups: tuple[Wanted, ...]


class AgreeSure(NamedTuple):
    """All of a statement agreed that is sure, or with *level* likely as good as sure."""

    account: str
    statement: int | None
    level: Level


class TakeApart(NamedTuple):
    """Agreements of an account taken apart, by their groups."""

    account: str
    groups: tuple[str, ...]


Act = (
    PutRight
    | PutRightTogether
    | Picked
    | EntryRequest
    | TakeBack
    | OwnPocket
    | Terms
    | Sold
    | Merge
    | PutChartRight
    | AddAccount
    | AddParty
    | Agree
    | AgreeSure
    | TakeApart
    | AgreeTieOut
    | CloseYear
    | UseRecipe
    | KeepAssets
    | AddRates
    | SetBudget
    | Arrange
    | Recode
    | MarkAccount
    | TakePayroll
    | FileReturn
    | SetTaxScheme
    | SetFacts
)


def plan_of(books: Books, act: Act) -> Plan:  # noqa: C901 - a case for each act, no more
    """What the act would post on these books. Raises what it is refused for."""
    match act:
        case PutRight(point, route, settings):
            return plan_route(books, point, route, settings_of(books, point, route, settings))
        case PutRightTogether(points):
            return _together(books, points)
        case Picked(route, transaction):
            point = picked(books, route, transaction, act.names)
            return replace(plan_route(books, point, route, act.route_settings), by_hand=True)
        case EntryRequest():
            return plan_entry(books, act)
        case TakeBack(change):
            return plan_undo(books, change)
        case OwnPocket():
            return plan_own_pocket(books, act)
        case Terms():
            return plan_sharing(books, act)
        case Sold(days, sales, tax_code):
            return plan_takings(books, days, sales, tax_code)
        case Merge(keep, other):
            return plan_merge(books, keep, other)
        case PutChartRight(accounts):
            return plan_chart(books, accounts)
        case AddAccount(account):
            return plan_account(books, account)
        case AddParty(name, kind, code):
            return plan_party(books, name, kind, code)
        case Agree(account, groups):
            return plan_agree(books, account, groups)
        case AgreeSure(account, statement, level):
            return plan_agree_sure(books, account, statement, level)
        case TakeApart(account, groups):
            return plan_apart(books, account, groups)
        case CloseYear():
            return plan_closing(books, act)
        case UseRecipe():
            return plan_recipe(books, act)
        case KeepAssets():
            return plan_keep_assets(books, act)
        case AddRates():
            return plan_add_rates(books, act)
        case SetBudget():
            return plan_set_budget(books, act)
        case Arrange():
            return plan_arrange(books, act)
        case Recode():
            return plan_recode(books, act)
        case FileReturn():
            return plan_file_return(books, act)
        case SetTaxScheme():
            return plan_tax_scheme(books, act)
        case SetFacts():
            return plan_set_facts(books, act)
        case TakePayroll():
            return plan_take_payroll(books, act)
        case MarkAccount():
            return plan_mark_account(books, act)
        case AgreeTieOut():
            return plan_agree_tie_out(books, act)
        case _:
            assert_never(act)


def _together(books: Books, points: tuple[Point, ...]) -> Plan:
    found = together(books, points)
    refused = [f"{point.point.short}: {point.refused}" for point in found.taken if point.refused]
    if refused or found.plan is None:
        raise BadEntry(refused)
    return found.plan
