"""The list for the client's bookkeeper: as a message's words, and its journals as CSV."""

import csv
import io
from collections.abc import Iterable, Iterator

from corkpost.core.books import Books
from corkpost.core.cells import plain_cell
from corkpost.core.explaining import Explained, ToldKind
from corkpost.core.formatting import format_date


def times_of(kind: ToldKind) -> str:
    """How often it happened: `3 times, 1 the year before`."""
    times = "once" if len(kind.items) == 1 else f"{len(kind.items)} times"
    return times + (f", {kind.year_before} the year before" if kind.year_before else "")


def body_of(
    *,
    to: str,
    sender: str,
    practice: str,
    client: str,
    kinds: Iterable[ToldKind],
    taken_back: Iterable[Explained],
) -> str:
    """The list as a message reads."""
    lines = [
        f"Dear {to},",
        "",
        f"this is what we entered in the books of {client}, and what it means for your daily work.",
        "Nothing of yours was changed or deleted: each of our entries stands beside what it puts right.",
        "",
    ]
    for kind in kinds:
        lines += [f"{kind.words.heading} ({times_of(kind)})", ""]
        for explained in kind.items:
            lines += [f"  {text}" for text in _item(explained)]
            lines.append("")
        if kind.words.avoid:
            lines += [f"  So that it does not happen again: {kind.words.avoid}", ""]
    back = list(taken_back)
    if back:
        lines += ["Taken back since we told you of it", ""]
        for explained in back:
            names = ", ".join(entry.id for entry in explained.entries)
            lines.append(f"  {names}: {explained.reason}{in_place_of(explained)}")
        lines.append("")
    lines += ["The journals are attached, to read and as a table.", "", sender, practice, ""]
    return "\n".join(lines)


def in_place_of(explained: Explained) -> str:
    """What of the client's stands in place of what was taken back, in words; empty where nothing does."""
    if not explained.keyed:
        return ""
    return f" Yours stands in its place: {', '.join(explained.keyed)}."


def sentence(text: str) -> str:
    """A reason as people key it, ended like a sentence."""
    return text if text.endswith((".", "!", "?")) else f"{text}."


def _item(explained: Explained) -> Iterator[str]:
    if explained.about:
        yield f"About {'; '.join(explained.about)}."
    yield f"{explained.words.did} {sentence(explained.reason)}"
    if explained.moves:
        numbers = ", ".join(entry.id for entry in explained.entries)
        yield f"{numbers}, {format_date(explained.day)}: {'; '.join(explained.moves)}."
    yield explained.words.means
    if explained.keyed:
        yield f"You entered it too, as {', '.join(explained.keyed)}: we will say which of them stands."


def journals_csv(books: Books, items: Iterable[Explained]) -> bytes:
    """Every line of the entries, to be keyed or taken in elsewhere. Amounts are decimals."""
    money = books.client.currency.format
    out = io.StringIO()
    writer = csv.writer(out, lineterminator="\r\n")
    writer.writerow(
        ("entry", "date", "kind", "account", "name", "party", "debit", "credit", "text", "reason")
    )
    for explained in items:
        for entry in explained.entries:
            for line in entry.lines:
                debit, credit = (line.amount, 0) if line.amount > 0 else (0, -line.amount)
                writer.writerow(
                    (
                        entry.id,
                        entry.posting_date,
                        entry.entry_kind or "",
                        line.account,
                        plain_cell(books.accounts[line.account].name),
                        plain_cell(books.party_name(line.party)) if line.party else "",
                        money(debit) if debit else "",
                        money(credit) if credit else "",
                        plain_cell(line.description or ""),
                        plain_cell(explained.reason),
                    )
                )
    # The mark tells spreadsheets that it is UTF-8.
    return ("\ufeff" + out.getvalue()).encode()
