"""The `corkpost` command: its common options, and how a refusal leaves it."""

from datetime import date
from pathlib import Path

import click

from corkpost.cli import accounts, approving, asking, bank, practice, review, running, signing
from corkpost.cli.context import At, Work
from corkpost.core.refusals import Refusal


class Commands(click.Group):
    """Turns a refusal into its words on standard error and exit code 1."""

    def invoke(self, ctx: click.Context) -> object:
        try:
            return super().invoke(ctx)
        except Refusal as refused:
            click.echo(str(refused), err=True)
            ctx.exit(1)


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
@click.pass_context
def main(ctx: click.Context, data: Path, today: date | None, by: str | None) -> None:
    """Review, correct and sign off small clients' books."""
    ctx.obj = Work(data, today, by)
    ctx.call_on_close(ctx.obj.close)


for module in (running, accounts, bank, review, asking, approving, signing, practice):
    for command in module.COMMANDS:
        main.add_command(command)
