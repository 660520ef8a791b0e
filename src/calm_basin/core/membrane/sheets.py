"""The sheets of a membrane as they come off the roll: numbers only. Lengths are mm."""

from __future__ import annotations

from math import ceil, pi
from typing import NamedTuple

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry import Polygon

from calm_basin.core.membrane.on_walls import school_of, sealed_walls
from calm_basin.core.membrane.pieces import sealed
from calm_basin.core.walls.blocks import frame_name
from calm_basin.plan import Plan
from calm_basin.plan.backs import Side
from calm_basin.rules import TRADE
from calm_basin.tolerances import ON_EDGE

XY = tuple[float, float]


class Sheet(NamedTuple):
    """A piece off the roll: how long, how wide, and its corners on plan (none on a wall)."""

    length: float
    width: float
    corners: tuple[XY, ...]


def floor_sheets(plan: Plan) -> list[Sheet]:
    """The sheets of the floor, side by side with a lap, laid whichever way takes less of the roll;
    none by a school that lays no sheet."""
    if school_of(plan).field != "sheet":
        return []
    shape, outline = sealed(plan), plan.room.outline
    longest = max((Side.of(outline, i) for i in range(len(outline))), key=lambda one: one.length)
    along = float(np.arctan2(longest.along[1], longest.along[0]))
    ways = [laid(shape, along + turn) for turn in (0.0, pi / 2)]
    return min(ways, key=lambda sheets: round(sum(sheet.length for sheet in sheets)))


def laid(shape: Polygon, along: float) -> list[Sheet]:
    """Sheets over a shape, their length along a direction, radians."""
    roll, lap = TRADE.membrane.roll.value, TRADE.membrane.lap.value
    turned = affinity.rotate(shape, -along, origin=(0, 0), use_radians=True)
    left, low, right, high = turned.bounds
    found = []
    for number in range(_count(high - low, roll, lap)):
        start = low + number * (roll - lap)
        end = min(start + roll, high)
        band = shapely.box(left - 1, start, right + 1, end)
        for part in shapely.get_parts(turned.intersection(band)):
            if not isinstance(part, Polygon) or part.area <= ON_EDGE * roll:
                continue
            x0, _, x1, _ = part.bounds
            box = shapely.box(x0, start, x1, end)
            back = affinity.rotate(box, along, origin=(0, 0), use_radians=True)
            corners = tuple((float(x), float(y)) for x, y in back.exterior.coords[:-1])
            found.append(Sheet(x1 - x0, end - start, corners))
    return found


def wall_sheets(plan: Plan) -> list[tuple[str, Sheet]]:
    """The sheets of the shower's walls, benches and half walls, upright, by what they are on."""
    school = school_of(plan)
    if school.field != "sheet" or not school.walls:
        return []
    roll, lap = TRADE.membrane.roll.value, TRADE.membrane.lap.value
    found = []
    for wall in sealed_walls(plan):
        for box in wall.sealed:
            count = _count(box.x.size, roll, lap)
            for number in range(count):
                width = min(roll, box.x.size - number * (roll - lap))
                found.append((frame_name(wall.frame), Sheet(box.y.size, width, ())))
    return found


def _count(across: float, roll: float, lap: float) -> int:
    """How many sheets lie side by side over so much."""
    return max(ceil((across - lap) / (roll - lap) - ON_EDGE / roll), 1)
