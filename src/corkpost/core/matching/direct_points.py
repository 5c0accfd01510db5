"""Points about money coded straight, in words: alike for payments and receipts."""

from collections.abc import Iterable, Iterator

from corkpost.core.matching.direct_money import Found, Match, is_quoted
from corkpost.core.points import Check, CheckRun, Point


def twins_told(check: Check, run: CheckRun) -> dict[str, str]:
    """The documents of which it was told that they are in the books twice, each with the one kept."""
    points = run.found_before(check, "duplicate-document")
    return {point.hint("twin"): point.hint("kept") for point in points}


MORE_THAN_ONE = {2: "two", 3: "three", 4: "four", 5: "five", 6: "six"}


def direct_points(
    check: Check, run: CheckRun, found: Iterable[Found], *, money: str, paper: str
) -> Iterator[Point]:
    """The points that found payments (or receipts) make; *money* and *paper* are their words."""
    given = ((hit.direct.posted.id, (hit, run.ground)) for hit in found)
    return run.books.kept.each(
        f"points of {check.id}",
        given,
        lambda _, found_and_ground: _direct_point(
            check, run, found_and_ground[0], money=money, paper=paper
        ),
    )


def _direct_point(check: Check, run: CheckRun, found: Found, *, money: str, paper: str) -> Point:
    books = run.books
    posted = found.direct.posted
    papers = tuple(open_.item.transaction for open_ in found.items)
    name = books.party_name(found.items[0].item.party)
    coded = next(
        books.accounts[line.account].name
        for line in posted.lines
        if books.accounts[line.account].is_profit_and_loss
    )
    direction = "to" if money == "payment" else "from"
    owed = [open_ for open_ in found.items if not open_.credit]
    many = len(papers) > 1
    of_them = f"{MORE_THAN_ONE[len(owed)]} {paper}s" if len(owed) > 1 else f"the {paper}"
    if len(owed) < len(papers):
        of_them += " and a credit"
    stand = "stand" if many else "stands"
    settled = min(found.direct.amount, sum(open_.left for open_ in owed))
    return check.point(
        books,
        subjects={money: (posted.id,), paper: tuple(transaction.id for transaction in papers)},
        amount=settled,
        certainty=found.certainty,
        summary=(
            f"A {money} {direction} {name} was coded to {coded}, and {of_them} "
            + (
                f"still {stand} open."
                if not _is_settled(run, found)
                else "was settled once more since."
            )
        ),
        short=f"{money} {posted.posting_date:%-d %b}, coded to {coded}",
        because=(_why(found, paper), *_quoting(found)),
        against=_doubts(found, paper),
    )


def _is_settled(run: CheckRun, found: Found) -> bool:
    return not any(run.items.open_now[open_.item.key] for open_ in found.items)


def _why(found: Found, paper: str) -> str:
    if found.match is Match.SET:
        return f"the sum of the {MORE_THAN_ONE[len(found.items)]} {paper}s, to the cent"
    return found.match


def _quoting(found: Found) -> tuple[str, ...]:
    quotes_one = found.match is Match.ONE and is_quoted(found.direct, found.items[0])
    return ("the payment quotes its number",) if quotes_one else ()


def _doubts(found: Found, paper: str) -> tuple[str, ...]:
    doubts = []
    if found.direct.party is None:
        doubts.append("nobody is named on the payment")
    if found.rivals > 1:
        doubts.append(f"other open {paper}s fit equally well")
    if found.since:
        reference = found.since.reference or found.since.id
        doubts.append(
            f"on that day {reference} of this sum stood open; it was paid by other money since"
        )
    return tuple(doubts)
