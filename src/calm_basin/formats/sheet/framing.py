"""The page of the walls: both lines, each wall from inside, what is cut for it."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Any

from reportlab.lib.colors import white
from reportlab.lib.units import mm
from reportlab.pdfbase.pdfmetrics import stringWidth
from reportlab.platypus import KeepTogether, Spacer

from calm_basin.core.walls.result import WallBox, WallView
from calm_basin.formats.sheet.drawing import EDGE, GREY, LIGHT, Drawing
from calm_basin.formats.sheet.page import Page, Sheet, scale_for
from calm_basin.formats.sheet.style import SMALL, SMALL_SIZE, STRONG, font_for, table, text
from calm_basin.formats.sheet.texts import shares

MOST = (0.96, 0.2)
"""Of the sheet's width and height, for one wall."""


class WallDrawing(Drawing):
    """One wall from inside: studs, backing, boards by their edges, screws and what hangs on it."""

    def __init__(self, wall: WallView, scale: int) -> None:
        self.wall, self.scale, high = wall, scale, wall.height - wall.low
        factor = mm / self.scale
        super().__init__(wall.length * factor + 2 * EDGE, high * factor + 2 * EDGE)

    def _box(self, one: WallBox) -> list[tuple[float, float]]:
        factor = mm / self.scale
        left, low = one.x * factor + EDGE, (one.y - self.wall.low) * factor + EDGE
        right, top = left + one.width * factor, low + one.height * factor
        return [(left, low), (right, low), (right, top), (left, top)]

    def draw(self) -> None:
        wall = self.wall
        for one in (*wall.studs, *wall.added):
            self.shape(self._box(one), fill=LIGHT, width=0.4)
        for one in wall.backing:
            self.shape(self._box(one), fill=GREY, width=0.4)
        for one in wall.boards:
            self.shape(self._box(one), width=1.2)
        for one in (*wall.niches, *wall.hung):
            self.shape(self._box(one), width=1.6)
        factor = mm / self.scale
        self.canv.setFillColorRGB(0, 0, 0)
        for x, y in wall.fasteners:
            at = x * factor + EDGE, (y - wall.low) * factor + EDGE
            self.canv.circle(*at, 1, stroke=0, fill=1)
        for one in (*wall.niches, *wall.hung):
            (left, _), (right, top) = self._box(one)[0], self._box(one)[2]
            middle, wide = (left + right) / 2, stringWidth(one.text, font_for(one.text), SMALL_SIZE)
            self.canv.setFillColor(white)
            self.canv.rect(middle - wide / 2 - 1, top + 2, wide + 2, 9, stroke=0, fill=1)
            self.written((middle, top + 6), one.text)


def _one_scale(sheet: Sheet, walls: Sequence[WallView]) -> int:
    """The scale at which every wall has room."""
    return scale_for(
        lambda scale: all(
            wall.length * mm / scale <= sheet.width * MOST[0]
            and (wall.height - wall.low) * mm / scale <= sheet.height * MOST[1]
            for wall in walls
        )
    )


def _framing(sheet: Sheet) -> list[Any]:
    found = sheet.solution.walls
    if found is None:
        return []
    rows = [["Wall", "Between finished walls", "Between studs", "In front of the studs"]]
    rows += [
        [
            f"{line.number}{', shower' if line.at_shower else ''}",
            line.finished_text,
            line.studs_text,
            line.depth_text or "not given",
        ]
        for line in found.lines
    ]
    figures = " · ".join(f"{one.label}: {one.text}" for one in found.figures)
    flow: list[Any] = [
        text(f"{found.said}.", STRONG),
        text(figures),
        table(
            [[text(cell) for cell in row] for row in rows], shares(sheet, 0.16, 0.28, 0.28, 0.28)
        ),
        Spacer(1, 6),
        *(text(f"• {note}") for note in found.notes),
    ]
    if found.chain:
        chain = " · ".join(f"{row.name}: {row.text}" for row in found.chain)
        flow += [text("Depth from the studs, in the shower", STRONG), text(chain)]
    scale = _one_scale(sheet, found.views)
    for one in found.built:
        flow += [
            text(one.name.capitalize(), STRONG),
            text(" · ".join(f"{row.name}: {row.text}" for row in one.rows)),
            text(f"• {one.note}"),
        ]
    for view in found.views:
        drawing = WallDrawing(view, scale)
        inside = "" if ", " in view.name else ", from inside"
        said = [f"{row.name}: {row.text}" for row in (*view.cuts, *view.furring)]
        flow.append(
            KeepTogether(
                [
                    Spacer(1, 8),
                    text(f"{view.name.capitalize()}{inside}: {view.said}.", STRONG),
                    text(f"Scale 1:{drawing.scale}. Dots: screws; grey: backing.", SMALL),
                    drawing,
                    *(text(f"• {line}") for line in (*said, *view.fixings)),
                ]
            )
        )
    return flow


FRAMING = Page("framing", "Wall framing", _framing, part="walls")
