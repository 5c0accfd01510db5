"""tax-code-odd: tax that is not its rate of the net within 2 minor units; tax on what has none (wages,
owners, transfers, bank charges, interest); a party's document without the tax that all its others bear, or
with tax that none of them does.

Keeps quiet: about charges that bear tax as a rule.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator, Mapping, Sequence
from fractions import Fraction

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.money import Minor, rounded, tax_within
from corkpost.core.plan_rules import UNTAXED_ROLES
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
DOCUMENTS, MOSTLY = 20, 0.9
NEARLY = 8
"""A share of the net within so many percent of the usual rate is a slip of it."""
HABIT = 6
PAPERS = frozenset(
    {
        TransactionKind.SALES_INVOICE,
        TransactionKind.PURCHASE_BILL,
        TransactionKind.DIRECT_PAYMENT,
        TransactionKind.DIRECT_RECEIPT,
    }
)
CHARGES = frozenset({AccountRole.BANK_CHARGES, AccountRole.LOAN_INTEREST})
WITHOUT = UNTAXED_ROLES | CHARGES
"""What no tax is on, whoever is paid."""
LOOKED_AT = PAPERS | {TransactionKind.TRANSFER, TransactionKind.PAYROLL}


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    by_party: dict[str, list[Transaction]] = defaultdict(list)
    rows = books.rows_by(
        "taxed papers", lambda posted: _sorts(books, posted), *LOOKED_AT, ground=_usual_rate(books)
    )
    for posted in rows.get(ODD, ()):
        odd = _odd(books, posted)
        if odd and not books.is_answered(posted.id):
            yield _point(run, posted, *odd)
    yield from _on_what_has_none(run, rows)
    for (what, party), few in rows.items():
        live = [posted for posted in few if not books.is_answered(posted.id)]
        other = {"bare": "taxed", "taxed": "bare"}.get(what)
        if other and len(live) == 1:
            many = rows.get((other, party), ())
            by_party[party] = [*(t for t in many if not books.is_answered(t.id)), *live]
    for found in by_party.values():
        yield from _departing(run, found)


ODD = ("odd", "")
NONE_DUE = "none due"
UNTAXED_CHARGES = "untaxed charges"


def _sorts(books: Books, posted: Transaction) -> Iterator[tuple[str, str]]:
    """Whether its tax is odd; else, where it is a party's paper, whose and whether it bears tax."""
    if posted.change is not None:
        return
    charge = next((x for x in posted.lines if books.accounts[x.account].role in CHARGES), None)
    without = _without(books, posted)
    if without is not None:
        yield NONE_DUE, without.account
    elif charge is not None and not _tax_lines(books, posted):
        yield UNTAXED_CHARGES, charge.account
    elif posted.kind not in PAPERS:
        return
    elif _odd(books, posted):
        yield ODD
    elif posted.party and posted.kind in (
        TransactionKind.SALES_INVOICE,
        TransactionKind.PURCHASE_BILL,
    ):
        yield ("taxed" if _tax_lines(books, posted) else "bare", posted.party)


def _tax_lines(books: Books, posted: Transaction) -> list[Line]:
    return [x for x in posted.lines if books.accounts[x.account].role is AccountRole.TAX]


def _without(books: Books, posted: Transaction) -> Line | None:
    """The largest line of one that bears tax though nothing in it may; None for any other."""
    on_tax = _tax_lines(books, posted)
    tax = sum(line.amount for line in on_tax)
    other = [x for x in posted.lines if x not in on_tax]
    if not tax or any(books.accounts[x.account].role not in WITHOUT for x in other):
        return None
    # What left the bank, or came in, is the other side of it.
    own = [x for x in other if (x.amount > 0) == (tax > 0)]
    return max(own, key=lambda x: abs(x.amount), default=None)


def _on_what_has_none(
    run: CheckRun, rows: Mapping[tuple[str, str], Iterable[Transaction]]
) -> Iterator[Point]:
    books = run.books
    for (what, code), found in rows.items():
        if what != NONE_DUE:
            continue
        live = [posted for posted in found if not books.is_answered(posted.id)]
        account = books.accounts[code]
        bare = len(list(rows.get((UNTAXED_CHARGES, code), ())))
        if account.role in CHARGES and len(live) > max(bare, HABIT):
            continue
        for posted in live:
            over = sum(line.amount for line in _tax_lines(books, posted))
            why = f"it bears tax, and {account.name} has none"
            yield _point(run, posted, over, why, own=_without(books, posted))


