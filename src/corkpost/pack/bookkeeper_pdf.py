"""The list for the client's bookkeeper on paper: each change in plain words with its journal."""

from collections.abc import Iterable, Iterator

from reportlab.platypus import Flowable, KeepTogether

from corkpost.core.books import Books, Transaction
from corkpost.core.explaining import Explained, ToldKind
from corkpost.core.formatting import format_date
from corkpost.formats.bookkeeper_list import in_place_of, sentence, times_of
from corkpost.pack.paper import DISPLAY, STRONG, figures, paper, space, style, words


def bookkeeper_pdf(
    books: Books,
    *,
    practice: str,
    made_on: str,
    kinds: Iterable[ToldKind],
    taken_back: Iterable[Explained],
) -> bytes:
    """The list as a PDF. *made_on*: its day, in words."""
    client = books.client
    story: list[Flowable] = [
        words(f"{practice}, {made_on}", style(quiet=True)),
        space(2),
        words(f"What we entered in the books of {client.name}", style(DISPLAY, 18)),
        space(2),
        words(
            "Nothing of yours was changed or deleted: each of our entries stands beside what it "
            f"puts right. Amounts in {client.currency.code}."
        ),
    ]
    for kind in kinds:
        story.append(space(5))
        heading = f"{kind.words.heading} ({times_of(kind)})"
        story.append(words(heading, style(STRONG, 12)))
        for explained in kind.items:
            story.append(KeepTogether(list(_item(books, explained))))
        if kind.words.avoid:
            story.append(space(2))
            story.append(words(f"So that it does not happen again: {kind.words.avoid}"))
    back = list(taken_back)
    if back:
        story += [space(5), words("Taken back since we told you of it", style(STRONG, 12))]
        for explained in back:
            names = ", ".join(entry.id for entry in explained.entries)
            story.append(words(f"{names}: {explained.reason}{in_place_of(explained)}"))
    return paper(
        story,
        title=f"For the bookkeeper of {client.name}",
        foot=f"{client.name} · for the bookkeeper · {made_on}",
    )


def _item(books: Books, explained: Explained) -> Iterator[Flowable]:
    yield space(3)
    if explained.about:
        yield words(f"About {'; '.join(explained.about)}.", style(quiet=True))
    yield words(f"{explained.words.did} {sentence(explained.reason)}")
    for entry in explained.entries:
        yield space(1)
        yield _journal(books, entry)
    yield words(explained.words.means, style(STRONG))


def _journal(books: Books, entry: Transaction) -> Flowable:
    money = books.client.currency.format_amount
    rows = [(entry.id, format_date(entry.posting_date), "Debit", "Credit")]
    for line in entry.lines:
        who = f", {books.party_name(line.party)}" if line.party else ""
        name = f"{books.accounts[line.account].name}{who}"
        debit = money(line.amount) if line.amount > 0 else ""
        rows.append((line.account, name, debit, money(line.amount) if line.amount < 0 else ""))
    return figures(rows, (28, 88, 25, 25), figures_from=2)
