"""The pack on paper: a cover with the postmark, contents with page numbers, and a table for each part."""

from io import BytesIO
from math import pi, sin
from typing import Any

from reportlab.lib.pagesizes import A4
from reportlab.lib.units import mm
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import (
    BaseDocTemplate,
    CondPageBreak,
    Flowable,
    Frame,
    LongTable,
    NextPageTemplate,
    PageBreak,
    PageTemplate,
    Paragraph,
)
from reportlab.platypus.tableofcontents import TableOfContents

from corkpost.core.formatting import format_date
from corkpost.core.money import Currency
from corkpost.formats.pack import Cell, Pack, Part
from corkpost.pack.paper import (
    DISPLAY,
    INK,
    QUIET,
    RULE,
    STRONG,
    TEXT,
    figures,
    space,
    style,
    words,
)

LEFT, WIDTH = 20 * mm, A4[0] - 40 * mm
FIGURE, NARROW = 25 * mm, 20.5 * mm
"""How wide a column of figures is; and where they are many."""
ROOM = 55 * mm
"""A heading goes over to the next page where there is less below it."""
ON_A_PAGE_OF_ITS_OWN = ("profit-and-loss", "tie-outs")


def pack_pdf(pack: Pack) -> bytes:
    """Text can be selected, tables repeat their heads, and no total stands alone on a page."""
    made = BytesIO()
    document = _Document(pack, made)
    document.multiBuild(_story(pack))
    return made.getvalue()


class _Document(BaseDocTemplate):  # type: ignore[misc]
    """Notes each heading for the contents and the reader's outline."""

    def __init__(self, pack: Pack, to: BytesIO) -> None:
        super().__init__(
            to,
            pagesize=A4,
            title=f"{pack.name}, {format_date(pack.as_at)}",
            author=pack.practice,
            invariant=1,
        )
        frame = Frame(LEFT, 20 * mm, WIDTH, A4[1] - 40 * mm, 0, 0, 0, 0)
        foot = f"{pack.name} · as at {format_date(pack.as_at)} · made {pack.made_at}"
        self.addPageTemplates(
            [
                PageTemplate("cover", [frame]),
                PageTemplate("parts", [frame], onPage=lambda c, d: _foot(c, d, foot)),
            ]
        )

    def afterFlowable(self, flowable: Flowable) -> None:
        name = getattr(flowable, "part", None)
        if name:
            self.canv.bookmarkPage(name)
            self.canv.addOutlineEntry(flowable.getPlainText(), name, 0)
            self.notify("TOCEntry", (0, flowable.getPlainText(), self.page, name))


def _foot(canvas: Canvas, document: Any, text: str) -> None:
    canvas.setFont(TEXT, 8)
    canvas.setFillColor(QUIET)
    canvas.drawString(LEFT, 12 * mm, text)
    canvas.drawRightString(LEFT + WIDTH, 12 * mm, f"page {document.page}")


def _story(pack: Pack) -> list[Flowable]:
    contents = TableOfContents()
    contents.levelStyles = [style(size=11, before=4)]
    contents.dotsMinLevel = 0
    story: list[Flowable] = [
        words(pack.practice, style(quiet=True)),
        space(40),
        words(pack.name, style(DISPLAY, 28)),
        space(4),
        words(f"Trial balance as at {format_date(pack.as_at)}", style(DISPLAY, 16)),
        space(12),
        figures(pack.facts, (50, 110), figures_from=2),
        space(14),
    ]
    if pack.signed:
        story.append(_Postmark(*pack.signed))
    story += [NextPageTemplate("parts"), PageBreak()]
    story += [words("Contents", style(DISPLAY, 18)), space(4), contents, PageBreak()]
    for place, part in enumerate(pack.parts):
        if part.name in ON_A_PAGE_OF_ITS_OWN and place:
            story.append(PageBreak())
        elif place:
            story += [space(10), CondPageBreak(ROOM)]
        story += _part(part, pack.currency)
    return story


def _part(part: Part, currency: Currency) -> list[Flowable]:
    heading = _Heading(part)
    story: list[Flowable] = [heading, *(words(note, style(quiet=True)) for note in part.notes)]
    story.append(space(2))
    if not part.rows:
        return [*story, words(part.empty)]
    return [*story, _table(part, currency)]


