"""What fits on a floor: circles, rectangles, Ts and ways, from the places where each may lie.

A shape may lie wherever its own place is not in the floor's edge swept by it (its configuration
space). Walls and fixtures may stand on its edge: what lies over by less than `ON_EDGE` is on it.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry import Polygon

from calm_basin.core.access.floor import Facing, sound
from calm_basin.core.geometry.surface import Array
from calm_basin.tolerances import ON_EDGE, SLIVER

FINE = 0.1
"""Circles and ways are found to this, mm, across."""

MOST_DIRECTIONS = 4
"""Along so many directions of a floor's edges rectangles are looked for."""


class Circle(NamedTuple):
    """A circle on plan, mm."""

    x: float
    y: float
    across: float

    def fits(self, least: float) -> bool:
        """Whether it is as large as is required: walls and fixtures may stand on its edge."""
        return self.across >= least - 2 * ON_EDGE


NO_CIRCLE = Circle(0.0, 0.0, 0.0)


def may_hold(parts: tuple[shapely.Geometry, ...], across: float) -> bool:
    """Whether a circle may fit on one of the parts of a floor: never no where one does."""
    # Coarse corners leave the floor a little larger than it is.
    radius = across / 2 - 2 * ON_EDGE
    return any(not part.buffer(-radius, quad_segs=4).is_empty for part in parts)


def largest_circle(parts: tuple[shapely.Geometry, ...]) -> Circle:
    """The largest circle that fits on one of the parts of a floor; `NO_CIRCLE` where there is no
    floor."""
    found = NO_CIRCLE
    for part in shapely.get_parts(np.array(parts, dtype=object)):
        if isinstance(part, Polygon) and part.area > SLIVER:
            circle = _largest(part.wkb)
            found = max(found, circle, key=lambda one: one.across)
    return found


@lru_cache(maxsize=128)
def _largest(shape: bytes) -> Circle:
    radius = shapely.maximum_inscribed_circle(shapely.from_wkb(shape), tolerance=FINE / 2)
    (x, y), _ = shapely.get_coordinates(radius)
    return Circle(float(x), float(y), 2 * float(radius.length))


def directions(floor: shapely.Geometry) -> list[float]:
    """The angles, radians from 0 to a quarter turn, along which most of a floor's edges run: a
    rectangle that has no room along any of them is taken as having none."""
    return list(_directions(floor.wkb))


@lru_cache(maxsize=64)
def _directions(shape: bytes) -> tuple[float, ...]:
    edges = _edges(shapely.from_wkb(shape))
    along = edges[:, 1] - edges[:, 0]
    lengths = np.hypot(*along.T)
    angles = np.mod(np.round(np.arctan2(along[:, 1], along[:, 0]), 4), round(np.pi / 2, 4))
    ways, which = np.unique(angles, return_inverse=True)
    most = np.bincount(which, weights=lengths)
    return tuple(float(ways[i]) for i in np.argsort(-most, kind="stable")[:MOST_DIRECTIONS])


def _edges(floor: shapely.Geometry) -> Array:
    """The edges of a floor, shape (n, 2, 2)."""
    rings = [
        shapely.get_coordinates(ring)
        for part in shapely.get_parts(floor)
        if isinstance(part, Polygon)
        for ring in (part.exterior, *part.interiors)
    ]
    if not rings:
        return np.empty((0, 2, 2))
    return np.vstack([np.stack([ring[:-1], ring[1:]], axis=1) for ring in rings])


def middles_of(floor: shapely.Geometry, width: float, depth: float) -> shapely.Geometry:
    """Where the middle of a rectangle along the axes may lie so that all of it is on the floor."""
    return _middles_of(floor.wkb, width, depth)


@lru_cache(maxsize=256)
def _middles_of(shape: bytes, width: float, depth: float) -> shapely.Geometry:
    floor = shapely.from_wkb(shape)
    half = np.array([width / 2 - ON_EDGE, depth / 2 - ON_EDGE])
    edges = _edges(floor)
    if not len(edges) or (half <= 0).any():
        return Polygon()
    corners = half * np.array([[-1, -1], [1, -1], [1, 1], [-1, 1]])
    swept = (edges[:, :, None, :] + corners).reshape(len(edges), 8, 2)
    hulls = shapely.convex_hull(shapely.multipoints(swept))
    return floor.difference(shapely.union_all(hulls))


