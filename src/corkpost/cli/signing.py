"""Who may post, sign-off and reopening."""

from datetime import date

import click

from corkpost.cli.context import At, Work, as_json, client_code, pass_work, password, print_json
from corkpost.core.books import Books
from corkpost.core.kinds import AccountRole, PeriodState
from corkpost.core.periods import PostingWindow
from corkpost.formats import answers
from corkpost.formats.acts import CloseYearAct
from corkpost.services import acts, periods, sign_off
from corkpost.services.posting import PostRequest


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


@click.command("checklist")
@client_code
@click.option("--at", "at", type=At(), required=True)
@click.option("--done", multiple=True, help="An item of it that was seen to.")
@as_json
@pass_work
def checklist(work: Work, client: str, at: date, done: tuple[str, ...], as_json: bool) -> None:
    """What there is to see to before the sign-off as at a day, and who did."""
    for item in done:
        sign_off.tick(work.workplace, work.person, client, at, item, done=True)
    rows = sign_off.checklist(work.workplace, work.person, client, at)
    if as_json:
        print_json(
            [
                {
                    "item": row.item.id,
                    "says": row.item.says,
                    "by": row.tick.by if row.tick else None,
                    "at": row.tick.at.isoformat() if row.tick else None,
                }
                for row in rows
            ]
        )
        return
    for row in rows:
        seen = f"{row.tick.by}, {row.tick.at:%Y-%m-%d}" if row.tick else "open"
        click.echo(f"{row.item.id}: {row.item.says} ({seen})")


@click.command("reopen")
@client_code
@click.option("--from", "first_day", type=At(), required=True)
@click.option("--until", type=At(), help="The last day that it stays open: two weeks unless said.")
@click.option("--reason", required=True)
@pass_work
def reopen(work: Work, client: str, first_day: date, until: date | None, reason: str) -> None:
    """Reopen every sign-off that covers a day or later; it ends by itself."""
    for seal in sign_off.reopen(work.workplace, work.person, client, first_day, reason, until):
        click.echo(f"{client}: the sign-off as at {seal.as_at} is reopened.")


@click.command("open-year")
@client_code
@click.argument("label")
@pass_work
def open_year(work: Work, client: str, label: str) -> None:
    """Open the next financial year, so that entries may be dated in it."""
    year = periods.open_year(work.workplace, work.person, client, label)
    click.echo(f"{client}: {year.label} goes from {year.first_day} to {year.last_day}")


@click.command("close-year")
@client_code
@click.option("--year", "label", required=True, metavar="LABEL")
@click.option("--shares", default="", metavar="ACCOUNT=PERCENT,...", help="Of the partners.")
@click.option("--by-dimension", is_flag=True)
@click.option("--through", metavar="ACCOUNT", help="A closing account that the result passes over.")
@click.option("--preview", is_flag=True, help="Only show what it would post and move.")
@as_json
@pass_work
def close_year(
    work: Work,
    client: str,
    label: str,
    shares: str,
    by_dimension: bool,
    through: str | None,
    preview: bool,
    as_json: bool,
) -> None:
    """Close a year: its result to where profit is kept; the difference, where it was closed before."""
    books = work.workplace.ledger(work.person, client).books
    act = CloseYearAct(
        act="close-year",
        year=label,
        shares=_shares(books, shares),
        by_dimension=by_dimension,
        through=through,
    )
    shown = acts.preview(work.workplace, work.person, client, act)
    change = None
    entry = shown.plan.entries[0]
    if not preview:
        reason = PostRequest(shown.plan.proposed_reason, shown.plan.digest)
        posted = acts.post(work.workplace, work.person, client, act, reason)
        change, (entry,) = posted.number, posted.entries
    effect = answers.effect_answer(shown.effect, books)
    shown_entry = answers.entry_answer(entry, books)
    if as_json:
        print_json(
            {
                "entry": shown_entry.model_dump(mode="json"),
                "effect": effect.model_dump(mode="json"),
                "change": change,
            }
        )
        return
    click.echo(f"{client}: {entry.id}, {shown.plan.proposed_reason}")
    for line in shown_entry.lines:
        side = f"Dr {line.debit}" if line.debit else f"Cr {line.credit}"
        click.echo(f"  {line.account} {line.name}  {side}")


def _shares(books: Books, text: str) -> dict[str, str]:
    """Percent by the partner's account, which may be named by its owner too."""
    accounts = {
        account.owner: account.code for account in books.with_role(AccountRole.PARTNER_CURRENT)
    }
    pairs = (part.split("=", 1) for part in text.split(",") if "=" in part)
    return {accounts.get(name.strip(), name.strip()): percent for name, percent in pairs}


@click.command("window")
@client_code
@click.argument("staff")
@click.option("--from", "first_day", type=At(), required=True)
@click.option("--to", "last_day", type=At(), required=True)
@click.option("--until", type=At(), required=True, help="The last day on which it may be used.")
@click.option("--reason", required=True)
@pass_work
def window(
    work: Work, client: str, staff: str, first_day: date, last_day: date, until: date, reason: str
) -> None:
    """Let one person post from one day to another where others may not, until a day."""
    wanted = PostingWindow(staff, first_day, last_day, until, reason, "", "")
    found = periods.grant_window(work.workplace, work.person, client, wanted)
    click.echo(
        f"{client}: {staff} may post {found.first_day} to {found.last_day} until {found.until}."
    )


COMMANDS = (checklist, close_year, open_year, period, sign, reopen, window)
