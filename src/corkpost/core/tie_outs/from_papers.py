"""Loans to the lender's figure, which only a paper of theirs proves."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole
from corkpost.core.schedules import schedules_of
from corkpost.core.tie_outs.accounts import balances_of, is_used
from corkpost.core.tie_outs.tie_out import TieOut, account_part

ORDER = 6


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    for account in books.with_role(AccountRole.LOAN):
        if is_used(books, account, as_at):
            balance = balances_of(books, [account.code], as_at)[account.code]
            yield TieOut(
                id=f"loan {account.code}",
                kind="loan",
                title=account.name,
                accounts=(account.code,),
                books=balance,
                outside=None,
                of_books=(account_part(account.code, account.name, balance),),
                lacks="The lender's figure is not known: key it from their statement.",
                keyed=True,
                evidence=tuple(_scheduled(books, account.code, as_at)),
            )


def _scheduled(books: Books, loan: str, as_at: date) -> Iterator[str]:
    """What the payments' schedule leaves, in words: it stands beside the lender's figure and proves
    nothing, for it was reckoned from the books."""
    for schedule in schedules_of(books):
        due = [step for step in schedule.steps if step.day <= as_at]
        if schedule.credit == loan and schedule.recipe == "loan-split" and due:
            words = books.client.currency.format_amount(due[-1].left)
            yield f"by its schedule {words} is left after the payment of {format_date(due[-1].day)}"
