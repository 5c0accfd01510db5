"""Statement files that came with the books, found by their digests."""

from corkpost.core.books import StatementFile
from corkpost.core.kinds import StatementFormat
from corkpost.core.row_kinds import RowKind

KIND = RowKind(
    "statements",
    2,
    StatementFile,
    key=lambda row: [row.account, row.path],
    readers={"format": StatementFormat},
)
