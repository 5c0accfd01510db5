"""A café's books as a further hand writes them: another business, another chart, and layouts that share
nothing with those before."""

import csv
import random
import zipfile
from collections import Counter, defaultdict
from datetime import date, timedelta
from html import escape
from pathlib import Path
from typing import NamedTuple

import xlsxwriter

NAMES = {
    "10100": "Till float", "10200": "Current account", "10900": "Card takings in transit",
    "14000": "Stock of goods", "15000": "Coffee machine and fittings",
    "15010": "Depreciation of machine and fittings", "20000": "Trade creditors",
    "22000": "VAT", "23000": "Wages to pay", "23100": "Payroll taxes to pay", "25000": "Bank loan",
    "30000": "Share capital", "31000": "Retained earnings", "40000": "Food and drink sold",
    "40100": "Room hire", "50000": "Coffee, tea and milk bought", "50100": "Bakery goods bought",
    "60000": "Wages and salaries", "60100": "Employer's social security", "61000": "Rent",
    "61100": "Electricity", "62000": "Card charges", "63000": "Repairs", "64000": "Depreciation",
    "65000": "Loan interest",
}  # fmt: skip
SUPPLIERS = {"S014": "Almond Roastery", "S021": "Ferry Lane Bakers", "S030": "Northway Energy",
             "S044": "Tamsin Cole, joiner"}  # fmt: skip


class Entry(NamedTuple):
    """*lines*: account, amount in cents (debit positive), supplier's code or none."""

    number: int
    day: date
    journal: str
    document: str
    text: str
    lines: tuple[tuple[str, int, str], ...]


def entries() -> list[Entry]:
    """The year to 31 March 2026."""
    chance, found = random.Random(41), list[Entry]()

    def add(day: date, journal: str, document: str, text: str, *lines: tuple):
        full = tuple((*line, "")[:3] for line in lines)
        assert sum(line[1] for line in full) == 0, full
        found.append(Entry(0, day, journal, document, text, full))

    add(
        date(2025, 4, 1), "GEN", "OB", "Brought forward",
        ("10100", 200_00), ("10200", 8_412_37), ("14000", 1_150_00), ("15000", 24_000_00),
        ("15010", -9_600_00), ("20000", -1_230_00, "S014"), ("25000", -12_000_00),
        ("30000", -1_000_00), ("31000", -9_932_37),
    )  # fmt: skip
    document = 300
    for month in range(12):
        year, number = 2025 + (month + 3) // 12, (month + 3) % 12 + 1
        for week in (6, 13, 20, 27):
            day = date(year, number, week)
            sold = chance.randrange(1_600_00, 2_500_00)
            tax = round(sold * 9 / 109)
            cash = round(sold * 0.2)
            add(day, "TILL", f"Z{day:%m%d}", f"Takings of the week to {day.day}",
                ("10100", cash), ("10900", sold - cash), ("40000", -(sold - tax)), ("22000", -tax))  # fmt: skip
            fee = round((sold - cash) * 0.015)
            add(day + timedelta(2), "BANK", "", "Card settlement",
                ("10200", sold - cash - fee), ("62000", fee), ("10900", -(sold - cash)))  # fmt: skip
            add(day + timedelta(2), "BANK", "", "Cash paid in", ("10200", cash), ("10100", -cash))
        for code, account, low, high, rate in (
            ("S014", "50000", 900_00, 1_500_00, 23), ("S021", "50100", 500_00, 900_00, 9),
            ("S030", "61100", 180_00, 420_00, 23),
        ):  # fmt: skip
            document += 1
            net = chance.randrange(low, high)
            tax = round(net * rate / 100)
            day = date(year, number, chance.randrange(2, 15))
            add(day, "PUR", f"B{document}", f"{SUPPLIERS[code]} bill",
                (account, net), ("22000", tax), ("20000", -net - tax, code))  # fmt: skip
            add(date(year, number, 26), "BANK", f"B{document}", f"Paid {SUPPLIERS[code]}",
                ("20000", net + tax, code), ("10200", -net - tax))  # fmt: skip
        if number in (6, 11):
            document += 1
            add(date(year, number, 9), "PUR", f"B{document}", "Counter mended",
                ("63000", 340_00), ("20000", -340_00, "S044"))  # fmt: skip
        add(date(year, number, 28), "PAY", f"W{number:02d}", "Wages of the month",
            ("60000", 2_400_00), ("60100", 264_00), ("23000", -1_980_00), ("23100", -684_00))  # fmt: skip
        add(
            date(year, number, 28),
            "BANK",
            "",
            "Net wages",
            ("23000", 1_980_00),
            ("10200", -1_980_00),
        )
        add(
            date(year, number, 15),
            "BANK",
            "",
            "Payroll taxes",
            ("23100", 684_00),
            ("10200", -684_00),
        )
        add(
            date(year, number, 1),
            "BANK",
            "",
            "Rent of the café",
            ("61000", 950_00),
            ("10200", -950_00),
        )
        add(date(year, number, 5), "BANK", "", "Loan instalment",
            ("25000", 200_00), ("65000", 50_00), ("10200", -250_00))  # fmt: skip
        add(date(year, number, 28), "GEN", f"D{number:02d}", "Depreciation of the month",
            ("64000", 200_00), ("15010", -200_00))  # fmt: skip
    found.sort(key=lambda entry: entry.day)
    return [entry._replace(number=7000 + place) for place, entry in enumerate(found)]


