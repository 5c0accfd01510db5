"""Statement files: each format whole, untidy and cut off; what they are shows in their content."""

import re
from dataclasses import replace
from datetime import date
from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from corkpost.core.kinds import StatementFormat
from corkpost.core.money import Currency
from corkpost.formats.statements import apart
from corkpost.formats.statements.csv_days import day_orders
from corkpost.formats.statements.csv_table import Columns, NeedsColumns, columns_of, layout_of
from corkpost.formats.statements.parsed import UnreadableStatement, decimal_in
from corkpost.formats.statements.reading import read_statement
from corkpost.stand_ins.statement_files import BankLine, BankStatement, written

EUR = Currency("EUR")
MAY = BankStatement(
    "EE001200",
    EUR,
    date(2026, 5, 1),
    date(2026, 5, 31),
    1234056,
    (
        BankLine(date(2026, 5, 4), -21156, "RW-0131 & sons", "RW0131", "Reedwharf Fuels", "B1"),
        BankLine(date(2026, 5, 18), 24800, "2026-044", None, "Oystercatcher Hotels", "B2"),
        BankLine(date(2026, 5, 18), -350, "COFFEE", None, None, "B3"),
        BankLine(date(2026, 5, 18), -350, "COFFEE", None, None, "B4"),
    ),
)
JUNE = replace(MAY, first_day=date(2026, 6, 1), last_day=date(2026, 6, 30), opening=MAY.closing)
FORMATS = list(StatementFormat)


def money(amount):
    return EUR.parse(f"{amount:.2f}")


@pytest.mark.parametrize("format_", FORMATS)
def test_each_format_gives_the_same_lines_and_balances(format_):
    found = read_statement(written(format_, [MAY]))
    (statement,) = found.statements
    assert found.format is format_
    assert [(line.day, money(line.amount), line.bank_id) for line in statement.lines] == [
        (line.day, line.amount, line.bank_id) for line in MAY.lines
    ]
    assert [line.number for line in statement.lines] == [1, 2, 3, 4]
    assert (statement.lines[0].reference, "Reedwharf Fuels" in statement.lines[0].text) == (
        "RW0131",
        True,
    )
    assert money(statement.closing) == MAY.closing
    if format_ is not StatementFormat.OFX:
        assert money(statement.opening) == MAY.opening


@pytest.mark.parametrize("format_", [f for f in FORMATS if f is not StatementFormat.CSV])
def test_several_statements_in_one_file_keep_apart_and_number_on(format_):
    first, second = read_statement(written(format_, [MAY, JUNE])).statements
    assert [line.number for line in second.lines] == [5, 6, 7, 8]
    assert money(second.closing) - money(first.closing) == JUNE.closing - MAY.closing


@pytest.mark.parametrize("format_", FORMATS)
def test_a_file_cut_off_anywhere_is_refused_or_whole_lines_of_it_are_read(format_):
    content = written(format_, [MAY, JUNE] if format_ is not StatementFormat.CSV else [MAY])
    whole = [line for s in read_statement(content).statements for line in s.lines]
    for end in range(10, len(content), 10):
        try:
            found = read_statement(content[:end])
        except UnreadableStatement:
            continue
        if found.warnings:
            assert "look whether it is whole" in found.warnings[0]
            continue
        lines = [line for s in found.statements for line in s.lines]
        # Cut off between two statements, or in a CSV between two rows, a file looks whole.
        assert format_ is StatementFormat.CSV or len(lines) % 4 == 0
        assert [line.amount for line in lines] == [line.amount for line in whole[: len(lines)]]


@settings(max_examples=60)
@given(
    st.binary(max_size=400), st.sampled_from([b"", b"<OFX><STMTRS>", b":25:1\n:60F:", b"camt.05<"])
)
def test_no_bytes_make_a_reader_fall_over(content, begins):
    with pytest.raises(UnreadableStatement):
        read_statement(begins + content)


