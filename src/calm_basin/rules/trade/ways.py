"""How long each way to the depth takes."""

from __future__ import annotations

from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Sourced


class Days(Sourced):
    """How long a way to the depth takes."""

    days: str


class WayDays(Record):
    """Every way by its code."""

    ways: dict[str, Days]
