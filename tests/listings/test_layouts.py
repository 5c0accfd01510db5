"""Every layout comes to the figures of the books that it was written from."""

from collections import defaultdict
from datetime import date
from functools import cache

import pytest

from corkpost.core.books import ClientFacts
from corkpost.core.chart.trade_words import by_name
from corkpost.core.intake.making import as_said, made_of
from corkpost.core.kinds import Entity
from corkpost.demo.labelled import labelled
from corkpost.formats.listings.names import by_journal
from corkpost.formats.listings.questions import Answers
from corkpost.formats.listings.sheets import read_sheets
from corkpost.formats.listings.understanding import understand
from tests.builders import TODAY
from tests.listings.rendering import STYLES, Renderer
from tests.notation import EUR

DAYS = (date(2025, 3, 31), date(2025, 12, 31), date(2026, 6, 30), date(2026, 10, 31))
CLIENT = ClientFacts("NEW", "New", Entity.COMPANY, EUR, (12, 31))


def held(transactions, day, name=lambda code, _party: code):
    sums: dict[str, int] = defaultdict(int)
    for posted in transactions:
        if posted.posting_date <= day:
            for line in posted.lines:
                sums[name(line.account, line.party)] += line.amount
    return {code: amount for code, amount in sums.items() if amount}


@cache
def source_of(number):
    """Books of made-up clients, whose codes of accounts are all of the ledger's own kind."""
    return labelled((2, 4, 5, 6, 10)[number % 5]).books


@pytest.mark.parametrize(
    ("number", "style"), list(enumerate(STYLES)), ids=lambda of: getattr(of, "name", "")
)
def test_every_layout_comes_to_the_same_balances_at_four_days(number, style, tmp_path):
    source = source_of(number)
    renderer = Renderer(source, style)
    path = renderer.write(renderer.ledger(), tmp_path / "ledger")
    answers = Answers({})
    understood = understand(read_sheets(path), EUR, answers, TODAY)
    assert understood.faults == []
    assert answers.asked == []
    made = made_of(as_said(understood.raw, by_name), CLIENT, None, by_journal)
    assert made.faults == ()
    assert [proof for proof in made.proofs if not proof.holds] == []
    names = {account.code: account.name for account in source.tables.accounts}
    by_name_alone = style.accounts == "name"
    for day in DAYS:
        theirs = held(
            source.tables.transactions, day, lambda code, _: names[code] if by_name_alone else code
        )
        ours = held(made.tables.transactions, day)
        if style.parties == "personal":
            for code in source.control_accounts:
                role = source.accounts[code].role.value.upper()
                ours[code] = ours.pop(role, ours.get(code, 0))
        assert ours == theirs


def test_the_types_of_accounts_are_found_without_being_said(tmp_path):
    """But for a few of some hundred and thirty that lie where their names would not have them."""
    wrong, looked_at = [], 0
    for number in range(5):
        source = source_of(number)
        renderer = Renderer(source, STYLES[0])
        path = renderer.write(renderer.ledger(), tmp_path / f"ledger {number}")
        raw = understand(read_sheets(path), EUR, Answers({}), TODAY).raw
        made = made_of(as_said(raw, by_name), CLIENT, None, by_journal)
        for account in made.tables.accounts:
            looked_at += 1
            theirs = source.accounts[account.code].type
            if account.type is not theirs:
                wrong.append((account.name, account.type.value, theirs.value))
    assert looked_at > 120
    assert len(wrong) <= 7, wrong
