"""Tie-outs, the proofs of a trial balance; and the pack that hands all of it over."""

from datetime import date
from pathlib import Path

import click

from corkpost.cli.context import At, Work, as_json, client_code, pass_work, print_json, shown, table
from corkpost.core.keying import keyed_amount
from corkpost.core.tie_outs.agreeing import AgreeTieOut
from corkpost.formats.tie_outs import TieOutAnswer, tie_out_answer
from corkpost.services import acts, sign_off
from corkpost.services import pack as packs
from corkpost.services import tie_outs as service
from corkpost.services.papers import keep_copy
from corkpost.services.posting import PostRequest


@click.command("tie-outs")
@client_code
@click.option("--at", "at", type=At(), required=True)
@click.option("--agree", "name", default=None, metavar="ID", help="Agree this one.")
@click.option("--note", default="", help="Why a difference stands.")
@click.option("--outside", default=None, metavar="AMOUNT", help="Of a paper, debit positive.")
@click.option("--paper", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@as_json
@pass_work
def tie_outs(
    work: Work,
    client: str,
    at: date,
    name: str | None,
    note: str,
    outside: str | None,
    paper: Path | None,
    as_json: bool,
) -> None:
    """Every proof of the trial balance as at a day; or agree one."""
    if name:
        _agree(work, client, at, name, note, outside, paper)
    books, rows = service.tie_outs(work.workplace, work.person, client, at)
    found = [tie_out_answer(row.stated, row.at, books) for row in rows]
    if as_json:
        print_json([record.model_dump(mode="json") for record in found])
        return
    table([("Proof", "State", "Books", "Outside", "Difference"), *map(_row, found)], 3)


def _agree(
    work: Work,
    client: str,
    at: date,
    name: str,
    note: str,
    outside: str | None,
    paper: Path | None,
) -> None:
    currency = work.workplace.ledger(work.person, client).books.client.currency
    kept = None
    if paper:
        kept = keep_copy(work.workplace, work.person, client, paper.name, paper.read_bytes())
    keyed = keyed_amount(outside, currency) if outside is not None else None
    act = AgreeTieOut(name, at, note, keyed, kept, paper.name if paper else None)
    acts.post(work.workplace, work.person, client, act, PostRequest(note))


def _row(record: TieOutAnswer) -> tuple[str, ...]:
    outside = shown(record.outside) if record.outside is not None else "not known"
    difference = shown(record.difference) if record.difference is not None else ""
    state = f"{record.state}, {record.by}" if record.by else record.state
    return f"{record.id}: {record.title}", state, shown(record.books), outside, difference


@click.command("pack")
@client_code
@click.option("--at", "at", type=At(), required=True)
@click.option("--to", "folder", type=click.Path(path_type=Path, file_okay=False), required=True)
@pass_work
def pack(work: Work, client: str, at: date, folder: Path) -> None:
    """Write the client's finished work as at a day: PDF, workbook, JSON, and its tables as CSV."""
    files = packs.written(packs.pack_of(work.workplace, work.person, client, at))
    folder.mkdir(parents=True, exist_ok=True)
    for name, content in files.items():
        (folder / name).write_bytes(content)
    click.echo(f"{client}: {len(files)} files written to {folder}.")


@click.command("seal")
@client_code
@click.option("--at", "at", type=At(), required=True)
@pass_work
def seal(work: Work, client: str, at: date) -> None:
    """The text that a seal as at a day is the SHA-256 of, a row a line."""
    click.echo(sign_off.sealed_form(work.workplace, work.person, client, at), nl=False)


COMMANDS = (tie_outs, pack, seal)
