"""The way from a door to the shower: how wide it is, where it is narrowest, and its line.

Whoever comes is a disc that rolls over the free floor: from where it touches the door's opening to
where it touches the shower's entry.
"""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np
import scipy
import shapely
from shapely.geometry import LineString, Point, Polygon
from shapely.ops import nearest_points

from calm_basin.core.access.fitting import largest_circle, most_that_fits
from calm_basin.core.geometry.surface import Array
from calm_basin.tolerances import NEXT_TO, ON_EDGE

BESIDE = 0.01
"""Discs wider than a way by this share part into those before its narrowest place and those behind
it; those narrower by it hang together there."""
STRAIGHT = 1.1
"""A way that is longer by more than this share than the line between its ends bends."""
SECTOR = np.radians(60)
"""What stands on the other side of a narrow place is looked for so far to either hand."""


class Narrows(NamedTuple):
    """Where a way is narrowest: the two places, (2, 2), between which it leads."""

    ends: Array

    @property
    def middle(self) -> Array:
        """Half way between them."""
        middle: Array = self.ends.mean(axis=0)
        return middle


def passes(floor: shapely.Geometry, door: LineString, goal: shapely.Geometry, wide: float) -> bool:
    """Whether somebody ``wide`` gets over a floor from a door to a goal."""
    return _passes(floor.wkb, door.wkb, goal.wkb, wide)


@lru_cache(maxsize=256)
def _passes(on: bytes, start: bytes, end: bytes, wide: float) -> bool:
    floor, door, goal = (shapely.from_wkb(shape) for shape in (on, start, end))
    return any(
        part.dwithin(door, _reach(wide)) and part.dwithin(goal, _reach(wide))
        for part in _middles(floor, wide)
    )


def widest(floor: shapely.Geometry, door: LineString, goal: shapely.Geometry) -> float:
    """The width, mm, of the widest that gets over a floor from a door to a goal; 0: nobody does."""
    return _widest(floor.wkb, door.wkb, goal.wkb)


@lru_cache(maxsize=64)
def _widest(floor: bytes, door: bytes, goal: bytes) -> float:
    on, start, end = (shapely.from_wkb(shape) for shape in (floor, door, goal))
    most = largest_circle((on,)).across
    return most_that_fits(lambda wide: passes(on, start, end, wide), most, 2 * ON_EDGE)


def _reach(wide: float) -> float:
    return wide / 2 + ON_EDGE


def _middles(floor: shapely.Geometry, wide: float, corners: int = 32) -> list[shapely.Geometry]:
    """Where the middle of a disc may be, the parts that hang together."""
    # Walls may stand on its edge, and its middle may be on a line between two of them.
    radius = wide / 2 - ON_EDGE
    edge = floor.boundary
    free = shapely.get_parts(floor.buffer(-radius, quad_segs=corners))
    # Round corners have sides: what lies outside a corner may come nearer to it by this much.
    sagitta = radius * (1 - np.cos(np.pi / (4 * corners)))
    # Of a turned square that is too small for it, the buffer turns inside out instead of vanishing.
    return [
        part
        for part in free
        if isinstance(part, Polygon)
        and part.representative_point().distance(edge) > radius - sagitta - 1e-3
    ]


def narrows(
    floor: shapely.Geometry, door: LineString, goal: shapely.Geometry, wide: float
) -> Narrows | None:
    """Where a way of this width is narrowest; None where that is at the door or the goal itself."""
    return _narrows(floor.wkb, door.wkb, goal.wkb, wide)


@lru_cache(maxsize=32)
def _narrows(on: bytes, start: bytes, end: bytes, wide: float) -> Narrows | None:
    floor, door, goal = (shapely.from_wkb(shape) for shape in (on, start, end))
    reach = _reach(wide)
    way = [
        part
        for part in _middles(floor, wide * (1 - BESIDE))
        if part.dwithin(door, reach) and part.dwithin(goal, reach)
    ]
    if not way:
        return None
    parts = [part for part in _middles(floor, wide * (1 + BESIDE)) if part.intersects(way[0])]
    before = [part for part in parts if part.dwithin(door, _reach(wide * (1 + BESIDE)))]
    behind = [part for part in parts if part not in before]
    if not before or not behind:
        return None
    ahead, back = shapely.union_all(before), shapely.union_all(behind)
    neck = _neck(way[0], ahead, back, wide * BESIDE)
    if neck is None:
        return None
    ends = [shapely.get_coordinates(nearest_points(neck, side)[0]) for side in (ahead, back)]
    line = _along(neck, *ends)
    middle = shapely.get_coordinates(
        neck.representative_point()
        if line is None
        else LineString(line).interpolate(0.5, normalized=True)
    )[0]
    edge = floor.boundary
    one = shapely.get_coordinates(nearest_points(edge, Point(middle))[0])[0]
    away = middle - one
    length = float(np.hypot(*away))
    if length < ON_EDGE:
        return None
    # The other side is what is nearest in a sector, not straight behind: that may be past a corner.
    along = away / length
    aside = np.array([-along[1], along[0]]) * np.tan(SECTOR)
    opposite = edge.intersection(
        Polygon([middle, *(middle + (along + side * aside) * 4 * wide for side in (-1, 1))])
    )
    if opposite.is_empty:
        return None
    other = shapely.get_coordinates(nearest_points(opposite, Point(middle))[0])[0]
    return Narrows(np.array([one, other]))


