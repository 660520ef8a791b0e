"""A built floor from scattered readings: how far it is off the planned one, plane by plane.

Between the readings it is the planned floor with what it is off by, which is a surface of triangles
over them, as the surveyed floor is one: where nothing is off the planned folds stay folds.
Heights count from the planned floor's 0.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import pairwise
from math import inf

import numpy as np
import scipy
import shapely
from numpy.typing import NDArray
from shapely.geometry import Point

from calm_basin.core.geometry.drops import Exit
from calm_basin.core.geometry.grid import Grid, grid_of
from calm_basin.core.geometry.relief import Relief
from calm_basin.core.geometry.straightedge import Search, Straightedge
from calm_basin.core.geometry.surface import RIM, Array, Facet, Surface, xy
from calm_basin.rules import TRADE
from calm_basin.tolerances import LEVEL, ON_EDGE, ON_LINE, ONE_PLACE

Indices = NDArray[np.intp]
Mask = NDArray[np.bool_]

FEWEST = 3
"""So many readings, not on one line, tell how a plane lies."""

REACH = 400.0
"""Farther from every reading, mm, nothing is known of the floor."""

CELLS = 10_000
"""A floor is looked at in about so many cells."""


@dataclass(frozen=True)
class Group:
    """Planes that are judged as one: one plane, or the narrow ones of a round part."""

    name: str
    facets: tuple[Facet, ...]
    numbers: tuple[int, ...]

    @property
    def level(self) -> bool:
        """Whether it is not meant to fall."""
        return all(facet.level for facet in self.facets)


def groups_of(surface: Surface) -> tuple[Group, ...]:
    """The planes of a floor as they are judged."""
    found: dict[tuple[str, int], list[int]] = {}
    for number, facet in enumerate(surface.facets):
        key = (f"{facet.zone} {facet.name}", -1) if facet.curved else (facet.name, number)
        found.setdefault(key, []).append(number)
    return tuple(
        Group(
            surface.facets[numbers[0]].name,
            tuple(surface.facets[n] for n in numbers),
            tuple(numbers),
        )
        for numbers in found.values()
    )


@dataclass(frozen=True)
class PlaneFit:
    """How a group of planes lies as built: ``tilt`` is the gradient (a, b) by which it is off, and
    ``spread`` its covariance, (2, 2), for an error of 1 mm of each reading; ``off`` what its
    readings are off by, (n,), and ``rest`` what of that is left beside the tilt."""

    tilt: Array
    spread: Array
    off: Array
    rest: Array
    line: bool = False
    """Whether its readings lie on one line, down which alone its fall is known."""


@dataclass(frozen=True)
class Standing:
    """Water that would stand: ``depth``, mm, at its deepest place, its area, mm², and litres."""

    depth: float
    at: tuple[float, float]
    area: float
    litres: float


class BuiltFloor:
    """A floor as it was read.

    Parameters
    ----------
    surface : Surface
        The planned floor.
    readings : ndarray, shape (n, 3)
        x, y and height, mm, each as far over or under the planned floor's 0; one near an earlier
        one takes its stead.
    error : float
        So far a reading may be off, mm.
    """

    def __init__(self, surface: Surface, readings: Array, error: float) -> None:
        kept = _newest(readings)
        planned = surface.heights(kept[:, :2]) if len(kept) else np.empty(0)
        there = np.isfinite(planned)
        self.surface, self.error = surface, error
        self.outside = kept[~there]
        self.places, self.heights = kept[there, :2], kept[there, 2]
        self.off = self.heights - planned[there]
        self.groups = groups_of(surface)

    @cached_property
    def relief(self) -> Relief | None:
        """What it is off by as a surface; None where its readings lie on one line."""
        if not _spread(self.places):
            return None
        return Relief(np.column_stack([self.places, self.off]), (0.0, 0.0))

    def off_at(self, points: Array) -> Array:
        """What the floor is off by at points, (n, 2), mm: between readings as they say, beyond them
        as at the nearest place that is known. NaN where no surface is known."""
        if self.relief is None:
            return np.full(len(points), np.nan)
        return self.relief.heights(points)[0]

    def on_rim(self, number: int) -> Mask:
        """Which of the readings were taken on a drain's rim."""
        if not len(self.places):
            return np.zeros(0, dtype=bool)
        rim = self.surface.rims[number].buffer(ON_EDGE)
        on: Mask = shapely.covers(rim, shapely.points(self.places)) & (self.located == RIM)
        return on

    @property
    def unread_rims(self) -> list[tuple[float, float]]:
        """The middles of the rims on which nothing was read."""
        rims = enumerate(self.surface.rims)
        return [(rim.centroid.x, rim.centroid.y) for n, rim in rims if not self.on_rim(n).any()]

    @cached_property
    def rims_off(self) -> Array:
        """What each drain's rim is off by, mm: a rim is one level, the mean of what was read on it,
        or of what is known round it."""
        found = []
        for number, rim in enumerate(self.surface.rims):
            on = self.on_rim(number)
            corners = shapely.get_coordinates(rim.exterior)[:-1]
            found.append(float((self.off[on] if on.any() else self.off_at(corners)).mean()))
        return np.array(found)

    def rim_off(self, points: Array) -> Array:
        """What the rim nearest to each of the points, (n, 2), is off by, mm."""
        rims = np.array(self.surface.rims)
        apart = shapely.distance(rims[:, None], shapely.points(points)[None])
        off: Array = self.rims_off[apart.argmin(axis=0)]
        return off

    def known(self, points: Array) -> Mask:
        """Which of the points, (n, 2), lie within `REACH` of a reading."""
        if not len(self.places):
            return np.zeros(len(points), dtype=bool)
        apart, _ = scipy.spatial.cKDTree(self.places).query(points)
        near: Mask = apart <= REACH
        return near

    @cached_property
    def located(self) -> Indices:
        """Which plane each reading lies on, as `Surface.located` says."""
        return self.surface.located(self.places)

    def of(self, group: Group) -> Indices:
        """The readings of a group of planes, by their numbers: those on its edge as well."""
        if not len(self.places):
            return np.empty(0, dtype=np.intp)
        shape = shapely.union_all([facet.polygon for facet in group.facets]).buffer(ON_EDGE)
        found: Indices = np.flatnonzero(shapely.covers(shape, shapely.points(self.places)))
        return found

    def fit(self, group: Group) -> PlaneFit | None:
        """How a group lies; None where too little of it was read."""
        mine = self.of(group)
        places, off = self.places[mine], self.off[mine]
        if len(mine) >= FEWEST and _spread(places):
            basis = places - places.mean(axis=0)
            tilt, spread = _solved(basis, off)
            rest = off - off.mean() - basis @ tilt
            return PlaneFit(tilt, spread, off, rest)
        down = np.array(group.facets[0].downhill)
        if len(mine) >= 2 and len(group.facets) == 1 and not group.level:
            along = (places @ down)[:, None]
            along -= along.mean()
            if float(np.ptp(along)) > ON_LINE * 4:
                slope, one = _solved(along, off)
                rest = off - off.mean() - along @ slope
                return PlaneFit(
                    slope[0] * down, one[0, 0] * np.outer(down, down), off, rest, line=True
                )
        return None

    def hollow(self, group: Group, least: float) -> Straightedge | None:
        """The widest gap under a straightedge laid on one plane; None where too few are read, or
        where none is wider than ``least``, mm. What a plane is off by gapes as the plane does."""
        mine = self.of(group)
        if self.relief is None or len(mine) <= FEWEST or len(group.facets) > 1:
            return None
        facet = group.facets[0]
        if self._under_lid(facet, mine) <= least:
            return None
        return Search(
            self.off_at, facet.polygon, self.places[mine], TRADE.site_tests.straightedge.value
        ).widest(brief=True)

    def _under_lid(self, facet: Facet, mine: Indices) -> float:
        """How far a plane lies below a lid on its high places, mm, at most: no straightedge gapes
        wider."""
        assert self.relief is not None
        corners = shapely.get_coordinates(facet.polygon.exterior)
        found = [corners[:-1], self.places[mine]]
        for start, end in pairwise(corners):
            found.append(start + self.relief.bends(start, end)[:, None] * (end - start))
        places = np.vstack(found)
        off = self.off_at(places)
        # Only what is above a plane through all of them makes the hull's upper side.
        solid = np.column_stack([places - places.mean(axis=0), off])
        try:
            hull = scipy.spatial.ConvexHull(solid)
        except scipy.spatial.QhullError:
            return 0.0
        upper = hull.equations[hull.equations[:, 2] > LEVEL]
        lids = -(solid[:, :2] @ upper[:, :2].T + upper[:, 3]) / upper[:, 2]
        return float((lids.min(axis=1) - off).max())

    def grid(self, exits: list[Exit]) -> Grid:
        """The planned floor in cells."""
        spacing = max(10.0, float(np.sqrt(self.surface.outline.area / CELLS)))
        return grid_of(self.surface, exits, spacing)

    def standing(self, grid: Grid, least: float) -> list[Standing]:
        """Water that stands deeper than ``least`` mm on the floor as it is, the deepest first."""
        rows, columns = np.nonzero(grid.floor)
        points = np.column_stack([columns, rows]).astype(float) + 0.5
        points = points * grid.spacing + (grid.left, grid.bottom)
        off = np.where(grid.sinks[rows, columns], self.rim_off(points), self.off_at(points))
        if np.isnan(off).any():
            return []
        heights = grid.heights.copy()
        heights[rows, columns] += off
        filled = grid.filled(heights)
        depths = np.where(grid.floor, filled - np.where(grid.floor, heights, 0.0), 0.0)
        named, count = scipy.ndimage.label(depths > least, structure=np.ones((3, 3)))
        found = []
        for number in range(1, count + 1):
            pond = named == number
            row, column = np.unravel_index(np.where(pond, depths, -1.0).argmax(), depths.shape)
            at = np.array([column, row]) + 0.5
            found.append(
                Standing(
                    float(depths[row, column]),
                    xy(at * grid.spacing + (grid.left, grid.bottom)),
                    float(grid.areas[pond].sum()),
                    float((depths * grid.areas)[pond].sum()) / 1e6,
                )
            )
        return sorted(found, key=lambda one: -one.depth)

    def next_places(self, most: int) -> list[tuple[float, float]]:
        """Where the next readings would tell most: on the drain, on planes of which too little is
        known, then where no reading is near."""
        found = self.unread_rims[:most]
        read = np.vstack([self.places, *([found] if found else [])])
        lattices = {group: _lattice(group) for group in self.groups if not group.level}
        while len(found) < most:
            worst, place = 0.0, None
            for group, points in lattices.items():
                if not len(points):
                    continue
                apart = _nearest(points, read)
                # A plane that cannot be judged comes before any that can.
                few = self._few(group, found)
                weight = float(apart.max()) + (1e6 if few else 0.0)
                if weight > worst:
                    worst, place = weight, xy(points[int(apart.argmax())])
            if place is None or (worst < 1e6 and worst < REACH / 2):
                break
            found.append(place)
            read = np.vstack([read, place])
        return found

    def _few(self, group: Group, more: Sequence[tuple[float, float]]) -> bool:
        shape = shapely.union_all([facet.polygon for facet in group.facets]).buffer(ON_EDGE)
        added = [place for place in more if shape.covers(Point(place))]
        places = np.vstack([self.places[self.of(group)], *([added] if added else [])])
        return len(places) < FEWEST or not _spread(places)


