"""The floor that is free to stand on: what fixtures take, where doors swing, what is steep."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry import Polygon

from calm_basin.core.geometry.solid import solid
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.plan import Plan
from calm_basin.plan.backs import Side, footprint
from calm_basin.plan.base import Point
from calm_basin.plan.room import OFF_THE_FLOOR, Door, Fixture, Room
from calm_basin.tolerances import ON_EDGE


class Facing(NamedTuple):
    """Where something is measured from: a place and two unit vectors at right angles, ``along``
    and ``out`` of it."""

    origin: Array
    along: Array
    out: Array

    def within(self, shape: shapely.Geometry) -> shapely.Geometry:
        """A shape of the plan as this frame sees it: first along, then out."""
        along, out = self.along, self.out
        shift = [-float(self.origin @ along), -float(self.origin @ out)]
        return sound(affinity.affine_transform(shape, [*along, *out, *shift]))

    def rectangle(self, start: float, width: float, depth: float) -> Polygon:
        """A rectangle of this frame on plan: from ``start`` along, from 0 out."""
        near = self.origin + start * self.along
        far = near + width * self.along
        over = depth * self.out
        return Polygon([near, far, far + over, near + over])


def sound(shape: shapely.Geometry) -> shapely.Geometry:
    """A shape whose outline turning or cutting may have left crossing itself by a hair."""
    return shape if shape.is_valid else shape.buffer(0)


def front_of(fixture: Fixture) -> Facing:
    """From the middle of a fixture's front, out of it; along goes to the sitter's right."""
    turn = np.radians(fixture.turn)
    out = np.array([-np.sin(turn), np.cos(turn)])
    return Facing(
        np.array(fixture.centre) + out * fixture.length / 2, np.array([out[1], -out[0]]), out
    )


def back_of(fixture: Fixture) -> Facing:
    """From the middle of a fixture's back, over it; along goes to the sitter's right."""
    front = front_of(fixture)
    return front._replace(origin=front.origin - front.out * fixture.length)


def doorway(room: Room, door: Door) -> Facing:
    """From a door's hinge along its opening, out into the room."""
    wall = Side.of(room.outline, door.wall)
    if door.hinge == "first":
        return Facing(wall.start + wall.along * door.offset, wall.along, wall.inward)
    far = wall.start + wall.along * (door.offset + door.width)
    return Facing(far, -wall.along, wall.inward)


@lru_cache(maxsize=256)
def on_the_floor(fixture: Fixture) -> bool:
    """Whether nobody can stand where it stands."""
    return fixture.kind not in OFF_THE_FLOOR


@lru_cache(maxsize=64)
def sweep_of(room: Room, door: Door) -> Polygon:
    """The quarter of a circle over which a door's leaf swings into the room; empty where it does
    not."""
    if not door.sweeps:
        return Polygon()
    frame = doorway(room, door)
    angles = np.linspace(0, np.pi / 2, 33)[:, None]
    arc = frame.along * np.cos(angles) + frame.out * np.sin(angles)
    return Polygon([frame.origin, *(frame.origin + door.width * arc)])


@lru_cache(maxsize=64)
def sweeps_of(room: Room) -> shapely.Geometry:
    """All of a room's floor over which doors swing."""
    return shapely.union_all([sweep_of(room, door) for door in room.doors])


def stands(plan: Plan, number: int, centre: Point) -> bool:
    """Whether a fixture can stand with its middle at a place: inside the room, off the shower and
    off everything else."""
    fixture = plan.room.fixtures[number].model_copy(update={"centre": centre})
    shape = footprint(fixture).buffer(-ON_EDGE)
    others = [
        footprint(f) for i, f in enumerate(plan.room.fixtures) if i != number and on_the_floor(f)
    ]
    taken = np.array([Polygon(plan.shower.outline), *others])
    inside = Polygon(plan.room.outline).covers(shape)
    return bool(inside and not shapely.intersects(taken, shape).any())


@lru_cache(maxsize=128)
def free_floor(
    room: Room, shower: tuple[Point, ...], stepped: bool, without: int | None = None
) -> tuple[shapely.Geometry, ...]:
    """The floor that nothing stands on: the whole room, or, where a ``stepped`` edge parts them,
    the room's and the shower's apart. ``without`` is a fixture that is not in the way."""
    free = Polygon(room.outline).difference(
        shapely.union_all(
            [
                footprint(fixture)
                for i, fixture in enumerate(room.fixtures)
                if on_the_floor(fixture) and i != without
            ]
        )
    )
    zone = Polygon(shower)
    parts = [free.difference(zone), free.intersection(zone)] if stepped else [free]
    return tuple(solid(np.array(parts)))


def steep_planes(surface: Surface, most: float) -> shapely.Geometry:
    """All of a floor that falls more than ``most``, rise over run."""
    return shapely.union_all([f.polygon for f in surface.facets if f.steepest > most])


def steepest_under(surface: Surface, shape: Polygon) -> float:
    """The steepest fall, rise over run, of the planes that lie under a shape; 0 off the falls."""
    under = shape.buffer(-2 * ON_EDGE)
    planes = np.array([facet.polygon for facet in surface.facets], dtype=object)
    hit = shapely.intersects(planes, under)
    return max((f.steepest for f, on in zip(surface.facets, hit, strict=True) if on), default=0.0)


@lru_cache(maxsize=512)
def over_walls(outline: tuple[Point, ...], fixture: Fixture) -> float:
    """How far a fixture reaches through a wall, mm; 0 where it is inside."""
    inside, shape = Polygon(outline), footprint(fixture)
    if inside.buffer(ON_EDGE).covers(shape):
        return 0.0
    corners = shapely.points(shapely.get_coordinates(shape))
    beyond = shapely.distance(corners, inside)
    # Where a wall's own corner reaches into the fixture, no corner of the fixture is outside.
    through = shape.difference(inside)
    depth = float(max(beyond.max(), 0.0))
    return depth if depth > ON_EDGE else float(np.sqrt(through.area))
