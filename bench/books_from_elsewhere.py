"""Books of another shape, with known faults: nothing in the checks was set on them.

They share no code, phrase, chart or habit with the demo's: six trades, keyed by hand or from the bank's
lines, with papers on three lines, settled oldest first, exactly, or in lumps. A fault is labelled by the
entries that tell it.
"""

from collections.abc import Callable, Iterable
from dataclasses import dataclass, field
from datetime import date, datetime, time, timedelta
from fractions import Fraction
from random import Random
from typing import NamedTuple

from corkpost.core.books import (
    Account,
    AgreementRow,
    Allocation,
    Books,
    ClientFacts,
    Line,
    Party,
    PayrollMonth,
    PriorBalance,
    StockItem,
    Tables,
    Tax,
    Transaction,
)
from corkpost.core.kinds import AccountRole, AccountType, Entity, PartyKind, TaxKind
from corkpost.core.kinds import TransactionKind as Kind
from corkpost.core.money import Currency, tax_within
from corkpost.core.periods import Calendar, month_end
from corkpost.core.statements import Statement, StatementLine

BEGINS, ENDS, TODAY = date(2025, 7, 1), date(2026, 9, 30), date(2026, 11, 16)
RATE = Fraction(20)
Sides = list[tuple[str, int] | tuple[str, int, str | None]]


class Trade(NamedTuple):
    """One client. *chart*: names of accounts by what they do here. *roles*: whether its program knows what
    accounts are for. *settles*: `exact`, `oldest` or `lumps`."""

    name: str
    entity: Entity
    owners: tuple[str, ...]
    suppliers: tuple[str, ...]
    customers: tuple[str, ...]
    buys: tuple[str, ...]
    private: tuple[str, ...]
    things: tuple[str, ...]
    chart: dict[str, str]
    roles: bool
    settles: str
    bank: Callable[[str, Random], str]


def _capitals(text: str, rng: Random) -> str:
    reference = rng.choice(("", f"REF {rng.randint(1000, 9999)}"))
    return f"{rng.randint(10, 99)} {text.upper()[:22]} {reference}".strip()


def _tight(text: str, rng: Random) -> str:
    return f"{text.replace(' ', '')[:16]}/{rng.randint(100, 999)}"


def _plain(text: str, rng: Random) -> str:
    return f"Payment: {text}, {rng.choice(('London', 'Porto', 'Gent'))}"


ENGLISH = {
    "bank": "Current a/c",
    "savings": "Reserve a/c",
    "debtors": "Debtors",
    "creditors": "Creditors",
    "vat": "VAT",
    "sales": "Takings",
    "materials": "Materials",
    "upkeep": "Repairs and renewals",
    "sundries": "Office sundries",
    "phone": "Telephone",
    "rent": "Rent of premises",
    "wages": "Staff wages",
    "ni": "Employer NI",
    "net": "Wages due",
    "paye": "PAYE due",
    "loan": "Bank loan",
    "interest": "Loan interest",
    "plant": "Plant",
    "accrued": "Accrued charges",
    "owner": "Drawings",
    "introduced": "Capital introduced",
    "reserve": "Capital",
    "stock": "Stock",
    "fees": "Bank charges",
    "held": "Cash not yet banked",
    "bad": "Bad debts",
    "odd": "Miscellaneous income",
    "between": "Clearing",
}
DUTCH = ENGLISH | {
    "bank": "Rekening-courant bank",
    "debtors": "Debiteuren",
    "creditors": "Crediteuren",
    "vat": "BTW",
    "sales": "Omzet",
    "materials": "Inkopen",
    "upkeep": "Onderhoud",
    "sundries": "Kantoorkosten",
    "rent": "Huur",
    "wages": "Lonen en salarissen",
    "net": "Te betalen lonen",
    "paye": "Af te dragen loonheffing",
    "accrued": "Nog te betalen kosten",
    "interest": "Rente lening",
    "loan": "Lening",
    "stock": "Voorraad",
    "fees": "Bankkosten",
    "owner": "Prive opnamen",
}
FRENCH = ENGLISH | {
    "bank": "Banque",
    "debtors": "Clients",
    "creditors": "Fournisseurs",
    "vat": "TVA",
    "sales": "Ventes",
    "materials": "Achats",
    "upkeep": "Entretien et réparations",
    "sundries": "Fournitures de bureau",
    "rent": "Loyer",
    "wages": "Salaires",
    "net": "Rémunérations dues",
    "paye": "Organismes sociaux",
    "accrued": "Charges à payer",
    "interest": "Intérêts des emprunts",
    "loan": "Emprunt",
    "stock": "Stocks",
    "fees": "Frais bancaires",
}

