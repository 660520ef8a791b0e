"""The depth as a subject of the trade: build-up, recess and step."""

from __future__ import annotations

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.question import Question, Subject
from calm_basin.core.depth.bar import depth_bar
from calm_basin.core.depth.chains import chains, grate
from calm_basin.core.depth.edge import edge
from calm_basin.core.depth.figures import figures
from calm_basin.core.depth.findings import entry, recess
from calm_basin.core.depth.layers import laid, layers
from calm_basin.core.depth.panels import panel_layout
from calm_basin.core.depth.result import Ways
from calm_basin.core.depth.tray import tray_layouts
from calm_basin.core.depth.ways import ways
from calm_basin.core.depth.wet_room import door, rest_bed


def _ways(asked: Question, case: Case) -> Ways:
    return ways(case, asked.checks, asked.findings)


DEPTH = Subject(
    "depth",
    fields={
        "depth": lambda asked: None if asked.case is None else depth_bar(asked.case),
        "trays": lambda asked: () if asked.case is None else tray_layouts(asked.case),
        "panels": lambda asked: None if asked.case is None else panel_layout(asked.case),
        "chains": lambda asked: () if asked.case is None else chains(asked.case),
    },
    figures=figures,
    checks=(recess, entry, edge, rest_bed, door, laid, layers, grate),
    parts={"ways": _ways},
)
"""The ways are solved one by one: they are worked out only while somebody looks at them."""
