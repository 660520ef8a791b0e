"""What the tests on site are held against, as data."""

from __future__ import annotations

from functools import cache

from calm_basin.rules.ruleset import millimetres
from calm_basin.rules.trade import Sourced, table


class Held(Sourced):
    """A value that a test is held against: a length (``given``), or an ``amount`` of what its name
    says."""

    given: str = ""
    amount: float = 0.0

    @property
    def value(self) -> float:
        """Millimetres, or the amount."""
        return millimetres(self.given) if self.given else self.amount


@cache
def held(name: str) -> Held:
    """A value by its name."""
    return Held.model_validate(table("tests")[name])
