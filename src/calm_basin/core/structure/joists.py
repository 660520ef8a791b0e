"""Joists on plan."""

from __future__ import annotations

from functools import lru_cache
from math import radians

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.plan import Plan
from calm_basin.plan.base import Point
from calm_basin.plan.room import JoistFloor


def joists_of(plan: Plan) -> tuple[Polygon, ...]:
    """The joists under the room on plan; a slab has none."""
    if not isinstance(plan.floor, JoistFloor):
        return ()
    return _joists(plan.floor, plan.room.outline)


@lru_cache(maxsize=16)
def _joists(floor: JoistFloor, outline: tuple[Point, ...]) -> tuple[Polygon, ...]:
    return tuple(joist_rectangles(floor, Polygon(outline)))


def joist_rectangles(floor: JoistFloor, room: Polygon) -> list[Polygon]:
    """The joists under the room on plan, clipped to it."""
    angle = radians(floor.direction)
    along = np.array([np.cos(angle), np.sin(angle)])
    across = np.array([-along[1], along[0]])
    corners = shapely.get_coordinates(room)
    offsets, reach = corners @ across, corners @ along
    first = int(np.ceil((offsets.min() - floor.first_offset - floor.width / 2) / floor.centres))
    last = int(np.floor((offsets.max() - floor.first_offset + floor.width / 2) / floor.centres))
    middles = floor.first_offset + floor.centres * np.arange(first, last + 1)
    half = floor.width / 2
    corners = [
        [
            along * reach.min() + across * (middle - half),
            along * reach.max() + across * (middle - half),
            along * reach.max() + across * (middle + half),
            along * reach.min() + across * (middle + half),
        ]
        for middle in middles
    ]
    if not corners:
        return []
    parts = shapely.get_parts(shapely.intersection(shapely.polygons(corners), room))
    return [part for part in parts if isinstance(part, Polygon) and part.area > 0]
