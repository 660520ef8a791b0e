"""The floor that the plan's readings make, remembered from solve to solve."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
from shapely.geometry import Polygon

from calm_basin.core.falls import NoSurfaceError, surface_of
from calm_basin.core.geometry.levels import levels
from calm_basin.core.survey.floor import SubFloor
from calm_basin.core.survey.pour import PourPlan, pour
from calm_basin.core.survey.tape import AdjustedRoom, adjust
from calm_basin.plan import Plan, PlanError, Problem
from calm_basin.plan.base import Point
from calm_basin.plan.survey import Pour, Reading, Tape
from calm_basin.rules import TRADE
from calm_basin.rules.trade.bases import Base
from calm_basin.tolerances import ROUNDED

READINGS = "Geometry of the survey"

FEET_10, METRES_2 = 3048.0, 2000.0
"""Straightedges that flatness is told under, mm."""


def longest_edge(plan: Plan) -> float:
    """The straightedge that flatness is told under: as long as is usual, or as the room is."""
    usual = FEET_10 if plan.display.length in ("in", "ft") else METRES_2
    corners = np.array(plan.room.outline)
    return min(usual, float(np.hypot(*(corners[:, None] - corners).T).max()))


@lru_cache(maxsize=16)
def floor_of(levels: tuple[Reading, ...], outline: tuple[Point, ...]) -> SubFloor:
    """The floor that these readings make in this room; made once for the same readings.

    Raises `ValueError` where no reading lies inside the room.
    """
    return SubFloor(levels, Polygon(outline))


@lru_cache(maxsize=16)
def adjusted(tape: Tape) -> AdjustedRoom:
    return adjust(tape)


def base_of(plan: Plan) -> Base:
    if plan.survey.base not in TRADE.bases.by_id:
        known = ", ".join(TRADE.bases.by_id)
        raise PlanError(
            [Problem("/survey/base", f"There is no base “{plan.survey.base}”. Choose: {known}.")]
        )
    return TRADE.bases.by_id[plan.survey.base]


class _Same:
    """These very readings: to compare thousands one by one takes longer than what hangs on them."""

    __slots__ = ("levels",)

    def __init__(self, levels: tuple[Reading, ...]) -> None:
        self.levels = levels

    def __hash__(self) -> int:
        return id(self.levels)

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _Same) and self.levels is other.levels


def ground_of(plan: Plan) -> SubFloor | None:
    """The floor that a plan's readings make; None where there are none in the room."""
    if not plan.survey.levels:
        return None
    return _ground(_Same(plan.survey.levels), plan.room.outline)


@lru_cache(maxsize=16)
def _ground(same: _Same, outline: tuple[Point, ...]) -> SubFloor | None:
    try:
        return floor_of(same.levels, outline)
    except ValueError:
        return None


@lru_cache(maxsize=16)
def range_under(ground: SubFloor, outline: tuple[Point, ...]) -> float:
    return ground.range_under(Polygon(outline))


@lru_cache(maxsize=16)
def poured(ground: SubFloor, zone: Polygon, settings: Pour) -> PourPlan:
    return pour(ground, zone, settings)


def pour_zone(plan: Plan, settings: Pour) -> tuple[Polygon, bool]:
    """Where the pour goes, and whether that is the whole room.

    A pour in the shower alone ends at its edge. Over the room it ends there too where what carries
    the shower lies lower than the pour's top.
    """
    room = Polygon(plan.room.outline)
    if settings.area == "shower":
        return Polygon(plan.shower.outline), False
    if settings.area == "both":
        return room, True
    survey_with = plan.survey.model_copy(update={"correction": settings})
    try:
        surface = surface_of(plan)
    except NoSurfaceError:
        return room, True
    base = levels(plan.model_copy(update={"survey": survey_with}), surface).base
    rest = room.difference(Polygon(plan.shower.outline))
    under = base >= settings.cover - ROUNDED or rest.area < 1
    return (room, True) if under else (rest, False)
