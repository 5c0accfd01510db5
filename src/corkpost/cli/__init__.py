"""The command line: the same services as the pages, without them."""

from corkpost.cli.main import main

__all__ = ["main"]
