"""cut-off: a document of one year posted in the other."""

import json
from collections.abc import Iterator

from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.points import Check, Family, Look, Point
from corkpost.core.refusals import said

CHECK = Check(
    "cut-off",
    family=Family.PERIODS,
    routes=("adjust", "ask", "leave", "waive"),
    finds="documents of one year posted in another",
    avoid="Date a document by the month in which the work was done or the goods came.",
)
PAPERS = frozenset(
    {
        TransactionKind.SALES_INVOICE,
        TransactionKind.SALES_CREDIT,
        TransactionKind.PURCHASE_BILL,
        TransactionKind.PURCHASE_CREDIT,
    }
)


def find(look: Look) -> Iterator[Point]:
    books = look.books
    calendar = books.calendar
    for posted in books.tables.transactions:
        paper = posted.document_date
        gone = books.is_answered(posted.id)
        if posted.kind not in PAPERS or paper is None or posted.change is not None or gone:
            continue
        of_paper, of_books = calendar.year_of(paper), calendar.year_of(posted.posting_date)
        if of_paper == of_books:
            continue
        own = [x for x in posted.lines if books.accounts[x.account].is_profit_and_loss]
        amount = sum(x.amount for x in own)
        if not amount:
            continue
        role = AccountRole.ACCRUAL if amount > 0 else AccountRole.PREPAYMENT
        other = next(iter(books.with_role(role)), None)
        on = calendar.first_open_day(of_paper.last_day if paper < posted.posting_date else paper)
        yield CHECK.point(
            books,
            subjects={"paper": (posted.id,)},
            amount=abs(amount),
            certainty=0.93,
            summary=(
                f"{posted.reference or posted.id} of {books.party_name(posted.party)} is dated "
                f"{said(paper)} and was posted on {said(posted.posting_date)}, in another year."
            ),
            short=f"{posted.reference or posted.id}, of {paper:%-d %b %Y}",
            because=(f"the paper belongs to {of_paper.label}, the posting to {of_books.label}",),
            hints={
                "lines": json.dumps(
                    [
                        *([x.account, x.amount, None] for x in own),
                        [other.code if other else "", -amount, None],
                    ]
                ),
                "date": on.isoformat(),
                "title": f"Bring it into {of_paper.label}",
                "reason": f"{posted.reference or posted.id} belongs to {of_paper.label}.",
            },
        )