def neck(
    floor: shapely.Geometry, door: LineString, goal: shapely.Geometry, wide: float, narrow: float
) -> float | None:
    """Over what length, mm, a way is narrower than ``wide``, though nowhere than ``narrow``; None
    where it is too narrow, or narrower in more than one straight place."""
    return _length_of_neck(floor.wkb, door.wkb, goal.wkb, wide, narrow)


@lru_cache(maxsize=32)
def _length_of_neck(
    on: bytes, first: bytes, last: bytes, wide: float, narrow: float
) -> float | None:
    floor, door, goal = (shapely.from_wkb(shape) for shape in (on, first, last))
    slim, roomy = _middles(floor, narrow, 8), _middles(floor, wide)
    before = [part for part in roomy if part.dwithin(door, _reach(wide))]
    behind = [part for part in roomy if part.dwithin(goal, _reach(wide))]
    lengths = []
    for ahead, back in ((a, b) for a in before for b in behind if a is not b):
        start, end = (np.array(point.coords[0]) for point in nearest_points(ahead, back))
        apart = float(np.hypot(*(end - start)))
        part = next((p for p in slim if p.dwithin(Point(start), ON_EDGE)), None)
        line = None if part is None or apart < ON_EDGE else _along(part, start, end)
        long = np.inf if line is None else float(LineString(line).length)
        if long > apart * STRAIGHT:
            continue
        along = (end - start) / apart
        # A disc that is stuck stands short of the place at which what stops it begins.
        into = [_touched(floor, at, way) for at, way in ((start, along), (end, -along))]
        lengths.append(max(long - sum(into), 0.0))
    return min(lengths, default=None)


def _touched(floor: shapely.Geometry, at: Array, way: Array) -> float:
    """How far ahead of a disc's middle the disc touches the floor's edge, mm."""
    rings = [np.array(ring.coords) for ring in shapely.get_rings(floor)]
    start = np.concatenate([ring[:-1] for ring in rings])
    side = np.concatenate([np.diff(ring, axis=0) for ring in rings])
    share = ((at - start) * side).sum(axis=1) / (side**2).sum(axis=1)
    nearest = start + np.clip(share, 0, 1)[:, None] * side
    apart = np.hypot(*(nearest - at).T)
    touched = nearest[apart <= apart.min() + NEXT_TO]
    return max(float(((touched - at) @ way).max()), 0.0)


def _neck(
    way: Polygon, ahead: shapely.Geometry, back: shapely.Geometry, thinner: float
) -> Polygon | None:
    """The part of a way of middles that leads from what wider discs reach on one side to what they
    reach on the other: between two things in a room, never through them."""
    ends = [side.buffer(1.5 * thinner) for side in (ahead, back)]
    for part in shapely.get_parts(way.difference(shapely.union_all(ends))):
        if isinstance(part, Polygon) and all(part.dwithin(end, ON_EDGE) for end in ends):
            return part
    return None


def shortest(
    floor: shapely.Geometry, door: LineString, goal: shapely.Geometry, wide: float
) -> Array | None:
    """The shortest line, (n, 2), along which the middle of a disc goes from a door to a goal; None
    where it does not get there."""
    return _shortest(floor.wkb, door.wkb, goal.wkb, wide)


@lru_cache(maxsize=32)
def _shortest(on: bytes, before: bytes, behind: bytes, wide: float) -> Array | None:
    floor, door, goal = (shapely.from_wkb(shape) for shape in (on, before, behind))
    for part in _middles(floor, wide, 8):
        if part.dwithin(door, _reach(wide)) and part.dwithin(goal, _reach(wide)):
            start = shapely.get_coordinates(nearest_points(part, door.centroid)[0])
            end = shapely.get_coordinates(nearest_points(part, goal.centroid)[0])
            return _along(part, start, end)
    return None


def _along(part: Polygon, start: Array, end: Array) -> Array | None:
    """The shortest line inside a polygon: it bends at corners that look inwards, and nowhere
    else."""
    holes = [_bends(np.array(ring.coords[:-1]), 1.0) for ring in part.interiors]
    places = np.vstack([start, end, _bends(np.array(part.exterior.coords[:-1]), -1.0), *holes])
    i, j = np.triu_indices(len(places), 1)
    lines = shapely.linestrings(np.stack([places[i], places[j]], axis=1))
    inside = part.buffer(ON_EDGE)
    shapely.prepare(inside)
    seen = shapely.covers(inside, lines)
    graph = np.zeros((len(places), len(places)))
    graph[i[seen], j[seen]] = np.maximum(shapely.length(lines[seen]), 1e-6)
    lengths, before = scipy.sparse.csgraph.dijkstra(
        graph, directed=False, indices=0, return_predecessors=True
    )
    if not np.isfinite(lengths[1]):
        return None
    way = [1]
    while way[-1] != 0:
        way.append(int(before[way[-1]]))
    line: Array = places[way[::-1]]
    return line


def _bends(ring: Array, side: float) -> Array:
    """The corners of a ring at which it turns to the left (``side`` 1) or to the right (−1), gone
    round anticlockwise."""
    ccw = shapely.is_ccw(shapely.linearrings(np.vstack([ring, ring[:1]])))
    before, after = ring - np.roll(ring, 1, axis=0), np.roll(ring, -1, axis=0) - ring
    cross = before[:, 0] * after[:, 1] - before[:, 1] * after[:, 0]
    corners: Array = ring[cross * (side if ccw else -side) > 0]
    return corners
