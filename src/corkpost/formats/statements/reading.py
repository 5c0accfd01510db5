"""Reading a statement of any format that is known, recognised by what is in it."""

from collections.abc import Callable

from corkpost.formats.statements import camt053, csv_table, mt940_text, ofx
from corkpost.formats.statements.csv_table import Columns
from corkpost.formats.statements.parsed import ParsedFile, UnreadableStatement
from corkpost.formats.workbooks import is_workbook

LARGEST_STATEMENT = 20 * 1024 * 1024
READERS: tuple[tuple[Callable[[bytes], bool], Callable[[bytes], ParsedFile]], ...] = (
    (ofx.recognises, ofx.read),
    (camt053.recognises, camt053.read),
    (mt940_text.recognises, mt940_text.read),
)


def is_statement(content: bytes) -> bool:
    """Whether it is a statement by a form that has no other use; a CSV never is."""
    return any(recognises(content) for recognises, _ in READERS)


def read_statement(content: bytes, columns: Columns | None = None) -> ParsedFile:
    """What the file holds. *columns*: which column is what, should it be a CSV.

    Raises UnreadableStatement with what is wrong, or NeedsColumns; nothing is ever half read.
    """
    if len(content) > LARGEST_STATEMENT:
        raise UnreadableStatement("The file is larger than 20 MB: fetch it in parts.")
    if not content.strip():
        raise UnreadableStatement("The file is empty.")
    for recognises, read in READERS:
        if recognises(content):
            return read(content)
    try:
        return csv_table.read(content, columns)
    except csv_table.NeedsColumns:
        raise
    except UnreadableStatement as error:
        if is_workbook(content):
            raise
        raise UnreadableStatement(
            f"{error} It was tried as a CSV, since it is neither OFX, camt.053 nor MT940."
        ) from None