TRADES = (
    Trade(
        "Wherry Lane Plumbing",
        Entity.SOLE_TRADER,
        ("Gordon Pask",),
        (
            "Bathgate Copper Tubes",
            "Drainage Supplies (East) Ltd",
            "Van Hire Wymondham",
            "Fenland Boilers",
            "Tolley & Ryle Solicitors",
        ),
        (
            "Mrs A Threadgold",
            "Broadland Lettings Ltd",
            "Parish Council of Acle",
            "The Ship Inn",
            "Dr Imogen Saye",
        ),
        ("copper pipe and elbows", "valves", "flux, solder", "radiators for job"),
        ("GOLF CLUB SUBS", "NETFLIX.COM", "TUI HOLIDAYS"),
        ("Pipe threading machine", "Inspection camera"),
        ENGLISH,
        True,
        "exact",
        _capitals,
    ),
    Trade(
        "Bar Meridiano",
        Entity.PARTNERSHIP,
        ("Lucia Ferrante", "Dario Moss"),
        (
            "Cash & Carry Nordsee",
            "Molkerei Ahlers",
            "Weinkontor Thoms",
            "Stadtwerke",
            "Kaffeerösterei Brand",
        ),
        (
            "Kanzlei Vogt",
            "Hochzeit Brandes",
            "Turnverein 1890",
            "Buchhandlung Lenz",
            "Firma Otremba",
        ),
        ("Lebensmittel", "Milch, Sahne", "Wein", "Bohnen 20 kg"),
        ("ZARA KINDER", "REITSTALL EICHHOF", "KREUZFAHRT BUCHUNG"),
        ("Siebträgermaschine", "Gläserspüler"),
        ENGLISH
        | {
            "fees": "Kontoführung",
            "rent": "Miete",
            "upkeep": "Instandhaltung",
            "sundries": "Bürobedarf",
            "accrued": "Sonstige Rückstellungen",
            "owner": "Privatentnahmen",
        },
        False,
        "oldest",
        _tight,
    ),
    Trade(
        "Studio Halyard Ltd",
        Entity.COMPANY,
        ("Petra Nwosu",),
        (
            "Pixel Fonts BV",
            "Cloud Nine Hosting",
            "Print Atelier Gent",
            "Copyshop Overpoort",
            "Freelance K. Maes",
        ),
        (
            "Museum Dr. Guislain",
            "Brouwerij Van Hool",
            "Stad Deinze",
            "Theater Tinnenpot",
            "Apotheek Claeys",
        ),
        ("licence", "hosting", "print run", "copies"),
        ("DECATHLON", "CENTER PARCS", "KAPSALON LIEN"),
        ("Beeldscherm 32 inch", "Plotter A1"),
        DUTCH,
        False,
        "lumps",
        _plain,
    ),
    Trade(
        "Ferme des Trois Chênes",
        Entity.SOLE_TRADER,
        ("Baptiste Royer",),
        (
            "Coopérative Agricole du Val",
            "Vétérinaire Charpentier",
            "Garage Poulain",
            "Semences Delmas",
            "EDF Pro",
        ),
        (
            "Restaurant Le Tilleul",
            "Épicerie Blanchet",
            "Marché de Gros",
            "Mairie de Sancy",
            "Fromagerie Roux",
        ),
        ("aliments bétail", "visite, vaccins", "pièces tracteur", "semences"),
        ("DISNEYLAND PARIS", "SEPHORA", "SKI ALPE D HUEZ"),
        ("Pompe d'irrigation", "Tondeuse autoportée"),
        FRENCH,
        False,
        "exact",
        _tight,
    ),
    Trade(
        "Quayside Players",
        Entity.ASSOCIATION,
        ("Noreen Ambler",),
        (
            "Costume Loft",
            "Scenery Timber Co",
            "Lights & Sound Hire",
            "Harbour Hall Trust",
            "Blackletter Print",
        ),
        (
            "Friends of the Players",
            "School of St Bride",
            "Arts Board West",
            "Rotary Quayside",
            "Mr P Oduya",
        ),
        ("costume hire", "timber and paint", "lamps", "programmes"),
        ("MAMAS AND PAPAS", "SPA WEEKEND", "PETS AT HOME"),
        ("Lighting desk", "Sewing machine"),
        ENGLISH | {"owner": "Due to members", "reserve": "Accumulated fund"},
        True,
        "oldest",
        _plain,
    ),
    Trade(
        "Torvald & Daughters Cycles",
        Entity.COMPANY,
        ("Sunniva Torvald",),
        (
            "Nordic Bike Parts AS",
            "Tyre Depot Bergen",
            "Lakk & Lim",
            "Strøm Energi",
            "Regnskap Vest",
        ),
        ("Postbud Service", "Kommune Fjell", "Hotell Bryggen", "Skole Nord", "Ingrid Solheim"),
        ("frames", "tyres 28", "paint", "parts"),
        ("SATS TRENING", "HYTTEUTLEIE GEILO", "LEKESENTERET"),
        ("Truing stand, electric", "Welding set"),
        ENGLISH,
        True,
        "lumps",
        _capitals,
    ),
)

KINDS_OF = {
    "bank": ("asset", "bank"),
    "savings": ("asset", "bank"),
    "debtors": ("asset", "receivables"),
    "creditors": ("liability", "payables"),
    "vat": ("liability", "tax"),
    "sales": ("income", "sales"),
    "materials": ("expense", "cost-of-sales"),
    "upkeep": ("expense", "repairs"),
    "sundries": ("expense", ""),
    "phone": ("expense", ""),
    "rent": ("expense", ""),
    "wages": ("expense", "wages"),
    "ni": ("expense", "employer-contributions"),
    "net": ("liability", "payroll-net"),
    "paye": ("liability", "payroll-tax"),
    "loan": ("liability", "loan"),
    "interest": ("expense", "loan-interest"),
    "plant": ("asset", "fixed-asset"),
    "accrued": ("liability", "accrual"),
    "stock": ("asset", "stock"),
    "fees": ("expense", "bank-charges"),
    "held": ("asset", "unbanked"),
    "bad": ("expense", "bad-debt"),
    "odd": ("income", ""),
    "between": ("asset", "clearing"),
}
OWNERS = {
    Entity.SOLE_TRADER: ("equity", "drawings", "equity", "capital-introduced", "capital"),
    Entity.PARTNERSHIP: ("equity", "partner-current", "equity", "partner-current", "capital"),
    Entity.COMPANY: ("liability", "owner-loan", "liability", "owner-loan", "retained-earnings"),
    Entity.ASSOCIATION: (
        "liability",
        "member-payable",
        "liability",
        "member-payable",
        "accumulated-fund",
    ),
}
UNKNOWN = frozenset("net paye accrued stock interest bad".split())
"""What a program that knows no roles does not say of accounts."""


class Fault(NamedTuple):
    """*key*: what a point has to name, at least. *moves*: what the right correction moves, by account,
    debit positive; None where more than one is right."""

    check: str
    key: frozenset[str]
    moves: tuple[tuple[str, int], ...] | None = None


