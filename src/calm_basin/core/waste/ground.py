"""What the waste's run goes through: timbers that it passes, and where it may not lie."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from math import hypot

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.geometry.surface import Array
from calm_basin.core.structure.joists import Bays, Timber
from calm_basin.core.structure.passing import Passing
from calm_basin.tolerances import SAME_PLACE


@dataclass(frozen=True)
class Crossing:
    """Where a stretch of pipe passes a timber: how far along the stretch, where along the joists,
    and how it may pass."""

    timber: Timber
    passing: Passing
    distance: float
    along: float


@dataclass(frozen=True, eq=False)
class UnderFloor:
    """What a run goes through: timbers with how each may be passed, in the floor's own directions.
    ``fall`` is the pipe's; where it is ``kept_clear``, no run lies, nor lengthwise in a timber or
    nearer to one than ``beside``."""

    bays: Bays
    timbers: tuple[tuple[Timber, Passing], ...]
    fall: float
    kept_clear: tuple[Polygon, ...] = ()
    beside: float = 0.0

    @cached_property
    def _boxes(self) -> list[tuple[float, float, float, float, bool]]:
        """Each timber's reach along the joists and across them, and whether it fills that."""
        found = []
        for timber, _ in self.timbers:
            reach = self.bays.to(shapely.get_coordinates(timber.outline))
            (u0, v0), (u1, v1) = reach.min(axis=0), reach.max(axis=0)
            fills = abs((u1 - u0) * (v1 - v0) - timber.outline.area) < 1.0
            found.append((float(u0), float(u1), float(v0), float(v1), fills))
        return found

    def crossings(self, start: Array, end: Array) -> list[Crossing]:
        """The timbers that a stretch of pipe between two places on plan passes, in order."""
        (u0, v0), (u1, v1) = self.bays.to(np.array([start, end]))
        return self.between((float(u0), float(v0)), (float(u1), float(v1)))

    def between(self, start: tuple[float, float], end: tuple[float, float]) -> list[Crossing]:
        """The same for places in the floor's own directions."""
        length = hypot(end[0] - start[0], end[1] - start[1])
        if length == 0:
            return []
        low = [min(pair) for pair in zip(start, end, strict=True)]
        high = [max(pair) for pair in zip(start, end, strict=True)]
        found = []
        for (timber, passing), (u0, u1, v0, v1, fills) in zip(
            self.timbers, self._boxes, strict=True
        ):
            if min(high[0] - u0, u1 - low[0], high[1] - v0, v1 - low[1]) <= SAME_PLACE:
                continue
            inside = (
                _clipped(start, end, (u0, u1), (v0, v1))
                if fills
                else self._inside(timber, start, end)
            )
            if inside is None or (inside[1] - inside[0]) * length < SAME_PLACE:
                continue
            middle = (inside[0] + inside[1]) / 2
            along = start[0] + (end[0] - start[0]) * middle
            found.append(Crossing(timber, passing, middle * length, along))
        return sorted(found, key=lambda crossing: crossing.distance)

    def _inside(
        self, timber: Timber, start: tuple[float, float], end: tuple[float, float]
    ) -> tuple[float, float] | None:
        """From which to which share of a stretch lies in a timber that stands at an angle."""
        ends = self.bays.back(np.array([start, end]))
        cut = shapely.get_coordinates(timber.outline.intersection(LineString(ends)))
        if len(cut) < 2:
            return None
        way = ends[1] - ends[0]
        shares = (cut - ends[0]) @ way / (way @ way)
        return float(shares.min()), float(shares.max())

    def start_for(self, crossings: list[Crossing], length: float, end: float) -> float | None:
        """The lowest level at which a stretch of pipe may start to end at ``end`` or higher; None:
        no level will do."""
        level, left = end, length
        for crossing in reversed(crossings):
            here = crossing.passing.needed(
                level + self.fall * (left - crossing.distance), crossing.along
            )
            if here is None:
                return None
            level, left = here, crossing.distance
        return level + self.fall * left


def _clipped(
    start: tuple[float, float],
    end: tuple[float, float],
    along: tuple[float, float],
    across: tuple[float, float],
) -> tuple[float, float] | None:
    """From which to which share of a stretch lies in a rectangle; None: it does not."""
    first, last = 0.0, 1.0
    for p, q, (low, high) in zip(start, end, (along, across), strict=True):
        if abs(q - p) < 1e-12:
            if not low < p < high:
                return None
            continue
        shares = sorted(((low - p) / (q - p), (high - p) / (q - p)))
        first, last = max(first, shares[0]), min(last, shares[1])
    return (first, last) if last > first else None