# -- what real files look like


def test_ofx_2_with_closing_tags_and_a_comma_is_read_alike():
    text = """<?xml version="1.0"?><?OFX OFXHEADER="200"?><OFX><BANKMSGSRSV1><STMTTRNRS><STMTRS>
    <CURDEF>EUR</CURDEF><BANKACCTFROM><ACCTID>12</ACCTID></BANKACCTFROM><BANKTRANLIST>
    <DTSTART>20260501</DTSTART><DTEND>20260531</DTEND>
    <STMTTRN><TRNTYPE>DEBIT</TRNTYPE><DTPOSTED>20260504230000[-5:EST]</DTPOSTED><TRNAMT>-12,50</TRNAMT>
    <FITID>1</FITID><NAME>Fish &amp; Co</NAME></STMTTRN>
    </BANKTRANLIST><LEDGERBAL><BALAMT>87.50</BALAMT><DTASOF>20260531</DTASOF></LEDGERBAL>
    <AVAILBAL><BALAMT>9999.00</BALAMT><DTASOF>20260531</DTASOF></AVAILBAL></STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>"""
    (statement,) = read_statement(text.encode()).statements
    (line,) = statement.lines
    # The day is the file's own, whatever its time zone.
    assert (line.day, line.amount, line.text) == (date(2026, 5, 4), Decimal("-12.50"), "Fish & Co")
    assert (statement.closing, statement.identifier) == (Decimal("87.50"), "12")


def test_a_balance_of_another_day_is_not_the_statements():
    content = written(StatementFormat.OFX, [MAY]).replace(b"<DTASOF>20260531", b"<DTASOF>20260720")
    assert read_statement(content).statements[0].closing is None


CAMT = """<Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.{version}"><BkToCstmrStmt><Stmt>
<Acct><Id><Othr><Id>77</Id></Othr></Id></Acct>
<Bal><Tp><CdOrPrtry><Cd>PRCD</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">100.00</Amt><CdtDbtInd>CRDT</CdtDbtInd></Bal>
<Bal><Tp><CdOrPrtry><Cd>CLBD</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">20.00</Amt><CdtDbtInd>DBIT</CdtDbtInd>
<Dt><Dt>2026-05-31</Dt></Dt></Bal>
<Ntry><Amt Ccy="EUR">120.00</Amt><CdtDbtInd>DBIT</CdtDbtInd><RvslInd>true</RvslInd><Sts>{booked}</Sts>
<BookgDt><DtTm>2026-05-04T23:30:00+02:00</DtTm></BookgDt><AcctSvcrRef>X1</AcctSvcrRef>
<NtryDtls><TxDtls><RltdPties><Cdtr><Nm>One</Nm></Cdtr></RltdPties><Amt Ccy="EUR">70.00</Amt></TxDtls>
<TxDtls><RltdPties><Cdtr><Nm>Two</Nm></Cdtr></RltdPties><Amt Ccy="EUR">50.00</Amt></TxDtls></NtryDtls></Ntry>
<Ntry><Amt Ccy="EUR">9.00</Amt><CdtDbtInd>DBIT</CdtDbtInd><Sts>{pending}</Sts>
<BookgDt><Dt>2026-05-05</Dt></BookgDt></Ntry></Stmt></BkToCstmrStmt></Document>"""


@pytest.mark.parametrize(
    ("version", "booked", "pending"),
    [
        ("02", "BOOK", "PDNG"),
        ("08", "<Cd>BOOK</Cd>", "<Cd>PDNG</Cd>"),
        ("11", "<Cd>BOOK</Cd>", "<Cd>PDNG</Cd>"),
    ],
)
def test_camt_counts_booked_entries_once_whatever_details_they_have(version, booked, pending):
    content = CAMT.format(version=version, booked=booked, pending=pending).encode()
    (statement,) = read_statement(content).statements
    (line,) = statement.lines
    assert (line.day, line.amount, line.text) == (date(2026, 5, 4), Decimal("-120.00"), "One Two")
    assert (statement.opening, statement.closing) == (Decimal("100.00"), Decimal("-20.00"))
    assert (statement.identifier, statement.last_day) == ("77", date(2026, 5, 31))


