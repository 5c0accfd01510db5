"""Taking in what clients really send."""

import json
from pathlib import Path
from typing import Any

import click

from corkpost.cli.context import Work, as_json, client_code, pass_work, print_json, tell
from corkpost.core.kinds import Entity
from corkpost.core.money import Currency
from corkpost.core.periods import parse_year_end
from corkpost.formats.listings.answers import (
    chart_answer,
    file_answer,
    proof_answer,
    proposed_answer,
    question_answer,
)
from corkpost.services import listing_answers as kept
from corkpost.services import listings

FILE = click.Path(path_type=Path, dir_okay=False)
ASKED = 3
"""The exit code where something has to be answered first."""


@click.command("take-in")
@client_code
@click.argument(
    "files", nargs=-1, required=True, type=click.Path(path_type=Path, exists=True, dir_okay=False)
)
@click.option("--new", "name", metavar="NAME", help="Make the client, with this name.")
@click.option(
    "--entity", type=click.Choice([e.value for e in Entity]), default=Entity.COMPANY.value
)
@click.option("--year-end", default="12-31", metavar="MM-DD", show_default=True)
@click.option("--currency", default="EUR", show_default=True)
@click.option(
    "--answers",
    type=click.Path(path_type=Path, exists=True, dir_okay=False),
    help='Answers to what was asked, as JSON by question; {"*": "proposed"} takes every proposal.',
)
@click.option("--preview", is_flag=True, help="Say what would come; take nothing in.")
@as_json
@pass_work
def take_in(
    work: Work,
    client: str,
    files: tuple[Path, ...],
    name: str | None,
    entity: str,
    year_end: str,
    currency: str,
    answers: Path | None,
    preview: bool,
    as_json: bool,
) -> None:
    """Ledgers, trial balances, open items, charts, as they come: CSV, XLSX, XLS, ODS, in any columns."""
    new = _new_client(name, entity, year_end, currency) if name else None
    outcome = listings.take_in(
        work.workplace,
        work.person,
        client,
        files,
        new=new,
        answers=_answers(answers),
        preview=preview,
        tell=tell,
    )
    if outcome.questions:
        _ask(outcome, as_json)
        return
    if outcome.faults:
        raise listings.Refused(outcome.faults)
    assert outcome.taken is not None
    taken, made = outcome.taken, outcome.made
    proofs = [proof_answer(row, outcome.currency) for row in made.proofs] if made else []
    offered = outcome.proposed if new is None else None
    proposal = proposed_answer(offered, outcome.currency) if offered else None
    if as_json:
        print_json(
            {
                "client": client,
                "proposed": proposal.model_dump() if proposal else None,
                "files": [file_answer(row) for row in outcome.files],
                **{k: v for k, v in taken._asdict().items() if k not in ("client", "warnings")},
                "proofs": proofs,
                "accounts": chart_answer(made) if made else [],
                "warnings": list(taken.warnings),
            }
        )
        return
    for row in outcome.files:
        says = f"{row.path}, sheet {row.sheet}" if row.sheet else row.path
        how = f"; {', '.join(row.how)}" if row.how else ""
        click.echo(f"{says}: read as {row.read_as}, {row.used} of {row.rows} rows{how}")
    if proposal:
        click.echo(
            f"Proposed: {proposal.name or 'no name is said'}, {proposal.entity}, year-end "
            f"{proposal.year_end}, {proposal.currency}: {proposal.why}."
        )
    failing = [proof for proof in proofs if proof["ours"] != proof["theirs"]]
    click.echo(f"{len(proofs) - len(failing)} of {len(proofs)} figures of the files agree.")
    for proof in failing:
        click.echo(f"  {proof['what']}: read {proof['ours']}, written {proof['theirs']}")
    click.echo(
        f"{client}: {taken.transactions} transactions with {taken.lines} lines; {taken.new} new, "
        f"{taken.changed} changed, {taken.removed} removed."
        + (" Nothing was written." if preview else "")
    )


def _new_client(name: str, entity: str, year_end: str, currency: str) -> listings.NewClient:
    try:
        end = parse_year_end(year_end)
    except ValueError as wrong:
        raise click.UsageError(f"--year-end {year_end}: write it as 12-31.") from wrong
    money = Currency(currency)
    if not money.is_known:
        raise click.UsageError(f"--currency {currency} is none: write three capitals, as EUR.")
    return listings.NewClient(name, Entity(entity), end, money)


def _answers(file: Path | None) -> dict[str, str]:
    if file is None:
        return {}
    found = _json(file)
    if not isinstance(found, dict) or not all(isinstance(v, str) for v in found.values()):
        raise click.UsageError(f"{file}: answers are texts, by the question's id.")
    return found


def _json(file: Path) -> Any:
    try:
        return json.loads(file.read_text("utf-8"))
    except ValueError as wrong:
        raise click.UsageError(f"{file} is no JSON: {wrong}.") from wrong


def _ask(outcome: listings.Outcome, as_json: bool) -> None:
    if as_json:
        print_json({"questions": [question_answer(row) for row in outcome.questions]})
    else:
        for row in outcome.questions:
            click.echo(f"{row.id}\n  {row.text}")
            for choice in row.choices:
                mark = "*" if choice.value == row.proposed else " "
                click.echo(f"  {mark} {choice.value}: {choice.text} {choice.example}".rstrip())
        click.echo("Answer them in a JSON file, and call it again with --answers.", err=True)
    raise SystemExit(ASKED)


@click.command("listing-answers")
@client_code
@click.option("--forget", is_flag=True, help="Forget them: the next file asks anew.")
@click.option("--to", "to", type=FILE, help="Write them to a file, for another client or practice.")
@click.option("--from", "brought", type=FILE, help="Take in those that such a file holds.")
@as_json
@pass_work
def listing_answers(
    work: Work, client: str, forget: bool, to: Path | None, brought: Path | None, as_json: bool
) -> None:
    """What was answered about a client's lists and is not asked again."""
    if brought is not None:
        count = kept.brought(work.workplace, work.person, client, _json(brought))
        click.echo(f"{count} taken in.", err=True)
    found, names = kept.answers(work.workplace, work.person, client)
    if as_json:
        print_json([{"key": row.key, **row._asdict()} for row in found])
    for row in found if not as_json else ():
        called = names.get(row.layout) or row.layout
        click.echo(f"{row.about}: {row.words}  ({row.by}, {row.at[:10]}; {called})")
    if to is not None:
        document = kept.given_out(work.workplace, work.person, client)
        to.write_text(json.dumps(document, ensure_ascii=False, indent=1), "utf-8")
        click.echo(f"Written to {to}.", err=True)
    if forget:
        count = kept.forget_all(work.workplace, work.person, client)
        click.echo(f"{count} forgotten.", err=as_json)


COMMANDS = (take_in, listing_answers)