ENTRIES = entries()
ROWS = [(entry, code, moved, who) for entry in ENTRIES for code, moved, who in entry.lines]
HELD = Counter[str]()
for row in ROWS:
    HELD[row[1]] += row[2]
OPENED = {line[0]: line[1] for line in ENTRIES[0].lines}
COUNT, BEGINS = len(ENTRIES), date(2025, 4, 1)


def money(cents: int) -> str:
    return f"{cents / 100:,.2f}"


def plain(cents: int) -> str:
    return f"{cents / 100:.2f}"


def dr_cr(cents: int, form=plain) -> list[str]:
    return [form(cents), ""] if cents >= 0 else ["", form(-cents)]


def of(account: str, since: date = date(2025, 4, 1)) -> list[tuple[Entry, int, str]]:
    return [(e, a, who) for e, code, a, who in ROWS if code == account and e.day >= since]


def save(
    folder: Path, name: str, rows: list, separator: str = ",", encoding: str = "utf-8"
) -> Path:
    path = folder / name
    with path.open("w", newline="", encoding=encoding) as file:
        csv.writer(file, delimiter=separator).writerows(rows)
    return path


def newest_first(folder: Path) -> Path:
    """Balances run from the foot of the page upwards."""
    rows: list = [["Café Ltd"], ["Account transactions"], ["1 April 2025 to 31 March 2026"], []]
    for code, name in NAMES.items():
        rows.append([f"{name} ({code})"])
        rows.append(
            ["Date", "Source", "Description", "Reference", "Debit", "Credit", "Running balance"]
        )
        held, block = 0, []
        for entry, amount, _ in of(code):
            held += amount
            block.append([f"{entry.day:%d %b %Y}", entry.journal, entry.text, entry.document,
                          *dr_cr(amount, money), money(held)])  # fmt: skip
        rows += [*block[::-1], [f"Total {name}", "", "", "", "", "", money(held)], []]
    return save(folder, "transactions.csv", rows)


def day_month_and_year_apart(folder: Path) -> Path:
    heads = [
        "Year",
        "Month",
        "Day",
        "Journal",
        "Voucher",
        "Account no",
        "Account",
        "Text",
        "Amount",
    ]
    rows = [[e.day.year, e.day.month, e.day.day, e.journal, e.number, code, NAMES[code], e.text, plain(a)]
            for e, code, a, _ in ROWS]  # fmt: skip
    return save(folder, "vouchers.csv", [heads, *rows], ";")


