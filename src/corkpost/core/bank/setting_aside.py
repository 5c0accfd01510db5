"""Setting a statement aside that should not have been taken in: when nothing rests on it any more."""

from corkpost.core.bank.sides import bank_sides
from corkpost.core.books import Books
from corkpost.core.formatting import format_date
from corkpost.core.refusals import Refusal


class InUse(Refusal):
    title = "That statement is in use"


def refuse_in_use(books: Books, numbers: frozenset[int]) -> None:
    """Raise InUse while a line of these statements is agreed or finished, or a later one leans on them."""
    mine = [statement for statement in books.statements if statement.number in numbers]
    for statement in mine:
        name = f"the statement of {statement.account} to {format_date(statement.last_day)}"
        sides = bank_sides(books, statement.account)
        agreed = sum(line.id in sides.group_of_line for line in statement.lines)
        if any(done.statement == statement.number for done in books.finished):
            raise InUse(f"The reconciliation of {name} is finished. Reopen it first.")
        if agreed:
            lines = "1 line is" if agreed == 1 else f"{agreed} lines are"
            raise InUse(f"Of {name} {lines} agreed. Take that apart first.")
        later = [
            other
            for other in books.statements
            if other.account == statement.account
            and other.number > statement.number
            and other.number not in numbers
            and other.first_day <= statement.last_day
        ]
        if later:
            raise InUse(
                f"The statement to {format_date(later[-1].last_day)} was taken in after {name} "
                "and left out "
                "the lines that were there already. Set that one aside first."
            )
