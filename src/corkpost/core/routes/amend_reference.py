"""amend-reference: number or text put right by a recorded amendment; no money moves.

For numbers that are not the bank's, the entries are agreed with their statement lines as well.
"""

from corkpost.core.amendments import Amending, amendings
from corkpost.core.bank.sides import account_of_line, group_rows, statement_line
from corkpost.core.books import AgreementRow, Books
from corkpost.core.change import ChangeKind, Plan
from corkpost.core.points import Point
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "amend-reference",
    did="A number or text is put right; no figure moves.",
    means="Use the right number when you look for it.",
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    if not point.named("line"):
        return (Option(ROUTE.id, {}, "Amend its reference or text"),)
    numbers = " and ".join(
        f"{name} to {statement_line(books, line).reference}"
        for name, line in zip(point.named("amended"), point.named("line"), strict=True)
    )
    reason = "The number in the books was not the one on the cheque; the bank shows it."
    return (Option(ROUTE.id, {}, f"Amend the number of {numbers}", reason),)


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Amend the point's transaction: `reference` and `memo` as they shall be, where they are given;
    for a point of the bank, each to the number on its statement line."""
    names, lines = point.named("amended"), point.named("line")
    rows: tuple[Amending, ...]
    agreements: tuple[AgreementRow, ...] = ()
    if lines:
        rows = ()
        for number, (name, found) in enumerate(zip(names, lines, strict=True), 1):
            posted, line = books.transaction(name), statement_line(books, found)
            account = account_of_line(books, line)
            own = next(x for x in posted.lines if x.account == account)
            rows += amendings(posted, line.reference, None)
            agreements += group_rows(
                f"new-g{number}",
                account,
                [(name, own.number)],
                [line.id],
                why="its number put right",
            )
    else:
        posted = books.transaction(names[0])
        rows = amendings(posted, settings.get("reference"), settings.get("memo"))
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=(),
        allocations=(),
        amendments=rows,
        agreements=agreements,
        proposed_reason=options(books, point)[0].proposed_reason,
        notes=("Only words are amended: no figure moves, in no period.",),
        about=names,
    )
