"""Small lists, each for one thing that a list may say in its own way."""

from datetime import date
from fractions import Fraction

import pytest

from corkpost.core.books import ClientFacts
from corkpost.core.chart.trade_words import by_name
from corkpost.core.intake.making import as_said, made_of
from corkpost.core.kinds import Entity
from corkpost.formats.listings.names import by_journal
from corkpost.formats.listings.questions import About, Answers
from corkpost.formats.listings.sheets import read_sheets, sheets_in
from corkpost.formats.listings.understanding import understand
from tests.builders import TODAY
from tests.notation import EUR

CLIENT = ClientFacts("NEW", "New", Entity.COMPANY, EUR, (12, 31))


@pytest.fixture
def read(tmp_path):
    """Understood and made: of files by name, with answers by what they are about."""

    def reads(answers: dict[str, str] | None = None, **files: str):
        paths = []
        for name, text in files.items():
            (tmp_path / f"{name}.csv").write_text(text)
            paths.append(tmp_path / f"{name}.csv")
        sheets = [sheet for path in paths for sheet in read_sheets(path)]
        asked = Answers({})
        understand(sheets, EUR, asked, TODAY)
        said = {q.id: (answers or {}).get(q.about, q.proposed) for q in asked.asked}
        found = understand(sheets, EUR, Answers(said), TODAY)
        assert found.faults == []
        return {q.about for q in asked.asked}, made_of(
            as_said(found.raw, by_name), CLIENT, None, by_journal
        )

    return reads


# -- months in columns


def months(*rows: str, heads: str = "Jan 2026,Feb 2026,Mar 2026") -> str:
    return "\n".join(
        [
            "Trial balance as at 31 March 2026",
            "",
            f"Account,Account name,{heads}",
            *rows,
        ]
    )


MOVED = (
    "1200,Bank,100.00,50.00,-20.00",
    "4000,Sales,-100.00,-80.00,0.00",
    "5000,Rent,0.00,30.00,20.00",
)


def held_at(made, day: date) -> dict[str, int]:
    sums: dict[str, int] = {}
    for posted in made.tables.transactions:
        for line in posted.lines:
            if posted.posting_date <= day:
                sums[line.account] = sums.get(line.account, 0) + line.amount
    return {code: amount for code, amount in sums.items() if amount}


def test_months_that_nothing_proves_are_asked_for_what_they_hold(read):
    asked, made = read({About.MONTHS: "moved"}, tb=months(*MOVED))
    assert About.MONTHS in asked
    assert held_at(made, date(2026, 3, 31)) == {"1200": 13000, "4000": -18000, "5000": 5000}
    _, made = read({About.MONTHS: "held"}, tb=months(*MOVED))
    assert held_at(made, date(2026, 3, 31)) == {"1200": -2000, "5000": 2000}


@pytest.mark.parametrize(
    ("closing", "march"),
    [
        (("130.00", "-180.00", "50.00"), {"1200": 13000, "4000": -18000, "5000": 5000}),
        (("-20.00", "0.00", "20.00"), {"1200": -2000, "5000": 2000}),
    ],
    ids=["moved", "held"],
)
def test_a_column_of_what_the_months_come_to_tells_what_they_hold(read, closing, march):
    rows = [f"{row},{end}" for row, end in zip(MOVED, closing, strict=True)]
    asked, made = read(tb=months(*rows, heads="Jan,Feb,Mar,Closing balance"))
    assert About.MONTHS not in asked
    assert held_at(made, date(2026, 3, 31)) == march


def test_a_ledger_that_came_with_them_tells_what_months_hold(read):
    ledger = "\n".join(
        ["Entry no,Date,Account,Account name,Description,Debit,Credit"]
        + [
            f"{number},2026-{month:02d}-20,{account},{name},x,{debit},{credit}"
            for number, (month, out, into, amount) in enumerate(
                [(1, "4000", "1200", "100.00"), (2, "4000", "1200", "80.00"),
                 (2, "1200", "5000", "30.00"), (3, "1200", "5000", "20.00")]
            )
            for account, name, debit, credit in (
                (into, NAMES[into], amount, ""), (out, NAMES[out], "", amount)
            )
        ]
    )  # fmt: skip
    asked, _ = read(tb=months(*MOVED), ledger=ledger)
    assert About.MONTHS not in asked


