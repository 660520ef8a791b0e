"""Which floor is sealed, and the pieces that seal its edges: numbers only. Lengths are mm."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import pairwise
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import LineString, Point, Polygon
from shapely.geometry.base import BaseGeometry

from calm_basin.core.falls.ring import ring_of
from calm_basin.plan import Plan
from calm_basin.plan.blocks import blocks, compartment, standing_faces, without_blocks
from calm_basin.plan.places import straight
from calm_basin.rules import TRADE
from calm_basin.tolerances import AT_WALL, ROUNDED

XY = tuple[float, float]


class SealBand(NamedTuple):
    """A straight band: where it lies, the number of the room's wall that it lies at (from 0; None
    at none) or of the bench or half wall among the fixtures (None of both: across the joint of
    shower and room), and its length without laps."""

    start: XY
    end: XY
    wall: int | None
    length: float
    block: int | None = None


class Corner(NamedTuple):
    """A corner of the walls at the floor that is sealed; ``inside`` the room, or standing out."""

    at: XY
    number: int
    inside: bool
    in_shower: bool


def sealed(plan: Plan) -> Polygon:
    """What of the room's floor is sealed: as it was chosen, else all of a wet room, or the shower
    and what of the room is near it on its own side of the walls."""
    room = without_blocks(plan, Polygon(plan.room.outline))
    shower = without_blocks(plan, ring_of(plan.shower).polygon)
    extent = plan.membrane.extent or ("near" if plan.shower.rest is None else "all")
    if extent == "all":
        return _largest(room, shower)
    if extent == "shower":
        return _largest(shower, shower)
    far = TRADE.membrane.into_room.value
    return _largest(room.intersection(shower.buffer(far, join_style="mitre")), shower)


def _largest(floor: BaseGeometry, shower: BaseGeometry) -> Polygon:
    """Of a floor in parts the one that has most of the shower."""
    parts = [part for part in shapely.get_parts(floor) if isinstance(part, Polygon)]
    return max(parts, key=lambda part: float(part.intersection(shower).area))


def bands(plan: Plan) -> list[SealBand]:
    """The straight bands: where the floor that is sealed meets walls, benches and half walls, then
    across the joint of shower and room."""
    walls = Polygon(plan.room.outline).exterior.buffer(AT_WALL)
    standing = standing_faces(plan).buffer(AT_WALL)
    kept, shower = sealed(plan), ring_of(plan.shower).polygon
    sides = _walls(plan)
    found = [
        _band(line, sides) for side in _sides(kept) for line in _lines(side.intersection(walls))
    ]
    edge = kept.boundary.buffer(AT_WALL)
    found += [
        _band(line, [], block.number)
        for block in blocks(plan)
        for face in block.free
        for line in _lines(LineString([face.start, face.end]).intersection(edge))
    ]
    for side in _sides(shower):
        clear = _lines(side.difference(standing))
        # It goes on to what it meets.
        met = [side.intersection(part.buffer(AT_WALL + ROUNDED)) for part in clear]
        found += [_band(part, []) for line in met for part in _lines(line)]
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


class Behind(NamedTuple):
    """A corner of the room that a bench or half wall stands in: its number, and that of the
    fixture."""

    corner: int
    block: int
    inside: bool
    at: XY


def behind_blocks(plan: Plan) -> list[Behind]:
    """The corners of the walls that are sealed above a bench or half wall."""
    turns = _turns(plan.room.outline)
    return [
        Behind(number, block.number, turns[number] > 0, (place[0], place[1]))
        for block in blocks(plan)
        for number, place in enumerate(plan.room.outline)
        if block.shape.distance(Point(place)) < AT_WALL
    ]


def shower_walls(plan: Plan) -> float:
    """How much of the shower's edge stands at walls."""
    walls = Polygon(plan.room.outline).exterior.buffer(AT_WALL)
    sides = _sides(Polygon(compartment(plan)))
    return float(sum(line.length for side in sides for line in _lines(side.intersection(walls))))


def _band(line: LineString, walls: list[LineString], block: int | None = None) -> SealBand:
    """A band over a line: at the nearest of some walls, or at a bench or half wall."""
    (x0, y0), (x1, y1) = line.coords[0][:2], line.coords[-1][:2]
    middle = line.interpolate(0.5, normalized=True)
    wall = int(np.argmin([one.distance(middle) for one in walls])) if walls else None
    ends = (float(x0), float(y0)), (float(x1), float(y1))
    return SealBand(*ends, wall, float(line.length), block)


def _walls(plan: Plan) -> list[LineString]:
    outline = plan.room.outline
    return [LineString(pair) for pair in pairwise([*outline, outline[0]])]


def _sides(shape: Polygon) -> Iterator[LineString]:
    """The straight sides of an outline and of what stands out in it; a corner that is none parts no
    side."""
    for edge in (shape.exterior, *shape.interiors):
        outline = straight(tuple((float(x), float(y)) for x, y in edge.coords[:-1]))
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
