"""Where a chair can turn, stand beyond a door's swing, and reach from."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.access.fitting import (
    Circle,
    directions,
    largest_circle,
    middles_of,
    rectangle_on,
    tee_on,
    turned,
)
from calm_basin.core.access.floor import (
    sweeps_of,
)
from calm_basin.core.access.ground import Ground, asked_spaces
from calm_basin.core.geometry.surface import Array
from calm_basin.rules import Limit, Space


@dataclass(frozen=True)
class Turning:
    """Where a chair can turn: the largest circles on the free floor and on its gentle part, and a
    ``shape`` (T or rectangle) that stands for a circle, where there is one on gentle floor."""

    anywhere: Circle
    gentle: Circle
    shape: tuple[Space, Polygon] | None
    limit: Limit | None
    spaces: tuple[Space, ...]

    @property
    def asked(self) -> bool:
        """Whether anything is required for the users of the room."""
        return self.limit is not None or bool(self.spaces)

    @property
    def enough(self) -> bool:
        """Whether a chair can turn as is required."""
        if self.shape is not None:
            return True
        return self.limit is not None and self.gentle.fits(self.limit.value)


def turning(ground: Ground) -> Turning:
    """Where a chair can turn on the floor as it will be built."""
    anywhere = largest_circle(ground.parts)
    gentle = anywhere if ground.steep.is_empty else largest_circle(ground.gentle)
    users = ground.plan.users
    limit = next((one for one in ground.rules.on("turning_circle") if one.asked_by(users)), None)
    spaces = asked_spaces(ground, "turning_space")
    # Whoever needs most decides: where they can turn everybody can.
    whose = max(spaces, key=lambda space: space.across, default=None)
    alike = tuple(space for space in spaces if whose and space.users == whose.users)
    if limit is not None and gentle.fits(limit.value):
        return Turning(anywhere, gentle, None, limit, alike)
    shapes = ((space, shape_on(ground.gentle, space)) for space in alike)
    found = next(((space, shape) for space, shape in shapes if shape is not None), None)
    return Turning(anywhere, gentle, found, limit, alike)


def shape_on(parts: tuple[shapely.Geometry, ...], space: Space) -> Polygon | None:
    """A turning space on one of the parts of a floor, if there is room for it."""
    arm = space.arms
    found = (_shape_on(part.wkb, space.across, space.deep, arm) for part in parts)
    return next((shape for shape in found if shape is not None), None)


@lru_cache(maxsize=64)
def _shape_on(floor: bytes, across: float, deep: float, arm: float) -> Polygon | None:
    part = shapely.from_wkb(floor)
    return tee_on(part, across, arm) if arm else rectangle_on(part, across, deep)


def beyond_swing(ground: Ground) -> bool:
    """Whether a chair can stand beyond the swing of every door."""
    asked = asked_spaces(ground, "beyond_swing")
    clear = tuple(part.difference(sweeps_of(ground.plan.room)) for part in ground.parts)
    return any(shape_on(clear, space) is not None for space in asked)


def reach_of(ground: Ground, place: Array, width: float, depth: float) -> LineString | None:
    """From the nearest floor on which a chair can stand to a place; None where there is none."""
    x, y = (float(v) for v in place)
    ways = [_reach(part.wkb, x, y, width, depth) for part in ground.parts]
    return min((way for way in ways if way is not None), key=lambda way: way.length, default=None)


@lru_cache(maxsize=512)
def _reach(floor: bytes, px: float, py: float, width: float, depth: float) -> LineString | None:
    part, nearest, found = shapely.from_wkb(floor), np.inf, None
    for angle in directions(part):
        along = turned(part, angle)
        x, y = shapely.get_coordinates(turned(shapely.Point(px, py), angle))[0]
        for across, deep in ((width, depth), (depth, width)):
            middles = middles_of(along, across, deep)
            if not middles.is_empty:
                chair = shapely.box(x - across / 2, y - deep / 2, x + across / 2, y + deep / 2)
                way = shapely.shortest_line(middles, chair)
                if way.length < nearest:
                    # From the chair's middle to one that holds the place: so it lies from its edge.
                    (ax, ay), (bx, by) = way.coords
                    nearest = way.length
                    found = turned(LineString([(x - bx + ax, y - by + ay), (x, y)]), -angle)
    return found
