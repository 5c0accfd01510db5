"""What our printed papers have in common: page, fonts, head, tables of figures."""

from collections.abc import Callable, Sequence
from functools import cache
from io import BytesIO
from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import HexColor
from reportlab.lib.pagesizes import A4
from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import registerFont
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.pdfgen.canvas import Canvas
from reportlab.platypus import Flowable, Paragraph, SimpleDocTemplate, Spacer, Table

FONTS = Path(__file__).parent / "fonts"
TEXT, STRONG, DISPLAY = "SourceSans3-Regular", "SourceSans3-Semibold", "Bitter-Semibold"
INK, QUIET, RULE = HexColor("#20272E"), HexColor("#5C6268"), HexColor("#E3DCCF")


@cache
def _with_fonts() -> None:
    for name in (TEXT, STRONG, DISPLAY):
        registerFont(TTFont(name, FONTS / f"{name}.ttf"))


def style(
    font: str = TEXT, size: float = 10, *, quiet: bool = False, right: bool = False, before: int = 0
) -> ParagraphStyle:
    """A way of setting words. *size* in points, *before*: the space above, in points."""
    _with_fonts()
    return ParagraphStyle(
        f"{font} {size}",
        fontName=font,
        fontSize=size,
        leading=size * 1.35,
        textColor=QUIET if quiet else INK,
        alignment=2 if right else 0,
        spaceBefore=before,
    )


def words(text: str, how: ParagraphStyle | None = None) -> Paragraph:
    """A paragraph of plain text: nothing in it is read as markup."""
    return Paragraph(escape(text).replace("\n", "<br/>"), how or style())


def figures(rows: Sequence[Sequence[str]], widths: Sequence[float], *, figures_from: int) -> Table:
    """A table with thin rules; columns from *figures_from* on are set right. Widths in millimetres."""
    _with_fonts()
    cells = [
        [words(text) if place < figures_from else text for place, text in enumerate(row)]
        for row in rows
    ]
    made = Table(cells, colWidths=[width * mm for width in widths], hAlign="LEFT")
    made.setStyle(
        [
            ("FONT", (0, 0), (-1, -1), TEXT, 10),
            ("TEXTCOLOR", (0, 0), (-1, -1), INK),
            ("ALIGN", (figures_from, 0), (-1, -1), "RIGHT"),
            ("VALIGN", (0, 0), (-1, -1), "TOP"),
            ("LINEBELOW", (0, 0), (-1, -1), 0.4, RULE),
            ("LEFTPADDING", (0, 0), (0, -1), 0),
            ("TOPPADDING", (0, 0), (-1, -1), 2),
            ("BOTTOMPADDING", (0, 0), (-1, -1), 3),
        ]
    )
    return made


def space(height: float) -> Spacer:
    """Empty room, in millimetres."""
    return Spacer(1, height * mm)


def paper(story: list[Flowable], *, title: str, foot: str) -> bytes:
    """A PDF of what is to be told, with a line at the foot of every page."""
    _with_fonts()
    made = BytesIO()
    document = SimpleDocTemplate(
        made,
        pagesize=A4,
        leftMargin=22 * mm,
        rightMargin=22 * mm,
        topMargin=20 * mm,
        bottomMargin=20 * mm,
        title=title,
        author="Cork Post",
    )
    at_foot = _foot(foot)
    document.build(story, onFirstPage=at_foot, onLaterPages=at_foot)
    return made.getvalue()


def _foot(text: str) -> Callable[[Canvas, Any], None]:
    def draw(canvas: Canvas, document: Any) -> None:
        canvas.setFont(TEXT, 8)
        canvas.setFillColor(QUIET)
        canvas.drawString(22 * mm, 12 * mm, text)
        canvas.drawRightString(A4[0] - 22 * mm, 12 * mm, f"page {document.page}")

    return draw
