"""The finished floor of a shower as one surface of planes.

Every arrangement of falls ends in a `Surface`; levels, contours, folds and spot levels are read off
it and nowhere else. Heights here are relative to the entry level (0), up positive.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import combinations

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

Array = NDArray[np.float64]

SAME_PLACE = 1e-3
"""Places on plan that lie nearer to each other, in mm, are one: rounded documents differ so."""


@dataclass(frozen=True)
class Facet:
    """One plane of the floor: ``z = plane[0] x + plane[1] y + plane[2]`` over ``polygon``.

    ``run`` is the length, in mm, over which the plane falls from its high edge to the drain.
    """

    name: str
    polygon: Polygon
    plane: tuple[float, float, float]
    run: float

    @property
    def gradient(self) -> float:
        """Steepest fall of the plane, rise over run."""
        return float(np.hypot(self.plane[0], self.plane[1]))

    @property
    def downhill(self) -> tuple[float, float]:
        """Unit vector on plan in which water runs; (0, 0) on a level plane."""
        steepness = self.gradient
        if steepness < 1e-12:
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

    @property
    def gradient(self) -> float:
        """Fall along the fold itself, rise over run."""
        run = np.hypot(self.end[0] - self.start[0], self.end[1] - self.start[1])
        return float(abs(self.end[2] - self.start[2]) / run)


@dataclass(frozen=True)
class Surface:
    """A finished floor: its planes, the drain's rim and how deep that lies below the entry."""

    outline: Polygon
    rim: Polygon
    facets: tuple[Facet, ...]
    drop: float

    def heights(self, points: Array) -> Array:
        """Heights at points of shape (n, 2); NaN outside the shower, the rim's level inside it."""
        result = np.full(len(points), np.nan)
        places = shapely.points(points)
        for facet in self.facets:
            near = np.isnan(result) & (shapely.distance(facet.polygon, places) < SAME_PLACE)
            result[near] = facet.heights(points[near])
        result[np.isnan(result) & (shapely.distance(self.rim, places) < SAME_PLACE)] = -self.drop
        return result

    @cached_property
    def folds(self) -> tuple[Fold, ...]:
        """Lines in which planes meet at an angle, uphill end first."""
        corners = np.vstack([facet.corners[:, :2] for facet in self.facets])
        shapes = np.array([facet.polygon for facet in self.facets])
        touches = shapely.distance(shapes[:, None], shapely.points(corners)[None]) < SAME_PLACE
        found = []
        for i, j in combinations(range(len(shapes)), 2):
            first, second = self.facets[i], self.facets[j]
            shared = corners[touches[i] & touches[j]]
            apart = max(abs(p - q) for p, q in zip(first.plane[:2], second.plane[:2], strict=True))
            if apart < 1e-9 or len(shared) < 2:
                continue
            ends = _longest_chord(shared)
            if np.hypot(*(ends[1] - ends[0])) < 1:
                continue
            levels = first.heights(ends)
            high, low = (0, 1) if levels[0] >= levels[1] else (1, 0)
            found.append(Fold((*ends[high], levels[high]), (*ends[low], levels[low])))
        return tuple(found)

    def scaled(self, factor: float) -> Surface:
        """The same floor with every height times ``factor``."""
        facets = []
        for facet in self.facets:
            a, b, c = facet.plane
            plane = (factor * a, factor * b, factor * c)
            facets.append(Facet(facet.name, facet.polygon, plane, facet.run))
        return Surface(self.outline, self.rim, tuple(facets), factor * self.drop)

    @property
    def lowest(self) -> float:
        """Lowest height of the floor."""
        return -self.drop

    @cached_property
    def highest(self) -> float:
        """Highest height of the floor."""
        return max(float(facet.corners[:, 2].max()) for facet in self.facets)

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
        return [shapely.get_coordinates(line) for line in getattr(joined, "geoms", [joined])]

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


def _longest_chord(points: Array) -> Array:
    """The two of the points, shape (n, 2), that lie farthest apart."""
    apart = np.linalg.norm(points[:, None, :] - points[None, :, :], axis=2)
    first, second = np.unravel_index(apart.argmax(), apart.shape)
    chord: Array = points[[int(first), int(second)]]
    return chord
