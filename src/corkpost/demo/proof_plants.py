"""Faults of wages, loans, parties and of what should prove, and look-alikes that are none."""

from collections.abc import Sequence
from datetime import date, timedelta

from corkpost.core.books import Account, Party, PayrollMonth, StockItem
from corkpost.core.kinds import AccountType, PartyKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import Minor
from corkpost.core.periods import month_end
from corkpost.demo.bookkeeper import Bookkeeper
from corkpost.demo.client import Business
from corkpost.demo.habits import Numbers, Supplier, days, month_days, sum_between
from corkpost.demo.plants import Planted

PERSONS = (
    ("Edith Marsh", "Jonas Marsh"),
    ("Ludo Farr", "Lida Farr"),
    ("Anna Kestle", "Nora Kestle"),
)
BRANCHES = (("Saltpan Depot 1", "Saltpan Depot 4"), ("Averin Garage North", "Averin Garage South"))
LENDERS = ("Averin Finance", "Hafenbank Kredit", "Banque du Quai", "Lighthouse Leasing")


def known_twice(made: Business, supplier: Supplier, on: date, way: str) -> None:
    """A supplier that somebody set up anew under nearly the same name, with two bills."""
    rng = made.keeper.rng
    code = f"{supplier.code}X"
    made.parties = (*made.parties, Party(code, _near(rng.random(), supplier.name, way),
                                         PartyKind.SUPPLIER))  # fmt: skip
    for place in range(2):
        day = on + timedelta(days=31 * place)
        gross = sum_between(rng, supplier.low, supplier.high)
        bill = made.keeper.bill(
            code, day, gross, supplier.account, reference=supplier.numbers.next(rng),
            taxed=supplier.taxed,
        )  # fmt: skip
        made.keeper.pay(code, day + timedelta(days=21), gross, [bill])
    made.planted.add("duplicate-party", supplier.code, code)


def _near(chance: float, name: str, way: str) -> str:
    words = name.split()
    if way == "form":
        return f"{name} Ltd"
    if way == "turned":
        return f"{words[-1]}, {' '.join(words[:-1])}"
    if way == "run together":
        return name.replace(" ", "", 1)
    longest = max(words, key=len)
    place = 1 + int(chance * (len(longest) - 3))
    slipped = longest[:place] + longest[place + 1] + longest[place] + longest[place + 2 :]
    return name.replace(longest, slipped if slipped != longest else longest[:-1])


def only_alike(made: Business, on: date, cost: str) -> None:
    """Two of one surname, two branches: each sends bills of its own kind."""
    rng = made.keeper.rng
    names = (*rng.choice(PERSONS), *rng.choice(BRANCHES))
    for place, name in enumerate(names):
        code = f"N{place}"
        numbers = Numbers(f"{name[0]}{place}-{{:04d}}", 100 * place + 7, 3)
        made.parties = (*made.parties, Party(code, name, PartyKind.SUPPLIER))
        for month in range(2):
            day = on + timedelta(days=40 * month + place)
            gross = sum_between(rng, 4_000, 30_000)
            bill = made.keeper.bill(code, day, gross, cost, reference=numbers.next(rng))
            made.keeper.pay(code, day + timedelta(days=15), gross, [bill])


class Payroll:
    """A bureau that pays the wages: journals, payments, summaries; and what goes wrong with them."""

    def __init__(
        self, books: Bookkeeper, accounts: Sequence[str], gross: Minor, last: date
    ) -> None:
        self.books, self.gross, self.last = books, gross, last
        self.wages, self.employer, self.net, self.taxes = accounts
        self.summaries: list[PayrollMonth] = []

    def month(
        self, planted: Planted, first: date, *, way: str = "", elsewhere: str | None = None
    ) -> None:
        """One month. *way*: `slip` in the journal, `net` or `taxes` paid and coded *elsewhere*."""
        rng = self.books.rng
        gross = self.gross + rng.randint(-20, 20) * 1_000
        employer, tax, own = gross * 11 // 100, gross * 17 // 100, gross * 8 // 100
        net = gross - tax - own
        end = month_end(first.year, first.month, 31)
        label = f"{first:%Y-%m}"
        self.summaries.append(PayrollMonth(label, None, gross, employer, net, tax, own, 0))
        slip = 900 * rng.randint(1, 9) if way == "slip" else 0
        journal = self.books.add(
            Kind.PAYROLL,
            end,
            [
                (self.wages, gross - slip),
                (self.employer, employer),
                (self.net, -net),
                (self.taxes, net + slip - gross - employer),
            ],
            memo=rng.choice(self.books.style.wording.pay) + f" {first:%B}",
            source="payroll",
        )
        if slip:
            planted.add("payroll-disagrees", journal, label)
        owed = gross + employer - net - slip
        for name, account, amount, after in (
            ("net", self.net, net, rng.randint(0, 3)),
            ("taxes", self.taxes, owed, 20),
        ):
            if end + timedelta(days=after) > self.last:
                continue
            coded = elsewhere if way == name and elsewhere else account
            memo = rng.choice(self.books.style.wording.pay)
            paid = self.books.direct_payment(
                end + timedelta(days=after), amount, coded, memo=f"{memo} {first:%m}"
            )
            if coded != account:
                planted.add("payroll-not-cleared", paid, journal, account)


