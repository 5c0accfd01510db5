"""Ledgers and trial balances as other hands write them: each layout a function of its own, sharing nothing
with the renderer by which the reading was built."""

import csv
import random
from collections import Counter
from datetime import date, datetime, time
from pathlib import Path
from typing import NamedTuple

import xlsxwriter

NAMES = {
    "1100": "Debtors", "1200": "Bank", "2100": "Creditors", "2200": "VAT", "3000": "Capital",
    "3100": "Drawings", "4000": "Sales", "5000": "Purchases", "6000": "Rent", "6100": "Motor expenses",
}  # fmt: skip
CUSTOMERS = ("Heron Boats", "Moss Hall Ltd", "Quay & Sons")
SUPPLIERS = ("Petrel Supplies", "Dune Motors", "Kelp Estates")


class Event(NamedTuple):
    """*lines*: account and amount in cents, debit positive."""

    number: int
    day: date
    type: str
    reference: str
    party: str
    text: str
    lines: tuple[tuple[str, int], ...]


def events() -> list[Event]:
    """Half a year of a small yard."""
    chance, found = random.Random(7), list[Event]()

    def add(day: date, type_: str, reference: str, party: str, text: str, *lines: tuple[str, int]):
        found.append(Event(len(found) + 1, day, type_, reference, party, text, lines))

    opening = (("1200", 500_000), ("3000", -500_000))
    add(date(2026, 1, 1), "Opening", "", "", "Opening balances", *opening)
    for month in range(1, 7):
        for times in range(4):
            party, net = chance.choice(CUSTOMERS), chance.randrange(10_000, 90_000)
            tax, number = round(net * 0.23), f"INV-{1001 + len(found)}"
            day = date(2026, month, chance.randrange(1, 28))
            owed = ("1100", net + tax)
            add(
                day,
                "Sales invoice",
                number,
                party,
                f"Hire, {party}",
                owed,
                ("4000", -net),
                ("2200", -tax),
            )
            if times % 2 == 0:
                paid = (("1200", net + tax), ("1100", -net - tax))
                day = date(2026, month, 28)
                add(day, "Customer receipt", number, party, f"Receipt {party}", *paid)
        for times in range(3):
            party, net = chance.choice(SUPPLIERS), chance.randrange(3_000, 40_000)
            tax, cost = round(net * 0.23), chance.choice(("5000", "6100"))
            day = date(2026, month, chance.randrange(1, 28))
            number = f"{chance.randrange(100, 999)}/26"
            lines = ((cost, net), ("2200", tax), ("2100", -net - tax))
            add(day, "Purchase bill", number, party, f"{party} bill", *lines)
            if times != 1:
                paid = (("2100", net + tax), ("1200", -net - tax))
                day = date(2026, month, 27)
                add(day, "Supplier payment", "", party, f"Paid {party}", *paid)
        rent = (("6000", 120_000), ("1200", -120_000))
        add(date(2026, month, 1), "Direct payment", "", "", "Rent of the yard", *rent)
        taken = (("3100", 80_000), ("1200", -80_000))
        add(date(2026, month, 20), "Direct payment", "", "", "To owner", *taken)
    return sorted(found, key=lambda event: (event.day, event.number))


EVENTS = events()
ROWS = [(event, account, amount) for event in EVENTS for account, amount in event.lines]
HELD = Counter[str]()
for _, code, moved in ROWS:
    HELD[code] += moved
"""What each account holds in the end."""
OPENED = dict(EVENTS[0].lines)
COUNT, BEGINS = len(EVENTS), date(2026, 1, 1)


def point(amount: int) -> str:
    return f"{amount / 100:,.2f}"


def comma(amount: int) -> str:
    return f"{amount / 100:.2f}".replace(".", ",")


def dotted(amount: int) -> str:
    return point(amount).translate(str.maketrans(".,", ",."))


def sides(amount: int, form=point) -> tuple[str, str]:
    return (form(amount), "") if amount > 0 else ("", form(-amount))


def of_account(account: str) -> list[tuple[Event, int]]:
    return [(event, amount) for event, code, amount in ROWS if code == account]


def sums(account: str) -> tuple[int, int]:
    amounts = [amount for _, amount in of_account(account)]
    return sum(a for a in amounts if a > 0), -sum(a for a in amounts if a < 0)


