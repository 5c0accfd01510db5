"""The pack: a client's finished work as at a day, gathered into parts, and written as files."""

import io
import zipfile
from collections.abc import Iterable, Iterator, Mapping
from datetime import date
from fractions import Fraction
from importlib import resources

from corkpost.core.analysis import Analysis, analysis, one_decimal
from corkpost.core.books import Books
from corkpost.core.checklists import StatedItem
from corkpost.core.financials import (
    PROFIT,
    BalanceSheet,
    ProfitAndLoss,
    Section,
    StatementRow,
    balance_sheet,
    equity_movements,
    money_moved,
    profit_and_loss,
)
from corkpost.core.formatting import format_date
from corkpost.core.kinds import AccountRole
from corkpost.core.open_items import BUCKETS, aged
from corkpost.core.owner_accounts import Nature, owner_statements
from corkpost.core.refusals import BadEntry
from corkpost.core.remarks import About, Remark, Thread
from corkpost.core.seal import lies_by, sealed_balances
from corkpost.core.tags import Tagged, TagRule, tagged
from corkpost.core.tie_outs.agreeing import StatedTieOut
from corkpost.core.trial_balance import BROUGHT_FORWARD
from corkpost.formats.pack import Cell, Column, Pack, Part, files_of
from corkpost.formats.tags import read_tags
from corkpost.services import remarks, review, sign_off, staff
from corkpost.services.papers import names_of_papers
from corkpost.services.rights import Person
from corkpost.services.tie_outs import TieOutRow, tie_outs
from corkpost.services.workplace import ClientState, Workplace
from corkpost.store.sign_off import SealRow


def _figure(name: str) -> Column:
    return Column(name, figure=True)


def pack_of(workplace: Workplace, person: Person, client_code: str, as_at: date) -> Pack:
    """The client's work as at the end of *as_at*, signed or not; what was overridden prints."""
    ledger = workplace.ledger(person, client_code)
    books = ledger.books
    year = books.calendar.year_of(as_at)
    needs = sign_off.readiness(workplace, person, client_code, as_at)
    waived = sign_off.waived(workplace, person, client_code, as_at)
    _, proofs = tie_outs(workplace, person, client_code, as_at)
    seal = _seal(ledger, as_at)
    signed = (
        (
            seal.prepared_by or "",
            seal.signed_by,
            format_date(date.fromisoformat(seal.signed_at[:10])),
        )
        if seal
        else None
    )
    parts = (
        _trial_balance(books, as_at),
        _profit_and_loss(profit_and_loss(books, year.first_day, as_at)),
        _balance_sheet(balance_sheet(books, as_at)),
        _tags(tagged(books, tag_rules(workplace), as_at)),
        _equity(books, year.first_day, as_at),
        _money(books, year.first_day, as_at),
        _reading(
            analysis(books, year.first_day, as_at), remarks.remarks(workplace, person, client_code)
        ),
        _tie_outs(proofs),
        _entries(books, year.first_day, as_at),
        _unadjusted(waived),
        _points(ledger, as_at),
        _aged(books, AccountRole.RECEIVABLES, "receivables", "What customers owe", as_at),
        _aged(books, AccountRole.PAYABLES, "payables", "What is owed to suppliers", as_at),
        _owners(books, year.first_day, as_at),
        Part(
            "sign-off",
            "What sign-off needs, and what was overridden",
            (Column("What", wide=2), Column("Met"), Column("How it stands", wide=4)),
            tuple(
                (condition.name, "yes" if condition.met else "no", condition.says)
                for condition in needs.conditions
            ),
            notes=_overridden(seal),
        ),
        _checklist(sign_off.checklist(workplace, person, client_code, as_at)),
        _remarks(
            remarks.remarks(workplace, person, client_code), names_of_papers(workplace, ledger)
        ),
    )
    return Pack(
        client=books.client.code,
        name=books.client.name,
        currency=books.client.currency,
        as_at=as_at,
        practice=staff.practice(workplace).name,
        made_at=f"{workplace.now:%-d %B %Y %H:%M}",
        facts=tuple(_facts(ledger, as_at, seal)),
        signed=signed,
        parts=parts,
    )


def written(pack: Pack) -> dict[str, bytes]:
    """Every file of the pack by its name: PDF, workbook, JSON and a CSV for each part."""
    from corkpost.pack.pack_pdf import pack_pdf
    from corkpost.pack.pack_xlsx import pack_xlsx

    return {"pack.pdf": pack_pdf(pack), "pack.xlsx": pack_xlsx(pack), **dict(files_of(pack))}


