"""Recipes, the register of fixed assets, and exchange rates."""

from datetime import date
from pathlib import Path
from typing import Any

import click

from corkpost.cli.context import At, Work, as_json, client_code, pass_work, print_json, shown, table
from corkpost.core.asks import Ask, AskKind
from corkpost.core.assets.register import KeepAssets, offered
from corkpost.core.budgets import SetBudget, budget_of
from corkpost.core.payroll import TakePayroll, payroll_months
from corkpost.core.rates import AddRates, rates_of
from corkpost.core.recipes import UseRecipe, recipe_named, registry
from corkpost.core.refusals import Refusal
from corkpost.formats import answers
from corkpost.formats.entry_table import entry_rows
from corkpost.formats.registers import (
    asset_row,
    asset_table,
    budget_table,
    csv_of,
    payroll_table,
    plain_number,
    rate_table,
    read_assets,
    registered_answer,
)
from corkpost.services import acts, overview
from corkpost.services import recipes as service
from corkpost.services.posting import PostRequest
from corkpost.stand_ins.bureau import issue

as_csv = click.option("--csv", "as_csv", is_flag=True, help="The table that it is taken in from.")


@click.command("recipes")
@as_json
@pass_work
def recipes(work: Work, as_json: bool) -> None:
    """What recipes there are, and what each is told."""
    if as_json:
        print_json(
            [
                {"id": recipe.id, "title": recipe.title, "asks": [_ask(a) for a in recipe.asks]}
                for recipe in registry().values()
            ]
        )
        return
    for recipe in registry().values():
        click.echo(f"{recipe.id}: {recipe.says}")
        for ask in recipe.asks:
            needed = "" if ask.needed else ", may be left out"
            click.echo(f"    {ask.name} ({ask.kind}{needed}): {ask.label}")


def _ask(ask: Ask) -> dict[str, Any]:
    words = "; ".join(f"{choice.value}: {choice.says}" for choice in ask.choices)
    return {
        "name": ask.name,
        "kind": ask.kind,
        "required": ask.needed and not ask.roles and not ask.value,
        "default": ask.value or None,
        "help": f"{ask.label} ({words})" if words else ask.label,
    }


@click.command("recipe")
@client_code
@click.argument("recipe")
@click.option("--set", "settings", multiple=True, metavar="NAME=VALUE")
@click.option("--reason", default="")
@click.option("--preview", is_flag=True, help="Only show what it would post and move.")
@click.option("--draft", is_flag=True, help="Keep its entries as drafts.")
@as_json
@pass_work
def recipe(
    work: Work,
    client: str,
    recipe: str,
    settings: tuple[str, ...],
    reason: str,
    preview: bool,
    draft: bool,
    as_json: bool,
) -> None:
    """Post what a recipe makes of a few figures, or show it, or keep it as drafts."""
    act = UseRecipe(recipe, _said(recipe, settings))
    books = overview.chart(work.workplace, work.person, client)
    found = acts.preview(work.workplace, work.person, client, act)
    entries, change = found.plan.entries, None
    if draft:
        service.keep_as_drafts(work.workplace, work.person, client, act)
    elif not preview:
        request = PostRequest(reason, found.plan.digest)
        posted = acts.post(work.workplace, work.person, client, act, request)
        entries, change = posted.entries, posted.number
    told = [answers.entry_answer(entry, books).model_dump(mode="json") for entry in entries]
    if as_json:
        money = books.client.currency.format
        print_json(
            {
                "entries": told,
                "effect": answers.effect_answer(found.effect, books).model_dump(mode="json"),
                "schedule": [
                    {
                        "date": step.day.isoformat(),
                        "amount": money(step.amount),
                        "left": money(step.left),
                    }
                    for step in found.plan.schedule
                ],
                "change": change,
                "notes": list(found.plan.notes),
                "warnings": list(found.plan.warnings),
            }
        )
        return
    for note in found.plan.notes:
        click.echo(note)
    for entry in told:
        click.echo(f"  {entry['id']}  {entry['date']}  {entry['memo'] or ''}")
        for line in entry["lines"]:
            side = f"Dr {line['debit']}" if line["debit"] else f"Cr {line['credit']}"
            click.echo(f"    {line['account']} {line['name']}  {side}")
    for warning in found.plan.warnings:
        click.echo(f"note: {warning}")


def _said(recipe: str, settings: tuple[str, ...]) -> dict[str, str]:
    """The settings; a table is named by its file."""
    asks = {ask.name: ask for ask in recipe_named(recipe).asks}
    said = {}
    for pair in settings:
        name, equals, value = pair.partition("=")
        if not equals:
            raise click.BadParameter(f"{pair!r} is not NAME=VALUE", param_hint="--set")
        if name in asks and asks[name].kind is AskKind.TABLE:
            try:
                value = Path(value).read_text(encoding="utf-8-sig")
            except (OSError, UnicodeDecodeError) as wrong:
                raise click.BadParameter(f"{value}: {wrong}", param_hint="--set") from None
        said[name] = value
    return said