def _newest(readings: Array) -> Array:
    """Readings without those that a later one took the stead of."""
    if not len(readings):
        return np.empty((0, 3))
    kept = np.ones(len(readings), dtype=bool)
    near = scipy.spatial.cKDTree(readings[:, :2]).query_ball_point(readings[:, :2], ONE_PLACE)
    for number in range(len(readings) - 1, -1, -1):
        if kept[number]:
            kept[[other for other in near[number] if other < number]] = False
    newest: Array = readings[kept]
    return newest


def _spread(places: Array) -> bool:
    """Whether places, (n, 2), do not lie on one line."""
    if len(places) < FEWEST:
        return False
    centred: Array = np.asarray(places - places.mean(axis=0), dtype=float)
    across = np.linalg.svd(centred, full_matrices=False)
    return float(np.ptp(centred @ across[2][1])) > ON_LINE


def _solved(basis: Array, off: Array) -> tuple[Array, Array]:
    """The slope of a least-squares fit through the mean, and its covariance for an error of 1."""
    normal: Array = np.asarray(np.linalg.inv(basis.T @ basis), dtype=float)
    slope: Array = np.asarray(normal @ (basis.T @ (off - off.mean())))
    return slope, normal


def _lattice(group: Group) -> Array:
    """Places of a group at which a staff can stand: a coarse lattice clear of its edges, and the
    places next to its corners."""
    found: list[Array] = []
    for facet in group.facets:
        inner = facet.polygon.buffer(-2 * ONE_PLACE)
        shape = facet.polygon if inner.is_empty else inner
        left, bottom, right, top = shape.bounds
        step = max(50.0, float(np.sqrt((right - left) * (top - bottom) / 400)))
        xs, ys = np.arange(left, right + 1, step), np.arange(bottom, top + 1, step)
        lattice = np.array([(x, y) for x in xs for y in ys], dtype=float)
        found.append(lattice[shapely.covers(shape, shapely.points(lattice))])
        found.append(shapely.get_coordinates(shape))
    joined: Array = np.vstack(found).astype(float)
    return joined


def _nearest(points: Array, read: Array) -> Array:
    if not len(read):
        return np.full(len(points), inf)
    apart: Array = scipy.spatial.cKDTree(read).query(points)[0]
    return apart
