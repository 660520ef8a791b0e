"""Joists laid through the screws that show where they are."""

from __future__ import annotations

from math import cos, radians, sin

import numpy as np

from calm_basin.plan.base import Point
from calm_basin.plan.document import Plan
from calm_basin.plan.floor import JoistFloor
from calm_basin.plan.reading import PlanError, Problem
from calm_basin.units import format_length

LEAST_APART = 200.0
"""Screws that are nearer to each other tell no direction, mm."""


def joists_from_screws(plan: Plan, first: Point, last: Point) -> Plan:
    """The plan with its joists laid through two screws of one line of screws, which tells their
    direction and where one of them lies. Both are then measured.

    Raises
    ------
    PlanError
        There are no joists, or the screws are too close together to tell a direction.
    """
    joists = plan.floor
    if not isinstance(joists, JoistFloor):
        raise PlanError([Problem("/floor/kind", "A slab has no joists.")])
    way = np.array(last) - np.array(first)
    apart = float(np.hypot(*way))
    if apart < LEAST_APART:
        there, least = (format_length(mm, plan.display.shown) for mm in (apart, LEAST_APART))
        message = (
            f"The two screws are {there} apart. Take two of one line at least {least} apart, so "
            "that they tell its direction."
        )
        raise PlanError([Problem("/last", message)])
    direction = float(np.degrees(np.arctan2(way[1], way[0]))) % 180
    angle = radians(direction)
    offset = float(np.array(first) @ np.array([-sin(angle), cos(angle)]))
    laid = joists.model_copy(
        update={"direction": round(direction, 4), "first_offset": round(offset, 4)}
    )
    measured = ("/floor/direction", "/floor/first_offset", "/floor/kind")
    return plan.model_copy(
        update={"floor": laid, "assumed": tuple(p for p in plan.assumed if p not in measured)}
    )
