"""The demo practice, and serving a practice."""

import os
import signal
import threading

import click

from corkpost.cli.context import Work, pass_work, tell

on_port = click.option("--port", default=8765, show_default=True)
on_host = click.option("--host", default="127.0.0.1", show_default=True)


@click.command("demo")
@on_port
@on_host
@click.option("--no-serve", is_flag=True, help="Only make it.")
@click.option(
    "--clients",
    type=click.IntRange(min=0, max=999),
    default=0,
    help="Add small clients until there are so many: 300 make a few minutes' work.",
)
@pass_work
def demo(work: Work, host: str, port: int, no_serve: bool, clients: int) -> None:
    """Make the demo practice when it isn't there, and serve it."""
    if host not in ("localhost", "127.0.0.1", "::1"):
        raise click.UsageError(
            "The demo tells everybody its passwords: it is served on this machine alone."
        )
    from corkpost.demo import practice

    work.today = work.today or practice.TODAY
    practice.make(work.workplace, tell)
    if clients:
        practice.widen(work.workplace, clients, tell)
    for line in practice.SIGN_INS:
        click.echo(line)
    if not no_serve:
        _serve(work, host, port)


@click.command("serve")
@on_port
@on_host
@click.option(
    "--copy-to",
    envvar="CORKPOST_COPY_TO",
    metavar="PLACE",
    help="Copy all of it there as it is worked on: a folder on another machine's disk, or s3://bucket/path.",
)
@click.option(
    "--halt-after",
    envvar="CORKPOST_HALT_AFTER",
    type=click.FloatRange(min=5),
    metavar="SECONDS",
    help="Write nothing while that place was not reached for so long: for where a second machine may "
    "take over.",
)
@pass_work
def serve(work: Work, host: str, port: int, copy_to: str | None, halt_after: float | None) -> None:
    """Serve the practice in the data folder."""
    from corkpost.services.copying import Copier
    from corkpost.services.places import place_of

    copier = Copier(work.workplace, place_of(copy_to), halt_after) if copy_to else None
    if copier is not None:
        copier.start()
    try:
        _serve(work, host, port)
    finally:
        if copier is not None:
            copier.stop()


from_place = click.option(
    "--from",
    "place",
    required=True,
    metavar="PLACE",
    help="Where the machine that serves it copies to.",
)


@click.command("follow")
@from_place
@pass_work
def follow(work: Work, place: str) -> None:
    """Keep a second machine ready: what is copied to the place is brought here, until stopped."""
    from corkpost.services import standby
    from corkpost.services.places import place_of

    stopped = threading.Event()
    signal.signal(signal.SIGTERM, lambda *_: stopped.set())
    signal.signal(signal.SIGINT, lambda *_: stopped.set())
    standby.follow(place_of(place), work.data, stopped, click.echo)


@click.command("take-over")
@from_place
@click.option(
    "--wait",
    default=15.0,
    show_default=True,
    metavar="SECONDS",
    help="How long the first machine may take to say that it writes no more.",
)
@pass_work
def take_over(work: Work, place: str, wait: float) -> None:
    """Serve the practice from here from now on: the machine that served it is fenced off."""
    from corkpost.services import standby
    from corkpost.services.places import place_of

    taken = standby.take_over(place_of(place), work.data, wait)
    for code, head in taken.heads.items():
        click.echo(f"  {code}  chain ends in {head[:16]}")
    click.echo(
        "The first machine has left, and writes no more."
        if taken.left
        else f"The first machine did not answer within {wait:.0f} seconds. What it acknowledged and did "
        "not copy is not here; see that it is off, or cut off."
    )
    click.echo(f"Now: corkpost --data {work.data} serve --copy-to {place}")


def _serve(work: Work, host: str, port: int) -> None:
    from corkpost.api.server import run
    from corkpost.services import staff

    work.workplace.bank_address = os.environ.get("CORKPOST_BANK")
    if work.workplace.bank_address is None and staff.is_demo(work.workplace):
        from corkpost.demo import practice
        from corkpost.stand_ins.bank import BankServer

        bank = BankServer(practice.stand_in_bank())
        bank.start()
        work.workplace.bank_address = bank.address
    _with_mail(work)
    run(work.workplace, host, port)


def _with_mail(work: Work) -> None:
    """The practice's mail by CORKPOST_SMTP, CORKPOST_POP3, CORKPOST_MAIL; the demo's is a stand-in."""
    from corkpost.services import staff
    from corkpost.services.mail import Mail, mail_named

    work.workplace.mail = mail_named(os.environ)
    if work.workplace.mail is None and staff.is_demo(work.workplace):
        from corkpost.demo import practice
        from corkpost.stand_ins.mailbox import StandInMail

        mail = StandInMail(practice.client_says)
        mail.start()
        work.workplace.mail = Mail(mail.out, mail.into, practice.ADDRESS)


COMMANDS = (demo, serve, follow, take_over)
