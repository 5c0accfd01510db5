"""Books in and out, and what they say: trial balance, worksheet, aged lists."""

import csv
import sys
from datetime import date
from pathlib import Path

import click

from corkpost.cli.context import (
    At,
    Work,
    as_json,
    client_code,
    pass_work,
    print_json,
    shown,
    table,
    tell,
)
from corkpost.core import financials
from corkpost.core.cells import plain_cell
from corkpost.core.kinds import AccountRole
from corkpost.core.trial_balance import Basis, Closing, Column
from corkpost.formats import answers
from corkpost.formats.financials import (
    FinancialStatementAnswer,
    balance_sheet_answer,
    profit_and_loss_answer,
)
from corkpost.services import books, client_lists, handover, overview

FOLDER = click.Path(path_type=Path)


@click.command("import-books")
@click.argument("path", type=FOLDER)
@click.option("--preview", is_flag=True, help="Say what newer books would move; take nothing in.")
@as_json
@pass_work
def import_books(work: Work, path: Path, preview: bool, as_json: bool) -> None:
    """Take in a books folder or zip, or a standard audit file: a new client, or a refresh of one."""
    if preview:
        _preview(books.look_at(work.workplace, work.person, path, tell), as_json)
        return
    taken = books.take_in(work.workplace, work.person, path, tell)
    if as_json:
        print_json({**taken._asdict(), "warnings": list(taken.warnings)})
        return
    click.echo(
        f"{taken.client}: {taken.transactions} transactions with {taken.lines} lines; "
        f"{taken.new} new, {taken.changed} changed, {taken.removed} removed."
    )
    for warning in taken.warnings:
        click.echo(f"note: {warning}")


def _preview(coming: books.Coming | None, as_json: bool) -> None:
    found = books.newer_books_answer(coming) if coming else None
    if as_json:
        print_json(found or {})
    elif found is None:
        click.echo("There is nothing to compare: a new client, or nothing new.")
    else:
        click.echo(
            f"{found.client}: {found.new} new, {found.changed} changed, {found.removed} removed."
        )
        for month in found.moves.months:
            state = f" ({month.finished})" if month.finished else ""
            counts = f"{month.new} new, {month.changed} changed, {month.removed} removed"
            click.echo(f"{month.first_day} to {month.last_day}{state}: {counts}")
        for row in found.moves.rows:
            click.echo(f"{row.id}: {row.before or 'not there'} -> {row.now or 'gone'}")
        for moved in found.moves.finished:
            click.echo(f"moves {moved.account} {moved.name}: {moved.before} -> {moved.after}")
        for day in found.broken:
            click.echo(f"breaks the seal as at {day}")
        for ours in found.moves.ours:
            click.echo(f"ours too: {ours.summary}")


@click.command("export-books")
@client_code
@click.argument("folder", type=FOLDER)
@click.option("--as-received", is_flag=True, help="Without our corrections.")
@pass_work
def export_books(work: Work, client: str, folder: Path, as_received: bool) -> None:
    """Write the client's books as a books folder."""
    books.give_out(work.workplace, work.person, client, folder, as_received=as_received)
    click.echo(f"{client} written to {folder}.")


@click.command("hand-over")
@client_code
@click.argument("file", type=FOLDER)
@pass_work
def hand_over(work: Work, client: str, file: Path) -> None:
    """Write everything of a client into one zip with a readable index: lists as CSV and a workbook, papers,
    and the books."""
    file.write_bytes(handover.hand_over(work.workplace, work.person, client))
    click.echo(f"{client} written to {file}.")


@click.command("export-list")
@client_code
@click.argument("name", metavar="LIST")
@click.argument("file", type=FOLDER)
@pass_work
def export_list(work: Work, client: str, name: str, file: Path) -> None:
    """Write one list of a client's books, with every correction: as CSV, or as a workbook where FILE ends
    in .xlsx. The lists: ledger, trial-balance-DAY, open-items-customers, open-items-suppliers, accounts,
    parties."""
    made = client_lists.list_xlsx if file.suffix == ".xlsx" else client_lists.list_csv
    file.write_bytes(made(work.workplace, work.person, client, name))
    click.echo(f"{name} of {client} written to {file}.")


@click.command("export-audit-file")
@client_code
@click.option("--year", "year", required=True)
@click.argument("file", type=FOLDER)
@pass_work
def export_audit_file(work: Work, client: str, year: str, file: Path) -> None:
    """Write a year of the client's books as a standard audit file."""
    books.give_out_audit_file(work.workplace, work.person, client, year, file)
    click.echo(f"{client}, {year}, written to {file}.")


@click.command("trial-balance")
@client_code
@click.option("--at", "at", type=At(), required=True)
@click.option("--column", type=click.Choice([c.value for c in Column]), default="adjusted")
@click.option("--without-closing", is_flag=True, help="Leave out the year's closing entries.")
@click.option("--basis", type=click.Choice([b.value for b in Basis]), default="accruals")
@as_json
@click.option("--csv", "as_csv", is_flag=True)
@pass_work
def trial_balance(
    work: Work,
    client: str,
    at: date,
    column: str,
    without_closing: bool,
    basis: str,
    as_json: bool,
    as_csv: bool,
) -> None:
    """The trial balance at the end of a day; on a cash basis what is open is neither cost nor income."""
    closing = Closing.OUT if without_closing else Closing.IN
    found = overview.client_trial_balance(
        work.workplace,
        work.person,
        client,
        at,
        column=Column(column),
        closing=closing,
        basis=Basis(basis),
    )
    answer = answers.trial_balance_answer(
        found, overview.chart(work.workplace, work.person, client)
    )
    if as_json:
        print_json(answer)
    elif as_csv:
        writer = csv.writer(sys.stdout, lineterminator="\n")
        writer.writerow(("account", "name", "type", "balance"))
        writer.writerows(
            (row.account, plain_cell(row.name), row.type, row.balance) for row in answer.rows
        )
    else:
        click.echo(f"{client}: trial balance at {at}, {column}")
        rows: list[tuple[str, ...]] = [
            (row.account, row.name, shown(row.balance)) for row in answer.rows
        ]
        table(
            [*rows, ("", "Debits", shown(answer.debits)), ("", "Credits", shown(answer.credits))], 1
        )


