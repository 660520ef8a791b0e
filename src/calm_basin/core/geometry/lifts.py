"""A bed in two lifts: where its lower lift lies, and what that asks of the upper one."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import Point

from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.plan.document import Plan


def lower_lift_rise(plan: Plan, surface: Surface, places: Array) -> Array:
    """How far the lower lift's top lies above its place at the drain's body, mm, at (n, 2); 0 where
    there is no lower lift.

    It falls the same way from all sides, straight to the nearest rim or a channel's outlet.
    """
    lower, drain = former_of(plan.shower).lower, drain_kind(plan.shower.drain)
    body = surface.rim if drain.channel is None else Point(drain.outlet)
    away: Array = shapely.distance(body, shapely.points(places))
    return away * (lower.fall if lower else 0.0)


def thicker_at_drain(plan: Plan, surface: Surface) -> float:
    """How much thicker than its least the upper lift is at the drain, mm, so that it is nowhere
    thinner: 0 where the floor rises at least as the lower lift does.

    Over one plane the difference of both is concave, so it is least at a corner.
    """
    if former_of(plan.shower).lower is None:
        return 0.0
    corners = np.vstack([facet.corners for facet in surface.zone("shower")])
    rise = corners[:, 2] + surface.drop
    return max(0.0, -float((rise - lower_lift_rise(plan, surface, corners[:, :2])).min()))
