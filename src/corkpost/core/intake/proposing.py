"""What a new client is called and is, by what its listings say: proposed, for a person to confirm."""

from collections.abc import Collection, Sequence
from typing import NamedTuple

from corkpost.core.intake.making import Made
from corkpost.core.kinds import AccountRole, Entity
from corkpost.core.periods import ONE_DAY

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


def proposed(made: Made | None, names: Sequence[str], taken: Collection[str]) -> Proposed:
    """*names*: what may be its name, the likeliest first. *taken*: codes of other clients."""
    name = next((name for name in names if any(sign.isalpha() for sign in name)), "")
    entity, why = _entity(made, name)
    year_end = (12, 31)
    if made is not None and made.tables.transactions:
        opening = [row for row in made.tables.transactions if row.kind == "opening"]
        last = opening[0].posting_date if opening else made.first - ONE_DAY
        year_end = (last.month, last.day)
    return Proposed(_code(name, taken), name, entity, year_end, why)


def _entity(made: Made | None, name: str) -> tuple[Entity, str]:
    words = {"".join(s for s in word.casefold() if s.isalnum()) for word in name.split()}
    for endings, entity in BY_NAME:
        found = words & set(endings.split())
        if found:
            return entity, f"its name ends in “{found.pop()}”"
    roles = {kind.role for kind in made.chart.values()} if made else set()
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
