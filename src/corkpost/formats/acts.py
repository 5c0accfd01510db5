"""What can be asked to be posted, as JSON: sent by a page, kept with what is handed in, and read anew as
an act of the core on the books as they stand."""

from collections.abc import Callable
from datetime import date
from typing import Annotated, ClassVar, Literal

from pydantic import ConfigDict, Field, TypeAdapter, ValidationError

from corkpost.core import acts
from corkpost.core.arrangements import Arrange
from corkpost.core.assets.register import KeepAssets
from corkpost.core.bank.agreeing import Wanted
from corkpost.core.books import Account, Books
from corkpost.core.budgets import SetBudget
from corkpost.core.by_hand import Picked
from corkpost.core.chart.changing import AccountWanted, account_role, account_type
from corkpost.core.chart.marking import MarkAccount
from corkpost.core.client_facts import SetFacts
from corkpost.core.closing import CloseYear
from corkpost.core.dating import ProfitPart
from corkpost.core.keying import keyed_amount, keyed_number
from corkpost.core.kinds import PartyKind
from corkpost.core.money import Currency, NotAnAmount
from corkpost.core.own_pocket import OwnPocket
from corkpost.core.payroll import TakePayroll
from corkpost.core.periods import FIRST_DAY, LAST_DAY
from corkpost.core.points import Level, Point
from corkpost.core.rates import AddRates
from corkpost.core.recipes import UseRecipe
from corkpost.core.recoding import Recode
from corkpost.core.refusals import BadEntry, UnknownName
from corkpost.core.row_kinds.arrangements import Arrangement, Group
from corkpost.core.row_kinds.tax_schemes import Scheme
from corkpost.core.sharing import Terms
from corkpost.core.takings import DayTakings, Sold
from corkpost.core.tax_returns import FileReturn
from corkpost.core.tax_schemes import SetTaxScheme
from corkpost.core.tie_outs.agreeing import AgreeTieOut
from corkpost.formats.composed import ComposedEntry, request_in
from corkpost.formats.registers import (
    AssetRow,
    budget_table,
    payroll_table,
    read_assets,
    read_rate,
)
from corkpost.formats.shape import Shape

Day = Annotated[date, Field(ge=FIRST_DAY, le=LAST_DAY)]
Name = Annotated[str, Field(max_length=200)]
Settings = Annotated[dict[str, str], Field(max_length=10)]
PointNamed = Callable[[str], Point]


class Fields(Shape):
    """Nothing that is not named belongs to it."""

    model_config = ConfigDict(extra="forbid")


class Act(Fields):
    """Something that a person can have posted. *says*: what it is, in words that fit a list."""

    says: ClassVar[str]

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        """The act on these books. *point_named* finds a review point by its id, or raises.

        Raises BadEntry or UnknownName for what can't be read in it.
        """
        raise NotImplementedError


class PointAct(Act):
    """A review point put right by a route."""

    says = "a point put right"
    act: Literal["point"]
    point: Name
    route: Name
    settings: Settings

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return acts.PutRight(point_named(self.point), self.route, self.settings)


class ByHandAct(Act):
    """A route for what a person picked. *items*: for `allocate` each may end in `=100.00`, a sum."""

    says = "put right by hand"
    act: Literal["by-hand"]
    route: Name
    transaction: Name
    items: Annotated[list[Name], Field(max_length=200)]
    settings: Settings

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return Picked(self.route, self.transaction, tuple(self.items), self.settings)


class EntryAct(Act):
    """An entry as it was keyed. *near*: the day that short forms of days are read by."""

    says = "an entry"
    act: Literal["entry"]
    entry: ComposedEntry
    near: Day

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return request_in(self.entry, books, self.near)


class UndoAct(Act):
    """A change taken back."""

    says = "a change taken back"
    act: Literal["undo"]
    number: int

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return acts.TakeBack(self.number)


class OwnPocketAct(Act):
    """A cost that an owner paid privately. *gross* as it is keyed: a sum may be written. Either *account*
    or *bills*."""

    says = "paid from the own pocket"
    act: Literal["own-pocket"]
    day: Day
    gross: str = Field(max_length=100)
    account: str | None = Field(default=None, max_length=40)
    tax_code: str | None = Field(default=None, max_length=40)
    bills: list[str] = Field(default_factory=list, max_length=100)
    owner_account: str | None = Field(default=None, max_length=40)
    text: str = Field(default="", max_length=400)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        currency = books.client.currency
        return OwnPocket(
            self.day,
            _amount(self.gross, currency),
            self.account or None,
            self.tax_code or None,
            tuple(self.bills),
            self.owner_account or None,
            " ".join(self.text.split()),
        )


