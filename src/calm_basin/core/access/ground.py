"""The floor of one plan as spaces are looked for on it, and a space where it lies."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.access.floor import (
    free_floor,
    steep_planes,
)
from calm_basin.core.geometry.solid import solid
from calm_basin.core.geometry.surface import Surface
from calm_basin.core.survey.lie import step_at_entry
from calm_basin.plan import Plan
from calm_basin.plan.room import Door
from calm_basin.plan.users import SITTING
from calm_basin.rules import TRADE, RuleSet, Space, SpaceTopic
from calm_basin.tolerances import SHARE_ROUNDED


@dataclass(frozen=True)
class Ground:
    """The floor of one plan, as spaces are looked for on it.

    ``parts`` are what is free, the room's part first; ``gentle`` is as much of them as falls at
    most ``most``, rise over run (None: nothing is asked); ``stepped``: a step parts shower and
    room.
    """

    plan: Plan
    rules: RuleSet
    surface: Surface
    parts: tuple[shapely.Geometry, ...]
    steep: shapely.Geometry
    most: float | None
    stepped: bool

    @property
    def gentle(self) -> tuple[shapely.Geometry, ...]:
        """As much of the free floor as is gentle enough."""
        if self.steep.is_empty:
            return self.parts
        return tuple(solid(np.array([part.difference(self.steep) for part in self.parts])))

    def without(self, fixture: int) -> shapely.Geometry:
        """The room's free floor, that of one fixture too."""
        return free_floor(self.plan.room, self.plan.shower.outline, self.stepped, fixture)[0]


def ground_of(plan: Plan, rules: RuleSet, surface: Surface) -> Ground:
    """The floor of a plan on which spaces are looked for."""
    steps = [one.value for one in rules.on("turning_step") if one.asked_by(plan.users)]
    least = min(steps, default=0.0) + TRADE.practice.no_edge.value
    stepped = abs(step_at_entry(plan, surface)) > least
    parts = free_floor(plan.room, plan.shower.outline, stepped)
    most = steepest_to_turn_on(rules) if any(user in SITTING for user in plan.users) else None
    steep = Polygon() if most is None else steep_planes(surface, most * (1 + SHARE_ROUNDED))
    return Ground(plan, rules, surface, parts, steep, most, stepped)


def steepest_to_turn_on(rules: RuleSet) -> float | None:
    """The most that a floor may fall under a chair, rise over run."""
    falls = [limit for limit in rules.on("shower_fall") if limit.binds == "at_most"]
    chair = [limit.value for limit in falls if limit.users]
    return min(chair or [limit.value for limit in falls], default=None)


def clear_opening(door: Door) -> float:
    """What a door leaves free when it stands open, mm."""
    usual = TRADE.practice.door_leaf if door.kind == "hinged" else TRADE.practice.sliding_stop
    return door.width - (usual.value if door.leaf_and_stop is None else door.leaf_and_stop)


@dataclass(frozen=True)
class Spot:
    """One space where it lies best.

    ``fixture`` and ``door`` are the numbers of what it is at. ``fits`` on plan, ``gentle`` on floor
    that is gentle enough. ``free`` is what there is of its depth, or where ``across`` of its width,
    ``other`` what there is of the other side where that is short too,
    mm; ``shift`` is how far what it is at would have to go along its wall, to the sitter's right,
    for the space to be free (None: that is no help). ``swept`` tells that a door swings over it.
    """

    space: Space
    outline: Polygon
    fits: bool
    gentle: bool
    free: float
    fall: float
    fixture: int | None = None
    door: int | None = None
    across: bool = False
    other: float | None = None
    shift: float | None = None
    swept: bool = False


def asked_spaces(ground: Ground, topic: SpaceTopic) -> list[Space]:
    """The spaces of one topic that the users of the room need."""
    users = ground.plan.users
    return [space for space in ground.rules.spaces_on(topic) if space.asked_by(users)]