@dataclass
class Shop:
    """A client's books while they are made."""

    trade: Trade
    rng: Random
    code: dict[str, str] = field(default_factory=dict)
    rows: list[Transaction] = field(default_factory=list)
    links: list[Allocation] = field(default_factory=list)
    faults: list[Fault] = field(default_factory=list)
    texts: dict[str, str] = field(default_factory=dict)
    hidden: set[str] = field(default_factory=set)
    extra: list[StatementLine] = field(default_factory=list)
    altered: dict[str, int] = field(default_factory=dict)
    numbers: dict[str, int] = field(default_factory=dict)
    made: int = 0

    def post(
        self, kind: Kind, on: date, sides: Sides, party: str | None = None, *,
        ref: str | None = None, memo: str | None = None, paper: date | None = None, vat: bool = False,
        says: str | None = None, keyed: date | None = None, reverses: str | None = None,
        notes: dict[int, str] | None = None,
    ) -> str:  # fmt: skip
        self.made += 1
        name = f"{self.rng.choice('KLMN')}{self.made + 1000}"
        lines = []
        for number, (account, amount, *who) in enumerate((side for side in sides if side[1]), 1):
            # What is on a control account or at the bank bears no tax.
            taxed = vat and not who and account not in ("bank", "savings", "held")
            lines.append(
                Line(number, self.code[account], amount, who[0] if who else None,
                     "V20" if taxed else None, (notes or {}).get(number))
            )  # fmt: skip
        keyed = keyed or on + timedelta(days=self.rng.randint(0, 9))
        self.rows.append(
            Transaction(
                name, kind, on, tuple(lines), paper, paper + timedelta(days=21) if paper else None,
                datetime.combine(keyed, time(9, self.rng.randint(0, 59))), "books", ref, party, memo,
                reverses=reverses,
            )
        )  # fmt: skip
        if says is not None:
            self.texts[name] = says
        return name

    def number(self, party: str) -> str:
        self.numbers[party] = self.numbers.get(
            party, self.rng.randint(200, 9000)
        ) + self.rng.randint(1, 7)
        forms = ("{n}", "R-{n}", "2026/{n}", "{n}A", "No {n}", "F{n:06d}")
        return forms[sum(map(ord, party)) % len(forms)].format(n=self.numbers[party])

    def bill(
        self, supplier: str, on: date, gross: int, account: str = "", ref: str | None = "",
        paper: date | None = None,
    ) -> str:  # fmt: skip
        net = round(gross / 1.2)
        account = account or self.cost_of(supplier)
        number = self.number(supplier) if ref == "" else ref
        half = net // 3
        return self.post(
            Kind.PURCHASE_BILL, on,
            [(account, net - half), (account, half), ("vat", gross - net), ("creditors", -gross, supplier)],
            supplier, ref=number, paper=paper or on, vat=True, memo=self.rng.choice(self.trade.buys),
        )  # fmt: skip

    def invoice(self, customer: str, on: date, gross: int, ref: str | None = "") -> str:
        net = round(gross / 1.2)
        number = self.number("own") if ref == "" else ref
        return self.post(
            Kind.SALES_INVOICE, on, [("debtors", gross, customer), ("sales", -net), ("vat", net - gross)],
            customer, ref=number, paper=on, vat=True,
        )  # fmt: skip

    def pay(self, supplier: str, on: date, amount: int, says: str, memo: str | None = None) -> str:
        return self.post(
            Kind.SUPPLIER_PAYMENT, on, [("creditors", amount, supplier), ("bank", -amount)], supplier,
            memo=memo or says, says=says,
        )  # fmt: skip

    def receive(
        self, customer: str, on: date, amount: int, says: str, memo: str | None = None
    ) -> str:
        return self.post(
            Kind.CUSTOMER_RECEIPT, on, [("bank", amount), ("debtors", -amount, customer)], customer,
            memo=memo or says, says=says,
        )  # fmt: skip

    def spend(
        self,
        on: date,
        amount: int,
        account: str,
        says: str,
        memo: str | None = None,
        *,
        vat: bool = False,
        party: str | None = None,
    ) -> str:
        net = round(amount / 1.2) if vat else amount
        return self.post(
            Kind.DIRECT_PAYMENT, on, [(account, net), ("vat", amount - net), ("bank", -amount)], party,
            memo=memo, says=says, vat=vat,
        )  # fmt: skip

    def link(self, debit: str, credit: str, amount: int) -> None:
        by_id = {row.id: row for row in self.rows}
        party = next(x.party for x in by_id[debit].lines if x.party)
        day = max(by_id[debit].posting_date, by_id[credit].posting_date)
        self.links.append(
            Allocation(f"z{len(self.links)}", day, party or "", debit, credit, amount)
        )

    def wrong(self, check: str, *key: str, moves: dict[str, int] | None = None) -> None:
        """A fault. *moves*: by what the accounts are called here."""
        by_code = moves and {self.code[name]: amount for name, amount in moves.items() if amount}
        right = None if by_code is None else tuple(sorted(by_code.items()))
        self.faults.append(Fault(check, frozenset(key), right))

    def cost_of(self, supplier: str) -> str:
        """Where that supplier's bills go."""
        return "materials" if int(supplier[1]) < 3 else "sundries"

    def day(self, first: int = 60, last: int = 380) -> date:
        return BEGINS + timedelta(days=self.rng.randint(first, last))

    def sum(self, low: int = 4_000, high: int = 60_000) -> int:
        return self.rng.randint(low, high)

    def supplier(self) -> str:
        return f"V{self.rng.randrange(3)}"

    def customer(self) -> str:
        return f"D{self.rng.randrange(5)}"

    def called(self, party: str) -> str:
        names = {"V": self.trade.suppliers, "D": self.trade.customers}[party[0]]
        return names[int(party[1])]


