"""What only a paper from outside proves: loans to the lender's figure, fixed assets to their register."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Books
from corkpost.core.kinds import AccountRole
from corkpost.core.tie_outs.accounts import balances_of, is_used, parts_of
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
    roles = (AccountRole.FIXED_ASSET, AccountRole.ACCUMULATED_DEPRECIATION)
    assets = [own for own in books.with_role(*roles) if is_used(books, own, as_at)]
    if assets:
        balances = balances_of(books, (own.code for own in assets), as_at)
        yield TieOut(
            id="fixed-assets",
            kind="fixed-assets",
            title="Fixed assets, less depreciation",
            accounts=tuple(balances),
            books=sum(balances.values()),
            outside=None,
            of_books=parts_of(books, balances),
            lacks="The register's carrying amounts are not known: key their sum from the list.",
            keyed=True,
        )
