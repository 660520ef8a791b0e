"""The page with the section: layer by layer, with hatches that survive black and white."""

from __future__ import annotations

from math import ceil, cos, hypot, inf, radians, sin
from typing import Any, NamedTuple

import shapely
from reportlab.lib.colors import Color, black, white
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from calm_basin.core.answer.result import XY
from calm_basin.core.section.result import Band, Section
from calm_basin.formats.sheet.page import Page, Sheet, scale_for
from calm_basin.formats.sheet.style import PLAIN, SMALL, table, text

EXAGGERATIONS = (1, 2, 3, 4, 5, 6, 8, 10, 12, 15, 20)
BOARD = 46.0
"""Room for the scale board at the side, points."""

MOST_HEIGHT = 250.0


class Hatch(NamedTuple):
    """Lines of a fill: at these angles, degrees, so far apart, points, on this grey."""

    grey: float
    angles: tuple[int, ...]
    apart: float


HATCHES: dict[str, Hatch] = {
    "finish": Hatch(0.88, (), 4),
    "bed": Hatch(1.0, (45,), 4),
    "tray": Hatch(1.0, (45, 135), 6),
    "packing": Hatch(1.0, (135,), 3),
    "deck": Hatch(0.95, (0,), 3),
    "refitted": Hatch(0.95, (0, 90), 5),
    "slab": Hatch(0.92, (60,), 9),
    "joist": Hatch(1.0, (90,), 3),
    "riser": Hatch(0.97, (), 4),
    "drain": Hatch(0.2, (), 4),
    "clash": Hatch(0.7, (45, 135), 2.5),
}


class Filled(Flowable):  # type: ignore[misc]
    """A sample of a band's fill for the legend."""

    def __init__(self, kind: str, number: int) -> None:
        super().__init__()
        self.kind, self.number, self.width, self.height = kind, number, 34.0, 12.0

    def wrap(self, _width: float, _height: float) -> tuple[float, float]:
        return self.width, self.height

    def draw(self) -> None:
        fill(self.canv, [(0, 0), (20, 0), (20, 11), (0, 11)], HATCHES[self.kind])
        self.canv.setFillColor(black)
        self.canv.setFont(PLAIN, 8)
        self.canv.drawString(24, 2, str(self.number))


