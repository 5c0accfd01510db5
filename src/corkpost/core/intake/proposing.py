"""What a new client is called and is, by what its listings say: proposed, for a person to confirm."""

from collections import Counter
from collections.abc import Collection, Sequence
from typing import NamedTuple

from corkpost.core.intake.making import AsSaid
from corkpost.core.intake.raw import Raw
from corkpost.core.kinds import AccountRole, Entity
from corkpost.core.periods import ONE_DAY, year_end_on

LONGEST_CODE = 5
BY_ROLE = (
    (AccountRole.ACCUMULATED_FUND, Entity.ASSOCIATION),
    (AccountRole.DIVIDENDS, Entity.COMPANY),
    (AccountRole.DIRECTOR_PAY, Entity.COMPANY),
    (AccountRole.OWNER_LOAN, Entity.COMPANY),
    (AccountRole.PARTNER_CURRENT, Entity.PARTNERSHIP),
    (AccountRole.DRAWINGS, Entity.SOLE_TRADER),
    (AccountRole.CAPITAL_INTRODUCED, Entity.SOLE_TRADER),
)
BY_NAME = (
    (
        "ltd limited plc inc llc gmbh ag ug sarl sas sa bv nv sl srl spa spzoo aps ab oy",
        Entity.COMPANY,
    ),
    ("ev club society association verein vereniging stichting asbl", Entity.ASSOCIATION),
    ("partners partnership gbr ohg kg vof snc llp", Entity.PARTNERSHIP),
)


class Proposed(NamedTuple):
    """*year_end*: month and day. *why*: what speaks for the entity."""

    code: str
    name: str
    entity: Entity
    year_end: tuple[int, int]
    why: str


def proposed(said: AsSaid, names: Sequence[str], taken: Collection[str]) -> Proposed:
    """*names*: what may be its name, the likeliest first. *taken*: codes of other clients."""
    name = next((name for name in names if any(sign.isalpha() for sign in name)), "")
    entity, why = _entity(said, name)
    return Proposed(_code(name, taken), name, entity, _year_end(said.raw), why)


def _year_end(raw: Raw) -> tuple[int, int]:
    """The day before the ledger begins, or that of its opening entry; of trial balances alone the day that
    comes again a year later."""
    if raw.postings:
        first = (raw.first or min(row.day for row in raw.postings)).replace(day=1)
        day = min((row.day for row in raw.postings if row.is_opening), default=first)
        last = day - ONE_DAY if day.day == 1 else day
        return year_end_on(last)
    times = Counter(year_end_on(day) for day in {row.day for row in raw.balances})
    often = [day for day, count in times.items() if count > 1]
    return often[0] if len(often) == 1 else (12, 31)


def _entity(said: AsSaid, name: str) -> tuple[Entity, str]:
    words = {"".join(s for s in word.casefold() if s.isalnum()) for word in name.split()}
    for endings, entity in BY_NAME:
        found = words & set(endings.split())
        if found:
            return entity, f"its name ends in “{found.pop()}”"
    roles = {kind.role for kind in said.chart.values()}
    for role, entity in BY_ROLE:
        if role in roles:
            return entity, f"it has an account for {role.value.replace('-', ' ')}"
    return Entity.COMPANY, "nothing says otherwise"


def _code(name: str, taken: Collection[str]) -> str:
    """The first signs of its name, made another's by a figure where they are taken."""
    bare = "".join(s for s in name.upper() if s.isascii() and s.isalnum())[:LONGEST_CODE]
    bare = bare or "NEW"
    if bare not in taken:
        return bare
    return next(code for n in range(2, 10_000) if (code := f"{bare[:4]}{n}") not in taken)