def zipped(pack: Pack) -> bytes:
    """The files of the pack in one zip. It states no time of its own."""
    made = io.BytesIO()
    with zipfile.ZipFile(made, "w", zipfile.ZIP_DEFLATED) as archive:
        for name, content in written(pack).items():
            archive.writestr(zipfile.ZipInfo(name), content, zipfile.ZIP_DEFLATED)
    return made.getvalue()


def _seal(ledger: ClientState, as_at: date) -> SealRow | None:
    standing = (seal for seal in reversed(ledger.seals) if seal.stands and seal.as_at == as_at)
    return next(standing, None)


def _facts(ledger: ClientState, as_at: date, seal: SealRow | None) -> Iterator[tuple[str, str]]:
    books = ledger.books
    year = books.calendar.year_of(as_at)
    yield "Year", f"{format_date(year.first_day)} to {format_date(year.last_day)}"
    yield "Kind of client", books.client.entity.replace("-", " ")
    yield "Amounts", f"{books.client.currency.code}; credits in brackets"
    if seal is None:
        yield "Sign-off", "Not signed: this is how it stands."
        return
    broken = seal.number in ledger.broken_seals
    yield "Prepared by", seal.prepared_by or "nobody of the practice"
    yield "Signed by", f"{seal.signed_by}, {seal.signed_at.replace('T', ' ')}"
    yield "Seal", seal.digest + (" (broken: the books moved underneath)" if broken else "")
    if not seal.second_person:
        yield "Second person", "none: the practice has only one who signs"


OWN_TAGS = "tags.csv"
"""In the data folder: the practice's own tags, in place of those that come with the program."""


def tag_rules(workplace: Workplace) -> tuple[TagRule, ...]:
    """The practice's own tags, else those that come with the program. Raises BadEntry."""
    own = workplace.database.folder / OWN_TAGS
    if own.is_file():
        try:
            return read_tags(own.read_text("utf-8"), OWN_TAGS)
        except UnicodeDecodeError:
            raise BadEntry([f"{OWN_TAGS} is not in UTF-8: save it so."]) from None
    given = resources.files("corkpost") / "tags" / "general.csv"
    return read_tags(given.read_text("utf-8"), "general.csv")


def _tags(rows: Iterable[Tagged]) -> Part:
    columns = (
        Column("Tag"),
        Column("What", wide=3),
        Column("Account"),
        Column("Name", wide=3),
        _figure("Amount"),
    )
    cells: tuple[tuple[Cell, ...], ...] = tuple(
        (row.tag or "no tag", row.tag_name, row.account, row.name, row.amount) for row in rows
    )
    note = "For tax and statutory programs. Debit positive; before the year's closing entries."
    return Part("tags", "Figures by tag", columns, cells, (note,), summed=True)


def _reading(found: Analysis, rows: Iterable[Thread]) -> Part:
    columns = (
        Column("Account", wide=3),
        _figure("Now"),
        _figure("A year earlier"),
        _figure("Change"),
        Column("Explanation", wide=4),
    )
    said = {
        thread.first.name: thread.first.text
        for thread in rows
        if thread.first.about is About.ACCOUNT
    }
    cells: tuple[tuple[Cell, ...], ...] = tuple(
        (
            f"{row.account} {row.name}",
            row.now,
            row.before,
            row.change,
            said.get(row.account, "asks for a word" if row.asks else ""),
        )
        for row in found.rows
    )
    notes = tuple(
        f"{ratio.name}: {_said(ratio.now)} {ratio.unit}, a year earlier "
        f"{_said(ratio.before)} ({ratio.how})."
        for ratio in found.ratios
        if ratio.now or ratio.before
    )
    return Part("reading", "Analytical reading", columns, cells, notes)


def _said(value: Fraction | None) -> str:
    return "not known" if value is None else one_decimal(value)


def _checklist(rows: Iterable[StatedItem]) -> Part:
    columns = (Column("What was seen to", wide=5), Column("By"), Column("On", wide=2))
    found: list[tuple[Cell, ...]] = [
        (
            row.item.says,
            row.tick.by if row.tick else "open",
            format_date(row.tick.at.date()) if row.tick else "",
        )
        for row in rows
    ]
    return Part("checklist", "Checklist", columns, tuple(found))


