"""How the room's floor lies before what is stepped over: as it was read, or as it is made true."""

from __future__ import annotations

from functools import lru_cache

import numpy as np

from calm_basin.core.falls.step import entry_steps, worst_of
from calm_basin.core.geometry.levels import pour_of
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.core.kinds import former_of
from calm_basin.core.survey.floor import SubFloor
from calm_basin.core.survey.ground import base_of, ground_of, range_under
from calm_basin.plan import Plan
from calm_basin.tolerances import ROUNDED


def as_read(plan: Plan) -> SubFloor | None:
    """The floor that was read where the room's layers follow it; None where they lie level: nothing
    was read, it is poured over, or the rest of the room is cast to falls of its own."""
    pour = pour_of(plan)
    made_true = pour is not None and pour.area != "shower"
    return None if made_true or plan.shower.rest is not None else ground_of(plan)


def lie_along(ground: SubFloor | None, start: Array, end: Array) -> tuple[Array, Array]:
    """Places along a line, (n, 2), and the floor's height there over its high spot, (n,), mm, at
    most a hair above 0 among the readings; between the places it goes straight."""
    if ground is None:
        return np.array([start, end]), np.zeros(2)
    return _lie_along(ground, (float(start[0]), float(start[1])), (float(end[0]), float(end[1])))


@lru_cache(maxsize=64)
def _lie_along(
    ground: SubFloor, first: tuple[float, float], last: tuple[float, float]
) -> tuple[Array, Array]:
    start, end = np.array(first), np.array(last)
    places = ground.bends(start, end)
    places = places[np.argsort((places - start) @ (end - start))]
    return places, ground.heights(places)[0]


def steps_at_entry(plan: Plan, surface: Surface) -> Array:
    """Every step down at the entry, mm, (n,), at the places between which it changes evenly; below
    0 it is a step up.

    Notes
    -----
    The shower is set level with the high spot of the floor. A tray that lies on a floor that is
    true enough for it follows that floor, and so does its edge.
    """
    ground = before_entry(plan)
    found = []
    for places, steps in entry_steps(plan, surface):
        if not len(places):
            continue
        start, end = places[0], places[-1]
        bends, lie = lie_along(ground, start, end)
        way = end - start
        own, other = (places - start) @ way, (bends - start) @ way
        every = np.concatenate([own, other])
        found.append(np.interp(every, own, steps) + np.interp(every, other, lie))
    return np.concatenate(found) if found else np.array([plan.shower.set_down])


def before_entry(plan: Plan) -> SubFloor | None:
    """The floor that was read where the step at the entry hangs on it."""
    return None if _follows(plan) else as_read(plan)


def sunk_at_entry(plan: Plan, surface: Surface) -> float:
    """How far the floor before the entry lies below its high spot where it lies lowest, mm; 0 where
    nothing hangs on it."""
    ground = before_entry(plan)
    sides = [places for places, _ in entry_steps(plan, surface) if len(places)]
    lies = [lie_along(ground, places[0], places[-1])[1].min() for places in sides]
    return max(0.0, -float(min(lies, default=0.0)))


def step_at_entry(plan: Plan, surface: Surface) -> float:
    """The step at the entry where it is worst, mm down; below 0 it is a step up."""
    return worst_of(steps_at_entry(plan, surface).tolist())


def _follows(plan: Plan) -> bool:
    if not former_of(plan.shower).one_piece or plan.survey.correction is not None:
        return False
    ground = ground_of(plan)
    return (
        ground is not None
        and range_under(ground, plan.shower.outline) <= base_of(plan).value + ROUNDED
    )
