"""Payroll liabilities to the bureau's summaries, and to what was paid since."""

from collections.abc import Iterator
from datetime import date

from corkpost.core.books import Account, Books
from corkpost.core.kinds import AccountRole, TransactionKind
from corkpost.core.matching.payroll import summaries
from corkpost.core.payroll import payroll_months
from corkpost.core.tie_outs.accounts import balances_of, is_used
from corkpost.core.tie_outs.tie_out import Part, TieOut, account_part

ORDER = 8
PARTS = {
    AccountRole.PAYROLL_NET: "net pay",
    AccountRole.PAYROLL_TAX: "taxes and contributions owed",
}


def find(books: Books, as_at: date) -> Iterator[TieOut]:
    for role, part in PARTS.items():
        accounts = [account for account in books.with_role(role) if is_used(books, account, as_at)]
        if accounts:
            yield _proof(books, role, part, accounts, as_at)


def _proof(
    books: Books, role: AccountRole, part: str, accounts: list[Account], as_at: date
) -> TieOut:
    balances = balances_of(books, (account.code for account in accounts), as_at)
    proof = TieOut(
        id=role.value,
        kind="payroll",
        title=f"Payroll: {part}",
        accounts=tuple(balances),
        books=sum(balances.values()),
        outside=None,
        of_books=tuple(
            account_part(code, books.accounts[code].name, amount)
            for code, amount in balances.items()
        ),
        keyed=True,
    )
    told = [summary for summary in summaries(payroll_months(books)) if summary.month <= as_at]
    if not told:
        return proof._replace(lacks="No summary of the payroll bureau is known.")
    first = told[0].month.replace(day=1)
    brought, paid = 0, 0
    for code in balances:
        for posted, line in books.lines_on(code):
            if posted.posting_date > as_at:
                continue
            if posted.kind is TransactionKind.OPENING or posted.posting_date < first:
                brought += line.amount
            elif line.amount > 0:
                paid += line.amount
    owed = [Part(f"{summary.month:%B %Y}, the bureau's", summary.parts[part]) for summary in told]
    of_outside = (Part("brought forward", brought), *owed, Part("paid since", paid))
    return proof._replace(
        outside=sum(outside.amount for outside in of_outside),
        of_outside=tuple(outside for outside in of_outside if outside.amount),
        evidence=(f"the bureau's summaries of {len(told)} months",),
    )