def _remarks(rows: Iterable[Thread], papers: Mapping[str, str]) -> Part:
    columns = (
        Column("On", wide=2),
        Column("Remark", wide=4),
        Column("Answers", wide=4),
        Column("Cleared", wide=2),
    )

    def words(said: Remark) -> str:
        paper = f"; with {papers.get(said.paper, 'a paper')}" if said.paper else ""
        return f"{said.text} ({said.by}){paper}"

    found: list[tuple[Cell, ...]] = [
        (
            f"{thread.first.about} {thread.first.name}",
            words(thread.first),
            "; ".join(map(words, thread.answers)),
            thread.first.cleared_by or ("waits" if thread.first.waits else ""),
        )
        for thread in rows
    ]
    return Part("remarks", "Remarks and notes", columns, tuple(found))


def _overridden(seal: SealRow | None) -> tuple[str, ...]:
    if seal is None or seal.override_reason is None:
        return ()
    return (f"Signed by {seal.signed_by} over what was missing: {seal.override_reason}",)


def _trial_balance(books: Books, as_at: date) -> Part:
    rows: list[tuple[Cell, ...]] = [
        (row.account, row.name, *_sides(row.balance)) for row in sealed_balances(books, as_at).rows
    ]
    columns = (Column("Account"), Column("Name", wide=3), _figure("Debit"), _figure("Credit"))
    note = "With every entry of ours; before the year's closing entries."
    return Part("trial-balance", "Trial balance", columns, tuple(rows), (note,), summed=True)


def _sides(amount: int) -> tuple[int | None, int | None]:
    return (amount, None) if amount > 0 else (None, -amount)


_STATEMENT = (
    Column("Section", wide=2),
    Column("Account", wide=3),
    _figure("Now"),
    _figure("A year earlier"),
)


def _profit_and_loss(found: ProfitAndLoss) -> Part:
    span = f"{format_date(found.first)} to {format_date(found.last)}."
    totals: list[tuple[Cell, ...]] = [
        ("Gross profit", "", found.gross_profit(), found.gross_profit(before=True)),
        ("Profit", "", found.profit(), found.profit(before=True)),
    ]
    return Part(
        "profit-and-loss",
        "Profit and loss",
        _STATEMENT,
        (*_statement_rows(found.rows), *totals),
        (span,),
    )


def _balance_sheet(found: BalanceSheet) -> Part:
    kept = (Section.EQUITY,)
    owed = found.liabilities(), found.liabilities(before=True)
    equity = found.total(*kept), found.total(*kept, before=True)
    totals: list[tuple[Cell, ...]] = [
        ("Assets", "", found.assets(), found.assets(before=True)),
        ("Liabilities", "", *owed),
        ("Equity", "", *equity),
    ]
    at = f"As at {format_date(found.at)}."
    rows = (*_statement_rows(found.rows), *totals)
    return Part("balance-sheet", "Balance sheet", _STATEMENT, rows, (at,))


def _statement_rows(rows: Iterable[StatementRow]) -> Iterator[tuple[Cell, ...]]:
    for row in rows:
        yield row.section, _named(row.account, row.name), row.amount, row.before


def _named(account: str, name: str) -> str:
    """What stands on no account has no number."""
    return name if account in (PROFIT, BROUGHT_FORWARD) else f"{account} {name}"


def _equity(books: Books, first: date, last: date) -> Part:
    columns = (
        Column("Account", wide=3),
        _figure("Stood at"),
        _figure("Moved"),
        _figure("Stands at"),
    )
    rows = tuple(
        (_named(row.account, row.name), row.opening, row.moved, row.closing)
        for row in equity_movements(books, first, last)
    )
    return Part("equity", "What moved equity", columns, rows, summed=True)


def _money(books: Books, first: date, last: date) -> Part:
    columns = (Column("Source", wide=3), _figure("Came"), _figure("Went"))
    rows = tuple((row.source.value, row.came, row.went) for row in money_moved(books, first, last))
    return Part("money", "Where money came from and went", columns, rows, summed=True)


def _tie_outs(rows: Iterable[TieOutRow]) -> Part:
    columns = (
        Column("What", wide=3),
        _figure("In the books"),
        _figure("From outside"),
        _figure("Difference"),
        Column("How it stands", wide=4),
    )
    found: list[tuple[Cell, ...]] = []
    for row in rows:
        proof = row.stated.tie_out
        found.append(
            (
                proof.title,
                proof.books,
                proof.outside,
                proof.difference,
                _standing(row.stated, row.at),
            )
        )
    return Part("tie-outs", "Tie-outs", columns, tuple(found))


