"""Points, routes, corrections, entries, undoing."""

from pathlib import Path
from typing import Any

import click

from corkpost.cli.context import Work, as_json, client_code, pass_work, print_json, shown, tell
from corkpost.core.acts import TakeBack
from corkpost.core.books import Books
from corkpost.formats import answers
from corkpost.formats.acts import PointAct
from corkpost.formats.entry import read_entry, request_of
from corkpost.services import acts, desk, overview, review
from corkpost.services.entries import Preview
from corkpost.services.posting import PostRequest
from corkpost.services.workplace import Posted


@click.command("review")
@click.argument("clients", nargs=-1)
@click.option("--all", "all_clients", is_flag=True, help="Every client that you see.")
@as_json
@pass_work
def run_review(work: Work, clients: tuple[str, ...], all_clients: bool, as_json: bool) -> None:
    """Run all the checks and list the points."""
    if bool(clients) is all_clients:
        raise click.UsageError("Name the clients, or say --all.")
    if all_clients:
        clients = tuple(row.code for row in desk.desk(work.workplace, work.person).rows)
    found: list[Any] = []
    for number, client in enumerate(clients, 1):
        tell(f"checking {client}, {number} of {len(clients)}")
        books = overview.chart(work.workplace, work.person, client)
        for stated in review.points(work.workplace, work.person, client):
            answer = answers.point_answer(stated.point, stated.state, books)
            found.append(
                answer.model_dump(mode="json") | ({"client": client} if len(clients) > 1 else {})
            )
            if not as_json:
                level = stated.point.level
                click.echo(
                    f"{client}  {answer.id}  {stated.state:9}  {level:6}  "
                    f"{shown(answer.amount):>12}  {answer.summary}"
                )
    if as_json:
        print_json(found)


@click.command("routes")
@client_code
@click.argument("point")
@as_json
@pass_work
def routes(work: Work, client: str, point: str, as_json: bool) -> None:
    """The routes for a point, each with its entries and effect, recommended first."""
    books = overview.chart(work.workplace, work.person, client)
    found = review.case(work.workplace, work.person, client, point)
    listed = [_prepared(prepared, books) for prepared in found.prepared]
    if as_json:
        print_json(listed)
        return
    looked = found.stated.point
    click.echo(looked.summary)
    for words, said in (("for it", looked.because), ("against it", looked.against)):
        if said:
            click.echo(f"  {words}: {'; '.join(said)}")
    for consequence in looked.consequences:
        click.echo(f"  with it goes: {consequence}")
    for row in listed:
        settings = " ".join(f"--set {name}={value}" for name, value in row["settings"].items())
        click.echo(f"\n{row['title']}\n  --route {row['route']} {settings}")
        if row["refused"]:
            click.echo(f"  refused: {row['refused']}")
        for note in row["notes"]:
            click.echo(f"  {note}")
        for entry in row["entries"]:
            _print_entry(entry)


def _prepared(prepared: review.Prepared, books: Books) -> dict[str, Any]:
    return {
        "route": prepared.option.route,
        "title": prepared.option.title,
        "settings": dict(prepared.option.settings),
        "reason": prepared.reason,
        "refused": prepared.refused,
        **_would_post(prepared.preview, books),
    }


def _would_post(shown: Preview | None, books: Books) -> dict[str, Any]:
    plan = shown.plan if shown else None
    return {
        "notes": list(plan.notes) if plan else [],
        "entries": [
            answers.entry_answer(entry, books).model_dump(mode="json")
            for entry in (plan.entries if plan else ())
        ],
        "allocations": [
            answers.allocation_answer(row, books).model_dump(mode="json")
            for row in (plan.allocations if plan else ())
        ],
        "effect": (
            answers.effect_answer(shown.effect, books).model_dump(mode="json") if shown else None
        ),
    }


def _print_entry(entry: dict[str, Any]) -> None:
    click.echo(f"  {entry['id']}  {entry['date']}  {entry['reason'] or entry['memo'] or ''}")
    for line in entry["lines"]:
        side = f"Dr {line['debit']}" if line["debit"] else f"Cr {line['credit']}"
        party = f" ({line['party_name']})" if line["party"] else ""
        click.echo(f"    {line['account']} {line['name']}{party}  {side}")


def _settings(pairs: tuple[str, ...]) -> dict[str, str]:
    for pair in pairs:
        if "=" not in pair:
            raise click.BadParameter(f"{pair!r} is not NAME=VALUE", param_hint="--set")
    return dict(pair.split("=", 1) for pair in pairs)


