"""A linear drain."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import hypot

import numpy as np

from calm_basin.core.kinds.drain import Array, DrainKind
from calm_basin.plan.base import Point
from calm_basin.plan.shower import LinearDrain


@dataclass(frozen=True)
class AlongLine(DrainKind):
    """A channel between two ends, with its outlet somewhere along it."""

    drain: LinearDrain

    name = "channel"
    outlet_name = "outlet"
    body_name = "channel"
    family_name = "channel"
    proud = True

    @property
    def outlet(self) -> Array:
        return np.array(self.drain.outlet_at)

    @property
    def middle(self) -> Array:
        middle: Array = np.add(self.drain.start, self.drain.end) / 2
        return middle

    @property
    def along(self) -> Array:
        way = np.subtract(self.drain.end, self.drain.start)
        along: Array = way / hypot(*way)
        return along

    @property
    def rim(self) -> Array:
        return self._wide(np.zeros(2), self.drain.width)

    @property
    def strips(self) -> float:
        return self.drain.strips or 0.0

    @property
    def places(self) -> Mapping[str, Point]:
        return {"start": self.drain.start, "end": self.drain.end}

    def footprint(self, width: float, length: float) -> Array:
        # A trough is as long as its channel.
        return self._wide(self.outlet, width)

    def _wide(self, origin: Array, width: float) -> Array:
        start, end = np.array(self.drain.start) - origin, np.array(self.drain.end) - origin
        across = np.array([-self.along[1], self.along[0]]) * width / 2
        return np.array([start - across, end - across, end + across, start + across])

    @property
    def channel(self) -> LinearDrain:
        return self.drain
