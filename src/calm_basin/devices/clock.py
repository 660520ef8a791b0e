"""The time of the site: the machine's own clock, and a stand-in that runs faster, for waits."""

from __future__ import annotations

import time
from datetime import datetime, timedelta
from typing import Protocol


class Clock(Protocol):
    """Anything that tells the time of the site; ``speed`` is how many seconds it tells a second."""

    speed: float

    def now(self) -> datetime:
        """The moment, of no time zone."""


class SystemClock:
    """This machine's clock."""

    speed = 1.0

    def now(self) -> datetime:
        """The moment as the machine has it."""
        return datetime.now()


class SimulatedClock:
    """A clock that starts at a moment and runs ``speed`` times as fast."""

    def __init__(self, start: datetime, speed: float) -> None:
        self.speed = speed
        self._start, self._since = start, time.monotonic()

    def now(self) -> datetime:
        """The moment that it has come to."""
        return self._start + timedelta(seconds=(time.monotonic() - self._since) * self.speed)
