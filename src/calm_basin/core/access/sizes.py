"""How large the shower is beside what is asked."""

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
from calm_basin.plan.places import ON_EDGE
from calm_basin.rules import Space
from calm_basin.rules.ruleset import millimetres


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

    def most(self, space: Space, turns: bool) -> tuple[float, float]:
        """The most width at the depth that is asked, and the most depth at the width, mm."""
        slack = 2 * ON_EDGE
        sides = [_sides(self.outline, angle) for angle in self.angles]
        if None not in sides and not shapely.from_wkb(self.taken).area:
            whole = [side for side in sides if side is not None]
            there = [*whole, *(side[::-1] for side in whole)] if turns else whole
            deep = max((d for w, d in there if w >= space.across - slack), default=0.0)
            across = max((w for w, d in there if d >= space.deep - slack), default=0.0)
            return across, deep
        return (
            most_that_fits(lambda w: bool(self.box(w, space.deep, turns)), space.across, slack),
            most_that_fits(lambda d: bool(self.box(space.across, d, turns)), space.deep, slack),
        )


def shower_sizes(ground: Ground, spaces: list[Space]) -> list[Spot]:
    """The sizes that the shower has, of those that are asked; of those that may stand for one
    another and of which it has none, the smallest, with what is missing."""
    shower = _Shower.of(ground)
    groups: dict[tuple[str, ...], list[Space]] = {}
    for space in spaces:
        groups.setdefault((space.weight, *space.users), []).append(space)
    found: list[Spot] = []
    for group in groups.values():
        spots = [spot for space in group if (spot := _fitting(ground, shower, space))]
        smallest = min(group, key=lambda space: space.across * space.deep)
        found += spots or [_missing(shower, smallest)]
    return found


def _turns(space: Space) -> bool:
    """Whether a shower may be entered from either side: one that is entered along its whole width
    has its width there."""
    return not space.entry or millimetres(space.entry) < space.across


def _fitting(ground: Ground, shower: _Shower, space: Space) -> Spot | None:
    box = shower.box(space.across, space.deep, _turns(space))
    entry = millimetres(space.entry) if space.entry else 0.0
    if box is None or shower.wide < entry - 2 * ON_EDGE:
        return None
    shown = shapely.from_wkb(box)
    return Spot(space, shown, True, True, space.deep, steepest_under(ground.surface, shown))


def _missing(shower: _Shower, space: Space) -> Spot:
    across, deep = shower.most(space, _turns(space))
    shown, lacks = Polygon(shower.outline), max(space.deep - deep, 0.0)
    if shower.box(space.across, space.deep, _turns(space)):
        # There is room for it, and its entry is too narrow: so much is missing of its width.
        there = space.across - (millimetres(space.entry) - shower.wide)
        return Spot(space, shown, False, True, there, 0.0, across=True)
    by_width = space.across - across < lacks
    return Spot(space, shown, False, True, across if by_width else deep, 0.0, across=by_width)
