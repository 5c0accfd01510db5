"""Writes books as clients' programs and bookkeepers would: in any layout, language and way of writing."""

import csv
import io
from collections import defaultdict
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import groupby
from pathlib import Path
from typing import Any

import xlsxwriter

from corkpost.core.books import Books

WORDS = {
    "en": {
        "day": "Date", "number": "Entry no", "reference": "Document no", "journal": "Journal",
        "account": "Account", "account_name": "Account name", "text": "Description", "debit": "Debit",
        "credit": "Credit", "amount": "Amount", "mark": "D/C", "balance": "Balance", "party": "Contact",
        "party_name": "Customer/supplier name", "debit_account": "Debit account", "due": "Due date",
        "credit_account": "Credit account", "opening": "Opening balance", "total": "Total",
        "carried": "Carried forward", "open": "Outstanding", "title": "General ledger", "D": "D", "C": "C",
        "tb": "Trial balance as at", "items": "Aged",
    },
    "de": {
        "day": "Buchungsdatum", "number": "Buchungsnr", "reference": "Belegfeld 1", "journal": "Belegart",
        "account": "Konto", "account_name": "Kontobezeichnung", "text": "Buchungstext", "debit": "Soll",
        "credit": "Haben", "amount": "Betrag", "mark": "S/H", "balance": "Saldo", "party": "Personenkonto",
        "party_name": "Geschäftspartner", "debit_account": "Sollkonto", "credit_account": "Habenkonto",
        "opening": "Saldovortrag", "total": "Summe", "carried": "Übertrag", "open": "Offen", "due": "Fällig",
        "title": "Sachkonten", "D": "S", "C": "H", "tb": "Saldenliste zum", "items": "Offene Posten",
    },
    "fr": {
        "day": "Date", "number": "N° écriture", "reference": "N° pièce", "journal": "Journal",
        "account": "Compte", "account_name": "Intitulé du compte", "text": "Libellé", "debit": "Débit",
        "credit": "Crédit", "amount": "Montant", "mark": "Sens", "balance": "Solde", "party": "Code tiers",
        "party_name": "Nom du tiers", "debit_account": "Compte débit", "credit_account": "Compte crédit",
        "opening": "Solde initial", "total": "Totaux", "carried": "À reporter", "open": "Reste dû",
        "due": "Échéance", "title": "Grand livre", "D": "D", "C": "C", "tb": "Balance générale au",
        "items": "Balance âgée",
    },
    "nl": {
        "day": "Boekdatum", "number": "Boekstuknummer", "reference": "Factuurnummer", "journal": "Dagboek",
        "account": "Grootboekrekening", "account_name": "Rekeningnaam", "text": "Omschrijving",
        "debit": "Debet", "credit": "Credit", "amount": "Bedrag", "mark": "D/C", "balance": "Saldo",
        "party": "Relatiecode", "party_name": "Relatienaam", "debit_account": "Rekening debet",
        "credit_account": "Rekening credit", "opening": "Beginsaldo", "total": "Totaal", "due": "Vervaldatum",
        "carried": "Te transporteren", "open": "Openstaand", "title": "Grootboek", "D": "D", "C": "C",
        "tb": "Saldilijst per", "items": "Openstaande posten",
    },
    "es": {
        "day": "Fecha", "number": "Asiento", "reference": "Documento", "journal": "Diario",
        "account": "Cuenta", "account_name": "Nombre de la cuenta", "text": "Concepto", "debit": "Debe",
        "credit": "Haber", "amount": "Importe", "mark": "D/H", "balance": "Saldo", "party": "Tercero",
        "party_name": "Nombre tercero", "debit_account": "Cuenta debe", "credit_account": "Cuenta haber",
        "opening": "Saldo anterior", "total": "Suma", "carried": "Suma y sigue", "open": "Pendiente",
        "due": "Vencimiento", "title": "Libro mayor", "D": "D", "C": "H", "tb": "Balance de sumas y saldos a",
        "items": "Partidas pendientes",
    },
}  # fmt: skip
MONTHS = "Jan Feb Mar Apr May Jun Jul Aug Sep Oct Nov Dec".split()


