"""One wall from inside the room: its studs, what hangs on it, niches, backing. Numbers only.

Places on a wall are x from the left end of its studs, as seen from inside, and y up from the
finished floor, mm.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from math import cos, radians, sin
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import LinearRing, LineString

from calm_basin.core.kinds import former_of
from calm_basin.plan import Plan
from calm_basin.plan.backs import Side, footprint
from calm_basin.plan.base import Outline
from calm_basin.plan.blocks import Block
from calm_basin.plan.common import CommonSizes
from calm_basin.plan.framing import shower_stretches, studs, wall_depths
from calm_basin.plan.room import Fixture
from calm_basin.rules import TRADE
from calm_basin.tolerances import AT_WALL, ON_EDGE

FACES = 0.9
"""Cosine of the angle by which a thing's front may be off the wall that it hangs on."""

USUAL_CENTRES = (400.0, 16.0)
"""How far apart studs are, in mm and in inches (common practice, no source)."""

USUAL_HEIGHT = (2100.0, 84.0)
"""How high a shower's walls are boarded, in mm and in inches (common practice, no source)."""


class Span(NamedTuple):
    """From and to along a wall or up it, mm."""

    low: float
    high: float

    @property
    def size(self) -> float:
        return self.high - self.low


class Box(NamedTuple):
    """A rectangle on a wall."""

    x: Span
    y: Span


class Hung(NamedTuple):
    """What is fixed to a wall: its number among the fixtures, from and to along the wall, and the
    height of its middle; None where nobody gave it."""

    number: int
    kind: str
    x: Span
    y: float | None


class Backing(NamedTuple):
    """A piece of timber between two studs: what it is for, None for the tray's perimeter."""

    box: Box
    hung: Hung | None


@dataclass(frozen=True)
class WallFrame:
    """A wall from inside. ``length`` is that of its studs, ``finished`` that of its face."""

    wall: int
    length: float
    finished: float
    depth: float
    middles: tuple[float, ...]
    width: float
    shower: tuple[Span, ...]
    niches: tuple[tuple[int, Box], ...]
    hung: tuple[Hung, ...]
    perimeter: Span | None
    """From and to up the wall, of the blocking round a tray; None where there is none."""

    block: Block | None = None
    """The bench or half wall of which it is a face, ``wall`` then counts those; None: a wall."""

    high: float | None = None
    """How high it is, or a top how deep, mm; None: as high as walls are boarded."""

    @property
    def studs(self) -> tuple[Span, ...]:
        """From and to of each stud."""
        return tuple(Span(x - self.width / 2, x + self.width / 2) for x in self.middles)

    @property
    def bays(self) -> tuple[Span, ...]:
        """What is clear between studs."""
        return bays(self.studs)

    @cached_property
    def backing(self) -> tuple[Backing, ...]:
        """Every piece between studs, from the left and from below."""
        return tuple(self._backing())

    def _backing(self) -> Iterator[Backing]:
        if self.perimeter is not None:
            for bay in self.bays:
                if any(_overlap(bay, span) > ON_EDGE for span in self.shower):
                    yield Backing(Box(bay, self.perimeter), None)
        high = TRADE.walls.backing_height.value
        beyond = TRADE.walls.backing_beyond.value
        for one in self.hung:
            if one.y is None or one.kind == "screen":
                continue
            wanted = Span(one.x.low - beyond, one.x.high + beyond)
            up = Span(one.y - high / 2, one.y + high / 2)
            for bay in self.bays:
                if _overlap(bay, wanted) > ON_EDGE:
                    yield Backing(Box(bay, up), one)

    @property
    def added(self) -> tuple[float, ...]:
        """Middles of studs that are added behind the edge of glass, where none stands."""
        edges = [(one.x.low + one.x.high) / 2 for one in self.hung if one.kind == "screen"]
        half = self.width / 2
        inside = [min(max(x, half), self.length - half) for x in edges]
        return tuple(
            x for x in inside if all(abs(x - there) > self.width / 2 for there in self.middles)
        )

    @property
    def pipes(self) -> tuple[float, ...]:
        """Where pipes rise in it: behind each valve and shower head."""
        return tuple(
            (one.x.low + one.x.high) / 2 for one in self.hung if one.kind in ("control", "head")
        )


def bays(standing: Sequence[Span]) -> tuple[Span, ...]:
    """What is clear between studs, from left to right."""
    return tuple(
        Span(left.high, right.low)
        for left, right in pairwise(standing)
        if right.low - left.high > ON_EDGE
    )


def _overlap(one: Span, other: Span) -> float:
    return min(one.high, other.high) - max(one.low, other.low)


def stud_middles(length: float, centres: float, width: float) -> tuple[float, ...]:
    """Middles of the studs of a wall: one flush with each end, between them one every ``centres``
    from the left end, as boards are laid out."""
    last = length - width / 2
    if length < 2 * width:
        return (length / 2,)
    between = [float(x) for x in np.arange(centres, last, centres)]
    if between and between[-1] > last - width:
        # What would stand into the last one stands beside it.
        between[-1] = last - width
    return (width / 2, *between, last)


