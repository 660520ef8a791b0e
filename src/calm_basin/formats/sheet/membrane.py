"""The page of the membrane: what is cut, in the order of laying, to tick."""

from __future__ import annotations

from typing import Any

from reportlab.lib.colors import black, white
from reportlab.platypus import Spacer

from calm_basin.core.membrane.result import MembraneResult
from calm_basin.formats.sheet.drawing import LIGHT, PlanDrawing
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text
from calm_basin.formats.sheet.texts import shares

COLUMNS = 3
"""Pieces stand side by side: each is short."""


class MembraneDrawing(PlanDrawing):
    """The sealed floor with its bands, numbered as in the list."""

    def __init__(self, sheet: Sheet, membrane: MembraneResult) -> None:
        self.membrane, self.room = membrane, sheet.plan.room.outline
        super().__init__(sheet, self.room, (0.96, 0.3))

    def draw(self) -> None:
        self.shape(self.all(self.room), width=1.2)
        self.shape(self.all(self.membrane.outline), fill=LIGHT, width=0.4)
        placed = [(n, p, self.all(p.places)) for n, p in enumerate(self.membrane.pieces, start=1)]
        for _, piece, places in placed:
            if len(places) == 2:
                self.line(places, 3.0)
            elif piece.kind == "sheet":
                if places:
                    self.shape(places, width=0.4)
            elif places and piece.kind == "collar":
                self.canv.circle(*places[0], 6, stroke=1, fill=0)
            elif places and piece.kind not in ("upright", "bench"):
                x, y = places[0]
                self.canv.setFillColor(black)
                self.canv.rect(x - 3, y - 3, 6, 6, stroke=0, fill=1)
        # Over all lines, so that each number can be read.
        self.canv.setLineWidth(0.8)
        for number, _, places in placed:
            if len(places) == 2:
                middle = (places[0][0] + places[1][0]) / 2, (places[0][1] + places[1][1]) / 2
                self.canv.setFillColor(white)
                self.canv.circle(*middle, 7, stroke=1, fill=1)
                self.written(middle, str(number))


def _membrane(sheet: Sheet) -> list[Any]:
    found = sheet.solution.membrane
    if found is None:
        return []
    drawing = MembraneDrawing(sheet, found)
    cells = [
        text(f"[{'x' if one.laid else ' '}] {number}. {one.name} {one.cut_text}")
        for number, one in enumerate(found.pieces, start=1)
    ]
    cells += [""] * (-len(cells) % COLUMNS)
    rows = [cells[i : i + COLUMNS] for i in range(0, len(cells), COLUMNS)]
    figures = " · ".join(f"{one.label}: {one.text}" for one in found.figures)
    return [
        text(f"{found.said}.", STRONG),
        text(figures),
        text(f"Scale 1:{drawing.scale}. Numbers are those of the list; squares: corners.", SMALL),
        drawing,
        Spacer(1, 6),
        table(rows, shares(sheet, *[1 / COLUMNS] * COLUMNS), head=False),
        Spacer(1, 6),
        *(text(f"• {note}") for note in found.notes),
    ]


MEMBRANE = Page("membrane", "Membrane", _membrane, part="membrane")
