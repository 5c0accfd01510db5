"""Text in the cells of tables that go out to spreadsheets, and comes back from them."""

import re

_NUMBER = re.compile(r"[+-]?[0-9][0-9.,]*", re.ASCII)
_BEGINS = ("=", "+", "-", "@", "\t", "\r")


def plain_cell(text: str) -> str:
    """The text so that no spreadsheet takes it for a formula; figures stay as they are."""
    return f"'{text}" if text.startswith(_BEGINS) and not _NUMBER.fullmatch(text) else text


def cell_said(text: str) -> str:
    """The text of a cell that came back, without the mark that `plain_cell` put before it."""
    return text[1:] if text.startswith("'") and text[1:].startswith(_BEGINS) else text
