"""Staff, and the store as a whole."""

import json
import os
from datetime import datetime
from pathlib import Path

import click

from corkpost.cli.context import Work, as_json, client_code, pass_work, password, print_json
from corkpost.core.approval import ApprovalRule
from corkpost.core.kinds import Role
from corkpost.services import archive, copying, locking, places, record, staff, store

ROLE = click.Choice([role.value for role in Role])


reason = click.option("--reason", required=True, help="Why: it is kept.")


@click.group("staff")
def staff_commands() -> None:
    """Staff with roles and clients."""


@staff_commands.command("list")
@as_json
@pass_work
def list_staff(work: Work, as_json: bool) -> None:
    """Who works here."""
    members = staff.everybody(work.workplace)
    if as_json:
        print_json([{**m._asdict(), "rule": m.rule._asdict()} for m in members])
        return
    for member in members:
        clients = "all clients" if member.role is Role.PARTNER else ", ".join(member.clients)
        no = "" if member.can_sign_in else "  (no password yet)"
        click.echo(
            f"{member.code:8}  {member.role:9}  {member.name}  {clients or 'no clients'}{no}"
        )


@staff_commands.command("add")
@click.argument("code")
@click.argument("name")
@click.option("--role", type=ROLE, required=True)
@pass_work
def add(work: Work, code: str, name: str, role: str) -> None:
    """A new member of staff; the password is CORKPOST_PASSWORD's, if that is set."""
    given = os.environ.get("CORKPOST_PASSWORD")
    staff.add_staff(work.workplace, work.person, code, name, Role(role), given)
    click.echo(f"{name} is a {role}, by the code {code}.")


@staff_commands.command("password")
@click.argument("code")
@pass_work
def set_password(work: Work, code: str) -> None:
    """Set a password, from CORKPOST_PASSWORD or standard input."""
    staff.set_password(work.workplace, work.person, code, password(f"New password of {code}"))
    click.echo(f"The password of {code} is set.")


@staff_commands.command("role")
@click.argument("code")
@click.argument("role", type=ROLE)
@pass_work
def set_role(work: Work, code: str, role: str) -> None:
    """Change what a person may do."""
    staff.set_role(work.workplace, work.person, code, Role(role))
    click.echo(f"{code} is a {role} now.")


@staff_commands.command("give")
@click.argument("code")
@click.argument("client")
@pass_work
def give(work: Work, code: str, client: str) -> None:
    """Give a client to a person."""
    staff.give_client(work.workplace, work.person, code, client, give=True)
    click.echo(f"{code} sees {client}.")


@staff_commands.command("take")
@click.argument("code")
@click.argument("client")
@pass_work
def take(work: Work, code: str, client: str) -> None:
    """Take a client away from a person."""
    staff.give_client(work.workplace, work.person, code, client, give=False)
    click.echo(f"{code} no longer sees {client}.")


@staff_commands.command("approval")
@click.argument("code")
@click.option("--journals/--no-journals", default=False, help="Each entry that they write waits.")
@click.option("--above", type=click.IntRange(min=0), default=None, help="So does what moves more.")
@pass_work
def approval(work: Work, code: str, journals: bool, above: int | None) -> None:
    """Say what of a person's postings waits for another's approval: nothing, unless said."""
    staff.set_approval(work.workplace, work.person, code, ApprovalRule(journals, above))
    waits = ["their own entries"] if journals else []
    waits += [f"what moves more than {above}"] if above is not None else []
    click.echo(f"{code}: {' and '.join(waits) or 'nothing'} waits for approval.")


@staff_commands.command("second-person")
@click.argument("state", type=click.Choice(["on", "off"]))
@pass_work
def second_person(work: Work, state: str) -> None:
    """Whether who posted may not sign: a practice of one may switch it off."""
    staff.set_second_person(work.workplace, work.person, state == "on")
    click.echo(f"The rule that who posted may not sign is {state}.")


