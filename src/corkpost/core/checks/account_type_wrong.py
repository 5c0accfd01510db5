"""account-type-wrong: a profit-and-loss account shown as a balance-sheet one, or the other way round."""

from collections.abc import Iterator

from corkpost.core.kinds import PROFIT_AND_LOSS
from corkpost.core.points import Check, CheckRun, Family, Point

CHECK = Check(
    "account-type-wrong",
    family=Family.PROOF,
    routes=("set-type", "ask", "leave"),
    finds="an account on the wrong statement",
    avoid=(
        "Ask us before you make a new account: income and costs belong on one statement, what"
        " the business owns and owes on the other."
    ),
)


def find(run: CheckRun) -> Iterator[Point]:
    books = run.books
    for account in books.tables.accounts:
        shown = account.expected_type
        if shown is None or (shown in PROFIT_AND_LOSS) == account.is_profit_and_loss:
            continue
        lines = list(books.lines_on(account.code))
        amount = sum(line.amount for _, line in lines)
        yield CHECK.point(
            books,
            subjects={},
            about={"account": (account.code,)},
            account=account.code,
            related=(lines[-1][0].id,) if lines else (),
            amount=amount,
            certainty=0.9,
            summary=(
                f"{account.code} {account.name} is taken as {account.type}; the client's own chart shows "
                f"it as {shown}."
            ),
            short=f"{account.code} {account.name}",
            because=("one belongs to profit, the other to the balance sheet",),
            hints={"type": shown},
        )
