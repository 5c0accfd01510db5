"""bill-paid-direct: an open bill, and a payment to that supplier coded straight to a cost.

The cost is in the books twice. Finds one payment for one bill or several, a part payment that quotes
the bill, one that is short by up to 3%.
Keeps quiet: when the amount differs otherwise and no set of open bills adds up to it.
"""

from collections.abc import Iterator

from corkpost.core.matching.direct_money import PAYMENTS, find_direct
from corkpost.core.matching.direct_points import direct_points, twins_told
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "bill-paid-direct",
    family=Family.PAID_STILL_OPEN,
    routes=("settle", "ask", "leave"),
    after=("duplicate-document",),
    explains=("payment",),
    finds="an open bill whose payment was coded to a cost",
    avoid=(
        "When you enter a payment, look whether the supplier's bill is open, and pay the "
        "bill; do not choose a cost account again."
    ),
)


def find(run: CheckRun) -> Iterator[Point]:
    twins = twins_told(CHECK, run)
    found = find_direct(run, PAYMENTS, twins)
    yield from direct_points(CHECK, run, found, money="payment", paper="bill")