def written(path: Path, rows: list, separator: str = ",", encoding: str = "utf-8") -> Path:
    with path.open("w", newline="", encoding=encoding) as file:
        csv.writer(file, delimiter=separator).writerows(rows)
    return path


def blocks_with_a_heading_in_each(folder: Path) -> Path:
    rows: list = [["Heron Yard"], ["Nominal Activity"], ["From 1 Jan 2026 to 30 Jun 2026"], []]
    for account, name in NAMES.items():
        rows.append([f"{account} - {name}"])
        rows.append(["Date", "Type", "Ref", "Name", "Details", "Debit", "Credit", "Balance"])
        held = 0
        for event, amount in of_account(account):
            held += amount
            shown = point(held) if held >= 0 else f"({point(-held)})"
            said = (f"{event.day:%d %b %Y}", event.type, event.reference, event.party, event.text)
            rows.append([*said, *sides(amount), shown])
        rows.append(["", "", "", "", f"Total {name}", *map(point, sums(account)), ""])
        rows.append([])
    return written(folder / "nominal activity.csv", rows)


def code_and_name_in_a_cell(folder: Path) -> Path:
    dutch = dict(zip(NAMES, ("Debiteuren", "Bank", "Crediteuren", "Btw", "Kapitaal", "Privé", "Omzet",
                             "Inkopen", "Huur", "Autokosten"), strict=True))  # fmt: skip
    heads = "Datum Dagboek Boekstuk Grootboekrekening Relatie Omschrijving Debet Credit".split()
    rows = [
        [f"{event.day:%d-%m-%Y}", event.type[:3], event.number, f"{code} {dutch[code]}", event.party,
         event.text, *sides(amount, comma)]
        for event, code, amount in ROWS
    ]  # fmt: skip
    return written(folder / "mutaties.csv", [heads, *rows], ";", "cp1252")


def the_statutory_file_of_france(folder: Path) -> Path:
    french = dict(zip(NAMES, (("411000", "Clients"), ("512000", "Banque"), ("401000", "Fournisseurs"),
                              ("445710", "TVA"), ("101000", "Capital"), ("108000", "Compte de l'exploitant"),
                              ("706000", "Prestations de services"), ("607000", "Achats de marchandises"),
                              ("613200", "Locations immobilières"), ("625100", "Déplacements")),
                      strict=True))  # fmt: skip
    journals = {"Opening": ("AN", "A nouveaux"), "Sales invoice": ("VE", "Ventes"),
                "Purchase bill": ("AC", "Achats")}  # fmt: skip
    heads = (
        "JournalCode JournalLib EcritureNum EcritureDate CompteNum CompteLib CompAuxNum CompAuxLib PieceRef "
        "PieceDate EcritureLib Debit Credit EcritureLet DateLet ValidDate Montantdevise Idevise"
    ).split()
    rows = []
    for event, code, amount in ROWS:
        short = "".join(sign for sign in event.party.upper() if sign.isalpha())[:6]
        whose = (short, event.party) if code in ("1100", "2100") else ("", "")
        day, debit = f"{event.day:%Y%m%d}", max(amount, 0)
        rows.append(
            [*journals.get(event.type, ("BQ", "Banque")), event.number, day, *french[code], *whose,
             event.reference or f"B{event.number}", day, event.text, comma(debit), comma(debit - amount),
             "", "", "20260701", "", ""]
        )  # fmt: skip
    return written(folder / "FEC20261231.txt", [heads, *rows], "\t")


def a_diary_with_its_sum(folder: Path) -> Path:
    spanish = dict(zip(NAMES, (("430", "Clientes"), ("572", "Bancos"), ("400", "Proveedores"),
                               ("477", "IVA"), ("102", "Capital"), ("550", "Titular de la explotación"),
                               ("705", "Prestaciones de servicios"), ("600", "Compras"),
                               ("621", "Arrendamientos"), ("629", "Combustible")),
                       strict=True))  # fmt: skip
    rows = [["Libro diario"], ["Empresa: Heron Yard"]]
    rows.append(["Asiento", "Fecha", "Cuenta", "Descripción", "Concepto", "Debe", "Haber"])
    for event, code, amount in ROWS:
        said = (str(event.number), f"{event.day:%d/%m/%Y}", *spanish[code], event.text)
        rows.append([*said, *sides(amount, dotted)])
    total = dotted(sum(amount for *_, amount in ROWS if amount > 0))
    return written(
        folder / "libro diario.csv", [*rows, ["", "", "", "", "Total", total, total]], ";"
    )


