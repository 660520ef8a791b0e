"""The page of the heating cable: its way, what it takes, what is heeded."""

from __future__ import annotations

from typing import Any

from reportlab.lib.colors import black
from reportlab.lib.units import mm
from reportlab.platypus import Spacer

from calm_basin.core.answer.result import XY
from calm_basin.core.heating.result import HeatingResult
from calm_basin.formats.sheet.page import Page, Sheet, scale_for
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text
from calm_basin.formats.sheet.texts import shares, working
from calm_basin.formats.sheet.under import LIGHT, Drawing


class CableDrawing(Drawing):
    """The room with the cable, what is kept free of it, and the sensor."""

    def __init__(self, sheet: Sheet, heating: HeatingResult) -> None:
        self.heating, self.room = heating, sheet.plan.room.outline
        self.left, self.bottom = min(x for x, _ in self.room), min(y for _, y in self.room)
        wide = max(x for x, _ in self.room) - self.left
        deep = max(y for _, y in self.room) - self.bottom
        self.scale = scale_for(
            lambda scale: (
                wide * mm / scale <= sheet.width * 0.96 and deep * mm / scale <= sheet.height * 0.36
            )
        )
        super().__init__(wide * mm / self.scale + 4, deep * mm / self.scale + 4)

    def at(self, place: XY) -> XY:
        """A place of the plan on the drawing."""
        factor = mm / self.scale
        return (place[0] - self.left) * factor + 2, (place[1] - self.bottom) * factor + 2

    def draw(self) -> None:
        self.shape([self.at(place) for place in self.room], width=1.6)
        for shape in self.heating.kept_free:
            self.shape([self.at(place) for place in shape], fill=LIGHT, width=0.4)
        self.canv.setStrokeColor(black)
        self.line(self.heating.route, 1.1)
        self.canv.setDash(2, 2)
        self.line(self.heating.sensor, 0.8)
        self.canv.setDash()
        x, y = self.at(self.heating.start)
        self.canv.setFillColor(black)
        self.canv.circle(x, y, 3, stroke=0, fill=1)

    def line(self, places: tuple[XY, ...], width: float) -> None:
        """A line through places of the plan."""
        if len(places) < 2:
            return
        way = self.canv.beginPath()
        way.moveTo(*self.at(places[0]))
        for place in places[1:]:
            way.lineTo(*self.at(place))
        self.canv.setLineWidth(width)
        self.canv.drawPath(way, stroke=1, fill=0)


def _heating(sheet: Sheet) -> list[Any]:
    heating = sheet.solution.heating
    if heating is None or not heating.route:
        return []
    drawing = CableDrawing(sheet, heating)
    rows: list[list[Any]] = [["Figure", "Value", "How it comes about"]]
    rows += [[one.label, text(one.text, STRONG), working(one)] for one in heating.figures]
    return [
        text(f"{heating.sentence}.", STRONG),
        text(heating.detail),
        text(
            f"Scale 1:{drawing.scale}. Dot: cold joint; dashed: the sensor's tube; grey: no cable.",
            SMALL,
        ),
        drawing,
        Spacer(1, 6),
        *(text(f"• {note}") for note in heating.notes),
        Spacer(1, 6),
        table(rows, shares(sheet, 0.24, 0.22, 0.54)),
    ]


HEATING = Page("heating", "How the heating cable runs", _heating, part="heating")
