"""The spaces that the rules ask of a plan: where each lies best, and what is missing of it."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Iterator
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.access.fitting import (
    FreeStrip,
    most_that_fits,
)
from calm_basin.core.access.floor import (
    Facing,
    back_of,
    doorway,
    front_of,
    steepest_under,
    sweeps_of,
)
from calm_basin.core.access.ground import Ground, Spot, asked_spaces
from calm_basin.core.access.sizes import shower_sizes
from calm_basin.core.geometry.solid import solid
from calm_basin.plan.backs import Side
from calm_basin.plan.room import Door, Fixture
from calm_basin.rules import Space, SpaceTopic
from calm_basin.tolerances import ON_EDGE, SHARE_ROUNDED

NEAR = 1000.0
"""A fixture that would have to be moved farther than this, mm, is not moved."""


AT: dict[SpaceTopic, tuple[str, Callable[[Fixture], Facing]]] = {
    "before_wc": ("WC", front_of),
    "around_wc": ("WC", back_of),
    "before_basin": ("basin", front_of),
}
"""Spaces at fixtures: of which kind, and from where they are measured."""


def spots(ground: Ground) -> list[Spot]:
    """Every space that a plan needs: of those that may stand for one another the best."""
    return [
        *_shower(ground),
        *(spot for topic in AT for spot in _at_fixtures(ground, topic)),
        *_at_doors(ground),
    ]


def _best(found: Iterable[Spot]) -> Iterator[Spot]:
    """Of spaces that may stand for one another (of one weight, for the same users) the one that
    fits, else the one of which least is missing."""
    ranked: dict[tuple[str, ...], list[Spot]] = {}
    for spot in found:
        ranked.setdefault((spot.space.weight, *spot.space.users), []).append(spot)
    for group in ranked.values():
        yield max(group, key=_worth)


def _worth(spot: Spot) -> tuple[bool, bool, float, float]:
    missing = (spot.space.across if spot.across else spot.space.deep) - spot.free
    return spot.fits and spot.gentle, spot.fits, -missing, spot.space.across * spot.space.deep


def _shower(ground: Ground) -> Iterator[Spot]:
    """The shower's own size, and the floor before its entries."""
    asked = asked_spaces(ground, "shower_size")
    sizes = shower_sizes(ground, asked)
    yield from _best(sizes)
    types = {space.applies_to for space in asked}
    fitting = {spot.space.applies_to for spot in sizes if spot.fits}
    outside = ground.parts[0].difference(Polygon(ground.plan.shower.outline))
    before = [
        spot
        for space in asked_spaces(ground, "before_shower")
        if space.applies_to not in types - fitting
        for spot in _before_entries(ground, space, outside)
    ]
    yield from _best(before)


def _before_entries(ground: Ground, space: Space, outside: shapely.Geometry) -> Iterator[Spot]:
    outline = ground.plan.shower.outline
    found = []
    for i in ground.plan.shower.entries:
        side = Side.of(outline, i)
        frame = Facing(side.start, side.along, -side.inward)
        low, high = sorted((0.0, side.length - space.across))
        found.append(_anchored(ground, space, frame, (low, high), outside))
    yield from _best(found)


def _at_fixtures(ground: Ground, topic: SpaceTopic) -> Iterator[Spot]:
    kind, frame_of = AT[topic]
    spaces = asked_spaces(ground, topic)
    for number, fixture in enumerate(ground.plan.room.fixtures if spaces else ()):
        if fixture.kind != kind:
            continue
        floor = ground.without(number) if topic == "around_wc" else ground.parts[0]
        half = fixture.width / 2
        found = []
        for space in spaces:
            low, high = sorted((half - space.across, -half))
            found.append(
                _anchored(ground, space, frame_of(fixture), (low, high), floor, fixture=number)
            )
        yield from _best(found)


def _at_doors(ground: Ground) -> Iterator[Spot]:
    for number, door in enumerate(ground.plan.room.doors):
        spaces = asked_spaces(ground, "door_pull" if door.sweeps else "door_push")
        frame = doorway(ground.plan.room, door)
        for space in spaces:
            # Before the opening itself, and beside the latch.
            whole = space.model_copy(update={"width": f"{door.width:.4f}mm", "latch": ""})
            yield _anchored(ground, whole, frame, (0.0, 0.0), ground.parts[0], door=number)
            beside = space.beside
            if beside:
                strip = space.model_copy(update={"width": space.latch})
                yield _beside_latch(ground, strip, frame, door, number)


