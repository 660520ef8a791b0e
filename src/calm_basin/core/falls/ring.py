"""The shower on plan: its outline with its sides named, and the drain's rim."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.codes import Code
from calm_basin.core.geometry.surface import Array
from calm_basin.plan.base import Point
from calm_basin.plan.places import straight
from calm_basin.plan.shower import Shower
from calm_basin.tolerances import LEVEL

LEAST_CLEARANCE = 1.0
"""How far, in mm, a point drain's rim keeps from the shower's edge so that a plane fits between."""

_SIDES = ("entry", "entry right", "right", "back right", "back", "back left", "left", "entry left")


@dataclass(frozen=True)
class Ring:
    """An outline anticlockwise, with its entry edges and the names of its sides.

    ``points`` has shape (n, 2); edge i joins points i and i + 1. ``inward`` is the unit vector
    from the entry into the shower.
    """

    points: Array
    entries: frozenset[int]
    inward: Array

    @cached_property
    def polygon(self) -> Polygon:
        return Polygon(self.points)

    @cached_property
    def convex(self) -> bool:
        """Whether the outline has no inner corner."""
        hull = self.polygon.convex_hull.area
        return bool(hull - self.polygon.area <= 1e-6 * hull)

    @cached_property
    def outwards(self) -> Array:
        """Unit vectors square to the edges, out of the shower, shape (n, 2)."""
        along = np.roll(self.points, -1, axis=0) - self.points
        along = along / np.hypot(along[:, 0], along[:, 1])[:, None]
        return np.column_stack([along[:, 1], -along[:, 0]])

    @cached_property
    def offsets(self) -> Array:
        """How far the line of each edge lies along its outward vector, shape (n,)."""
        offsets: Array = (self.points * self.outwards).sum(axis=1)
        return offsets

    def edge(self, i: int) -> Array:
        """The two ends of edge i, shape (2, 2)."""
        ends: Array = self.points[[i, (i + 1) % len(self.points)]]
        return ends

    def side(self, outward: Array) -> str:
        """Name the side that a direction points to, as seen by someone who enters."""
        facing = -self.inward
        # Anticlockwise from the entry lies the right hand of whoever walks in.
        turn = np.arctan2(facing[0] * outward[1] - facing[1] * outward[0], float(facing @ outward))
        return _SIDES[round(turn / (np.pi / 4)) % 8]

    def hiding_corner(self, rim: Array) -> int | None:
        """The inner corner, by index, that hides most of the outline from a rim; None if none."""
        reach = (rim @ self.outwards.T).max(axis=0)
        hidden = self.offsets - reach
        if hidden.min() >= LEAST_CLEARANCE:
            return None
        edge = int(hidden.argmin())
        ends = (edge, (edge + 1) % len(self.points))
        inner = [i for i in ends if self.turns_right(i)]
        return inner[0] if inner else ends[0]

    def turns_right(self, i: int) -> bool:
        """Whether corner i is an inner one."""
        before, after = self.outwards[i - 1], self.outwards[i]
        return bool(before[0] * after[1] - before[1] * after[0] < -LEVEL)


class NoSurfaceError(ValueError):
    """The falls cannot be worked out; says why, in words for the installer. ``place`` is where on
    plan, and stands in the message as ``{place}``."""

    def __init__(self, code: Code, message: str, place: Point | None = None) -> None:
        super().__init__(message)
        self.code, self.place = code, place


def ring_of(shower: Shower) -> Ring:
    """The shower's outline anticlockwise, whichever way round the document gives it."""
    return ring_of_outline(shower.outline, shower.entries)


@lru_cache(maxsize=64)
def ring_of_outline(outline: tuple[Point, ...], entry_edges: tuple[int, ...]) -> Ring:
    """The same from the parts of the document that it hangs on: it outlives a drain's moves."""
    points = np.array(straight(outline))
    entries = {turned_edge(i, outline) for i in entry_edges}
    if not shapely.is_ccw(shapely.linearrings(points)):
        points = points[::-1]
    ring = Ring(points, frozenset(entries), np.zeros(2))
    lengths = {i: float(np.linalg.norm(np.diff(ring.edge(i), axis=0))) for i in entries}
    widest = max(sorted(lengths), key=lambda i: lengths[i])
    return Ring(points, ring.entries, -ring.outwards[widest])


def turned_edge(i: int, outline: tuple[Point, ...]) -> int:
    """Which edge of the ring an edge of the document's outline is."""
    n = len(outline)
    return i if _anticlockwise(outline) else (n - 2 - i) % n


@lru_cache(maxsize=64)
def _anticlockwise(outline: tuple[Point, ...]) -> bool:
    return bool(shapely.is_ccw(shapely.linearrings(outline)))
