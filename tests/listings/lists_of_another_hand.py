"""Trial balances and lists of open items of a gardener, as again another hand writes them."""

import csv
from collections import Counter, defaultdict
from datetime import date, datetime, time
from pathlib import Path
from typing import NamedTuple

import xlsxwriter

HELD = {
    "0210": ("Vans and mowers", 18_400_00), "0219": ("Accumulated depreciation, vans and mowers", -7_360_00),
    "0700": ("Plants in stock", 2_115_50), "1010": ("Customers", 4_271_25), "1300": ("Bank", 9_034_18),
    "1310": ("Cash in hand", 85_00), "1600": ("Suppliers", -1_918_40), "1770": ("VAT to pay", -1_240_07),
    "1800": ("Hire purchase, van", -6_200_00), "2000": ("Capital of the owner", -10_000_00),
    "2100": ("Drawings of the owner", 14_300_00), "4000": ("Garden work", -48_212_00),
    "4100": ("Plants sold", -7_905_34), "5000": ("Plants and soil bought", 9_480_11),
    "6000": ("Wages", 18_020_00), "6100": ("Diesel", 3_117_77), "6200": ("Yard rent", 3_600_00),
    "6300": ("Insurance", 512_00),
}  # fmt: skip
HELD["4900"] = ("Sundry income", -sum(amount for _, amount in HELD.values()))
BEFORE = {code: round(amount * 0.4) for code, (_, amount) in HELD.items() if code < "3000"}
BEFORE["2000"] -= sum(BEFORE.values())
AT = date(2026, 9, 30)


class Item(NamedTuple):
    """*owed*: in cents, less than nothing for a credit."""

    code: str
    name: str
    paper: str
    day: date
    due: date
    owed: int


CUSTOMERS = (
    Item("C07", "Marlow House", "R-2207", date(2026, 6, 18), date(2026, 7, 18), 812_00),
    Item("C07", "Marlow House", "R-2240", date(2026, 8, 3), date(2026, 9, 2), 1_090_25),
    Item("C12", "Parish of St Wynn", "R-2231", date(2026, 7, 21), date(2026, 8, 20), 640_00),
    Item("C12", "Parish of St Wynn", "G-0031", date(2026, 8, 12), date(2026, 8, 12), -120_00),
    Item("C19", "Teasel & Rook", "R-2266", date(2026, 9, 14), date(2026, 10, 14), 1_849_00),
)
SUPPLIERS = (
    Item("S3", "Bramble Nurseries", "88120", date(2026, 9, 4), date(2026, 10, 4), 1_203_40),
    Item("S3", "Bramble Nurseries", "88241", date(2026, 9, 25), date(2026, 10, 25), 395_00),
    Item("S9", "Loam & Son", "2026-071", date(2026, 8, 30), date(2026, 9, 29), 320_00),
)
OPEN = {"receivables": CUSTOMERS, "payables": SUPPLIERS}


def money(cents: int) -> str:
    return f"{cents / 100:,.2f}"


def komma(cents: int) -> str:
    return money(cents).translate(str.maketrans(".,", ",."))


def espace(cents: int) -> str:
    return money(cents).replace(",", "\u00a0").replace(".", ",")


def split(cents: int, form=money) -> list[str]:
    return [form(cents) if cents > 0 else "", form(-cents) if cents < 0 else ""]


def save(folder: Path, name: str, rows: list, mark: str = ",", encoding: str = "utf-8") -> Path:
    path = folder / name
    with path.open("w", newline="", encoding=encoding) as file:
        csv.writer(file, delimiter=mark).writerows(rows)
    return path


# -- trial balances: each at the 30th of September 2026


