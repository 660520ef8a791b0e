"""Fonts, paragraphs and tables of the sheet."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import black
from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfbase.pdfmetrics import registerFont
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Paragraph, Table, TableStyle

PLAIN, BOLD = "Vera", "VeraBd"
SMALL_SIZE = 8.0
# The library's own fonts: they have every sign that the solution's texts use.
registerFont(TTFont(PLAIN, "Vera.ttf"))
registerFont(TTFont(BOLD, "VeraBd.ttf"))

HEADING = ParagraphStyle("heading", fontName=BOLD, fontSize=14, leading=18, spaceAfter=8)
STRONG = ParagraphStyle("strong", fontName=BOLD, fontSize=10, leading=13, spaceBefore=6)
BODY = ParagraphStyle("body", fontName=PLAIN, fontSize=9, leading=12)
SMALL = ParagraphStyle("small", fontName=PLAIN, fontSize=SMALL_SIZE, leading=10.5)


def text(words: str, style: ParagraphStyle = BODY) -> Paragraph:
    """A paragraph of plain words."""
    return Paragraph(escape(words), style)


def table(rows: Sequence[Sequence[Any]], widths: Sequence[float], *, head: bool = True) -> Table:
    """Rows of words or flowables, ruled, the first one a heading that comes again on every page."""
    shown = [
        [
            text(cell, STRONG if head and i == 0 else BODY) if isinstance(cell, str) else cell
            for cell in row
        ]
        for i, row in enumerate(rows)
    ]
    made = Table(shown, colWidths=list(widths), repeatRows=1 if head else 0, hAlign="LEFT")
    made.setStyle(
        TableStyle(
            [
                ("VALIGN", (0, 0), (-1, -1), "TOP"),
                ("LINEBELOW", (0, 0), (-1, -1), 0.4, black),
                ("LEFTPADDING", (0, 0), (-1, -1), 3),
                ("RIGHTPADDING", (0, 0), (-1, -1), 3),
                ("TOPPADDING", (0, 0), (-1, -1), 2),
                ("BOTTOMPADDING", (0, 0), (-1, -1), 3),
            ]
        )
    )
    return made
