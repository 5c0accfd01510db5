"""Books with known faults, over seeds and styles, to measure the checks against.

What a check could lean on varies from seed to seed: how references look, account numbers, ids, the
language of memos, who is named on a payment, how dense the business is.
"""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from fractions import Fraction
from random import Random
from typing import NamedTuple

from corkpost.core.books import Books, Party
from corkpost.core.kinds import PROFIT_KEPT_ROLES, Entity, PartyKind
from corkpost.demo import coding_plants, plants, proof_plants, review_plants
from corkpost.demo.bookkeeper import Bookkeeper, Chart, Style
from corkpost.demo.client import Business, chart_of, parties_of
from corkpost.demo.habits import (
    Customer,
    Numbers,
    Supplier,
    buy,
    days,
    month_days,
    renumber_invoices,
    sell,
    sum_between,
)
from corkpost.demo.untidy import hands
from corkpost.demo.untidy.scene import Scene
from corkpost.demo.wording import REPORTED, TUNED

FIRST, LAST = date(2025, 1, 1), date(2026, 10, 31)
REPORTED_FROM = 100
"""Seeds from here on write otherwise: thresholds are set on those before."""
FILED, FILED_ON = date(2025, 12, 31), datetime(2026, 4, 9, 15, 20)

SUPPLIERS = (
    "Ashcombe Timber", "Bellrope Hire", "Cinderford Glass", "Dunlin Paper", "Eastlock Tools",
    "Farrow Electrical", "Greywater Plumbing", "Hazel Catering", "Inglenook Heating", "Jackstay Rope",
    "Kelp & Daughters", "Larkrise Seeds", "Moorhen Media", "Netloft Storage", "Osprey Air Freight",
)  # fmt: skip
CUSTOMERS = (
    "Albany Court", "Buckler Trust", "Copsewood Nursery", "Driftway Hotel", "Elmhurst Clinic",
    "Foxglove Weddings", "Gorse Hill Farm", "Holloway Theatre", "Ironstone Museum", "Juniper Lodge",
)  # fmt: skip


class Labelled(NamedTuple):
    """Books, and what was planted in them: check and the transactions that it is about."""

    books: Books
    faults: tuple[tuple[str, frozenset[str]], ...]


@dataclass(frozen=True)
class _Accounts:
    """The accounts of a chart, in one of several numberings."""

    codes: Mapping[str, str]

    def __getitem__(self, name: str) -> str:
        return self.codes[name]


_NAMES = (
    ("bank", "Bank", "asset", "bank"),
    ("receivables", "Customers", "asset", "receivables"),
    ("payables", "Suppliers", "liability", "payables"),
    ("tax", "Sales tax", "liability", "tax"),
    ("capital", "Capital", "equity", "capital"),
    ("sales", "Sales", "income", "sales"),
    ("other-income", "Other income", "income", ""),
    ("goods", "Goods", "expense", "cost-of-sales"),
    ("repairs", "Repairs", "expense", "repairs"),
    ("office", "Office", "expense", ""),
    ("rent", "Rent", "expense", ""),
    ("software", "Software", "expense", ""),
    ("accruals", "Accruals", "liability", "accrual"),
    ("fixtures", "Fixtures", "asset", "fixed-asset"),
    ("bad-debt", "Bad debts", "expense", "bad-debt"),
    ("wages", "Wages", "expense", "wages"),
    ("contributions", "Employer's contributions", "expense", "employer-contributions"),
    ("net-pay", "Net pay owed", "liability", "payroll-net"),
    ("pay-taxes", "Payroll taxes", "liability", "payroll-tax"),
    ("loan", "Loan", "liability", "loan"),
    ("interest", "Loan interest", "expense", "loan-interest"),
    ("leasing", "Vehicle leasing", "expense", ""),
    ("advertising", "Advertising", "expense", ""),
    ("stock", "Stock", "asset", "stock"),
    ("cash", "Cash box", "asset", "cash"),
)
_OWNERS = {
    Entity.SOLE_TRADER: (("drawings", "equity"), ("capital-introduced", "equity")),
    Entity.PARTNERSHIP: (("partner-current", "equity"),),
    Entity.COMPANY: (("owner-loan", "liability"), ("retained-earnings", "equity")),
    Entity.ASSOCIATION: (("member-payable", "liability"), ("accumulated-fund", "equity")),
}
"""The owners' accounts of each kind of entity: role and type."""
OWNER_NAMES = (
    ("Ada Merrow", "Tobias Merrow"), ("Ines Quill", "Jonas Quill"), ("Rufus Tallow", "Wilma Tallow"),
    ("Clara Bannerman", "Otto Bannerman"), ("Hedda Lark", "Silas Lark"),
)  # fmt: skip


