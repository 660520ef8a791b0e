"""What a membrane takes: laps, upstand, how far it goes, how much of it, and its schools."""

from __future__ import annotations

from typing import Literal

from pydantic import BaseModel, ConfigDict

from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Measure, Number


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


class Membrane(Record):
    """Lengths that a membrane keeps to, the ``litres`` that a square metre takes of a liquid one in
    two coats, and every school by its id, in the order in which they are offered."""

    band: Measure
    into_room: Measure
    lap: Measure
    roll: Measure
    tape_on_steel: Measure
    tape_on_floor: Measure
    upstand: Measure
    bead: Measure
    litres: Number
    schools: dict[str, School]
