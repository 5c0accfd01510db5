"""invoice-received-direct: an open invoice, and the customer's money coded straight to income.

The income is in the books twice. Finds one receipt for one invoice or several, a part that quotes the
invoice, one that is short by up to 3%.
Keeps quiet: when the amount differs otherwise and no set of open invoices adds up to it.
"""

from collections.abc import Iterator

from corkpost.core.matching.direct_money import RECEIPTS, find_direct
from corkpost.core.matching.direct_points import direct_points, twins_told
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "invoice-received-direct",
    family=Family.PAID_STILL_OPEN,
    routes=("settle", "ask", "leave"),
    after=("duplicate-document",),
    explains=("receipt",),
    finds="an open invoice whose receipt was coded to income",
    avoid=(
        "When money comes in, look whether the customer's invoice is open, and settle the "
        "invoice; do not choose an income account again."
    ),
)


def find(run: CheckRun) -> Iterator[Point]:
    twins = twins_told(CHECK, run)
    found = find_direct(run, RECEIPTS, twins)
    yield from direct_points(CHECK, run, found, money="receipt", paper="invoice")
