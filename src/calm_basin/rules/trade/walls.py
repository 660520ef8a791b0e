"""How walls are framed and boarded: spacings, backing, fasteners."""

from __future__ import annotations

from pydantic import BaseModel, ConfigDict

from calm_basin.plan.walls import Fixing
from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Measure, Steepest


class Backing(BaseModel):
    """What a thing that hangs on a wall is called, and how it is fixed and sealed."""

    model_config = ConfigDict(frozen=True, extra="forbid")

    hung: str
    fixing: str


class Walls(Record):
    """Lengths that framing and boards keep to; ``bench_fall`` is how the top of a bench or half
    wall falls to its front, ``backing`` what needs backing in a wall, by the kind of fixture."""

    stud_centres: Measure
    stud_width: Measure
    valve_body: Measure
    door_head: Measure
    backing_height: Measure
    backing_beyond: Measure
    perimeter_height: Measure
    perimeter_above: Measure
    pipe_clear: Measure
    first_washer: Measure
    washers: Measure
    screws: Measure
    bench_fall: Steepest
    backing: dict[str, Backing]

    def apart(self, fixing: Fixing) -> Measure:
        """How far apart fasteners are."""
        return self.washers if fixing == "washers" else self.screws