def _ordinary(shop: Shop) -> None:
    """What a year and a quarter of it is like, with nothing wrong."""
    opening: Sides = [
        ("bank", 1_850_000),
        ("savings", 400_000),
        ("stock", 520_000),
        ("loan", -900_000),
    ]
    shop.post(
        Kind.OPENING,
        BEGINS - timedelta(days=1),
        [*opening, ("reserve", -sum(x[1] for x in opening))],
    )
    _buying(shop)
    _selling(shop)
    _by_the_month(shop)


def _buying(shop: Shop) -> None:
    """Bills, and their payments."""
    rng, trade = shop.rng, shop.trade
    for place in range(5):
        code, every = f"V{place}", rng.choice((13, 21, 30))
        day = BEGINS + timedelta(days=rng.randint(2, 20))
        while day < ENDS:
            gross = shop.sum(5_000, 50_000)
            bill = shop.bill(code, day, gross, "materials" if place < 3 else "sundries")
            paid = day + timedelta(days=rng.randint(8, 35))
            if paid <= ENDS:
                money = shop.pay(code, paid, gross, trade.bank(shop.called(code), rng))
                shop.link(money, bill, gross)
            day += timedelta(days=every + rng.randint(-2, 3))


def _selling(shop: Shop) -> None:
    """Invoices, and what is paid of them, one by one or in lumps."""
    rng, trade = shop.rng, shop.trade
    for place in range(5):
        code = f"D{place}"
        day = BEGINS + timedelta(days=rng.randint(2, 20))
        lump: list[tuple[str, int]] = []
        while day < ENDS:
            gross = shop.sum(12_000, 140_000)
            invoice = shop.invoice(code, day, gross)
            paid = day + timedelta(days=rng.randint(10, 40))
            lump.append((invoice, gross))
            many = 2 if trade.settles == "lumps" and place == 0 else 1
            if len(lump) == many:
                if paid <= ENDS:
                    money = shop.receive(
                        code, paid, sum(x for _, x in lump), trade.bank(shop.called(code), rng)
                    )
                    for name, part in lump:
                        shop.link(name, money, part)
                lump = []
            day += timedelta(days=rng.choice((17, 26, 31)))


def _by_the_month(shop: Shop) -> None:
    """Rent, telephone, owner, loan, charges, small things, wages."""
    rng, trade = shop.rng, shop.trade
    lent = 900_000
    for year, month in [*((2025, m) for m in range(7, 13)), *((2026, m) for m in range(1, 10))]:
        first, end = date(year, month, 1), month_end(year, month, 31)
        shop.spend(
            first + timedelta(days=1), 85_000, "rent", trade.bank("Landlord estate", rng), "rent"
        )
        shop.spend(first + timedelta(days=6), 3_480, "phone", trade.bank("Telecom", rng), vat=True)
        shop.spend(
            first + timedelta(days=14),
            120_000,
            "owner",
            trade.bank(trade.owners[0], rng),
            "monthly",
        )
        interest = lent * 6 // 1200
        shop.post(
            Kind.DIRECT_PAYMENT, first + timedelta(days=9),
            [("loan", 30_000 - interest), ("interest", interest), ("bank", -30_000)],
            memo="loan instalment", says=trade.bank("Loan repayment", rng),
        )  # fmt: skip
        lent -= 30_000 - interest
        if month % 3 == 0:
            shop.spend(end, 1_150, "fees", "Service charge")
        for _ in range(3):
            on = first + timedelta(days=rng.randint(0, 27))
            shop.spend(
                on,
                shop.sum(400, 6_500),
                "sundries",
                trade.bank(rng.choice(("Stationer", "Post Office", "Hardware shop")), rng),
                vat=True,
            )
        if month % 2:
            on = first + timedelta(days=rng.randint(0, 27))
            shop.spend(
                on, shop.sum(2_000, 9_000), "owner", trade.bank(trade.private[month % 3], rng)
            )
        gross, tax, own, more = 300_000, 48_000, 24_000, 33_000
        net = gross - tax - own
        shop.post(
            Kind.PAYROLL,
            end,
            [("wages", gross), ("ni", more), ("net", -net), ("paye", -tax - own - more)],
            memo=f"pay {month}/{year}",
        )
        shop.spend(end, net, "net", "Salaries batch")
        due = end + timedelta(days=19)
        if due <= ENDS:
            shop.spend(due, tax + own + more, "paye", "Tax office")


Wrong = Callable[[Shop], None]


def twice(shop: Shop) -> None:
    v, on, gross = shop.supplier(), shop.day(), shop.sum()
    number = shop.number(v)
    one = shop.bill(v, on, gross, ref=number)
    two = shop.bill(
        v, on + timedelta(days=shop.rng.randint(1, 20)), gross, ref=number.lower().replace("-", " ")
    )
    shop.link(
        shop.pay(v, on + timedelta(days=25), gross, shop.trade.bank(shop.called(v), shop.rng)),
        one,
        gross,
    )
    net = round(gross / 1.2)
    moves = {shop.cost_of(v): -net, "vat": net - gross, "creditors": gross}
    shop.wrong("duplicate-document", one, two, moves=moves)


def twice_unnumbered(shop: Shop) -> None:
    d, on, gross = shop.customer(), shop.day(), shop.sum()
    one = shop.invoice(d, on, gross)
    two = shop.invoice(d, on, gross, ref=None)
    shop.link(
        one,
        shop.receive(d, on + timedelta(days=18), gross, shop.trade.bank(shop.called(d), shop.rng)),
        gross,
    )
    net = round(gross / 1.2)
    moves = {"debtors": -gross, "sales": net, "vat": gross - net}
    shop.wrong("duplicate-document", one, two, moves=moves)


