"""Which floor is sealed, and the pieces that seal its edges: numbers only. Lengths are mm."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import LineString, Point, Polygon

from calm_basin.core.falls.ring import ring_of
from calm_basin.plan import Plan
from calm_basin.plan.backs import footprint
from calm_basin.plan.framing import AT_WALL
from calm_basin.plan.places import straight
from calm_basin.rules.membrane import membrane_length

XY = tuple[float, float]


class Band(NamedTuple):
    """A straight band: where it lies, the number of the room's wall that it lies at (from 0; None
    across the joint of shower and room), and its length without laps."""

    start: XY
    end: XY
    wall: int | None
    length: float


class Corner(NamedTuple):
    """A corner of the walls at the floor that is sealed; ``inside`` the room, or standing out."""

    at: XY
    number: int
    inside: bool
    in_shower: bool


def sealed(plan: Plan) -> Polygon:
    """What of the room's floor is sealed: as it was chosen, else all of a wet room, or the shower
    and what of the room is near it on its own side of the walls."""
    room, shower = Polygon(plan.room.outline), ring_of(plan.shower).polygon
    extent = plan.membrane.extent or ("near" if plan.shower.rest is None else "all")
    if extent == "all":
        return room
    if extent == "shower":
        return shower
    far = membrane_length("into_room").value
    near = room.intersection(shower.buffer(far, join_style="mitre"))
    parts = [part for part in shapely.get_parts(near) if isinstance(part, Polygon)]
    return max(parts, key=lambda part: float(part.intersection(shower).area))


def bands(plan: Plan) -> list[Band]:
    """The straight bands: where the floor that is sealed meets walls, then across the joint of
    shower and room."""
    walls = Polygon(plan.room.outline).exterior.buffer(AT_WALL)
    kept, shower = sealed(plan), ring_of(plan.shower).polygon
    sides = _walls(plan)
    found = [
        _band(line, _nearest(sides, line))
        for side in _sides(kept)
        for line in _lines(side.intersection(walls))
    ]
    for side in _sides(shower):
        clear = _lines(side.difference(walls))
        # It goes on to the walls that it meets.
        met = [side.intersection(part.buffer(1.5 * AT_WALL)) for part in clear]
        found += [_band(part, None) for line in met for part in _lines(line)]
    return found


def corners(plan: Plan) -> list[Corner]:
    """The corners of the walls that the sealed floor reaches."""
    kept, shower = sealed(plan), ring_of(plan.shower).polygon
    found = []
    for number, (place, turn) in enumerate(
        zip(plan.room.outline, _turns(plan.room.outline), strict=True)
    ):
        if kept.distance(Point(place)) < AT_WALL:
            near = shower.distance(Point(place)) < AT_WALL
            found.append(Corner((place[0], place[1]), number, turn > 0, near))
    return found


class Bench(NamedTuple):
    """A seat that stands on the sealed floor: which fixture it is, how much of its foot is free and
    how much of it stands at walls, mm, and its middle on plan."""

    number: int
    free: float
    at_walls: float
    at: XY


def benches(plan: Plan) -> list[Bench]:
    """The seats that stand on the floor that is sealed."""
    kept, walls = sealed(plan), Polygon(plan.room.outline).exterior.buffer(AT_WALL)
    found = []
    for number, fixture in enumerate(plan.room.fixtures):
        shape = footprint(fixture)
        if fixture.kind != "seat" or kept.intersection(shape).area < shape.area / 2:
            continue
        at = [line for side in _sides(shape) for line in _lines(side.intersection(walls))]
        at_walls = float(sum(line.length for line in at))
        x, y = fixture.centre
        found.append(Bench(number, float(shape.exterior.length) - at_walls, at_walls, (x, y)))
    return found


def shower_walls(plan: Plan) -> float:
    """How much of the shower's edge stands at walls."""
    walls = Polygon(plan.room.outline).exterior.buffer(AT_WALL)
    sides = _sides(ring_of(plan.shower).polygon)
    return float(sum(line.length for side in sides for line in _lines(side.intersection(walls))))


def _band(line: LineString, wall: int | None) -> Band:
    (x0, y0), (x1, y1) = line.coords[0][:2], line.coords[-1][:2]
    return Band((float(x0), float(y0)), (float(x1), float(y1)), wall, float(line.length))


def _walls(plan: Plan) -> list[LineString]:
    outline = plan.room.outline
    return [LineString(pair) for pair in pairwise([*outline, outline[0]])]


def _nearest(walls: list[LineString], line: LineString) -> int:
    middle = line.interpolate(0.5, normalized=True)
    return int(np.argmin([wall.distance(middle) for wall in walls]))


def _sides(shape: Polygon) -> Iterator[LineString]:
    """The straight sides of an outline; a corner that is none parts no side."""
    outline = straight(tuple((float(x), float(y)) for x, y in shape.exterior.coords[:-1]))
    ring = shapely.LinearRing(outline).simplify(0)
    for pair in pairwise(ring.coords):
        yield LineString(pair)


def _lines(shape: shapely.Geometry) -> list[LineString]:
    found = [part for part in shapely.get_parts(shape) if isinstance(part, LineString)]
    return [part for part in found if part.length > 2 * AT_WALL]


def _turns(outline: tuple[XY, ...]) -> list[float]:
    """The way an outline turns at each corner: above 0 an inside corner of the room."""
    points = np.array(outline)
    way = 1.0 if shapely.LinearRing(points).is_ccw else -1.0
    before, after = points - np.roll(points, 1, axis=0), np.roll(points, -1, axis=0) - points
    turns = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    return [float(way * turn) for turn in turns]
