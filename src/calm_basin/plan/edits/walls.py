"""Walls: the room moved from its studs to its finished faces, with all that is at them, and what is
built into them, in common sizes."""

from __future__ import annotations

from typing import Any, NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LinearRing, LineString, Polygon

from calm_basin.plan.backs import Side, footprint
from calm_basin.plan.base import Outline
from calm_basin.plan.common import CommonSizes
from calm_basin.plan.document import Plan
from calm_basin.plan.edits.putting import appended, need, put
from calm_basin.plan.framing import offset, shower_stretches, wall_depths
from calm_basin.plan.layers import Layer, LayerRole
from calm_basin.plan.reading import plan_from
from calm_basin.plan.shower import LinearDrain
from calm_basin.plan.walls import Niche, StudFace, Valve
from calm_basin.tolerances import ALONG, AT_WALL

Array = NDArray[np.float64]

NICHE = ((300.0, 12.0), (300.0, 12.0), (1000.0, 40.0))
"""How wide and high a niche is and how high its bottom, in mm and in inches."""

VALVE = ((25.0, 1.0), (50.0, 2.0))
"""How thick a wall a valve takes in front of where it is fixed, in mm and in inches."""

FIRST_FACE = (400.0, 16.0)
"""Where the first stud stands that is held against a plumb line, in mm and in inches."""

LAYERS: dict[str, tuple[tuple[LayerRole, float, float], ...]] = {
    "shower": (("tile", 8.0, 0.3125), ("adhesive", 4.0, 0.125), ("membrane", 1.0, 0.0625)),
    "rest": (),
}
"""What is usually on a wall's board, in mm and in inches (common practice, no source)."""

BOARD = (12.0, 0.5)
"""How thick a wall's board is, in mm and in inches (common practice, no source)."""


def with_wall_part(plan: Plan, common: CommonSizes, what: str, side: int | None) -> Plan:
    """The plan with one more thing said of its walls: layers, a niche, a valve, a stud's face.

    Raises
    ------
    PlanError
        There is no such wall.
    """
    if what == "wall layers":
        for name, usual in LAYERS.items():
            layers = tuple(
                Layer(role=of, name=of, thickness=common.size(mm, inch)) for of, mm, inch in usual
            )
            board = Layer(role="board", name="board", thickness=common.size(*BOARD))
            plan = put(plan, f"/walls/{name}", (*layers, board))
        return plan
    if what == "valve":
        least, most = (common.size(*size) for size in VALVE)
        return put(plan, "/walls/valve", Valve(least=least, most=most))
    count = len(plan.room.outline)
    at_shower = shower_stretches(plan)
    wall = at_shower[0].wall if side is None and at_shower else side or 0
    need(0 <= wall < count, "/side", f"Choose a wall from 0 to {count - 1}.")
    length = Side.of(plan.room.outline, wall).length
    if what == "stud face":
        at = min(common.size(*FIRST_FACE), length / 2)
        return appended(plan, "/walls/faces", StudFace(wall=wall, offset=at, foot=0, head=0))
    width, height, sill = (common.size(*size) for size in NICHE)
    middle = next((s.start + s.end for s in at_shower if s.wall == wall), length) / 2
    width = min(width, length)
    start = common.whole(min(max(middle - width / 2, 0.0), length - width))
    niche = Niche(wall=wall, offset=start, width=width, height=height, sill=sill)
    return appended(plan, "/walls/niches", niche)


def measured_at_studs(plan: Plan) -> Plan:
    """The plan of a room that was measured from stud to stud: its finished walls stand in front of
    the studs by what is on them, and what is at a wall moves with it.

    The riser of a point drain stays where it is; a channel along a wall goes with it, and one from
    wall to wall is shortened at both ends.

    Raises
    ------
    PlanError
        So much less is no room, or no shower, any more.
    """
    measured = plan.walls.studs or plan.room.outline
    told = plan.model_dump(mode="json")
    told["walls"]["studs"] = [list(place) for place in measured]
    plan = plan_from(told)
    return with_faces(plan, offset(measured, [-depth for depth in wall_depths(plan)]))


def measured_at_faces(plan: Plan) -> Plan:
    """The plan of a room that was measured at its finished walls, where they are now."""
    told = plan.model_dump(mode="json")
    told["walls"]["studs"] = None
    return plan_from(told)


