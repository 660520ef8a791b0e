"""Where a heating cable may lie: numbers only."""

from __future__ import annotations

from collections.abc import Sequence
from math import atan2

import numpy as np
import shapely
from shapely.geometry import Point, Polygon
from shapely.geometry.base import BaseGeometry

from calm_basin.core.falls.ring import ring_of
from calm_basin.core.kinds import drains_of
from calm_basin.plan import Plan
from calm_basin.plan.backs import Side, footprint
from calm_basin.plan.blocks import without_blocks
from calm_basin.plan.room import OFF_THE_FLOOR
from calm_basin.rules import TRADE


def heated_zone(plan: Plan) -> BaseGeometry:
    """The floor that is to be heated, with all that stands on it."""
    room = without_blocks(plan, Polygon(plan.room.outline))
    shower = ring_of(plan.shower).polygon
    where = plan.heating.where if plan.heating else "both"
    if where == "shower":
        return shower
    return room if where == "both" else room.difference(shower)


def kept_free(plan: Plan) -> list[Polygon]:
    """What no run may touch, each with what is kept from it: what stands on the floor, drains."""
    apart = TRADE.heating.from_wall.value
    free = [
        footprint(fixture).buffer(apart, join_style="mitre")
        for fixture in plan.room.fixtures
        if fixture.kind not in OFF_THE_FLOOR
    ]
    for drain in drains_of(plan):
        body = Polygon(drain.rim).buffer(TRADE.heating.from_channel.value)
        free.append(body.union(Point(drain.outlet).buffer(TRADE.heating.from_outlet.value)))
    return free


def free_floor(plan: Plan) -> BaseGeometry:
    """Where the middle of a cable may lie."""
    zone = heated_zone(plan).buffer(-TRADE.heating.from_wall.value, join_style="mitre")
    return zone.difference(shapely.union_all(kept_free(plan)))


def along_longest(outline: Sequence[Sequence[float]]) -> float:
    """The way of an outline's longest side, radians."""
    sides = [Side.of(outline, i) for i in range(len(outline))]
    longest = max(sides, key=lambda side: round(side.length, 3))
    return atan2(longest.along[1], longest.along[0])


def cold_joint(plan: Plan) -> tuple[float, float]:
    """Where the cable is to begin: as it was chosen, else beside the first door, else in the first
    corner."""
    chosen = plan.heating.start if plan.heating else None
    if chosen is not None:
        return chosen
    if plan.room.doors:
        door = plan.room.doors[0]
        side = Side.of(plan.room.outline, door.wall)
        x, y = np.array(side.start) + side.along * (door.offset + door.width)
        return float(x), float(y)
    x, y = plan.room.outline[0]
    return x, y
