"""The least grinding and filling that brings every plane back between its limits.

After the work each plane is a plane again. Its tilt and its height are what is looked for, so that
planes meet at the planned folds, the drain stays where it is, what is stepped over stays within its
limit and no bed gets too thin; among all such floors the one for which least is moved. That is a
linear programme but for the steepest fall, whose limit is a circle: it is cut into by its tangents
until nothing stands out.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from math import hypot, inf

import numpy as np
import scipy
import shapely

from calm_basin.core.as_built.floor import BuiltFloor, Group
from calm_basin.core.geometry.surface import OUTSIDE, Array
from calm_basin.tolerances import SAME_PLACE, SOLVED

TANGENTS, ROUNDS = 8, 60
"""Tangents that a limit begins with, and how often it is cut into."""

FARTHEST = 1e3
"""No plane is moved farther than this, mm."""

TILTED = 4.0
"""The slope of the plane that fits best through what lies up to 1 to either side of a plane, over a
run of 1, is no more than this: of a rectangle 3, of a triangle 3.6."""

UNREAD = 0.25
"""What a plane that no reading lies on speaks for, as a share of its area: how it lies is taken
from what was read round it."""


@dataclass(frozen=True)
class Bounds:
    """What has to be kept after the work: by the planes' numbers the flattest and the steepest fall
    (``least``, ``most``; −inf and inf: none); along the ``entry`` what the floor may be off by at
    places, (m, 2), from (m,) to (m,), mm; and how low its top may lie before it is too thin."""

    least: Array
    most: Array
    entry: tuple[Array, Array, Array]
    thinnest: float = -inf


@dataclass(frozen=True)
class Work:
    """What each plane is off by after the work: rows (a, b, c) of ``a x + b y + c``, and what is
    left standing on either side of it, mm."""

    planes: Array
    slack: float

    def off(self, floor: BuiltFloor, points: Array, before: Array) -> Array:
        """What the floor is off by at points, (n, 2), after the work, where it was ``before``."""
        found = floor.surface.located(points)
        lost = np.flatnonzero(found == OUTSIDE)
        if len(lost):
            # The middle of a cell at the edge may lie behind it.
            shapes = np.array([facet.polygon for facet in floor.surface.facets])
            apart = shapely.distance(shapes[:, None], shapely.points(points[lost])[None])
            found[lost] = apart.argmin(axis=0)
        a, b, c = self.planes[np.where(found < 0, 0, found)].T
        target = a * points[:, 0] + b * points[:, 1] + c
        return np.where(
            found < 0, before, np.clip(before, target - self.slack, target + self.slack)
        )


def weights_of(floor: BuiltFloor, points: Array, areas: Array) -> Array:
    """What of the floor each reading speaks for, mm²: the cells it is nearest to."""
    _, nearest = scipy.spatial.cKDTree(floor.places).query(points)
    return np.bincount(nearest, areas, minlength=len(floor.places)).astype(float)


def least_work(
    floor: BuiltFloor, weights: Array, bounds: Bounds, slack: float, free: Sequence[str] = ()
) -> Work | None:
    """The least work; None where there is none.

    Parameters
    ----------
    weights : ndarray, shape (n,)
        What of the floor each reading speaks for, mm².
    slack : float
        So far a reading may stay off its plane, mm.
    free : sequence of str
        What is let go of, to see what is in the way: ``drain``, ``entry``, ``thickness``.
    """
    programme = _Programme(floor, weights, bounds, slack, free)
    for _ in range(ROUNDS):
        planes = programme.solved()
        if planes is None:
            return None
        if not programme.cut(planes):
            return Work(planes, slack)
    return None


class _Programme:
    """Unknowns: of each plane what it is off by, as (a, b) and the height at its own middle, and of
    each reading how far it has to be moved."""

    def __init__(
        self,
        floor: BuiltFloor,
        weights: Array,
        bounds: Bounds,
        slack: float,
        free: Sequence[str],
    ) -> None:
        self.facets = floor.surface.facets
        self.count = len(self.facets)
        # What is left on either side of a plane may tilt it again by so much.
        runs = np.array([max(facet.run, 1.0) for facet in self.facets])
        self.least = bounds.least + TILTED * slack / runs
        self.most = bounds.most - TILTED * slack / runs
        self.bounds = bounds
        self.middles = np.array([facet.polygon.centroid.coords[0] for facet in self.facets])
        located = floor.located
        on = np.flatnonzero(located >= 0)
        unread = np.setdiff1d(np.arange(self.count), located[on])
        facets = np.concatenate([located[on], unread])
        places = np.vstack([floor.places[on], self.middles[unread]])
        off = np.concatenate([floor.off[on], floor.off_at(self.middles[unread])])
        areas = [UNREAD * self.facets[number].polygon.area for number in unread]
        self.moved = len(facets)
        self.cost = np.concatenate([np.zeros(3 * self.count), weights[on], areas])
        self.rows: list[Array] = []
        self.tops: list[float] = []
        self.equal: list[Array] = []
        self.to: list[float] = []
        for k in range(self.moved):
            row = self._at(int(facets[k]), places[k])
            for sign in (1.0, -1.0):
                whole = self._row(sign * row)
                whole[3 * self.count + k] = -1.0
                self._most(whole, sign * float(off[k]) + slack)
        self._meet()
        self._alike(floor.groups)
        if "drain" not in free:
            self._hold_drain(floor)
        if "entry" not in free:
            self._hold_entry(floor)
        if "thickness" not in free and np.isfinite(bounds.thinnest):
            self._keep_thick()
        self._limits()

    def _row(self, planes: Array) -> Array:
        return np.concatenate([planes, np.zeros(self.moved)])

    def _at(self, facet: int, place: Array) -> Array:
        """The row that gives what a plane is off by at a place."""
        row = np.zeros(3 * self.count)
        row[3 * facet : 3 * facet + 2] = place - self.middles[facet]
        row[3 * facet + 2] = 1.0
        return row

    def _most(self, row: Array, value: float) -> None:
        self.rows.append(row)
        self.tops.append(value)

    def _meet(self) -> None:
        """Planes that meet at a corner, at one height, meet there after the work as well."""
        corners = np.vstack([facet.corners for facet in self.facets])
        owner = np.repeat(np.arange(self.count), [len(facet.corners) for facet in self.facets])
        pairs = scipy.spatial.cKDTree(corners[:, :2]).query_pairs(SAME_PLACE)
        for first, second in sorted(pairs):
            f, g = int(owner[first]), int(owner[second])
            if f != g and abs(corners[first, 2] - corners[second, 2]) < 0.01:
                place = corners[first, :2]
                self.equal.append(self._row(self._at(f, place) - self._at(g, place)))
                self.to.append(0.0)

    def _alike(self, groups: Sequence[Group]) -> None:
        """The narrow planes of a round part are off by one plane: they are judged as one."""
        for group in groups:
            first = group.numbers[0]
            for other in group.numbers[1:]:
                for k in range(2):
                    row = np.zeros(3 * self.count)
                    row[3 * first + k], row[3 * other + k] = 1.0, -1.0
                    self.equal.append(self._row(row))
                    self.to.append(0.0)

    def _hold_drain(self, floor: BuiltFloor) -> None:
        """The drain stays as it was found."""
        for number, facet in enumerate(self.facets):
            for x, y, z in facet.corners:
                if abs(z + floor.surface.drop) < 0.01:
                    place = np.array([x, y])
                    self.equal.append(self._row(self._at(number, place)))
                    self.to.append(float(floor.rim_off(place[None])[0]))

    def _hold_entry(self, floor: BuiltFloor) -> None:
        places, low, high = self.bounds.entry
        if not len(places):
            return
        located = floor.surface.located(places, "shower")
        for place, facet, least, most in zip(places, located, low, high, strict=True):
            if facet >= 0:
                row = self._at(int(facet), place)
                self._most(self._row(row), float(most))
                self._most(self._row(-row), float(-least))

    def _keep_thick(self) -> None:
        for number, facet in enumerate(self.facets):
            if facet.zone != "shower":
                continue
            for x, y, z in facet.corners:
                row = self._at(number, np.array([x, y]))
                self._most(self._row(-row), float(z - self.bounds.thinnest))

    def _limits(self) -> None:
        """Each plane falls at least as asked the way it was meant to, and no steeper than asked."""
        for number, facet in enumerate(self.facets):
            if facet.level:
                continue
            down = np.array(facet.downhill)
            least, most = self.least[number], self.most[number]
            if np.isfinite(least):
                row = np.zeros(3 * self.count)
                row[3 * number : 3 * number + 2] = down
                self._most(self._row(row), facet.gradient - float(least))
            if np.isfinite(most):
                start = np.arctan2(down[1], down[0])
                for k in range(TANGENTS):
                    angle = start + 2 * np.pi * k / TANGENTS
                    self._tangent(number, np.array([np.cos(angle), np.sin(angle)]))

    def _tangent(self, number: int, way: Array) -> None:
        """The fall down one way is no steeper than asked."""
        facet = self.facets[number]
        row = np.zeros(3 * self.count)
        row[3 * number : 3 * number + 2] = -way
        planned = -float(way @ facet.plane[:2])
        self._most(self._row(row), float(self.most[number]) - planned)

    def cut(self, planes: Array) -> bool:
        """Cut where a plane is steeper than it may be; whether any was."""
        cut = False
        for number, facet in enumerate(self.facets):
            most = float(self.most[number])
            built = np.array(facet.plane[:2]) + planes[number, :2]
            steep = hypot(*built)
            if not facet.level and np.isfinite(most) and steep > most * (1 + SOLVED):
                self._tangent(number, -built / steep)
                cut = True
        return cut

    def solved(self) -> Array | None:
        """The planes, as (a, b, c); None where there are none."""
        found = scipy.optimize.linprog(
            self.cost / max(float(self.cost.max()), 1.0),
            A_ub=scipy.sparse.csr_array(np.array(self.rows)),
            b_ub=np.array(self.tops),
            A_eq=scipy.sparse.csr_array(np.array(self.equal)) if self.equal else None,
            b_eq=np.array(self.to) if self.equal else None,
            bounds=[(-1, 1), (-1, 1), (-FARTHEST, FARTHEST)] * self.count
            + [(0, None)] * self.moved,
            method="highs",
        )
        if not found.success:
            return None
        planes: Array = found.x[: 3 * self.count].reshape(-1, 3).copy()
        planes[:, 2] -= (planes[:, :2] * self.middles).sum(axis=1)
        return planes