def test_xml_that_declares_entities_is_refused():
    bomb = (
        b'<!DOCTYPE d [<!ENTITY a "b">]>'
        + CAMT.format(version="08", booked="BOOK", pending="PDNG").encode()
    )
    with pytest.raises(UnreadableStatement, match="document type"):
        read_statement(bomb)


def test_mt940_reversals_and_pages_of_one_statement():
    content = b""":20:A\n:25:AVERIN/12\n:28C:7/1\n:60F:C260430EUR100,00
:61:2605040504RC5,00NTRFNONREF\n:86:CREDIT TAKEN BACK\n:62M:C260504EUR95,00\n-
:20:A\n:25:AVERIN/12\n:28C:7/2\n:60M:C260504EUR95,00
:61:2605050505C1,5NTRFREF9//B2\n:86:166?00ENTRY?20INVOICE 12?32LITTLE AUK CLUB\n:62F:C260531EUR96,50\n-\n"""
    (statement,) = read_statement(content).statements
    first, second = statement.lines
    assert (first.amount, first.reference) == (Decimal("-5.00"), None)
    assert (second.amount, second.text, second.counterparty) == (
        Decimal("1.5"),
        "LITTLE AUK CLUB INVOICE 12",
        "LITTLE AUK CLUB",
    )
    assert (statement.opening, statement.closing) == (Decimal("100.00"), Decimal("96.50"))


# -- CSV

GERMAN = """Konto;DE12
Zeitraum;Mai

Buchungstag;Wertstellung;Name;Verwendungszweck;Betrag;Saldo
18.05.2026;18.05.2026;M\u00fcller & S\u00f6hne;Rechnung 44;1.248,00;1.336,44
04.05.2026;04.05.2026;Reedwharf;RW 131;-211,56;88,44
"""


def test_a_csv_that_its_running_balance_proves_needs_no_asking():
    (statement,) = read_statement(GERMAN.encode("cp1252")).statements
    old, new = statement.lines
    assert (old.day, old.amount, new.counterparty) == (
        date(2026, 5, 4),
        Decimal("-211.56"),
        "M\u00fcller & S\u00f6hne",
    )
    assert (statement.opening, statement.closing) == (Decimal("300.00"), Decimal("1336.44"))


NO_BALANCE = (
    "Date,Details,Money out,Money in\n04/05/2026,REEDWHARF,211.56,\n05/06/2026,HOTEL,,248.00\n"
)


def test_a_csv_that_may_be_read_two_ways_is_asked_about_once_with_a_guess():
    with pytest.raises(NeedsColumns) as asked:
        read_statement(NO_BALANCE.encode())
    guessed = asked.value.guessed
    assert guessed is not None
    assert asked.value.layout.heading == ("Date", "Details", "Money out", "Money in")
    assert (guessed.day, guessed.text, guessed.money_in, guessed.money_out) == (0, (1,), 3, 2)
    chosen = columns_of(replace(guessed, day_order="dmy").as_json())
    (statement,) = read_statement(NO_BALANCE.encode(), chosen).statements
    assert [(line.day, line.amount) for line in statement.lines] == [
        (date(2026, 5, 4), Decimal("-211.56")),
        (date(2026, 6, 5), Decimal("248.00")),
    ]
    assert statement.opening is None