def loan(
    made: Business, year: int, lender: Party, accounts: Sequence[str], coded: str, way: str
) -> None:
    """Twelve instalments: all in cost, all in the loan, or split as they should be."""
    keeper = made.keeper
    loan_account, interest = accounts
    amount = keeper.rng.randint(180, 900) * 100
    kept = {"cost": coded, "loan": loan_account}.get(way)
    for place, day in enumerate(
        month_days(date(year, 1, 1), min(date(year, 12, 31), made.books_to), 5)
    ):
        memo = f"DD {lender.name.upper()}"
        if kept:
            keeper.direct_payment(day, amount, kept, memo=memo)
        else:
            part = amount * (20 - place) // 200
            keeper.add(
                Kind.DIRECT_PAYMENT, day,
                [(loan_account, amount - part), (interest, part), (keeper.chart.bank, -amount)],
                memo=memo, source="feed",
            )  # fmt: skip
    if kept:
        made.planted.add("loan-repayment-as-cost", kept, str(year), lender.code)


def moved(books: Bookkeeper, planted: Planted, account: str, first: date, last: date) -> None:
    """A cost that is several times last year's."""
    for day in days(books.rng, first, last, 20, 5):
        amount = sum_between(books.rng, 30_000, 60_000) * (4 if day.year == last.year else 1)
        books.direct_payment(day, amount, account, memo="press and posters", taxed=True)
    planted.add("movement", account, str(last.year))


def stock_count(made: Business, accounts: Sequence[str], on: date) -> None:
    """Stock that the business began with, and a count that has less of it."""
    stock, capital = accounts
    rng = made.keeper.rng
    value = rng.randint(2_000, 9_000) * 100
    first = made.books_from - timedelta(days=1)
    made.keeper.add(
        Kind.OPENING, first, [(stock, value), (capital, -value)], memo="brought forward",
        source="journal",
    )  # fmt: skip
    short = rng.randint(20, 400) * 100
    made.stock = (StockItem(on, "all", "1", str(value - short), value - short),)
    made.planted.add("stock-disagrees", stock)


def cash_below_nil(made: Business, cash: str, cost: str, on: date) -> None:
    """A cash box that more left than came in."""
    keeper = made.keeper
    keeper.add(
        Kind.TRANSFER, on, [(cash, 20_000), (keeper.chart.bank, -20_000)], memo="to the cash box",
        source="bank",
    )  # fmt: skip
    for place in range(3):
        amount = sum_between(keeper.rng, 9_000, 16_000)
        keeper.add(
            Kind.DIRECT_PAYMENT, on + timedelta(days=9 * place + 3), [(cost, amount), (cash, -amount)],
            memo="from the box", source="cash",
        )  # fmt: skip
    made.planted.add("balance-wrong-side", cash)


def of_wrong_type(made: Business, code: str, on: date) -> None:
    """A cost that the client's own chart shows as one, taken in as an asset."""
    odd = Account(code, "Boat hire", AccountType.ASSET, expected_type=AccountType.EXPENSE)
    made.accounts = (*made.accounts, odd)
    for place in range(3):
        amount = sum_between(made.keeper.rng, 4_000, 9_000)
        made.keeper.direct_payment(on + timedelta(days=30 * place), amount, code, memo="boat hire")
    made.planted.add("account-type-wrong", code)


def after_filing(made: Business, cost: str, on: date) -> None:
    """A cost of the filed year that was keyed after it was filed."""
    keeper = made.keeper
    assert made.filed_on is not None
    name = keeper.direct_payment(
        on, sum_between(keeper.rng, 3_000, 30_000), cost, memo="late paper"
    )
    late = made.filed_on + timedelta(days=keeper.rng.randint(2, 90), hours=1)
    keeper.transactions[name] = keeper.transactions[name]._replace(entered_at=late)
    made.planted.add("entered-late", name)


def opened_otherwise(made: Business, account: str, kept: str) -> None:
    """A signed trial balance that has another figure than the books begin with."""
    amount = made.keeper.rng.randint(10, 900) * 100
    made.signed_apart = ((account, amount), (kept, -amount))
    made.planted.add("opening-disagrees", account)
