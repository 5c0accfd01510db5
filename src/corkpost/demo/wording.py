"""How bookkeepers write: what varies from one to the next, in two sets that share nothing.

Thresholds were set on the first; what is reported of the checks is measured on the second.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace


@dataclass(frozen=True)
class Wording:
    """*forms*: how suppliers number. *own_forms*: how the business does. *ids*: of transactions.

    *paid*: what stands on a payment. *number_alone*: what quotes an invoice. *households*: what owners
    buy. *cash*: what a cash machine leaves. *things*: of lasting use. *bare*: on journals about nobody.
    *accrued*: on accruals. *pay*: on wages.
    """

    forms: tuple[str, ...]
    own_forms: tuple[str, ...]
    ids: tuple[str, ...]
    paid: tuple[Callable[[str], str], ...]
    number_alone: tuple[str, ...]
    households: tuple[tuple[str, ...], ...]
    cash: tuple[str, ...]
    things: tuple[str, ...]
    bare: tuple[str, ...]
    accrued: tuple[str, ...]
    pay: tuple[str, ...]
    private: str


TUNED = Wording(
    forms=("RW-{:04d}", "INV {:05d}", "{:d}", "2026/{:04d}", "F{:07d}", "A-{:03d}-X", "RE{:d}"),
    own_forms=("S-{:04d}", "{:05d}", "26{:05d}"),
    ids=("T{:04d}", "2026-{:06d}", "{:d}", "tx{:05d}"),
    paid=(
        lambda reference: f"payment {reference}",
        lambda reference: f"Zahlung {reference}",
        lambda reference: f"virement {reference}",
        lambda reference: "bank transfer",
        lambda reference: f"{reference.lower()} thank you",
    ),
    number_alone=("receipt {}", "{}", "Rg {}", "facture {}"),
    households=(
        ("TOY SHOP HIGH STREET", "RIDING LESSONS", "MUSIC SCHOOL FEES", "GARDEN CENTRE", "CINEMA"),
        ("SPIELWAREN LADEN", "REITSTUNDEN", "MUSIKSCHULE", "GARTENMARKT", "KINO KARTEN"),
        ("JOUETS MARCHAND", "EQUITATION CLUB", "ECOLE MUSIQUE", "JARDINERIE", "CINEMA PLACES"),
        ("HOLIDAY COTTAGE", "SWIMMING CLUB", "BIRTHDAY PARTY", "PET PARLOUR", "OPTICIAN GLASSES"),
    ),
    cash=("ATM WITHDRAWAL QUAY", "GELDAUTOMAT HAFEN", "RETRAIT DAB PORT", "CASHPOINT STATION"),
    things=("LAPTOP AND DOCK", "WERKBANK", "COMPRESSEUR", "SERVER CABINET", "DRUCKER GROSS"),
    bare=("to be invoiced", "Umbuchung", "a facturer"),
    accrued=("electricity, not billed", "Strom abgegrenzt", "loyer a payer"),
    pay=("payroll", "Lohn", "salaires"),
    private="CARD",
)

PLAIN = replace(
    TUNED,
    number_alone=("receipt {}", "{}", "inv {}", "invoice {}"),
    cash=("ATM WITHDRAWAL QUAY", "CASH WITHDRAWAL 0417", "ATM HARBOUR", "CASHPOINT STATION"),
    things=("LAPTOP AND DOCK", "WORKBENCH", "COMPRESSOR", "SERVER CABINET", "LARGE PRINTER"),
    bare=("to be invoiced", "reposting", "still to be billed"),
    accrued=("electricity, not billed", "power used, no bill yet", "rent owed"),
    pay=("payroll", "wages", "salaries"),
)
"""How the demo's bookkeepers write: all in one language."""

REPORTED = Wording(
    forms=(
        "{:08d}", "No. {:d}", "fac-{:05d}", "B/{:03d}/26", "Q{:d}", "{:04d}.2026", "LS {:06d}",
        "nr{:05d}", "TX-{:d}-B",
    ),
    own_forms=("K{:06d}", "2026-{:d}", "AR/{:05d}", "No {:04d}"),
    ids=("J-{:07d}", "{:08d}", "b{:d}", "26.{:05d}"),
    paid=(
        lambda reference: f"for {reference}, with thanks",
        lambda reference: f"RNr {reference.replace('-', ' ')}",
        lambda reference: f"regl. {reference}",
        lambda reference: f"betaling {reference}",
        lambda reference: "transfer",
        lambda reference: f"FPO/{reference.upper()}/ONLINE",
    ),
    number_alone=("inv {}", "zu {}", "{} / our account", "pago {}", "re: {}"),
    households=(
        ("SHOE STORE ARCADE", "PIANO TEACHER", "NURSERY SCHOOL", "HAIR STUDIO", "BOAT CLUB DUES"),
        ("SCHUHHAUS AM MARKT", "BALLETTSTUNDE", "KINDERGARTEN BEITRAG", "FRISEURIN", "ZOOHANDLUNG"),
        ("CHAUSSURES CENTRE", "COURS PIANO", "CRECHE LES LILAS", "COIFFEUR", "VETERINAIRE CHAT"),
        ("ZAPATERIA", "CLASES GUITARRA", "GUARDERIA", "PELUQUERIA", "CLUB DE TENIS"),
    ),
    cash=("CASH WITHDRAWAL 0417", "BARGELDAUSZAHLUNG AM TOR", "RETRAIT ESPECES GARE", "ATM 88 PIER"),
    things=("PROJECTOR AND SCREEN", "HOBELMASCHINE", "VITRINE REFRIGEREE", "PALLET TRUCK", "TORNO"),
    bare=("not billed yet", "Korrektur Debitoren", "regularisation", "ajuste"),
    accrued=("telephone to come", "Miete Rest", "eau non facturee", "gas pendiente"),
    pay=("wages run", "Gehaltslauf", "paie du mois", "nomina"),
    private="POS",
)  # fmt: skip
