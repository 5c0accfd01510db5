"""Each list of a client's books, to be saved apart: as CSV, or as a workbook."""

from flask import Blueprint, Response

from corkpost.api.security import must_be_confirmed, person, workplace
from corkpost.api.spec import answers
from corkpost.api.views import XLSX, as_file
from corkpost.formats.shape import Shape
from corkpost.services import client_lists as service

bp = Blueprint("lists", __name__)


class ClientListAnswer(Shape):
    """*name*: of its file. *rows*: how many it has."""

    name: str
    title: str
    rows: int


class ClientListsAnswer(Shape):
    lists: list[ClientListAnswer]


@bp.get("/clients/<client>/lists")
@answers(ClientListsAnswer, "books")
def shown(client: str) -> ClientListsAnswer:
    """What lists there are."""
    pack = service.pack_of(workplace(), workplace().ledger(person(), client).books)
    return ClientListsAnswer(
        lists=[
            ClientListAnswer(name=part.name, title=part.title, rows=len(part.rows))
            for part in pack.parts
        ]
    )


@bp.get("/clients/<client>/lists.xlsx")
@answers(None, "books")
def all_as_workbook(client: str) -> Response:
    """Every list in one workbook, a sheet each."""
    must_be_confirmed()
    content = service.all_xlsx(workplace(), person(), client)
    return as_file(f"{client} lists.xlsx", content, XLSX)


@bp.get("/clients/<client>/lists/<name>.csv")
@answers(None, "books")
def as_table(client: str, name: str) -> Response:
    """One list as CSV."""
    must_be_confirmed()
    content = service.list_csv(workplace(), person(), client, name)
    return as_file(f"{client} {name}.csv", content, "text/csv")


@bp.get("/clients/<client>/lists/<name>.xlsx")
@answers(None, "books")
def as_workbook(client: str, name: str) -> Response:
    """One list as a workbook."""
    must_be_confirmed()
    content = service.list_xlsx(workplace(), person(), client, name)
    return as_file(f"{client} {name}.xlsx", content, XLSX)
