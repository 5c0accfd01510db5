"""Two clients who come as files of their bookkeepers: a bindery's ledger by account in a workbook, with
its open items; a coffee roaster's journal in German, with semicolons, customers as accounts of their own.
"""

import csv
from collections import defaultdict
from collections.abc import Callable, Iterator
from datetime import date, timedelta
from pathlib import Path
from random import Random
from typing import NamedTuple

import xlsxwriter

from corkpost.core.kinds import Entity

FIRST = date(2026, 1, 1)
LAST = date(2026, 10, 31)
NEXT = date(2026, 11, 15)
"""To which day what they send next goes."""


class Slip(NamedTuple):
    """One line as a bookkeeper keys it. *amount*: cents, debit positive."""

    day: date
    number: int
    reference: str
    text: str
    account: str
    party: str
    amount: int


class Shop(NamedTuple):
    """What a small business does. Accounts by what they are for; *names*: of all of them; *sells*: party
    and usual net sum; *buys*: party, account, usual net sum, text; *each_month*: text, account, net sum."""

    tax: int
    names: dict[str, str]
    accounts: dict[str, str]
    opening: dict[str, int]
    sells: tuple[tuple[str, int, str], ...]
    buys: tuple[tuple[str, str, int, str], ...]
    each_month: tuple[tuple[str, str, int], ...]
    number: str


BINDERY = Shop(
    20,
    {
        "0300": "Presses and tools", "1100": "Trade debtors", "1200": "Bank account",
        "2100": "Trade creditors", "2200": "Sales tax", "3000": "Share capital",
        "3200": "Retained earnings", "4000": "Binding and repair",
        "5000": "Board, cloth and leather", "6000": "Wages", "6100": "Rent", "6200": "Electricity",
        "6300": "Insurance", "6400": "Carriage", "6500": "Bank charges", "6900": "Sundry",
    },
    {"debtors": "1100", "bank": "1200", "creditors": "2100", "tax": "2200", "sales": "4000", "odd": "6900",
     "charges": "6500"},
    {"0300": 1_860_000, "1200": 941_250, "3000": -100_000, "3200": -2_701_250},
    (("Quillmoor Library", 272_000, "rebinding"), ("St Anselm School", 148_500, "atlases, spines"),
     ("Harrow & Pike Solicitors", 118_200, "deed boxes"), ("Marsh Lane Press", 331_000, "case binding"),
     ("Old Tide Books", 96_400, "repairs")),
    (("Fulmar Board Mills", "5000", 118_400, "greyboard"), ("Cobb Leather", "5000", 86_300, "calf skins"),
     ("Wend Carriers", "6400", 14_250, "parcels")),
    (("wages", "6000", 312_000), ("rent, Tanner's Yard", "6100", 98_000), ("electricity", "6200", 16_400),
     ("insurance", "6300", 9_850)),
    "TB-{:04d}",
)  # fmt: skip
ROASTER = Shop(
    7,
    {
        "0200": "Röstmaschine und Einrichtung", "1000": "Girokonto", "1100": "Forderungen", "2000":
        "Verbindlichkeiten", "2300": "Umsatzsteuer", "3000": "Eigenkapital", "3100": "Privatentnahmen",
        "4000": "Umsatzerlöse Kaffee", "5000": "Wareneinkauf Rohkaffee", "6000": "Löhne und Gehälter",
        "6100": "Miete", "6200": "Strom und Gas", "6300": "Versicherungen", "6400": "Verpackung",
        "6500": "Nebenkosten des Geldverkehrs", "6900": "Sonstige Aufwendungen",
    },
    {"debtors": "1100", "bank": "1000", "creditors": "2000", "tax": "2300", "sales": "4000", "odd": "6900",
     "charges": "6500", "owner": "3100"},
    {"0200": 3_240_000, "1000": 612_480, "3000": -3_852_480},
    (("Café Lerchenfeld", 262_000, "Espresso, Filter"), ("Bäckerei Mooser", 171_700, "Hausmischung"),
     ("Hotel Zur Fähre", 298_300, "Frühstückskaffee"), ("Kantine Werk Nord", 224_500, "Filterkaffee"),
     ("Feinkost Adler", 138_900, "Sortenreine")),
    (("Speicher & Söhne", "5000", 214_000, "Rohkaffee Sack"), ("Tütenwerk Halm", "6400", 31_200, "Beutel"),
     ("Gaswerk Unterau", "6200", 38_600, "Gas")),
    (("Löhne", "6000", 224_000), ("Miete Halle 4", "6100", 115_000), ("Versicherung", "6300", 12_400),
     ("Privatentnahme", "3100", 150_000)),
    "RE-{:04d}",
)  # fmt: skip


