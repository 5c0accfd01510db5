"""How bookkeepers and banks write, in parts that share no phrase: on the first certainties are set, on the
second is reported."""

from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class Hand:
    """*names*: of customers and suppliers. *around*: what a bank prints about a name. *ornaments*: what
    stands about a number. *vague*: texts that say nothing. *charts*: accounts' names by the books' role,
    in several languages. *services*: dear ones, which last no longer than their year. *relatives*: who
    pays for a customer. *expenses*: what employees are given back. *provisions*: for years;
    *authorities*: who is paid tax; *gifts*: of the business."""

    names: tuple[str, ...]
    around: tuple[str, ...]
    towns: tuple[str, ...]
    ornaments: tuple[str, ...]
    vague: tuple[str, ...]
    charts: tuple[Mapping[str, str], ...]
    services: tuple[str, ...]
    relatives: tuple[str, ...]
    expenses: tuple[str, ...]
    provisions: tuple[str, ...]
    authorities: tuple[str, ...]
    gifts: tuple[str, ...]


TUNED = Hand(
    names=(
        "Brückner Holzbau GmbH", "Café Linné", "Marten & Sohn", "Sailmakers of Whitby Ltd",
        "Élan Imprimerie SARL", "Tollgate Fencing Co", "Nørby Maskinfabrik A/S", "Peña Hermanos S.L.",
        "Old Mill Bakehouse", "Quarry Lane Motors Ltd", "Fjordlys Elektro AS", "Hausmann Glas KG",
        "Rosedale Landscapes", "Rosedale Plumbing Ltd", "Dubois Frères", "Stonebridge Accountable Print",
        "Vale Packaging Ltd", "Vale Courier Service", "Þórsmörk Travel", "Weber Kältetechnik",
        "Zieliński Transport", "Castlegate Signs", "Kirkby Steel Stockholders Ltd", "Lindqvist Möbler AB",
        "Amberley Dental Practice", "Blacksmith Row Hotel", "Corner House Nursery", "Dray & Barrel Inn",
    ),
    around=(
        "{name} {town}", "CARD {digits} {name}", "{name} {ref} {town}", "TRF {name}", "{name}*{digits}",
        "BACS {name} {digits}", "{name}",
    ),
    towns=("LEEDS", "BREMEN", "LYON", "AARHUS", "VIGO"),
    ornaments=("{ref}", "inv {ref}", "{ref} OF {year}", "no.{ref} thx", "A/C 40417 {ref}", "{bare}"),
    vague=("payment", "online banking", "faster pmt", "transfer"),
    charts=(
        {},
        {
            "accrual": "Abgrenzungen", "payroll-net": "Verbindlichkeiten Lohn und Gehalt",
            "payroll-tax": "Lohnsteuer und Sozialabgaben", "stock": "Warenbestand",
            "loan-interest": "Darlehenszinsen", "bad-debt": "Forderungsverluste",
        },
        {
            "accrual": "Charges à payer", "payroll-net": "Personnel, rémunérations dues",
            "payroll-tax": "Organismes sociaux", "stock": "Stocks de marchandises",
            "loan-interest": "Intérêts des emprunts", "bad-debt": "Pertes sur créances",
        },
    ),
    services=(
        "SOLICITORS FEE LEASE", "INSURANCE PREMIUM 2026", "AUDIT AND TAX RETURN", "STAFF TRAINING WEEK",
    ),
    relatives=("MRS J HOLT", "P A WINTERS", "DR C OAKES"),
    expenses=("R TALBOT EXPENSES", "EXPENSES N ABARA", "MILEAGE G SORLEY"),
    provisions=("dilapidations at the end of the lease", "warranty, three years"),
    authorities=("HMRC SHIPLEY", "FINANZAMT BREMEN"),
    gifts=("WINE FOR THE TEAM", "FLOWERS CUSTOMER OPENING"),
)  # fmt: skip

REPORTED = Hand(
    names=(
        "Grünwald Druck GmbH & Co KG", "Boulangerie Pâtisserie Morel", "Harbour Light Electrical Ltd",
        "Ollerton Timber Merchants", "Åkesson Bygg AB", "Jiménez Carpintería", "Tidewater Chandlers Ltd",
        "Tidewater Catering", "Schäfer Reinigung", "Thackeray Office Supplies Ltd", "Maison Fleurie",
        "Wójcik Budownictwo", "Penhallow Granite", "Sørensen Køleteknik ApS", "Hexham Valve & Pump Co",
        "Hexham Insurance Brokers", "Château Verger SCEA", "Larkspur Veterinary Group", "Kestrel Couriers",
        "Umberto Gelati S.r.l.", "Deepdale Quarries Ltd", "Marsh Farm Produce", "Orchard View Care Home",
        "St Aldhelm's School", "Ravensworth Estate Office", "Bellini Events", "Northgate Museum Trust",
        "Copper Kettle Tearooms",
    ),
    around=(
        "{town} {name} {digits}", "POS{digits} {name}", "{name}/{town}", "SEPA CT {name}", "SumUp *{name}",
        "{name} {digits} {town} GB", "{name}", "DD {name} {ref}",
    ),
    towns=("EXETER", "KIEL", "NANTES", "MALMO", "GDYNIA"),
    ornaments=(
        "{ref}", "Rechn. {ref}", "your {ref} dd {year}", "{year}/{ref}", "cust 88213 / {ref}", "#{bare}",
    ),
    vague=("BGC", "internet transfer", "web pay", "standing order"),
    charts=(
        {},
        {
            "accrual": "Nog te betalen kosten", "payroll-net": "Te betalen lonen",
            "payroll-tax": "Af te dragen loonheffing", "stock": "Voorraad handelsgoederen",
            "loan-interest": "Rente lening", "bad-debt": "Oninbare vorderingen",
        },
        {
            "accrual": "Accrued expenses not invoiced", "payroll-net": "Wages control",
            "payroll-tax": "PAYE and NI", "stock": "Stock on hand",
            "loan-interest": "Interest on borrowings", "bad-debt": "Irrecoverable debts",
        },
    ),
    services=(
        "RA DR HELM MANDAT PACHTVERTRAG", "PUBLIC LIABILITY POLICY", "EXPERT COMPTABLE BILAN",
        "STAND AT REGIONAL FAIR", "COURS SECOURISTES", "GEBAEUDEVERSICHERUNG", "SURVEYOR PARTY WALL",
    ),
    relatives=("FRAU M TESSEN", "J & K OBUYA", "MME LEROUX"),
    expenses=("AUSLAGEN S BEHR", "TRAIN FARES T IVESON", "NOTE DE FRAIS CLAIRE"),
    provisions=("Rückbau Ladenlokal 2032", "litige prud'hommes", "reinstatement of the yard"),
    authorities=("BELASTINGDIENST", "REVENUE COMMISSIONERS", "DGFIP TVA"),
    gifts=("HAMPERS FOR DRIVERS", "BLUMEN KUNDENJUBILAEUM", "CHOCOLATS CLIENTS"),
)  # fmt: skip