def a_page_saved_as_a_workbook(folder: Path) -> Path:
    """An HTML table whose name says .xls, as many programs export."""
    heads = [
        "Date",
        "Journal",
        "Doc",
        "Account",
        "Account name",
        "Supplier",
        "Text",
        "Debit",
        "Credit",
    ]
    cells = [[f"{e.day:%d/%m/%Y}", e.journal, e.number, code, NAMES[code], SUPPLIERS.get(who, ""), e.text,
              *dr_cr(a, money)] for e, code, a, who in ROWS]  # fmt: skip
    body = "\n".join(
        "<tr>" + "".join(f"<td>{escape(str(cell)) or '&nbsp;'}</td>" for cell in row) + "</tr>"
        for row in cells
    )
    head = "<tr>" + "".join(f"<th>{cell}</th>" for cell in heads) + "</tr>"
    path = folder / "ledger.xls"
    path.write_text(
        "<html><head><meta charset='utf-8'><style>td{mso-number-format:'\\@'}</style></head><body>"
        f"<h2>Café Ltd</h2><table border=1>{head}{body}</table></body></html>",
        "utf-8",
    )
    return path


def a_workbook_written_as_text(folder: Path) -> Path:
    """The spreadsheet form of 2003 that is one XML document."""
    heads = ["Date", "Entry", "Account", "Account name", "Text", "Debit", "Credit"]

    def cell(value: object) -> str:
        kind = "Number" if isinstance(value, float) else "String"
        return (
            f'<Cell><Data ss:Type="{kind}">{escape(str(value))}</Data></Cell>'
            if value != ""
            else "<Cell/>"
        )

    rows = [heads] + [
        [f"{e.day:%d/%m/%Y}", str(e.number), code, NAMES[code], e.text,
         a / 100 if a > 0 else "", -a / 100 if a < 0 else ""]
        for e, code, a, _ in ROWS
    ]  # fmt: skip
    body = "\n".join("<Row>" + "".join(map(cell, row)) + "</Row>" for row in rows)
    path = folder / "ledger.xls"
    path.write_text(
        '<?xml version="1.0"?>\n<?mso-application progid="Excel.Sheet"?>\n'
        '<Workbook xmlns="urn:schemas-microsoft-com:office:spreadsheet" '
        'xmlns:ss="urn:schemas-microsoft-com:office:spreadsheet">'
        f'<Worksheet ss:Name="Ledger"><Table>{body}</Table></Worksheet></Workbook>',
        "utf-8",
    )
    return path


def lists_in_a_zip(folder: Path) -> Path:
    """The ledger and the trial balance, sent as one file."""
    path = folder / "books.zip"
    with zipfile.ZipFile(path, "w") as archive:
        archive.write(foreign_and_own_amounts(folder), "ledger/ledger.csv")
        heads = ["Account", "Name", "Debit", "Credit"]
        rows = [[code, NAMES[code], *dr_cr(HELD[code])] for code in NAMES]
        archive.write(
            save(folder, "tb.csv", [["Trial balance at 31/03/2026"], heads, *rows]), "tb.csv"
        )
    return path


def foreign_and_own_amounts(folder: Path) -> Path:
    heads = ["Posting date", "Entry", "Account", "Name", "Cost centre", "Tax code", "Text", "Currency",
             "Amount in currency", "Rate", "Debit (EUR)", "Credit (EUR)"]  # fmt: skip
    rows = []
    for e, code, a, who in ROWS:
        rate = 1.1 if who == "S014" else 1.0
        own = "USD" if who == "S014" else "EUR"
        rows.append([f"{e.day}", e.number, code, NAMES[code], "SHOP" if code > "4" else "",
                     "V9" if code == "40000" else "", e.text, own, plain(round(a * rate)), rate,
                     *dr_cr(a)])  # fmt: skip
    return save(folder, "ledger.csv", [heads, *rows])


def credit_notes_as_negative_debits(folder: Path) -> Path:
    """What goes back stands in the same column with a minus; months are summed within each account."""
    rows: list = [["Café Ltd", "", "", "", ""], ["General ledger", "", "", "", ""]]
    rows.append(["Date", "Document", "Narrative", "Debits", "Credits"])
    turned = {"20000", "22000", "10900"}
    for code, name in NAMES.items():
        rows.append([code, name, "", "", ""])
        by_month = defaultdict(list)
        for entry, amount, _ in of(code):
            by_month[f"{entry.day:%B %Y}"].append((entry, amount))
        for month, moved in by_month.items():
            sums = Counter[bool]()
            for entry, amount in moved:
                negative = code in turned and amount > 0
                shown = ["", plain(-amount)] if negative else dr_cr(amount)
                is_credit = negative or amount < 0
                sums[is_credit] += -amount if is_credit else amount
                rows.append(
                    [f"{entry.day:%d-%m-%Y}", entry.document or entry.number, entry.text, *shown]
                )
            rows.append(["", "", f"Total {month}", plain(sums[False]), plain(sums[True])])
        both = [plain(sum(v for e, v, _ in of(code) if not (code in turned and v > 0) and v > 0)),
                plain(sum(-v for e, v, _ in of(code) if (code in turned and v > 0) or v < 0))]  # fmt: skip
        rows.append(["", "", f"Total {code}", *both])
    return save(folder, "ledger.csv", rows)


