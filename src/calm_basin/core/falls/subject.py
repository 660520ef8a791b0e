"""The falls as a subject of the trade."""

from __future__ import annotations

from calm_basin.core.answer.question import Subject
from calm_basin.core.falls.beside import beside_walls
from calm_basin.core.falls.blocks import standing
from calm_basin.core.falls.corridor import corridor
from calm_basin.core.falls.figures import figures
from calm_basin.core.falls.findings import channel, falls, fold_lines
from calm_basin.core.falls.floor import asked_levels, floor_surface
from calm_basin.core.falls.former import entry_cut, panels, short_tray, thin_tray, tray_cuts
from calm_basin.core.falls.offers import arrangements
from calm_basin.core.falls.zones import dam, zone_edge

FALLS = Subject(
    "falls",
    fields={
        "arrangements": lambda asked: arrangements(asked.plan),
        "surface": lambda asked: asked.case and floor_surface(asked.case),
        "corridor": lambda asked: asked.case and corridor(asked.case),
        "asked": asked_levels,
    },
    figures=figures,
    checks=(
        falls,
        fold_lines,
        channel,
        thin_tray,
        short_tray,
        tray_cuts,
        entry_cut,
        panels,
        zone_edge,
        dam,
        beside_walls,
        standing,
    ),
)