def what_was_moved_and_is_by_sides(folder: Path) -> Path:
    rows: list = [["Summen- und Saldenliste", *[""] * 7], ["Gartenbau Alder", *[""] * 7],
                  ["01.01.2026 bis 30.09.2026", *[""] * 7]]  # fmt: skip
    rows.append(["Konto", "Beschriftung", "EB-Wert", "", "Jahresverkehrszahlen", "", "Saldo", ""])
    rows.append(["", "", "Soll", "Haben", "Soll", "Haben", "Soll", "Haben"])
    for code, (name, held) in HELD.items():
        was = BEFORE.get(code, 0)
        rows.append(
            [code, name, *split(was, komma), *split(held - was, komma), *split(held, komma)]
        )
    sums = [sum(max(BEFORE.get(c, 0), 0) for c in HELD), sum(max(-BEFORE.get(c, 0), 0) for c in HELD),
            sum(max(h - BEFORE.get(c, 0), 0) for c, (_, h) in HELD.items()),
            sum(max(BEFORE.get(c, 0) - h, 0) for c, (_, h) in HELD.items()),
            sum(max(h, 0) for _, h in HELD.values()), sum(max(-h, 0) for _, h in HELD.values())]  # fmt: skip
    rows.append(["", "Summe", *map(komma, sums)])
    return save(folder, "susa.csv", rows, ";", "cp1252")


def sums_and_balances_by_sides(folder: Path) -> Path:
    rows: list = [["Balance générale"], ["Arrêtée au 30/09/2026"]]
    rows.append(
        [
            "N° compte",
            "Libellé",
            "Mouvements débit",
            "Mouvements crédit",
            "Solde débiteur",
            "Solde créditeur",
        ]
    )
    for place, (code, (name, held)) in enumerate(HELD.items()):
        more = 1_000_00 * place
        debit, credit = max(held, 0) + more, max(-held, 0) + more
        rows.append([code, name, espace(debit), espace(credit), *split(held, espace)])
    return save(folder, "balance.csv", rows, ";")


def sums_of_groups_above_their_accounts(folder: Path) -> Path:
    path = folder / "balances.xlsx"
    with xlsxwriter.Workbook(path) as book:
        sheet = book.add_worksheet("TB")
        inner = book.add_format({"indent": 1})
        sheet.write(0, 0, "Alder Gardens - trial balance - 30 September 2026")
        sheet.write_row(2, 0, ["Account", "Balance"])
        place = 3
        groups = {
            "0": "Assets that last",
            "1": "Current",
            "2": "Owner",
            "4": "Income",
            "5": "Costs",
            "6": "Costs",
        }
        by_group = defaultdict(list)
        for code, (name, held) in HELD.items():
            by_group[groups[code[0]]].append((code, name, held))
        for group, rows in by_group.items():
            sheet.write(place, 0, group)
            sheet.write_number(place, 1, sum(row[2] for row in rows) / 100)
            for below, (code, name, held) in enumerate(rows, place + 1):
                sheet.write(below, 0, f"{code} {name}", inner)
                sheet.write_number(below, 1, held / 100)
            place += len(rows) + 1
    return path


def two_days_and_their_change(folder: Path) -> Path:
    rows: list = [["Trial balance, comparative"]]
    rows.append(["Code", "Name", "30 Sep 2026", "31 Dec 2025", "Change", "%"])
    for code, (name, held) in HELD.items():
        was = BEFORE.get(code, 0)
        percent = f"{(held - was) / was * 100:.1f}%" if was else "n/a"
        rows.append([code, name, money(held), money(was), money(held - was), percent])
    return save(folder, "comparative.csv", rows)


def printed_on_two_pages(folder: Path) -> Path:
    form = "{:<6}{:<44}{:>14}{:>14}"
    head = [
        "ALDER GARDENS",
        "TRIAL BALANCE AT 30/09/26".rjust(60),
        "",
        form.format("NOM", "ACCOUNT", "DEBIT", "CREDIT"),
        "-" * 78,
    ]
    lines, sums = [*head], [0, 0]
    for place, (code, (name, held)) in enumerate(HELD.items()):
        if place == 10:
            lines += [form.format("", "Carried forward", *map(money, sums)), "\f" + head[0], *head[1:],
                      form.format("", "Brought forward", *map(money, sums))]  # fmt: skip
        lines.append(form.format(code, name, *split(held)))
        sums[held < 0] += abs(held)
    lines += ["-" * 78, form.format("", "TOTAL", *map(money, sums))]
    path = folder / "tb.prn"
    path.write_text("\r\n".join(lines), "cp1252")
    return path


def marks_at_the_sums(folder: Path) -> Path:
    rows: list = [["A/c", "Description", "Balance at 30/09/2026"]]
    rows += [
        [code, name, f"{money(abs(held))}{'Cr' if held < 0 else ''}"]
        for code, (name, held) in HELD.items()
    ]
    return save(folder, "nominal balances.csv", rows)


