"""What was expected and has come with a statement: recorded and agreed without being asked for."""

from corkpost.core.bank.expected import corrections_come, plan_correction
from corkpost.core.books import Books
from corkpost.core.change import Plan
from corkpost.core.refusals import NothingToDo, Refusal
from corkpost.services.posting import PostRequest, post
from corkpost.services.rights import May, Person
from corkpost.services.workplace import ClientState, Workplace


def settle_expected(
    workplace: Workplace, person: Person, client_code: str
) -> tuple[tuple[str, str], ...]:
    """Record the bank's corrections that have come, each a change of its own that can be taken back;
    account and, in words, what was done. What may not be posted now stays a review point."""
    if not person.may(May.POST):
        return ()
    done = []
    books = workplace.ledger(person, client_code).books
    for expected in corrections_come(books):

        def plan(ledger: ClientState, line: str = expected.line.id) -> Plan:
            return _plan_for(ledger.books, line)

        try:
            posted = post(workplace, person, client_code, plan, PostRequest(""), says_why=True)
        except Refusal:
            continue
        (entry,) = posted.entries
        done.append((expected.account, f"{entry.reason} Agreed with {entry.id}."))
    return tuple(done)


def _plan_for(books: Books, line: str) -> Plan:
    for expected in corrections_come(books):
        if expected.line.id == line:
            return plan_correction(books, expected)
    raise NothingToDo("That correction is dealt with already.")