def labelled(seed: int, density: int = 1, more: Callable[[Scene], None] | None = None) -> Labelled:
    """Books of about 700 transactions (times *density*) with 16 faults and as many look-alikes. *more*:
    what else happens in them."""
    rng = Random(f"labelled {seed}")
    digits = rng.choice((3, 4, 5))
    entity = tuple(Entity)[seed % 4]
    wrong = review_plants.wrong_account_of(entity)
    roles = [*_OWNERS[entity], *([(wrong, "equity")] if wrong not in dict(_OWNERS[entity]) else [])]
    names = (
        *_NAMES,
        *((role, role.replace("-", " ").title(), type_, role) for role, type_ in roles),
    )
    if entity is Entity.PARTNERSHIP:
        names = (*names, ("second current", "Partner Current 2", "equity", "partner-current"))
    if entity is Entity.COMPANY:
        names = (*names, ("second loan", "Second Director", "liability", "owner-loan"))
    codes = {name[0]: str((n + 1) * 10 ** (digits - 2)) for n, name in enumerate(names)}
    accounts = _Accounts(codes)
    wording = TUNED if seed < REPORTED_FROM else REPORTED
    style = Style(rng.choice(wording.ids), wording=wording)
    chart = Chart(*(codes[name] for name in ("bank", "receivables", "payables", "tax")))
    keeper = Bookkeeper(chart, rng, style)
    suppliers = _suppliers(keeper, accounts, density)
    customers = _customers(keeper, accounts, density)
    owners = rng.choice(OWNER_NAMES)[: 2 if entity is Entity.PARTNERSHIP else 1]
    numbers = Numbers("draft {:04d}", 0)
    for supplier in suppliers:
        buy(keeper, supplier, FIRST, LAST)
    for customer in customers:
        sell(keeper, customer, numbers, FIRST, LAST)
    gap = rng.randint(3, 18)
    _ordinary_money(keeper, accounts, gap)
    made = Business(
        code=f"L{seed}",
        name="Labelled",
        entity=entity,
        year_end=(12, 31),
        accounts=chart_of(
            "\n".join(
                f"{codes[n]} | {name} | {kind} | {role} | {_owner_of(n)}"
                for n, name, kind, role in names
            )
        ),
        parties=parties_of(suppliers, customers, _owners(owners)),
        keeper=keeper,
        books_from=FIRST,
        books_to=LAST,
        filed_through=FILED if seed // 4 % 2 else None,
        filed_on=FILED_ON if seed // 4 % 2 else None,
    )
    _plant(made, suppliers, customers, numbers, accounts)
    _look_alikes(made, suppliers, customers)
    _plant_review(made, customers, numbers, accounts, owners, wrong)
    _plant_coding(made, suppliers, accounts, gap)
    _plant_proof(made, suppliers, accounts)
    if more is not None:
        hand = hands.TUNED if seed < REPORTED_FROM else hands.REPORTED
        role = _OWNERS[entity][0][0]
        more(
            Scene(
                keeper, suppliers, customers, numbers, accounts.__getitem__, hand, FIRST, LAST,
                owners, accounts[role], made.planted,
            )
        )  # fmt: skip
    renumber_invoices(keeper, rng.choice(wording.own_forms), rng.randint(100, 4000))
    books, faults = made.books()
    return Labelled(books, faults)


def _owners(names: tuple[str, ...]) -> list[Party]:
    shares = (Fraction(60), Fraction(40)) if len(names) > 1 else (Fraction(100),)
    return [
        Party(f"O{number}", name, PartyKind.OWNER, shares[number - 1])
        for number, name in enumerate(names, 1)
    ]


def _owner_of(name: str) -> str:
    return {"partner-current": "O1", "second current": "O2"}.get(name, "")