@click.command("worksheet")
@client_code
@click.option("--year", required=True, help="The year's label.")
@click.option("--at", "at", type=At(), help="As at this day (default: the year's last).")
@click.option("--against", metavar="LABEL", help="The earlier year beside it (default: the last).")
@click.option("--from", "first", type=At(), help="Income and costs from this day on alone.")
@click.option("--dimension", metavar="NAME=CODE", help="What stands on it alone, as site=QUAY.")
@click.option("--with-closing", is_flag=True, help="Closing entries in a column of their own.")
@as_json
@click.option("--xlsx", type=FOLDER, help="Write it as a spreadsheet.")
@pass_work
def worksheet(
    work: Work,
    client: str,
    year: str,
    at: date | None,
    against: str | None,
    first: date | None,
    dimension: str | None,
    with_closing: bool,
    as_json: bool,
    xlsx: Path | None,
) -> None:
    """As received, corrections, adjusting, adjusted."""
    found_books, found = overview.client_worksheet(
        work.workplace,
        work.person,
        client,
        year,
        at,
        against,
        first=first,
        closing=Closing.IN if with_closing else Closing.OUT,
        dimension=dimension,
    )
    answer = answers.worksheet_answer(found, found_books)
    if xlsx:
        # Takes half a second to import: only who wants a paper waits for it.
        from corkpost.pack.worksheet_xlsx import write_worksheet

        write_worksheet(answer, found_books.client.name, xlsx)
        click.echo(f"written to {xlsx}", err=True)
    if as_json:
        print_json(answer)
    elif not xlsx:
        names = (
            "last_year",
            "as_received",
            "corrections",
            "adjusting",
            "reclassifications",
            "adjusted",
        )
        rows: list[tuple[str, ...]] = [("No.", "Account", *names)]
        rows += [(r.account, r.name, *(shown(getattr(r, n)) for n in names)) for r in answer.rows]
        rows.append(("", "Total", *(shown(getattr(answer.totals, n)) for n in names)))
        table(rows, len(names))


@click.command("aged")
@client_code
@click.argument("which", type=click.Choice(["receivables", "payables"]))
@click.option("--at", "at", type=At(), required=True)
@as_json
@pass_work
def aged(work: Work, client: str, which: str, at: date, as_json: bool) -> None:
    """What is open at the end of a day, party by party, by age."""
    role = AccountRole(which)
    found_books, parties = overview.client_aged(work.workplace, work.person, client, role, at)
    proof = overview.proof_of_control(found_books, role, at)
    answer = answers.aged_answer(parties, proof, found_books, at)
    if as_json:
        print_json(answer)
        return
    click.echo(f"{client}: {which} at {at}")
    heads = list(parties[0].buckets) if parties else []
    rows: list[tuple[str, ...]] = [("Party", *heads, "Total")]
    rows += [
        (party.name, *(shown(sum_) for sum_ in party.buckets.values()), shown(party.total))
        for party in answer.parties
    ]
    rows.append(("Total", *("" for _ in heads), shown(answer.total)))
    table(rows, len(heads) + 1)
    click.echo(
        f"Control account {shown(answer.control)}, held by parties {shown(answer.proof.held)}"
    )
    for cause in answer.proof.causes:
        click.echo(f"  {cause.says} {shown(cause.amount) if cause.amount else ''}")


@click.command("profit-and-loss")
@client_code
@click.option("--from", "first", type=At(), required=True)
@click.option("--to", "last", type=At(), required=True)
@click.option(
    "--by", "dimensions", default=None, metavar="NAME=CODE", help="Of this dimension only."
)
@as_json
@pass_work
def profit_and_loss(
    work: Work, client: str, first: date, last: date, dimensions: str | None, as_json: bool
) -> None:
    """Income and costs of a span, beside the span a year earlier."""
    books = overview.chart(work.workplace, work.person, client)
    found = financials.profit_and_loss(books, first, last, dimensions=dimensions)
    _print_statement(profit_and_loss_answer(found, books), as_json)


@click.command("balance-sheet")
@client_code
@click.option("--at", "at", type=At(), required=True)
@as_json
@pass_work
def balance_sheet(work: Work, client: str, at: date, as_json: bool) -> None:
    """What is owned, owed and kept at the end of a day, beside the same a year earlier."""
    books = overview.chart(work.workplace, work.person, client)
    found = balance_sheet_answer(financials.balance_sheet(books, at), books)
    _print_statement(found, as_json)


def _print_statement(found: FinancialStatementAnswer, as_json: bool) -> None:
    if as_json:
        print_json(found.model_dump(mode="json"))
        return
    rows: list[tuple[str, ...]] = [
        (row.section, f"{row.account} {row.name}", shown(row.amount), shown(row.before))
        for row in found.rows
    ]
    rows += [
        ("", name.replace("_", " "), shown(amount), shown(found.totals[f"{name}_before"]))
        for name, amount in found.totals.items()
        if not name.endswith("_before")
    ]
    table(rows, 2)


COMMANDS = (
    profit_and_loss,
    balance_sheet,
    import_books,
    export_books,
    export_list,
    hand_over,
    export_audit_file,
    trial_balance,
    worksheet,
    aged,
)
