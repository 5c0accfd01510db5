"""owner-account-kind: owner entries on an account that does not fit the kind of entity; where there are
many, the account itself, as one point."""

from collections import defaultdict
from collections.abc import Iterator, Sequence

from corkpost.core.books import Books, Line, Transaction
from corkpost.core.evidence.account_kind import TAKEN_FOR
from corkpost.core.kinds import MONEY_ROLES, OWNER_ROLES, Entity, TransactionKind
from corkpost.core.owners import OWNERS_HAVE
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "owner-account-kind",
    family=Family.OWNERS,
    routes=("to-owner", "ask", "leave", "waive"),
    finds="owner entries on an account that the entity does not have",
    avoid="Money of the owner's goes to the one account that we named for it.",
)
MANY = 8
"""So many entries have one cause: what the account is taken for."""


def find(run: CheckRun) -> Iterator[Point]:
    by_account: dict[str, list[tuple[Transaction, Line]]] = defaultdict(list)
    for posted, line in unfit_entries(run.books, run.books.client.entity):
        by_account[line.account].append((posted, line))
    for code, rows in by_account.items():
        if len(rows) > MANY:
            yield _all_of_it(run, code, rows)
        else:
            yield from (_point(run, posted, line) for posted, line in rows)


def _all_of_it(run: CheckRun, code: str, rows: Sequence[tuple[Transaction, Line]]) -> Point:
    books = run.books
    account = books.accounts[code]
    entity = books.client.entity.replace("-", " ")
    article = "an" if entity[0] in "aeiou" else "a"
    return CHECK.on_account(
        books,
        code,
        (posted for posted, _ in rows),
        amount=sum(line.amount for _, line in rows),
        certainty=0.9,
        summary=(
            f"{len(rows)} entries of the owners' stand on {account.name}; {article} {entity} has no such "
            "account for its owners."
        ),
        short=f"{account.name}, {len(rows)} entries",
        because=(f"the role {account.role.replace('-', ' ')} does not go with {article} {entity}",),
        against=("so many entries say that it is what the account is taken for that is wrong",),
        hints={TAKEN_FOR: code},
        routes=("ask", "leave", "waive"),
    )


def unfit_entries(books: Books, entity: Entity) -> Iterator[tuple[Transaction, Line]]:
    """The received entries on owners' accounts that such an entity does not have, with the line."""
    unfit = {
        account.code
        for account in books.tables.accounts
        if account.role in OWNER_ROLES and account.role not in OWNERS_HAVE[entity]
    }
    if not unfit:
        return
    named = {posted.id: posted for code in sorted(unfit) for posted in books.on_account(code)}
    for posted in named.values():
        gone = books.is_answered(posted.id)
        made = posted.kind in (TransactionKind.OPENING, TransactionKind.CLOSING)
        if made or gone or posted.change is not None:
            continue
        lines = [line for line in posted.lines if line.account in unfit]
        if lines:
            yield posted, lines[0]


def _point(run: CheckRun, posted: Transaction, line: Line) -> Point:
    books = run.books
    account = books.accounts[line.account]
    entity = books.client.entity.replace("-", " ")
    money = sum(x.amount for x in posted.lines if books.accounts[x.account].role in MONEY_ROLES)
    goes_out = books.client.entity is Entity.ASSOCIATION and money < 0
    return CHECK.point(
        books,
        subjects={"owner": (posted.id,)},
        amount=abs(line.amount),
        certainty=0.96,
        summary=(
            f"{posted.memo or posted.id} of {posted.posting_date:%-d %B %Y} stands on {account.name}; "
            f"a {entity} has no such account for its owners."
        ),
        short=f"{posted.memo or posted.id}, on {account.name}",
        because=(f"the role {account.role.replace('-', ' ')} does not go with a {entity}",),
        # Nobody may take money of an association: what it was is asked for.
        routes=("ask", "leave", "waive") if goes_out else None,
        hints={"owner": account.owner or ""},
    )
