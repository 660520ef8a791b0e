"""What a membrane takes: laps, upstand, how far it goes, how much of it, and its schools."""

from __future__ import annotations

from functools import cache
from typing import Literal

from pydantic import BaseModel, ConfigDict

from calm_basin.rules.trade import Practice, Sourced, table


class Coverage(Sourced):
    """How much a square metre takes."""

    amount: float


class School(BaseModel):
    """A way to make a floor watertight: what covers its ``field``, and the shower's ``walls`` too;
    which ``strip`` goes over seams, and whether the ``joints`` of boards are seams; pre-formed
    ``corners``, ``collars``, ``patches`` over fasteners; how many ``beads`` go on each seam."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    name: str
    field: Literal["", "sheet", "liquid"] = ""
    walls: bool = False
    strip: Literal["", "band", "tape"] = ""
    joints: bool = False
    corners: bool = False
    collars: bool = False
    patches: bool = False
    beads: int = 0
    notes: tuple[str, ...]


MembraneLength = Literal[
    "band",
    "bead",
    "into_room",
    "lap",
    "roll",
    "tape_on_floor",
    "tape_on_steel",
    "upstand",
]


@cache
def membrane_length(name: MembraneLength) -> Practice:
    """A length that a membrane keeps to."""
    return Practice.model_validate(table("membrane")[name])


@cache
def litres() -> Coverage:
    """Of a liquid membrane, a square metre in two coats."""
    return Coverage.model_validate(table("membrane")["litres"])


@cache
def schools() -> dict[str, School]:
    """Every school by its id, in the order in which they are offered."""
    rows = table("membrane")["schools"]
    return {name: School.model_validate(row) for name, row in rows.items()}
