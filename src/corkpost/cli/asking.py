"""Finding, questions to the client, and parties that are one."""

import os
from pathlib import Path
from typing import Any

import click

from corkpost.cli.context import Work, as_json, client_code, pass_work, print_json, shown, table
from corkpost.core.acts import Merge
from corkpost.core.receipts import Method
from corkpost.services import acts, queries, receipts
from corkpost.services import bookkeeper as telling
from corkpost.services import find as finding
from corkpost.services.find import FoundLine, FoundPosting
from corkpost.services.mail import mail_named
from corkpost.services.posting import PostRequest


@click.command("find")
@click.argument("text")
@click.option("--client", default=None, help="In this client alone.")
@as_json
@pass_work
def find(work: Work, text: str, client: str | None, as_json: bool) -> None:
    """Find postings, lines of statements, parties, accounts by words and sums."""
    finding.catch_up(work.workplace)
    found = finding.find(work.workplace, work.person, text, client)
    named = (*found.accounts, *found.parties)
    if as_json:
        print_json(
            {
                "accounts": [hit._asdict() for hit in found.accounts],
                "parties": [hit._asdict() for hit in found.parties],
                "postings": [_plain(hit, "total") for hit in found.postings],
                "statement_lines": [_plain(row, "amount") for row in found.statement_lines],
            }
        )
        return
    rows: list[tuple[str, ...]] = [(hit.client, hit.code, hit.name, hit.what, "") for hit in named]
    for posting in found.postings:
        words = posting.reference or posting.memo or ""
        amount = shown(posting.currency.format(posting.total))
        rows.append((posting.client, posting.id, str(posting.date), words, amount))
    for line in found.statement_lines:
        amount = shown(line.currency.format(line.amount))
        rows.append((line.client, line.account, str(line.date), line.text, amount))
    if rows:
        table(rows, figures=1)
    else:
        click.echo("Nothing begins with that.")


def _plain(row: FoundPosting | FoundLine, field: str) -> dict[str, Any]:
    """What was found, with its sum as a decimal and the currency's code."""
    amount = row.currency.format(getattr(row, field))
    return {**row._asdict(), field: amount, "currency": row.currency.code}


@click.group("queries")
def group() -> None:
    """Questions to the client."""


@group.command("list")
@client_code
@as_json
@pass_work
def listed(work: Work, client: str, as_json: bool) -> None:
    """Every question with what came back."""
    board = queries.board(work.workplace, work.person, client)
    today = work.workplace.today
    if as_json:
        print_json(
            [
                {
                    "number": query.number,
                    "state": query.state(today).value,
                    "question": query.question,
                    "point": query.point,
                    "transactions": list(query.transactions),
                    "answers": [answer.text for answer in query.answers],
                }
                for query in board.queries
            ]
        )
        return
    for query in board.queries:
        click.echo(f"{query.number}  {query.state(today)}  {query.question}")
        for answer in query.answers:
            click.echo(f"    {answer.text}")


@group.command("contact")
@client_code
@click.argument("name")
@click.argument("email")
@pass_work
def contact(work: Work, client: str, name: str, email: str) -> None:
    """Say who answers for the client."""
    queries.set_contact(work.workplace, work.person, client, name, email)
    click.echo(f"{client}: {name}, {email}, answers.")


@group.command("send")
@client_code
@click.argument("numbers", type=int, nargs=-1, required=True)
@pass_work
def send(work: Work, client: str, numbers: tuple[int, ...]) -> None:
    """Send these questions as one message."""
    work.workplace.mail = mail_named(os.environ)
    letter = queries.send(work.workplace, work.person, client, numbers)
    click.echo(f"{client}: {len(numbers)} sent to {letter.to.name}, {letter.to.email}.")


@group.command("look")
@pass_work
def look(work: Work) -> None:
    """Look into the practice's mailbox for answers."""
    work.workplace.mail = mail_named(os.environ)
    click.echo(f"{queries.look_for_answers(work.workplace)} came.")


@click.command("merge-party")
@client_code
@click.argument("keep")
@click.argument("other")
@click.option("--reason", required=True)
@pass_work
def merge(work: Work, client: str, keep: str, other: str, reason: str) -> None:
    """Read all that was booked for the party OTHER under the party KEEP."""
    act = Merge(keep, other)
    posted = acts.post(work.workplace, work.person, client, act, PostRequest(reason))
    click.echo(f"{client}: change {posted.number}, {other} is read as {keep}.")


@click.command("receipt")
@client_code
@click.argument("transaction")
@click.option("--method", type=click.Choice(list(Method)), default=None, help="How it came.")
@click.option("--to", default=None, help="The address to send it to.")
@click.option("--out", type=click.Path(path_type=Path), default=None, help="Write it here as PDF.")
@pass_work
def receipt(
    work: Work, client: str, transaction: str, method: str | None, to: str | None, out: Path | None
) -> None:
    """Issue a receipt for money that came in: by mail, or as a file. Again: a copy of it."""
    work.workplace.mail = mail_named(os.environ)
    workplace, person = work.workplace, work.person
    issued = receipts.issue(workplace, person, client, transaction, method=method, to=to)
    name, content = receipts.paper(workplace, person, client, issued.number, len(issued.issues))
    if out:
        out.write_bytes(content)
    went = [f"sent to {to}"] if to else []
    went += [f"written to {out}"] if out else []
    click.echo(f"{client}: {name.removesuffix('.pdf')}, {' and '.join(went) or 'issued'}.")


@click.command("bookkeeper")
@client_code
@click.option("--told", is_flag=True, help="What was told before as well.")
@click.option("--send", "to", default=None, help="Send it to this address, and mark it as told.")
@click.option("--out", type=click.Path(path_type=Path), default=None, help="Write the PDF here.")
@pass_work
def bookkeeper(work: Work, client: str, told: bool, to: str | None, out: Path | None) -> None:
    """What we entered, in the words of the client's bookkeeper."""
    work.workplace.mail = mail_named(os.environ)
    found = telling.for_bookkeeper(work.workplace, work.person, client, told_too=told)
    if out:
        out.write_bytes(telling.paper(work.workplace, found))
    if to:
        telling.tell(work.workplace, work.person, client, telling.numbers_of(found), to)
        click.echo(f"{client}: sent to {to}.")
    elif found.items or found.taken_back:
        click.echo(telling.body(work.workplace, work.person, found))
    else:
        click.echo(f"{client}: the bookkeeper was told everything.")


COMMANDS = (find, group, merge, receipt, bookkeeper)
