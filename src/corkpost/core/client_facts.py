"""What the practice answers for about a client: its kind, filing, limits. Set by an act, with a reason.

Books that come later may say otherwise; what was set here stays (handbook, section 2).
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import replace
from datetime import date, datetime
from typing import Any, NamedTuple

from corkpost.core.asks import Ask, AskKind, Choice
from corkpost.core.books import Books, ClientFacts, Tables
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.checks.owner_account_kind import unfit_entries
from corkpost.core.keying import keyed_amount
from corkpost.core.kinds import Entity, MayChange
from corkpost.core.money import Currency, NotAnAmount
from corkpost.core.refusals import BadEntry, NothingToDo
from corkpost.core.row_kinds import facts_set
from corkpost.core.row_kinds.facts_set import FactSet


class SetFacts(NamedTuple):
    """*facts*: by name, as they are keyed; None or empty for none."""

    facts: Mapping[str, str | None]


class Fact(NamedTuple):
    """*read*: of the text that is kept; raises ValueError. *text*: the other way. *may_lack*: it can be
    none."""

    says: str
    read: Callable[[str, Currency], Any]
    text: Callable[[Any, Currency], str]
    may_lack: bool = True


def _moment(text: str, _: Currency) -> datetime:
    """A day alone is all of it: what was keyed on it came before the filing."""
    at = datetime.fromisoformat(text)
    return at if "T" in text else at.replace(hour=23, minute=59, second=59)


def _amount(text: str, currency: Currency) -> int:
    amount = keyed_amount(text, currency)
    if amount < 0:
        raise ValueError("a limit is not below nil")
    return amount


def _yes(text: str, _: Currency) -> bool:
    if text not in ("yes", "no"):
        raise ValueError("say yes or no")
    return text == "yes"


def _day(text: str, _: Currency) -> date:
    return date.fromisoformat(text)


def _iso(day: date, _: Currency) -> str:
    return day.isoformat()


def _plain(amount: int, currency: Currency) -> str:
    return currency.format(amount)


FACTS: Mapping[str, Fact] = {
    "entity": Fact(
        "kind of client", lambda text, _: Entity(text), lambda entity, _: entity.value, False
    ),
    "tax_registered": Fact(
        "registered for sales tax", _yes, lambda yes, _: "yes" if yes else "no", False
    ),
    "filed_through": Fact("filed through", _day, _iso),
    "filed_on": Fact("filed on", _moment, lambda at, _: at.isoformat()),
    "tax_returned_through": Fact("tax returned through", _day, _iso),
    "materiality": Fact("materiality", _amount, _plain),
    "capital_item": Fact("a cost is an asset from", _amount, _plain),
    "engaged_on": Fact("letter of engagement of", _day, _iso),
    "may_change": Fact(
        "the client's own rows are corrected",
        lambda text, _: MayChange(text),
        lambda may, _: may.value,
        False,
    ),
}


def with_facts(facts: ClientFacts, tables: Tables) -> ClientFacts:
    """The facts as the practice set them, over those that came with the books."""
    latest: dict[str, FactSet] = {row.fact: row for row in tables.of(facts_set.KIND.name)}
    found: dict[str, Any] = {
        name: FACTS[name].read(row.value, facts.currency) if row.value is not None else None
        for name, row in latest.items()
        if row.stands and name in FACTS
    }
    return replace(facts, **found) if found else facts


def stated(facts: ClientFacts) -> Mapping[str, str | None]:
    """Every fact as text; None for what is not known."""
    found = {name: getattr(facts, name) for name in FACTS}
    return {
        name: None if value is None else FACTS[name].text(value, facts.currency)
        for name, value in found.items()
    }


MAY_CHANGE = (
    (MayChange.FREELY, "as the practice finds right"),
    (MayChange.ASKED, "once the client has agreed"),
)


def asks_for_facts(facts: ClientFacts) -> tuple[Ask, ...]:
    """What can be set, each beginning with what is so."""
    now = stated(facts)
    return tuple(_ask(name, (now[name] or "").partition("T")[0]) for name in FACTS)


FOR_MANY = ("materiality", "capital_item", "engaged_on", "may_change")
"""What can be set for several clients alike; the rest is each one's own."""