def customers_as_accounts_of_their_own(folder: Path) -> Path:
    rows: list = [["Sald per 30.09.2026"], ["Rekening", "Omschrijving", "Debet", "Credit"]]
    for code, (name, held) in HELD.items():
        if code == "1010":
            by_name: Counter[tuple[str, str]] = Counter()
            for item in CUSTOMERS:
                by_name[item.code, item.name] += item.owed
            rows += [[f"101{c[1:]}0", n, *split(v, komma)] for (c, n), v in by_name.items()]
            continue
        rows.append([code, name, *split(held, komma)])
    return save(folder, "saldi.csv", rows, ";")


def names_and_two_columns_alone(folder: Path) -> Path:
    rows: list = [["As of September 30, 2026", "", ""], ["", "Debit", "Credit"]]
    rows += [[f"{code} · {name}", *split(held)] for code, (name, held) in HELD.items()]
    total = money(sum(held for _, held in HELD.values() if held > 0))
    return save(folder, "Trial Balance.csv", [*rows, ["TOTAL", total, total]])


BALANCES = (
    what_was_moved_and_is_by_sides,
    sums_and_balances_by_sides,
    sums_of_groups_above_their_accounts,
    two_days_and_their_change,
    printed_on_two_pages,
    marks_at_the_sums,
    customers_as_accounts_of_their_own,
    names_and_two_columns_alone,
)


# -- what is open at that day


def offene_posten(folder: Path) -> Path:
    rows: list = [["Offene Posten Debitoren"], ["Stichtag: 30.09.2026"]]
    rows.append(["Konto", "Name", "Belegnr.", "Belegdatum", "Fälligkeit", "Soll", "Haben", "Saldo"])
    for code in dict.fromkeys(item.code for item in CUSTOMERS):
        held = 0
        for item in (item for item in CUSTOMERS if item.code == code):
            held += item.owed
            rows.append([item.code, item.name, item.paper, f"{item.day:%d.%m.%Y}", f"{item.due:%d.%m.%Y}",
                         *split(item.owed, komma), komma(held)])  # fmt: skip
        rows.append(["", f"Summe {code}", "", "", "", "", "", komma(held)])
    return save(folder, "op debitoren.csv", rows, ";", "cp1252")


def balance_agee(folder: Path) -> Path:
    rows: list = [["Balance âgée clients au 30/09/2026"]]
    rows.append(["Client", "Total dû", "Non échu", "1-30 jours", "31-60 jours", "+ 60 jours"])
    for name in dict.fromkeys(item.name for item in CUSTOMERS):
        ages = [0, 0, 0, 0]
        for item in (item for item in CUSTOMERS if item.name == name):
            late = (AT - item.due).days
            ages[0 if late <= 0 else 1 if late <= 30 else 2 if late <= 60 else 3] += item.owed
        rows.append([name, espace(sum(ages)), *map(espace, ages)])
    return save(folder, "balance agee.csv", rows, ";")


def openstaande_posten(folder: Path) -> Path:
    heads = [
        "Relatie",
        "Naam",
        "Factuurnr",
        "Factuurdatum",
        "Vervaldatum",
        "Factuurbedrag",
        "Betaald",
        "Openstaand",
    ]
    rows = [[i.code, i.name, i.paper, f"{i.day:%d-%m-%Y}", f"{i.due:%d-%m-%Y}", komma(i.owed + 50_00), komma(50_00),
             komma(i.owed)] for i in SUPPLIERS]  # fmt: skip
    return save(folder, "openstaande posten crediteuren per 30-09-2026.csv", [heads, *rows], ";")


