"""How a practice sorts its clients: by when they are due, and by whose move it is."""

from enum import StrEnum


class Band(StrEnum):
    OVERDUE = "Overdue"
    THIS_WEEK = "This week"
    THIS_MONTH = "This month"
    LATER = "Later"
    SIGNED = "Signed"


class Move(StrEnum):
    """Whose move it is."""

    US = "us"
    CLIENT = "client"
    REVIEWER = "reviewer"
    NOBODY = "nobody"


def band_of(*, signed: bool, days_left: int | None) -> Band:
    """The band of a client whose sign-off is due in so many days; None where no day is set."""
    if signed:
        return Band.SIGNED
    if days_left is None:
        return Band.LATER
    if days_left < 0:
        return Band.OVERDUE
    if days_left <= 7:
        return Band.THIS_WEEK
    return Band.THIS_MONTH if days_left <= 31 else Band.LATER


def move_of(*, signed: bool, waiting: bool, open_points: int, asked: int) -> Move:
    """Whose move it is. *waiting*: something was handed in to be approved."""
    if signed:
        return Move.NOBODY
    if waiting:
        return Move.REVIEWER
    if open_points:
        return Move.US
    return Move.CLIENT if asked else Move.REVIEWER