def shortened_headings_and_years(folder: Path) -> Path:
    heads = ["Data reg.", "N. reg.", "Conto", "Descrizione conto", "Causale", "Dare", "Avere"]
    rows = [
        [
            f"{event.day:%d/%m/%y}",
            event.number,
            code,
            NAMES[code],
            event.text,
            *sides(amount, comma),
        ]
        for event, code, amount in ROWS
    ]
    return written(folder / "giornale.csv", [heads, *rows])


def a_debit_and_a_credit_account_in_a_row(folder: Path) -> Path:
    rows: list = [["Lp", "Data", "Nr dowodu", "Konto Wn", "Konto Ma", "Kwota", "Opis"]]
    for event in EVENTS:
        debits = [line for line in event.lines if line[1] > 0]
        credits = [line for line in event.lines if line[1] < 0]
        for account, amount in debits if len(credits) == 1 else credits:
            pair = (account, credits[0][0]) if len(credits) == 1 else (debits[0][0], account)
            said = (len(rows), f"{event.day:%Y-%m-%d}", event.reference)
            rows.append([*said, *pair, comma(abs(amount)), event.text])
    return written(folder / "dziennik.csv", rows, ";")


def each_account_s_own_side_positive(folder: Path) -> Path:
    heads = [
        "",
        "Date",
        "Transaction Type",
        "Num",
        "Name",
        "Memo/Description",
        "Split",
        "Amount",
        "Balance",
    ]
    rows: list = [["Heron Yard"], ["General Ledger"], ["January - June, 2026"], [], heads]
    for account, name in NAMES.items():
        rows.append([name])
        held, sign = 0, -1 if account in ("2100", "2200", "3000", "4000") else 1
        for event, amount in of_account(account):
            held += sign * amount
            others = [NAMES[code] for code, _ in event.lines if code != account]
            split = others[0] if len(others) == 1 else "-Split-"
            said = (
                f"{event.day:%m/%d/%Y}",
                event.type,
                event.reference,
                event.party,
                event.text,
                split,
            )
            rows.append(["", *said, point(sign * amount), point(held)])
        rows.append([f"Total for {name}", *[""] * 6, point(held), ""])
    return written(folder / "ledger by account.csv", rows)


def a_trial_balance_in_parts(folder: Path) -> Path:
    rows: list = [
        ["Heron Yard"],
        ["Trial balance as at 30/06/2026"],
        ["Code", "Account", "Debit", "Credit"],
    ]
    rows.append(["", "BALANCE SHEET", "", ""])
    for account, name in NAMES.items():
        if account == "4000":
            rows.append(["", "PROFIT AND LOSS", "", ""])
        rows.append([account, name, *sides(HELD[account])])
    debits = point(sum(amount for amount in HELD.values() if amount > 0))
    return written(folder / "trial balance.csv", [*rows, ["", "Totals", debits, debits]])


def a_heading_of_two_rows_over_documents(folder: Path) -> Path:
    path = folder / "journals.xlsx"
    with xlsxwriter.Workbook(path) as book:
        sheet, day = book.add_worksheet("Journal"), book.add_format({"num_format": "dd/mm/yyyy"})
        sheet.merge_range("A1:H1", "Heron Yard – journal listing")
        sheet.write("A2", "Printed 02/07/2026 10:14")
        sheet.write_row("A4", ["Journal", "", "", "Nominal", "", "", "Value", ""])
        sheet.write_row("A5", ["No", "Date", "Reference", "Code", "Name", "Details", "Dr", "Cr"])
        place = 4
        for event in EVENTS:
            for number, (account, amount) in enumerate(event.lines):
                place += 1
                if number == 0:
                    sheet.write(place, 0, event.number)
                    sheet.write_datetime(place, 1, datetime.combine(event.day, time()), day)
                    sheet.write(place, 2, event.reference)
                sheet.write_row(place, 3, [int(account), NAMES[account], event.text])
                sheet.write_number(place, 6 if amount > 0 else 7, abs(amount) / 100)
    return path