def slips_of(shop: Shop, seed: int, last: date) -> list[Slip]:
    """The year until *last*, as its bookkeeper keyed it: one bill twice, one purchase of the owner's."""
    dice, found = Random(seed), list[Slip]()
    number = invoice = 0
    waiting: list[tuple[date, str, str, int, bool]] = []

    def entry(day: date, reference: str, text: str, *lines: tuple[str, str, int]) -> None:
        nonlocal number
        number += 1
        found.extend(
            Slip(day, number, reference, text, account, party, amount)
            for account, party, amount in lines
            if amount
        )

    accounts = shop.accounts
    for month in range(1, 13):
        start = date(2026, month, 1)
        for party, usual, what in shop.sells:
            if dice.random() < 0.75:
                invoice += 1
                day = start + timedelta(days=dice.randrange(1, 26))
                net = 10 * round(usual * dice.uniform(0.6, 1.4) / 10)
                tax = net * shop.tax // 100
                reference = shop.number.format(invoice)
                entry(day, reference, what, (accounts["debtors"], party, net + tax),
                      (accounts["sales"], "", -net), (accounts["tax"], "", -tax))  # fmt: skip
                waiting.append(
                    (
                        day + timedelta(days=dice.randrange(12, 48)),
                        party,
                        reference,
                        net + tax,
                        True,
                    )
                )
        for party, account, usual, what in shop.buys:
            day = start + timedelta(days=dice.randrange(0, 27))
            net = 10 * round(usual * dice.uniform(0.7, 1.3) / 10)
            tax = net * shop.tax // 100
            reference = f"{party[:2].upper()}{dice.randrange(1000, 9999)}"
            for _ in range(2 if (month, party) == (6, shop.buys[0][0]) else 1):
                entry(day, reference, what, (account, "", net), (accounts["tax"], "", tax),
                      (accounts["creditors"], party, -net - tax))  # fmt: skip
            waiting.append(
                (day + timedelta(days=dice.randrange(20, 34)), party, reference, net + tax, False)
            )
        for text, account, net in shop.each_month:
            day = start + timedelta(days=27 if account == "6000" else 2)
            entry(day, "", text, (account, "", net), (accounts["bank"], "", -net))
        entry(
            start + timedelta(days=26),
            "",
            "fees",
            (accounts["charges"], "", 1_890),
            (accounts["bank"], "", -1_890),
        )
    entry(
        date(2026, 8, 14),
        "",
        "Toy shop, birthday",
        (accounts["odd"], "", 8_640),
        (accounts["bank"], "", -8_640),
    )
    for day, party, reference, gross, owed in waiting:
        side = accounts["debtors" if owed else "creditors"]
        signed = gross if owed else -gross
        entry(
            day, "", f"{party} {reference}", (accounts["bank"], "", signed), (side, party, -signed)
        )
    return sorted((row for row in found if row.day <= last), key=lambda row: (row.day, row.number))