def text_that_goes_on_below(folder: Path) -> Path:
    """Printed from a terminal: the text is cut and goes on in the next row, account in the line above."""
    rows: list = []
    for code, name in NAMES.items():
        rows.append(["Account", f"{code}  {name}", "", "", "", ""])
        rows.append(["Date", "No.", "Text", "Debit", "Credit", "Balance"])
        held = 0
        for entry, amount, _ in of(code):
            held += amount
            rows.append([f"{entry.day:%d.%m.%y}", entry.number, entry.text[:16], *dr_cr(amount, money),
                         money(abs(held)) + (" DR" if held >= 0 else " CR")])  # fmt: skip
            if entry.text[16:]:
                rows.append(["", "", entry.text[16:], "", "", ""])
        rows.append([])
    rows.append(["End of report", "", "", "", "", ""])
    return save(folder, "print.csv", rows, "\t")


def merged_account_in_a_workbook(folder: Path) -> Path:
    """The account stands in a merged cell beside its rows; openings have no day; voids are zero."""
    path = folder / "ledger.xlsx"
    with xlsxwriter.Workbook(path) as book:
        day = book.add_format({"num_format": "d mmm yyyy"})
        sheet = book.add_worksheet("GL detail")
        sheet.merge_range(0, 0, 0, 6, "Café Ltd: general ledger detail, April 2025 to March 2026")
        sheet.write_row(2, 0, ["Account", "Date", "Type", "Number", "Memo", "Debit", "Credit"])
        place = 3
        for code, name in NAMES.items():
            begun = place
            opening = OPENED.get(code, 0)
            if opening:
                sheet.write(place, 4, "Opening balance")
                sheet.write_number(place, 5 if opening > 0 else 6, abs(opening) / 100)
                place += 1
            for entry, amount, _ in of(code):
                if entry is ENTRIES[0]:
                    continue
                sheet.write_datetime(place, 1, entry.day, day)
                sheet.write_row(place, 2, [entry.journal, entry.number, entry.text])
                sheet.write_number(place, 5 if amount > 0 else 6, abs(amount) / 100)
                place += 1
            if code == "63000":
                sheet.write_datetime(place, 1, date(2025, 8, 1), day)
                sheet.write_row(place, 2, ["GEN", 9999, "VOID"])
                sheet.write_number(place, 5, 0)
                place += 1
            if place - begun > 1:
                sheet.merge_range(begun, 0, place - 1, 0, f"{code} · {name}")
            else:
                sheet.write(begun, 0, f"{code} · {name}")
                place = max(place, begun + 1)
    return path


def both_sides_and_their_difference(folder: Path) -> Path:
    """Debit and credit are both filled, with a nought, and a third column nets them; a line number each."""
    heads = [
        "#",
        "Jnl",
        "Jnl no",
        "Jnl date",
        "GL code",
        "GL description",
        "Narration",
        "DR",
        "CR",
        "Net",
    ]
    rows = [[place, e.journal, e.number, f"{e.day:%m/%d/%Y}", code, NAMES[code], e.text,
             plain(max(a, 0)), plain(max(-a, 0)), plain(a)]
            for place, (e, code, a, _) in enumerate(ROWS, 1)]  # fmt: skip
    foot = ["", "", "", "", "", "", "", plain(sum(max(a, 0) for _, _, a, _ in ROWS)),
            plain(sum(max(-a, 0) for _, _, a, _ in ROWS)), "0.00"]  # fmt: skip
    return save(folder, "journal lines.csv", [heads, *rows, foot])