def _plant_review(
    made: Business,
    customers: list[Customer],
    numbers: Numbers,
    accounts: _Accounts,
    owners: tuple[str, ...],
    wrong: str,
) -> None:
    """Faults about parties and owners, and what only looks like them."""
    keeper, planted, rng = made.keeper, made.planted, made.keeper.rng
    role = _OWNERS[made.entity][0][0]
    private = rng.choice(keeper.style.wording.households)
    house = review_plants.Household(
        names=owners,
        account=accounts[role],
        wrong_account=accounts[wrong],
        private=private[:4],
    )
    payer, other, early, slow, late, third, friend, planned = rng.sample(customers, 8)
    for named in (True, False):
        review_plants.wrong_party(keeper, planted, payer, other, numbers, _day(rng), named=named)
    for quoted in (True, False):
        review_plants.wrong_item(keeper, planted, early, numbers, _day(rng), quoted=quoted)
    for linked in (True, False):
        review_plants.journal_pair(keeper, planted, slow, _day(rng), linked=linked)
    for customer in (late, third):
        review_plants.doubtful(keeper, planted, customer, numbers, date(2026, 11, 16))
    review_plants.ordinary_owner(keeper, house, FIRST, LAST)
    for way in ("learned", "learned", "named", "cash"):
        cost = accounts[rng.choice(("office", "goods", "repairs"))]
        review_plants.owner_spending(keeper, planted, house, _day(rng), cost, way)
    for _ in range(2):
        income = accounts[rng.choice(("sales", "other-income"))]
        review_plants.owner_money_in(keeper, planted, house, _day(rng), income)
        review_plants.owner_account_kind(keeper, planted, house, _day(rng))
    if made.entity is Entity.COMPANY:
        planted.add("owner-loan-overdrawn", accounts["owner-loan"])
        planted.add("owner-loan-overdrawn", accounts["second loan"])
        for _ in range(2):
            gross = sum_between(rng, 20_000, 90_000)
            keeper.direct_payment(_day(rng), gross, accounts["second loan"], memo="director")
    review_plants.pays_for_another(keeper, friend, other, numbers, FIRST + timedelta(days=90))
    review_plants.oldest_first(keeper, friend, numbers, FIRST + timedelta(days=200))
    review_plants.payment_plan(keeper, planned, numbers, date(2026, 11, 16))
    review_plants.regular_counter(keeper, FIRST + timedelta(days=60), accounts["office"])


def _plant_coding(made: Business, suppliers: list[Supplier], accounts: _Accounts, gap: int) -> None:
    """Faults of coding, of the periods and of control accounts, and what only looks like them."""
    keeper, planted, rng = made.keeper, made.planted, made.keeper.rng
    often = [s for s in suppliers if not s.same_sum and s.every <= 30]
    taxed = [s for s in often if s.taxed]
    for supplier in rng.sample(often, 2):
        other = rng.choice([a for a in ("goods", "repairs", "office", "software")
                            if accounts[a] != supplier.account])  # fmt: skip
        coding_plants.unusual_account(keeper, planted, supplier, _day(rng), accounts[other])
    for supplier in rng.sample(taxed, 2):
        coding_plants.odd_tax(keeper, planted, supplier, _day(rng))
    for cost in ("office", "repairs"):
        coding_plants.lasting_thing(keeper, planted, _day(rng), accounts[cost], 50_000)
    for supplier in rng.sample(taxed, 2):
        coding_plants.of_last_year(keeper, planted, supplier, 2026)
    coding_plants.bare_journal(keeper, planted, _day(rng), accounts["sales"])
    months = rng.sample([date(2025, m, 1) for m in range(3, 13)], 6)
    for month, way in zip(
        months, ("never", "never", "wrong", "wrong", "right", "right"), strict=True
    ):
        coding_plants.accrual(keeper, planted, month, accounts["office"], accounts["accruals"], way)
    missing = list(month_days(FIRST, LAST, 2))[gap]
    planted.add("recurring-missing", accounts["rent"], f"{missing:%Y-%m}")


