"""Instruments that are read: the interface, and stand-ins for a distance meter, a moisture meter
and a resistance meter."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Protocol

import numpy as np


@dataclass(frozen=True)
class Read:
    """One reading in the instrument's own unit (``mm``, ``%``, ``Ω``), to what it is read (``to``,
    95 of 100 readings lie within it), and whether it is ``simulated``."""

    value: float
    unit: str
    to: float
    simulated: bool


class Instrument(Protocol):
    """Anything that gives a reading. ``near`` is what is expected; a real one does without it."""

    def read(self, near: float) -> Read:
        """Read it."""


class Simulated:
    """Gives what is expected, with the errors of such an instrument: ``spread`` is what 95 of 100
    readings lie within, in its ``unit`` or as a ``share`` of the reading, and it shows whole
    ``steps``. The same seed gives the same sequence of readings."""

    def __init__(self, unit: str, spread: float, step: float, *, share: bool, seed: int) -> None:
        self.unit, self.spread, self.step, self.share = unit, spread, step, share
        self._chance = np.random.default_rng(seed)

    def read(self, near: float) -> Read:
        """Read what is near the expected value."""
        to = self.spread * (abs(near) if self.share else 1.0)
        off = float(self._chance.normal(0, to / 1.96))
        shown = round((near + off) / self.step) * self.step
        return Read(round(shown, 6), self.unit, to, simulated=True)


def simulated() -> dict[str, Instrument]:
    """The stand-ins by name: a laser distance meter (±1.5 mm), a moisture meter (±0.5 points), a
    resistance meter (±0.5 % of the reading)."""
    return {
        "distance": Simulated("mm", 1.5, 0.5, share=False, seed=11),
        "moisture": Simulated("%", 0.5, 0.1, share=False, seed=12),
        "resistance": Simulated("Ω", 0.005, 0.1, share=True, seed=13),
    }
