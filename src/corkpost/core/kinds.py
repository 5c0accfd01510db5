"""The lists of the trade: what an entity, account, party, transaction or entry can be.

The values are the words of the books folder, so that a value read is a value written.
"""

from enum import StrEnum


class Entity(StrEnum):
    SOLE_TRADER = "sole-trader"
    PARTNERSHIP = "partnership"
    COMPANY = "company"
    ASSOCIATION = "association"


class AccountType(StrEnum):
    ASSET = "asset"
    LIABILITY = "liability"
    EQUITY = "equity"
    INCOME = "income"
    EXPENSE = "expense"


PROFIT_AND_LOSS = frozenset({AccountType.INCOME, AccountType.EXPENSE})


class AccountRole(StrEnum):
    """What an account does for the business; ORDINARY where nothing special."""

    ORDINARY = ""
    BANK = "bank"
    CASH = "cash"
    RECEIVABLES = "receivables"
    PAYABLES = "payables"
    CREDIT_CARD = "credit-card"
    CARD_CLEARING = "card-clearing"
    UNBANKED = "unbanked"
    CLEARING = "clearing"
    SUSPENSE = "suspense"
    STOCK = "stock"
    FIXED_ASSET = "fixed-asset"
    ACCUMULATED_DEPRECIATION = "accumulated-depreciation"
    PREPAYMENT = "prepayment"
    ACCRUAL = "accrual"
    DEFERRED_INCOME = "deferred-income"
    TAX = "tax"
    PAYROLL_NET = "payroll-net"
    PAYROLL_TAX = "payroll-tax"
    LOAN = "loan"
    OWNER_LOAN = "owner-loan"
    CAPITAL = "capital"
    CAPITAL_INTRODUCED = "capital-introduced"
    DRAWINGS = "drawings"
    PARTNER_CURRENT = "partner-current"
    APPROPRIATION = "appropriation"
    DIVIDENDS = "dividends"
    RETAINED_EARNINGS = "retained-earnings"
    ACCUMULATED_FUND = "accumulated-fund"
    MEMBER_PAYABLE = "member-payable"
    PRESENTATION = "presentation"
    OPENING = "opening"
    SALES = "sales"
    COST_OF_SALES = "cost-of-sales"
    WAGES = "wages"
    DIRECTOR_PAY = "director-pay"
    EMPLOYER_CONTRIBUTIONS = "employer-contributions"
    BAD_DEBT = "bad-debt"
    BANK_CHARGES = "bank-charges"
    LOAN_INTEREST = "loan-interest"
    DEPRECIATION = "depreciation"
    EXCHANGE_DIFFERENCE = "exchange-difference"
    REPAIRS = "repairs"
    INTER_BRANCH = "inter-branch"
    PRIVATE = "private"


CONTROL_ROLES = frozenset({AccountRole.RECEIVABLES, AccountRole.PAYABLES})
OWNER_ROLES = frozenset(
    {
        AccountRole.OWNER_LOAN,
        AccountRole.CAPITAL,
        AccountRole.CAPITAL_INTRODUCED,
        AccountRole.DRAWINGS,
        AccountRole.PARTNER_CURRENT,
        AccountRole.MEMBER_PAYABLE,
    }
)
PROFIT_KEPT_ROLES = frozenset(
    {
        AccountRole.CAPITAL,
        AccountRole.PARTNER_CURRENT,
        AccountRole.RETAINED_EARNINGS,
        AccountRole.ACCUMULATED_FUND,
    }
)
"""Where the profit of earlier years is kept, by the kind of entity."""
PASSED_THROUGH_ROLES = frozenset(
    {AccountRole.UNBANKED, AccountRole.CARD_CLEARING, AccountRole.CLEARING, AccountRole.SUSPENSE}
)
"""Where what comes goes on again: nothing is meant to stay there."""
MONEY_ROLES = frozenset({AccountRole.BANK, AccountRole.CASH, AccountRole.CREDIT_CARD})
"""Where business money is kept or owed: a payment or receipt has one of these on one side."""


class PartyKind(StrEnum):
    CUSTOMER = "customer"
    SUPPLIER = "supplier"
    EMPLOYEE = "employee"
    OWNER = "owner"
    LENDER = "lender"
    TAX_AUTHORITY = "tax-authority"
    OTHER = "other"


class TaxKind(StrEnum):
    STANDARD = "standard"
    REDUCED = "reduced"
    ZERO = "zero"
    EXEMPT = "exempt"
    OUTSIDE = "outside"


class TransactionKind(StrEnum):
    OPENING = "opening"
    SALES_INVOICE = "sales-invoice"
    SALES_CREDIT = "sales-credit"
    CUSTOMER_RECEIPT = "customer-receipt"
    CUSTOMER_REFUND = "customer-refund"
    PURCHASE_BILL = "purchase-bill"
    PURCHASE_CREDIT = "purchase-credit"
    SUPPLIER_PAYMENT = "supplier-payment"
    SUPPLIER_REFUND = "supplier-refund"
    BANKING = "banking"
    TRANSFER = "transfer"
    DIRECT_RECEIPT = "direct-receipt"
    DIRECT_PAYMENT = "direct-payment"
    TAKINGS = "takings"
    PAYROLL = "payroll"
    JOURNAL = "journal"
    CLOSING = "closing"
    REVALUATION = "revaluation"


class EntryKind(StrEnum):
    """The kinds of entry that the accountant makes (handbook, section 8)."""

    CORRECTING = "correcting"
    ADJUSTING = "adjusting"
    REVERSING = "reversing"
    RECLASSIFYING = "reclassifying"
    CLOSING = "closing"


class StatementFormat(StrEnum):
    CSV = "csv"
    OFX = "ofx"
    CAMT053 = "camt053"
    MT940 = "mt940"


class PeriodState(StrEnum):
    """Who may post in a period."""

    OPEN = "open"
    HELD = "held"
    BARRED = "barred"


class MayChange(StrEnum):
    """What the letter of engagement lets the practice do to the client's own rows."""

    FREELY = "freely"
    ASKED = "asked"


class Role(StrEnum):
    PREPARER = "preparer"
    REVIEWER = "reviewer"
    PARTNER = "partner"
