"""Clearing and suspense at nil: what is left there passed through to nowhere."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books
from corkpost.core.control_proof import Cause
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole
from corkpost.core.matching.clearing import left_after_pairing
from corkpost.core.tie_outs.accounts import balances_of, is_used
from corkpost.core.tie_outs.tie_out import TieOut, account_part

ORDER = 9
ROLES = (AccountRole.CLEARING, AccountRole.SUSPENSE)


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    for account in books.with_role(*ROLES):
        if not is_used(books, account, as_at):
            continue
        balance = balances_of(books, [account.code], as_at)[account.code]
        left = left_after_pairing(books, account.code, as_at) if balance else []
        yield TieOut(
            id=f"nil {account.code}",
            kind="nil",
            title=account.name,
            accounts=(account.code,),
            books=balance,
            outside=0,
            of_books=(account_part(account.code, account.name, balance),),
            causes=tuple(
                Cause(
                    f"{posted.memo or posted.id}, {format_date(posted.posting_date)}, is left there",
                    amount,
                    (posted.id,),
                )
                for posted, amount in left
            ),
            evidence=("what passes through comes to nil",),
        )