def marks_behind_the_sums(folder: Path) -> Path:
    heads = [
        "Created",
        "Posting date",
        "Ledger account",
        "Contact",
        "Narrative",
        "Document",
        "Value",
    ]
    rows = [
        [f"{event.day}T09:12:00", f"{event.day}", NAMES[code], event.party, event.text, event.reference,
         f"{abs(amount) / 100:.2f} {'DR' if amount > 0 else 'CR'}"]
        for event, code, amount in ROWS
    ]  # fmt: skip
    return written(folder / "export.csv", [heads, *rows])


def printed_in_columns(folder: Path) -> Path:
    form = "{:8}{:18}{:12}{:6}{:12}{:30}{:>14}"
    heads = ("ACCT", "DESCRIPTION", "DATE", "JNL", "REF", "NARRATION", "AMOUNT")
    lines = [
        f"{'HERON YARD':60}Page 1",
        f"{'GENERAL LEDGER DETAIL':60}",
        "",
        form.format(*heads),
        "-" * 100,
    ]
    for account, name in NAMES.items():
        for event, amount in of_account(account):
            figure = point(abs(amount)) + ("-" if amount < 0 else " ")
            said = (f"{event.day:%d.%m.%y}", str(event.number), event.reference, event.text)
            lines.append(form.format(account, name, *said, figure))
        figure = point(abs(HELD[account])) + ("-" if HELD[account] < 0 else " ")
        lines += [form.format("", f"TOTAL {name.upper()}", "", "", "", "", figure), ""]
    path = folder / "gl.txt"
    path.write_text("\n".join(lines), "utf-8")
    return path


def blocks_whose_balance_has_a_mark(folder: Path) -> Path:
    german = dict(zip(NAMES, ("Forderungen aus L+L", "Bank", "Verbindlichkeiten aus L+L", "Umsatzsteuer",
                              "Kapital", "Privatentnahmen", "Erlöse", "Wareneingang", "Miete", "Kfz-Kosten"),
                      strict=True))  # fmt: skip
    rows: list = [["Mandant: Heron Yard"], ["Kontoblätter 01.01.2026 bis 30.06.2026"]]
    for account, name in german.items():
        rows.append(["Konto", account, name])
        rows.append(
            ["Beleg-Nr.", "Datum", "Buchungstext", "Gegenkonto", "Soll", "Haben", "Saldo", "S/H"]
        )
        held = 0
        for event, amount in of_account(account):
            held += amount
            others = [code for code, _ in event.lines if code != account]
            contra = others[0] if len(others) == 1 else "div."
            said = (event.number, f"{event.day:%d.%m.%Y}", event.text, contra)
            rows.append(
                [*said, *sides(amount, dotted), dotted(abs(held)), "S" if held >= 0 else "H"]
            )
        rows.append(["", "", "Summe", "", *map(dotted, sums(account)), "", ""])
    return written(folder / "Kontoblatt.csv", rows, ";", "cp1252")


def a_report_with_what_each_account_began_and_ended_with(folder: Path) -> Path:
    path = folder / "account transactions.xlsx"
    with xlsxwriter.Workbook(path) as book:
        sheet, form = (
            book.add_worksheet("Ledger report"),
            book.add_format({"num_format": "dd/mm/yyyy"}),
        )
        titles = (
            "Heron Yard",
            "Account transactions",
            "For the period 1 January 2026 to 30 June 2026",
        )
        for place, title in enumerate(titles):
            sheet.write(place, 0, title)
        heads = "Date Source Description Reference Debit Credit Running_balance Gross Tax".split()
        sheet.write_row(4, 0, [head.replace("_", " ") for head in heads])
        place = 4
        for account, name in NAMES.items():
            sheet.write(place := place + 1, 0, name)
            sheet.write(place := place + 1, 0, "Opening Balance")
            sheet.write(place, 6, 0)
            held = 0
            for event, amount in of_account(account):
                held += amount
                sheet.write_datetime(
                    place := place + 1, 0, datetime.combine(event.day, time()), form
                )
                sheet.write_row(place, 1, [event.type, event.text, event.reference])
                figures = (max(amount, 0), max(-amount, 0), held, abs(amount), 0)
                sheet.write_row(place, 4, [figure / 100 for figure in figures])
            sheet.write(place := place + 1, 0, f"Total {name}")
            sheet.write_row(place, 4, [figure / 100 for figure in (*sums(account), held)])
            sheet.write(place := place + 1, 0, "Closing Balance")
            sheet.write(place, 6, held / 100)
            place += 1
    return path


