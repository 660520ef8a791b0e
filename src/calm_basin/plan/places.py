"""Inside or outside: the one tolerance by which a place belongs to an outline.

Outlines are taped, rounded and typed, so a corner that was meant to stand on a wall lies a little
off it. Whoever asks whether a place is in a shower, a room or on a floor asks here, so that no two
parts of the program answer differently.
"""

from __future__ import annotations

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

ON_EDGE = 0.5
"""A place that lies outside by no more than this, mm, lies on the edge and belongs inside."""

_ROUNDING = 1e-3
"""What shapes that were worked out may be off by, mm."""


def beyond(outline: shapely.Geometry, points: NDArray[np.float64]) -> NDArray[np.float64]:
    """How far points, (n, 2), lie outside an outline, mm, shape (n,); 0 for those that belong."""
    apart = shapely.distance(outline, shapely.points(points))
    return np.where(apart > ON_EDGE, apart, 0.0)


def belong(outline: shapely.Geometry, points: NDArray[np.float64]) -> NDArray[np.bool_]:
    """Which points, (n, 2), belong to an outline: inside it or on its edge."""
    inside: NDArray[np.bool_] = beyond(outline, points) == 0
    return inside


def holds(outline: Polygon, shape: shapely.Geometry) -> bool:
    """Whether a whole shape belongs to an outline."""
    return bool(outline.buffer(ON_EDGE + _ROUNDING).covers(shape))
