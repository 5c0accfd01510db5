"""The demo practice, and serving a practice."""

import os

import click

from corkpost.cli.asking import own_mail
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
    from corkpost.demo import practice

    work.today = work.today or practice.TODAY
    practice.make(work.place, tell)
    if clients:
        practice.widen(work.place, clients, tell)
    for line in practice.SIGN_INS:
        click.echo(line)
    if not no_serve:
        _serve(work, host, port)


@click.command("serve")
@on_port
@on_host
@pass_work
def serve(work: Work, host: str, port: int) -> None:
    """Serve the practice in the data folder."""
    _serve(work, host, port)


def _serve(work: Work, host: str, port: int) -> None:
    from corkpost.api.server import run
    from corkpost.services import staff

    work.place.bank_address = os.environ.get("CORKPOST_BANK")
    if work.place.bank_address is None and staff.is_demo(work.place):
        from corkpost.demo import practice
        from corkpost.stand_ins.bank import BankServer

        bank = BankServer(practice.stand_in_bank())
        bank.start()
        work.place.bank_address = bank.address
    _with_mail(work)
    run(work.place, host, port)


def _with_mail(work: Work) -> None:
    """The practice's mail by CORKPOST_SMTP, CORKPOST_POP3, CORKPOST_MAIL; the demo's is a stand-in."""
    from corkpost.services import staff
    from corkpost.services.mail import Mail

    work.place.mail = own_mail()
    if work.place.mail is None and staff.is_demo(work.place):
        from corkpost.demo import practice
        from corkpost.stand_ins.mailbox import StandInMail

        mail = StandInMail(practice.client_says)
        mail.start()
        work.place.mail = Mail(mail.out, mail.into, practice.ADDRESS)


COMMANDS = (demo, serve)