def periods_and_signs_of_money(folder: Path) -> Path:
    heads = [
        "Period",
        "Trans. no.",
        "Trans. date",
        "Account",
        "Analysis",
        "Details",
        "Dr (€)",
        "Cr (€)",
    ]
    rows = [
        [f"2026/{event.day.month:02d}", event.number, f"{event.day:%d-%b-%y}", f"{code}/{NAMES[code]}",
         event.party, event.text, f"€{point(max(amount, 0))}", f"€{point(max(-amount, 0))}"]
        for event, code, amount in ROWS
    ]  # fmt: skip
    return written(folder / "postings.csv", [heads, *rows])


def a_table_of_a_database(folder: Path) -> Path:
    heads = [
        "",
        "ENTRY",
        "LINE",
        "POSTED_ON",
        "ACCT_CODE",
        "ACCT_DESC",
        "PARTNER",
        "DOC",
        "MEMO",
        "AMT_LC",
        "",
    ]
    rows = [
        ["", event.number, place, f"{event.day:%Y%m%d}", code, NAMES[code], event.party, event.reference,
         event.text, f"{amount / 100:.2f}", ""]
        for event in EVENTS
        for place, (code, amount) in enumerate(event.lines, 1)
    ]  # fmt: skip
    return written(folder / "gl_dump.txt", [heads, *rows], "|")


def each_account_under_its_word(folder: Path) -> Path:
    rows: list = [
        ["Société : Heron Yard"],
        ["Grand livre général"],
        ["Période du 01/01/2026 au 30/06/2026"],
        [],
    ]
    rows.append(["Date", "Jnl", "Pièce", "Libellé", "Let.", "Débit", "Crédit", "Solde progressif"])
    for account, name in NAMES.items():
        rows.append([f"Compte : {account} {name}"])
        held = 0
        for event, amount in of_account(account):
            held += amount
            said = (
                f"{event.day:%d/%m/%Y}",
                event.type[:2].upper(),
                event.reference,
                event.text,
                "",
            )
            rows.append(
                [*said, *sides(amount, dotted), f"{dotted(abs(held))} {'D' if held >= 0 else 'C'}"]
            )
        rows.append(["", "", "", f"Total compte {account}", "", *map(dotted, sums(account)), ""])
    return written(folder / "grand livre.csv", rows, ";", "cp1252")


def two_days_of_balances(folder: Path) -> Path:
    path = folder / "tb.xlsx"
    with xlsxwriter.Workbook(path) as book:
        sheet = book.add_worksheet()
        for place, title in enumerate(("Heron Yard", "Trial Balance", "As of June 30, 2026")):
            sheet.write(place, 0, title)
        sheet.write_row(4, 0, ["Account", "Jun 30, 2026", "Dec 31, 2025"])
        for place, (account, name) in enumerate(NAMES.items(), 5):
            before = OPENED.get(account, 0)
            sheet.write_row(place, 0, [f"{account} {name}", HELD[account] / 100, before / 100])
        sheet.write_row(5 + len(NAMES), 0, ["Total", 0, 0])
    return path


def vouchers_with_their_text_below(folder: Path) -> Path:
    rows: list = [["Voucher", "Date", "Particulars", "Dr", "Cr"]]
    for event in EVENTS:
        for place, (code, amount) in enumerate(event.lines):
            said = ("", "") if place else (event.number, f"{event.day:%d %B %Y}")
            rows.append([*said, NAMES[code], *sides(amount, comma)])
        rows.append(["", "", f"({event.text})", "", ""])
    return written(folder / "vouchers.csv", rows, ";")


