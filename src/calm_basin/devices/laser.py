"""A rotating laser and a staff: the interface, and a stand-in with a hidden floor."""

from __future__ import annotations

import math
from dataclasses import dataclass
from typing import Protocol

import numpy as np


@dataclass(frozen=True)
class StaffShot:
    """One reading: ``reading`` on the staff and the laser plane's height ``instrument``, mm; and
    whether it is ``simulated``."""

    reading: float
    instrument: float
    simulated: bool


class LaserLevel(Protocol):
    """Anything that reads a staff set up at a place of the plan."""

    def read(self, x: float, y: float) -> StaffShot:
        """Read the staff at (x, y), mm."""


class SimulatedLaser:
    """Stands in an invented room whose floor tilts, dips and is read with a little noise.

    The same seed gives the same floor and the same sequence of readings.
    """

    SETUP_HEIGHT = 1240.0
    NOISE = 0.3

    def __init__(self, seed: int = 7) -> None:
        self._chance = np.random.default_rng(seed)
        turn = self._chance.uniform(0, 2 * math.pi)
        self._tilt = 0.004 * np.array([math.cos(turn), math.sin(turn)])
        self._dip = self._chance.uniform((600, 500), (1600, 1300))

    def floor(self, x: float, y: float) -> float:
        """The hidden floor's height at a place, mm."""
        away = math.hypot(x - self._dip[0], y - self._dip[1])
        return float(self._tilt @ (x, y)) - 5.0 * math.exp(-((away / 450.0) ** 2))

    def read(self, x: float, y: float) -> StaffShot:
        """Read the staff to 0.1 mm, with noise of 0.3 mm standard deviation."""
        noise = float(self._chance.normal(0, self.NOISE))
        reading = round(self.SETUP_HEIGHT - self.floor(x, y) + noise, 1)
        return StaffShot(reading=reading, instrument=self.SETUP_HEIGHT, simulated=True)
