"""The rate of each tax code, by what its entries reckon."""

from collections import Counter, defaultdict
from collections.abc import Iterable, Mapping
from fractions import Fraction

from corkpost.core.intake.chart import Kind
from corkpost.core.intake.entries import Entry
from corkpost.core.kinds import AccountRole
from corkpost.core.money import Minor

LEAST = 3
"""So many entries have to agree."""
MOSTLY = Fraction(3, 4)
LOOKED_AT = 1_000
"""So many entries of a code tell its rate."""
HIGHEST = 40
ROUNDED: Minor = 1
"""The tax of a document may be off by so much for each of its rows, as each is rounded."""


def rates_of(entries: Iterable[Entry], chart: Mapping[str, Kind]) -> dict[str, Fraction]:
    """The rate, in percent, of each code that stands alone in at least three entries, three of four of
    which come to it to the cent. Rates are whole or half percents: of finer ones several fit a small
    sum."""
    fitting: dict[str, Counter[int]] = defaultdict(Counter)
    seen: Counter[str] = Counter()
    for entry in entries:
        codes = {row.tax_code for row in entry.rows if row.tax_code}
        if len(codes) != 1:
            continue
        (code,) = codes
        if seen[code] < LOOKED_AT and (halves := _halves(entry, chart)) is not None:
            seen[code] += 1
            fitting[code].update(halves)
    rates = {}
    for code, found in fitting.items():
        if not found:
            continue
        # Of rates that fit as many entries, a whole one; then the lowest.
        best, times = min(found.items(), key=lambda row: (-row[1], row[0] % 2, row[0]))
        if times >= LEAST and times >= MOSTLY * seen[code]:
            rates[code] = Fraction(best, 2)
    return rates


def _halves(entry: Entry, chart: Mapping[str, Kind]) -> range | None:
    """The rates, in half percents, by which its tax can have been reckoned; None where nothing is taxed."""
    taxes = [row for row in entry.rows if chart[row.account].role is AccountRole.TAX]
    taxed = [row for row in entry.rows if row.tax_code and row not in taxes]
    net = abs(sum(row.amount for row in taxed))
    tax = abs(sum(row.amount for row in taxes))
    if not net:
        return None
    slack = ROUNDED * len(taxed)
    lowest = max(0, -(-200 * (tax - slack) // net))
    highest = min(2 * HIGHEST, 200 * (tax + slack) // net)
    return range(lowest, highest + 1)
