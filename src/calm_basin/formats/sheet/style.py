"""Fonts, paragraphs and tables of the sheet."""

from __future__ import annotations

import re
from collections.abc import Sequence
from itertools import groupby
from pathlib import Path
from typing import Any
from xml.sax.saxutils import escape

from reportlab.lib.colors import black
from reportlab.lib.styles import ParagraphStyle
from reportlab.pdfbase.pdfmetrics import getFont, registerFont, registerFontFamily
from reportlab.pdfbase.ttfonts import TTFont
from reportlab.platypus import Paragraph, Table, TableStyle

PLAIN, BOLD = "Sheet", "SheetBold"
SPARE, SPARE_BOLD = "Vera", "VeraBd"
SMALL_SIZE = 8.0
FONTS = Path(__file__).parent / "fonts"
# The letters of the screen, and for signs that they lack the library's own.
registerFont(TTFont(PLAIN, str(FONTS / "AtkinsonHyperlegibleNext-Regular.ttf")))
registerFont(TTFont(BOLD, str(FONTS / "AtkinsonHyperlegibleNext-Bold.ttf")))
registerFont(TTFont(SPARE, "Vera.ttf"))
registerFont(TTFont(SPARE_BOLD, "VeraBd.ttf"))
registerFontFamily(PLAIN, normal=PLAIN, bold=BOLD, italic=PLAIN, boldItalic=BOLD)
KNOWN = frozenset(getFont(PLAIN).face.charToGlyph) & frozenset(getFont(BOLD).face.charToGlyph)
"""The signs that the letters of the screen have."""

HEADING = ParagraphStyle(
    "heading", fontName=BOLD, fontSize=14, leading=18, spaceBefore=14, spaceAfter=6
)
STRONG = ParagraphStyle("strong", fontName=BOLD, fontSize=10, leading=13, spaceBefore=6)
BODY = ParagraphStyle("body", fontName=PLAIN, fontSize=9, leading=12)
SMALL = ParagraphStyle("small", fontName=PLAIN, fontSize=SMALL_SIZE, leading=10.5)


def text(words: str, style: ParagraphStyle = BODY) -> Paragraph:
    """A paragraph of plain words, in which no number parts from its fraction or its unit where a
    line ends."""
    return Paragraph(_marked(_UNBROKEN.sub("\\1\u00a0", words), style.fontName), style)


_UNBROKEN = re.compile(
    r"(\d[\"']?|×) (?=×|\d+/\d|(?<=× )\d|(?:mm|cm|m|in|ft|per|L|gal|kg|lb|W|V|A|h|min|s)\b)"
)


def _marked(words: str, font: str) -> str:
    """Words for a paragraph, the signs that its font lacks set in the spare one."""
    spare = SPARE_BOLD if font == BOLD else SPARE
    runs = groupby(words, key=lambda sign: ord(sign) in KNOWN or ord(sign) < ord(" "))
    return "".join(
        escape("".join(run)) if known else f'<font name="{spare}">{escape("".join(run))}</font>'
        for known, run in runs
    )


def font_for(words: str, *, bold: bool = False) -> str:
    """The font that words on a drawing are written in: one that has all of their signs."""
    if all(ord(sign) in KNOWN for sign in words):
        return BOLD if bold else PLAIN
    return SPARE_BOLD if bold else SPARE


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