NAMES = {"1200": "Bank", "4000": "Sales", "5000": "Rent"}

# -- journals, tax, parties

LEDGER = (
    "Entry no,Date,Journal,Account,Account name,Document no,Tax code,Description,Debit,Credit\n"
)


def entry(number: int, journal: str, *rows: str) -> str:
    return "".join(f"{number},2026-02-{number:02d},{journal},{row}\n" for row in rows)


def test_what_a_journal_is_called_tells_what_its_entries_are(read):
    text = LEDGER + "".join(
        [
            entry(1, "Operations diverses", "411000,Clients,,,correction,,50.00",
                  "5000,Rent,,,correction,50.00,"),
            entry(2, "Operations diverses", "411000,Clients,F-9,,work,123.00,",
                  "4000,Sales,F-9,,work,,123.00"),
            entry(3, "Paie", "6410,Personnel cost,,,february,900.00,",
                  "4210,Personnel owed,,,february,,900.00"),
            entry(4, "Paie", "4210,Personnel owed,,,paid,900.00,", "1200,Bank,,,paid,,900.00"),
            entry(5, "Recettes", "1200,Bank,,,day,60.00,", "4000,Sales,,,day,,60.00"),
            entry(6, "Bank", "1200,Bank,,,day,60.00,", "4000,Sales,,,day,,60.00"),
        ]
    )  # fmt: skip
    _, made = read(ledger=text)
    assert [row.kind.value for row in made.tables.transactions] == [
        "journal", "sales-invoice", "payroll", "direct-payment", "takings", "direct-receipt",
    ]  # fmt: skip


def test_a_tax_rate_is_what_entries_reckon_by_and_not_the_figure_in_its_code(read):
    text = LEDGER + "".join(
        entry(day, "Sales", f"411000,Clients,F-{day},,work,{net + tax:.2f},",
              f"4000,Sales,F-{day},9,work,,{net:.2f}", f"2400,VAT payable,F-{day},,work,,{tax:.2f}")
        for day, net, tax in ((1, 100, 19), (2, 33.33, 6.33), (3, 250, 47.5), (4, 80, 15.2))
    )  # fmt: skip
    _, made = read(ledger=text)
    (tax,) = made.tables.taxes
    assert (tax.code, tax.rate) == ("9", Fraction(19))


def test_a_party_that_only_the_text_names_is_found_where_one_alone_is(read):
    text = LEDGER + "".join(
        [
            entry(1, "Sales", "1100,Trade debtors,F-1,,Moss Hall Trust work,50.00,",
                  "4000,Sales,F-1,,work,,50.00"),
            entry(2, "Sales", "1100,Trade debtors,F-2,,\"work, Moss Hall and Moss Hall Trust\",50.00,",
                  "4000,Sales,F-2,,work,,50.00"),
            entry(3, "Sales", "1100,Trade debtors,F-3,,Mosshall,50.00,", "4000,Sales,F-3,,work,,50.00"),
        ]
    )  # fmt: skip
    parties = "Customer no,Customer name\nC1,Moss Hall\nC2,Moss Hall Trust\nC3,Quay\n"
    _, made = read(ledger=text, customers=parties)
    assert [row.party for row in made.tables.transactions] == ["C2", "C2", None]


@pytest.mark.parametrize(
    ("title", "name"),
    [
        ("Marlow Garden Care - payments 2026", "Marlow Garden Care"),
        ("Alder Gardens - trial balance - 30 September 2026", "Alder Gardens"),
        ("Smith - Jones Partners", "Smith - Jones Partners"),
        ("Income Advisers Ltd", "Income Advisers Ltd"),
        ("General ledger - Main office", None),
    ],
)
def test_what_stands_over_a_table_names_its_client_without_what_the_table_is(title, name):
    text = f"{title}\nAccount,Name,Debit,Credit\n1200,Bank,5.00,\n3000,Capital,,5.00\n"
    found = understand(sheets_in("tb.csv", text.encode()), EUR, Answers({}), TODAY)
    assert found.names == ([name] if name else [])
