"""One page for the wall of the room: what is looked up with dirty hands, in large letters."""

from __future__ import annotations

from typing import Any

from reportlab.lib.styles import ParagraphStyle
from reportlab.platypus import Spacer

from calm_basin.core.answer.build import SAID
from calm_basin.formats.sheet.floor_plan import FloorPlan
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import BOLD, PLAIN, table, text

LARGE = ParagraphStyle("large", fontName=BOLD, fontSize=20, leading=25)
MIDDLE = ParagraphStyle("middle", fontName=PLAIN, fontSize=13, leading=17)
"""Read from two metres and from one."""

BELOW = 40.0
"""What the heading and the lines between take, points."""


def _wall(sheet: Sheet) -> list[Any]:
    figures, solution = sheet.solution.figures, sheet.solution
    rows = [
        [text(one.label, MIDDLE), text(one.text, LARGE)]
        for one in (
            figures.recess_needed,
            figures.drop_at_drain,
            figures.step_at_entry,
            figures.fall_steepest,
        )
    ]
    cut = solution.structure.sheet if solution.structure else None
    if cut is not None:
        rows += [
            [text(one.label, MIDDLE), text(one.text, LARGE)]
            for one in (cut.blade, cut.set_down)
            if one is not None
        ]
    told: list[Any] = [
        table(rows, [0.62 * sheet.width, 0.38 * sheet.width], head=False),
        Spacer(1, 6),
        *(text(one, MIDDLE) for one in solution.drawing.drains),
    ]
    stops = [one for one in solution.findings if one.severity == "stop"]
    told += [text(f"{SAID[one.severity].upper()}: {one.title}", LARGE) for one in stops[:3]]
    told += [text(f"! {one.text}", MIDDLE) for one in solution.cautions[:2]]
    spent = sum(one.wrap(sheet.width, sheet.height)[1] + one.getSpaceBefore() for one in told)
    drawn = FloorPlan(sheet, max(sheet.height - spent - BELOW, 120.0))
    drawn.hAlign = "CENTER"
    return [*told, Spacer(1, 8), drawn]


WALL = Page("wall", "For the wall", _wall, whole=True, alone=True)
