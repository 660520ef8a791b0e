"""The solution: everything that follows from a plan, ready to be shown.

Every number stands beside its text in the plan's display units, so that no reader of a solution
converts or rounds. Heights are mm from the existing deck or slab top, up positive; falls are rise
over run; x and y are the plan's.
"""

from __future__ import annotations

from typing import Literal

from calm_basin.core.access.result import AccessResult
from calm_basin.core.answer.result import Caution, Figure, Finding, Option, Result
from calm_basin.core.days.result import DaysResult
from calm_basin.core.depth.result import Chain, DepthBar, PanelLayout, TrayLayout, Ways
from calm_basin.core.falls.result import Arrangement, Corridor, FloorSurface, SpotLevel
from calm_basin.core.heating.result import HeatingResult
from calm_basin.core.membrane.result import MembraneResult
from calm_basin.core.order.result import OrderResult
from calm_basin.core.room.result import Assumed, Drawing, OwnValue, PlaceMeasure
from calm_basin.core.section.result import Section
from calm_basin.core.setting_out.result import MarksResult
from calm_basin.core.structure.result import StructureResult
from calm_basin.core.survey.result import SurveyResult
from calm_basin.core.systems.result import SystemCards
from calm_basin.core.tile.result import TileResult
from calm_basin.core.walls.result import WallsResult
from calm_basin.core.waste.result import DrainMap, WasteResult
from calm_basin.core.water.result import WaterResult


class Figures(Result):
    """The key figures."""

    recess_needed: Figure
    recess_available: Figure
    recess_left_to_find: Figure
    drop_at_drain: Figure
    fall_steepest: Figure
    fall_flattest: Figure
    step_at_entry: Figure
    room_level: Figure
    entry_level: Figure
    drain_level: Figure
    base_level: Figure


class Solution(Result):
    """All that follows from one plan."""

    format: Literal["calm-basin-solution"] = "calm-basin-solution"
    version: Literal[1] = 1
    complete: bool
    rule_set: str
    deference: str
    figures: Figures
    surface: FloorSurface | None
    corridor: Corridor | None
    section: Section | None
    assumed: Assumed
    own_values: tuple[OwnValue, ...]
    drawing: Drawing
    arrangements: tuple[Arrangement, ...]
    findings: tuple[Finding, ...]
    summary: str
    system: SystemCards | None = None
    depth: DepthBar | None = None
    ways: Ways | None = None
    trays: tuple[TrayLayout, ...] = ()
    panels: PanelLayout | None = None
    chains: tuple[Chain, ...] = ()
    cautions: tuple[Caution, ...]
    asked: tuple[SpotLevel, ...] = ()
    structure: StructureResult | None = None
    waste: WasteResult | None = None
    drain_map: DrainMap | None = None
    access: AccessResult | None = None
    water: WaterResult | None = None
    marks: MarksResult | None = None
    order: OrderResult | None = None
    days: DaysResult | None = None
    walls: WallsResult | None = None
    membrane: MembraneResult | None = None
    membrane_schools: tuple[Option, ...] = ()
    tile: TileResult | None = None
    heating: HeatingResult | None = None
    survey: SurveyResult
    nudge: float
    plan_texts: dict[str, str]
    plan_places: dict[str, tuple[PlaceMeasure, PlaceMeasure]]
