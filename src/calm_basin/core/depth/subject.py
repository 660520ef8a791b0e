"""The depth as a subject of the trade: build-up, recess and step."""

from __future__ import annotations

from calm_basin.core.answer.question import Answer, Question, Subject
from calm_basin.core.depth.edge import edge
from calm_basin.core.depth.figures import figures
from calm_basin.core.depth.findings import entry, recess
from calm_basin.core.depth.tray import tray_layout
from calm_basin.core.depth.ways import ways
from calm_basin.core.depth.wet_room import door, rest_bed


def _answer(asked: Question) -> Answer:
    case = asked.case
    return {
        "ways": () if case is None else ways(case, asked.checks, asked.findings),
        "tray": None if case is None else tray_layout(case),
    }


DEPTH = Subject(
    "depth", answer=_answer, figures=figures, checks=(recess, entry, edge, rest_bed, door)
)
