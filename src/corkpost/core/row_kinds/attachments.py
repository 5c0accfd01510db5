"""Papers that came with the books, found by their digests."""

from corkpost.core.books import Attachment
from corkpost.core.row_kinds import RowKind

KIND = RowKind("attachments", 10, Attachment, key=lambda row: [row.transaction, row.path])
