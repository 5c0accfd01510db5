"""What an account asks of entries beyond its role: closed to them, or a dimension that each line needs."""

from typing import NamedTuple

from corkpost.core.row_kinds import register_kind


class AccountMarks(NamedTuple):
    """*marks*: `inactive`, `no-journals`, and `needs:` with the name of a dimension."""

    account: str
    marks: tuple[str, ...]
    stands: bool = True
    change: int | None = None


KIND = register_kind(
    "account_marks",
    19,
    AccountMarks,
    key=lambda row: [row.account],
    readers={"marks": tuple},
)
