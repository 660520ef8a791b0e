"""Thresholds that stay level on a floor that falls everywhere: doors, and entries of even floors.

The floor is raised to planes that hold the threshold's line and fall away from it until they meet
the floor as it was. They are nowhere above the threshold, so that no other part of the floor is
lifted over it.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon
from shapely.ops import nearest_points

from calm_basin.core.falls.even import plane_from
from calm_basin.core.falls.ring import LEAST_CLEARANCE
from calm_basin.core.geometry.surface import Array, Coefficients
from calm_basin.tolerances import ON_EDGE

STEEPER = (1.0, 2.0, 4.0, 8.0)
"""How many times as steep as asked the floor before a threshold may fall, the gentlest first."""


@dataclass(frozen=True)
class Sink:
    """What a floor falls to: a convex shape, (n, 2), and its depth below the threshold, mm."""

    shape: Array
    depth: float


@dataclass(frozen=True)
class Threshold:
    """A line, (2, 2), that stays at 0; ``outward`` is the unit vector out of the floor there."""

    edge: Array
    outward: Array

    @classmethod
    def with_floor_left(cls, edge: Array) -> Threshold:
        """The threshold of an edge that has the floor on its left hand."""
        along = (edge[1] - edge[0]) / np.linalg.norm(edge[1] - edge[0])
        return cls(edge, np.array([along[1], -along[0]]))

    def touches(self, shape: Array) -> bool:
        """Whether a convex shape, (n, 2), lies at the threshold itself."""
        apart = float(LineString(self.edge).distance(Polygon(shape)))
        return apart < LEAST_CLEARANCE

    def faces(self, shape: Array) -> bool:
        """Whether the whole of a shape lies before the threshold's line."""
        run = float(self.edge[0] @ self.outward - (shape @ self.outward).max())
        return run >= LEAST_CLEARANCE

    def ways_down(self, sink: Sink, asked: float, floor: Polygon) -> list[tuple[Coefficients, ...]]:
        """Planes of which the lowest holds the threshold at 0 and has fallen to the sink's depth
        over all of it; several choices, the plainest first."""
        hips = self._hips(floor, asked)
        found: list[tuple[Coefficients, ...]] = []
        if self.faces(sink.shape):
            run = float(self.edge[0] @ self.outward - (sink.shape @ self.outward).max())
            found.append((plane_from(self.edge, self.outward, 0.0, sink.depth / run), *hips))
        # Beside the sink: straight down from the threshold as asked, and aside to the sink.
        here, there = nearest_points(LineString(self.edge), Polygon(sink.shape))
        foot, end = shapely.get_coordinates([here, there])
        gap = float(np.hypot(*(foot - end)))
        if gap >= LEAST_CLEARANCE:
            aside = plane_from(foot[None], (foot - end) / gap, 0.0, sink.depth / gap)
            found += [
                (plane_from(self.edge, self.outward, 0.0, asked * times), aside, *hips)
                for times in STEEPER
            ]
        return found

    def _hips(self, floor: Polygon, asked: float) -> list[Coefficients]:
        """Planes that fall along the wall from those ends of the threshold beyond which there is
        floor behind its line."""
        corners = shapely.get_coordinates(floor)
        behind = corners[(corners - self.edge[0]) @ self.outward > ON_EDGE]
        along = (self.edge[1] - self.edge[0]) / np.linalg.norm(self.edge[1] - self.edge[0])
        found = []
        for end, away in ((self.edge[0], -along), (self.edge[1], along)):
            if len(behind) and ((behind - end) @ away).max() > -ON_EDGE:
                found.append(plane_from(end[None], -away, 0.0, asked))
        return found


def steepest(planes: tuple[Coefficients, ...]) -> float:
    """Gradient of the steepest of planes, rise over run."""
    return max(float(np.hypot(plane[0], plane[1])) for plane in planes)