def turned(floor: shapely.Geometry, angle: float) -> shapely.Geometry:
    """A floor turned back by an angle, radians, about the plan's origin."""
    return sound(affinity.rotate(floor, -angle, origin=(0, 0), use_radians=True))


def rectangle_on(floor: shapely.Geometry, width: float, depth: float) -> Polygon | None:
    """A rectangle of this size on a floor, along one of the floor's own edges; None where there is
    no room for one."""
    for angle in directions(floor):
        along = turned(floor, angle)
        for across, deep in ((width, depth), (depth, width)):
            middles = middles_of(along, across, deep)
            if not middles.is_empty:
                x, y = _inner(middles)
                box = shapely.box(x - across / 2, y - deep / 2, x + across / 2, y + deep / 2)
                return turned(box, -angle)
            if width == depth:
                break
    return None


def tee_on(floor: shapely.Geometry, side: float, arm: float) -> Polygon | None:
    """A T, ``side`` square with arms and stem ``arm`` wide, on a floor; None where there is no room
    for one."""
    over = (side - arm) / 2
    for angle in directions(floor):
        for quarter in range(4):
            along = turned(floor, angle + quarter * np.pi / 2)
            bar = affinity.translate(middles_of(along, side, arm), 0, -over)
            if bar.is_empty:
                continue
            middles = bar.intersection(middles_of(along, arm, side))
            if not middles.is_empty:
                x, y = _inner(middles)
                half, top, low = side / 2, y + side / 2, y + side / 2 - arm
                tee = shapely.box(x - half, low, x + half, top).union(
                    shapely.box(x - arm / 2, y - half, x + arm / 2, top)
                )
                return turned(tee, -angle - quarter * np.pi / 2)
    return None


def _inner(middles: shapely.Geometry) -> tuple[float, float]:
    place = middles.representative_point()
    return float(place.x), float(place.y)


class FreeStrip:
    """The floor along a frame, on which a rectangle may slide.

    Parameters
    ----------
    floor : Geometry
    frame : Frame
        The rectangle lies along it, and goes out from it.
    low, high : float
        The stretch of the frame that is looked at, mm.
    depth : float
        How far out is looked at, mm.
    """

    def __init__(
        self, floor: shapely.Geometry, frame: Facing, low: float, high: float, depth: float
    ) -> None:
        far = max(depth - ON_EDGE, 2 * ON_EDGE)
        strip = shapely.box(low, ON_EDGE, high, far)
        self._blocked = strip.difference(frame.within(floor))
        self._low, self._high, self._depth = low, high, far

    def starts(
        self, width: float, low: float, high: float, depth: float | None = None
    ) -> list[tuple[float, float]]:
        """The stretches from ``low`` to ``high`` in which a rectangle ``width`` along may start so
        that all of it is on the floor, to ``depth`` or as far as is looked at."""
        blocked = self._blocked
        if depth is not None and depth - ON_EDGE < self._depth:
            far = max(depth - ON_EDGE, 2 * ON_EDGE)
            blocked = shapely.clip_by_rect(blocked, self._low, 0.0, self._high, far)
        free, at = [], low
        for first, last in sorted(_taken(blocked, width)):
            if first > at:
                free.append((at, min(first, high)))
            at = max(at, last)
            if at > high:
                break
        if at <= high:
            free.append((at, high))
        return [(first, last) for first, last in free if first <= high and last >= first]


def _taken(blocked: shapely.Geometry, width: float) -> Iterator[tuple[float, float]]:
    """The starts that each piece of what is in the way rules out: a piece is connected, so that
    what it covers along the frame is one stretch."""
    pieces = shapely.get_parts(blocked)
    bounds, areas = shapely.bounds(pieces), shapely.area(pieces)
    for (low, _, high, _), area in zip(bounds, areas, strict=True):
        if area > SLIVER and high - low > ON_EDGE / 2:
            yield float(low) - width + ON_EDGE, float(high) - ON_EDGE


def most_that_fits(fits: Callable[[float], bool], most: float, slack: float) -> float:
    """The largest measure up to ``most``, mm, that still fits, to `FINE`; what fits has to fit for
    all that is smaller. ``slack`` is by how much more than there is counts as fitting."""
    low, high = 0.0, most + slack
    while high - low > FINE:
        middle = (low + high) / 2
        low, high = (middle, high) if fits(middle) else (low, middle)
    return max(high - slack, 0.0) if low > 0 else 0.0