class _Heading(Paragraph):  # type: ignore[misc]
    """Stays with what follows it."""

    def __init__(self, part: Part) -> None:
        how = style(STRONG, 14)
        how.keepWithNext = 1
        super().__init__(part.title, how)
        self.part = part.name


def _table(part: Part, currency: Currency) -> LongTable:
    small = style(size=8.5)
    rows: list[list[Any]] = [[column.name for column in part.columns]]
    body = [*part.rows, part.sums] if part.summed else list(part.rows)
    for cells in body:
        rows.append([_cell(cell, currency, small) for cell in cells])
    many = sum(column.figure for column in part.columns)
    figure = FIGURE if many < 5 else NARROW
    room = WIDTH - figure * many
    whole = sum(column.wide for column in part.columns if not column.figure) or 1
    widths = [figure if c.figure else room * c.wide / whole for c in part.columns]
    table = LongTable(rows, colWidths=widths, repeatRows=1, hAlign="LEFT")
    last = len(rows) - 1
    looks: list[tuple[Any, ...]] = [
        ("FONT", (0, 0), (-1, -1), TEXT, 8.5),
        ("FONT", (0, 0), (-1, 0), STRONG, 8.5),
        ("TEXTCOLOR", (0, 0), (-1, -1), INK),
        ("VALIGN", (0, 0), (-1, -1), "TOP"),
        ("LINEBELOW", (0, 0), (-1, 0), 0.8, INK),
        ("LINEBELOW", (0, 1), (-1, -1), 0.3, RULE),
        ("LEFTPADDING", (0, 0), (-1, -1), 0),
        ("RIGHTPADDING", (0, 0), (-1, -1), 4),
        ("TOPPADDING", (0, 0), (-1, -1), 1.5),
        ("BOTTOMPADDING", (0, 0), (-1, -1), 2.5),
    ]
    looks += [
        ("ALIGN", (place, 0), (place, -1), "RIGHT")
        for place, column in enumerate(part.columns)
        if column.figure
    ]
    if part.summed:
        looks += [
            ("FONT", (0, last), (-1, last), STRONG, 8.5),
            ("LINEABOVE", (0, last), (-1, last), 0.8, INK),
            # The total goes over to the next page only with what it sums.
            ("NOSPLIT", (0, max(1, last - 2)), (-1, last)),
        ]
    table.setStyle(looks)
    return table


def _cell(cell: Cell, currency: Currency, how: Any) -> Any:
    if isinstance(cell, int):
        text = currency.format_amount(cell)
        return f"({text})" if cell < 0 else text
    return words(cell, how) if cell else ""


class _Postmark(Flowable):  # type: ignore[misc]
    """Who prepared and who signed, and when, as a round mark with its waves."""

    def __init__(self, prepared: str, signed: str, day: str) -> None:
        super().__init__()
        self.prepared, self.signed, self.day = prepared, signed, day
        self.width, self.height = 90 * mm, 44 * mm

    def draw(self) -> None:
        canvas, middle = self.canv, 22 * mm
        canvas.setStrokeColor(INK)
        canvas.setFillColor(INK)
        canvas.setLineWidth(1.2)
        canvas.circle(middle, middle, 21 * mm)
        canvas.setLineWidth(0.6)
        canvas.circle(middle, middle, 17.5 * mm)
        canvas.setFont(STRONG, 9)
        canvas.drawCentredString(middle, middle + 6 * mm, "SIGNED OFF")
        canvas.setFont(TEXT, 9)
        canvas.drawCentredString(middle, middle + 1 * mm, self.day)
        canvas.drawCentredString(middle, middle - 4 * mm, f"{self.prepared} · {self.signed}")
        canvas.setLineWidth(1)
        for row in range(4):
            path = canvas.beginPath()
            height = middle + (row - 1.5) * 5 * mm
            for step in range(81):
                across = 44 * mm + step * 0.5 * mm
                up = height + 1.2 * mm * sin(step * pi / 10)
                if step:
                    path.lineTo(across, up)
                else:
                    path.moveTo(across, up)
            canvas.drawPath(path)
