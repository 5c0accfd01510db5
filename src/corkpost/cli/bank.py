"""Bank statements in, and the state of a reconciliation."""

from pathlib import Path
from typing import Any

import click

from corkpost.cli.context import Work, as_json, client_code, pass_work, print_json, shown
from corkpost.core.acts import AgreeSure
from corkpost.core.books import Books
from corkpost.core.foreign import currency_of_account
from corkpost.core.points import Level
from corkpost.formats.answers import statement_line_answer
from corkpost.formats.statements.csv_table import Columns, NeedsColumns
from corkpost.formats.statements.parsed import UnreadableStatement
from corkpost.services import acts, bank, statements
from corkpost.services.bank import BankState
from corkpost.services.posting import PostRequest


def _columns(text: str | None) -> Columns | None:
    """Columns from `day=0,text=1+2,amount=3,day_order=dmy`, numbered from 0."""
    if not text:
        return None
    facts: dict[str, Any] = {}
    for part in text.split(","):
        name, _, value = part.partition("=")
        if name.strip() == "text":
            facts["text"] = tuple(int(place) for place in value.split("+"))
        elif name.strip() == "day_order":
            facts["day_order"] = value.strip()
        elif name.strip() == "turned":
            facts["turned"] = value.strip() == "yes"
        else:
            facts[name.strip()] = int(value)
    return Columns(**{"text": (), **facts})


@click.command("import-statement")
@client_code
@click.argument("account")
@click.argument("file", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@click.option("--columns", help="Of a CSV, from 0: day=0,text=1+2,amount=3,day_order=dmy.")
@click.option("--sure", is_flag=True, help="It is of that account, whatever speaks against it.")
@as_json
@pass_work
def import_statement(
    work: Work,
    client: str,
    account: str,
    file: Path,
    columns: str | None,
    sure: bool,
    as_json: bool,
) -> None:
    """Take in a bank statement: OFX, camt.053, MT940, CSV or a spreadsheet, by what is in it."""
    try:
        chosen = _columns(columns)
    except (ValueError, TypeError):
        raise click.UsageError("Write columns as day=0,text=1+2,amount=3,day_order=dmy.") from None
    try:
        found = statements.take_in(
            work.workplace,
            work.person,
            client,
            file.name,
            file.read_bytes(),
            account,
            chosen,
            sure=sure,
        )
    except NeedsColumns as asked:
        names = ", ".join(f"{place} {name!r}" for place, name in enumerate(asked.layout.heading))
        raise UnreadableStatement(
            f"It is not certain which column is what: {names}. Say it with --columns, as in "
            "day=0,text=1+2,amount=3,day_order=dmy."
        ) from None
    books = work.workplace.ledger(work.person, client).books
    answers = [
        {
            "account": intake.account,
            "lines": intake.lines,
            "already": intake.already,
            "opening": _sum(books, intake.account, intake.opening),
            "closing": _sum(books, intake.account, intake.closing),
            "from": intake.first_day.isoformat(),
            "to": intake.last_day.isoformat(),
            "warnings": list(intake.warnings),
            "settled": list(intake.settled),
        }
        for intake in found
    ]
    if as_json:
        print_json(answers[0] if len(answers) == 1 else answers)
        return
    for taken in found:
        click.echo(
            f"{client}: {taken.new} new lines of {taken.account}, {taken.already} known, "
            f"{taken.first_day} to {taken.last_day}."
        )
        for note in (*taken.warnings, *taken.settled):
            click.echo(f"note: {note}")


@click.command("reconcile")
@client_code
@click.argument("account")
@click.option(
    "--statement", type=int, help="Its number; the first that is not finished unless said."
)
@click.option(
    "--agree", type=click.Choice(["sure", "likely"]), help="Agree what is so certain first."
)
@click.option("--finish", is_flag=True, help="Finish it at a difference of nil.")
@as_json
@pass_work
def reconcile(
    work: Work,
    client: str,
    account: str,
    statement: int | None,
    agree: str | None,
    finish: bool,
    as_json: bool,
) -> None:
    """The state of a reconciliation, with what looks the same on both sides."""
    workplace, person = work.workplace, work.person
    found = bank.state(workplace, person, client, account, statement)
    number = found.look.state.statement.number
    if agree:
        act = AgreeSure(account, number, Level(agree))
        acts.post(workplace, person, client, act, PostRequest(""))
    if finish:
        bank.finish(workplace, person, client, account, number)
    answer = _answer(bank.state(workplace, person, client, account, number))
    if as_json:
        print_json(answer)
        return
    click.echo(f"{client} {account}, statement {number} to {answer['to']}:")
    click.echo(
        f"  books {shown(answer['ledger'])} + payments not presented "
        f"{shown(answer['not_presented'])} - receipts not credited {shown(answer['not_credited'])} "
        f"= {shown(answer['should_be'])}"
    )
    closing, difference = answer["closing"], answer["difference"]
    click.echo(
        f"  statement {shown(closing) if closing else 'without balance'}, difference "
        f"{shown(difference) if difference else 'not known'}"
    )
    click.echo(f"  {answer['agreed']} lines agreed, {len(answer['unagreed'])} not")
    for proposed in answer["proposals"]:
        lines = ", ".join(proposed["statement_lines"])
        click.echo(f"  {proposed['level']}: {', '.join(proposed['transactions'])} is {lines}")
    for line in answer["missing"]:
        click.echo(f"  not in the books: {line['date']} {shown(line['amount'])} {line['text']}")
    if answer["finished"]:
        click.echo("  finished")
    for words in answer["hindrances"] if not answer["finished"] else ():
        click.echo(f"  {words}")


def _sum(books: Books, account: str, amount: int | None) -> str | None:
    return None if amount is None else currency_of_account(books, account).format(amount)


def _answer(found: BankState) -> dict[str, Any]:
    books, look = found.ledger.books, found.look
    state = look.state
    money = currency_of_account(books, look.account).format

    def line(name: str) -> dict[str, Any]:
        return statement_line_answer(look.sides.lines[name], books).model_dump(mode="json")

    return {
        "account": look.account,
        "statement": state.statement.number,
        "from": state.statement.first_day.isoformat(),
        "to": state.statement.last_day.isoformat(),
        "ledger": money(state.ledger),
        "not_presented": money(state.not_presented),
        "not_credited": money(state.not_credited),
        "booked_later": money(state.booked_later),
        "should_be": money(state.should_be),
        "closing": None if state.closing is None else money(state.closing),
        "difference": None if state.difference is None else money(state.difference),
        "agreed": sum(len(group.lines) for group in state.groups),
        "unagreed": [line(row.id) for row in (*state.carried_in, *state.unmatched)],
        "outstanding": [
            {"transaction": e.posted.id, "date": e.day.isoformat(), "amount": money(e.amount)}
            for e in state.outstanding
        ],
        "proposals": [
            {
                "transactions": [key[0] for key in proposal.entries],
                "statement_lines": list(proposal.lines),
                "certainty": proposal.certainty,
                "level": str(proposal.level),
                "why": list(proposal.why),
            }
            for proposal in look.proposals
        ],
        "missing": [line(row.id) for row in look.missing],
        "finished": found.standing is not None,
        "hindrances": list(found.hindrances),
    }


COMMANDS = (import_statement, reconcile)