def a_column_for_each_month(folder: Path) -> Path:
    months = ("Jan", "Feb", "Mar", "Apr", "May", "Jun")
    rows: list = [["Account", "Name", "Opening", *(f"{month}-26" for month in months), "Total"]]
    for account, name in NAMES.items():
        moved = [
            sum(amount for event, amount in of_account(account)
                if event.day.month == month and event.type != "Opening")
            for month in range(1, 7)
        ]  # fmt: skip
        figures = (OPENED.get(account, 0), *moved, HELD[account])
        rows.append([account, name, *map(point, figures)])
    return written(folder / "months.csv", rows)


def of_a_language_that_nobody_taught(folder: Path) -> Path:
    heads = ["Data", "Diário", "Nº Doc.", "Conta", "Designação", "Descrição", "Débito", "Crédito"]
    rows = [
        [
            f"{event.day}",
            event.type[:3],
            event.number,
            code,
            NAMES[code],
            event.text,
            *sides(amount, dotted),
        ]
        for event, code, amount in ROWS
    ]
    return written(folder / "extrato.csv", [heads, *rows], ";", "cp1252")


def each_account_said_once_over_several_pages(folder: Path) -> Path:
    heads = ["Acc", "Account name", "Date", "Ref", "Details", "Debit", "Credit"]
    rows: list = [heads]
    for account, name in NAMES.items():
        whose = (account, name)
        for event, amount in of_account(account):
            said = (f"{event.day:%d/%m/%Y}", event.reference, event.text)
            rows.append([*whose, *said, *sides(amount)])
            whose = ("", "")
            if len(rows) % 40 == 0:
                rows += [["", "", "", "", f"Page {len(rows) // 40}", "", ""], heads]
    return written(folder / "sparse.csv", rows)


def a_sheet_for_each_account(folder: Path) -> Path:
    path = folder / "ledgers.xlsx"
    with xlsxwriter.Workbook(path) as book:
        form = book.add_format({"num_format": "dd/mm/yyyy"})
        for account, name in NAMES.items():
            sheet, held = book.add_worksheet(f"{account} {name}"), 0
            sheet.write(0, 0, f"{account} {name}")
            sheet.write_row(1, 0, "Date Ref Contact Description Debit Credit Balance".split())
            for place, (event, amount) in enumerate(of_account(account), 2):
                held += amount
                sheet.write_datetime(place, 0, datetime.combine(event.day, time()), form)
                sheet.write_row(place, 1, [event.reference, event.party, event.text])
                sheet.write_number(place, 4 if amount > 0 else 5, abs(amount) / 100)
                sheet.write_number(place, 6, held / 100)
    return path


def whole_francs_without_cents(folder: Path) -> Path:
    def money(amount: int) -> str:
        figure = point(abs(amount)).replace(",", "'").removesuffix(".00")
        return f"\N{MINUS SIGN}{figure}" if amount < 0 else figure

    heads = ["Beleg", "Datum", "Konto", "Bezeichnung", "Text", "Betrag CHF"]
    rows = [
        [event.number, f"{event.day.day}.{event.day.month}.{event.day.year}", code, NAMES[code], event.text,
         money(amount)]
        for event, code, amount in ROWS
    ]  # fmt: skip
    return written(folder / "konto.csv", [heads, *rows], ";")


def days_of_the_week_and_sums_that_run(folder: Path) -> Path:
    rows: list = [["Heron Yard - nominal transactions"]]
    rows.append(["Nominal", "Tran", "When", "What", "Who", "Debit", "Credit", "Net", "Cumulative"])
    for account, name in NAMES.items():
        held = 0
        for event, amount in of_account(account):
            held += amount
            said = (
                f"{account} : {name}",
                event.number,
                f"{event.day:%a %d/%m/%Y}",
                event.text,
                event.party,
            )
            moved = [figure or "-" for figure in sides(amount)]
            rows.append([*said, *moved, point(amount), point(held)])
    return written(folder / "nominal.csv", rows)


def the_day_in_a_line_over_each_document(folder: Path) -> Path:
    rows: list = [["Code", "Account", "Debit", "Credit"]]
    for event in EVENTS:
        rows.append(
            [f"Journal {event.number} dated {event.day:%d/%m/%Y}: {event.text}", "", "", ""]
        )
        rows += [[code, NAMES[code], *sides(amount)] for code, amount in event.lines]
        total = point(sum(amount for _, amount in event.lines if amount > 0))
        rows.append(["", "Total", total, total])
    return written(folder / "journals by document.csv", rows)


