"""What was found in the floor and lies in the way of the waste's run, or of the trench for it."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import LineString

from calm_basin.core.answer.build import broken, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Place
from calm_basin.core.structure.footing import fitting_family
from calm_basin.core.waste.run import Run
from calm_basin.core.waste.site import run_of, site_of
from calm_basin.plan.floor import Service, SlabFloor
from calm_basin.rules import trench_bedding

FOUND = "What was found in the floor"


@dataclass(frozen=True)
class Near:
    """A line that a run comes by on plan: at which place, and how far the pipe, or the trench for
    it, reaches into what is kept clear of it, mm; None where its depth is not measured."""

    number: int
    service: Service
    at: tuple[float, float]
    by: float | None


def levels_along(way: Run, start: float, end: float) -> tuple[float, float]:
    """The lowest and highest level of a pipe's middle between two distances from its trap, mm."""
    along, levels = way.levels[:, 0], way.levels[:, 1]
    inside = levels[(along >= start) & (along <= end)]
    ends = np.interp([start, end], along, levels)
    both = np.concatenate([inside, ends])
    return float(both.min()), float(both.max())


def near_lines(case: Case, way: Run) -> list[Near]:
    """The lines that a run comes nearer to on plan than is to be kept, each where it is nearest.

    A pipe under a deck meets what lies at its own level; the trench in a slab all that lies over
    its bottom.
    """
    family = fitting_family(case.plan)
    assert family is not None
    radius, line = family.pipe / 2, LineString(way.line)
    trench = trench_bedding().value if isinstance(case.plan.floor, SlabFloor) else None
    found = []
    for number, service in enumerate(case.plan.services):
        other = LineString(service.points)
        close = line.intersection(other.buffer(service.clearance + radius, quad_segs=16))
        if close.length < 1e-6:
            continue
        middle = shapely.get_coordinates(shapely.shortest_line(line, other))[0]
        by = None
        if service.depth is not None:
            reach = [line.project(shapely.Point(p)) for p in shapely.get_coordinates(close)]
            low, high = levels_along(way, min(reach), max(reach))
            from_above = service.clearance - service.depth - (low - radius - (trench or 0.0))
            from_below = high + radius - (-service.depth - service.clearance)
            by = from_above if trench is not None else min(from_above, from_below)
            if by <= 1e-6:
                continue
        found.append(Near(number, service, (float(middle[0]), float(middle[1])), by))
    return found


def shut(case: Case, way: Run) -> bool:
    """Whether something that was found at the pipe's own level shuts its run."""
    return any(near.by is not None for near in near_lines(case, way))


def lines(case: Case) -> list[Found]:
    """Lines in the way of the run, and a membrane that its trench cuts."""
    floor = case.plan.floor
    membrane = isinstance(floor, SlabFloor) and floor.membrane is not None
    if not case.plan.services and not membrane:
        return []
    site = site_of(case)
    if site is None or site.in_timber:
        return []
    way = run_of(case, site)
    if way is None:
        return []
    return [*(_met(case, near) for near in near_lines(case, way)), *_trench(case, way)]


def _met(case: Case, near: Near) -> Found:
    words, service = case.words, near.service
    (x, y), slab = near.at, isinstance(case.plan.floor, SlabFloor)
    what = "trench for the waste" if slab else "waste pipe"
    if near.by is None:
        return Found(
            unmeasured(
                "pipe_by_line",
                "caution",
                f"Depth of {service.name} not measured, and the {what} crosses it",
                f"Measure its depth first: {words.length(service.clearance)} clearance is needed. "
                "Have a licensed trade move the line if it is in the way.",
                applies_to=service.name,
                source=FOUND,
                field=f"/services/{near.number}/depth",
            )
        )
    return Found(
        broken(
            words,
            code="pipe_in_line",
            severity="stop",
            title=f"The {what} is in the way of {service.name}",
            detail=f"It needs {words.length(near.by, 'up')} more clearance from the line, which is "
            f"{words.length(service.depth or 0.0)} deep. Lead the pipe another way, or have a "
            "licensed trade move the line.",
            value=near.by,
            limit=0.0,
            asked="clear of it",
            applies_to=service.name,
            source=FOUND,
            field="/waste/run",
            places=(
                Place(
                    name=service.name,
                    x=x,
                    y=y,
                    measured=near.by,
                    text=words.length(near.by, "up"),
                ),
            ),
        )
    )


def _trench(case: Case, way: Run) -> list[Found]:
    """A trench through the membrane under a slab."""
    floor, words = case.plan.floor, case.words
    family = fitting_family(case.plan)
    if not isinstance(floor, SlabFloor) or family is None or way.length < 1e-6:
        return []
    low, _ = levels_along(way, 0.0, way.length)
    deep = family.pipe / 2 + trench_bedding().value - low
    found = []
    if floor.membrane is not None and deep > floor.membrane + 1e-6:
        found.append(
            broken(
                words,
                code="trench_cuts_membrane",
                severity="caution",
                title="The trench for the waste cuts the damp-proof membrane",
                detail=f"It goes {words.length(deep, 'up')} deep, and the membrane lies "
                f"{words.length(floor.membrane)} below the slab's top. It is made good, lapped "
                "and sealed, before the trench is filled.",
                value=deep,
                limit=floor.membrane,
                applies_to="the damp-proof membrane",
                source="Geometry of the plan",
                field="/floor/membrane",
            )
        )
    return [Found(finding) for finding in found]
