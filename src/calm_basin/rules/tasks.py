"""What the tasks of a job take, as data."""

from __future__ import annotations

from functools import cache

from calm_basin.plan.days import Who
from calm_basin.rules.trade import Given, Sourced, table

GIVEN = ("usual_warmth", "slower_per_10_degrees")


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


@cache
def usual_tasks() -> dict[str, Usual]:
    """The tasks of the trade by id."""
    rows = {name: row for name, row in table("days").items() if name not in GIVEN}
    return {name: Usual.model_validate({"id": name, **row}) for name, row in rows.items()}


@cache
def slower() -> Given:
    """How many times as long a cure takes for each 10 °C that it is colder than usual."""
    return Given.model_validate(table("days")["slower_per_10_degrees"])


@cache
def usual_warmth() -> Given:
    """The temperature at which cures take as long as is said of them, °C."""
    return Given.model_validate(table("days")["usual_warmth"])
