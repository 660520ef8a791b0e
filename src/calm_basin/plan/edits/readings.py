"""Readings of the floor as they are taken."""

from __future__ import annotations

from math import atan2, degrees, hypot

from calm_basin.plan.base import Point
from calm_basin.plan.document import Plan
from calm_basin.plan.reading import PlanError, Problem, plan_from


def level_read(plan: Plan, lies: Point, end: Point, gap: float) -> Plan:
    """The plan with one more reading of a long level: it lies on the floor at one end, and ``gap``
    fits under the other, mm.

    Raises
    ------
    PlanError
        The two ends are one place, or the plan cannot take the reading.
    """
    across, up = end[0] - lies[0], end[1] - lies[1]
    if hypot(across, up) < 1:
        raise PlanError([Problem("/end", "Touch the other end of the level, away from the first.")])
    document = plan.model_dump(mode="json")
    document["survey"]["levels"].append(
        {
            "kind": "shim",
            "x": lies[0],
            "y": lies[1],
            "direction": round(degrees(atan2(up, across)), 4),
            "distance": round(hypot(across, up), 4),
            "gap": gap,
        }
    )
    return plan_from(document)
