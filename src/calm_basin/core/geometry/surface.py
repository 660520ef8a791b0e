"""The finished floor as one surface of planes.

Every arrangement of falls ends in a `Surface`; levels, contours, folds, spot levels, pins and the
water's way are read off it and nowhere else. Heights here are relative to the level that the floor
starts from (0: the shower's edge, or the doors of a wet room in two zones), up positive.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from math import atan2, hypot, radians
from typing import Literal

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import MultiPolygon, Polygon

from calm_basin.plan.places import belong
from calm_basin.tolerances import LEVEL, ON_EDGE, SAME_PLACE

Array = NDArray[np.float64]

Zone = Literal["shower", "rest"]

Coefficients = tuple[float, float, float]

XYZ = tuple[float, float, float]

LEAST_TURN = radians(0.05)
"""Planes that meet at a flatter angle, radians, are one to the eye, the tile and the print."""

RIM, OUTSIDE = -1, -2
"""Places that lie in a drain's rim, and places that lie on no floor at all."""


def xy(place: Array) -> tuple[float, float]:
    """A place, (2,), as it is sent."""
    return (float(place[0]), float(place[1]))


@dataclass(frozen=True)
class Facet:
    """One plane of the floor: ``z = plane[0] x + plane[1] y + plane[2]`` over ``polygon``.

    ``curved`` planes are narrow and stand together for a surface that is round; they share a name.
    A ``strip`` lies beyond a channel's end and has a fall of its own. Of what is bought its maker
    may have ``stated`` the flattest and the steepest fall.
    """

    name: str
    polygon: Polygon
    plane: tuple[float, float, float]
    zone: Zone = "shower"
    curved: bool = False
    strip: bool = False
    stated: tuple[float, float] | None = None

    @property
    def flattest(self) -> float:
        """The fall that a least is held against, rise over run."""
        return self.stated[0] if self.stated else self.gradient

    @property
    def steepest(self) -> float:
        """The fall that a most is held against, rise over run."""
        return self.stated[1] if self.stated else self.gradient

    @property
    def gradient(self) -> float:
        """Steepest fall of the plane, rise over run."""
        return hypot(self.plane[0], self.plane[1])

    @property
    def level(self) -> bool:
        """Whether the plane is not meant to fall."""
        return self.gradient < LEVEL

    @cached_property
    def run(self) -> float:
        """Length, in mm, over which the plane falls from its highest to its lowest place."""
        if self.level:
            return 0.0
        heights = self.corners[:, 2]
        return float(heights.max() - heights.min()) / self.gradient

    def at(self, x: float, y: float) -> float:
        """Height of the plane at a place (x, y), mm, from the surface's 0."""
        return self.plane[0] * x + self.plane[1] * y + self.plane[2]

    @property
    def downhill(self) -> tuple[float, float]:
        """Unit vector on plan in which water runs; (0, 0) on a level plane."""
        steepness = self.gradient
        if self.level:
            return (0.0, 0.0)
        return (-self.plane[0] / steepness, -self.plane[1] / steepness)

    def heights(self, points: Array) -> Array:
        """Heights of the plane at points of shape (n, 2)."""
        a, b, c = self.plane
        heights: Array = points[:, 0] * a + points[:, 1] * b + c
        return heights

    @cached_property
    def corners(self) -> Array:
        """The polygon's corners with their heights, shape (n, 3), each once."""
        outline = shapely.get_coordinates(self.polygon.exterior)[:-1]
        return np.column_stack([outline, self.heights(outline)])

    @cached_property
    def corner_list(self) -> list[tuple[float, float, float]]:
        """The corners as plain numbers."""
        return [(float(x), float(y), float(z)) for x, y, z in self.corners]


@dataclass(frozen=True)
class Fold:
    """A line along which two planes meet at an angle."""

    start: tuple[float, float, float]
    end: tuple[float, float, float]
    angle: float = 0.0
    """By how much the floor turns there, in radians: 0 would be one plane."""

    valley: bool = True
    """Whether the fold gathers water; else it is a ridge that parts it."""

    @property
    def length(self) -> float:
        """Length on plan, mm."""
        return hypot(self.end[0] - self.start[0], self.end[1] - self.start[1])

    @property
    def gradient(self) -> float:
        """Fall along the fold itself, rise over run."""
        return abs(self.end[2] - self.start[2]) / self.length


