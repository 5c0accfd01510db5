"""Loans to the lender's figure, which only a paper of theirs proves."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books
from corkpost.core.kinds import AccountRole
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
            )
