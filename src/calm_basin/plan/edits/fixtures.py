"""A fixture put into a room: where it stands first, until it is dragged or typed."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from math import hypot

import numpy as np
from shapely.geometry import LineString, Point, Polygon

from calm_basin.plan.backs import Side, footprint
from calm_basin.plan.base import Outline
from calm_basin.plan.common import CommonSizes
from calm_basin.plan.document import Plan
from calm_basin.plan.edits.putting import appended
from calm_basin.plan.room import OFF_THE_FLOOR, Door, Fixture, FixtureName, Room
from calm_basin.plan.shower import Drain, PointDrain
from calm_basin.tolerances import AT_WALL, ON_EDGE

IN_THE_SHOWER: tuple[FixtureName, ...] = (
    "seat",
    "folding seat",
    "bench",
    "half wall",
    "bar",
    "control",
    "head",
    "screen",
    "curtain",
)
"""What belongs to the shower; all else stands in the rest of the room."""


STEP = (50.0, 2.0)
"""Places along a wall are tried so far apart, in mm and in inches."""

BEFORE_DOOR = 200.0
"""Nothing is put nearer to a door's opening than this, mm."""


def with_fixture(plan: Plan, common: CommonSizes, name: FixtureName) -> Plan:
    """The plan with one more fixture, its back at a wall, in the first place where nothing is."""
    room, shower = plan.room, plan.shower
    fixture = common.fixture(name, (0.0, 0.0))
    standing = [footprint(one) for one in room.fixtures]
    if name in ("screen", "curtain"):
        outline, sides, taken = shower.outline, list(shower.entries), standing
    elif name == "half wall":
        return appended(plan, "/room/fixtures", _beside_shower(plan, fixture, common.size(*STEP)))
    elif name in IN_THE_SHOWER:
        outline, taken = shower.outline, standing
        if name == "bench":
            # What hangs above it is not in its way, a drain is.
            taken = [footprint(one) for one in room.fixtures if one.kind not in OFF_THE_FLOOR]
            taken += [_over(drain) for drain in (shower.drain, shower.second_drain) if drain]
        shut = [i for i in range(len(outline)) if i not in shower.entries]
        far = shower.entries[0] + len(outline) // 2
        walls = Polygon(room.outline).exterior.buffer(AT_WALL)

        def rank(side: int) -> tuple[bool, int]:
            return not walls.covers(_line(outline, side)), (side - far) % len(outline)

        sides = sorted(shut, key=rank)
    else:
        outline = room.outline
        sides = [*range(1, len(outline)), 0]
        taken = [*standing, Polygon(shower.outline), *map(partial(_doorway, room), room.doors)]
    places = _along(outline, sides or [0], fixture, common.size(*STEP))
    inside = Polygon(outline).buffer(ON_EDGE)

    def free(one: Fixture) -> bool:
        shape = footprint(one).buffer(-ON_EDGE)
        return bool(inside.covers(shape)) and not any(shape.intersects(other) for other in taken)

    first = next(places)
    placed = first if free(first) else next(filter(free, places), first)
    return appended(plan, "/room/fixtures", placed)


def _over(drain: Drain) -> Polygon:
    """The floor round a drain that has to stay open."""
    if isinstance(drain, PointDrain):
        return Point(drain.centre).buffer(hypot(drain.width, drain.length))
    return LineString([drain.start, drain.end]).buffer(drain.width)


def _beside_shower(plan: Plan, fixture: Fixture, step: float) -> Fixture:
    """A half wall outside the shower, at one of its sides that lies at no wall: at one that is not
    entered where there is one, with its end at a wall."""
    room, shower = Polygon(plan.room.outline), plan.shower
    walls, sides = room.exterior.buffer(AT_WALL), range(len(shower.outline))
    opened = [i for i in sides if not walls.covers(_line(shower.outline, i))]
    wanted = sorted(opened, key=lambda i: i in shower.entries) or [shower.entries[0]]
    standing = [footprint(one) for one in plan.room.fixtures if one.kind not in OFF_THE_FLOOR]
    places = [*_along(shower.outline, wanted, fixture, step, out=True)]

    def ends(one: Fixture) -> bool:
        shape = footprint(one)
        clear = not any(shape.intersects(other) for other in standing)
        return clear and room.buffer(ON_EDGE).covers(shape) and shape.intersects(walls)

    return next(filter(ends, places), places[0])


def _line(outline: Outline, side: int) -> LineString:
    return LineString([outline[side], outline[(side + 1) % len(outline)]])


def _along(
    outline: Outline, sides: list[int], fixture: Fixture, step: float, *, out: bool = False
) -> Iterator[Fixture]:
    """A fixture with its back at each of some sides of an outline, place after place along it;
    ``out`` of it rather than in."""
    for number in sides:
        side = Side.of(outline, number)
        if out:
            side = side._replace(inward=-side.inward)
        turn = round(float(np.degrees(np.arctan2(-side.inward[0], side.inward[1]))), 4)
        at = fixture.width / 2
        while at == fixture.width / 2 or at + fixture.width / 2 <= side.length + ON_EDGE:
            x, y = side.start + at * side.along + side.inward * fixture.length / 2
            centre = (float(round(x, 4)), float(round(y, 4)))
            yield fixture.model_copy(update={"centre": centre, "turn": turn})
            at += step


def _doorway(room: Room, door: Door) -> Polygon:
    """The floor before a door's opening, and over which it swings."""
    wall = Side.of(room.outline, door.wall)
    near = wall.start + wall.along * door.offset
    far = near + wall.along * door.width
    over = wall.inward * (door.width if door.sweeps else BEFORE_DOOR)
    return Polygon([near, far, far + over, near + over])