class _Wall(NamedTuple):
    """A wall before and after it was moved."""

    before: Side
    after: Side

    @property
    def face(self) -> LineString:
        side = self.before
        return LineString([side.start, side.start + side.along * side.length])

    def shift(self, place: Array) -> Array:
        """How a place moves so that it is as far from the wall as before, shape (2,)."""
        here = (place - self.before.start) @ self.before.inward
        there = (place - self.after.start) @ self.after.inward
        moved: Array = self.after.inward * (here - there)
        return moved

    def along(self, at: float) -> float:
        """A place along the wall, from its first corner as that is now, mm."""
        place = self.before.start + self.before.along * at
        return float((place - self.after.start) @ self.after.along)


def with_faces(plan: Plan, outline: Outline) -> Plan:
    """The plan with its finished walls at an outline of as many corners, and what is at a wall
    moved with it.

    Raises
    ------
    PlanError
        The plan does not allow it: the shower may not fit.
    """
    told = plan.model_dump(mode="json")
    room, shower = told["room"], told["shower"]
    walls = [_Wall(Side.of(plan.room.outline, i), Side.of(outline, i)) for i in range(len(outline))]
    room["outline"] = [list(place) for place in outline]
    for door in room["doors"]:
        door["offset"] = max(walls[door["wall"]].along(door["offset"]), 0.0)
    for niche in told["walls"]["niches"]:
        niche["offset"] = max(walls[niche["wall"]].along(niche["offset"]), 0.0)
    for fixture, told_of in zip(plan.room.fixtures, room["fixtures"], strict=True):
        shape, centre = footprint(fixture), np.array(fixture.centre)
        for wall in walls:
            if wall.face.distance(shape) <= AT_WALL:
                centre = centre + wall.shift(centre)
        told_of["centre"] = _told(centre)
    zone = _moved_shower(plan.shower.outline, walls)
    shower["outline"] = [_told(place) for place in zone]
    if isinstance(plan.shower.drain, LinearDrain):
        shower["drain"] |= _moved_channel(plan.shower.drain, plan.shower.outline, zone, walls)
    return plan_from(told)


def _told(place: Array) -> list[float]:
    return [round(float(value), 4) for value in place]


def _moved_shower(outline: Outline, walls: list[_Wall]) -> list[Array]:
    """The shower's corners where its sides at walls have moved with them."""
    sides = [Side.of(outline, number) for number in range(len(outline))]
    lines = []
    for side in sides:
        middle = shapely.Point(side.start + side.along * side.length / 2)
        near = min(walls, key=lambda wall: float(wall.face.distance(middle)))
        if near.face.distance(middle) <= AT_WALL:
            lines.append((side.start + near.shift(side.start), near.after.inward))
        else:
            lines.append((side.start, side.inward))
    corners = []
    for number, (place, across) in enumerate(lines):
        other, others = lines[number - 1]
        if abs(across[0] * others[1] - across[1] * others[0]) <= ALONG:
            corners.append(place)
        else:
            reach = np.array([others @ other, across @ place])
            corners.append(np.linalg.solve(np.array([others, across]), reach))
    return corners


def _moved_channel(
    drain: LinearDrain, before: Outline, after: list[Array], walls: list[_Wall]
) -> dict[str, Any]:
    """A channel's new ends, and its outlet where that is measured from one."""
    start, end = np.array(drain.start), np.array(drain.end)
    along = (end - start) / drain.size
    body = LineString([start, end]).buffer(drain.width / 2, cap_style="flat")
    for wall in walls:
        beside = abs(float(along @ wall.before.inward)) <= ALONG
        if beside and wall.face.distance(body) <= AT_WALL:
            by = wall.shift((start + end) / 2)
            start, end = start + by, end + by
    reach = 2 * drain.size
    zone = Polygon(after)
    if not zone.is_valid:
        # The plan is refused, and says why.
        return {}
    inside = zone.intersection(LineString([start - along * reach, end + along * reach]))
    ends = shapely.get_coordinates(inside)
    edge = LinearRing(before)
    trimmed = []
    for old, now in ((drain.start, start), (drain.end, end)):
        at_edge = edge.distance(shapely.Point(old)) <= AT_WALL and len(ends) > 0
        # Of the places where its line leaves the shower the nearest.
        apart = np.hypot(*(ends - now).T)
        trimmed.append(ends[apart.argmin()] if at_edge else now)
    found: dict[str, Any] = {"start": _told(trimmed[0]), "end": _told(trimmed[1])}
    if drain.outlet is not None:
        found["outlet"] = max(drain.outlet - float((trimmed[0] - start) @ along), 0.0)
    return found