class KeyedDay(Fields):
    """Amounts as they are keyed: sums may be written. *returns_on*: cash or card."""

    day: Day
    cash: str = Field(default="", max_length=100)
    card: str = Field(default="", max_length=100)
    returns: str = Field(default="", max_length=100)
    returns_on: str = Field(default="cash", pattern="^(cash|card)$")
    reference: str | None = Field(default=None, max_length=100)


class TakingsAct(Act):
    """A shop's takings by day. *sales*: the income account that the days go to."""

    says = "takings"
    act: Literal["takings"]
    days: list[KeyedDay] = Field(min_length=1, max_length=400)
    sales: str = Field(max_length=100)
    tax_code: str | None = Field(default=None, max_length=40)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        faults: list[str] = []

        def amount(text: str, day: KeyedDay, name: str) -> int:
            if not text.strip():
                return 0
            try:
                return keyed_amount(text, books.client.currency)
            except NotAnAmount as error:
                faults.append(f"{day.day}, {name}: {error}.")
                return 0

        days = tuple(
            DayTakings(
                when.day,
                amount(when.cash, when, "cash"),
                amount(when.card, when, "card"),
                amount(when.returns, when, "returns"),
                when.returns_on == "card",
                when.reference,
            )
            for when in self.days
        )
        if faults:
            raise BadEntry(faults)
        return Sold(days, self.sales, self.tax_code or None)


class SharingFields(Fields):
    """*salaries*: by the partner's account, as they are keyed; *rate*: in percent a year. What is left
    out is as it was shared last in the year."""

    day: Day
    salaries: dict[str, str] = Field(default_factory=dict, max_length=50)
    rate: str = Field(default="", max_length=20)

    def terms(self, currency: Currency) -> Terms:
        """Raises BadEntry where a figure can't be read."""
        try:
            keyed = {code: text for code, text in self.salaries.items() if text.strip()}
            salaries = {code: keyed_amount(text, currency) for code, text in keyed.items()}
            rate = keyed_number(self.rate) if self.rate.strip() else None
        except (NotAnAmount, ValueError) as wrong:
            raise BadEntry([f"{wrong}."]) from None
        if rate is not None and not 0 <= rate <= 100:
            raise BadEntry(["Interest is between 0 and 100 percent a year."])
        return Terms(self.day, salaries, rate)


class SharingAct(SharingFields, Act):
    """A partnership's profit shared."""

    says = "profit shared among the partners"
    act: Literal["sharing"]

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return self.terms(books.client.currency)


class TogetherAct(Act):
    """Points of one check, each put right by its recommended route, all or none."""

    says = "points of one kind put right together"
    act: Literal["together"]
    points: list[Name] = Field(min_length=1, max_length=500)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return acts.PutRightTogether(tuple(map(point_named, self.points)))


class MergeAct(Act):
    """Two parties that are one. *other*: the one whose name goes."""

    says = "two parties made one"
    act: Literal["merge"]
    party: Name
    other: Name

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return acts.Merge(self.party, self.other)


class AccountPart(Fields):
    """What is left out stays as it is; an empty text takes it away."""

    account: str = Field(max_length=40)
    name: str | None = Field(default=None, max_length=400)
    type: str | None = Field(default=None, max_length=20)
    role: str | None = Field(default=None, max_length=40)
    owner: str | None = Field(default=None, max_length=100)
    tax_code: str | None = Field(default=None, max_length=40)


class ChartAct(Act):
    """Accounts put right, all or none."""

    says = "accounts put right"
    act: Literal["chart"]
    accounts: list[AccountPart] = Field(min_length=1, max_length=2_000)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return acts.PutChartRight(
            tuple(AccountWanted(**part.model_dump()) for part in self.accounts)
        )


class AddAccountAct(Act):
    """A new account. It says itself what it is for: no reason is asked for, and nothing moves by it."""

    says = "a new account"
    act: Literal["account"]
    code: str = Field(max_length=40)
    name: str = Field(max_length=400)
    type: str = Field(max_length=20)
    role: str = Field(default="", max_length=40)
    tax_code: str | None = Field(default=None, max_length=40)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return acts.AddAccount(
            Account(
                self.code.strip(),
                " ".join(self.name.split()),
                account_type(self.type),
                account_role(self.role),
                tax_code=self.tax_code or None,
            )
        )


class AddPartyAct(Act):
    """A new customer, supplier or other party; as with an account, nothing moves by it."""

    says = "a new party"
    act: Literal["party"]
    name: str = Field(max_length=400)
    kind: str = Field(max_length=20)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        try:
            return acts.AddParty(self.name, PartyKind(self.kind))
        except ValueError:
            raise UnknownName("kind of party", self.kind) from None


