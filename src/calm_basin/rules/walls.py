"""How walls are framed and boarded: spacings, backing, fasteners."""

from __future__ import annotations

from functools import cache
from typing import Literal

from pydantic import BaseModel, ConfigDict

from calm_basin.rules.trade import Practice, Steepest, table

WallLength = Literal[
    "stud_centres",
    "stud_width",
    "backing_height",
    "backing_beyond",
    "perimeter_height",
    "perimeter_above",
    "pipe_clear",
    "first_washer",
    "washers",
    "screws",
    "valve_body",
    "door_head",
]


class Backing(BaseModel):
    """What a thing that hangs on a wall is called, and how it is fixed and sealed."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    hung: str
    fixing: str


@cache
def wall_length(name: WallLength) -> Practice:
    """A length that walls keep to."""
    return Practice.model_validate(table("walls")[name])


@cache
def bench_fall() -> Steepest:
    """How the top of a bench or half wall falls to its front, rise over run."""
    return Steepest.model_validate(table("walls")["bench_fall"])


@cache
def backings() -> dict[str, Backing]:
    """What needs backing in a wall, by the kind of fixture."""
    rows = table("walls")["backing"]
    return {kind: Backing.model_validate(row) for kind, row in rows.items()}
