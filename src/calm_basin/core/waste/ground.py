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
    def _boxes(self) -> tuple[Array, Array]:
        """Where each timber begins and ends along the joists and across them, (n, 2) each."""
        reach = [self.bays.to(shapely.get_coordinates(t.outline)) for t, _ in self.timbers]
        low = np.array([one.min(axis=0) for one in reach]).reshape(-1, 2)
        return low, np.array([one.max(axis=0) for one in reach]).reshape(-1, 2)

    @cached_property
    def _fills(self) -> list[bool]:
        """Whether each timber fills what it reaches over."""
        low, high = self._boxes
        sizes = (high - low).prod(axis=1).tolist()
        return [
            abs(size - timber.outline.area) < 1.0
            for size, (timber, _) in zip(sizes, self.timbers, strict=True)
        ]

    def crossings(self, start: Array, end: Array) -> list[Crossing]:
        """The timbers that a stretch of pipe between two places on plan passes, in order."""
        return self.passed(*self.bays.to(np.array([start, end]))[:, None]).get(0, [])

    def passed(self, starts: Array, ends: Array) -> dict[int, list[Crossing]]:
        """The same for many stretches between places in the floor's own directions, (n, 2) each, by
        their number; those that pass nothing are left out."""
        first, last = self._boxes
        low, high = np.minimum(starts, ends)[:, None], np.maximum(starts, ends)[:, None]
        near = np.minimum(high - first, last - low).min(axis=2) > SAME_PLACE
        found: dict[int, list[Crossing]] = {}
        for k, which in np.argwhere(near).tolist():
            start, end = starts[k].tolist(), ends[k].tolist()
            length = hypot(end[0] - start[0], end[1] - start[1])
            inside = self._inside(which, start, end) if length else None
            if inside is None or (inside[1] - inside[0]) * length < SAME_PLACE:
                continue
            middle = (inside[0] + inside[1]) / 2
            along = start[0] + (end[0] - start[0]) * middle
            crossing = Crossing(*self.timbers[which], middle * length, along)
            found.setdefault(k, []).append(crossing)
        return {k: sorted(those, key=lambda one: one.distance) for k, those in found.items()}

    def _inside(
        self, which: int, start: list[float], end: list[float]
    ) -> tuple[float, float] | None:
        """From which to which share of a stretch lies in a timber."""
        if self._fills[which]:
            low, high = (bounds[which].tolist() for bounds in self._boxes)
            return _clipped(start, end, list(zip(low, high, strict=True)))
        ends = self.bays.back(np.array([start, end]))
        cut = shapely.get_coordinates(self.timbers[which][0].outline.intersection(LineString(ends)))
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
    start: list[float], end: list[float], sides: list[tuple[float, float]]
) -> tuple[float, float] | None:
    """From which to which share of a stretch lies in a rectangle between such bounds along the
    joists and across them; None: it does not."""
    first, last = 0.0, 1.0
    for p, q, (low, high) in zip(start, end, sides, strict=True):
        if abs(q - p) < 1e-12:
            if not low < p < high:
                return None
            continue
        shares = sorted(((low - p) / (q - p), (high - p) / (q - p)))
        first, last = max(first, shares[0]), min(last, shares[1])
    return (first, last) if last > first else None
