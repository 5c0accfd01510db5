"""refund: a supplier's or customer's refund against the overpayment(s) it returns, in parts if need be.

It is not a negative cost and not income: Dr bank, Cr payables, allocated to what was paid too much.
"""

from dataclasses import replace

from corkpost.core.bank.sides import statement_line
from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.evidence.who import finder_for
from corkpost.core.matching.bank_look import bank_looks
from corkpost.core.open_items import open_items
from corkpost.core.points import Point
from corkpost.core.refusals import UnknownName
from corkpost.core.routes import Option, Route, Settings
from corkpost.core.routes.record_missing import recorded
from corkpost.core.statements import StatementLine

ROUTE = Route(
    "refund",
    did="Money that came back is set against what had been paid too much.",
    means="Nothing to enter: what it returns is no longer open.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """Against the party's overpayments, the oldest first, where a statement line brings money back."""
    line = _line_of(books, point)
    if line is None:
        return ()
    party = finder_for(books).named_in(line.words) or _payee(books, point)
    paid_over = _paid_over(books, party, line) if party else []
    if not party or not paid_over:
        return ()
    names: list[str] = []
    left = abs(line.amount)
    for name, amount in paid_over:
        if left > 0:
            names.append(name)
            left -= amount
    title = f"Record it as a refund of {', '.join(names)} by {books.party_name(party)}"
    reason = f"{books.party_name(party)} paid back what was paid too much by {' and '.join(names)}."
    return (Option(ROUTE.id, {"items": ",".join(names), "line": line.id}, title, reason),)


def _payee(books: Books, point: Point) -> str | None:
    money = point.named("money")
    return books.transaction(money[0]).party if money else None


def _line_of(books: Books, point: Point) -> StatementLine | None:
    """The point's line; for a payment made twice, the line that brings just that sum back."""
    if point.named("line"):
        return statement_line(books, point.named("line")[0])
    if not point.named("money"):
        return None
    over = books.transaction(point.named("money")[0])
    return next(
        (
            line
            for look in bank_looks(books)
            for line in look.missing
            if line.amount == over.total and line.day >= over.posting_date
        ),
        None,
    )


def _paid_over(books: Books, party: str, line: StatementLine) -> list[tuple[str, int]]:
    """Payments with something left of them, that money of this direction could return."""
    return [
        (item.transaction.id, abs(left))
        for item, left in open_items(books).open_of(party)
        if (left > 0) is (line.amount > 0)
        and any(x.amount * left < 0 for x in item.transaction.lines if x.account != item.account)
        and item.transaction.kind in ("supplier-payment", "customer-receipt")
        and (item.transaction.kind == "supplier-payment") is (line.amount > 0)
    ]


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Record the line as money back for the overpayments `items`. Raises UnknownName."""
    option = next(iter(options(books, point)), None)
    name = settings.get("line") or (option.settings["line"] if option else "")
    items = settings.get("items") or (option.settings["items"] if option else "")
    if not items:
        raise UnknownName("overpayment", items)
    reason = option.proposed_reason if option else ""
    made = recorded(books, statement_line(books, name), {**settings, "items": items})
    return replace(made, route=ROUTE.id, proposed_reason=reason)