def _standing(stated: StatedTieOut, at: str | None) -> str:
    proof, agreed = stated.tie_out, stated.agreed
    if agreed is None or stated.by is None:
        return f"not agreed. {proof.lacks}".strip()
    note = f": {agreed.note}" if agreed.note else ""
    said = f"agreed by {stated.by.by}, {(at or '').replace('T', ' ')}{note}"
    return f"fallen open; {said}; {'; '.join(stated.moved)}" if stated.moved else said


def _entries(books: Books, first: date, last: date) -> Part:
    columns = (
        Column("Entry"),
        Column("Date"),
        Column("Account", wide=2),
        Column("Reason", wide=3),
        _figure("Debit"),
        _figure("Credit"),
    )
    rows: list[tuple[Cell, ...]] = []
    for posted in books.tables.transactions:
        ours = posted.change is not None and first <= posted.posting_date <= last
        if not ours or posted.id in books.never_was:
            continue
        for place, line in enumerate(posted.lines):
            who = f", {books.party_name(line.party)}" if line.party else ""
            rows.append(
                (
                    posted.id if place == 0 else "",
                    posted.posting_date.isoformat() if place == 0 else "",
                    f"{line.account} {books.accounts[line.account].name}{who}",
                    (posted.reason or "") if place == 0 else "",
                    *_sides(line.amount),
                )
            )
    note = "Entries of ours that stand, with their reasons."
    return Part("entries", "Entries", columns, tuple(rows), (note,), summed=True)


def _unadjusted(waived: sign_off.Waived) -> Part:
    columns = (
        Column("What", wide=4),
        Column("Why it was waived", wide=3),
        _figure("Amount"),
        _figure("Profit"),
        _figure("Net assets"),
    )
    rows = tuple(
        (
            row.point.summary,
            f"{waived.decisions[row.point.id].reason} ({waived.decisions[row.point.id].made_by})",
            row.point.amount,
            row.profit,
            row.net_assets,
        )
        for row in waived.schedule.rows
    )
    limit = waived.books.client.currency.format_amount(waived.schedule.materiality)
    notes = (f"What correcting each would add. Materiality is {limit}.",)
    return Part("unadjusted", "Unadjusted differences", columns, rows, notes, summed=True)


def _points(ledger: ClientState, as_at: date) -> Part:
    columns = (
        Column("Point", wide=4),
        Column("Certainty", wide=2),
        Column("Outcome", wide=2),
        Column("Reason", wide=4),
        _figure("Amount"),
    )
    rows: list[tuple[Cell, ...]] = []
    for stated in review.stated_points(ledger):
        known = [name for name in stated.point.transactions if name in ledger.books.transactions]
        if not lies_by(ledger.books, stated.point._replace(transactions=tuple(known)), as_at):
            continue
        decision = stated.decision
        by = f" by {decision.made_by}" if decision and stated.state != "open" else ""
        reason = decision.reason if decision and stated.state != "open" else ""
        rows.append(
            (
                stated.point.summary,
                stated.point.level,
                f"{stated.state}{by}",
                reason,
                stated.point.amount,
            )
        )
    return Part("points", "Points of the review", columns, tuple(rows))


def _aged(books: Books, role: AccountRole, name: str, title: str, as_at: date) -> Part:
    columns = (
        Column("Party", wide=3),
        *(_figure(bucket) for bucket in BUCKETS),
        _figure("Together"),
    )
    rows: tuple[tuple[Cell, ...], ...] = tuple(
        (
            books.party_name(aged_party.party) if aged_party.party else "without a party",
            *(aged_party.buckets[bucket] for bucket in BUCKETS),
            aged_party.total,
        )
        for aged_party in aged(books, role, as_at)
        if aged_party.total or aged_party.items
    )
    return Part(name, title, columns, rows, ("By days past due.",), summed=True)


def _owners(books: Books, first: date, last: date) -> Part:
    columns = (Column("Account", wide=3), Column("What moved it", wide=3), _figure("For the owner"))
    rows: list[tuple[Cell, ...]] = []
    for account in owner_statements(books, first, last):
        rows.append((account.account.name, f"stood at {format_date(first)}", account.opening))
        moved = {row.nature: row.amount for row in account.moved}
        rows += [("", nature.value, moved[nature]) for nature in Nature if nature in moved]
        rows.append(("", f"stands at {format_date(last)}", account.closing))
    return Part("owners", "Owners' accounts", columns, tuple(rows))
