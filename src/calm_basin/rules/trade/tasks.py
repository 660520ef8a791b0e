"""What the tasks of a job take."""

from __future__ import annotations

from typing import Annotated

from pydantic import BeforeValidator

from calm_basin.plan.days import Who
from calm_basin.rules.trade.record import Record, with_ids
from calm_basin.rules.trade.sourced import Number, Sourced


class Usual(Sourced):
    """A task as it usually is: hands in hours from quick to slow (or ``rate``, square metres an
    hour, from quick to slow), then the hours of the clock that are waited, and for what."""

    id: str
    name: str
    hands: tuple[float, float]
    who: Who = "crew"
    rate: tuple[float, float] | None = None
    wait: float = 0.0
    wait_for: str = ""
    whole: bool = False
    hold: bool = False


class Tasks(Record):
    """The ``tasks`` of the trade by id; the temperature at which cures take as long as is said of
    them, °C, and how many times as long they take for each 10 °C that it is colder."""

    usual_warmth: Number
    slower_per_10_degrees: Number
    tasks: Annotated[dict[str, Usual], BeforeValidator(with_ids)]
