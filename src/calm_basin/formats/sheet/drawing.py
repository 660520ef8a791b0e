"""Shapes of the plan on paper."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from reportlab.lib.colors import Color, black, white
from reportlab.lib.units import mm
from reportlab.platypus import Flowable

from calm_basin.core.answer.result import XY
from calm_basin.formats.sheet.page import Sheet, scale_for
from calm_basin.formats.sheet.style import SMALL_SIZE, font_for

LIGHT, GREY = Color(0.88, 0.88, 0.88), Color(0.6, 0.6, 0.6)

EDGE = 6.0
"""What is left free round a drawing, points."""


class Drawing(Flowable):  # type: ignore[misc]
    """Shapes and words at places of their own, points."""

    def __init__(self, width: float, height: float) -> None:
        super().__init__()
        self.width, self.height = width, height

    def wrap(self, _width: float, _height: float) -> tuple[float, float]:
        return self.width, self.height

    def shape(self, points: Sequence[XY], *, fill: Color | None = None, width: float = 0.6) -> None:
        """A closed shape, points on the drawing."""
        way = self.canv.beginPath()
        way.moveTo(*points[0])
        for place in points[1:]:
            way.lineTo(*place)
        way.close()
        self.canv.setLineWidth(width)
        self.canv.setFillColor(fill or white)
        self.canv.drawPath(way, stroke=1, fill=0 if fill is None else 1)

    def line(self, points: Sequence[XY], width: float) -> None:
        """An open line, points on the drawing."""
        way = self.canv.beginPath()
        way.moveTo(*points[0])
        for place in points[1:]:
            way.lineTo(*place)
        self.canv.setLineWidth(width)
        self.canv.drawPath(way, stroke=1, fill=0)

    def written(self, at: XY, words: str) -> None:
        """A word or figure, its middle at a place."""
        self.canv.setFont(font_for(words), SMALL_SIZE)
        self.canv.setFillColor(black)
        self.canv.drawCentredString(at[0], at[1] - SMALL_SIZE / 3, words)


class PlanDrawing(Drawing):
    """Places of the plan at the largest scale at which they take no more than ``most`` of the
    sheet's width and height."""

    def __init__(self, sheet: Sheet, places: Iterable[XY], most: tuple[float, float]) -> None:
        xs, ys = zip(*places, strict=True)
        self.left, self.bottom = min(xs), min(ys)
        wide, deep = max(xs) - self.left, max(ys) - self.bottom
        self.scale = scale_for(
            lambda scale: (
                wide * mm / scale <= sheet.width * most[0]
                and deep * mm / scale <= sheet.height * most[1]
            )
        )
        super().__init__(wide * mm / self.scale + 2 * EDGE, deep * mm / self.scale + 2 * EDGE)

    def at(self, place: XY) -> XY:
        """A place of the plan on the drawing."""
        factor = mm / self.scale
        return (place[0] - self.left) * factor + EDGE, (place[1] - self.bottom) * factor + EDGE

    def all(self, places: Iterable[XY]) -> list[XY]:
        """Places of the plan on the drawing."""
        return [self.at(place) for place in places]