@dataclass(frozen=True)
class Style:
    """*layout*: flat, by-account, by-document, pairs. *amounts*: two, signed, credit-signed, marked, in-cell,
    brackets, trailing. *accounts*: columns, code, joined, name. *parties*: column, name, none, personal.
    *day*: a strftime form, `words` or `serial`."""

    name: str
    layout: str = "flat"
    amounts: str = "two"
    language: str = "en"
    accounts: str = "columns"
    parties: str = "column"
    day: str = "%Y-%m-%d"
    decimal: str = "."
    thousands: str = ""
    separator: str = ","
    encoding: str = "utf-8"
    title: bool = False
    totals: bool = False
    running: bool = False
    pages: int = 0
    numbers: bool = True
    workbook: bool = False
    two_rows: bool = False


class Renderer:
    """Books in one style."""

    def __init__(self, books: Books, style: Style) -> None:
        self._books, self._style = books, style
        self._words = WORDS[style.language]
        self._rows: list[list[Any]] = []
        self._controls = books.control_accounts
        received = [row for row in books.tables.transactions if row.change is None]
        self._received = sorted(received, key=lambda row: (row.posting_date, row.id))
        first = min(row.posting_date for row in self._received if row.kind != "opening")
        self.first = first.replace(day=1)
        self.before = [row for row in self._received if row.posting_date < self.first]
        self._within = [row for row in self._received if row.posting_date >= self.first]

    # -- cells

    def money(self, minor: int) -> object:
        style = self._style
        if style.workbook:
            return minor / 100
        whole, cents = divmod(abs(minor), 100)
        figure = f"{whole:,}".replace(",", style.thousands) + f"{style.decimal}{cents:02d}"
        if minor >= 0:
            return figure
        return {"brackets": f"({figure})", "trailing": f"{figure}-"}.get(
            style.amounts, f"-{figure}"
        )

    def day(self, day: date) -> object:
        style = self._style
        if style.day == "words":
            return f"{day.day} {MONTHS[day.month - 1]} {day.year}"
        if style.workbook:
            return day if style.day != "serial" else (day - date(1899, 12, 30)).days
        return day.strftime(style.day)

    def account(self, code: str, party: str | None) -> tuple[str, str]:
        """Code and name as this style writes them: a party's own where it is one."""
        if self._style.parties == "personal" and code in self._controls and party:
            number = sorted(self._books.parties).index(party)
            base = 10_000 if self._books.accounts[code].role == "receivables" else 70_000
            return str(base + number), self._books.parties[party].name
        return code, self._books.accounts[code].name

    def _account_cells(self, code: str, party: str | None) -> list[Any]:
        code, name = self.account(code, party)
        return {
            "columns": [code, name], "code": [code], "joined": [f"{code} {name}"], "name": [name],
        }[self._style.accounts]  # fmt: skip

    def _amount_cells(self, amount: int) -> list[Any]:
        style = self._style.amounts
        if style == "two":
            return [self.money(amount), ""] if amount > 0 else ["", self.money(-amount)]
        if style == "marked":
            return [self.money(abs(amount)), self._words["D" if amount > 0 else "C"]]
        if style == "in-cell":
            return [f"{self.money(abs(amount))} {self._words['D' if amount > 0 else 'C']}"]
        return [self.money(-amount if style == "credit-signed" else amount)]

    def _amount_heads(self) -> list[str]:
        names = {"two": ["debit", "credit"], "marked": ["amount", "mark"]}
        return [self._words[name] for name in names.get(self._style.amounts, ["amount"])]

    # -- the ledger

    def ledger(self) -> list[list[Any]]:
        self._rows = []
        words, style = self._words, self._style
        if style.title:
            span = f"{self.day(self.first)} - {self.day(self._within[-1].posting_date)}"
            self._rows += [[f"{self._books.client.name}"], [words["title"]], [span], []]
        {
            "flat": self._flat, "by-account": self._by_account, "by-document": self._by_document,
            "pairs": self._pairs,
        }[style.layout]()  # fmt: skip
        return self._rows

    def _head(self, *names: str, tail: tuple[str, ...] = ()) -> list[Any]:
        head = [self._words[name] for name in names] + self._amount_heads()
        head += [self._words[name] for name in tail]
        self._rows.append(list(head))
        return list(head)

    def _opening_lines(self):
        held: dict[tuple[str, str | None], int] = defaultdict(int)
        for posted in self.before:
            for line in posted.lines:
                held[line.account, line.party if line.account in self._controls else None] += (
                    line.amount
                )
        return {key: amount for key, amount in held.items() if amount}

    def _all_lines(self):
        """Day, number, reference, text, journal and the line; what was there before as an entry."""
        day = self.first - timedelta(days=1)
        for (account, party), amount in sorted(self._opening_lines().items(), key=str):
            yield day, "OB", "", self._words["opening"], "", account, party, amount
        for posted in self._within:
            for line in posted.lines:
                text = line.description or posted.memo or posted.reference or "entry"
                yield (
                    posted.posting_date, posted.id, posted.reference or "", text, posted.source or "",
                    line.account, line.party or (posted.party if line.account in self._controls else None),
                    line.amount,
                )  # fmt: skip

    def _party_heads(self) -> list[str]:
        return {"column": ["party", "party_name"], "name": ["party_name"]}.get(
            self._style.parties, []
        )

    def _party_cells(self, party: str | None) -> list[Any]:
        name = self._books.parties[party].name if party else ""
        return {"column": [party or "", name], "name": [name]}.get(self._style.parties, [])

    def _account_heads(self) -> list[str]:
        return {
            "columns": ["account", "account_name"], "code": ["account"], "joined": ["account"],
            "name": ["account_name"],
        }[self._style.accounts]  # fmt: skip

    def _flat(self) -> None:
        number = ["number"] if self._style.numbers else []
        names = ["day", *number, "reference", *self._account_heads(), *self._party_heads(), "text"]
        head = self._head(*names)
        debits = credits = 0
        for count, (day, name, reference, text, _, account, party, amount) in enumerate(
            self._all_lines(), 1
        ):
            cells = [self.day(day), *([name] if number else []), reference]
            cells += [*self._account_cells(account, party), *self._party_cells(party), text]
            self._rows.append([*cells, *self._amount_cells(amount)])
            debits, credits = debits + max(amount, 0), credits - min(amount, 0)
            if self._style.pages and count % self._style.pages == 0:
                gap = [""] * (len(names) - 1)
                total = (
                    [self.money(debits), self.money(credits)]
                    if len(self._amount_heads()) == 2
                    else []
                )
                self._rows += [[self._words["carried"], *gap, *total], [], list(head)]
        if self._style.totals and self._style.amounts == "two":
            gap = [""] * (len(names) - 1)
            self._rows.append([self._words["total"], *gap, self.money(debits), self.money(credits)])

    def _by_document(self) -> None:
        self._head(
            "day", "number", "reference", "text", *self._account_heads(), *self._party_heads()
        )
        rows = list(self._all_lines())
        for _, lines in groupby(rows, key=lambda row: row[1]):
            for place, (day, name, reference, text, _, account, party, amount) in enumerate(lines):
                start = [self.day(day), name, reference, text] if place == 0 else ["", "", "", ""]
                self._rows.append(
                    [*start, *self._account_cells(account, party), *self._party_cells(party),
                     *self._amount_cells(amount)]
                )  # fmt: skip

    def _by_account(self) -> None:
        tail = ("balance",) if self._style.running else ()
        number = ["number"] if self._style.numbers else []
        names = ["day", *number, "reference", *self._party_heads(), "text"]
        self._head(*names, tail=tail)
        width = len(names)
        blocks = defaultdict(list)
        for row in self._all_lines():
            blocks[self.account(row[5], row[6])].append(row)
        for (code, name), rows in sorted(blocks.items()):
            self._rows.append(
                [f"{self._words['account']}: {code} {name}"] if self._style.title else [code, name]
            )
            opening = sum(row[7] for row in rows if row[1] == "OB")
            held, debits, credits = opening, 0, 0
            if opening:
                gap = [""] * (width - 1)
                self._rows.append(
                    [self._words["opening"], *gap, *self._amount_cells(opening),
                     *([self.money(held)] if tail else [])]
                )  # fmt: skip
            for day, entry, reference, text, _, _, party, amount in rows:
                if entry == "OB":
                    continue
                held += amount
                debits, credits = debits + max(amount, 0), credits - min(amount, 0)
                self._rows.append(
                    [self.day(day), *([entry] if number else []), reference, *self._party_cells(party), text,
                     *self._amount_cells(amount), *([self.money(held)] if tail else [])]
                )  # fmt: skip
            if self._style.totals and self._style.amounts == "two":
                gap = [""] * (width - 1)
                self._rows.append(
                    [
                        f"{self._words['total']} {code}",
                        *gap,
                        self.money(debits),
                        self.money(credits),
                    ]
                )
                self._rows.append([])

    def _pairs(self) -> None:
        """Entries of more than two lines go over a row for each of the smaller side."""
        names = ["day", "number", "reference", "text", "debit_account", "credit_account"]
        self._rows.append([*(self._words[name] for name in names), self._words["amount"]])
        for _, group in groupby(self._all_lines(), key=lambda row: row[1]):
            lines = list(group)
            debits = [[row, row[7]] for row in lines if row[7] > 0]
            credits = [[row, -row[7]] for row in lines if row[7] < 0]
            while debits and credits:
                amount = min(debits[0][1], credits[0][1])
                row, other = debits[0][0], credits[0][0]
                self._rows.append(
                    [self.day(row[0]), row[1], row[2], row[3], self.account(row[5], row[6])[0],
                     self.account(other[5], other[6])[0], self.money(amount)]
                )  # fmt: skip
                for side in (debits, credits):
                    side[0][1] -= amount
                    if not side[0][1]:
                        side.pop(0)

    # -- trial balance

    def balances(self, held: dict[str, int], day: date) -> list[list[Any]]:
        words = self._words
        rows: list[list[Any]] = [
            [self._books.client.name],
            [f"{words['tb']} {self.day(day)}"],
            [],
        ]
        rows.append([words["account"], words["account_name"], words["debit"], words["credit"]])
        for code, amount in sorted(held.items()):
            if amount:
                two = [self.money(amount), ""] if amount > 0 else ["", self.money(-amount)]
                rows.append([code, self._books.accounts[code].name, *two])
        debits = sum(amount for amount in held.values() if amount > 0)
        rows.append([words["total"], "", self.money(debits), self.money(debits)])
        return rows

    # -- files

    def write(self, rows: list[list[Any]], to: Path) -> Path:
        style = self._style
        if style.workbook:
            path = to.with_suffix(".xlsx")
            with xlsxwriter.Workbook(str(path), {"default_date_format": "yyyy-mm-dd"}) as book:
                sheet = book.add_worksheet("Sheet1")
                for number, row in enumerate(rows):
                    for place, cell in enumerate(row):
                        if cell != "":
                            sheet.write(number, place, cell)
            return path
        out = io.StringIO()
        csv.writer(out, delimiter=style.separator, lineterminator="\r\n").writerows(rows)
        path = to.with_suffix(".csv")
        path.write_bytes(out.getvalue().encode(style.encoding, errors="replace"))
        return path