@click.command("correct")
@client_code
@click.argument("point")
@click.option("--route", required=True)
@click.option("--set", "settings", multiple=True, metavar="NAME=VALUE")
@click.option("--reason", default="")
@click.option("--preview", is_flag=True, help="Only show what it would post and move.")
@as_json
@pass_work
def correct(
    work: Work,
    client: str,
    point: str,
    route: str,
    settings: tuple[str, ...],
    reason: str,
    preview: bool,
    as_json: bool,
) -> None:
    """Put a point right by a route, or decide about it."""
    chosen = _settings(settings)
    if preview:
        _preview(work, client, point, route, chosen, as_json)
    elif review.is_decision(route):
        review.decide(work.workplace, work.person, client, point, route, reason)
        state = review.point_named(work.workplace.ledger(work.person, client), point).state
        if as_json:
            print_json({"point": point, "state": state, "change": None})
        else:
            click.echo(f"{point} is {state}.")
    else:
        act = PointAct(act="point", point=point, route=route, settings=chosen)
        posted = acts.post(work.workplace, work.person, client, act, PostRequest(reason))
        print_posted(work, client, posted, as_json)


def _preview(
    work: Work, client: str, point: str, route: str, settings: dict[str, str], as_json: bool
) -> None:
    books = overview.chart(work.workplace, work.person, client)
    shown = None
    if not review.is_decision(route):
        act = PointAct(act="point", point=point, route=route, settings=settings)
        shown = acts.preview(work.workplace, work.person, client, act)
    answer = _would_post(shown, books)
    if as_json:
        print_json({"route": route, "settings": settings, **answer})
        return
    for note in answer["notes"]:
        click.echo(note)
    for entry in answer["entries"]:
        _print_entry(entry)
    _print_effect(answer["effect"])


def _print_effect(effect: dict[str, Any] | None) -> None:
    if effect is None:
        return
    click.echo(f"As at {effect['as_at']}:")
    for row in effect["accounts"]:
        click.echo(
            f"  {row['account']} {row['name']}: {shown(row['before'])} -> {shown(row['after'])}"
        )
    click.echo(
        f"  Profit: {shown(effect['profit']['before'])} -> {shown(effect['profit']['after'])}"
    )


def print_posted(work: Work, client: str, posted: Posted, as_json: bool) -> None:
    """What was posted, under its lasting ids."""
    books = overview.chart(work.workplace, work.person, client)
    answer = answers.change_answer(*posted[:4], books)
    if as_json:
        print_json(answer)
        return
    click.echo(f"{client}: change {posted.number} posted.")
    for entry in answer.entries:
        _print_entry(entry.model_dump(mode="json"))
    for row in answer.allocations:
        verb = "undone" if row.undoes else "allocated"
        click.echo(
            f"  {row.date}  {row.debit_transaction} and {row.credit_transaction}: "
            f"{shown(row.amount)} {verb}"
        )
    for words in answer.amendments:
        click.echo(f"  {words.transaction} {words.field}: {words.before} -> {words.after}")
    for put in answer.chart:
        click.echo(f"  account {put.account} {put.field}: {put.before} -> {put.after}")


@click.command("post")
@client_code
@click.argument("entry", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@click.option("--preview", is_flag=True, help="Only show what it would post and move.")
@as_json
@pass_work
def post(work: Work, client: str, entry: Path, preview: bool, as_json: bool) -> None:
    """Post an accountant's entry from a JSON file."""
    books = overview.chart(work.workplace, work.person, client)
    request = request_of(read_entry(entry.read_bytes()), books.client.currency)
    if not preview:
        posted = acts.post(work.workplace, work.person, client, request, PostRequest(""))
        print_posted(work, client, posted, as_json)
        return
    found = acts.preview(work.workplace, work.person, client, request)
    shown_entries = [
        answers.entry_answer(e, books).model_dump(mode="json") for e in found.plan.entries
    ]
    effect = answers.effect_answer(found.effect, books).model_dump(mode="json")
    if as_json:
        print_json({"entries": shown_entries, "effect": effect, "warnings": found.plan.warnings})
        return
    for row in shown_entries:
        _print_entry(row)
    for warning in found.plan.warnings:
        click.echo(f"note: {warning}")
    _print_effect(effect)


@click.command("undo")
@client_code
@click.argument("change", type=int)
@click.option("--reason", required=True)
@as_json
@pass_work
def undo(work: Work, client: str, change: int, reason: str, as_json: bool) -> None:
    """Take a change back by its inverse."""
    posted = acts.post(work.workplace, work.person, client, TakeBack(change), PostRequest(reason))
    print_posted(work, client, posted, as_json)


COMMANDS = (run_review, routes, correct, post, undo)
