"""tax-code-odd: tax that is not its rate of the net within 2 minor units, or a party's document without
the tax that all its others bear."""

from collections import defaultdict
from collections.abc import Iterator

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.money import Minor, rounded, tax_within
from corkpost.core.points import Check, CheckRun, Family, Point
from corkpost.core.remedies import Moving, Side

CHECK = Check(
    "tax-code-odd",
    family=Family.CODING,
    routes=("reclassify", "ask", "leave", "waive"),
    finds="tax that does not fit its rate, or its party's habit",
    avoid="Take the tax from the document; where it shows none, there is none to claim.",
)
ROUNDING = 2
HABIT = 6
PAPERS = frozenset(
    {
        TransactionKind.SALES_INVOICE,
        TransactionKind.PURCHASE_BILL,
        TransactionKind.DIRECT_PAYMENT,
        TransactionKind.DIRECT_RECEIPT,
    }
)


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    by_party: dict[str, list[Transaction]] = defaultdict(list)
    rows = books.rows_by("taxed papers", lambda posted: _sorts(books, posted), *PAPERS)
    for posted in rows.get(ODD, ()):
        odd = _odd(books, posted)
        if odd and not books.is_answered(posted.id):
            yield _point(run, posted, *odd)
    for (what, party), bare in rows.items():
        live = [posted for posted in bare if not books.is_answered(posted.id)]
        if what == "bare" and len(live) == 1:
            taxed = rows.get(("taxed", party), ())
            by_party[party] = [*(t for t in taxed if not books.is_answered(t.id)), *live]
    for found in by_party.values():
        yield from _departing(run, found)


ODD = ("odd", "")


def _sorts(books: Books, posted: Transaction) -> Iterator[tuple[str, str]]:
    """Whether its tax is odd; else, where it is a party's paper, whose and whether it bears tax."""
    if posted.change is not None:
        return
    if _odd(books, posted):
        yield ODD
    elif posted.party and posted.kind in (
        TransactionKind.SALES_INVOICE,
        TransactionKind.PURCHASE_BILL,
    ):
        yield ("taxed" if _tax_lines(books, posted) else "bare", posted.party)


def _tax_lines(books: Books, posted: Transaction) -> list[Line]:
    return [x for x in posted.lines if books.accounts[x.account].role is AccountRole.TAX]


def _odd(books: Books, posted: Transaction) -> tuple[Minor, str] | None:
    """By how much the tax is off, and why; None where it fits."""
    on_tax = _tax_lines(books, posted)
    codes = {line.tax_code for line in on_tax}
    if len(codes) != 1 or None in codes:
        return None
    tax = books.taxes.get(next(iter(codes)) or "")
    if tax is None or not tax.rate:
        return None
    net = sum(x.amount for x in posted.lines if x.tax_code == tax.code and x not in on_tax)
    booked = sum(line.amount for line in on_tax)
    right = rounded(net * tax.rate / 100)
    if not net or abs(booked - right) <= ROUNDING:
        return None
    within = tax_within(net + booked, tax.rate)
    words = books.client.currency.format_amount
    return booked - within, (
        f"the tax is {words(abs(booked))}, and {tax.code} of its net would be {words(abs(right))}"
    )


def _departing(run: CheckRun, rows: list[Transaction]) -> Iterator[Point]:
    books = run.books
    bare = [posted for posted in rows if not _tax_lines(books, posted)]
    taxed = [posted for posted in rows if _tax_lines(books, posted)]
    if len(taxed) < HABIT or len(bare) != 1:
        return
    code = _tax_lines(books, taxed[-1])[0].tax_code
    tax = books.taxes.get(code or "")
    (posted,) = bare
    own = [x for x in posted.lines if books.accounts[x.account].is_profit_and_loss]
    if tax is None or len(own) != 1:
        return
    amount = tax_within(own[0].amount, tax.rate)
    party = books.party_name(posted.party)
    why = f"it bears no tax, and {len(taxed)} others of {party} bear {tax.code}"
    yield _point(run, posted, -amount, why, code)


def _point(
    run: CheckRun, posted: Transaction, over: Minor, why: str, code: str | None = None
) -> Point:
    """*over*: what stands on tax and should be on the other side."""
    books = run.books
    on_tax = _tax_lines(books, posted)
    account = on_tax[0].account if on_tax else books.with_role(AccountRole.TAX)[0].code
    own = next(x for x in posted.lines if books.accounts[x.account].is_profit_and_loss)
    code = code or on_tax[0].tax_code
    words = books.client.currency.format_amount
    return CHECK.point(
        books,
        subjects={"odd": (posted.id,)},
        amount=abs(over),
        certainty=0.86 if on_tax else 0.8,
        summary=(
            f"{posted.reference or posted.memo or posted.id} of {posted.posting_date:%-d %B %Y}: {why}. "
            f"{words(abs(over))} moves between tax and {books.accounts[own.account].name}."
        ),
        short=f"{posted.reference or posted.memo or posted.id}, tax",
        because=("the sum that was paid stays as it is",),
        remedy=Moving(
            sides=(
                Side(account, -over, None, code),
                Side(own.account, over, None, code, own.dimensions),
            ),
            title="Put the tax right",
            reason=f"Tax of {posted.reference or posted.id} put right: {why}.",
        ),
    )
