"""The timbers under a room on plan: joists as they are, trimmers, blocking, what carries them."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache
from math import ceil, cos, floor, radians, sin
from typing import Literal

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import carrier_of
from calm_basin.plan import Plan
from calm_basin.plan.base import Point
from calm_basin.plan.floor import JoistFloor, JoistKind

BEYOND = 300.0
"""Joists go on under the walls, mm: what stands at a wall is held against them too."""

TimberKind = Literal["joist", "trimmer", "blocking", "girder", "wall"]


@dataclass(frozen=True)
class Timber:
    """One timber: its outline on plan, and its top and bottom in mm from the existing deck's top.

    ``number`` is a joist's for people, 1 for the first from the left, or from the foot of the plan;
    ``index`` is how the plan counts it. Both are None for all else. ``made`` is how it is built.
    """

    kind: TimberKind
    outline: Polygon
    top: float
    bottom: float
    number: int | None = None
    index: int | None = None
    made: JoistKind = "sawn"
    plies: int = 1

    @property
    def name(self) -> str:
        """What it is called: joists by their number."""
        return self.kind if self.number is None else f"joist {self.number}"


@dataclass(frozen=True)
class Bays:
    """A floor's own directions: ``along`` its joists and ``across`` them, unit vectors."""

    along: Array
    across: Array

    @classmethod
    def of(cls, joists: JoistFloor) -> Bays:
        angle = radians(joists.direction)
        along = np.array([cos(angle), sin(angle)])
        return cls(along, np.array([-along[1], along[0]]))

    def to(self, points: Array) -> Array:
        """Places on plan, (n, 2), as (along, across)."""
        turned: Array = np.asarray(points) @ np.array([self.along, self.across]).T
        return turned

    def back(self, places: Array) -> Array:
        """Places (along, across), (n, 2), on plan."""
        turned: Array = np.asarray(places) @ np.array([self.along, self.across])
        return turned


def joists_of(plan: Plan) -> tuple[Polygon, ...]:
    """The joists and timbers beside them under the room, as the chart draws them; a slab has
    none."""
    joists = carrier_of(plan).joists
    return () if joists is None else joists_under(joists, plan.room.outline)


@lru_cache(maxsize=16)
def joists_under(joists: JoistFloor, outline: tuple[Point, ...]) -> tuple[Polygon, ...]:
    """Joists and timbers beside them, cut off at a room's walls."""
    room = Polygon(outline)
    shapes = [t.outline for t in timbers_under(joists, outline) if t.kind not in ("girder", "wall")]
    return tuple(part for shape in shapes for part in _parts(shape, room))


def numbered_joists(plan: Plan) -> tuple[tuple[int, Polygon], ...]:
    """The joists alone, each with its number for people: 1 is the first under the room, and one
    that is left out keeps its number."""
    room = Polygon(plan.room.outline)
    return tuple(
        (number, part)
        for timber in timbers_of(plan)
        if (number := timber.number) is not None
        for part in _parts(timber.outline, room)
    )


def _parts(shape: Polygon, room: Polygon) -> list[Polygon]:
    parts = shapely.get_parts(shape.intersection(room))
    return [part for part in parts if isinstance(part, Polygon) and part.area > 0]


def timbers_of(plan: Plan) -> tuple[Timber, ...]:
    """All timbers under a room and a little beyond its walls; a slab has none."""
    joists = carrier_of(plan).joists
    return () if joists is None else timbers_under(joists, plan.room.outline)


@lru_cache(maxsize=32)
def timbers_under(joists: JoistFloor, outline: tuple[Point, ...]) -> tuple[Timber, ...]:
    """All timbers under an outline and a little beyond it."""
    bays, top = Bays.of(joists), -joists.deck_thickness
    bottom = top - joists.depth
    reach, offsets = bays.to(np.array(outline)).T
    low, high = reach.min() - BEYOND, reach.max() + BEYOND
    half = joists.width / 2
    left, right = offsets.min(), offsets.max()
    first = ceil((left - joists.first_offset - half) / joists.centres)
    last = floor((right - joists.first_offset + half) / joists.centres)
    others = {other.number: other for other in joists.others}

    def middle_of(number: int) -> float:
        moved = others[number].moved if number in others else 0.0
        return joists.first_offset + joists.centres * number + moved

    # One whose regular place is beyond the walls stands here once it is moved in or doubled.
    here = {
        other.number
        for other in joists.others
        if left <= middle_of(other.number) + half * other.plies
        and middle_of(other.number) - half * other.plies <= right
    }
    numbers = sorted(here.union(range(first, last + 1)))
    first, last = min(numbers, default=first), max(numbers, default=last)

    def rank(number: int) -> int:
        # People count from the left, or from the foot of the plan where joists run across it.
        x, y = bays.across
        backwards = bool(x < -1e-9 or (abs(x) <= 1e-9 and y < 0))
        return int(last - number if backwards else number - first) + 1

    found = []
    for number in numbers:
        other = others.get(number)
        if other is not None and other.left_out:
            continue
        middle = middle_of(number)
        plies = other.plies if other else 1
        start = low if other is None or other.start is None else other.start
        end = high if other is None or other.end is None else other.end
        if end <= start:
            continue
        wide = half * plies
        corners = bays.back(
            np.array(
                [
                    (start, middle - wide),
                    (end, middle - wide),
                    (end, middle + wide),
                    (start, middle + wide),
                ]
            )
        )
        found.append(
            Timber(
                "joist",
                Polygon(corners),
                top,
                bottom,
                rank(number),
                number,
                joists.joist,
                plies,
            )
        )
    for member in joists.members:
        shape = strip(member.start, member.end, member.width)
        found.append(Timber(member.kind, shape, top, bottom))
    for beam in joists.beams:
        shape = strip(beam.start, beam.end, beam.width)
        lower = bottom if not beam.flush else top
        found.append(Timber(beam.kind, shape, lower, -np.inf))
    return tuple(found)


def regular(joists: JoistFloor | None, timber: Timber) -> float | None:
    """Where a joist's middle stands across the joists where nothing moved it, mm; None of all
    else."""
    if timber.index is None or joists is None:
        return None
    return joists.first_offset + joists.centres * timber.index


def strip(start: Point, end: Point, width: float) -> Polygon:
    """What a straight timber covers on plan."""
    return LineString([start, end]).buffer(width / 2, cap_style="flat")
