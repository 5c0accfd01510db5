"""Whether what is set aside is meant to stand for years: an accrual is for what is billed next month."""

import re
from datetime import date

from corkpost.core.evidence.who import spoken

LASTING = frozenset(
    "DILAPIDATION DILAPIDATIONS WARRANTY WARRANTIES GUARANTEE RESTORATION REINSTATEMENT DECOMMISSIONING "
    "LITIGATION LAWSUIT CLAIM PENSION PENSIONS RETENTION REDUNDANCY ONEROUS LONGTERM "
    "GEWAHRLEISTUNG GEWAEHRLEISTUNG GARANTIE PENSIONSRUCKSTELLUNG PROZESS PROZESSKOSTEN RUCKBAU "
    "ABFINDUNG LITIGE LITIGES RETRAITE DEMANTELEMENT PENSIOEN GESCHIL GARANTIA LITIGIO PENSIONES GARANZIA "
    "CONTENZIOSO TFR GWARANCJA EMERYTALNE".split()
)
PROVISIONS = frozenset(
    "PROVISION PROVISIONS RUCKSTELLUNG RUCKSTELLUNGEN RUECKSTELLUNG RUECKSTELLUNGEN VOORZIENING "
    "VOORZIENINGEN PROVISIONES ACCANTONAMENTO FONDO REZERWA REZERWY".split()
)
_YEAR = re.compile(r"(?<!\d)(20\d\d)(?!\d)")
YEARS_ON = 2


def stands_for_years(text: str, account: str, day: date, year_ends: date) -> bool:
    """Whether the text of an entry of *day*, on an *account* of that name, says that it is for longer than
    the next period: what it is for, a year well beyond, or a provision made at *year_ends*."""
    words = set(spoken(text))
    if (words | set(spoken(account))) & LASTING or any(
        int(year) >= day.year + YEARS_ON for year in _YEAR.findall(text)
    ):
        return True
    return bool(words & PROVISIONS) and day == year_ends