class WantedGroup(Fields):
    """Entries by transaction and line, statement lines by their ref."""

    entries: list[tuple[str, int]] = Field(max_length=200)
    lines: list[str] = Field(max_length=200)
    why: str = Field(default="", max_length=400)


class AgreeAct(Act):
    """Entries tied to statement lines, each group with equal sums."""

    says = "agreed with the statement"
    act: Literal["agree"]
    account: Name
    groups: list[WantedGroup] = Field(min_length=1, max_length=5_000)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        groups = (
            Wanted(tuple(group.entries), tuple(group.lines), group.why) for group in self.groups
        )
        return acts.Agree(self.account, tuple(groups))


class AgreeSureAct(Act):
    """All agreed that is sure in a statement; *likely*: what is only likely too."""

    says = "all that is sure agreed with the statement"
    act: Literal["agree-sure"]
    account: Name
    statement: int
    likely: bool = False

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        level = Level.LIKELY if self.likely else Level.SURE
        return acts.AgreeSure(self.account, self.statement, level)


class ApartAct(Act):
    """Agreements taken apart, by their groups."""

    says = "agreements taken apart"
    act: Literal["apart"]
    account: Name
    groups: list[str] = Field(min_length=1, max_length=5_000)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return acts.TakeApart(self.account, tuple(self.groups))


class AgreeTieOutAct(Act):
    """A proof agreed as at a day. *outside*: keyed from a paper, as it is keyed; *paper*: its digest."""

    says = "a tie-out agreed"
    act: Literal["tie-out"]
    tie_out: Name
    as_at: Day
    note: str = Field(default="", max_length=2000)
    outside: str = Field(default="", max_length=100)
    paper: str | None = Field(default=None, max_length=64)
    paper_name: str | None = Field(default=None, max_length=200)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        outside = _amount(self.outside, books.client.currency) if self.outside.strip() else None
        return AgreeTieOut(
            self.tie_out, self.as_at, self.note.strip(), outside, self.paper, self.paper_name
        )


class ClosingFields(Fields):
    """*shares*: percent by the partner's account, as they are keyed; *salaries* and *rate* as for sharing.
    What is left out is as the books have it. *through*: the account of equity over which the result
    passes."""

    year: str = Field(max_length=40)
    shares: dict[str, str] = Field(default_factory=dict, max_length=50)
    salaries: dict[str, str] = Field(default_factory=dict, max_length=50)
    rate: str = Field(default="", max_length=20)
    by_dimension: bool = False
    through: str | None = Field(default=None, max_length=100)

    def wanted(self, currency: Currency) -> CloseYear:
        """Raises BadEntry where a figure can't be read."""
        terms = SharingFields(day=FIRST_DAY, salaries=self.salaries, rate=self.rate).terms(currency)
        try:
            keyed = {code: text for code, text in self.shares.items() if text.strip()}
            shares = {code: keyed_number(text) for code, text in keyed.items()}
        except ValueError as wrong:
            raise BadEntry([f"{wrong}."]) from None
        return CloseYear(
            self.year, shares, self.by_dimension, terms.salaries, terms.rate, self.through or None
        )


class CloseYearAct(ClosingFields, Act):
    """A year closed, or the difference since it was."""

    says = "the year closed"
    act: Literal["close-year"]

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return self.wanted(books.client.currency)


class RecipeAct(Act):
    """What a recipe makes of what it is told. *said*: by the names of what it asks, as keyed; *near*: the
    day that short forms of days are read by."""

    says = "a recipe"
    act: Literal["recipe"]
    recipe: Name
    said: Annotated[dict[str, Annotated[str, Field(max_length=1_000_000)]], Field(max_length=40)]
    near: Day

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return UseRecipe(self.recipe, self.said, self.near)


class AssetsAct(Act):
    """Assets put into the register, or put right in it."""

    says = "fixed assets in the register"
    act: Literal["assets"]
    assets: list[AssetRow] = Field(min_length=1, max_length=20_000)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return KeepAssets(read_assets(self.assets, books))


class KeyedRate(Fields):
    currency: str = Field(max_length=3)
    day: Day
    rate: str = Field(max_length=40)


class RatesAct(Act):
    """Exchange rates added to the table."""

    says = "exchange rates"
    act: Literal["rates"]
    rates: list[KeyedRate] = Field(min_length=1, max_length=20_000)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        try:
            keyed = (read_rate(row.currency, row.day.isoformat(), row.rate) for row in self.rates)
            return AddRates(tuple(keyed))
        except ValueError as wrong:
            raise BadEntry([f"{wrong}."]) from None


