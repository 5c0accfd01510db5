"""What can be asked to be posted, as JSON: kept with what is handed in, and made again from it."""

from datetime import date
from fractions import Fraction
from typing import Annotated, Literal

from pydantic import ConfigDict, Field, TypeAdapter, ValidationError

from corkpost.core.keying import keyed_amount
from corkpost.core.money import Currency, NotAnAmount
from corkpost.core.own_pocket import OwnPocket
from corkpost.core.periods import FIRST_DAY, LAST_DAY
from corkpost.core.refusals import BadEntry
from corkpost.core.sharing import Terms
from corkpost.core.takings import DayTakings
from corkpost.formats.composed import ComposedEntry
from corkpost.formats.shape import Shape

Day = Annotated[date, Field(ge=FIRST_DAY, le=LAST_DAY)]
Name = Annotated[str, Field(max_length=200)]
Settings = Annotated[dict[str, str], Field(max_length=10)]


class Act(Shape):
    """Nothing that is not named belongs to it."""

    model_config = ConfigDict(extra="forbid")


class PointAct(Act):
    """A review point put right by a route."""

    act: Literal["point"]
    point: Name
    route: Name
    settings: Settings


class ByHandAct(Act):
    """A route for what a person picked. *items*: for `allocate` each may end in `=100.00`, a sum."""

    act: Literal["by-hand"]
    route: Name
    transaction: Name
    items: Annotated[list[Name], Field(max_length=200)]
    settings: Settings


class EntryAct(Act):
    """An entry as it was keyed. *near*: the day that short forms of days are read by."""

    act: Literal["entry"]
    entry: ComposedEntry
    near: Day


class UndoAct(Act):
    """A change taken back."""

    act: Literal["undo"]
    number: int


class OwnPocketFields(Act):
    """*gross* as it is keyed: a sum may be written. Either *account* or *bills*."""

    day: Day
    gross: str = Field(max_length=100)
    account: str | None = Field(default=None, max_length=40)
    tax_code: str | None = Field(default=None, max_length=40)
    bills: list[str] = Field(default_factory=list, max_length=100)
    owner_account: str | None = Field(default=None, max_length=40)
    text: str = Field(default="", max_length=400)

    def paid(self, currency: Currency) -> OwnPocket:
        """Raises BadEntry where the amount can't be read."""
        try:
            gross = keyed_amount(self.gross, currency)
        except NotAnAmount as wrong:
            raise BadEntry([f"{wrong}."]) from None
        return OwnPocket(
            self.day,
            gross,
            self.account or None,
            self.tax_code or None,
            tuple(self.bills),
            self.owner_account or None,
            " ".join(self.text.split()),
        )


class OwnPocketAct(OwnPocketFields):
    """A cost that an owner paid privately."""

    act: Literal["own-pocket"]


class KeyedDay(Act):
    """Amounts as they are keyed: sums may be written. *returns_on*: cash or card."""

    day: Day
    cash: str = Field(default="", max_length=100)
    card: str = Field(default="", max_length=100)
    returns: str = Field(default="", max_length=100)
    returns_on: str = Field(default="cash", pattern="^(cash|card)$")
    reference: str | None = Field(default=None, max_length=100)


class TakingsFields(Act):
    """*sales*: the income account that the days go to."""

    days: list[KeyedDay] = Field(min_length=1, max_length=400)
    sales: str = Field(max_length=100)
    tax_code: str | None = Field(default=None, max_length=40)

    def sold(self, currency: Currency) -> tuple[DayTakings, ...]:
        """Raises BadEntry with every amount that can't be read."""
        faults: list[str] = []

        def amount(text: str, day: KeyedDay, name: str) -> int:
            if not text.strip():
                return 0
            try:
                return keyed_amount(text, currency)
            except NotAnAmount as error:
                faults.append(f"{day.day}, {name}: {error}.")
                return 0

        days = tuple(
            DayTakings(
                one.day,
                amount(one.cash, one, "cash"),
                amount(one.card, one, "card"),
                amount(one.returns, one, "returns"),
                one.returns_on == "card",
                one.reference,
            )
            for one in self.days
        )
        if faults:
            raise BadEntry(faults)
        return days


class TakingsAct(TakingsFields):
    """A shop's takings by day."""

    act: Literal["takings"]


class SharingFields(Act):
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
            text = self.rate.replace(",", ".").strip()
            rate = Fraction(text) if text else None
        except (NotAnAmount, ValueError, ZeroDivisionError) as wrong:
            raise BadEntry([f"{wrong}."]) from None
        if rate is not None and not 0 <= rate <= 100:
            raise BadEntry(["Interest is between 0 and 100 percent a year."])
        return Terms(self.day, salaries, rate)


class SharingAct(SharingFields):
    """A partnership's profit shared."""

    act: Literal["sharing"]


AnyAct = Annotated[
    PointAct | ByHandAct | EntryAct | UndoAct | OwnPocketAct | TakingsAct | SharingAct,
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
