"""Who may post, sign-off and reopening."""

from datetime import date

import click

from corkpost.cli.context import At, Work, as_json, client_code, pass_work, password, print_json
from corkpost.core.kinds import PeriodState
from corkpost.services import periods, sign_off


@click.command("period")
@client_code
@click.argument("day", type=At())
@click.argument("state", type=click.Choice([s.value for s in PeriodState]))
@click.option("--reason", required=True)
@pass_work
def period(work: Work, client: str, day: date, state: str, reason: str) -> None:
    """Set who may post in the period of a day."""
    found = periods.set_period(work.workplace, work.person, client, day, PeriodState(state), reason)
    click.echo(f"{client}: {found.first_day} to {found.last_day} is {state}.")


@click.command("sign-off")
@client_code
@click.option("--at", "at", type=At(), required=True)
@click.option("--override", is_flag=True, help="A partner signs over what is missing.")
@click.option("--reason", default="", help="With --override: it prints in the pack.")
@as_json
@pass_work
def sign(work: Work, client: str, at: date, override: bool, reason: str, as_json: bool) -> None:
    """Sign and seal the trial balance as at the end of a period.

    The password is read from CORKPOST_PASSWORD or standard input.
    """
    person = work.person
    seal = sign_off.sign_off(
        work.workplace,
        person,
        client,
        at,
        password(f"Password of {person.name}"),
        override_reason=reason if override else None,
    )
    if as_json:
        print_json(
            {
                "client": client,
                "seal": seal.number,
                "as_at": seal.as_at,
                "digest": seal.digest,
                "signed_by": seal.signed_by,
            }
        )
    else:
        click.echo(f"{client}: signed off as at {seal.as_at}, seal {seal.digest[:12]}.")


@click.command("reopen")
@client_code
@click.option("--from", "first_day", type=At(), required=True)
@click.option("--reason", required=True)
@pass_work
def reopen(work: Work, client: str, first_day: date, reason: str) -> None:
    """Reopen every sign-off that covers a day or later."""
    for seal in sign_off.reopen(work.workplace, work.person, client, first_day, reason):
        click.echo(f"{client}: the sign-off as at {seal.as_at} is reopened.")


@click.command("open-year")
@client_code
@click.argument("label")
@pass_work
def open_year(work: Work, client: str, label: str) -> None:
    """Open the next financial year, so that entries may be dated in it."""
    year = periods.open_year(work.workplace, work.person, client, label)
    click.echo(f"{client}: {year.label} goes from {year.first_day} to {year.last_day}")


COMMANDS = (open_year, period, sign, reopen)