class BudgetAct(Act):
    """Figures set beside the actual, from a table with the columns account, month and amount, or account
    and a column a month; income positive, costs positive."""

    says = "a budget"
    act: Literal["budget"]
    table: str = Field(max_length=2_000_000)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return SetBudget(budget_table(self.table, books))


class RecodeAct(Act):
    """What stands on an account moved, many at once. What is left out stays; an empty text takes away."""

    says = "many recoded at once"
    act: Literal["recode"]
    transactions: list[Name] = Field(min_length=1, max_length=2_000)
    account: str = Field(max_length=100)
    to_account: str | None = Field(default=None, max_length=100)
    tax_code: str | None = Field(default=None, max_length=40)
    dimensions: str | None = Field(default=None, max_length=400)
    profit: ProfitPart = ProfitPart.BY_MATERIALITY

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return Recode(
            tuple(self.transactions),
            self.account,
            self.to_account or None,
            self.tax_code,
            self.dimensions,
            self.profit,
        )


class MarkAccountAct(Act):
    """What an account asks of entries: `inactive`, `no-journals`, `needs:site`."""

    says = "an account's rules for entries"
    act: Literal["mark-account"]
    account: str = Field(max_length=100)
    marks: list[str] = Field(max_length=20)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return MarkAccount(self.account, tuple(self.marks))


class PayrollAct(Act):
    """A payroll bureau's file: CSV with the columns of the books folder's table."""

    says = "a payroll bureau's summary"
    act: Literal["payroll"]
    table: str = Field(max_length=1_000_000)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return TakePayroll(payroll_table(self.table, books))


class FileReturnAct(Act):
    """A tax return that was filed, by its span."""

    says = "a tax return filed"
    act: Literal["file-return"]
    first: Day
    last: Day
    filed_on: Day

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return FileReturn(self.first, self.last, self.filed_on)


class TaxSchemeAct(Act):
    """By which rule sales tax is reckoned, since when. *rate*: in percent, for a flat rate."""

    says = "another rule for sales tax"
    act: Literal["tax-scheme"]
    since: Day
    scheme: Scheme
    rate: str | None = Field(default=None, max_length=20)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        try:
            rate = keyed_number(self.rate) if self.rate else None
        except ValueError as wrong:
            raise BadEntry([f"rate: {wrong}."]) from None
        return SetTaxScheme(self.since, self.scheme, rate)


class SetFactsAct(Act):
    """What the practice answers for about the client: each fact by its name, as it is keyed."""

    says = "facts of the client"
    act: Literal["set-facts"]
    facts: dict[str, str | None] = Field(max_length=20)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        return SetFacts(self.facts)


class GroupPart(Fields):
    heading: Name
    picks: list[Name] = Field(max_length=2_000)


class ArrangeAct(Act):
    """Accounts grouped otherwise, for another reader. *picks*: codes of accounts, or roles."""

    says = "another grouping of accounts"
    act: Literal["arrange"]
    name: Name
    groups: list[GroupPart] = Field(max_length=200)

    def read(self, books: Books, point_named: PointNamed) -> acts.Act:
        groups = (Group(" ".join(g.heading.split()), tuple(g.picks)) for g in self.groups)
        return Arrange(Arrangement(" ".join(self.name.split()), tuple(groups)))


def _amount(text: str, currency: Currency) -> int:
    try:
        return keyed_amount(text, currency)
    except NotAnAmount as wrong:
        raise BadEntry([f"{wrong}."]) from None


AnyAct = Annotated[
    PointAct
    | TogetherAct
    | ByHandAct
    | EntryAct
    | UndoAct
    | OwnPocketAct
    | TakingsAct
    | SharingAct
    | MergeAct
    | ChartAct
    | AddAccountAct
    | AddPartyAct
    | AgreeAct
    | AgreeSureAct
    | ApartAct
    | AgreeTieOutAct
    | CloseYearAct
    | RecipeAct
    | AssetsAct
    | RatesAct
    | BudgetAct
    | ArrangeAct
    | RecodeAct
    | MarkAccountAct
    | PayrollAct
    | FileReturnAct
    | TaxSchemeAct
    | SetFactsAct,
    Field(discriminator="act"),
]
_ANY: TypeAdapter[AnyAct] = TypeAdapter(AnyAct)


def act_of(asked: str) -> AnyAct:
    """An act as it was kept. Raises BadEntry for what is none."""
    try:
        return _ANY.validate_json(asked)
    except ValidationError as wrong:
        faults = (f"{'.'.join(map(str, e['loc'])) or 'act'}: {e['msg']}." for e in wrong.errors())
        raise BadEntry(faults) from None
