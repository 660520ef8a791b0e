"""The floor that is free to stand on, and the largest circle that fits on it."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry import Polygon

from calm_basin.core.geometry.surface import Surface
from calm_basin.plan import Plan
from calm_basin.plan.base import Point
from calm_basin.plan.places import ON_EDGE
from calm_basin.plan.room import Fixture, Room

FINE = 0.25
"""The largest circle is found to this, mm, across."""


class Circle(NamedTuple):
    """A circle on plan, mm."""

    x: float
    y: float
    across: float

    def fits(self, least: float) -> bool:
        """Whether it is as large as is asked: walls and fixtures may stand on its edge."""
        return self.across >= least - 2 * ON_EDGE


NO_CIRCLE = Circle(0.0, 0.0, 0.0)


@lru_cache(maxsize=256)
def fixture_shape(fixture: Fixture) -> Polygon:
    """The rectangle on which a fixture stands."""
    (x, y), half, deep = fixture.centre, fixture.width / 2, fixture.length / 2
    shape = shapely.box(x - half, y - deep, x + half, y + deep)
    return affinity.rotate(shape, fixture.turn, origin=(x, y))


def may_hold(parts: tuple[shapely.Geometry, ...], across: float) -> bool:
    """Whether a circle may fit on one of the parts of a floor: never no where one does."""
    # Coarse corners leave the floor a little larger than it is.
    radius = across / 2 - 2 * ON_EDGE
    return any(not part.buffer(-radius, quad_segs=4).is_empty for part in parts)


def stands(plan: Plan, number: int, centre: Point) -> bool:
    """Whether a fixture can stand with its middle at a place: inside the room, off the shower and
    off everything else."""
    fixture = plan.room.fixtures[number].model_copy(update={"centre": centre})
    shape = fixture_shape(fixture).buffer(-ON_EDGE)
    others = [fixture_shape(f) for i, f in enumerate(plan.room.fixtures) if i != number]
    taken = np.array([Polygon(plan.shower.outline), *others])
    inside = Polygon(plan.room.outline).covers(shape)
    return bool(inside and not shapely.intersects(taken, shape).any())


@lru_cache(maxsize=64)
def free_floor(
    room: Room, shower: tuple[Point, ...], stepped: bool
) -> tuple[shapely.Geometry, ...]:
    """The floor that nothing stands on: the whole room, or, where a ``stepped`` edge parts them,
    the shower and the rest apart."""
    free = Polygon(room.outline).difference(
        shapely.union_all([fixture_shape(fixture) for fixture in room.fixtures])
    )
    if not stepped:
        return (free,)
    zone = Polygon(shower)
    return (free.difference(zone), free.intersection(zone))


def steep_planes(surface: Surface, most: float) -> shapely.Geometry:
    """All of a floor that falls more than ``most``, rise over run."""
    return shapely.union_all([f.polygon for f in surface.facets if f.gradient > most])


def largest_circle(parts: tuple[shapely.Geometry, ...]) -> Circle:
    """The largest circle that fits on one of the parts of a floor; `NO_CIRCLE` where there is no
    floor."""
    found = NO_CIRCLE
    for part in shapely.get_parts(np.array(parts, dtype=object)):
        if isinstance(part, Polygon) and part.area > 1.0:
            circle = _largest(part.wkb)
            found = max(found, circle, key=lambda one: one.across)
    return found


@lru_cache(maxsize=128)
def _largest(shape: bytes) -> Circle:
    radius = shapely.maximum_inscribed_circle(shapely.from_wkb(shape), tolerance=FINE / 2)
    (x, y), _ = shapely.get_coordinates(radius)
    return Circle(float(x), float(y), 2 * float(radius.length))
