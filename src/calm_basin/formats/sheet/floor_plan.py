"""The page with the plan: levels and falls at a stated true scale."""

from __future__ import annotations

from itertools import pairwise
from math import atan2, cos, degrees, hypot, radians, sin
from typing import Any

from reportlab.lib.colors import Color, black, white
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, Spacer
from shapely import LinearRing

from calm_basin.core.answer.build import SAID
from calm_basin.core.answer.result import XY
from calm_basin.formats.sheet.page import Page, Sheet, scale_for
from calm_basin.formats.sheet.style import PLAIN, SMALL, STRONG, font_for, text

FOOT = 60.0
"""Heading, scale and note of the page, points."""

OUT = 26.0
"""What is written beside the walls needs so much room, points."""

CORNER, SEEN = 13.0, 0.1
"""How far off its corner a name stands, points, and from which turn on it is seen to be one."""

GREY, LIGHT = Color(0.45, 0.45, 0.45), Color(0.8, 0.8, 0.8)


class FloorPlan(Flowable):  # type: ignore[misc]
    """Room, shower, falls and spot levels, drawn to scale."""

    def __init__(self, sheet: Sheet, most_height: float) -> None:
        super().__init__()
        self.plan, self.solution = sheet.plan, sheet.solution
        xs = [x for x, _ in self.plan.room.outline]
        ys = [y for _, y in self.plan.room.outline]
        self.left, self.bottom = min(xs), min(ys)
        wide, deep = max(xs) - self.left, max(ys) - self.bottom
        self.scale = scale_for(
            lambda scale: (
                wide * mm / scale + 2 * OUT <= sheet.width
                and deep * mm / scale + 2 * OUT <= most_height
            )
        )
        self.width = wide * mm / self.scale + 2 * OUT
        self.height = deep * mm / self.scale + 2 * OUT
        self.clockwise = False
        self._taken: list[tuple[float, float, float, float]] = []

    def wrap(self, _width: float, _height: float) -> tuple[float, float]:
        return self.width, self.height

    def at(self, place: XY) -> XY:
        """A place of the plan, mm, on the drawing, points."""
        factor = mm / self.scale
        return (place[0] - self.left) * factor + OUT, (place[1] - self.bottom) * factor + OUT

    def draw(self) -> None:
        shower, drawing = self.plan.shower.outline, self.solution.drawing
        for joist in drawing.joists:
            self._shape(joist.outline, stroke=LIGHT, width=0.4, dash=(3, 3))
        self._floor()
        self._shape(shower, width=1.0)
        for start, end in drawing.entries:
            self._line(start, end, width=2.4)
        self._shape(self.plan.room.outline, width=2.6)
        self._doors()
        self._falls()
        for fixture in self.plan.room.fixtures:
            self._label(fixture.centre, fixture.name, 8)
        for rim in drawing.rims:
            self._shape(rim, fill=white, width=1.4)
        if drawing.outlet:
            x, y = self.at(drawing.outlet)
            self.canv.circle(x, y, 3, stroke=1, fill=0)
        self._sides()
        self._corners()
        self._spot_levels()
        self._scale_bar()

    def _sides(self) -> None:
        room, shower = self.plan.room.outline, self.plan.shower.outline
        drawing, entries = self.solution.drawing, self.plan.shower.entries
        walls = [frozenset((a, room[(i + 1) % len(room)])) for i, a in enumerate(room)]
        self.clockwise = not LinearRing(room).is_ccw
        for i, side in enumerate(drawing.room_sides):
            ends = room[i], room[(i + 1) % len(room)]
            named = f"wall {i + 1} · {side}"
            self._along(*ends, named if self._fits(*ends, named) else side)
        self.clockwise = not LinearRing(shower).is_ccw
        for i, side in enumerate(drawing.shower_sides):
            start, end = shower[i], shower[(i + 1) % len(shower)]
            if i in entries:
                self._along(start, end, f"{side} · entry", inside=True)
            elif frozenset((start, end)) not in walls:
                self._along(start, end, side, inside=True)

    def _corners(self) -> None:
        """The corners of the room by their names, off the walls on their outer side."""
        places = [self.at(place) for place in self.plan.room.outline]
        for i, (x, y) in enumerate(places):
            before, after = places[i - 1], places[(i + 1) % len(places)]
            ways = [
                ((x - a) / hypot(x - a, y - b), (y - b) / hypot(x - a, y - b))
                for a, b in (before, after)
            ]
            dx, dy = ways[0][0] + ways[1][0], ways[0][1] + ways[1][1]
            long = hypot(dx, dy)
            # Where the wall goes straight on there is no corner to see.
            if long > SEEN:
                at = (x + CORNER * dx / long, y + CORNER * dy / long)
                self._write(at, f"corner {i + 1}", 6.5)

    def _floor(self) -> None:
        surface = self.solution.surface
        if surface is None:
            return
        for contour in surface.contours:
            for line in contour.lines:
                for start, end in pairwise(line):
                    self._line(start, end, stroke=LIGHT, width=0.4)
        for fold in surface.folds:
            self._line(fold.start, fold.end, width=0.6, dash=(4, 2))

    def _falls(self) -> None:
        surface = self.solution.surface
        for plane in surface.planes if surface else ():
            if plane.labelled and plane.downhill != (0.0, 0.0):
                self._arrow(plane.label_at, plane.downhill)
                self._label(plane.label_at, plane.text, 9, bold=True)

    def _spot_levels(self) -> None:
        surface = self.solution.surface
        for spot in surface.spot_levels if surface else ():
            self._label((spot.x, spot.y), spot.text, 7)

    def _doors(self) -> None:
        outline = self.plan.room.outline
        for door in self.plan.room.doors:
            start, end = outline[door.wall], outline[(door.wall + 1) % len(outline)]
            length = hypot(end[0] - start[0], end[1] - start[1])
            way = ((end[0] - start[0]) / length, (end[1] - start[1]) / length)
            near, far = (
                (start[0] + way[0] * off, start[1] + way[1] * off)
                for off in (door.offset, door.offset + door.width)
            )
            self._line(near, far, stroke=white, width=3.0)
            self._line(near, far, width=0.5)
            self.clockwise = not LinearRing(outline).is_ccw
            self._along(near, far, "door", inside=True)

    def _shape(
        self,
        outline: tuple[XY, ...],
        *,
        stroke: Color = black,
        fill: Color | None = None,
        width: float = 1.0,
        dash: tuple[float, float] | None = None,
    ) -> None:
        canvas = self.canv
        path = canvas.beginPath()
        path.moveTo(*self.at(outline[0]))
        for place in outline[1:]:
            path.lineTo(*self.at(place))
        path.close()
        self._pen(stroke, width, dash)
        if fill is not None:
            canvas.setFillColor(fill)
        canvas.drawPath(path, stroke=1, fill=int(fill is not None))

    def _line(
        self,
        start: XY,
        end: XY,
        *,
        stroke: Color = black,
        width: float = 0.6,
        dash: tuple[float, float] | None = None,
    ) -> None:
        self._pen(stroke, width, dash)
        self.canv.line(*self.at(start), *self.at(end))

    def _pen(self, stroke: Color, width: float, dash: tuple[float, float] | None) -> None:
        self.canv.setStrokeColor(stroke)
        self.canv.setLineWidth(width)
        self.canv.setDash(*([list(dash)] if dash else []))

    def _arrow(self, place: XY, downhill: XY) -> None:
        x, y = self.at(place)
        dx, dy = downhill
        tip = x + 26 * dx, y + 26 * dy
        self._pen(black, 0.8, None)
        self.canv.line(x + 8 * dx, y + 8 * dy, *tip)
        for side in (-1, 1):
            self.canv.line(*tip, tip[0] - 5 * dx - side * 3 * dy, tip[1] - 5 * dy + side * 3 * dx)

    def _label(self, place: XY, words: str, size: float, *, bold: bool = False) -> None:
        """A figure on white, where it lies on no other."""
        self._write(self.at(place), words, size, bold=bold)

    def _write(self, at: XY, words: str, size: float, *, bold: bool = False) -> None:
        """The same at a place of the drawing, points."""
        x, y = at
        font = font_for(words, bold=bold)
        half = self.canv.stringWidth(words, font, size) / 2 + 1.5
        box = (x - half, y - size / 2 - 1, x + half, y + size / 2 + 1)
        if any(
            box[0] < b[2] and b[0] < box[2] and box[1] < b[3] and b[1] < box[3] for b in self._taken
        ):
            return
        self._taken.append(box)
        self.canv.setFillColor(white)
        self.canv.rect(box[0], box[1], 2 * half, size + 2, stroke=0, fill=1)
        self.canv.setFillColor(black)
        self.canv.setFont(font, size)
        self.canv.drawCentredString(x, y - size * 0.36, words)

    def _fits(self, start: XY, end: XY, words: str) -> bool:
        """Whether words beside a line are hardly longer than it."""
        (x0, y0), (x1, y1) = self.at(start), self.at(end)
        wide: float = self.canv.stringWidth(words, font_for(words), 8)
        return wide <= hypot(x1 - x0, y1 - y0) + 30

    def _along(self, start: XY, end: XY, words: str, *, inside: bool = False) -> None:
        """Words beside a line, outside an outline that runs anticlockwise or inside it."""
        if not words or not self._fits(start, end, words):
            return
        (x0, y0), (x1, y1) = self.at(start), self.at(end)
        angle = degrees(atan2(y1 - y0, x1 - x0))
        turned = not -90 < angle <= 90
        inside ^= self.clockwise
        wide = self.canv.stringWidth(words, font_for(words), 8) / 2
        # The inside of an outline that runs anticlockwise lies to the left.
        off = 10 if inside else -10
        x = (x0 + x1) / 2 - off * sin(radians(angle))
        y = (y0 + y1) / 2 + off * cos(radians(angle))
        across = abs(wide * cos(radians(angle))) + 6 * abs(sin(radians(angle)))
        up = abs(wide * sin(radians(angle))) + 6 * abs(cos(radians(angle)))
        self._taken.append((x - across, y - up, x + across, y + up))
        self.canv.saveState()
        self.canv.translate((x0 + x1) / 2, (y0 + y1) / 2)
        self.canv.rotate(angle + 180 if turned else angle)
        below = inside == turned
        self.canv.setFillColor(black)
        self.canv.setFont(font_for(words), 8)
        self.canv.drawCentredString(0, -12 if below else 5, words)
        self.canv.restoreState()

    def _scale_bar(self) -> None:
        imperial = self.plan.display.length in ("in", "ft")
        length, words = (304.8, "1 ft") if imperial else (500.0, "0.5 m")
        wide = length * mm / self.scale
        self._pen(black, 1.0, None)
        self.canv.line(OUT, 4, OUT + wide, 4)
        for x in (OUT, OUT + wide):
            self.canv.line(x, 1, x, 7)
        self.canv.setFillColor(GREY)
        self.canv.setFont(PLAIN, 7)
        self.canv.drawString(OUT + wide + 4, 2, f"{words} at 1:{self.scale}")