def a_swedish_ledger(folder: Path) -> Path:
    heads = ["Konto", "Benämning", "Ver nr", "Datum", "Text", "Debet", "Kredit", "Saldo"]
    rows: list = [["Huvudbok"], ["Räkenskapsår: 2025-04-01 - 2026-03-31"], heads]
    for code, name in NAMES.items():
        held = OPENED.get(code, 0)
        rows.append([code, name, "", "", "Ingående saldo", "", "", comma(held)])
        for entry, amount, _ in of(code):
            if entry is ENTRIES[0]:
                continue
            held += amount
            rows.append(["", "", f"A {entry.number}", f"{entry.day}", entry.text, *dr_cr(amount, comma),
                         comma(held)])  # fmt: skip
        rows.append(["", "", "", "", "Utgående saldo", "", "", comma(held)])
    return save(folder, "huvudbok.csv", rows, ";", "cp1252")


def comma(cents: int) -> str:
    return f"{cents / 100:,.2f}".replace(",", " ").replace(".", ",")


def a_portuguese_balance(folder: Path) -> Path:
    heads = ["Conta", "Descrição", "Saldo inicial", "Débito", "Crédito", "Saldo final"]
    rows: list = [["Balancete de verificação"], ["De 01-04-2025 a 31-03-2026"], heads]
    for code, name in NAMES.items():
        moved = [a for e, a, _ in of(code) if e is not ENTRIES[0]]
        rows.append([code, name, comma(OPENED.get(code, 0)), comma(sum(a for a in moved if a > 0)),
                     comma(-sum(a for a in moved if a < 0)), comma(HELD[code])])  # fmt: skip
    return save(folder, "balancete.csv", rows, ";")


def a_sheet_for_each_month(folder: Path) -> Path:
    path = folder / "journal.xlsx"
    with xlsxwriter.Workbook(path) as book:
        day = book.add_format({"num_format": "dd.mm.yyyy"})
        about = book.add_worksheet("Cover")
        about.write(0, 0, "Café Ltd")
        about.write(1, 0, "Journal, year to 31 March 2026")
        by_month: dict[str, list] = defaultdict(list)
        for row in ROWS:
            by_month[f"{row[0].day:%b %y}"].append(row)
        for month, moved in by_month.items():
            sheet = book.add_worksheet(month)
            sheet.write_row(
                0, 0, ["Day", "Entry", "Account", "Account title", "Wording", "In", "Out"]
            )
            for place, (e, code, a, _) in enumerate(moved, 1):
                sheet.write_datetime(place, 0, e.day, day)
                sheet.write_row(place, 1, [e.number, int(code), NAMES[code], e.text])
                sheet.write_number(place, 5 if a > 0 else 6, abs(a) / 100)
    return path


def groups_of_accounts_beside_them(folder: Path) -> Path:
    """A trial balance with its heads of groups in a column of their own, and only what is not nil."""
    rows: list = [
        ["Café Ltd", "", "", ""],
        ["Trial balance as of March 31, 2026", "", "", ""],
        ["", "", "", ""],
    ]
    rows.append(["Group", "Account", "DR", "CR"])
    group = ""
    for code, name in NAMES.items():
        now = {"1": "Assets", "2": "Liabilities", "3": "Equity", "4": "Income"}.get(
            code[0], "Costs"
        )
        if HELD[code]:
            rows.append([now if now != group else "", f"{code} {name}", *dr_cr(HELD[code], money)])
            group = now
    rows.append(["", "TOTALS", money(sum(v for v in HELD.values() if v > 0)),
                 money(sum(v for v in HELD.values() if v > 0))])  # fmt: skip
    return save(folder, "tb.csv", rows)


LAYOUTS = (
    newest_first,
    day_month_and_year_apart,
    a_page_saved_as_a_workbook,
    a_workbook_written_as_text,
    lists_in_a_zip,
    foreign_and_own_amounts,
    credit_notes_as_negative_debits,
    text_that_goes_on_below,
    merged_account_in_a_workbook,
    both_sides_and_their_difference,
    a_swedish_ledger,
    a_portuguese_balance,
    a_sheet_for_each_month,
    groups_of_accounts_beside_them,
)
