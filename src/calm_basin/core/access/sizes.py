"""How large the shower is beside what is required."""

from __future__ import annotations

from dataclasses import dataclass
from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.access.fitting import (
    middles_of,
    most_that_fits,
    turned,
)
from calm_basin.core.access.floor import (
    steepest_under,
)
from calm_basin.core.access.ground import Ground, Spot
from calm_basin.rules import TRADE, Space
from calm_basin.tolerances import ON_EDGE


@lru_cache(maxsize=1024)
def _size_fits(
    outline: tuple[tuple[float, float], ...],
    taken: bytes,
    angles: tuple[float, ...],
    size: tuple[float, float],
    turns: bool,
) -> bytes | None:
    zone = Polygon(outline).difference(shapely.from_wkb(taken))
    bounds = zone.bounds
    if not bounds or max(size) > np.hypot(bounds[2] - bounds[0], bounds[3] - bounds[1]):
        return None
    for angle in angles:
        along = turned(zone, angle)
        for across, deep in (size, size[::-1])[: 2 if turns else 1]:
            middles = middles_of(along, across, deep)
            if not middles.is_empty:
                middle = middles.representative_point()
                (x, y), half, over = middle.coords[0], across / 2, deep / 2
                box = shapely.box(x - half, y - over, x + half, y + over)
                found: bytes = turned(box, -angle).wkb
                return found
    return None


@lru_cache(maxsize=64)
def _sides(outline: tuple[tuple[float, float], ...], angle: float) -> tuple[float, float] | None:
    """Width along an angle and depth of an outline that is a rectangle there; None of another."""
    along = turned(Polygon(outline), angle)
    left, low, right, high = along.bounds
    width, depth = right - left, high - low
    return (width, depth) if width * depth - along.area < ON_EDGE * (width + depth) else None


@dataclass(frozen=True)
class _Shower:
    """The shower as sizes are tried in it: its outline, what stands in it, along which directions
    it is entered, and over how much at once."""

    outline: tuple[tuple[float, float], ...]
    taken: bytes
    angles: tuple[float, ...]
    wide: float

    @classmethod
    def of(cls, ground: Ground) -> _Shower:
        outline, entries = ground.plan.shower.outline, ground.plan.shower.entries
        corners = np.array(outline)
        along = np.roll(corners, -1, axis=0)[list(entries)] - corners[list(entries)]
        taken = Polygon(outline).difference(shapely.union_all(ground.parts)).wkb
        angles = tuple(float(angle) for angle in np.arctan2(along[:, 1], along[:, 0]))
        return cls(outline, taken, angles, float(np.hypot(*along.T).max()))

    def box(self, across: float, deep: float, turns: bool) -> bytes | None:
        """A rectangle of this size in the shower, as its shape; None where there is no room."""
        return _size_fits(self.outline, self.taken, self.angles, (across, deep), turns)

    def short(self, space: Space) -> tuple[float, float]:
        """What there is of the width and of the depth that a space asks, mm, where least is
        missing of both: of each as much as is asked, or less."""
        slack, turns = 2 * ON_EDGE, _turns(space)
        sides = self.sides()
        if sides:
            there = [*sides, *(side[::-1] for side in sides)] if turns else sides
            held = [(min(w, space.across), min(d, space.deep)) for w, d in there]
            return max(held, key=lambda one: (round(sum(one), 6), min(one)))
        across = most_that_fits(lambda w: bool(self.box(w, space.deep, turns)), space.across, slack)
        deep = most_that_fits(lambda d: bool(self.box(space.across, d, turns)), space.deep, slack)
        if across > 0 or deep > 0:
            by_width = space.across - across < space.deep - deep
            return (across, space.deep) if by_width else (space.across, deep)
        # There is too little of both: so much of a rectangle of this form has room.
        size = most_that_fits(
            lambda w: bool(self.box(w, w / space.across * space.deep, turns)), space.across, slack
        )
        return size, size / space.across * space.deep

    def sides(self) -> list[tuple[float, float]]:
        """Width and depth as it is entered, where it is a rectangle with nothing in it."""
        sides = [_sides(self.outline, angle) for angle in self.angles]
        if None in sides or shapely.from_wkb(self.taken).area:
            return []
        return [side for side in sides if side is not None]

    def larger(self, space: Space) -> bool:
        """Whether it is larger than a space that is to be just so large."""
        more = TRADE.practice.as_built.value
        most = space.across + more, space.deep + more
        sides = self.sides()
        return space.exact and all(w > most[0] or d > most[1] for w, d in sides) and bool(sides)


def shower_sizes(ground: Ground, spaces: list[Space]) -> list[Spot]:
    """The sizes that the shower has, of those that are asked; of those that may stand for one
    another and of which it has none, the one of which least is missing."""
    shower = _Shower.of(ground)
    groups: dict[tuple[str, ...], list[Space]] = {}
    for space in spaces:
        groups.setdefault((space.weight, *space.users), []).append(space)
    found: list[Spot] = []
    for group in groups.values():
        spots = [spot for space in group if (spot := _fitting(ground, shower, space))]
        found += spots or [_missing(shower, group)]
    return found


def _turns(space: Space) -> bool:
    """Whether a shower may be entered from either side: one of which an entry is asked has it on
    its width."""
    return not space.entry


def _fitting(ground: Ground, shower: _Shower, space: Space) -> Spot | None:
    box = shower.box(space.across, space.deep, _turns(space))
    entry = space.opening
    if box is None or shower.wide < entry - 2 * ON_EDGE or shower.larger(space):
        return None
    shown = shapely.from_wkb(box)
    return Spot(space, shown, True, True, space.deep, steepest_under(ground.surface, shown))


def _missing(shower: _Shower, group: list[Space]) -> Spot:
    """Of the spaces that stand for one another the one of which least is missing."""
    near = [space for space in group if not shower.larger(space)] or group
    held = [(space, *shower.short(space)) for space in near]
    space, across, deep = min(
        held,
        key=lambda one: (
            round(one[0].across - one[1] + one[0].deep - one[2], 6),
            one[0].across * one[0].deep,
        ),
    )
    shown, lacks = Polygon(shower.outline), (space.across - across, space.deep - deep)
    if max(lacks) <= 2 * ON_EDGE:
        # There is room for it, and its entry is too narrow: so much is missing of its width.
        entry = space.opening
        there = space.across - max(entry - shower.wide, 0.0)
        return Spot(space, shown, False, True, there, 0.0, across=True)
    by_width = lacks[0] > lacks[1]
    other = (deep if by_width else across) if min(lacks) > 2 * ON_EDGE else None
    there = across if by_width else deep
    return Spot(space, shown, False, True, there, 0.0, across=by_width, other=other)