def past_the_ledger(shop: Shop) -> None:
    v, on, gross = shop.supplier(), shop.day(), shop.sum()
    bill = shop.bill(v, on, gross)
    money = shop.spend(
        on + timedelta(days=19),
        gross,
        "sundries",
        shop.trade.bank(shop.called(v), shop.rng),
        "bank payment",
    )
    moves = {"sundries": -gross, "creditors": gross}
    shop.wrong("bill-paid-direct", money, bill, moves=moves)


def two_past_the_ledger(shop: Shop) -> None:
    v, on, a, b = shop.supplier(), shop.day(), shop.sum(), shop.sum()
    one, two = shop.bill(v, on, a), shop.bill(v, on + timedelta(days=5), b)
    money = shop.spend(
        on + timedelta(days=22),
        a + b,
        "materials",
        shop.trade.bank(shop.called(v), shop.rng),
        party=v,
    )
    moves = {"materials": -a - b, "creditors": a + b}
    shop.wrong("bill-paid-direct", money, one, two, moves=moves)


def income_twice(shop: Shop) -> None:
    d, on, gross = shop.customer(), shop.day(), shop.sum(15_000, 90_000)
    invoice = shop.invoice(d, on, gross)
    net = round(gross / 1.2)
    money = shop.post(
        Kind.DIRECT_RECEIPT,
        on + timedelta(days=16),
        [("bank", gross), ("sales", -net), ("vat", net - gross)],
        memo="bank receipt",
        says=shop.trade.bank(shop.called(d), shop.rng),
        vat=True,
    )
    moves = {"debtors": -gross, "sales": net, "vat": gross - net}
    shop.wrong("invoice-received-direct", money, invoice, moves=moves)


def other_customer(shop: Shop) -> None:
    a, b = shop.rng.sample([f"D{n}" for n in range(5)], 2)
    on, gross = shop.day(), shop.sum(15_000, 90_000)
    theirs, other = shop.invoice(a, on, gross), shop.invoice(b, on + timedelta(days=3), gross)
    money = shop.receive(
        b, on + timedelta(days=20), gross, shop.trade.bank(shop.called(a), shop.rng)
    )
    shop.link(other, money, gross)
    shop.wrong("wrong-party", money, theirs, moves={})


def other_item(shop: Shop) -> None:
    d, on = shop.customer(), shop.day()
    old, new = shop.sum(30_000, 60_000), shop.sum(10_000, 29_000)
    early, late = shop.invoice(d, on, old), shop.invoice(d, on + timedelta(days=25), new)
    number = next(row.reference for row in shop.rows if row.id == late)
    money = shop.receive(
        d, on + timedelta(days=40), new, f"{shop.trade.bank(shop.called(d), shop.rng)} {number}"
    )
    shop.link(early, money, new)
    shop.wrong("wrong-item", money, late, moves={})


def on_account(shop: Shop) -> None:
    d, on, gross = shop.customer(), shop.day(), shop.sum()
    invoice = shop.invoice(d, on, gross)
    money = shop.receive(
        d, on + timedelta(days=14), gross, shop.trade.bank(shop.called(d), shop.rng)
    )
    shop.wrong("unallocated", money, invoice, moves={})


def pair_left_open(shop: Shop) -> None:
    d, on, amount = shop.customer(), shop.day(), shop.sum()
    one = shop.post(
        Kind.JOURNAL, on, [("debtors", amount, d), ("sales", -amount)], d, memo="work in hand"
    )
    two = shop.post(
        Kind.JOURNAL,
        on + timedelta(days=9),
        [("debtors", -amount, d), ("sales", amount)],
        d,
        memo="work in hand back",
    )
    shop.wrong("journal-pair-open", one, two, moves={})


def private(shop: Shop) -> None:
    text, amount = shop.rng.choice(shop.trade.private), shop.sum(2_000, 9_000)
    says = shop.trade.bank(text, shop.rng)
    money = shop.spend(shop.day(150), amount, "sundries", says, vat=True)
    net = round(amount / 1.2)
    moves = {"sundries": -net, "vat": net - amount, "owner": amount}
    shop.wrong("owner-spending", money, moves=moves)


def cash_drawn(shop: Shop) -> None:
    money = shop.spend(shop.day(), 20_000, "sundries", "ATM WITHDRAWAL 4471 HIGH ST", "cash")
    shop.wrong("owner-spending", money, moves={"sundries": -20_000, "owner": 20_000})


def owner_paid_in(shop: Shop) -> None:
    amount = shop.sum(100_000, 300_000) // 10_000 * 10_000
    money = shop.post(
        Kind.DIRECT_RECEIPT, shop.day(), [("bank", amount), ("odd", -amount)],
        memo="paid in", says=shop.trade.bank(shop.trade.owners[-1], shop.rng),
    )  # fmt: skip
    to = "owner" if shop.trade.entity is Entity.COMPANY else "introduced"
    shop.wrong("owner-money-in", money, moves={"odd": amount, to: -amount})


def moved_to_savings(shop: Shop) -> None:
    on, amount = shop.day(), shop.sum(60_000, 200_000) // 5_000 * 5_000
    out = shop.spend(on, amount, "sundries", "TRANSFER TO RESERVE")
    came = shop.post(
        Kind.DIRECT_RECEIPT,
        on + timedelta(days=1),
        [("savings", amount), ("odd", -amount)],
        memo="transfer in",
    )
    moves = {"sundries": -amount, "odd": amount}
    shop.wrong("transfer-miscoded", out, came, moves=moves)


def banked_as_sales(shop: Shop) -> None:
    on, a, b = shop.day(), shop.sum(9_000, 30_000), shop.sum(9_000, 30_000)
    held = []
    for place, amount in enumerate((a, b)):
        d = shop.customer()
        invoice = shop.invoice(d, on - timedelta(days=12), amount)
        money = shop.post(
            Kind.CUSTOMER_RECEIPT,
            on + timedelta(days=place),
            [("held", amount), ("debtors", -amount, d)],
            d,
            memo="cheque",
        )
        shop.link(invoice, money, amount)
        held.append(money)
    banked = shop.post(
        Kind.DIRECT_RECEIPT,
        on + timedelta(days=4),
        [("bank", a + b), ("sales", -a - b)],
        memo="paid in",
        says="COUNTER CREDIT",
    )
    shop.wrong("unbanked-stale", banked, *held, moves={"sales": a + b, "held": -a - b})