@click.command("assets")
@client_code
@click.argument(
    "file", required=False, type=click.Path(path_type=Path, exists=True, dir_okay=False)
)
@click.option("--at", "at", type=At(), help="As at the day: the last of the books unless given.")
@click.option("--from-books", is_flag=True, help="Take in what the books bought and it lacks.")
@as_json
@as_csv
@pass_work
def assets(
    work: Work,
    client: str,
    file: Path | None,
    at: date | None,
    from_books: bool,
    as_json: bool,
    as_csv: bool,
) -> None:
    """The register of fixed assets; a CSV FILE is taken into it first."""
    books = overview.chart(work.workplace, work.person, client)
    rows = read_assets(asset_table(file.read_bytes()), books) if file else ()
    rows += offered(books) if from_books else ()
    if rows:
        acts.post(work.workplace, work.person, client, KeepAssets(rows), PostRequest(""))
    as_at = at or books.received_through or work.workplace.today
    found = service.asset_register(work.workplace, work.person, client, as_at)
    told = [registered_answer(history.row, found.books) for history in found.rows]
    if as_csv:
        keyed = (asset_row(history.row.asset, found.books) for history in found.rows)
        click.echo(csv_of(row.model_dump() for row in keyed), nl=False)
        return
    if as_json:
        print_json([row.model_dump(mode="json") for row in told])
        return
    heading = ("Asset", "Account", "Bought", "Cost", "Depreciation", "Carrying")
    table(
        [
            heading,
            *(
                (
                    f"{row.asset} {row.name}",
                    row.account,
                    row.bought.isoformat(),
                    shown(row.cost),
                    shown(row.depreciation),
                    f"disposed {row.disposed}" if row.disposed else shown(row.carrying),
                )
                for row in told
            ),
        ],
        3,
    )


@click.command("rates")
@client_code
@click.argument(
    "file", required=False, type=click.Path(path_type=Path, exists=True, dir_okay=False)
)
@as_json
@as_csv
@pass_work
def rates(work: Work, client: str, file: Path | None, as_json: bool, as_csv: bool) -> None:
    """Exchange rates by day; those of a CSV FILE `date,currency,rate` are added first."""
    if file:
        act = AddRates(rate_table(file.read_bytes()))
        acts.post(work.workplace, work.person, client, act, PostRequest(""))
    books = overview.chart(work.workplace, work.person, client)
    found = [(row.day.isoformat(), row.currency, plain_number(row.rate)) for row in rates_of(books)]
    rows = [dict(zip(("date", "currency", "rate"), row, strict=True)) for row in found]
    if as_csv:
        click.echo(csv_of(rows), nl=False)
        return
    if as_json:
        print_json(rows)
        return
    table(
        [("Date", "Currency", "Rate"), *((day, code, rate or "") for day, code, rate in found)], 1
    )


@click.command("budget")
@client_code
@click.argument(
    "file", required=False, type=click.Path(path_type=Path, exists=True, dir_okay=False)
)
@click.option("--from", "first", type=At(), required=True)
@click.option("--to", "last", type=At(), required=True)
@as_json
@pass_work
def budget(
    work: Work, client: str, file: Path | None, first: date, last: date, as_json: bool
) -> None:
    """What income and costs were meant to come to; a CSV FILE `account,month,amount` is added first."""
    books = overview.chart(work.workplace, work.person, client)
    if file:
        act = SetBudget(budget_table(file.read_text(encoding="utf-8-sig"), books))
        acts.post(work.workplace, work.person, client, act, PostRequest(""))
        books = overview.chart(work.workplace, work.person, client)
    money = books.client.currency.format
    found = {code: money(amount) for code, amount in budget_of(books, first, last).items()}
    if as_json:
        print_json([{"account": code, "amount": amount} for code, amount in sorted(found.items())])
        return
    rows = [(code, books.account(code).name, shown(text)) for code, text in sorted(found.items())]
    table([("No.", "Account", "Meant to be"), *rows], 1)


@click.command("entries")
@client_code
@click.option("--from", "first", type=At(), required=True)
@click.option("--to", "last", type=At(), required=True)
@as_json
@pass_work
def entries(work: Work, client: str, first: date, last: date, as_json: bool) -> None:
    """Our entries of some days, as the table that `recipe CLIENT entry-table` reads, or as JSON."""
    books = overview.chart(work.workplace, work.person, client)
    found = [
        posted
        for posted in books.ours
        if first <= posted.posting_date <= last and not books.is_taken_back(posted.id)
    ]
    if as_json:
        print_json([answers.entry_answer(posted, books) for posted in found])
    else:
        click.echo(entry_rows(books, found), nl=False)


@click.command("payroll")
@client_code
@click.argument("file", type=click.Path(path_type=Path, exists=True, dir_okay=False))
@pass_work
def payroll(work: Work, client: str, file: Path) -> None:
    """Take in a payroll bureau's file, with the columns of the books folder's payroll table."""
    books = overview.chart(work.workplace, work.person, client)
    act = TakePayroll(payroll_table(file.read_text(encoding="utf-8-sig"), books))
    posted = acts.post(work.workplace, work.person, client, act, PostRequest(""))
    click.echo(f"{client}: change {posted.number} posted, {len(act.months)} rows.")


@click.command("bureau")
@client_code
@pass_work
def bureau(work: Work, client: str) -> None:
    """What the stand-in payroll bureau issues for the month after the last that is known."""
    books = overview.chart(work.workplace, work.person, client)
    given = payroll_months(books)
    if not given:
        raise Refusal(f"No summary of {client} is known that the stand-in could go on from.")
    click.echo(issue(given, books.client.currency), nl=False)


COMMANDS = (recipes, recipe, assets, rates, budget, entries, payroll, bureau)
