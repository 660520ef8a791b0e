"""Inside or outside: the one tolerance by which a place belongs to an outline.

Outlines are taped, rounded and typed, so a corner that was meant to stand on a wall lies a little
off it. Whoever asks whether a place is in a shower, a room or on a floor asks here, so that no two
parts of the program answer differently.
"""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString, Polygon

from calm_basin.plan.base import Point
from calm_basin.tolerances import ON_EDGE, SAME_PLACE


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
    return bool(outline.buffer(ON_EDGE + SAME_PLACE).covers(shape))


@lru_cache(maxsize=256)
def straight(outline: tuple[Point, ...]) -> tuple[Point, ...]:
    """The outline with every corner that is none put onto its line, mm; corners keep their numbers.

    A corner belongs to the line between two others if it lies no farther from it than `ON_EDGE`, as
    one does by which a side was split, taped or typed in two parts.
    """
    points = np.array(outline)
    apart = np.hypot(*(points[:, None] - points[None]).transpose(2, 0, 1))
    first, last = sorted(int(i) for i in np.unravel_index(apart.argmax(), apart.shape))
    count = len(points)
    chains = [list(range(first, last + 1)), [i % count for i in range(last, first + count + 1)]]
    while chains:
        chain = chains.pop()
        if len(chain) < 3:
            continue
        line = LineString(points[[chain[0], chain[-1]]])
        between = shapely.points(points[chain[1:-1]])
        off = shapely.distance(line, between)
        if off.max() <= ON_EDGE:
            on_line = line.interpolate(shapely.line_locate_point(line, between))
            points[chain[1:-1]] = shapely.get_coordinates(on_line)
        else:
            corner = int(off.argmax()) + 1
            chains += [chain[: corner + 1], chain[corner:]]
    return tuple((float(x), float(y)) for x, y in points)
