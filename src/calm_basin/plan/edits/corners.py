"""Outlines stretched, and corners added to them and taken from them: all that names sides by number
follows."""

from __future__ import annotations

from collections.abc import Callable
from math import hypot
from typing import Any, Literal

import numpy as np

from calm_basin.plan.assumed import renumbered
from calm_basin.plan.base import Point
from calm_basin.plan.document import Plan
from calm_basin.plan.edits.lists import remove_item
from calm_basin.plan.framing import studs
from calm_basin.plan.reading import PlanError, Problem, plan_from
from calm_basin.plan.room import Door
from calm_basin.plan.shower import SideCut, Tray
from calm_basin.tolerances import ON_EDGE, SIDE_AT_WALL

Which = Literal["room", "shower"]


def box_of(outline: tuple[Point, ...]) -> tuple[Point, Point] | None:
    """Lower left and upper right corner of an outline that is a rectangle along the axes."""
    points = np.array(outline)
    low, high = points.min(axis=0), points.max(axis=0)
    along = len(outline) == 4 and bool(((points == low) | (points == high)).all())
    return ((float(low[0]), float(low[1])), (float(high[0]), float(high[1]))) if along else None


def with_outline(plan: Plan, points: tuple[Point, ...]) -> Plan:
    """The plan with another outline of the room, measured, laid onto the lower left corner of the
    one that it has. A door that its wall no longer carries is taken out.

    Raises
    ------
    PlanError
        The plan does not allow that outline: the shower may not fit it.
    """
    shift = np.array(plan.room.outline).min(axis=0) - np.array(points).min(axis=0)
    outline = [[float(x), float(y)] for x, y in np.array(points) + shift]
    for number in reversed(range(len(plan.room.doors))):
        door = plan.room.doors[number]
        ends = [outline[(door.wall + i) % len(outline)] for i in (0, 1)]
        length = hypot(ends[1][0] - ends[0][0], ends[1][1] - ends[0][1])
        if door.wall >= len(outline) or door.offset + door.width > length + ON_EDGE:
            plan = remove_item(plan, f"/room/doors/{number}")
    document = plan.model_dump(mode="json")
    document["room"]["outline"] = outline
    # What is at walls is measured anew on those.
    document["walls"] |= {"studs": None, "niches": [], "faces": []}
    document["assumed"] = [
        pointer for pointer in plan.assumed if not pointer.startswith("/room/outline")
    ]
    return plan_from(document)


def stretch(plan: Plan, which: Which, axis: Literal[0, 1], size: float) -> Plan:
    """The plan with an outline's width (axis 0) or depth (axis 1) of ``size``, mm, measured.

    The room grows from its lower left corner; a shower stays at the wall that it stands at, with
    its drains, whichever of the two is stretched.

    Raises
    ------
    PlanError
        The outline is no rectangle along the axes, or the plan does not allow that size.
    """
    outline = _outline(plan, which)
    box = box_of(outline)
    if box is None:
        raise PlanError(
            [Problem(f"/{which}/outline", "Only a rectangle along the axes has a width and depth.")]
        )
    low, high = box[0][axis], box[1][axis]
    room = [corner[axis] for corner in plan.room.outline]
    stays_high = which == "shower" and _at_far_wall(outline, min(room), max(room), axis)
    here, there = (low, high - size) if stays_high else (high, low + size)
    new = [
        [there if i == axis and value == here else value for i, value in enumerate(corner)]
        for corner in outline
    ]
    document = plan.model_dump(mode="json")
    document[which]["outline"] = new
    if which == "room" and _at_far_wall(plan.shower.outline, low, high, axis):
        _shift_shower(document["shower"], axis, there - here)
    measured = {f"/{which}/outline/{i}/{axis}" for i in range(len(outline))}
    document["assumed"] = [path for path in plan.assumed if path not in measured]
    stretched = plan_from(document)
    if which == "shower" or plan.walls.studs is None:
        return stretched
    # Measured at the studs, these go with the walls.
    document["walls"]["studs"] = studs(stretched)
    return plan_from(document)


