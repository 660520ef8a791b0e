"""Where a fixture stands and which way it looks: its back is at the nearest wall."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from math import cos, radians, sin
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import affinity
from shapely.geometry import LinearRing, Point, Polygon

from calm_basin.plan.base import Point as Place
from calm_basin.plan.room import Fixture


class Side(NamedTuple):
    """A side of an outline: where it starts, its unit vectors along and inwards, its length, mm."""

    start: NDArray[np.float64]
    along: NDArray[np.float64]
    inward: NDArray[np.float64]
    length: float

    @classmethod
    def of(cls, outline: Sequence[Sequence[float]], number: int) -> Side:
        corners = np.array(outline, dtype=float)
        start, end = corners[number], corners[(number + 1) % len(corners)]
        length = float(np.hypot(*(end - start)))
        along = (end - start) / length
        left = 1.0 if LinearRing(corners).is_ccw else -1.0
        return cls(start, along, np.array([-along[1], along[0]]) * left, length)


def footprint(fixture: Fixture) -> Polygon:
    """The rectangle that a fixture takes on plan."""
    return _rectangle(fixture.centre, fixture.width, fixture.length, fixture.turn)


@lru_cache(maxsize=1024)
def _rectangle(centre: Place, width: float, length: float, turn: float) -> Polygon:
    (x, y), half, deep = centre, width / 2, length / 2
    return affinity.rotate(shapely.box(x - half, y - deep, x + half, y + deep), turn, origin=(x, y))


def turned_to_wall(
    outline: Sequence[Sequence[float]],
    centre: Sequence[float],
    size: tuple[float, float],
    turn: float,
) -> tuple[float, float, float]:
    """Width, length (mm) and turn (degrees) of the same rectangle with its back at a wall.

    Of its four sides the one that lies nearest to a wall becomes the back; where the turn as it
    stands is as good as another it stays.
    """
    walls = LinearRing([tuple(map(float, corner)) for corner in outline])
    shapely.prepare(walls)

    def apart(quarters: int) -> float:
        deep = size[1 - quarters % 2] / 2
        angle = radians(turn + 90 * quarters)
        back = Point(centre[0] + deep * sin(angle), centre[1] - deep * cos(angle))
        return round(float(back.distance(walls)), 3)

    quarters = min(range(4), key=lambda q: (apart(q), q))
    width, length = size if quarters % 2 == 0 else (size[1], size[0])
    facing = (turn + 90 * quarters) % 360
    return float(width), float(length), facing - 360 if facing > 180 else facing