def swapped_digits(shop: Shop) -> None:
    v, on = shop.supplier(), shop.day(200, 420)
    right = 41_860 + 100 * shop.rng.randint(0, 9)
    text = str(right)
    keyed = int(text[0] + text[2] + text[1] + text[3:])
    money = shop.spend(on, keyed, "sundries", shop.trade.bank(shop.called(v), shop.rng), party=v)
    shop.altered[money] = -right
    moves = {"sundries": right - keyed, "bank": keyed - right}
    shop.wrong("bank-amount-differs", money, moves=moves)


def bank_fee_missing(shop: Shop) -> None:
    on = shop.day(200, 420)
    shop.extra.append(StatementLine("", 1, on, -shop.sum(700, 2_900), "CARD TERMINAL RENTAL"))
    shop.wrong("bank-missing", f"extra {len(shop.extra)}")


def fed_twice(shop: Shop) -> None:
    on, amount, text = (
        shop.day(200, 420),
        shop.sum(1_500, 9_000),
        shop.trade.bank("Insurance office", shop.rng),
    )
    one = shop.spend(on, amount, "sundries", text)
    two = shop.spend(on, amount, "sundries", text)
    shop.hidden.add(two)
    moves = {"sundries": -amount, "bank": amount}
    shop.wrong("duplicate-bank-entry", one, two, moves=moves)


def without_a_name(shop: Shop) -> None:
    amount = shop.sum()
    name = shop.post(
        Kind.JOURNAL,
        shop.day(),
        [("creditors", amount), ("materials", -amount)],
        memo="balance put right",
    )
    shop.wrong("control-without-party", name)


def vat_on_wages(shop: Shop) -> None:
    money = shop.spend(
        shop.day(), 36_000, "wages", shop.trade.bank("Weekend help", shop.rng), vat=True
    )
    shop.wrong("tax-code-odd", money, moves={"vat": -6_000, "wages": 6_000})


def vat_slip(shop: Shop) -> None:
    v, on, net = shop.supplier(), shop.day(), shop.sum(10_000, 50_000)
    tax = net // 5 + shop.rng.choice((-270, 540, 1_800))
    bill = shop.post(
        Kind.PURCHASE_BILL, on, [("materials", net), ("vat", tax), ("creditors", -net - tax, v)], v,
        ref=shop.number(v), paper=on, vat=True,
    )  # fmt: skip
    shop.link(
        shop.pay(v, on + timedelta(days=20), net + tax, shop.trade.bank(shop.called(v), shop.rng)),
        bill,
        net + tax,
    )
    over = tax - tax_within(net + tax, RATE)
    shop.wrong("tax-code-odd", bill, moves={"vat": -over, "materials": over})


def odd_account(shop: Shop) -> None:
    v, on, gross = f"V{shop.rng.randrange(3)}", shop.day(150), shop.sum(8_000, 30_000)
    bill = shop.bill(v, on, gross, "phone")
    shop.link(
        shop.pay(v, on + timedelta(days=20), gross, shop.trade.bank(shop.called(v), shop.rng)),
        bill,
        gross,
    )
    net = round(gross / 1.2)
    shop.wrong("unusual-account", bill, moves={"phone": -net, "materials": net})


def lasting(shop: Shop) -> None:
    thing = shop.rng.choice(shop.trade.things)
    money = shop.spend(
        shop.day(),
        shop.sum(150_000, 400_000),
        "upkeep",
        shop.trade.bank(thing, shop.rng),
        thing,
        vat=True,
    )
    shop.wrong("capital-as-cost", money)


def other_year(shop: Shop) -> None:
    v, on = shop.supplier(), date(2026, 1, shop.rng.randint(5, 24))
    gross = shop.sum()
    bill = shop.bill(v, on, gross, paper=date(2025, 12, shop.rng.randint(5, 29)))
    shop.link(
        shop.pay(v, on + timedelta(days=20), gross, shop.trade.bank(shop.called(v), shop.rng)),
        bill,
        gross,
    )
    shop.wrong("cut-off", bill)


def accrual_forgotten(shop: Shop) -> None:
    amount = shop.sum(20_000, 70_000)
    name = shop.post(
        Kind.JOURNAL,
        date(2025, 12, 31),
        [("sundries", amount), ("accrued", -amount)],
        memo="accountancy 2025",
    )
    moves = {"sundries": -amount, "accrued": amount}
    shop.wrong("accrual-not-reversed", name, moves=moves)


def accrual_slipped(shop: Shop) -> None:
    amount = shop.sum(20_000, 70_000)
    one = shop.post(
        Kind.JOURNAL,
        date(2026, 3, 31),
        [("phone", amount), ("accrued", -amount)],
        memo="calls not billed",
    )
    two = shop.post(
        Kind.JOURNAL,
        date(2026, 4, 1),
        [("phone", 450 - amount), ("accrued", amount - 450)],
        memo="calls not billed",
    )
    shop.wrong("reversal-wrong", one, two, moves={"phone": -450, "accrued": 450})


def rent_left_out(shop: Shop) -> None:
    rows = [row for row in shop.rows if row.memo == "rent"]
    gone = rows[shop.rng.randint(3, len(rows) - 3)]
    shop.rows.remove(gone)
    shop.texts.pop(gone.id)
    shop.wrong("recurring-missing", shop.code["rent"], f"{gone.posting_date:%Y-%m}")


