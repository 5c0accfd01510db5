"""What accounts are by their names alone."""

import pytest

from corkpost.core.chart.trade_words import by_name
from corkpost.core.kinds import AccountType

SAID = """
Director's current account | liability owner-loan
Loan from director | liability owner-loan
Partner A - current account | equity partner-current
Motor vehicles | asset fixed-asset
Motor vehicles depn | asset accumulated-depreciation
Depreciation of motor vehicles | expense depreciation
Bank charges & interest | expense bank-charges
Frais de banque | expense bank-charges
Comisiones banco | expense bank-charges
Kontoführungsgebühren | expense bank-charges
Interest on overdraft | expense loan-interest
Zinsaufwendungen für Darlehen | expense loan-interest
Intérêts d'emprunt | expense loan-interest
Darlehen Volksbank | liability loan
TVA sur achats | liability tax
Erlöse 19% USt | income sales
Sales ledger | asset receivables
Accounts payable | liability payables
Wages payable | liability payroll-net
Employer's NI | expense employer-contributions
URSSAF | liability payroll-tax
Charges patronales | expense employer-contributions
Prepaid insurance | asset prepayment
Rent receivable | income
Rent deposit | asset
Reparatur Maschinen | expense repairs
Steuerrückstellungen | liability accrual
Privat Brandt | equity drawings
Consultancy fees income | income sales
Ladenmiete | expense
Zinsen für Darlehen | expense loan-interest
Abschreibungen Maschinen kumuliert | asset accumulated-depreciation
Löhne und Gehälter zu zahlen | liability payroll-net
Lohnsteuer und Sozialabgaben zu zahlen | liability payroll-tax
Leasing Transporter | expense
Lease liabilities | liability
Erlöse Reparaturen | income sales
Tagesgeldkonto | asset bank
"""


@pytest.mark.parametrize("line", SAID.strip().splitlines())
def test_a_word_that_governs_others_says_what_an_account_is(line):
    name, _, said = line.partition(" | ")
    found = by_name(name)
    assert found is not None
    assert " ".join(filter(None, (found.type, found.role))) == said


def test_a_name_speaks_for_nothing_that_the_account_s_type_can_t_be():
    assert by_name("Wages") is not None
    assert by_name("Wages", frozenset({AccountType.LIABILITY})) is None
    assert by_name("Zephyr") is None
