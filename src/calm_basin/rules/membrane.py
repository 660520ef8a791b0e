"""What a membrane takes: laps, upstand, how far it goes, how much of it."""

from __future__ import annotations

from functools import cache
from typing import Literal

from calm_basin.rules.trade import Practice, Sourced, table


class Coverage(Sourced):
    """How much a square metre takes."""

    amount: float


@cache
def membrane_length(name: Literal["band", "into_room", "lap", "upstand"]) -> Practice:
    """A length that a membrane keeps to."""
    return Practice.model_validate(table("membrane")[name])


@cache
def litres() -> Coverage:
    """Of a liquid membrane, a square metre in two coats."""
    return Coverage.model_validate(table("membrane")["litres"])
