"""The bureau's summaries as they belong in the books."""

from collections import defaultdict
from collections.abc import Mapping
from datetime import date
from typing import NamedTuple

from corkpost.core.books import PayrollMonth
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor
from corkpost.core.periods import month_end

PARTS: Mapping[str, tuple[AccountRole, ...]] = {
    "gross pay": (AccountRole.WAGES, AccountRole.DIRECTOR_PAY),
    "employer's contributions": (AccountRole.EMPLOYER_CONTRIBUTIONS,),
    "net pay": (AccountRole.PAYROLL_NET,),
    "taxes and contributions owed": (AccountRole.PAYROLL_TAX,),
}


class Summary(NamedTuple):
    """The bureau's figures as they belong in the books, debit positive, by part."""

    month: date
    parts: Mapping[str, Minor]


def summaries(rows: tuple[PayrollMonth, ...]) -> list[Summary]:
    """One of each month, over its groups; months without gross or net pay say too little."""
    by_month: dict[str, list[PayrollMonth]] = defaultdict(list)
    for row in rows:
        by_month[row.month].append(row)
    found = []
    for month, groups in sorted(by_month.items()):
        if any(row.gross is None or row.net_pay is None for row in groups):
            continue
        gross = sum(row.gross or 0 for row in groups)
        employer = sum(row.employer_contributions or 0 for row in groups)
        net = sum(row.net_pay or 0 for row in groups)
        year, number = map(int, month.split("-")[:2])
        parts = dict(zip(PARTS, (gross, employer, -net, net - gross - employer), strict=True))
        found.append(Summary(month_end(year, number, 31), parts))
    return found
