"""The words that banks write over the columns of their tables, in a dozen languages."""

import re
import unicodedata
from collections.abc import Iterable, Mapping, Sequence

_LETTERS = str.maketrans(
    {"ß": "ss", "ø": "o", "Ø": "o", "æ": "ae", "Æ": "ae", "ł": "l", "Ł": "l", "đ": "d", "ı": "i"}
)

NAMES: Mapping[str, tuple[str, ...]] = {
    "day": (
        "date", "booking date", "posting date", "posted date", "post date", "transaction date",
        "trans date", "entry date", "posted", "completed date", "started date", "day",
        "date posted", "book date", "processed date",
        "buchungstag", "buchungsdatum", "datum", "buchung",
        "date operation", "date de l operation", "date d operation", "date comptable",
        "date de comptabilisation", "date d ecriture",
        "fecha", "fecha operacion", "fecha de operacion", "fecha contable", "f operacion",
        "data", "data operazione", "data contabile", "data registrazione", "data movimento",
        "boekdatum", "boekingsdatum", "transactiedatum", "rentedatum",
        "data mov", "data do movimento", "data movimento", "data operacao", "data de lancamento",
        "data lancamento", "data operacji", "data ksiegowania", "data transakcji",
        "bokforingsdag", "bokforingsdatum", "bokforingsdato", "transaktionsdag", "dato", "bogfort",
        "bogforingsdato", "posteringsdato", "kirjauspaiva", "kirjauspv", "paivamaara", "maksupaiva",
    ),
    "value_day": (
        "value date", "val date", "effective date", "valuta", "valutadatum", "wertstellung", "wert",
        "wertstellungstag", "date valeur", "date de valeur", "fecha valor", "f valor", "data valuta",
        "data valor", "rentedato", "data waluty", "valutadag", "rentedag", "arvopaiva",
    ),
    "amount": (
        "amount", "value", "transaction amount", "amount in account currency", "net amount", "sum",
        "betrag", "umsatz", "buchungsbetrag", "montant", "montant de l operation", "importe",
        "cantidad", "importo", "bedrag", "montante", "valor", "importancia", "quantia", "kwota",
        "kwota operacji",
        "belopp", "belob", "belop", "summa", "maara",
    ),
    "money_in": (
        "credit", "money in", "paid in", "credit amount", "receipts", "in", "deposits", "deposit",
        "credits", "lodgements", "lodged", "haben", "gutschrift", "eingang", "eingange", "credito",
        "haber", "abono", "abonos", "ingresos", "ingreso", "entrate", "accrediti", "avere", "bij",
        "bijschrijving", "creditbedrag", "entradas", "uznania", "wplywy", "wplyw", "ma", "insattning",
        "insattningar", "ind", "indsat", "inn", "inn pa konto", "panot",
    ),
    "money_out": (
        "debit", "money out", "paid out", "debit amount", "payments", "out", "withdrawals",
        "withdrawal", "debits", "withdrawn", "soll", "lastschrift", "belastung", "ausgang",
        "ausgange", "debe", "cargo", "cargos", "gastos", "gasto", "uscite", "addebiti", "dare", "af",
        "afschrijving", "debetbedrag", "saidas", "obciazenia", "wydatki", "wyplyw", "winien", "uttag",
        "ud", "haevet", "ut", "ut fra konto", "otot", "debito",
    ),
    "balance": (
        "balance", "running balance", "account balance", "ledger balance", "closing balance",
        "balance after", "available balance", "saldo", "kontostand", "saldo nach buchung", "solde",
        "solde courant", "saldo disponible", "saldo contabile", "saldo na boeking",
        "saldo na transactie", "saldo contabilistico", "saldo po operacji", "saldo koncowe",
        "behallning", "disponibelt belopp", "bokfort saldo", "tilin saldo",
    ),
    "reference": (
        "reference", "ref", "cheque", "cheque number", "cheque no", "check number", "check no", "check",
        "number", "serial number", "serial", "bank reference", "customer reference", "referenz",
        "kundenreferenz", "numero de cheque", "n cheque", "referencia", "num operacion", "riferimento",
        "referentie", "kenmerk", "betalingskenmerk", "nr referencyjny", "referens", "viite", "reference no",
    ),
    "bank_id": (
        "id", "transaction id", "bank id", "entry id", "unique id", "transaktions id", "fitid",
        "transactie id", "volgnr", "id operazione", "id operacion", "arkistointitunnus",
    ),
    "counterparty": (
        "payee", "name", "counterparty", "counterparty name", "beneficiary", "payer", "merchant",
        "merchant name", "other party", "empfanger", "zahlungsempfanger", "beguenstigter",
        "begunstigter", "beguenstigter zahlungspflichtiger", "begunstigter zahlungspflichtiger",
        "auftraggeber", "auftraggeber empfanger", "auftraggeber beguenstigter", "zahlungsbeteiligter",
        "name zahlungsbeteiligter", "beneficiaire", "tiers", "nom", "contrepartie", "beneficiario",
        "ordenante", "ordinante", "tegenpartij", "naam tegenpartij", "naam", "naam omschrijving",
        "kontrahent", "nadawca", "odbiorca", "nadawca odbiorca", "mottagare", "avsandare", "modtager",
        "mottaker", "saaja", "saaja maksaja",
    ),
    "text": (
        "description", "text", "details", "memo", "narrative", "particulars", "transaction details",
        "transaction description", "remittance information", "payment details", "notes", "information",
        "verwendungszweck", "buchungstext", "vorgang", "libelle", "libelle de l operation", "intitule",
        "detail de l operation", "nature de l operation", "concepto", "descripcion", "movimiento",
        "observaciones", "descrizione", "causale", "descrizione operazione", "dettagli", "omschrijving",
        "mededelingen", "mededeling", "descricao", "descritivo", "descricao do movimento", "historico",
        "opis", "opis operacji", "tytul", "tytul operacji", "szczegoly", "beskrivning", "beskrivelse",
        "tekst", "specifikation", "forklaring", "meddelande", "selitys", "viesti", "rubrik",
        "transaktion", "transaction",
    ),
    "side": (
        "debit credit", "credit debit", "dr cr", "cr dr", "d c", "c d", "dc", "type", "indicator", "sign",
        "transaction type", "soll haben kennzeichen", "soll haben", "s h", "kennzeichen", "af bij",
        "debet credit", "sens", "signo", "segno", "d h", "strona", "debe haber",
    ),
    "currency": (
        "currency", "ccy", "curr", "account currency", "wahrung", "waehrung", "devise", "moneda",
        "divisa", "valuta", "munt", "muntsoort", "moeda", "waluta", "valuutta",
    ),
    "account": (
        "iban", "account", "account number", "account no", "kontonummer", "konto", "iban auftragskonto",
        "auftragskonto", "compte", "numero de compte", "cuenta", "numero de cuenta", "conto", "rekening",
        "rekeningnummer", "conta", "rachunek", "numer rachunku", "tilinumero",
    ),
}  # fmt: skip
"""By field: the names of its column, plain (see `plain`)."""