def test_signs_that_are_turned_round_are_proved_by_the_balance():
    text = (
        "Date,Description text,Amount,Balance\n2026-05-04,A,10.00,90.00\n2026-05-05,B,-5.00,95.00\n"
    )
    (statement,) = read_statement(text.encode()).statements
    assert [line.amount for line in statement.lines] == [Decimal("-10.00"), Decimal("5.00")]


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("", "empty"),
        ("hello", "No heading was found"),
        ("date,description,amount\n2026-05-04,A,ten\n", "row 2: there is no amount"),
        (
            "date,description,amount\n2026-05-04,A,1.00\n31.12.2026,A,1.00\n",
            "row 3: '31.12.2026' is no day",
        ),
    ],
)
def test_a_csv_that_makes_no_sense_is_refused_with_the_row(text, says):
    with pytest.raises(UnreadableStatement, match=says):
        read_statement(text.encode(), Columns(day=0, text=(1,), amount=2) if "," in text else None)


@pytest.mark.parametrize(
    ("text", "amount"),
    [
        ("1.234,56", "1234.56"),
        ("1,234.56", "1234.56"),
        ("1'234.56", "1234.56"),
        ("1\u202f234,5", "1234.5"),
        ("-12", "-12"),
        ("\u221212,50", "-12.50"),
        ("12,50-", "-12.50"),
        ("(3.10)", "-3.10"),
        (",75", "0.75"),
        ("12 EUR", "12"),
        ("-€ 1.234,56", "-1234.56"),
        ("EUR -12.50", "-12.50"),
        ("12.50 DR", "-12.50"),
        ("12.50Cr", "12.50"),
        ("12 pieces", None),
        ("1.2.3", None),
        ("", None),
    ],
)
def test_amounts_as_banks_write_them(text, amount):
    assert decimal_in(text) == (None if amount is None else Decimal(amount))


def test_the_order_of_days_is_told_from_the_whole_column():
    assert day_orders(["04/05/2026", "13/05/2026"]) == ["dmy"]
    assert day_orders(["04/05/2026", "05/06/2026"]) == ["dmy", "mdy"]
    assert day_orders(["20260504"]) == ["ymd"]


# -- as banks really write them


def table(*rows):
    return "\n".join(rows) + "\n"


LANGUAGES = {
    "en": table("Transaction Date,Details,Debit,Credit,Balance",
                "13/05/2026,SHOP,12.50,,100.00", "14/05/2026,CLIENT,,\"1,250.00\",\"1,350.00\""),
    "de": table("Buchungstag;Wertstellung;Verwendungszweck;Umsatz;Soll/Haben;Saldo",
                "13.05.2026;13.05.2026;SHOP;12,50;S;100,00", "14.05.2026;14.05.2026;CLIENT;1.250,00;H;1.350,00"),
    "fr": table("Date op\u00e9ration;Date valeur;Libell\u00e9;D\u00e9bit;Cr\u00e9dit",
                "13/05/2026;13/05/2026;SHOP;12,50;", "14/05/2026;14/05/2026;CLIENT;;1 250,00"),
    "es": table("Fecha;Concepto;Importe;Saldo", "13/05/2026;SHOP;-12,50;100,00",
                "14/05/2026;CLIENT;1.250,00;1.350,00"),
    "it": table("Data contabile;Data valuta;Descrizione;Dare;Avere",
                "13/05/2026;13/05/2026;SHOP;12,50;", "14/05/2026;14/05/2026;CLIENT;;1.250,00"),
    "nl": table('"Datum","Rekening","Af Bij","Bedrag (EUR)","Mededelingen"',
                '"20260513","NL11","Af","12,50","SHOP"', '"20260514","NL11","Bij","1250,00","CLIENT"'),
    "pt": table("Data Mov.;Data Valor;Descri\u00e7\u00e3o;Import\u00e2ncia;Saldo Contabil\u00edstico",
                "13-05-2026;13-05-2026;SHOP;-12,50;100,00", "14-05-2026;14-05-2026;CLIENT;1.250,00;1.350,00"),
    "pl": table("Data operacji;Opis operacji;Kwota;Saldo po operacji", "2026-05-13;SHOP;-12,50;100,00",
                "2026-05-14;CLIENT;1 250,00;1 350,00"),
    "sv": table("Bokf\u00f6ringsdag;Belopp;Rubrik;Saldo", "2026-05-13;-12,50;SHOP;100,00",
                "2026-05-14;1250,00;CLIENT;1350,00"),
    "no heading": table("13/05/2026,SHOP,-12.50,100.00", "14/05/2026,CLIENT,1250.00,1350.00"),
    "words for months": table("Date,Narrative,Paid out,Paid in,Balance", "13 May 2026,SHOP,12.50,,100.00",
                              "14 May 2026,CLIENT,,1250.00,1350.00"),
    "old line ends": table("Date,Description,Amount,Balance", "13/05/2026,SHOP,-12.50,100.00",
                           "14/05/2026,CLIENT,1250.00,1350.00").replace("\n", "\r"),
    "balances and totals among it": table(
        "Account: 12", "Date,Description,Amount,Balance", "12/05/2026,Opening balance,,112.50",
        "13/05/2026,SHOP,-12.50,100.00", "14/05/2026,CLIENT,1250.00,1350.00", ",Total,1237.50,"),
}  # fmt: skip


