"""A point drain."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from math import cos, radians, sin

import numpy as np

from calm_basin.core.kinds.drain import Array, DrainKind, box
from calm_basin.plan.base import Point
from calm_basin.plan.shower import PointDrain


@dataclass(frozen=True)
class AtPoint(DrainKind):
    """A rectangular rim about a centre."""

    drain: PointDrain

    name = "drain"
    outlet_name = "centre"
    body_name = "body"
    family_name = "point drain"
    proud = False

    @property
    def outlet(self) -> Array:
        return np.array(self.drain.centre)

    @property
    def middle(self) -> Array:
        return np.array(self.drain.centre)

    @property
    def along(self) -> Array:
        angle = radians(self.drain.orientation)
        return np.array([cos(angle), sin(angle)])

    @property
    def rim(self) -> Array:
        corners: Array = np.array(self.drain.centre) + box(
            self.along, self.drain.width, self.drain.length
        )
        return corners

    @property
    def strips(self) -> float:
        return 0.0

    @property
    def places(self) -> Mapping[str, Point]:
        return {"centre": self.drain.centre}

    def footprint(self, width: float, length: float) -> Array:
        return box(self.along, width, length or width)

    @property
    def point(self) -> PointDrain:
        return self.drain