INTO, OUT_OF = 1, -1
SIDES: Mapping[str, int] = {
    **dict.fromkeys("c cr credit h haben bij kredyt in haber avere +".split(), INTO),
    **dict.fromkeys("d dr dt debit s soll af debet out debe dare -".split(), OUT_OF),
}  # fmt: skip
"""What stands in a column that says which way the money went."""

BALANCE_WORDS = frozenset(
    "balance saldo solde kontostand opening closing brought carried forward anfangssaldo endsaldo "
    "inicial final iniziale finale beginsaldo eindsaldo poczatkowe koncowe ingaende utgaende report "
    "total totals summe totale sum somme suma totaal bf cf".split()
)
"""Rows of such words are balances and totals, no movements."""


def folded(text: str) -> str:
    """Without accents, in small letters."""
    bare = unicodedata.normalize("NFKD", text.translate(_LETTERS))
    return "".join(sign for sign in bare if not unicodedata.combining(sign)).casefold()


def plain(name: str) -> str:
    """A column's name as it is compared: letters alone, without accents, the currency or a unit."""
    words = re.sub(r"\([^()]*\)|\[[^\[\]]*\]", " ", folded(name))
    return " ".join(re.sub(r"[^a-z]+", " ", words).split())


def named(heading: Sequence[str], field: str, taken: Iterable[int | None] = ()) -> int | None:
    """The column of that field: by its whole name before by a part of it; None where none is."""
    used = set(taken)
    free = [(place, plain(name)) for place, name in enumerate(heading) if place not in used]
    whole = (place for name in NAMES[field] for place, text in free if text == name)
    # In part only longer names: `in` is within many a word.
    part = (
        place
        for name in NAMES[field]
        if len(name) > 3
        for place, text in free
        if f" {name} " in f" {text} "
    )
    return next(whole, next(part, None))
