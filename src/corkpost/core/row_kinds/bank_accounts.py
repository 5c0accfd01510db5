"""The bank accounts that the books list, with holder and identifier."""

from corkpost.core.books import BankAccount
from corkpost.core.row_kinds import RowKind

KIND = RowKind("bank_accounts", 1, BankAccount, key=lambda row: [row.account])
