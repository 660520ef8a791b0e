"""What is stepped over on the way: the edge of the shower's entry, and the bathroom's doors."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

from calm_basin.core.falls import door_edges as doorways
from calm_basin.core.falls.step import least_of, worst_of
from calm_basin.core.geometry.levels import levels
from calm_basin.core.geometry.surface import Surface
from calm_basin.core.survey.lie import as_read, lie_along, steps_at_entry
from calm_basin.plan import Plan
from calm_basin.rules import TRADE, RuleSet, highest_step, steepest_ramp

FLAT = 120.0
"""Floor that is drawn on either side of an edge, mm."""


@dataclass(frozen=True)
class Edge:
    """One edge on the way in.

    ``rise`` is how far the floor behind it lies above that before it, mm, below 0 where it lies
    lower; ``sloped`` of it is a bevel or a ramp that runs ``run``. ``door`` is its number, None: it
    is the shower's entry. ``refused`` is the length of what was planned as a ramp and is none. A
    ``saddle`` is a door's threshold that is bevelled: too steep for a ramp, no higher than a step
    may be. The rise is that of its worst place, ``least`` that of its best.
    """

    rise: float
    least: float
    sloped: float
    run: float
    door: int | None = None
    refused: float = 0.0
    saddle: bool = False

    @property
    def ramp(self) -> bool:
        """Whether it is a ramp beyond a door."""
        return self.door is not None and self.run > 0 and not self.saddle

    @property
    def upright(self) -> float:
        """What of the rise is no slope, mm, from 0 up."""
        return max(abs(self.rise) - self.sloped, 0.0)

    @property
    def slope(self) -> float:
        """Of the sloped part, rise over run; 0 where nothing slopes."""
        return self.sloped / self.run if self.run > 0 else 0.0

    @property
    def planned(self) -> float:
        """The slope of what was planned as a ramp, rise over run, whether it is one or not."""
        return abs(self.rise) / self.refused if self.refused > 0 else self.slope

    @property
    def profile(self) -> tuple[tuple[float, float], ...]:
        """The floor's line across the edge, in mm: along, up. It starts before the edge."""
        way = 1.0 if self.rise >= 0 else -1.0
        foot, end = FLAT + self.run, FLAT + self.run + FLAT
        if way > 0:
            # A slope stands before a step up, and behind the edge of a step down.
            return ((0, 0), (FLAT, 0), (foot, self.sloped), (foot, self.rise), (end, self.rise))
        return ((0, 0), (FLAT, 0), (FLAT, -self.upright), (foot, self.rise), (end, self.rise))


def entry_edge(plan: Plan, surface: Surface) -> Edge:
    """The edge over which the shower is entered."""
    steps, bevel = steps_at_entry(plan, surface).tolist(), plan.shower.bevel
    step = worst_of(steps)
    sloped = 0.0 if bevel is None or bevel.run <= 0 else min(bevel.height, abs(step))
    return Edge(-step, -least_of(steps), sloped, bevel.run if bevel and sloped > 0 else 0.0)


def ramp_run(rules: RuleSet, rise: float, step: float) -> float:
    """How long a ramp over a rise is at the gentlest that is asked, or where nothing is asked at
    the usual one, mm, rounded up to whole ``step``s."""
    return ceil(abs(rise) / ramp_fall(rules) / step - 1e-9) * step


def ramp_fall(rules: RuleSet) -> float:
    """The fall, rise over run, of a ramp that is offered."""
    return min((limit.value for limit in rules.on("ramp_fall")), default=TRADE.practice.ramp.value)


def bevel_fall(rules: RuleSet) -> float:
    """The steepest, rise over run, of a bevel that is offered."""
    usual = TRADE.practice.bevel.value
    return min((limit.value for limit in rules.on("edge_bevel")), default=usual)


def door_edges(plan: Plan, surface: Surface) -> list[Edge]:
    """The edges at doors beyond which the floor was measured.

    A ramp that is steeper than every rule set allows is none: the door has a step, or where that
    is low and the slope no steeper than a bevel, a saddle.
    """
    room, ground = levels(plan, surface).room, as_read(plan)
    found = []
    for number, (door, (start, end)) in enumerate(
        zip(plan.room.doors, doorways(plan.room), strict=True)
    ):
        if door.outside is not None:
            rises = (room + lie_along(ground, start, end)[1] - door.outside).tolist()
            rise, least = worst_of(rises), least_of(rises)
            high = abs(rise) / (1 + 1e-6)
            saddle = high <= door.ramp * TRADE.practice.bevel.value and high <= highest_step()
            if high <= door.ramp * steepest_ramp():
                found.append(Edge(rise, least, abs(rise), door.ramp, number))
            elif saddle:
                found.append(Edge(rise, least, abs(rise), door.ramp, number, saddle=True))
            else:
                found.append(Edge(rise, least, 0.0, 0.0, number, door.ramp))
    return found