def stretch_at_studs(plan: Plan, axis: Literal[0, 1], size: float) -> Plan:
    """The plan with its room of a width or depth of ``size`` between its studs, mm, measured.

    Raises
    ------
    PlanError
        The room is no rectangle along the axes, or so much less is no room any more.
    """
    finished, between = box_of(plan.room.outline), box_of(studs(plan))
    if finished is None or between is None:
        return stretch(plan, "room", axis, size)
    behind = sum(abs(finished[end][axis] - between[end][axis]) for end in (0, 1))
    if size <= behind:
        raise PlanError(
            [Problem("/size", "Between studs there is no room left. Type a larger size.")]
        )
    return stretch(plan, "room", axis, size - behind)


def _at_far_wall(outline: tuple[Point, ...], low: float, high: float, axis: int) -> bool:
    """Whether a shower stands at the far one of two walls, and not at both."""
    along = [corner[axis] for corner in outline]
    return abs(max(along) - high) < SIDE_AT_WALL and abs(min(along) - low) >= SIDE_AT_WALL


def _shift_shower(shower: dict[str, Any], axis: int, by: float) -> None:
    """Move a shower's outline and drains along an axis, in place."""
    drains = [shower["drain"], shower["second_drain"]]
    ends = [d[name] for d in drains if d for name in ("centre", "start", "end") if name in d]
    for place in (*shower["outline"], *ends):
        place[axis] += by


def split_side(plan: Plan, which: Which, side: int) -> Plan:
    """The plan with one more corner on a side: in its middle, or at a door's jamb where the middle
    lies in a door.

    Entries, tray cuts and doors keep their places: both halves of an entry are entries, both
    halves of a cut side are cut.

    Raises
    ------
    PlanError
        There is no such side.
    """
    outline = _outline(plan, which)
    _check(outline, which, side)
    start, end = outline[side], outline[(side + 1) % len(outline)]
    length = _apart(start, end)
    at = length / 2
    if which == "room":
        for door in plan.room.doors:
            if door.wall == side and door.offset < at < door.offset + door.width:
                before, after = door.offset, length - door.offset - door.width
                at = door.offset if before > after else door.offset + door.width
    share = at / length
    corner = tuple(round(a + share * (b - a), 4) for a, b in zip(start, end, strict=True))
    new = [*outline[: side + 1], corner, *outline[side + 1 :]]

    def moved(i: int) -> int:
        return i + 1 if i > side else i

    assumed = renumbered(plan.assumed, f"/{which}/outline", moved)
    if which == "shower":
        entries = [
            e for i in plan.shower.entries for e in ((i, i + 1) if i == side else (moved(i),))
        ]
        cuts = [
            cut.model_copy(update={"edge": edge})
            for cut in _cuts(plan)
            for edge in ((cut.edge, cut.edge + 1) if cut.edge == side else (moved(cut.edge),))
        ]
        return _with_shower(plan, new, entries, cuts, assumed)
    doors = [
        door.model_copy(update={"wall": side + 1, "offset": max(door.offset - at, 0.0)})
        if door.wall == side and door.offset >= at - 1e-6
        else door.model_copy(update={"wall": moved(door.wall)})
        for door in plan.room.doors
    ]
    behind = plan.walls.studs
    if behind is not None:
        (x0, y0), (x1, y1) = behind[side], behind[(side + 1) % len(behind)]
        new_stud = (x0 + share * (x1 - x0), y0 + share * (y1 - y0))
        behind = (*behind[: side + 1], new_stud, *behind[side + 1 :])

    def on_wall(wall: int, offset: float, width: float) -> tuple[int, float]:
        """Its wall and place there; what lies across the new corner stays before it."""
        if wall != side or offset < at - 1e-6:
            return moved(wall), min(offset, max(at - width, 0.0)) if wall == side else offset
        return side + 1, offset - at

    return _with_room(plan, new, doors, assumed, behind, on_wall)


