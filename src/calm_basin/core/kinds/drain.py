"""A drain, as the subjects of the trade ask of it."""

from __future__ import annotations

from abc import ABC, abstractmethod
from collections.abc import Mapping
from typing import ClassVar, Literal

import numpy as np
from numpy.typing import NDArray

from calm_basin.plan.base import Point
from calm_basin.plan.shower import LinearDrain, PointDrain

Array = NDArray[np.float64]

PartName = Literal["hole", "body", "flange", "channel"]
"""The parts of a drain under the floor."""


class DrainKind(ABC):
    """A drain in the floor: where it lies on plan, mm, and what it is called."""

    name: ClassVar[str]
    """What it is called."""

    outlet_name: ClassVar[str]
    """What its outlet is called: where the waste leaves."""

    body_name: ClassVar[PartName]
    """The part of it that lies under the floor."""

    family_name: ClassVar[str]
    """What its families are for."""

    proud: ClassVar[bool]
    """Whether the tile finishes a little above its cover."""

    @property
    @abstractmethod
    def outlet(self) -> Array:
        """Where the waste leaves, (2,)."""

    @property
    @abstractmethod
    def middle(self) -> Array:
        """The middle of its cover, (2,)."""

    @property
    @abstractmethod
    def along(self) -> Array:
        """The unit vector along its width, (2,), or along a channel."""

    @property
    @abstractmethod
    def rim(self) -> Array:
        """Corners of its rim, anticlockwise, (4, 2)."""

    @property
    @abstractmethod
    def strips(self) -> float:
        """The fall of strips beside it, rise over run; 0: level as drawn, or none."""

    @property
    @abstractmethod
    def places(self) -> Mapping[str, Point]:
        """The places that the document gives it by, by their field."""

    @abstractmethod
    def footprint(self, width: float, length: float) -> Array:
        """Corners, (4, 2), of a part under the floor about its outlet, so wide and, where it has a
        length of its own, so long."""

    def moved(self, by: Array) -> dict[str, tuple[float, float]]:
        """Its places moved by (x, y), mm."""
        dx, dy = (float(v) for v in by)
        return {field: (x + dx, y + dy) for field, (x, y) in self.places.items()}

    @property
    def point(self) -> PointDrain | None:
        """The point that water falls to; None where it falls to a line."""
        return None

    @property
    def channel(self) -> LinearDrain | None:
        """The channel that water falls to; None where it falls to a point."""
        return None


def box(along: Array, width: float, length: float) -> Array:
    """Corners, (4, 2), anticlockwise, of a rectangle about the origin: ``width`` lies along."""
    across = np.array([-along[1], along[0]]) * length / 2
    way = along * width / 2
    return np.array([-way - across, way - across, way + across, across - way])