def sums_among_the_balances(folder: Path) -> Path:
    path = folder / "tb.xlsx"
    parts = (("Assets", ("1100", "1200"), "Total current assets"), ("Liabilities", ("2100", "2200"), "Net assets"),
             ("Equity", ("3000", "3100"), ""), ("Income and costs", ("4000", "5000", "6000", "6100"), "Check"))  # fmt: skip
    with xlsxwriter.Workbook(path) as book:
        sheet, place, reached = book.add_worksheet(), 4, 0
        for row, title in enumerate(("Heron Yard", "Trial balance", "Period ending 30 June 2026")):
            sheet.write(row, 0, title)
        sheet.write_row(place, 0, ["Nominal account", "Name", "Balance"])
        for title, accounts, sum_ in parts:
            sheet.write(place := place + 1, 0, title)
            for account in accounts:
                reached += HELD[account]
                sheet.write_row(
                    place := place + 1, 0, [account, f"   {NAMES[account]}", HELD[account] / 100]
                )
            if sum_:
                sheet.write_row(place := place + 1, 1, [sum_, reached / 100])
    return path


def narrow_blanks_and_brackets(folder: Path) -> Path:
    heads = ["N°", "Date d\N{RIGHT SINGLE QUOTATION MARK}écriture", "Compte général", "Libellé du compte", "Tiers",
             "Libellé de l\N{RIGHT SINGLE QUOTATION MARK}opération", "Mouvement"]  # fmt: skip
    rows = []
    for event, code, amount in ROWS:
        figure = point(abs(amount)).translate(
            {ord(","): "\N{NARROW NO-BREAK SPACE}", ord("."): ","}
        )
        whose = event.party if code in ("1100", "2100") else ""
        said = (event.number, f"{event.day:%d/%m/%Y}", code, NAMES[code], whose, event.text)
        rows.append([*said, f"{figure if amount > 0 else f'({figure})'} €"])
    return written(folder / "écritures.csv", [heads, *rows], ";", "utf-8-sig")


def a_table_in_the_middle_of_a_sheet(folder: Path) -> Path:
    path = folder / "detailed ledger.xlsx"
    with xlsxwriter.Workbook(path) as book:
        sheet = book.add_worksheet()
        for place, title in enumerate(
            ("HERON YARD", "Detailed ledger", "Prepared by: M. Quill"), 1
        ):
            sheet.write(place, 2, title)
        heads = ["Dt.", "Vch No.", "Ledger", "Narr.", "Dr. amount", "Cr. amount"]
        sheet.write_row(8, 2, heads)
        for place, (event, code, amount) in enumerate(ROWS, 9):
            said = (f"{event.day:%d-%b-%y}", event.number, NAMES[code], event.text)
            sheet.write_row(place, 2, said)
            sheet.write_number(place, 6 if amount > 0 else 7, abs(amount) / 100)
    return path


def this_year_and_last(folder: Path) -> Path:
    rows: list = [["Heron Yard"], ["Trial balance at 30 June 2026 with comparatives"]]
    rows.append(["A/c", "Description", "This year", "Last year"])
    for account, name in NAMES.items():
        figures = (HELD[account], OPENED.get(account, 0))
        rows.append([account, name, *(point(f) if f >= 0 else f"({point(-f)})" for f in figures)])
    return written(folder / "comparatives.csv", rows)


def accounts_in_the_debit_and_the_credit_column(folder: Path) -> Path:
    rows: list = [["date", "debit", "credit", "amount", "description", "contact"]]
    for event in EVENTS:
        debits = [line for line in event.lines if line[1] > 0]
        credits = [line for line in event.lines if line[1] < 0]
        for account, amount in debits if len(credits) == 1 else credits:
            pair = (account, credits[0][0]) if len(credits) == 1 else (debits[0][0], account)
            named = [f"{code} {NAMES[code]}" for code in pair]
            rows.append(
                [f"{event.day}", *named, f"{abs(amount) / 100:.2f}", event.text, event.party]
            )
    return written(folder / "bookings.csv", rows)