def _plant_proof(made: Business, suppliers: list[Supplier], accounts: _Accounts) -> None:
    """Faults of wages, loans and parties, of what should prove, and what only looks like them."""
    keeper, planted, rng = made.keeper, made.planted, made.keeper.rng
    often = [s for s in suppliers if not s.same_sum and len(s.name.split()) > 1]
    way = rng.choice(("form", "turned", "run together", "slip"))
    proof_plants.known_twice(made, rng.choice(often), _day(rng), way)
    proof_plants.only_alike(made, _day(rng), accounts["office"])
    bureau = proof_plants.Payroll(
        keeper, [accounts[n] for n in ("wages", "contributions", "net-pay", "pay-taxes")],
        rng.randint(40, 120) * 10_000, LAST,
    )  # fmt: skip
    months = list(month_days(FIRST, LAST, 1))
    wrong = dict(
        zip(rng.sample(range(4, len(months) - 4), 3), ("slip", "net", "taxes"), strict=True)
    )
    for place, month in enumerate(months):
        elsewhere = accounts[rng.choice(("wages", "office"))]
        bureau.month(planted, month, way=wrong.get(place, ""), elsewhere=elsewhere)
    made.payroll = tuple(bureau.summaries)
    lender = Party("LEND", rng.choice(proof_plants.LENDERS), PartyKind.LENDER)
    made.parties = (*made.parties, lender)
    pair = [accounts["loan"], accounts["interest"]]
    ways = rng.choice((("split", "cost"), ("split", "loan")))
    for year, done in zip((2025, 2026), ways, strict=True):
        proof_plants.loan(made, year, lender, pair, accounts["leasing"], done)
    proof_plants.moved(keeper, planted, accounts["advertising"], FIRST, LAST)
    proof_plants.stock_count(made, [accounts["stock"], accounts["capital"]], date(2026, 9, 30))
    proof_plants.cash_below_nil(made, accounts["cash"], accounts["office"], _day(rng))
    if made.filed_through is not None:
        late = date(2025, rng.randint(1, 12), rng.randint(1, 28))
        proof_plants.after_filing(made, accounts["office"], late)
        kept = next(a.code for a in made.accounts if a.role in PROFIT_KEPT_ROLES)
        proof_plants.opened_otherwise(made, accounts["bank"], kept)
    else:
        proof_plants.of_wrong_type(made, accounts["loan"] + "9", _day(rng))


