"""The floor as a DXF drawing: outlines, falls, joists, cuts, pipe and pins, each on its layer."""

from __future__ import annotations

import io
from collections.abc import Sequence

from ezdxf import units
from ezdxf.document import Drawing
from ezdxf.enums import TextEntityAlignment
from ezdxf.filemanagement import new

from calm_basin.core.answer.result import XY
from calm_basin.core.solution import Solution
from calm_basin.plan import Plan
from calm_basin.plan.setting_out import MarkKind

INCH = 25.4

LAYERS = {
    "ROOM": 7,
    "SHOWER": 5,
    "DRAIN": 1,
    "FALLS": 4,
    "CONTOURS": 8,
    "LEVELS": 4,
    "JOISTS": 9,
    "CUTS": 1,
    "DECK": 3,
    "CLEATS": 2,
    "WASTE": 6,
    "ENTRY": 1,
    "CENTRES": 8,
    "MEMBRANE": 140,
    "PINS": 30,
}
"""Layers with the colour numbers of AutoCAD's index."""

MARKED: dict[MarkKind, str] = {"entry": "ENTRY", "centre line": "CENTRES", "membrane": "MEMBRANE"}
"""Marks that are drawn on layers of their own; pins are drawn with their heights."""


def write_floor(plan: Plan, solution: Solution) -> str:
    """The floor as DXF (R2010), to scale 1:1 in millimetres, or in inches where the plan is.

    The solution has its marks where they are wanted.
    """
    inches = plan.display.length in ("in", "ft")
    drawing = new("R2010", units=units.IN if inches else units.MM)
    for name, colour in LAYERS.items():
        drawing.layers.add(name, color=colour)
    page = _Page(drawing, INCH if inches else 1.0)
    page.outline("ROOM", plan.room.outline)
    page.outline("SHOWER", plan.shower.outline)
    for rim in solution.drawing.rims:
        page.outline("DRAIN", rim)
    if solution.surface is not None:
        for plane in solution.surface.planes:
            page.outline("FALLS", plane.polygon)
            if plane.labelled:
                page.text("FALLS", plane.text, plane.label_at)
        for contour in solution.surface.contours:
            for line in contour.lines:
                page.line("CONTOURS", line)
        for spot in solution.surface.spot_levels:
            page.text("LEVELS", spot.text, (spot.x, spot.y))
    structure = solution.structure
    if structure is not None:
        for timber in structure.timbers:
            page.outline("JOISTS", timber.outline)
        for body in structure.bodies:
            page.outline("DRAIN", body.outline)
        if structure.sheet is not None:
            for cut in structure.sheet.saw_lines:
                page.line("CUTS", (cut.start, cut.end))
            for piece in structure.sheet.pieces:
                page.outline("DECK", piece.outline)
            for batten in structure.sheet.battens:
                page.line("CLEATS", (batten.start, batten.end))
    if solution.waste is not None and solution.waste.run is not None:
        page.line("WASTE", solution.waste.run.line)
    for group in solution.marks.groups if solution.marks else ():
        if group.kind not in MARKED:
            continue
        for mark in group.marks:
            page.line(MARKED[group.kind], [place.at for place in mark.places])
    for pin in solution.marks.pins.pins if solution.marks else ():
        page.circle("PINS", (pin.x, pin.y), 5.0)
        page.text("PINS", f"{pin.number}: {pin.text}", (pin.x + 12, pin.y + 12))
    out = io.StringIO()
    drawing.write(out)
    return out.getvalue()


class _Page:
    """Draws lengths in mm in the drawing's own unit."""

    def __init__(self, drawing: Drawing, unit: float) -> None:
        self._space, self._unit = drawing.modelspace(), unit

    def _at(self, place: XY) -> XY:
        return (place[0] / self._unit, place[1] / self._unit)

    def outline(self, layer: str, points: Sequence[XY]) -> None:
        self._space.add_lwpolyline(
            [self._at(point) for point in points], close=True, dxfattribs={"layer": layer}
        )

    def line(self, layer: str, points: Sequence[XY]) -> None:
        self._space.add_lwpolyline(
            [self._at(point) for point in points], dxfattribs={"layer": layer}
        )

    def circle(self, layer: str, middle: XY, radius: float) -> None:
        self._space.add_circle(self._at(middle), radius / self._unit, dxfattribs={"layer": layer})

    def text(self, layer: str, words: str, place: XY) -> None:
        # A control character would end the entity for whoever reads it.
        plain = "".join(sign if sign.isprintable() else " " for sign in words)
        self._space.add_text(
            plain, height=25.0 / self._unit, dxfattribs={"layer": layer}
        ).set_placement(self._at(place), align=TextEntityAlignment.MIDDLE_CENTER)