LAYOUTS = (
    blocks_with_a_heading_in_each,
    code_and_name_in_a_cell,
    the_statutory_file_of_france,
    a_diary_with_its_sum,
    shortened_headings_and_years,
    a_debit_and_a_credit_account_in_a_row,
    each_account_s_own_side_positive,
    a_trial_balance_in_parts,
    a_heading_of_two_rows_over_documents,
    marks_behind_the_sums,
    printed_in_columns,
    blocks_whose_balance_has_a_mark,
    a_report_with_what_each_account_began_and_ended_with,
    periods_and_signs_of_money,
    a_table_of_a_database,
    each_account_under_its_word,
    two_days_of_balances,
    vouchers_with_their_text_below,
    a_column_for_each_month,
    of_a_language_that_nobody_taught,
    each_account_said_once_over_several_pages,
    a_sheet_for_each_account,
    whole_francs_without_cents,
    days_of_the_week_and_sums_that_run,
    the_day_in_a_line_over_each_document,
    sums_among_the_balances,
    narrow_blanks_and_brackets,
    a_table_in_the_middle_of_a_sheet,
    this_year_and_last,
    accounts_in_the_debit_and_the_credit_column,
)


# -- what is open of customers at the end

PAID = {event.reference for event in EVENTS if event.type == "Customer receipt"}
OPEN = [event for event in EVENTS if event.type == "Sales invoice" and event.reference not in PAID]
AS_AT = date(2026, 6, 30)


def ages(owed: list[Event]) -> list[str]:
    """What is owed by months of age, and together."""
    found = [0, 0, 0, 0]
    for event in owed:
        found[min((AS_AT - event.day).days // 30, 3)] += event.lines[0][1]
    return [point(amount) for amount in (*found, sum(found))]


def of_each_customer() -> dict[str, list[Event]]:
    return {name: [event for event in OPEN if event.party == name] for name in CUSTOMERS}


def aged_by_document(folder: Path) -> Path:
    rows: list = [["Heron Yard"], ["Aged receivables at 30 June 2026"]]
    rows.append(
        [
            "Customer",
            "Invoice",
            "Invoice date",
            "Current",
            "31-60 days",
            "61-90 days",
            "Over 90",
            "Total",
        ]
    )
    for event in OPEN:
        rows.append([event.party, event.reference, f"{event.day:%d/%m/%Y}", *ages([event])])
    return written(folder / "aged receivables.csv", [*rows, ["Total", "", "", *ages(OPEN)]])


def aged_by_customer(folder: Path) -> Path:
    rows: list = [["Aged debtors summary - 30/06/2026"]]
    rows.append(["Name", "Not due", "1 month", "2 months", "Older", "Total due"])
    rows += [[name, *ages(owed)] for name, owed in of_each_customer().items()]
    return written(folder / "debtors summary.csv", rows)


def grouped_by_customer(folder: Path) -> Path:
    rows: list = [["Heron Yard"], ["Outstanding invoices of customers"], ["As at 30-06-2026"]]
    rows.append(["Date", "Number", "Details", "Original", "Paid", "Balance"])
    for name, owed in of_each_customer().items():
        rows.append([name])
        for event in owed:
            figure = point(event.lines[0][1])
            rows.append(
                [f"{event.day:%d-%m-%Y}", event.reference, event.text, figure, "0.00", figure]
            )
        rows.append([f"Total {name}", "", "", "", "", ages(owed)[-1]])
    return written(
        folder / "outstanding.csv", [*rows, ["Grand total", "", "", "", "", ages(OPEN)[-1]]]
    )


def printed_items(folder: Path) -> Path:
    form = "{:20}{:12}{:12}{:>14}"
    lines = ["HERON YARD", "OPEN CUSTOMER ITEMS AT 30.06.26", ""]
    lines.append(form.format("CUSTOMER", "DOC", "DATE", "OUTSTANDING"))
    for event in OPEN:
        figure = point(event.lines[0][1])
        lines.append(form.format(event.party, event.reference, f"{event.day:%d.%m.%y}", figure))
    path = folder / "items.txt"
    path.write_text("\n".join(lines), "utf-8")
    return path


LISTS = (aged_by_document, aged_by_customer, grouped_by_customer, printed_items)