def asks_for_many() -> tuple[Ask, ...]:
    """What can be set for several clients at once, each beginning empty: as it is."""
    return tuple(_ask(name, "") for name in FOR_MANY)


def _ask(name: str, value: str) -> Ask:
    kinds = {
        "entity": (AskKind.CHOICE, tuple(Choice(e, e.value.replace("-", " ")) for e in Entity)),
        "tax_registered": (AskKind.CHOICE, (Choice("yes", "yes"), Choice("no", "no"))),
        "materiality": (AskKind.AMOUNT, ()),
        "capital_item": (AskKind.AMOUNT, ()),
        "may_change": (AskKind.CHOICE, tuple(Choice(*row) for row in MAY_CHANGE)),
    }
    kind, choices = kinds.get(name, (AskKind.DAY, ()))
    says = FACTS[name].says
    return Ask(name, kind, f"{says[:1].upper()}{says[1:]}", value, choices)


def plan_set_facts(books: Books, wanted: SetFacts) -> Plan:
    """Raises BadEntry with every fault, or NothingToDo."""
    now = stated(books.client)
    read: dict[str, Any] = {}
    faults = []
    for name, text in wanted.facts.items():
        fact = FACTS.get(name)
        if fact is None:
            faults.append(f"{name}: there is no such fact; there are {', '.join(FACTS)}.")
        elif not text:
            read[name] = None
            if not fact.may_lack:
                faults.append(f"{fact.says}: it can't be none.")
        else:
            try:
                read[name] = fact.read(text, books.client.currency)
            except (ValueError, NotAnAmount) as wrong:
                faults.append(f"{fact.says}: {wrong}.")
    if not faults:
        faults += _faults(books, replace(books.client, **read))
    if faults:
        raise BadEntry(faults)
    kept = {
        name: None if value is None else FACTS[name].text(value, books.client.currency)
        for name, value in read.items()
    }
    rows = tuple(FactSet(name, text) for name, text in kept.items() if text != now[name])
    if not rows:
        raise NothingToDo("It is so already.")
    says = "; ".join(f"{FACTS[row.fact].says}: {row.value or 'none'}" for row in rows)
    return Plan(
        kind=ChangeKind.ENTRY,
        route="set-facts",
        entries=(),
        allocations=(),
        more={facts_set.KIND.name: rows},
        proposed_reason=f"{says[:1].upper()}{says[1:]}.",
        notes=tuple(_was(now, rows)),
    )


def _was(now: Mapping[str, str | None], rows: tuple[FactSet, ...]) -> Iterator[str]:
    for row in rows:
        yield f"{FACTS[row.fact].says} was {now[row.fact] or 'none'}"


def _faults(books: Books, facts: ClientFacts) -> Iterator[str]:
    if facts.entity is not books.client.entity:
        rows = list(unfit_entries(books, facts.entity))
        if rows:
            shown = ", ".join(f"{posted.id} on {line.account}" for posted, line in rows[:5])
            more = f" and {len(rows) - 5} more" if len(rows) > 5 else ""
            yield (
                f"{shown}{more} would stand on accounts that a {facts.entity} does not have. Move them to "
                "the right accounts first."
            )
    if facts.filed_through and books.calendar.year_of(facts.filed_through).last_day != (
        facts.filed_through
    ):
        yield "A year is filed to its end: say the last day of one."
    if facts.filed_on and not facts.filed_through:
        yield "There is a day of filing only for a year that was filed."
    if facts.filed_through and facts.filed_on and facts.filed_on.date() <= facts.filed_through:
        yield "A year is filed after its last day."
