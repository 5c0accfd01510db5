"""A check may take an account without a role for what it looks like: less surely, and figures never do."""

from dataclasses import replace

from corkpost.core.books import Account
from corkpost.core.chart.guessing import guesses
from corkpost.core.checks import as_said
from corkpost.core.evidence.account_kind import AS_SURE, TAKEN_FOR, assumed
from corkpost.core.kinds import AccountRole, AccountType
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.points import CheckRun
from tests.builders import CODES, TODAY, books_with, posted

RAISED = posted(
    "Dr office 100.00, Cr accruals 100.00", id="A1", on="2026-03-31", memo="power to come"
)


def called(name: str, role: AccountRole = AccountRole.ORDINARY):
    """Books with an accrual that nothing took back, on an account of that name."""
    books = books_with(RAISED)
    accounts = tuple(
        row._replace(name=name, role=role) if row.code == CODES["accruals"] else row
        for row in books.tables.accounts
    )
    return replace(books, tables=replace(books.tables, accounts=accounts))


def points(books):
    return [p for p in as_said(CheckRun(books, TODAY)) if p.check == "accrual-not-reversed"]


def test_an_accrual_is_seen_by_its_name_in_any_of_the_charts_languages_and_says_so():
    (sure,) = points(called("Accruals", AccountRole.ACCRUAL))
    for name in ("Accrued expenses", "Charges à payer", "Nog te betalen kosten"):
        (point,) = points(called(name))
        assert (point.id, point.certainty) == (sure.id, round(sure.certainty * AS_SURE, 4))
        assert "is taken for accrual" in point.against[-1]
        assert point.hint(TAKEN_FOR) == CODES["accruals"]
    assert points(called("Sundry balances")) == []


def test_no_figure_counts_what_an_account_only_looks_like():
    looks = called("Accrued expenses")
    found = assumed(looks)
    assert found is not None
    assert list(found[1]) == [CODES["accruals"]]
    assert looks.with_role(AccountRole.ACCRUAL) == ()
    assert looks.accounts[CODES["accruals"]].role is AccountRole.ORDINARY
    assert assumed(called("Accruals", AccountRole.ACCRUAL)) is None


def test_what_is_found_without_a_guess_is_as_sure_as_ever():
    (sure,) = points(called("Accruals", AccountRole.ACCRUAL))
    books = called("Accruals", AccountRole.ACCRUAL)
    stock = Account("1999", "Voorraad handelsgoederen", AccountType.ASSET)
    books = replace(books, tables=replace(books.tables, accounts=(*books.tables.accounts, stock)))
    with_guess = tuple(a for a in books.tables.accounts if a.role is not AccountRole.STOCK)
    books = replace(books, tables=replace(books.tables, accounts=with_guess))
    assert assumed(books) is not None
    assert points(books) == [sure]


def test_accounts_are_known_by_what_they_do_where_their_names_say_nothing():
    """Pay is paid at once, taxes later; what is set aside at a month's end comes off the day after."""
    rows = []
    for month in range(1, 6):
        end, day = f"2026-{month:02d}-28", f"2026-{month + 1:02d}"
        text = "Dr wages 1000.00, Cr net pay owed 700.00, Cr payroll tax 300.00"
        rows.append(posted(text, end, Kind.PAYROLL))
        rows.append(
            posted("Dr net pay owed 700.00, Cr bank 700.00", f"{day}-01", Kind.DIRECT_PAYMENT)
        )
        rows.append(
            posted("Dr payroll tax 300.00, Cr bank 300.00", f"{day}-19", Kind.DIRECT_PAYMENT)
        )
        if month in (1, 3):
            rows.append(posted("Dr office 50.00, Cr accruals 50.00", f"2026-{month:02d}-31"))
            rows.append(posted("Cr office 50.00, Dr accruals 50.00", f"{day}-01"))
    names = ("wages", "net pay owed", "payroll tax", "accruals")
    books = books_with(*rows)
    accounts = tuple(
        row._replace(name=f"No {row.code}", role=AccountRole.ORDINARY) if row.name in names else row
        for row in books.tables.accounts
    )
    books = replace(books, tables=replace(books.tables, accounts=accounts))
    found = {code: guess.role for code, guess in guesses(books).items()}
    assert found == {
        CODES["wages"]: AccountRole.WAGES,
        CODES["net pay owed"]: AccountRole.PAYROLL_NET,
        CODES["payroll tax"]: AccountRole.PAYROLL_TAX,
        CODES["accruals"]: AccountRole.ACCRUAL,
    }