def write_bindery(to: Path, last: date = LAST) -> tuple[Path, ...]:
    """The ledger by account as a workbook, and what customers owe as CSV."""
    to.mkdir(parents=True, exist_ok=True)
    rows = slips_of(BINDERY, 4, last)
    blocks: dict[str, list[Slip]] = defaultdict(list)
    for row in rows:
        blocks[row.account].append(row)
    ledger = to / f"Teal Bindery ledger to {last:%Y-%m}.xlsx"
    with xlsxwriter.Workbook(str(ledger)) as book:
        sheet, line = book.add_worksheet("Ledger"), 4
        look = book.add_format({"num_format": "dd/mm/yyyy"})
        for place, text in enumerate(
            ("Teal Bindery Ltd", "General ledger", f"1 January to {last:%d/%m/%Y}")
        ):
            sheet.write(place, 0, text)
        sheet.write_row(
            3,
            0,
            ("Date", "Entry", "Ref", "Customer/supplier", "Details", "Debit", "Credit", "Balance"),
        )
        for account, name in BINDERY.names.items():
            held = BINDERY.opening.get(account, 0)
            sheet.write(line, 0, f"Account: {account} {name}")
            sheet.write(line + 1, 4, "Balance brought forward")
            sheet.write(line + 1, 7, held / 100)
            line += 2
            for row in blocks[account]:
                held += row.amount
                sheet.write_datetime(line, 0, row.day, look)
                sheet.write_row(line, 1, (row.number, row.reference, row.party, row.text))
                sheet.write(line, 5 if row.amount > 0 else 6, abs(row.amount) / 100)
                sheet.write(line, 7, held / 100)
                line += 1
            line += 1
    return ledger, _open_items(to, rows, last)


def _open_items(to: Path, rows: list[Slip], last: date) -> Path:
    """What customers owe at the end, by invoice."""
    left: dict[tuple[str, str], tuple[date, int]] = {}
    for row in rows:
        if row.account == BINDERY.accounts["debtors"]:
            reference = row.reference or row.text.rpartition(" ")[2]
            day, amount = left.get((row.party, reference), (row.day, 0))
            left[row.party, reference] = (day, amount + row.amount)
    file = to / f"Teal Bindery debtors at {last:%Y-%m}.csv"
    with file.open("w", encoding="utf-8", newline="") as out:
        table = csv.writer(out)
        table.writerow((f"Debtors, open items as at {last:%d/%m/%Y}",))
        table.writerow(("Customer", "Invoice no", "Invoice date", "Outstanding"))
        for (party, reference), (day, amount) in sorted(left.items()):
            if amount:
                table.writerow((party, reference, f"{day:%d/%m/%Y}", f"{amount / 100:.2f}"))
        total = sum(amount for _, amount in left.values())
        table.writerow(("Total", "", "", f"{total / 100:.2f}"))
    return file


def write_roaster(to: Path, last: date = LAST) -> tuple[Path, ...]:
    """The journal as CSV, with the separators and signs of its country."""
    to.mkdir(parents=True, exist_ok=True)
    rows = slips_of(ROASTER, 7, last)
    people = {name: str(10_000 + n) for n, (name, _, _) in enumerate(ROASTER.sells)}
    people |= {name: str(70_000 + n) for n, (name, _, _, _) in enumerate(ROASTER.buys)}
    file = to / f"Roesterei Brandt Journal bis {last:%Y-%m}.csv"
    with file.open("w", encoding="cp1252", newline="") as out:
        table = csv.writer(out, delimiter=";")
        table.writerow(("Rösterei Brandt",))
        table.writerow((f"Buchungsjournal 01.01.2026 bis {last:%d.%m.%Y}",))
        table.writerow(())
        table.writerow(("Buchungsdatum", "Buchungsnr", "Belegfeld 1", "Konto", "Kontobezeichnung",
                        "Buchungstext", "Soll", "Haben"))  # fmt: skip
        for account, amount in ROASTER.opening.items():
            table.writerow(
                (
                    "01.01.2026",
                    "0",
                    "",
                    account,
                    ROASTER.names[account],
                    "Saldovortrag",
                    *_sides(amount),
                )
            )
        for row in rows:
            account = people.get(row.party, row.account)
            name = row.party or ROASTER.names[row.account]
            table.writerow((f"{row.day:%d.%m.%Y}", row.number, row.reference, account, name, row.text,
                            *_sides(row.amount)))  # fmt: skip
    return (file,)


def _sides(amount: int) -> Iterator[str]:
    figure = f"{abs(amount) // 100:,}".replace(",", ".") + f",{abs(amount) % 100:02d}"
    yield figure if amount > 0 else ""
    yield "" if amount > 0 else figure


class Arrival(NamedTuple):
    name: str
    entity: Entity
    write: Callable[[Path, date], tuple[Path, ...]]


ARRIVALS = {
    "TEAL": Arrival("Teal Bindery Ltd", Entity.COMPANY, write_bindery),
    "ROST": Arrival("Rösterei Brandt", Entity.SOLE_TRADER, write_roaster),
}