STYLES = (
    Style("flat"),
    Style("flat, semicolons, comma, dots", decimal=",", thousands=".", separator=";", day="%d.%m.%Y"),
    Style("flat, tabs, slashes", separator="\t", day="%d/%m/%Y", totals=True),
    Style("flat, american", day="%m/%d/%Y", thousands=","),
    Style("flat, signed", amounts="signed", accounts="joined"),
    Style("flat, credit positive", amounts="credit-signed"),
    Style("flat, marked, german", amounts="marked", language="de", decimal=",", thousands=".",
          separator=";", day="%d.%m.%Y", encoding="cp1252"),
    Style("flat, marked in the cell", amounts="in-cell", accounts="code"),
    Style("flat, brackets", amounts="brackets", thousands=","),
    Style("flat, trailing minus", amounts="trailing", decimal=",", separator=";"),
    Style("flat, without numbers", numbers=False),
    Style("flat, pages", pages=40, totals=True, title=True),
    Style("flat, french, utf-16", language="fr", decimal=",", thousands=" ", separator=";",
          day="%d/%m/%Y", encoding="utf-16"),
    Style("flat, names alone", accounts="name"),
    Style("flat, months in words", day="words"),
    Style("flat, workbook", workbook=True, title=True),
    Style("flat, workbook, serials", workbook=True, day="serial", amounts="signed"),
    Style("flat, dutch, personal accounts", language="nl", parties="personal", day="%d-%m-%Y",
          decimal=",", thousands=".", separator=";"),
    Style("by account", layout="by-account", running=True),
    Style("by account, titles, totals", layout="by-account", title=True, totals=True, day="%d/%m/%Y"),
    Style("by account, german, workbook", layout="by-account", language="de", workbook=True,
          running=True, totals=True),
    Style("by account, spanish", layout="by-account", language="es", decimal=",", thousands=".",
          separator=";", day="%d/%m/%Y", totals=True),
    Style("by account, without numbers", layout="by-account", numbers=False, running=True),
    Style("by account, personal accounts", layout="by-account", parties="personal", totals=True),
    Style("by document", layout="by-document"),
    Style("by document, names of parties, french", layout="by-document", parties="name", language="fr",
          separator=";", decimal=","),
    Style("pairs", layout="pairs", parties="none"),
    Style("pairs, german", layout="pairs", parties="none", language="de", separator=";", decimal=",",
          day="%d.%m.%Y"),
)  # fmt: skip