@click.command("verify")
@as_json
@click.option(
    "--heads",
    type=click.Path(path_type=Path, exists=True, dir_okay=False),
    help="What an earlier verify --json told, kept elsewhere: a chain that was cut shows only so.",
)
@pass_work
@click.pass_context
def verify(ctx: click.Context, work: Work, as_json: bool, heads: Path | None) -> None:
    """Prove the store, and say what is broken."""
    found = store.verify(work.workplace)
    if heads is not None:
        earlier = json.loads(heads.read_text("utf-8"))
        gone = store.missing_since(
            work.workplace,
            earlier["heads"],
            earlier.get("record", ""),
            earlier.get("witness", ""),
        )
        found = found._replace(broken=(*found.broken, *gone))
    if as_json:
        broken = [row._asdict() for row in found.broken]
        print_json({**found._asdict(), "broken": broken, "ok": not broken})
    else:
        click.echo(
            f"{found.clients} clients, {found.changes} changes, {found.transactions} transactions."
        )
        for code, head in found.heads.items():
            click.echo(f"  {code}  chain ends in {head[:16]}")
        click.echo(f"  not covered: {', '.join(found.not_covered)}.")
        for row in found.broken:
            click.echo(f"broken: {row.client or 'the store'}: {row.what}", err=True)
        seals = sum(row.is_seal for row in found.broken)
        if not found.broken:
            click.echo("Everything proves.")
        elif seals == len(found.broken):
            click.echo(f"{seals} broken under what was signed since; nothing is damaged.")
        else:
            click.echo(f"{len(found.broken)} broken.")
    if found.broken:
        ctx.exit(1)


@click.command("backup")
@click.argument("file", type=click.Path(path_type=Path))
@click.option(
    "--to-key",
    envvar="CORKPOST_BACKUP_KEY",
    help="The public key (age1...) to which the copy is locked.",
)
@pass_work
def backup(work: Work, file: Path, to_key: str | None) -> None:
    """Copy the store and its files into one file, while it runs."""
    store.backup(work.workplace, file, to_key)
    record.note(work.workplace, record.Kind.BACKUP, record.MACHINE, file.name)
    click.echo(f"Copied to {file}.")


@click.command("restore")
@click.argument("file", type=click.Path(path_type=Path), required=False)
@click.option("--from", "place", metavar="PLACE", help="Where `serve --copy-to` copied to.")
@click.option(
    "--at",
    type=click.DateTime(["%Y-%m-%dT%H:%M:%S"]),
    help="As it was at that moment, in universal time; as it was last unless given.",
)
@click.option(
    "--key",
    type=click.Path(path_type=Path, exists=True, dir_okay=False),
    help="The file of the secret key, where the copy is locked.",
)
@pass_work
def restore(
    work: Work, file: Path | None, place: str | None, at: datetime | None, key: Path | None
) -> None:
    """Bring a copy back into the data folder."""
    if (file is None) is (place is None):
        raise click.UsageError("Name a file, or a place by --from.")
    if file is not None:
        store.restore(file, work.data, key)
    else:
        for code, head in copying.restore_from(places.place_of(place or ""), work.data, at).items():
            click.echo(f"  {code}  chain ends in {head[:16]}")
    click.echo(f"Brought back into {work.data}.")


@click.group("client")
def client_commands() -> None:
    """Clients that leave, come back, or whose time is over."""


@client_commands.command("archive")
@client_code
@reason
@pass_work
def archive_client(work: Work, client: str, reason: str) -> None:
    """From now on it is read, and nothing is written to it."""
    archive.archive(work.workplace, work.person, client, reason)
    click.echo(f"{client} is archived.")


@client_commands.command("bring-back")
@client_code
@reason
@pass_work
def bring_client_back(work: Work, client: str, reason: str) -> None:
    """It is worked on again."""
    archive.bring_back(work.workplace, work.person, client, reason)
    click.echo(f"{client} is worked on again.")


@client_commands.command("remove")
@client_code
@reason
@pass_work
def remove_client(work: Work, client: str, reason: str) -> None:
    """Take away all that there is of an archived client whose time is over. Copies have it still."""
    archive.remove(work.workplace, work.person, client, reason)
    click.echo(f"{client} is removed.")


@click.command("backup-key")
@click.argument("file", type=click.Path(path_type=Path))
def backup_key(file: Path) -> None:
    """Make a key for locked copies: the secret one into a file, to be kept apart from this machine."""
    public = locking.make_key(file)
    click.echo(f"{public}\nThe secret key is in {file}: keep it apart; without it no copy opens.")


COMMANDS = (staff_commands, client_commands, verify, backup, restore, backup_key)