@pytest.mark.parametrize("which", LANGUAGES)
@pytest.mark.parametrize("encoding", ["utf-8", "cp1252", "utf-16-le"])
def test_a_heading_in_plain_words_is_understood_and_not_asked_about(which, encoding):
    (statement,) = read_statement(LANGUAGES[which].encode(encoding)).statements
    assert [(line.day, line.amount, line.text) for line in statement.lines] == [
        (date(2026, 5, 13), Decimal("-12.50"), "SHOP"),
        (date(2026, 5, 14), Decimal("1250.00"), "CLIENT"),
    ]


@pytest.mark.parametrize(
    "text",
    [
        table("Date,Description,Amount", "13/05/2026,SHOP,12.50", "14/05/2026,CLIENT,1250.00"),
        table("Date,Description,Amount", "03/05/2026,SHOP,-12.50", "04/06/2026,CLIENT,1250.00"),
        table("13/05/2026,SHOP,-12.50", "14/05/2026,CLIENT,1250.00"),
    ],
)
def test_it_is_asked_about_where_two_readings_fit(text):
    with pytest.raises(NeedsColumns) as asked:
        read_statement(text.encode())
    assert asked.value.guessed is not None


def test_the_order_of_the_rows_tells_the_order_of_day_and_month():
    assert day_orders(["01/06/2026", "04/06/2026", "02/07/2026"]) == ["dmy"]


OFX_HEAD = "OFXHEADER:100\nVERSION:102\nENCODING:USASCII\nCHARSET:1252\n\n"
OFX_BODY = (
    "<OFX><SIGNONMSGSRSV1><SONRS><STATUS><CODE>0<SEVERITY>INFO</STATUS></SONRS></SIGNONMSGSRSV1>"
    "<BANKMSGSRSV1><STMTTRNRS><STMTRS><CURDEF>EUR<BANKTRANLIST><DTSTART>20260501<DTEND>20260531"
    "<STMTTRN><TRNTYPE>DEBIT<DTPOSTED>20260513<TRNAMT>-12.50<FITID>1<NAME>Caf\u00e9</STMTTRN>"
    "</BANKTRANLIST><LEDGERBAL><BALAMT>100.00<DTASOF>20260531</LEDGERBAL>"
    "<BANKACCTFROM><ACCTID>IE12</BANKACCTFROM>"
)
OFX_ENDS = "</STMTRS></STMTTRNRS></BANKMSGSRSV1></OFX>"
XML_HEAD = (
    '<?xml version="1.0" encoding="ISO-8859-1"?>\n'
    '<?OFX NEWFILEUID="NONE" SECURITY="NONE" VERSION="211" OFXHEADER="200"?>\n'
)


