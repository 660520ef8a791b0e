"""The step at the entry, where the floor before it is level."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry import LineString

from calm_basin.core.falls import (
    ring_of,
)
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.plan import Plan
from calm_basin.plan.shower import Shower
from calm_basin.tolerances import SAME_PLACE


def step_of(plan: Plan, surface: Surface) -> float:
    """Step at the entry, in mm, at its worst place: how far the shower's floor lies below the floor
    outside it, or, where it is below 0, above."""
    steps = [step for _, along in entry_steps(plan, surface) for step in along]
    return worst_of(steps or [plan.shower.set_down])


def worst_of(steps: Sequence[float]) -> float:
    """Of a step up and one down that are alike, as at a tray's two ends, the one down is told."""
    return max(steps, key=lambda step: (round(abs(step), 6), step))


def least_of(steps: Sequence[float]) -> float:
    """The step where it is least: none where the floors cross along the edge."""
    if min(steps) <= 0 <= max(steps):
        return 0.0
    return min(steps, key=abs)


def entry_steps(plan: Plan, surface: Surface) -> list[tuple[Array, Array]]:
    """The steps along each of the entry's sides, mm down.

    Returns
    -------
    list of (places, steps)
        Shapes (n, 2) and (n,), in order along the side; between them a step changes evenly.
    """
    return _entry_steps(plan.shower, surface)


@lru_cache(maxsize=64)
def _entry_steps(shower: Shower, surface: Surface) -> list[tuple[Array, Array]]:
    ring = ring_of(shower)
    corners = np.vstack([facet.corners[:, :2] for facet in surface.zone("shower")])
    found = []
    for i in sorted(ring.entries):
        start, end = ring.edge(i)
        ends = np.vstack([ring.edge(i), corners])
        places = ends[shapely.distance(LineString([start, end]), shapely.points(ends)) < SAME_PLACE]
        outside = surface.heights(places, "rest") if shower.rest else shower.set_down
        steps = outside - surface.heights(places, "shower")
        known = ~np.isnan(steps)
        places, steps = places[known], steps[known]
        order = np.argsort((places - start) @ (end - start))
        found.append((places[order], steps[order]))
    return found