def _odd(books: Books, posted: Transaction) -> tuple[Minor, str] | None:
    """By how much the tax is off, and why; None where it fits."""
    on_tax = _tax_lines(books, posted)
    codes = {line.tax_code for line in on_tax}
    if codes == {None}:
        return _off_the_usual(books, posted, on_tax)
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


def _off_the_usual(
    books: Books, posted: Transaction, on_tax: Sequence[Line]
) -> tuple[Minor, str] | None:
    """Where the books name no codes: by how much the tax is off the rate that nearly all of them have."""
    rate = _usual_rate(books)
    net = _net(books, posted)
    booked = sum(line.amount for line in on_tax)
    if rate is None or not net or not booked:
        return None
    right = rounded(Fraction(net * rate, 100))
    # Much less of it, or of the other sign: a part of the net bears none, or it is another rate.
    if abs(booked - right) <= ROUNDING or abs(100 * booked / net - rate) > NEARLY:
        return None
    words = books.client.currency.format_amount
    why = f"the tax is {words(abs(booked))}, and {rate}% of its net, as on all others, {words(abs(right))}"
    return booked - tax_within(net + booked, Fraction(rate)), why


def _net(books: Books, posted: Transaction) -> Minor:
    return sum(x.amount for x in posted.lines if books.accounts[x.account].is_profit_and_loss)


def _usual_rate(books: Books) -> int | None:
    """The rate, in whole percent, of nearly all documents with tax; None where several rates are used."""
    if "usual tax rate" not in books.derived:
        rates: Counter[int] = Counter()
        for posted in books.of_kinds(*sorted(PAPERS)):
            tax, net = sum(x.amount for x in _tax_lines(books, posted)), _net(books, posted)
            if posted.change is None and tax and net:
                near = round(100 * tax / net)
                rates[near if abs(tax - net * near / 100) <= ROUNDING else 0] += 1
        best = rates.most_common(1)
        enough = best and best[0][1] >= max(DOCUMENTS, MOSTLY * rates.total())
        books.derived["usual tax rate"] = best[0][0] if enough and best[0][0] > 0 else None
    found: int | None = books.derived["usual tax rate"]
    return found


def _departing(run: CheckRun, rows: list[Transaction]) -> Iterator[Point]:
    books = run.books
    bare = [posted for posted in rows if not _tax_lines(books, posted)]
    taxed = [posted for posted in rows if _tax_lines(books, posted)]
    party = books.party_name(rows[0].party)
    if len(taxed) >= HABIT and len(bare) == 1:
        code = _tax_lines(books, taxed[-1])[0].tax_code
        tax = books.taxes.get(code or "")
        (posted,) = bare
        own = [x for x in posted.lines if books.accounts[x.account].is_profit_and_loss]
        if tax is not None and len(own) == 1:
            amount = tax_within(own[0].amount, tax.rate)
            why = f"it bears no tax, and {len(taxed)} others of {party} bear {tax.code}"
            yield _point(run, posted, -amount, why, code)
    elif len(bare) >= HABIT and len(taxed) == 1:
        (posted,) = taxed
        own = [x for x in posted.lines if books.accounts[x.account].is_profit_and_loss]
        # Who charges it from now on has been registered.
        last = all(other.posting_date < posted.posting_date for other in bare)
        if len(own) == 1:
            over = sum(line.amount for line in _tax_lines(books, posted))
            why = f"it bears tax, and {len(bare)} others of {party} bear none"
            yield _point(run, posted, over, why, certainty=AT_LAST if last else NEVER_BEFORE)


AT_LAST, NEVER_BEFORE = 0.6, 0.82


def _point(
    run: CheckRun,
    posted: Transaction,
    over: Minor,
    why: str,
    code: str | None = None,
    *,
    own: Line | None = None,
    certainty: float | None = None,
) -> Point:
    """*over*: what stands on tax and should be on the other side, which is *own*, else what it cost."""
    books = run.books
    on_tax = _tax_lines(books, posted)
    account = on_tax[0].account if on_tax else books.with_role(AccountRole.TAX)[0].code
    own = own or next(x for x in posted.lines if books.accounts[x.account].is_profit_and_loss)
    code = code or (on_tax[0].tax_code if on_tax else None)
    words = books.client.currency.format_amount
    return CHECK.point(
        books,
        subjects={"odd": (posted.id,)},
        amount=abs(over),
        certainty=certainty or (0.86 if on_tax else 0.8),
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