def lease_all_cost(shop: Shop) -> None:
    for month in range(1, 10):
        shop.spend(
            date(2026, month, 20),
            27_450,
            "sundries",
            shop.trade.bank("Kelda Asset Loan", shop.rng),
            "van finance",
        )
    shop.wrong("loan-repayment-as-cost", shop.code["sundries"], "2026")


def net_pay_to_wages(shop: Shop) -> None:
    paid = next(
        r
        for r in shop.rows
        if shop.texts.get(r.id) == "Salaries batch" and r.posting_date.month == 4
    )
    lines = tuple(
        x._replace(account=shop.code["wages"]) if x.account == shop.code["net"] else x
        for x in paid.lines
    )
    shop.rows[shop.rows.index(paid)] = paid._replace(lines=lines)
    shop.wrong("payroll-not-cleared", paid.id, moves={"wages": -228_000, "net": 228_000})


def paye_skipped(shop: Shop) -> None:
    paid = next(
        r for r in shop.rows if shop.texts.get(r.id) == "Tax office" and r.posting_date.month == 3
    )
    shop.rows.remove(paid)
    shop.texts.pop(paid.id)
    journal = next(r for r in shop.rows if r.memo == "pay 2/2026")
    shop.wrong("payroll-not-cleared", journal.id)


def wages_slipped(shop: Shop) -> None:
    journal = next(r for r in shop.rows if r.memo == "pay 6/2026")
    lines = tuple(
        x._replace(amount=x.amount - 27_000) if x.account == shop.code["wages"]
        else x._replace(amount=x.amount + 27_000) if x.account == shop.code["paye"] else x
        for x in journal.lines
    )  # fmt: skip
    shop.rows[shop.rows.index(journal)] = journal._replace(lines=lines)
    shop.wrong("payroll-disagrees", journal.id, moves={"wages": 27_000, "paye": -27_000})


def never_paid(shop: Shop) -> None:
    on = date(2025, 9, shop.rng.randint(1, 28))
    shop.wrong("doubtful-debt", shop.invoice(shop.customer(), on, shop.sum(20_000, 80_000)))


def keyed_late(shop: Shop) -> None:
    name = shop.spend(
        date(2025, 11, 12), shop.sum(3_000, 9_000), "sundries", "Hardware shop", vat=True
    )
    row = next(r for r in shop.rows if r.id == name)
    shop.rows[shop.rows.index(row)] = row._replace(entered_at=datetime(2026, 8, 3, 10))
    shop.wrong("entered-late", name)


def counted_less(shop: Shop) -> None:
    moves = {"stock": -61_300, "materials": 61_300}
    shop.wrong("stock-disagrees", shop.code["stock"], moves=moves)


def two_exchanged(shop: Shop) -> None:
    v, on, a = shop.supplier(), shop.day(), shop.sum(20_000, 50_000)
    one, two = shop.bill(v, on, a), shop.bill(v, on + timedelta(days=4), a + 3_330)
    says = shop.trade.bank(shop.called(v), shop.rng)
    first, second = (
        shop.pay(v, on + timedelta(days=20), a, says),
        shop.pay(v, on + timedelta(days=21), a + 3_330, says),
    )
    shop.link(first, two, a)
    shop.link(second, one, a)
    shop.wrong("wrong-item", first, second, moves={})


def less_a_credit(shop: Shop) -> None:
    v, on, a = shop.supplier(), shop.day(), shop.sum(20_000, 50_000)
    one = shop.bill(v, on, a)
    off = a // 7
    net = round(off / 1.2)
    credit = shop.post(
        Kind.PURCHASE_CREDIT, on + timedelta(days=6),
        [("creditors", off, v), ("materials", -net), ("vat", net - off)], v, ref=f"C{shop.number(v)}",
        paper=on + timedelta(days=6), vat=True,
    )  # fmt: skip
    money = shop.spend(
        on + timedelta(days=24), a - off, "materials", shop.trade.bank(shop.called(v), shop.rng)
    )
    moves = {"materials": off - a, "creditors": a - off}
    shop.wrong("bill-paid-direct", money, one, credit, moves=moves)


def private_line(shop: Shop) -> None:
    v, on = shop.supplier(), shop.day(150)
    text = shop.trade.private[1].title()
    bill = shop.post(
        Kind.PURCHASE_BILL,
        on,
        [("materials", 9_000), ("materials", 5_000), ("vat", 2_800), ("creditors", -16_800, v)],
        v,
        ref=shop.number(v),
        paper=on,
        vat=True,
        notes={1: shop.trade.buys[0], 2: text},
    )
    shop.link(
        shop.pay(v, on + timedelta(days=20), 16_800, shop.trade.bank(shop.called(v), shop.rng)),
        bill,
        16_800,
    )
    moves = {"materials": -5_000, "vat": -1_000, "owner": 6_000}
    shop.wrong("owner-spending", bill, moves=moves)


EVERY: tuple[Wrong, ...] = (
    twice,
    twice_unnumbered,
    past_the_ledger,
    two_past_the_ledger,
    income_twice,
    other_customer,
    other_item,
    on_account,
    pair_left_open,
    private,
    private,
    cash_drawn,
    owner_paid_in,
    moved_to_savings,
    banked_as_sales,
    swapped_digits,
    bank_fee_missing,
    fed_twice,
    without_a_name,
    vat_on_wages,
    vat_slip,
    odd_account,
    lasting,
    other_year,
    accrual_forgotten,
    accrual_slipped,
    rent_left_out,
    lease_all_cost,
    net_pay_to_wages,
    paye_skipped,
    wages_slipped,
    never_paid,
    keyed_late,
    counted_less,
    two_exchanged,
    less_a_credit,
    private_line,
)
EACH = 20


class Elsewhere(NamedTuple):
    books: Books
    faults: tuple[Fault, ...]
    trade: Trade


