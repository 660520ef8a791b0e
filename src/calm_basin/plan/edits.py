"""Corners added to and taken from outlines, with all that names sides by number following."""

from __future__ import annotations

from math import hypot
from typing import Any, Literal

from calm_basin.plan.base import Point
from calm_basin.plan.document import Plan
from calm_basin.plan.reading import PlanError, Problem, plan_from
from calm_basin.plan.room import Door
from calm_basin.plan.shower import SideCut, Tray

Which = Literal["room", "shower"]


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

    if which == "shower":
        entries = [
            e for i in plan.shower.entries for e in ((i, i + 1) if i == side else (moved(i),))
        ]
        cuts = [
            cut.model_copy(update={"edge": edge})
            for cut in _cuts(plan)
            for edge in ((cut.edge, cut.edge + 1) if cut.edge == side else (moved(cut.edge),))
        ]
        return _with_shower(plan, new, entries, cuts)
    doors = [
        door.model_copy(update={"wall": side + 1, "offset": max(door.offset - at, 0.0)})
        if door.wall == side and door.offset >= at - 1e-6
        else door.model_copy(update={"wall": moved(door.wall)})
        for door in plan.room.doors
    ]
    return _with_room(plan, new, doors)


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

    if which == "shower":
        entries = list(dict.fromkeys(moved(i) for i in plan.shower.entries))
        widest: dict[int, SideCut] = {}
        for cut in _cuts(plan):
            edge = moved(cut.edge)
            if edge not in widest or cut.width > widest[edge].width:
                widest[edge] = cut.model_copy(update={"edge": edge})
        return _with_shower(plan, new, entries, list(widest.values()))
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
    return _with_room(plan, new, doors)


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


def _with_shower(plan: Plan, outline: list[Any], entries: list[int], cuts: list[SideCut]) -> Plan:
    document = plan.model_dump(mode="json")
    document["shower"] |= {"outline": outline, "entries": entries}
    if cuts:
        document["shower"]["former"]["cuts"] = [cut.model_dump(mode="json") for cut in cuts]
    return plan_from(document)


def _with_room(plan: Plan, outline: list[Any], doors: list[Door]) -> Plan:
    document = plan.model_dump(mode="json")
    document["room"] |= {
        "outline": outline,
        "doors": [door.model_dump(mode="json") for door in doors],
    }
    return plan_from(document)