def remove_corner(plan: Plan, which: Which, corner: int) -> Plan:
    """The plan without one corner: the two sides that met there become one.

    That side is an entry if either was, and is cut as the one that was cut more. Doors of both stay
    where they were along it, drawn in where they would reach beyond its end.

    Raises
    ------
    PlanError
        There is no such corner, or the plan cannot be without it.
    """
    outline = _outline(plan, which)
    _check(outline, which, corner)
    count = len(outline)
    if count < 4:
        raise PlanError([Problem(f"/{which}/outline", "An outline has at least three corners.")])
    new = [*outline[:corner], *outline[corner + 1 :]]
    before = (corner - 1) % count

    def moved(i: int) -> int:
        joined = before if i == corner else i
        return joined - 1 if joined > corner else joined

    def kept(i: int) -> int | None:
        return None if i == corner else i - (i > corner)

    assumed = renumbered(plan.assumed, f"/{which}/outline", kept)
    if which == "shower":
        entries = list(dict.fromkeys(moved(i) for i in plan.shower.entries))
        widest: dict[int, SideCut] = {}
        for cut in _cuts(plan):
            edge = moved(cut.edge)
            if edge not in widest or cut.width > widest[edge].width:
                widest[edge] = cut.model_copy(update={"edge": edge})
        return _with_shower(plan, new, entries, list(widest.values()), assumed)
    first = _apart(outline[before], outline[corner])
    whole = _apart(outline[before], outline[(corner + 1) % count])
    doors = []
    for place, door in enumerate(plan.room.doors):
        offset = door.offset + (first if door.wall == corner else 0.0)
        if door.wall in (before, corner):
            if door.width > whole:
                raise PlanError(
                    [
                        Problem(
                            f"/room/doors/{place}",
                            "Without this corner the door is wider than its wall. Move or remove "
                            "the door first.",
                        )
                    ]
                )
            offset = min(offset, whole - door.width)
        doors.append(door.model_copy(update={"wall": moved(door.wall), "offset": offset}))
    behind = plan.walls.studs
    if behind is not None:
        behind = (*behind[:corner], *behind[corner + 1 :])

    def on_wall(wall: int, offset: float, width: float) -> tuple[int, float]:
        at = offset + (first if wall == corner else 0.0)
        joined = wall in (before, corner)
        return moved(wall), max(min(at, whole - width), 0.0) if joined else at

    return _with_room(plan, new, doors, assumed, behind, on_wall)


def _outline(plan: Plan, which: Which) -> tuple[Point, ...]:
    return plan.room.outline if which == "room" else plan.shower.outline


def _check(outline: tuple[Point, ...], which: Which, i: int) -> None:
    if not 0 <= i < len(outline):
        raise PlanError(
            [Problem(f"/{which}/outline/{i}", f"Choose a corner from 0 to {len(outline) - 1}.")]
        )


def _cuts(plan: Plan) -> tuple[SideCut, ...]:
    former = plan.shower.former
    return former.cuts if isinstance(former, Tray) else ()


def _apart(a: Point, b: Point) -> float:
    return hypot(b[0] - a[0], b[1] - a[1])


def _with_shower(
    plan: Plan,
    outline: list[Any],
    entries: list[int],
    cuts: list[SideCut],
    assumed: tuple[str, ...],
) -> Plan:
    document = plan.model_dump(mode="json")
    document["shower"] |= {"outline": outline, "entries": entries}
    if cuts:
        document["shower"]["former"]["cuts"] = [cut.model_dump(mode="json") for cut in cuts]
    return plan_from(document | {"assumed": assumed})


def _with_room(
    plan: Plan,
    outline: list[Any],
    doors: list[Door],
    assumed: tuple[str, ...],
    behind: tuple[Point, ...] | None,
    on_wall: Callable[[int, float, float], tuple[int, float]],
) -> Plan:
    document = plan.model_dump(mode="json")
    document["walls"]["studs"] = behind
    for part in (*document["walls"]["niches"], *document["walls"]["faces"]):
        width = part.get("width", 0.0)
        part["wall"], part["offset"] = on_wall(part["wall"], part["offset"], width)
    document["room"] |= {
        "outline": outline,
        "doors": [door.model_dump(mode="json") for door in doors],
    }
    return plan_from(document | {"assumed": assumed})
