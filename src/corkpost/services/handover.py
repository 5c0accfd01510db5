"""Everything that the practice has of a client, in one zip with a readable index: for a client who leaves,
or for another program."""

import html
import tempfile
import zipfile
from io import BytesIO
from pathlib import Path

from corkpost.core.books import Books
from corkpost.formats.pack import Pack, as_csv
from corkpost.pack.pack_xlsx import pack_xlsx
from corkpost.services import books as books_service
from corkpost.services.client_lists import pack_of
from corkpost.services.rights import Person
from corkpost.services.workplace import Workplace


def hand_over(workplace: Workplace, person: Person, client_code: str) -> bytes:
    """The zip: an index, each list as CSV and all as a workbook, statements and papers as they came, and
    the books in the form that this program takes in. Raises UnknownName."""
    books = workplace.ledger(person, client_code).books
    pack = pack_of(workplace, books)
    out = BytesIO()
    with zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as archive:
        archive.writestr("index.html", _index(books, pack))
        archive.writestr(f"{pack.client}.xlsx", pack_xlsx(pack))
        for part in pack.parts:
            archive.writestr(f"lists/{part.name}.csv", as_csv(part, pack.currency))
        with tempfile.TemporaryDirectory() as folder:
            to = Path(folder) / "books"
            books_service.give_out(workplace, person, client_code, to)
            for file in sorted(to.rglob("*")):
                if file.is_file():
                    archive.write(file, file.relative_to(folder))
    return out.getvalue()


def _index(books: Books, pack: Pack) -> str:
    """What is in it, to be read in any browser."""
    rows = "".join(
        f'<tr><td><a href="lists/{part.name}.csv">{html.escape(part.title)}</a></td>'
        f"<td>{len(part.rows)}</td></tr>"
        for part in pack.parts
    )
    papers = len(books.tables.attachments)
    statements = len(books.tables.statements)
    title = html.escape(f"{pack.name}: the books until {pack.as_at.isoformat()}")
    return (
        f'<!doctype html><html lang="en"><meta charset="utf-8"><title>{title}</title>'
        "<body style='font-family:sans-serif;max-width:60rem;margin:2rem auto'>"
        f"<h1>{title}</h1><p>Given out by {html.escape(pack.practice)}, {pack.made_at}. Amounts in "
        f"{pack.currency.code}. With every correction of the practice.</p>"
        f'<p>All lists in one workbook: <a href="{pack.client}.xlsx">{pack.client}.xlsx</a></p>'
        f"<table><tr><th>List (CSV)</th><th>Rows</th></tr>{rows}</table>"
        f"<p>In the folder <code>books</code>: {papers} papers and {statements} statements as they came, "
        "and all of it as open tables with a description (datapackage.json).</p></body></html>"
    )