@pytest.mark.parametrize(
    "text",
    [
        OFX_HEAD + OFX_BODY + OFX_ENDS,
        OFX_HEAD + OFX_BODY,
        XML_HEAD + OFX_BODY + OFX_ENDS,
        OFX_HEAD + OFX_BODY.replace("<BANKTRANLIST>", "<!-- <STMTTRN> --><BANKTRANLIST>") + OFX_ENDS,
        OFX_HEAD + OFX_BODY.replace("STMTRS>", "INVSTMTRS>").replace("BANKTRANLIST", "INVTRANLIST")
        .replace("<STMTTRN>", "<INVBANKTRAN><STMTTRN>").replace("</STMTTRN>", "</STMTTRN></INVBANKTRAN>"),
    ],
)  # fmt: skip
def test_ofx_with_its_declared_letters_comments_missing_ends_and_an_investment_account_s_bank_lines(
    text,
):
    (statement,) = read_statement(text.encode("cp1252")).statements
    assert [(line.amount, line.text) for line in statement.lines] == [
        (Decimal("-12.50"), "Caf\u00e9")
    ]
    assert statement.identifier == "IE12"


def test_what_an_ofx_file_says_went_wrong_is_told_and_one_that_breaks_off_is_refused():
    error = "<CODE>15500<SEVERITY>ERROR<MESSAGE>Invalid signon</STATUS></SONRS></OFX>\n"
    with pytest.raises(UnreadableStatement, match=r"The bank says: Invalid signon \(15500\)"):
        read_statement(f"{OFX_HEAD}<OFX><SONRS><STATUS>{error}".encode())
    with pytest.raises(UnreadableStatement, match="cut off"):
        read_statement((OFX_HEAD + OFX_BODY[: OFX_BODY.index("<FITID>")]).encode())


MT = ":20:X\n:25:IE12BANK\n:28C:1/1\n"
MOVED = ":61:2604300430D12,50NMSCREF//B1\n:86:SHOP\n"


@pytest.mark.parametrize(
    ("text", "closing", "warned"),
    [
        (f"{MT}:34F:EURD0,\n:13D:2604301000+0100\n{MOVED}:90D:1EUR12,50\n-\n", None, True),
        (f"{MT}:60F:C260331EUR100,00\n{MOVED}", None, True),
        (f"{MT}:60F:C260331EUR100,00\n{MOVED}:62F:C260431EUR87,50\n-\n", "87.50", False),
    ],
)
def test_interim_reports_no_closing_balance_and_the_31_of_april(text, closing, warned):
    found = read_statement(text.encode())
    (statement,) = found.statements
    assert [(line.day, line.amount) for line in statement.lines] == [
        (date(2026, 4, 30), Decimal("-12.50"))
    ]
    assert statement.closing == (Decimal(closing) if closing else None)
    assert bool(found.warnings) is warned
    assert statement.currency == "EUR"


def test_a_table_without_rows_is_a_statement_in_which_nothing_happened():
    (statement,) = read_statement(b"Date,Description,Amount,Balance\n").statements
    assert statement.lines == ()


def test_a_large_file_is_read_in_a_process_of_its_own_within_limits(monkeypatch):
    small = written(StatementFormat.CAMT053, [MAY, JUNE])
    unsure = b"a,b,c\n1,2,3\n"
    monkeypatch.setattr(apart, "SMALL", 0)
    assert apart.read_within_limits(small) == read_statement(small)
    with pytest.raises(UnreadableStatement) as here:
        read_statement(unsure)
    with pytest.raises(type(here.value), match=re.escape(str(here.value))):
        apart.read_within_limits(unsure)
    asked = b"day,text,x,y\n2026-05-04,a,1.00,2.00\n2026-05-05,a,1.00,2.00\n"
    with pytest.raises(NeedsColumns) as needed:
        apart.read_within_limits(asked)
    assert needed.value.layout == layout_of(asked)
    monkeypatch.setattr(apart, "SECONDS", 0)
    with pytest.raises(UnreadableStatement, match="more time or memory"):
        apart.read_within_limits(small)
