"""bank-error: the bank erred: the receipt or payment stays as it is, the difference waits on a clearing
account until the bank corrects it (handbook, section 5)."""

from corkpost.core.bank.expected import lines_that_correct
from corkpost.core.bank.sides import account_of_line, group_rows, statement_line
from corkpost.core.books import Books, Line
from corkpost.core.change import ChangeKind, Plan, entry_of, new_entry
from corkpost.core.dating import correction_date
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole, EntryKind
from corkpost.core.points import Point
from corkpost.core.refusals import MissingAccount
from corkpost.core.routes import Option, Route, Settings

ROUTE = Route(
    "bank-error",
    did="The bank's error is kept on a clearing account until the bank puts it right.",
    means=(
        "Leave the receipt or payment as it is. When the bank's correction comes, it goes to "
        "the clearing account, not to income or cost."
    ),
)


def options(books: Books, point: Point) -> tuple[Option, ...]:
    """Book it as the bank's error, with its correction where that has come."""
    corrections = point.named("correction")
    if corrections:
        day = statement_line(books, corrections[0]).day
        title = f"Book as the bank's error, and its correction on {format_date(day)}"
    else:
        title = "Book as the bank's error, and wait for its correction"
    return (Option(ROUTE.id, {}, title, _reason(books, point)),)


def _reason(books: Books, point: Point) -> str:
    line = statement_line(books, point.named("line")[0])
    (name,) = point.named("entry")
    amount = books.client.currency.format_amount(line.amount)
    return f"The bank booked {name} with {amount}; the books are right."


def plan(books: Books, point: Point, settings: Settings) -> Plan:
    """Dr or Cr clearing for the difference on the day; and back when the bank corrects it."""
    (name,) = point.named("entry")
    posted, line = books.transaction(name), statement_line(books, point.named("line")[0])
    account = account_of_line(books, line)
    clearing = books.with_role(AccountRole.CLEARING)
    if not clearing:
        raise MissingAccount("clearing", "a bank's error")
    own = next(x for x in posted.lines if x.account == account)
    missing = own.amount - line.amount
    code = clearing[0].code
    words = books.client.currency.format_amount(missing)
    days = [line.day]
    lines = [line]
    corrections = [statement_line(books, other) for other in point.named("correction")]
    # The bank may have put it right already, where the point does not say so: by hand, or later.
    if not corrections:
        corrections = lines_that_correct(books, account, line.day, missing)[:1]
    for other in corrections:
        lines.append(other)
        days.append(lines[-1].day)
    entries = []
    for number, day in enumerate(days, 1):
        amount = missing if number == 1 else -missing
        text = f"the bank's error of {words}" if number == 1 else "the bank's correction"
        entries.append(
            entry_of(
                new_entry(number), correction_date(books, day), EntryKind.CORRECTING, posted
            )._replace(
                party=None,
                lines=(
                    Line(1, code, amount, description=f"{name}: {text}"),
                    Line(2, account, -amount, description=f"{name}: {text}"),
                ),
                memo=f"{name}: {text}",
            )
        )
    rows = group_rows(
        "new-g1",
        account,
        [(name, own.number), (entries[0].id, 2)],
        [line.id],
        why="the bank's error, set aside on clearing",
    )
    if len(entries) == 2:
        why = "the bank's correction of its error"
        rows += group_rows("new-g2", account, [(entries[1].id, 2)], [lines[1].id], why=why)
    waits = "" if len(entries) == 2 else f"{words} waits on {clearing[0].name} for its correction"
    return Plan(
        kind=ChangeKind.CORRECTION,
        route=ROUTE.id,
        entries=tuple(entries),
        allocations=(),
        agreements=rows,
        proposed_reason=_reason(books, point),
        notes=(waits,)
        if waits
        else (f"{clearing[0].name} is nil again on {format_date(days[-1])}",),
        about=(),
    )
