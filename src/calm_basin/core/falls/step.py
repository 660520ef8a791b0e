"""The step at the entry."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import LineString

from calm_basin.core.falls import (
    ring_of,
)
from calm_basin.core.geometry.surface import SAME_PLACE, Surface
from calm_basin.plan import Plan


def step_of(plan: Plan, surface: Surface) -> float:
    """Step at the entry, in mm, at its worst place: how far the shower's floor lies below the floor
    outside it, or, where it is below 0, above."""
    ring = ring_of(plan.shower)
    inside = surface.zone("shower")
    corners = np.vstack([facet.corners[:, :2] for facet in inside])
    steps = [plan.shower.set_down]
    for i in sorted(ring.entries):
        edge = LineString(ring.edge(i))
        ends = np.vstack([ring.edge(i), corners])
        places = ends[shapely.distance(edge, shapely.points(ends)) < SAME_PLACE]
        outside = surface.heights(places, "rest") if plan.shower.rest else plan.shower.set_down
        steps += [float(s) for s in outside - surface.heights(places, "shower") if not np.isnan(s)]
    # Of a step up and one down that are alike, as at a tray's two ends, the one down is told.
    return max(steps[1:] or steps, key=lambda step: (round(abs(step), 6), step))