@dataclass(frozen=True)
class Surface:
    """A finished floor: its planes over ``outline``, the rims of its drains at ``-drop``, and the
    height of the shower's ``edge`` (0, but for a zone that lies lower than the doors). ``extended``
    is how far the entry lies over the tray's own edge, by an extension that rises."""

    outline: Polygon
    rims: tuple[Polygon, ...]
    facets: tuple[Facet, ...]
    drop: float
    edge: float = 0.0
    extended: float = 0.0

    @cached_property
    def rim(self) -> shapely.Geometry:
        """The rims of all drains as one shape."""
        return self.rims[0] if len(self.rims) == 1 else MultiPolygon(self.rims)

    def zone(self, zone: Zone) -> tuple[Facet, ...]:
        """The planes of one zone."""
        return tuple(facet for facet in self.facets if facet.zone == zone)

    def located(self, points: Array, zone: Zone | None = None) -> NDArray[np.intp]:
        """Which plane each of the points, (n, 2), lies on: its index, `RIM` or `OUTSIDE`.

        Where planes meet the first is named, the shower's before the rest's. A place that is on no
        plane but belongs to the floor's edge is on the nearest one. With ``zone`` only that zone's
        planes count.
        """
        found = np.full(len(points), OUTSIDE)
        if not len(points):
            return found
        places = shapely.points(points)
        indices = [i for i, f in enumerate(self.facets) if zone is None or f.zone == zone]
        if indices:
            shapes = np.array([self.facets[i].polygon for i in indices])
            near = shapely.dwithin(shapes[:, None], places[None], SAME_PLACE)
            found = np.where(near.any(axis=0), np.array(indices)[near.argmax(axis=0)], OUTSIDE)
        lost = found == OUTSIDE
        if zone != "rest" and lost.any():
            found[lost & belong(self.rim, points)] = RIM
            lost = found == OUTSIDE
        if indices and lost.any():
            apart = shapely.distance(shapes[:, None], places[None, lost])
            nearest = np.array(indices)[apart.argmin(axis=0)]
            found[lost] = np.where(apart.min(axis=0) <= ON_EDGE, nearest, OUTSIDE)
        return found

    def heights(self, points: Array, zone: Zone | None = None) -> Array:
        """Heights at points of shape (n, 2), mm; NaN outside the floor, the rim's level inside it.

        Where two zones meet in a step, the ``zone`` that is asked for gives its own height.
        """
        found = self.located(points, zone)
        planes = np.array([*(facet.plane for facet in self.facets), (0.0, 0.0, -self.drop)])
        # Both marks point at the last row: the rim's level.
        a, b, c = planes[np.where(found < 0, -1, found)].T
        heights = a * points[:, 0] + b * points[:, 1] + c if len(points) else np.empty(0)
        return np.where(found == OUTSIDE, np.nan, heights)

    def in_shower(self, points: Array) -> NDArray[np.bool_]:
        """Which of the points, (n, 2), lie in the shower or its drains rather than in the rest."""
        found = self.located(points)
        shower = np.array([*(facet.zone == "shower" for facet in self.facets), False, True])
        inside: NDArray[np.bool_] = shower[found]
        return inside

    @cached_property
    def folds(self) -> tuple[Fold, ...]:
        """Lines in which planes meet at an angle, uphill end first."""
        corners = np.vstack([facet.corners[:, :2] for facet in self.facets])
        shapes = np.array([facet.polygon for facet in self.facets])
        near = shapely.STRtree(shapes).query(
            shapely.points(corners), predicate="dwithin", distance=SAME_PLACE
        )
        touches = np.zeros((len(shapes), len(corners)), dtype=np.intp)
        touches[near[1], near[0]] = 1
        found = []
        for i, j in np.argwhere(np.triu(touches @ touches.T >= 2, 1)):
            first, second = self.facets[i], self.facets[j]
            if first.curved and second.curved:
                continue
            shared = corners[(touches[i] & touches[j]) > 0]
            angle, valley = _turn(first, second)
            if angle < LEAST_TURN:
                continue
            ends = _longest_chord(shared)
            if np.hypot(*(ends[1] - ends[0])) < 1:
                continue
            levels = first.heights(ends)
            if np.abs(levels - second.heights(ends)).max() > 0.01:
                continue  # a step, such as a set-down, and no fold
            high, low = (0, 1) if levels[0] >= levels[1] else (1, 0)
            start, end = (
                (float(ends[i][0]), float(ends[i][1]), float(levels[i])) for i in (high, low)
            )
            found.append(Fold(start, end, angle, valley))
        return tuple(found)

    def scaled(self, factor: float) -> Surface:
        """The same floor with every height times ``factor``."""
        facets = []
        for facet in self.facets:
            a, b, c = facet.plane
            facets.append(replace(facet, plane=(factor * a, factor * b, factor * c)))
        return replace(self, facets=tuple(facets), drop=factor * self.drop, edge=factor * self.edge)

    def lowered(self, depth: float) -> Surface:
        """The same floor ``depth`` mm lower."""
        facets = tuple(
            replace(facet, plane=(*facet.plane[:2], facet.plane[2] - depth))
            for facet in self.facets
        )
        return replace(self, facets=facets, drop=self.drop + depth, edge=self.edge - depth)

    @property
    def lowest(self) -> float:
        """Lowest height of the floor, mm from its 0."""
        return -self.drop

    @cached_property
    def highest(self) -> float:
        """Highest height of the floor, mm from its 0."""
        return max(float(facet.corners[:, 2].max()) for facet in self.facets)

    def held(self, level: float, zone: Zone | None = None) -> float:
        """Litres that stand on the floor, or on one zone with its drains, up to a level.

        Exact: under a level each plane holds the area under water times the depth at its centroid.
        """
        volume = 0.0
        for facet in self.facets if zone is None else self.zone(zone):
            under = _below(facet.corner_list, level)
            if len(under) > 2:
                area, depth = _prism(under, level)
                volume += area * depth
        if zone != "rest":
            volume += float(self.rim.area) * max(level + self.drop, 0.0)
        return volume / 1e6

    def contour(self, height: float) -> list[Array]:
        """Lines of one height, exact from the planes, each of shape (n, 2)."""
        # Planes have a few corners each: plain floats are quicker here than small arrays.
        pieces = []
        for facet in self.facets:
            along = (-facet.plane[1], facet.plane[0])
            crossings = []
            corners = facet.corner_list
            for (x, y, z), (u, v, w) in zip(corners, corners[1:] + corners[:1], strict=True):
                if (z < height) != (w < height):
                    share = (z - height) / (z - w)
                    place = (round(x + share * (u - x), 6), round(y + share * (v - y), 6))
                    crossings.append((place[0] * along[0] + place[1] * along[1], place))
            # A plane's outline may be crossed more than twice where the shower is not convex.
            crossings.sort()
            for (_, start), (_, end) in zip(crossings[::2], crossings[1::2], strict=False):
                if start != end:
                    pieces.append((start, end))
        if not pieces:
            return []
        joined = shapely.line_merge(shapely.multilinestrings(shapely.linestrings(pieces)))
        return [shapely.get_coordinates(line) for line in shapely.get_parts(joined)]

    def grid(self, spacing: float, clear: float) -> Array:
        """Points of a regular grid centred on the outline's box, shape (n, 2).

        They keep ``clear`` mm from the outline and the rim, so that their figures can be read.
        """
        left, bottom, right, top = self.outline.bounds
        axes = []
        for low, high in ((left, right), (bottom, top)):
            count = max(int((high - low) // spacing), 1)
            first = (low + high) / 2 - (count - 1) * spacing / 2
            axes.append(first + spacing * np.arange(count))
        points = np.array([(x, y) for y in axes[1] for x in axes[0]], dtype=float)
        places = shapely.points(points)
        inside = shapely.contains(self.outline, places)
        roomy = (shapely.distance(self.outline.exterior, places) >= clear) & (
            shapely.distance(self.rim, places) >= clear
        )
        kept: Array = points[inside & roomy]
        return kept


def _below(corners: list[tuple[float, float, float]], level: float) -> list[XYZ]:
    """The part of a plane's outline that lies below a level."""
    kept: list[XYZ] = []
    for (x, y, z), (u, v, w) in zip(corners, corners[1:] + corners[:1], strict=True):
        if z < level:
            kept.append((x, y, z))
        if (z < level) != (w < level):
            share = (z - level) / (z - w)
            kept.append((x + share * (u - x), y + share * (v - y), level))
    return kept


def _prism(corners: list[XYZ], level: float) -> tuple[float, float]:
    """Area of an outline on plan and the mean depth of its plane below a level."""
    x, y, z = np.array(corners).T
    x, y = x - x[0], y - y[0]
    cross = x * np.roll(y, -1) - np.roll(x, -1) * y
    twice = float(cross.sum())
    if abs(twice) < 1e-9:
        return 0.0, 0.0
    # The mean over a fan of triangles is the height at the centroid.
    mean = float((cross * (z + np.roll(z, -1) + z[0])).sum()) / 3 / twice
    return abs(twice) / 2, level - mean


def _turn(first: Facet, second: Facet) -> tuple[float, bool]:
    """Angle between two planes, in radians, and whether they meet in a valley."""
    (a, b, _), (c, d, _) = first.plane, second.plane
    cross = hypot(b - d, c - a, a * d - b * c)
    angle = atan2(cross, a * c + b * d + 1)
    place = first.polygon.representative_point()
    return angle, first.at(place.x, place.y) >= second.at(place.x, place.y)


def _longest_chord(points: Array) -> Array:
    """The two of the points, shape (n, 2), that lie farthest apart."""
    apart = np.linalg.norm(points[:, None, :] - points[None, :, :], axis=2)
    first, second = np.unravel_index(apart.argmax(), apart.shape)
    chord: Array = points[[int(first), int(second)]]
    return chord