def payables_in_a_workbook(folder: Path) -> Path:
    path = folder / "A-P ageing detail.xlsx"
    with xlsxwriter.Workbook(path) as book:
        sheet = book.add_worksheet("A-P Ageing Detail")
        day = book.add_format({"num_format": "dd/mm/yyyy"})
        sheet.merge_range(0, 0, 0, 6, "Alder Gardens")
        sheet.merge_range(1, 0, 1, 6, "A/P Ageing Detail")
        sheet.merge_range(2, 0, 2, 6, "As of September 30, 2026")
        sheet.write_row(
            4,
            0,
            ["Date", "Transaction type", "Num", "Vendor", "Due date", "Past due", "Open balance"],
        )
        place = 5
        for title, late in (("Current", False), ("1 - 30 days past due", True)):
            sheet.write(place, 0, title)
            rows = [item for item in SUPPLIERS if (item.due < AT) == late]
            for below, item in enumerate(rows, place + 1):
                sheet.write_datetime(below, 0, datetime.combine(item.day, time()), day)
                sheet.write_row(below, 1, ["Bill", item.paper, item.name])
                sheet.write_datetime(below, 4, datetime.combine(item.due, time()), day)
                sheet.write_number(below, 5, (AT - item.due).days)
                sheet.write_number(below, 6, item.owed / 100)
            place += len(rows) + 1
            sheet.write(place, 0, f"Total for {title}")
            sheet.write_number(place, 6, sum(item.owed for item in rows) / 100)
            place += 1
    return path


def both_kinds_in_one(folder: Path) -> Path:
    heads = ["Ledger", "Account", "Name", "Doc", "Date", "Due", "Outstanding"]
    rows = [[ledger, i.code, i.name, i.paper, f"{i.day}", f"{i.due}", money(i.owed if ledger == "SL" else -i.owed)]
            for ledger, items in (("SL", CUSTOMERS), ("PL", SUPPLIERS)) for i in items]  # fmt: skip
    return save(folder, "unpaid at 2026-09-30.csv", [heads, *rows])


def facturas_pendientes(folder: Path) -> Path:
    rows: list = [["Facturas pendientes de cobro"], ["Fecha: 30/09/2026"]]
    rows.append(["Cliente", "Nº factura", "Fecha", "Vencimiento", "Importe pendiente", "Días"])
    rows += [[i.name, i.paper, f"{i.day:%d/%m/%Y}", f"{i.due:%d/%m/%Y}", komma(i.owed), (AT - i.due).days]
             for i in CUSTOMERS]  # fmt: skip
    rows.append(["Total pendiente", "", "", "", komma(sum(i.owed for i in CUSTOMERS)), ""])
    return save(folder, "pendientes.csv", rows, ";")


def a_block_for_each_supplier(folder: Path) -> Path:
    rows: list = [["Creditors: outstanding transactions to 30/09/2026"], []]
    for code in dict.fromkeys(item.code for item in SUPPLIERS):
        items = [item for item in SUPPLIERS if item.code == code]
        rows += [
            [f"{code}: {items[0].name}"],
            ["No", "Date", "Ref", "Amount", "O/S", "Debit", "Credit"],
        ]
        rows += [[n, f"{i.day:%d/%m/%y}", i.paper, money(i.owed), money(i.owed), "", money(i.owed)]
                 for n, i in enumerate(items, 1)]  # fmt: skip
        rows += [["", "", "Total", "", money(sum(i.owed for i in items)), "", ""], []]
    return save(folder, "creditors.csv", rows)


def as_somebody_types_it(folder: Path) -> Path:
    path = folder / "who owes us.xlsx"
    with xlsxwriter.Workbook(path) as book:
        sheet = book.add_worksheet()
        sheet.write(0, 0, "Unpaid invoices end of September 2026")
        sheet.write_row(1, 0, ["invoice", "customer", "sent", "still to pay", "remark"])
        for place, item in enumerate(CUSTOMERS, 2):
            sheet.write_row(place, 0, [item.paper, item.name, f"{item.day:%d/%m/%Y}", item.owed / 100,
                                       "reminded" if item.due < date(2026, 8, 1) else ""])  # fmt: skip
        sheet.write(place + 2, 2, "sum")
        sheet.write_formula(place + 2, 3, "=SUM(D3:D7)", value=sum(i.owed for i in CUSTOMERS) / 100)
    return path


LISTS = (
    (offene_posten, "receivables"),
    (balance_agee, "receivables"),
    (openstaande_posten, "payables"),
    (payables_in_a_workbook, "payables"),
    (both_kinds_in_one, "both"),
    (facturas_pendientes, "receivables"),
    (a_block_for_each_supplier, "payables"),
    (as_somebody_types_it, "receivables"),
)
