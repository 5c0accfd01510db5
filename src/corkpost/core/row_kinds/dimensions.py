"""What a client's lines may be told apart by: branches, projects."""

from corkpost.core.books import Dimension
from corkpost.core.row_kinds import RowKind

KIND = RowKind("dimensions", 0, Dimension, key=lambda row: [row.dimension, row.code])
