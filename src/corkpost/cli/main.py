"""The `corkpost` command: its common options, and how a refusal leaves it."""

import os
from datetime import date
from importlib import import_module
from pathlib import Path

import click

from corkpost.cli.context import At, Work
from corkpost.core.refusals import Refusal

MODULES = (
    "running",
    "accounts",
    "listings",
    "bank",
    "review",
    "asking",
    "approving",
    "signing",
    "recipes",
    "proving",
    "practice",
)
"""Where commands are looked for, in this order: what serves first, which then need not wait for others."""


class Commands(click.Group):
    """Imports commands as they are asked for. Turns a refusal into its words on standard error and exit
    code 1."""

    def list_commands(self, ctx: click.Context) -> list[str]:  # noqa: ARG002
        return sorted(command.name or "" for name in MODULES for command in _commands_in(name))

    def get_command(self, ctx: click.Context, cmd_name: str) -> click.Command | None:  # noqa: ARG002
        for name in MODULES:
            for command in _commands_in(name):
                if command.name == cmd_name:
                    return command
        return None

    def invoke(self, ctx: click.Context) -> object:
        try:
            return super().invoke(ctx)
        except Refusal as refused:
            click.echo(str(refused), err=True)
            ctx.exit(1)


def _commands_in(name: str) -> tuple[click.Command, ...]:
    found: tuple[click.Command, ...] = import_module(f"corkpost.cli.{name}").COMMANDS
    return found


@click.group(cls=Commands, context_settings={"auto_envvar_prefix": "CORKPOST"})
@click.option(
    "--data",
    type=click.Path(path_type=Path),
    default=Path("data"),
    show_default=True,
    envvar="CORKPOST_DATA",
    help="The folder that holds the practice; made when missing.",
)
@click.option(
    "--today",
    type=At(),
    envvar="CORKPOST_TODAY",
    help="The date that the work is done on (default: the system's).",
)
@click.option("--by", envvar="CORKPOST_STAFF", help="The member of staff who does it, by code.")
@click.option(
    "--token",
    envvar="CORKPOST_TOKEN",
    help="Your token, from your page: it proves who you are (better as CORKPOST_TOKEN).",
)
@click.pass_context
def main(
    ctx: click.Context, data: Path, today: date | None, by: str | None, token: str | None
) -> None:
    """Review, correct and sign off small clients' books."""
    # What is made from here on is for its owner alone.
    os.umask(0o077)
    ctx.obj = Work(data, today, by, token, ctx.invoked_subcommand or "")
    ctx.call_on_close(ctx.obj.close)
