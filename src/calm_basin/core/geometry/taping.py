"""Where places are found again with a tape: from two walls, and a check measure that shows a slip.

Everything is measured in sight: no tape runs through a wall, and none to a wall that ends before
it is reached.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import cached_property, lru_cache
from typing import Literal, NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

from calm_basin.core.geometry.surface import Array
from calm_basin.plan.base import Outline, Point
from calm_basin.tolerances import ON_EDGE

ACROSS = 0.5
"""Walls whose directions differ by more than this sine, 30°, give a place."""

SEES = 0.4
"""A check measure that grows or shrinks by this share of a slip, or more, shows it: of two walls
that stand square one between 24° and 66°, a diagonal."""

BLIND = 0.1
"""One that shows less of a slip is none."""

NEAR, FAR = 50.0, 5000.0
"""A check measure is no shorter and no longer than this, mm."""

MOST_TRIED = 12
"""How many check measures are held against the walls, the likeliest first."""


class Measure(NamedTuple):
    """One measure of a place, mm: square from a ``wall``; along a ``wall`` from a ``corner``; or
    straight from a ``corner``. Walls and corners are counted from 0."""

    kind: Literal["from", "along", "straight"]
    wall: int
    corner: int
    value: float


class Taped(NamedTuple):
    """How a place is found: two measures, and how it moves, (2, 2), as each of them does: row i
    is the way in which measure i grows, mm a mm. ``outside`` tells that the first is behind its
    wall."""

    first: Measure
    second: Measure
    ways: Array
    outside: bool

    @property
    def on_wall(self) -> bool:
        """Whether it lies on its first wall."""
        return self.first.kind == "from" and self.first.value == 0.0

    @property
    def in_corner(self) -> bool:
        """Whether it is a corner of the room itself."""
        return self.on_wall and self.second.value <= ON_EDGE


class Check(NamedTuple):
    """A measure between a place and another that is there already: ``other`` counts the room's
    corners first, then the places before. ``sees`` is the least share of a slip in either measure
    by which it changes."""

    other: int
    value: float
    sees: float


class Walls:
    """The walls of a room as a tape meets them: ``outline`` (n, 2) either way round."""

    def __init__(self, outline: Outline) -> None:
        self.corners: Array = np.array(outline, dtype=float)
        across = np.roll(self.corners, -1, axis=0) - self.corners
        self.lengths: Array = np.hypot(*across.T)
        self.along: Array = across / self.lengths[:, None]
        room = Polygon(self.corners)
        way = 1.0 if room.exterior.is_ccw else -1.0
        self.inward: Array = way * np.column_stack([-self.along[:, 1], self.along[:, 0]])
        self.room: Polygon = room.buffer(ON_EDGE, join_style="mitre")
        shapely.prepare(self.room)

    def sees(self, starts: Array, ends: Array) -> NDArray[np.bool_]:
        """Whether a tape runs free between two places each, (n, 2)."""
        lines = shapely.linestrings(np.stack([starts, ends], axis=1))
        free: NDArray[np.bool_] = shapely.covers(self.room, lines)
        return free

    def taped(self, places: Array | Sequence[Point]) -> list[Taped]:
        """How each of some places, (n, 2), is found.

        Square from the two nearest walls that stand across each other, so far as their feet can
        be reached; else from one wall and along it; else straight from two corners.
        """
        places = np.asarray(places, dtype=float).reshape(-1, 2)
        apart = places[:, None] - self.corners[None]
        run = (apart * self.along[None]).sum(axis=2)
        off = (apart * self.inward[None]).sum(axis=2)
        met = (run >= -ON_EDGE) & (run <= self.lengths[None] + ON_EDGE)
        feet = self.corners[None] + np.clip(run, 0, self.lengths)[..., None] * self.along[None]
        which, wall = np.nonzero(met)
        inside = shapely.contains_xy(self.room, places)
        free = np.zeros_like(met)
        free[which, wall] = self.sees(places[which], feet[which, wall])
        # Behind a wall there is nothing to see along.
        free[~inside] = met[~inside]
        return [
            self._one(place, run[i], off[i], free[i], inside=bool(inside[i]))
            for i, place in enumerate(places)
        ]

    @cached_property
    def frame(self) -> tuple[int, int]:
        """The two walls that meet in the first corner, or in the one that is most nearly square
        where that is too sharp or too blunt to measure from."""
        cross = np.abs((np.roll(self.along, 1, axis=0) * self.inward).sum(axis=1))
        corner = 0 if cross[0] > ACROSS else int(cross.argmax())
        return (corner - 1) % len(self.corners), corner

    def framed(self, first: float, second: float) -> Taped:
        """How a place is found that lies so far from the two walls of the `frame`, mm."""
        one, other = self.frame
        return Taped(
            Measure("from", one, one, first),
            Measure("from", other, other, second),
            self.inward[[one, other]],
            outside=False,
        )

    def typed(self, places: Array | Sequence[Point]) -> list[Taped]:
        """How each of some places, (n, 2), is typed: square from the walls of the `frame` so far
        as their feet can be reached, else as a tape finds it, but never straight from corners."""
        places = np.asarray(places, dtype=float).reshape(-1, 2)
        pair = list(self.frame)
        inward = self.inward[pair]
        off = places @ inward.T - (self.corners[pair] * inward).sum(axis=1)
        feet = places[:, None] - off[..., None] * inward[None]
        starts = np.broadcast_to(places[:, None], feet.shape)
        seen = self.sees(starts.reshape(-1, 2), feet.reshape(-1, 2)).reshape(-1, 2).all(axis=1)
        framed = [self.framed(float(first), float(second)) for first, second in off]
        hidden = np.flatnonzero(~seen)
        for i, how in zip(hidden, self.taped(places[hidden]), strict=True):
            if how.first.kind != "straight":
                framed[i] = how
        return framed

    def _one(
        self, place: Array, run: Array, off: Array, free: NDArray[np.bool_], *, inside: bool
    ) -> Taped:
        # Measures that differ by rounding take the walls in their order.
        nearest = [int(i) for i in np.argsort(np.abs(off).round(3), kind="stable") if free[i]]
        if not nearest:
            return self._straight(place)
        first = nearest[0]
        on_wall = abs(off[first]) <= ON_EDGE
        if inside and not on_wall:
            for second in nearest[1:]:
                cross = abs(np.linalg.det([self.along[first], self.along[second]]))
                if cross > ACROSS and abs(off[second]) > ON_EDGE:
                    return Taped(
                        Measure("from", first, first, float(off[first])),
                        Measure("from", second, second, float(off[second])),
                        self.inward[[first, second]],
                        outside=False,
                    )
        # A middle is taped from the same end however the room is turned.
        ahead = run[first] <= self.lengths[first] / 2 + 1e-3
        corner = first if ahead else (first + 1) % len(self.corners)
        along = float(run[first] if ahead else self.lengths[first] - run[first])
        way = self.along[first] if ahead else -self.along[first]
        return Taped(
            Measure("from", first, first, 0.0 if on_wall else abs(float(off[first]))),
            Measure("along", first, corner, max(along, 0.0)),
            np.array([self.inward[first] * (1 if off[first] >= 0 else -1), way]),
            outside=not inside,
        )

    def _straight(self, place: Array) -> Taped:
        away = np.hypot(*(place - self.corners).T)
        seen = self.sees(np.broadcast_to(place, self.corners.shape), self.corners)
        order = sorted(range(len(away)), key=lambda i: (not seen[i], round(float(away[i]), 3), i))
        first = order[0]
        ways = (place - self.corners) / np.maximum(away, 1e-9)[:, None]
        crossing = [i for i in order[1:] if abs(np.linalg.det(ways[[first, i]])) > ACROSS]
        second = (crossing or order[1:])[0]
        return Taped(
            Measure("straight", first, first, float(away[first])),
            Measure("straight", second, second, float(away[second])),
            ways[[first, second]],
            outside=False,
        )

    def checks(
        self, places: Array, taped: Sequence[Taped], there: NDArray[np.bool_]
    ) -> list[Check | None]:
        """For each place, (n, 2), the measure that shows a slip in how it was ``taped``: to a
        corner of the room or to one of the places before it that are still ``there``, (n,).

        Notes
        -----
        A place is p with N p = measures, so a slip e in measure i moves it by N⁻¹ eᵢ; the way u to
        another place changes by u·N⁻¹ eᵢ. The nearest in sight is taken that shows the worse of the
        two by `SEES` or more, else the one that shows most.
        """
        if not len(places):
            return []
        count = len(self.corners)
        others = np.vstack([self.corners, places])
        ways = np.array([how.ways for how in taped])
        apart = places[:, None] - others[None]
        away = np.hypot(apart[..., 0], apart[..., 1])
        may = (away >= NEAR) & (away <= FAR)
        # Only what is there already, and not what the place was taped from.
        may &= np.arange(len(others))[None] < count + np.arange(len(places))[:, None]
        may[:, count:] &= there[None]
        for k, how in enumerate(taped):
            may[k, [m.corner for m in (how.first, how.second) if m.kind != "from"]] = False
        sound = np.abs(np.linalg.det(ways)) > 1e-6
        may &= (sound & [not how.in_corner for how in taped])[:, None]
        ways[~sound] = np.eye(2)
        shown = np.abs((apart / np.maximum(away, 1e-9)[..., None]) @ np.linalg.inv(ways))
        # On a wall only the measure along it can slip.
        on_wall = np.array([how.on_wall for how in taped])[:, None]
        sees = np.where(on_wall, shown[..., 1], shown.min(axis=2))
        may &= sees >= BLIND
        # The nearest that shows enough, to a thousandth; then the one that shows most.
        rank = np.where(sees >= SEES, away.round(3), 2 * FAR - FAR * sees.round(6))
        rank[~may] = np.inf
        return [
            self._first_seen(place, others, rank[k], away[k], sees[k], free=bool(free))
            for k, (place, free) in enumerate(
                zip(places, self.sees(places, others[rank.argmin(axis=1)]), strict=True)
            )
        ]

    def _first_seen(
        self, place: Array, others: Array, rank: Array, away: Array, sees: Array, *, free: bool
    ) -> Check | None:
        """The measure to the first of other places, (m, 2), by their ``rank``, (m,), that is in
        sight; ``free`` whether the very first is."""
        best = int(rank.argmin())
        if not np.isfinite(rank[best]):
            return None
        if not free:
            order = np.argsort(rank, kind="stable")[:MOST_TRIED]
            order = order[np.isfinite(rank[order])]
            clear = self.sees(np.broadcast_to(place, (len(order), 2)), others[order])
            if not clear.any():
                return None
            best = int(order[clear.argmax()])
        return Check(best, float(away[best]), float(sees[best]))


@lru_cache(maxsize=64)
def walls_of(outline: Outline) -> Walls:
    """The walls of a room's outline."""
    return Walls(outline)