def elsewhere(seed: int) -> Elsewhere:
    """One client's books, with about twenty faults of those that can be."""
    rng = Random(f"elsewhere {seed}")
    trade = TRADES[seed % len(TRADES)]
    shop = Shop(
        trade, rng, {name: f"{n + 1}{rng.randint(0, 9)}0" for n, name in enumerate(trade.chart)}
    )
    _ordinary(shop)
    drawn = rng.sample(EVERY, EACH)
    for wrong in drawn:
        if not (trade.entity is Entity.ASSOCIATION and wrong in (owner_paid_in,)):
            wrong(shop)
    if trade.entity is Entity.COMPANY:
        # What its director draws each month is a loan to her.
        shop.wrong("owner-loan-overdrawn", shop.code["owner"])
    return _made(shop, counted_less in drawn)


def _made(shop: Shop, short: bool) -> Elsewhere:
    trade, rng = shop.trade, shop.rng
    type_out, role_out, type_in, role_in, kept = OWNERS[trade.entity]
    facts = KINDS_OF | {
        "owner": (type_out, role_out),
        "introduced": (type_in, role_in),
        "reserve": ("equity", kept),
    }
    accounts = tuple(
        Account(
            shop.code[name], words, AccountType(facts[name][0]),
            AccountRole(facts[name][1] if trade.roles or name not in UNKNOWN else ""),
            "O0" if name == "owner" else f"O{len(trade.owners) - 1}" if name == "introduced" else None,
        )
        for name, words in trade.chart.items()
    )  # fmt: skip
    parties = (
        *(Party(f"V{n}", name, PartyKind.SUPPLIER) for n, name in enumerate(trade.suppliers)),
        *(Party(f"D{n}", name, PartyKind.CUSTOMER) for n, name in enumerate(trade.customers)),
        *(
            Party(f"O{n}", name, PartyKind.OWNER, Fraction(100, len(trade.owners)))
            for n, name in enumerate(trade.owners)
        ),
    )
    rows = sorted(shop.rows, key=lambda row: (row.posting_date, row.id))
    statement, agreed, names = _bank(shop, rows)
    months = tuple(
        PayrollMonth(f"{y}-{m:02d}", None, 300_000, 33_000, 228_000, 48_000, 24_000, 0)
        for y, m in [*((2025, m) for m in range(7, 13)), *((2026, m) for m in range(1, 10))]
    )
    held = sum(x.amount for row in rows for x in row.lines if x.account == shop.code["stock"])
    counted = held - 61_300 if short else held
    tables = Tables(
        accounts=accounts,
        parties=parties,
        taxes=(
            Tax("V20", "Standard 20%", RATE, TaxKind.STANDARD),
            Tax("V0", "None", Fraction(0), TaxKind.OUTSIDE),
        ),
        transactions=tuple(rows),
        allocations=tuple(shop.links),
        agreements=agreed,
        payroll=months,
        stock=(StockItem(ENDS, "all of it", "1", str(counted), counted),),
        prior_year=tuple(_signed(shop, rows)),
    )
    client = ClientFacts(
        f"E{rng.randint(100, 999)}", trade.name, trade.entity, Currency("EUR"), (12, 31),
        books_from=BEGINS, books_to=ENDS, filed_through=date(2025, 12, 31),
    )  # fmt: skip
    calendar = Calendar((12, 31), filed_through=date(2025, 12, 31))
    books = Books(client, tables, calendar, statements=(statement,))
    faults = tuple(
        fault._replace(key=frozenset(names.get(name, name) for name in fault.key))
        for fault in shop.faults
    )
    return Elsewhere(books, faults, trade)


def _signed(shop: Shop, rows: Iterable[Transaction]) -> Iterable[PriorBalance]:
    sums: dict[str, int] = {}
    first = date(2025, 6, 30)
    for row in rows:
        if row.posting_date <= first:
            for line in row.lines:
                sums[line.account] = sums.get(line.account, 0) + line.amount
    return (PriorBalance(first, account, amount) for account, amount in sorted(sums.items()))


def _bank(
    shop: Shop, rows: Iterable[Transaction]
) -> tuple[Statement, tuple[AgreementRow, ...], dict[str, str]]:
    """The bank's lines of the current account: seven of ten are agreed with their entries."""
    bank = shop.code["bank"]
    opening = 0
    found: list[tuple[StatementLine, str | None]] = [(line, None) for line in shop.extra]
    for row in rows:
        moved = sum(x.amount for x in row.lines if x.account == bank)
        if row.kind is Kind.OPENING:
            opening += moved
        elif moved and row.id not in shop.hidden:
            day = min(ENDS, row.posting_date + timedelta(days=shop.rng.choice((0, 0, 1, 2))))
            text = shop.texts.get(row.id) or row.memo or "payment"
            found.append((StatementLine("", 1, day, shop.altered.get(row.id, moved), text), row.id))
    ordered = sorted(found, key=lambda pair: (pair[0].day, pair[1] or ""))
    lines, agreed, names = [], [], {}
    for place, (line, entry) in enumerate(ordered, 1):
        name = f"statements/current.csv#{place}"
        lines.append(line._replace(id=name))
        if entry is None:
            names[f"extra {shop.extra.index(line) + 1}"] = name
        elif entry not in shop.altered and shop.rng.random() < 0.7:
            agreed.append(AgreementRow(f"g{place}", bank, entry, 1 + _place(rows, entry, bank)))
            agreed.append(AgreementRow(f"g{place}", bank, statement_line=name))
    closing = opening + sum(line.amount for line in lines)
    statement = Statement(
        1,
        bank,
        "statements/current.csv",
        lines[0].day,
        ENDS,
        opening,
        closing,
        0,
        None,
        (),
        tuple(lines),
    )
    return statement, tuple(agreed), names


def _place(rows: Iterable[Transaction], name: str, account: str) -> int:
    row = next(row for row in rows if row.id == name)
    return next(n for n, line in enumerate(row.lines) if line.account == account)