def fill(canvas: Any, corners: list[XY], hatch: Hatch) -> None:
    """A polygon, points, filled and hatched."""
    path = canvas.beginPath()
    path.moveTo(*corners[0])
    for corner in corners[1:]:
        path.lineTo(*corner)
    path.close()
    canvas.saveState()
    canvas.setFillColor(Color(hatch.grey, hatch.grey, hatch.grey))
    canvas.drawPath(path, stroke=0, fill=1)
    canvas.clipPath(path, stroke=0, fill=0)
    xs, ys = [x for x, _ in corners], [y for _, y in corners]
    middle = (max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2
    reach = (max(xs) - min(xs) + max(ys) - min(ys)) / 2 + hatch.apart
    canvas.setLineWidth(0.4)
    canvas.setStrokeColor(Color(0.3, 0.3, 0.3))
    for angle in hatch.angles:
        way = cos(radians(angle)), sin(radians(angle))
        count = ceil(reach / hatch.apart)
        for i in range(-count, count + 1):
            x = middle[0] - way[1] * i * hatch.apart
            y = middle[1] + way[0] * i * hatch.apart
            canvas.line(
                x - way[0] * reach, y - way[1] * reach, x + way[0] * reach, y + way[1] * reach
            )
    canvas.restoreState()
    canvas.setStrokeColor(black)
    canvas.setLineWidth(0.6)
    canvas.drawPath(path, stroke=1, fill=0)


NUMBERED_AT = (0.5, 0.3, 0.7, 0.4, 0.6, 0.2, 0.8, 0.15, 0.85, 0.1, 0.9)
"""Where along a band its number may stand, the likeliest first."""


class Cut(Flowable):  # type: ignore[misc]
    """The section, with its scale board."""

    def __init__(self, section: Section, width: float) -> None:
        super().__init__()
        self.section = section
        across = width - BOARD
        self.scale = scale_for(lambda scale: section.length * mm / scale <= across)
        tall = max(section.top - section.bottom, 1.0)
        fits = [x for x in EXAGGERATIONS if tall * x * mm / self.scale <= MOST_HEIGHT]
        self.times = fits[-1] if fits else 1
        self.width, self.height = width, tall * self.times * mm / self.scale + 12
        self.numbers = numbered(section.bands)

    def wrap(self, _width: float, _height: float) -> tuple[float, float]:
        return self.width, self.height

    def at(self, place: XY) -> XY:
        """A place of the section (distance, height), mm, on the drawing, points."""
        factor = mm / self.scale
        up = (place[1] - self.section.bottom) * self.times * factor
        return BOARD + place[0] * factor, up + 6

    def draw(self) -> None:
        canvas = self.canv
        for band in self.section.bands:
            fill(canvas, [self.at(place) for place in band.outline], HATCHES[band.kind])
        taken: list[XY] = []
        shapes = [
            Polygon([self.at(place) for place in band.outline]).buffer(0)
            for band in self.section.bands
        ]
        for i, band in enumerate(self.section.bands):
            # What is drawn later covers it.
            self._number(band, shapes[i].difference(shapely.union_all(shapes[i + 1 :])), taken)
        canvas.setFont(PLAIN, 8)
        canvas.setLineWidth(0.8)
        canvas.setFillColor(black)
        ticks = [self.at((0, tick.height))[1] for tick in self.section.ticks]
        if ticks:
            canvas.line(BOARD - 8, ticks[0], BOARD - 8, ticks[-1])
        for y, tick in zip(ticks, self.section.ticks, strict=True):
            canvas.line(BOARD - 12, y, BOARD - 8, y)
            canvas.drawRightString(BOARD - 14, y - 3, tick.text)
        zero = self.at((0, 0))[1]
        canvas.setDash([4, 3])
        canvas.line(BOARD, zero, self.at((self.section.length, 0))[0], zero)

    def _number(self, band: Band, shape: BaseGeometry, taken: list[XY]) -> None:
        """Write a band's number in it, where it is thick enough and no other number stands."""
        if shape.is_empty:
            return
        left, low, right, high = shape.bounds
        if right - left < 8 or high - low < 7:
            return
        places = []
        for share in NUMBERED_AT:
            x = left + share * (right - left)
            inside = shape.intersection(LineString([(x, low - 1), (x, high + 1)]))
            if inside.is_empty:
                continue
            _, below, _, above = max(shapely.get_parts(inside), key=lambda part: part.length).bounds
            apart = min((hypot(x - a, (below + above) / 2 - b) for a, b in taken), default=inf)
            places.append((apart < 11, above - below < 9, (x, (below + above) / 2)))
        if not places:
            return
        *_, (x, y) = min(places, key=lambda place: place[:2])
        taken.append((x, y))
        self.canv.setFillColor(white)
        self.canv.circle(x, y, 5, stroke=0, fill=1)
        self.canv.setFillColor(black)
        self.canv.setFont(PLAIN, 7)
        self.canv.drawCentredString(x, y - 2.5, str(self.numbers[key(band)]))


def key(band: Band) -> tuple[str, str, str]:
    """Bands that are alike have one line in the legend."""
    return band.kind, band.name, band.text


def numbered(bands: tuple[Band, ...]) -> dict[tuple[str, str, str], int]:
    """The numbers of the legend's lines."""
    return {name: i for i, name in enumerate(dict.fromkeys(key(band) for band in bands), start=1)}


def _story(sheet: Sheet) -> list[Any]:
    section = sheet.solution.section
    if section is None:
        return []
    cut = Cut(section, sheet.width)
    needed = sheet.solution.figures.recess_needed
    times = "true" if cut.times == 1 else f"{cut.times} times"
    note = (
        f"Scale 1:{cut.scale} across, heights drawn {times}, from the deck or slab top (dashed). "
        f"{needed.label}: {needed.text}."
    )
    rows: list[list[Any]] = [["", "Layer", "Thickness"]]
    rows += [[Filled(kind, n), name, said] for (kind, name, said), n in cut.numbers.items()]
    legend = table(rows, [0.1 * sheet.width, 0.55 * sheet.width, 0.35 * sheet.width])
    return [cut, text(note, SMALL), Spacer(1, 8), legend]


SECTION = Page("section", "Section", _story)