def _suppliers(keeper: Bookkeeper, accounts: _Accounts, density: int) -> list[Supplier]:
    rng, wording = keeper.rng, keeper.style.wording
    made = []
    for number, name in enumerate(rng.sample(SUPPLIERS, 12)):
        low = rng.randint(3_000, 60_000)
        numbers = Numbers(
            rng.choice(wording.forms), rng.randint(90, 90_000), rng.choice((1, 2, 9, 60, 400))
        )
        made.append(
            Supplier(
                f"S{number:03d}",
                name,
                accounts[rng.choice(("goods", "repairs", "office"))],
                max(2, rng.choice((9, 14, 30, 30, 45)) // density),
                low,
                low * rng.randint(2, 5),
                numbers,
                taxed=rng.random() < 0.8,
                same_sum=number in (3, 7),
                memo=rng.choice(wording.paid),
            )
        )
    return made


def _customers(keeper: Bookkeeper, accounts: _Accounts, density: int) -> list[Customer]:
    rng, wording = keeper.rng, keeper.style.wording
    made = []
    for number, name in enumerate(rng.sample(CUSTOMERS, 8)):
        low = rng.randint(9_000, 80_000)
        every = max(2, rng.choice((12, 20, 30, 45)) // density)
        made.append(
            Customer(
                f"C{number:03d}",
                name,
                accounts["sales"],
                every,
                low,
                low * 3,
                memo=rng.choice(wording.paid),
            )
        )
    return made


def _ordinary_money(keeper: Bookkeeper, accounts: _Accounts, gap: int) -> None:
    """What comes and goes by itself; the rent of the month *gap* was never booked."""
    rng = keeper.rng
    for number, day in enumerate(month_days(FIRST, LAST, 2)):
        if number != gap:
            keeper.direct_payment(day, 95_000, accounts["rent"], memo="rent")
        keeper.direct_payment(day, 2_990, accounts["software"], memo="subscription", taxed=True)
    for day in days(rng, FIRST, LAST, 6, 3):
        keeper.direct_payment(
            day, sum_between(rng, 500, 19_000), accounts["office"], memo="card purchase", taxed=True
        )
    for day in days(rng, FIRST, LAST, 9, 4):
        keeper.direct_receipt(
            day, sum_between(rng, 2_000, 30_000), accounts["sales"], memo="counter", taxed=True
        )


def _day(rng: Random) -> date:
    """A day late enough for its papers to lie before it, early enough for what follows."""
    return FIRST + timedelta(days=rng.randint(70, 590))


def _plant(
    made: Business,
    suppliers: list[Supplier],
    customers: list[Customer],
    numbers: Numbers,
    accounts: _Accounts,
) -> None:
    keeper, planted, rng = made.keeper, made.planted, made.keeper.rng
    for distort in plants.DISTORTIONS:
        supplier = rng.choice([s for s in suppliers if not s.same_sum])
        day = _day(rng)
        gross = sum_between(rng, supplier.low, supplier.high)
        # A number of the day that it is from: a twin is measured against the supplier's sequence.
        reference = _number_of_day(keeper, supplier, day)
        bill = keeper.bill(
            supplier.code, day, gross, supplier.account, reference=reference, taxed=supplier.taxed
        )
        if rng.random() < 0.6:
            keeper.pay(supplier.code, day + timedelta(days=20), gross, [bill], memo=reference)
        plants.twice(keeper, planted, bill, distort)
    ordinary = [s for s in suppliers if not s.same_sum]
    for bills, named, taxed, kept_back in (
        (1, True, False, 0),
        (1, False, True, 0),
        (2, True, False, 0),
        (3, True, False, 0),
        (1, True, False, 20),
    ):
        plants.paid_direct(
            keeper, planted, rng.choice(ordinary), _day(rng), bills=bills, named=named,
            taxed=taxed, kept_back=kept_back, coded_to=accounts[rng.choice(("office", "goods"))],
        )  # fmt: skip
    plants.part_paid_direct(keeper, planted, rng.choice(ordinary), _day(rng), accounts["office"])
    for invoices, named in ((1, True), (1, False), (2, True)):
        plants.received_direct(
            keeper, planted, rng.choice(customers), numbers, _day(rng), invoices=invoices,
            named=named, coded_to=accounts[rng.choice(("sales", "other-income"))],
        )  # fmt: skip
    for invoices, receipts in ((1, 1), (2, 1), (1, 2)):
        plants.on_account(
            keeper,
            planted,
            rng.choice(customers),
            numbers,
            _day(rng),
            invoices=invoices,
            receipts=receipts,
        )
    plants.payment_on_account(keeper, planted, rng.choice(ordinary), _day(rng), bills=2)


def _number_of_day(keeper: Bookkeeper, supplier: Supplier, day: date) -> str:
    """A number of the supplier's that its documents before and after leave free."""
    mine = sorted(
        (
            t
            for t in keeper.transactions.values()
            if t.party == supplier.code and t.kind == "purchase-bill"
        ),
        key=lambda t: t.posting_date,
    )
    before = [t for t in mine if t.posting_date < day]
    if not before or supplier.numbers.jump == 1:
        return supplier.numbers.next(keeper.rng) if not before else f"{before[-1].reference}-2"
    reference = before[-1].reference or ""
    tail = reference[len(reference.rstrip("0123456789X-")) :]
    number = int("".join(sign for sign in tail if sign.isdigit()) or 0)
    return supplier.numbers.form.format(number + 1)


def _look_alikes(made: Business, suppliers: list[Supplier], customers: list[Customer]) -> None:
    keeper, rng = made.keeper, made.keeper.rng
    ordinary = [s for s in suppliers if not s.same_sum]
    for alike in (plants.same_price_same_day, plants.credited, plants.voided):
        for _ in range(2):
            supplier = rng.choice(ordinary)
            alike(keeper, supplier, _day(rng), sum_between(rng, supplier.low, supplier.high))
    for customer in rng.sample(customers, 2):
        plants.deposit(keeper, customer, LAST - timedelta(days=rng.randint(5, 40)))
    for supplier in rng.sample(ordinary, 3):
        plants.bought_at_the_counter(keeper, supplier, _day(rng), supplier.account)