def _beside_latch(ground: Ground, space: Space, frame: Facing, door: Door, number: int) -> Spot:
    start = door.width
    floor = ground.parts[0]

    strip = FreeStrip(floor, frame, start, start + space.across, space.deep)

    def free(across: float) -> bool:
        return bool(strip.starts(across, start, start))

    fits = free(space.across)
    there = space.across if fits else most_that_fits(free, space.across, ON_EDGE)
    outline = frame.rectangle(start, space.across, space.deep)
    fall = steepest_under(ground.surface, outline)
    return Spot(space, outline, fits, _gentle(ground, fall), there, fall, door=number, across=True)


def _gentle(ground: Ground, fall: float) -> bool:
    return ground.most is None or fall <= ground.most * (1 + SHARE_ROUNDED)


def _anchored(
    ground: Ground,
    space: Space,
    frame: Facing,
    reach: tuple[float, float],
    floor: shapely.Geometry,
    *,
    fixture: int | None = None,
    door: int | None = None,
) -> Spot:
    """A space that may slide along what it is at: on gentle floor that no door swings over, if it
    can be."""
    far = (reach[0] - NEAR, reach[1] + NEAR + space.across)
    sweeps = Polygon() if door is not None else sweeps_of(ground.plan.room)
    place = _lying(
        (space.across, space.deep),
        tuple(float(one) for vector in frame for one in vector),
        reach,
        *(_round(frame, far, space.deep, part).wkb for part in (floor, ground.steep, sweeps)),
    )
    outline = frame.rectangle(place.start, space.across, space.deep)
    fall = steepest_under(ground.surface, outline) if place.fits else 0.0
    return Spot(
        space,
        outline,
        place.fits,
        _gentle(ground, fall) if place.fits else True,
        place.free,
        fall,
        fixture,
        door,
        shift=place.shift,
        swept=place.may_be_swept and outline.intersection(sweeps).area > ON_EDGE,
    )


class _Lying(NamedTuple):
    """Where a space lies along what it is at, mm from its frame; ``free`` and ``shift`` are those
    of its spot."""

    start: float
    fits: bool
    free: float
    shift: float | None = None
    may_be_swept: bool = False


@lru_cache(maxsize=512)
def _lying(
    size: tuple[float, float],
    facing: tuple[float, ...],
    reach: tuple[float, float],
    floor: bytes,
    steep: bytes,
    sweeps: bytes,
) -> _Lying:
    """Where a space lies on the floor round it; a change elsewhere in the room leaves it there."""
    across, deep = size
    frame = Facing(*np.array(facing).reshape(3, 2))
    whole, steep_part, swept = (shapely.from_wkb(part) for part in (floor, steep, sweeps))
    gentle = whole.difference(steep_part) if not steep_part.is_empty else whole
    tries = [(gentle, not swept.is_empty)]
    if not swept.is_empty:
        tries.insert(0, (gentle.difference(swept), False))
    if not steep_part.is_empty:
        tries.append((whole, not swept.is_empty))
    ends = (reach[0], reach[1] + across)
    for on, may_be_swept in tries:
        free = FreeStrip(on, frame, *ends, deep).starts(across, *reach)
        if free:
            return _Lying(_middlemost(free, reach), True, deep, may_be_swept=may_be_swept)

    # What lies farther along is looked at too: how far would what it is at have to go?
    far = (reach[0] - NEAR, reach[1] + NEAR)
    strip = FreeStrip(whole, frame, far[0], far[1] + across, deep)

    def deep_enough(depth: float) -> bool:
        return bool(strip.starts(across, *reach, depth))

    there = most_that_fits(deep_enough, deep, ON_EDGE)
    free = strip.starts(across, *reach, there) if there > 0 else []
    start = _middlemost(free, reach) if free else sum(reach) / 2
    wider = strip.starts(across, *far)
    shifts = [first - reach[1] for first, _ in wider if first > reach[1]]
    shifts += [last - reach[0] for _, last in wider if last < reach[0]]
    return _Lying(start, False, there, min(shifts, key=abs, default=None))


def _round(
    frame: Facing, stretch: tuple[float, float], depth: float, shape: shapely.Geometry
) -> shapely.Geometry:
    """As much of a shape as lies in a box round a stretch of a frame."""
    low, high = stretch
    left, bottom, right, top = frame.rectangle(low, high - low, depth).bounds
    # Wider by more than what may stand on an edge.
    box = shapely.box(left - 1.0, bottom - 1.0, right + 1.0, top + 1.0)
    return shape if shape.is_empty else solid(np.array([shape.intersection(box)]))[0]


def _middlemost(free: list[tuple[float, float]], reach: tuple[float, float]) -> float:
    middle = sum(reach) / 2
    return min((min(max(middle, a), b) for a, b in free), key=lambda s: abs(s - middle))
