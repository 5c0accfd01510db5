"""What waits for another's approval."""

from typing import TextIO

import click

from corkpost.cli.context import Work, as_json, client_code, pass_work, print_json
from corkpost.formats.acts import act_of
from corkpost.services import acts, approvals


@click.group("approvals")
def group() -> None:
    """What was handed in to be approved."""


@group.command("list")
@client_code
@as_json
@pass_work
def listed(work: Work, client: str, as_json: bool) -> None:
    """What waits, and what came back to you."""
    found = approvals.listed(work.workplace, work.person, client)
    if as_json:
        print_json([proposal._asdict() for proposal in found])
        return
    for proposal in found:
        state = f"sent back: {proposal.ending.remark}" if proposal.ending else proposal.why
        click.echo(
            f"{proposal.number}  {proposal.act}  by {proposal.made_by}  {proposal.reason}  ({state})"
        )
    if not found:
        click.echo(f"{client}: nothing waits.")


@group.command("hand-in")
@client_code
@click.argument("act", type=click.File("r", encoding="utf-8"))
@click.option("--reason", required=True)
@pass_work
def hand_in(work: Work, client: str, act: TextIO, reason: str) -> None:
    """Hand an act in: a JSON file such as {"act": "undo", "number": 4}."""
    asked = act_of(act.read())
    shown = acts.preview(work.workplace, work.person, client, asked).plan.digest
    number = approvals.hand_in(
        work.workplace, work.person, client, asked, reason=reason, shown=shown
    )
    click.echo(f"{client}: handed in as {number}; nothing is posted before it is approved.")


@group.command("approve")
@client_code
@click.argument("number", type=int)
@pass_work
def approve(work: Work, client: str, number: int) -> None:
    """Post it, in its maker's name."""
    _, found = approvals.handed(work.workplace, work.person, client, number)
    shown = found.preview.plan.digest if found.preview else ""
    posted = approvals.approve(work.workplace, work.person, client, number, shown=shown)
    names = ", ".join(entry.id for entry in posted.entries)
    click.echo(f"{client}: change {posted.number} posted, {names}.")


@group.command("send-back")
@client_code
@click.argument("number", type=int)
@click.argument("remark")
@pass_work
def send_back(work: Work, client: str, number: int, remark: str) -> None:
    """Send it back to its maker with a remark."""
    approvals.send_back(work.workplace, work.person, client, number, remark)
    click.echo(f"{client}: {number} is sent back.")


COMMANDS = (group,)
