"""Receipts in hand, and card takings that are to come, to the list of them."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books
from corkpost.core.control_proof import Cause
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole
from corkpost.core.matching.receipts_in_hand import passed_through
from corkpost.core.tie_outs.accounts import balances_of, is_used
from corkpost.core.tie_outs.tie_out import Part, TieOut, account_part

ORDER = 2
ROLES = (AccountRole.UNBANKED, AccountRole.CARD_CLEARING)


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    for account in books.with_role(*ROLES):
        if not is_used(books, account, as_at):
            continue
        balance = balances_of(books, [account.code], as_at)[account.code]
        held, beyond = passed_through(books, account.code, as_at)
        causes = [
            Cause(
                f"{receipt.posted.id} of {format_date(receipt.day)} took out what was not there",
                -receipt.left,
                (receipt.posted.id,),
            )
            for receipt in beyond
        ]
        yield TieOut(
            id=f"in hand {account.code}",
            kind="in-hand",
            title=account.name,
            accounts=(account.code,),
            books=balance,
            outside=sum(receipt.left for receipt in held),
            of_books=(account_part(account.code, account.name, balance),),
            of_outside=tuple(
                Part(
                    f"{receipt.posted.memo or receipt.posted.id}, {receipt.day:%-d %b %Y}",
                    receipt.left,
                    transaction=receipt.posted.id,
                )
                for receipt in held
            ),
            causes=tuple(causes),
            evidence=("each receipt that was not banked yet",),
        )
