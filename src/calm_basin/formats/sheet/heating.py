"""The page of the heating cable: its way, what it takes, what is heeded."""

from __future__ import annotations

from typing import Any

from reportlab.lib.colors import black
from reportlab.platypus import Spacer

from calm_basin.core.heating.result import HeatingResult
from calm_basin.formats.sheet.drawing import LIGHT, PlanDrawing
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text
from calm_basin.formats.sheet.texts import shares, working


class CableDrawing(PlanDrawing):
    """The room with the cable, what is kept free of it, and the sensor."""

    def __init__(self, sheet: Sheet, heating: HeatingResult) -> None:
        self.heating, self.room = heating, sheet.plan.room.outline
        super().__init__(sheet, self.room, (0.96, 0.36))

    def draw(self) -> None:
        self.shape(self.all(self.room), width=1.6)
        for shape in self.heating.kept_free:
            self.shape(self.all(shape), fill=LIGHT, width=0.4)
        for strip in self.heating.mats:
            self.shape(self.all(strip), width=1.1)
        if self.heating.route:
            self.line(self.all(self.heating.route), 1.1)
        if self.heating.sensor:
            self.canv.setDash(2, 2)
            self.line(self.all(self.heating.sensor), 0.8)
            self.canv.setDash()
        self.canv.setFillColor(black)
        self.canv.circle(*self.at(self.heating.start), 3, stroke=0, fill=1)


def _heating(sheet: Sheet) -> list[Any]:
    heating = sheet.solution.heating
    if heating is None or not (heating.route or heating.mats):
        return []
    drawing = CableDrawing(sheet, heating)
    rows: list[list[Any]] = [["Figure", "Value", "How it comes about"]]
    rows += [[one.label, text(one.text, STRONG), working(one)] for one in heating.figures]
    return [
        text(f"{heating.sentence}.", STRONG),
        text(heating.detail),
        text(
            f"Scale 1:{drawing.scale}. Dot: cold joint; dashed: sensor tube; grey: no cable.",
            SMALL,
        ),
        drawing,
        Spacer(1, 6),
        *(text(f"• {note}") for note in heating.notes),
        Spacer(1, 6),
        table(rows, shares(sheet, 0.24, 0.22, 0.54)),
    ]


HEATING = Page("heating", "Heating cable", _heating, part="heating")
