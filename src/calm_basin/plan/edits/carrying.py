"""A shower carried to another place of its room, with all that belongs to it."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from math import cos, pi
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from shapely.geometry import Polygon

from calm_basin.plan.backs import Side, footprint
from calm_basin.plan.base import Point
from calm_basin.plan.document import Plan
from calm_basin.plan.edits.fixtures import IN_THE_SHOWER
from calm_basin.plan.places import belong
from calm_basin.plan.reading import PlanError, Problem, plan_from
from calm_basin.plan.shower import Tray
from calm_basin.tolerances import AT_WALL, ON_EDGE

Array = NDArray[np.float64]

Way = Literal["side", "end"]
"""To the other side, seen from the entry, or to the other end."""


def of_shower(plan: Plan) -> tuple[int, ...]:
    """The fixtures, by number, that belong to the shower and go where it goes."""
    shower = Polygon(plan.shower.outline)
    return tuple(
        i
        for i, one in enumerate(plan.room.fixtures)
        if one.kind in IN_THE_SHOWER
        and (
            belong(shower, np.array([one.centre]))[0]
            or footprint(one).intersection(shower).area > footprint(one).area / 2
        )
    )


def moved(plan: Plan, by: Point) -> Plan:
    """The plan with its shower moved by so much right and up, mm. Raises `PlanError` where there is
    no room for it."""
    return _carried(plan, lambda place: (place[0] + by[0], place[1] + by[1]))


def mirrored(plan: Plan, way: Way) -> Plan:
    """The plan with its shower mirrored about the middle of the room: outline, drains, tile and
    what stands or hangs in it.

    Raises
    ------
    PlanError
        Its tray was bought with a drain off its middle, or what is there is no room for it.
    """
    former = plan.shower.former
    if isinstance(former, Tray) and former.stock is not None and way == "side":
        stock = former.stock
        if abs(stock.width - 2 * stock.drain_left) > 2 * ON_EDGE:
            message = (
                "The tray's drain is off centre, so the tray has no mirror image. Drag the shower "
                "instead."
            )
            raise PlanError([Problem("/shower/former/stock/drain_left", message)])
    across = _across(plan, way)
    room = np.array(plan.room.outline) @ across
    middle = float(room.min() + room.max()) / 2
    away = middle - float(np.array(plan.shower.outline).mean(axis=0) @ across)
    there = np.array([_over(corner, middle, across) for corner in plan.shower.outline])
    # A wall that is out of square stands farther in than the room is wide.
    back = _beyond(plan, there, -across * np.sign(away)) * np.sign(away)

    # A direction at an angle comes to lie as far on the other side of the line of the mirror.
    twice = 2 * float(np.degrees(np.arctan2(across[0], -across[1])))

    def at(place: Sequence[float]) -> tuple[float, float]:
        x, y = _over(place, middle, across) - back * across
        return float(x), float(y)

    return _carried(plan, at, lambda angle: twice - angle)


def _carried(
    plan: Plan,
    at: Callable[[Sequence[float]], Point],
    turned: Callable[[float], float] | None = None,
) -> Plan:
    """The plan with every place of the shower where ``at`` puts it; ``turned`` says what becomes of
    an angle from the drawing's right, degrees, where the shower is mirrored."""

    def put(place: list[float]) -> list[float]:
        return [round(value, 4) for value in at(place)]

    document = plan.model_dump(mode="json")
    shower = document["shower"]
    shower["outline"] = [put(corner) for corner in shower["outline"]]
    for drain in filter(None, (shower["drain"], shower["second_drain"])):
        for name in ("centre", "start", "end"):
            if name in drain:
                drain[name] = put(drain[name])
        if turned and "orientation" in drain:
            drain["orientation"] = _turn(turned(drain["orientation"]))
    if turned and shower["tile"] is not None:
        shower["tile"]["turn"] = _turn(-shower["tile"]["turn"])
    for i in of_shower(plan):
        fixture = document["room"]["fixtures"][i]
        fixture["centre"] = put(fixture["centre"])
        if turned:
            # Its turn is from the drawing's top.
            fixture["turn"] = _turn(turned(fixture["turn"]) - 180)
    try:
        return plan_from(document)
    except PlanError as error:
        message = "There is no room for the shower there. Make it smaller, or move its corners."
        raise PlanError([Problem(error.problems[0].path, message)]) from None


def _over(place: Sequence[float], middle: float, across: Array) -> Array:
    """A place as the mirror shows it."""
    return np.array(place) + 2 * (middle - float(np.array(place) @ across)) * across


def _beyond(plan: Plan, corners: Array, back: Array) -> float:
    """How far corners, (n, 2), have to go back, mm, for none to lie behind a wall."""
    needed = 0.0
    for i in range(len(plan.room.outline)):
        wall = Side.of(plan.room.outline, i)
        facing = float(wall.inward @ back)
        if facing < cos(pi / 4):
            continue
        along, behind = (corners - wall.start) @ wall.along, -((corners - wall.start) @ wall.inward)
        beside = (along > -AT_WALL) & (along < wall.length + AT_WALL)
        needed = max(needed, *(behind[beside] / facing), 0.0)
    return float(needed)


def _across(plan: Plan, way: Way) -> Array:
    """The unit vector along which places change sides."""
    outline, entries = plan.shower.outline, plan.shower.entries
    widest = max((Side.of(outline, i) for i in entries), key=lambda side: side.length)
    return widest.along if way == "side" else widest.inward


def _turn(angle: float) -> float:
    """The same direction as an angle from -180 to 180, degrees."""
    return round(180 - (180 - angle) % 360, 4) + 0.0
