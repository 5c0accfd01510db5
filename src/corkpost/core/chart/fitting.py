"""Which roles go with which types of account: what is refused, and what is guessed, goes by it."""

from collections.abc import Mapping

from corkpost.core.kinds import AccountRole, AccountType

ASSET = frozenset({AccountType.ASSET})
LIABILITY = frozenset({AccountType.LIABILITY})
OWED_EITHER_WAY = ASSET | LIABILITY
LASTING = OWED_EITHER_WAY | {AccountType.EQUITY}
INCOME = frozenset({AccountType.INCOME})
EXPENSE = frozenset({AccountType.EXPENSE})

FITTING: Mapping[AccountRole, frozenset[AccountType]] = {
    AccountRole.ORDINARY: frozenset(AccountType),
    AccountRole.BANK: OWED_EITHER_WAY,
    AccountRole.CASH: ASSET,
    AccountRole.RECEIVABLES: ASSET,
    AccountRole.PAYABLES: LIABILITY,
    AccountRole.CREDIT_CARD: OWED_EITHER_WAY,
    AccountRole.CARD_CLEARING: OWED_EITHER_WAY,
    AccountRole.UNBANKED: ASSET,
    AccountRole.CLEARING: OWED_EITHER_WAY,
    AccountRole.SUSPENSE: OWED_EITHER_WAY,
    AccountRole.STOCK: ASSET,
    AccountRole.FIXED_ASSET: ASSET,
    AccountRole.ACCUMULATED_DEPRECIATION: OWED_EITHER_WAY,
    AccountRole.PREPAYMENT: ASSET,
    AccountRole.ACCRUAL: LIABILITY,
    AccountRole.DEFERRED_INCOME: LIABILITY,
    AccountRole.TAX: OWED_EITHER_WAY,
    AccountRole.PAYROLL_NET: OWED_EITHER_WAY,
    AccountRole.PAYROLL_TAX: OWED_EITHER_WAY,
    AccountRole.LOAN: OWED_EITHER_WAY,
    AccountRole.OWNER_LOAN: LASTING,
    AccountRole.CAPITAL: LASTING,
    AccountRole.CAPITAL_INTRODUCED: LASTING,
    AccountRole.DRAWINGS: LASTING,
    AccountRole.PARTNER_CURRENT: LASTING,
    AccountRole.APPROPRIATION: LASTING,
    AccountRole.DIVIDENDS: LASTING,
    AccountRole.RETAINED_EARNINGS: LASTING,
    AccountRole.ACCUMULATED_FUND: LASTING,
    AccountRole.MEMBER_PAYABLE: LASTING,
    AccountRole.PRESENTATION: OWED_EITHER_WAY,
    AccountRole.OPENING: LASTING,
    AccountRole.SALES: INCOME,
    AccountRole.COST_OF_SALES: EXPENSE,
    AccountRole.WAGES: EXPENSE,
    AccountRole.DIRECTOR_PAY: EXPENSE,
    AccountRole.EMPLOYER_CONTRIBUTIONS: EXPENSE,
    AccountRole.BAD_DEBT: EXPENSE,
    AccountRole.BANK_CHARGES: EXPENSE,
    AccountRole.LOAN_INTEREST: EXPENSE,
    AccountRole.DEPRECIATION: EXPENSE,
    AccountRole.EXCHANGE_DIFFERENCE: INCOME | EXPENSE,
    AccountRole.REPAIRS: EXPENSE,
    AccountRole.INTER_BRANCH: OWED_EITHER_WAY,
    AccountRole.PRIVATE: frozenset(AccountType),
}
"""The types that an account of each role can have."""


def fits(role: AccountRole, type_: AccountType) -> bool:
    """Whether an account of that type can have that role."""
    return type_ in FITTING[role]