def stud_centres(plan: Plan) -> float:
    """How far apart the plan's studs are, middle to middle, mm."""
    return plan.walls.centres or CommonSizes(plan.display.length).size(*USUAL_CENTRES)


def board_height(plan: Plan) -> float:
    """How high the shower's walls are boarded, mm."""
    usual = CommonSizes(plan.display.length).size(*USUAL_HEIGHT)
    return plan.walls.height or plan.membrane.walls or usual


def unfolded(walls: Sequence[int], room: Outline) -> list[int]:
    """Walls from left to right as somebody sees them who stands inside and turns, begun where the
    wall to the left is none of them."""
    step = 1 if LinearRing(room).is_ccw else -1
    first = next((one for one in walls if (one + step) % len(room) not in walls), 0)
    return sorted(walls, key=lambda one: (first - one) * step % len(room))


def frames(plan: Plan) -> tuple[WallFrame, ...]:
    """Every wall of a room."""
    return tuple(frame(plan, wall) for wall in range(len(plan.room.outline)))


def frame(plan: Plan, wall: int) -> WallFrame:
    """One wall of a room."""
    width = TRADE.walls.stud_width.value
    seen = _Seen(plan.room.outline, studs(plan), wall)
    edge, above = TRADE.walls.perimeter_height.value, TRADE.walls.perimeter_above.value
    niches = tuple(
        (number, Box(seen.along(one.offset, one.offset + one.width), _up(one.sill, one.height)))
        for number, one in enumerate(plan.walls.niches)
        if one.wall == wall
    )
    return WallFrame(
        wall=wall,
        length=seen.framed.length,
        finished=seen.face.length,
        depth=wall_depths(plan)[wall],
        middles=stud_middles(seen.framed.length, stud_centres(plan), width),
        width=width,
        shower=tuple(
            seen.to_ends(one.start, one.end) for one in shower_stretches(plan) if one.wall == wall
        ),
        niches=niches,
        hung=tuple(_hung(plan, seen)),
        perimeter=Span(above - edge, above) if former_of(plan.shower).one_piece else None,
    )


def _up(sill: float, height: float) -> Span:
    return Span(sill, sill + height)


class _Seen:
    """A wall's face and its studs, and how places along the face lie as seen from inside."""

    def __init__(self, outline: Outline, framed: Outline, wall: int) -> None:
        self.face, self.framed = Side.of(outline, wall), Side.of(framed, wall)
        # Who stands inside and looks at a wall has its way inwards behind: left is then the way in
        # which an outline runs that goes round against the clock.
        along, inward = self.face.along, self.face.inward
        self.runs_left = along[0] * inward[1] - along[1] * inward[0] > 0

    def along(self, first: float, last: float) -> Span:
        """From and to, seen from inside, of what lies from and to along the face."""
        return self.of(LineString([self.face.start + self.face.along * at for at in (first, last)]))

    def to_ends(self, first: float, last: float) -> Span:
        """The same; what goes on to an end of the face goes on to that of the studs."""
        found = self.along(first, last)
        ends = (first <= 0, last >= self.face.length - ON_EDGE)
        at_left, at_right = ends[::-1] if self.runs_left else ends
        return Span(0.0 if at_left else found.low, self.framed.length if at_right else found.high)

    def _at(self, places: np.ndarray) -> np.ndarray:
        """How far along the studs places on plan, (n, 2), lie, from the left."""
        along: np.ndarray = (places - self.framed.start) @ self.framed.along
        return self.framed.length - along if self.runs_left else along

    def of(self, shape: shapely.Geometry) -> Span:
        """From and to of a shape on plan."""
        places = self._at(shapely.get_coordinates(shape))
        return Span(float(places.min()), float(places.max()))


def _hung(plan: Plan, seen: _Seen) -> Iterator[Hung]:
    side, known = seen.face, TRADE.walls.backing
    line = LineString([side.start, side.start + side.along * side.length])
    for number, fixture in enumerate(plan.room.fixtures):
        if fixture.kind not in known:
            continue
        shape = footprint(fixture)
        if line.distance(shape) > AT_WALL:
            continue
        if fixture.kind == "screen":
            touching = shape.intersection(line.buffer(2 * AT_WALL, cap_style="flat"))
            # Glass along a wall is none that stands at it with its edge.
            if touching.is_empty or seen.of(touching).size > fixture.width / 2:
                continue
            yield Hung(number, fixture.kind, seen.of(touching), None)
        elif _faces(fixture) @ side.inward >= FACES:
            yield Hung(number, fixture.kind, seen.of(shape), fixture.height or None)


def _faces(fixture: Fixture) -> np.ndarray:
    angle = radians(fixture.turn)
    return np.array([-sin(angle), cos(angle)])
