"""What was found in the floor and comes too near to the waste's run, or to the trench for it."""

from __future__ import annotations

from dataclasses import dataclass

import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.kinds import carrier_of
from calm_basin.core.structure.footing import fitting_family
from calm_basin.core.waste.run import Run
from calm_basin.plan import Plan
from calm_basin.plan.floor import Service
from calm_basin.rules import TRADE


@dataclass(frozen=True)
class Near:
    """A line that a run comes by on plan: at which place, and how far the pipe, or the trench for
    it, reaches into what is kept clear of it, mm; None where its depth is not measured."""

    number: int
    service: Service
    at: tuple[float, float]
    by: float | None


def kept_clear(service: Service, radius: float) -> Polygon:
    """Where the middle of a pipe is too near to a line on plan."""
    return LineString(service.points).buffer(service.clearance + radius, quad_segs=16)


def near_lines(plan: Plan, way: Run) -> list[Near]:
    """The lines that a run comes nearer to on plan than is to be kept, each where it is nearest.

    A pipe under a deck meets what lies at its own level; the trench in a slab all that lies over
    its bottom.
    """
    family = fitting_family(plan)
    assert family is not None
    radius, line = family.pipe / 2, LineString(way.line)
    trench = TRADE.practice.trench_bedding.value if carrier_of(plan).trenched else None
    found = []
    for number, service in enumerate(plan.services):
        other = LineString(service.points)
        close = line.intersection(kept_clear(service, radius))
        if close.length < 1e-6:
            continue
        middle = shapely.get_coordinates(shapely.shortest_line(line, other))[0]
        by = None
        if service.depth is not None:
            reach = [line.project(shapely.Point(p)) for p in shapely.get_coordinates(close)]
            low, high = way.levels_along(min(reach), max(reach))
            from_above = service.clearance - service.depth - (low - radius - (trench or 0.0))
            from_below = high + radius - (-service.depth - service.clearance)
            by = from_above if trench is not None else min(from_above, from_below)
            if by <= 1e-6:
                continue
        found.append(Near(number, service, (float(middle[0]), float(middle[1])), by))
    return found


def shut(plan: Plan, way: Run) -> bool:
    """Whether something that was found at the pipe's own level shuts its run."""
    return any(near.by is not None for near in near_lines(plan, way))


def at_levels(plan: Plan, low: float, high: float, radius: float) -> tuple[Polygon, ...]:
    """Where a pipe is too near to a line whose depth is measured, if its middle lies somewhere
    between two levels, mm."""
    trenched = carrier_of(plan).trenched
    reach = radius + (TRADE.practice.trench_bedding.value if trenched else 0.0)
    return tuple(
        kept_clear(service, radius)
        for service in plan.services
        if service.depth is not None
        and -service.depth + service.clearance > low - reach
        and (trenched or -service.depth - service.clearance < high + radius)
    )
