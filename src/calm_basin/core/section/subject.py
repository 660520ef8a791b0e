"""The section as a subject of the trade."""

from __future__ import annotations

from shapely.geometry import Polygon

from calm_basin.core.answer.question import Question, Subject
from calm_basin.core.falls import rims_of, ring_of
from calm_basin.core.section.bands import section
from calm_basin.core.section.cut import cut_along, main_cut
from calm_basin.core.section.result import Section


def _section(asked: Question) -> Section | None:
    if asked.case is None:
        return None
    room, shower = Polygon(asked.plan.room.outline), asked.plan.shower
    line = main_cut(ring_of(shower), room, rims_of(shower)[0])
    return section(asked.case, cut_along(room, *asked.cut) if asked.cut else line)


SECTION = Subject("section", fields={"section": _section})