MOST_SAID = 6
"""Findings that are named beside the plan; the others are counted."""


def _story(sheet: Sheet) -> list[Any]:
    told = [*_said(sheet), *_to_mend(sheet)]
    spent = sum(one.wrap(sheet.width, sheet.height)[1] + one.getSpaceBefore() for one in told)
    drawn = FloorPlan(sheet, sheet.height - spent - FOOT)
    drawn.hAlign = "CENTER"
    zero = "doors" if sheet.plan.shower.rest else "entry"
    surface = sheet.solution.surface
    every = f", a line every {surface.contour_interval_text}" if surface else ""
    note = (
        f"Scale 1:{drawn.scale}. Small figures: depth below the {zero}{every}; bold: fall of each "
        "plane, with an arrow downhill. Dashed: folds. Measure on site before cutting: paper "
        "shrinks."
    )
    if sheet.solution.drawing.faces:
        note += f" All sizes and places are {sheet.solution.drawing.faces}."
    return [*told, Spacer(1, 6), drawn, text(note, SMALL)]


def _said(sheet: Sheet) -> list[Any]:
    figures = sheet.solution.figures
    said = " · ".join(
        f"{figure.label}: {figure.text}"
        for figure in (
            figures.recess_needed,
            figures.drop_at_drain,
            figures.step_at_entry,
            figures.fall_steepest,
            figures.fall_flattest,
        )
    )
    if sheet.solution.assumed.text:
        said += f" · {sheet.solution.assumed.text}: measure them first"
    return [text(said), *(text(told) for told in sheet.solution.drawing.drains)]


def _to_mend(sheet: Sheet) -> list[Any]:
    """What to fix, and what to mind, the gravest first."""
    found = sheet.solution.findings
    told = [
        text(f"{SAID[one.severity].capitalize()}: {one.title}", STRONG) for one in found[:MOST_SAID]
    ]
    if len(found) > MOST_SAID:
        told.append(text(f"and {len(found) - MOST_SAID} more: see the findings."))
    return told


FLOOR_PLAN = Page("plan", "Plan", _story, whole=True)
