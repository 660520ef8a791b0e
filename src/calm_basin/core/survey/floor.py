"""The floor that is there: from scattered readings to heights, flatness and what makes it true.

Heights in this module are relative to the readings' own benchmark until `SubFloor` puts the high
spot at 0; everything that leaves it lies at or below 0.
"""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property
from itertools import combinations
from math import ceil

import numpy as np
import scipy
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

from calm_basin.core.geometry.relief import Relief
from calm_basin.core.geometry.straightedge import Search, Straightedge
from calm_basin.core.geometry.surface import Array
from calm_basin.plan.survey import Reading, ShimReading
from calm_basin.tolerances import ONE_PLACE, ROUNDED

AT_ONCE = 250
"""So many readings are held against all at a time."""

DISAGREE = 3.0
"""Readings of one place that differ by more, in mm, are worth a word."""

NONE_INSIDE = "No reading lies inside the room. Take some on its floor."

CELL = 50.0
"""Spacing of the grid on which areas are integrated and straightedges laid, in mm."""


@dataclass(frozen=True)
class FloorSpot:
    """A place on plan and its height below the high spot (at most 0), mm."""

    x: float
    y: float
    height: float


def places_of(levels: tuple[Reading, ...]) -> tuple[Array, list[str]]:
    """Readings of any kind as places with heights, and what is odd about them in words.

    Returns
    -------
    ndarray, shape (n, 3)
        x, y and height above the benchmark, mm. A long level's foot counts as a reading of the
        benchmark's height where no other reading lies there.
    list of str
        Remarks for the installer.
    """
    found: list[tuple[float, float, float]] = []
    for reading in levels:
        if not isinstance(reading, ShimReading):
            found.append((reading.x, reading.y, reading.level))
    for reading in levels:
        if isinstance(reading, ShimReading):
            foot = _height_at(found, reading.x, reading.y)
            if foot is None:
                foot = 0.0
                found.append((reading.x, reading.y, foot))
            found.append((*reading.end, foot - reading.gap))
    return _merged(found)


def _height_at(found: list[tuple[float, float, float]], x: float, y: float) -> float | None:
    for a, b, height in found:
        if abs(a - x) < ONE_PLACE and abs(b - y) < ONE_PLACE:
            return height
    return None


def _merged(found: list[tuple[float, float, float]]) -> tuple[Array, list[str]]:
    """Readings of one place made one, at their mean."""
    if not found:
        return np.empty((0, 3)), []
    points = np.array(found, dtype=float)
    groups = _groups(points[:, :2])
    counts = np.bincount(groups)
    merged = np.column_stack([np.bincount(groups, points[:, i]) / counts for i in range(3)])
    remarks = []
    if counts.max() > 1:
        low = np.full(len(counts), np.inf)
        high = np.full(len(counts), -np.inf)
        np.minimum.at(low, groups, points[:, 2])
        np.maximum.at(high, groups, points[:, 2])
        apart = int((high - low > DISAGREE).sum())
        if apart:
            remarks.append(
                f"{apart} {'place was' if apart == 1 else 'places were'} read more than once with "
                "different heights: their mean is used. Read there again."
            )
    return merged, remarks


def _groups(places: Array) -> NDArray[np.intp]:
    """Of which place each reading is, from 0 in their order: a chain of near ones makes one."""
    nearest = scipy.spatial.cKDTree(places).query(places, k=2)[0][:, 1]
    crowded = nearest <= ONE_PLACE + ROUNDED
    names = np.arange(len(places))
    if crowded.any():
        names[crowded] = np.flatnonzero(crowded)[_linked(places[crowded])]
    _, first, found = np.unique(names, return_index=True, return_inverse=True)
    ranks: NDArray[np.intp] = np.argsort(np.argsort(first))
    return ranks[found]


def _linked(places: Array) -> NDArray[np.intp]:
    """For each place one that stands for all of its chain.

    Readings of one cell of a grid are near by themselves, so that each is only looked for in the
    other cells: pairs on one spot would grow with the square of the readings.
    """
    _, cells = np.unique(np.floor(places / (0.7 * ONE_PLACE)), axis=0, return_inverse=True)
    order = np.argsort(cells, kind="stable")
    cells, ordered = cells[order], places[order]
    starts = np.flatnonzero(np.diff(cells, prepend=-1))
    linked = []
    for begin in range(0, len(places), AT_ONCE):
        apart = scipy.spatial.distance.cdist(ordered[begin : begin + AT_ONCE], ordered)
        row, cell = np.nonzero(np.logical_or.reduceat(apart <= ONE_PLACE, starts, axis=1))
        linked.append(np.column_stack([cells[begin + row], cell]))
    links = np.concatenate(linked)
    graph = scipy.sparse.coo_array(
        (np.ones(len(links)), (links[:, 0], links[:, 1])), shape=(len(starts),) * 2
    )
    joined = scipy.sparse.csgraph.connected_components(graph, directed=False)[1]
    found = np.empty(len(places), dtype=np.intp)
    found[order] = joined[cells]
    return found


class SubFloor:
    """The floor that is there, from readings inside a room.

    Parameters
    ----------
    levels : tuple of Reading
        At least one, of any kind.
    room : Polygon

    Raises
    ------
    ValueError
        No reading lies inside the room.
    """

    def __init__(self, levels: tuple[Reading, ...], room: Polygon) -> None:
        places, self.remarks = places_of(levels)
        inside = (
            shapely.distance(room, shapely.points(places[:, :2])) < ONE_PLACE
            if len(places)
            else np.zeros(0, dtype=bool)
        )
        outside = int((~inside).sum())
        if outside:
            self.remarks.append(
                f"{outside} {'reading lies' if outside == 1 else 'readings lie'} outside the room "
                "and are left out. Check where they were taken."
            )
        places = places[inside]
        if not len(places):
            raise ValueError(NONE_INSIDE)
        self.room = room
        self.benchmark = float(places[:, 2].max())
        self.places = places - [0, 0, self.benchmark]
        self._centre = self.places[:, :2].mean(axis=0)
        spread = np.linalg.svd(self.places[:, :2] - self._centre, compute_uv=False)
        self.on_a_line = len(places) < 3 or bool(spread[-1] < ONE_PLACE)
        if len(places) < 3:
            self.remarks.append(
                "Fewer than three places were read: the floor between them is a guess. Read at "
                "least the corners and the middle."
            )
        elif self.on_a_line:
            self.remarks.append(
                "All readings lie on one line: across it the floor is a guess. Read beside it too."
            )
        self._edges: dict[float, Straightedge] = {}

    @cached_property
    def plane(self) -> tuple[float, float, float]:
        """Best plane ``z = a x + b y + c`` by least squares; level across a single line."""
        x, y, z = self.places.T
        if len(z) == 1:
            return (0.0, 0.0, float(z[0]))
        local = np.column_stack([x - self._centre[0], y - self._centre[1]])
        if self.on_a_line:
            _, _, ways = np.linalg.svd(local)
            along = local @ ways[0]
            slope = float(np.polyfit(along, z, 1)[0]) if np.ptp(along) > 0 else 0.0
            a, b = slope * ways[0]
        else:
            (a, b), *_ = np.linalg.lstsq(local, z - z.mean(), rcond=None)
        c = z.mean() - a * self._centre[0] - b * self._centre[1]
        return (float(a), float(b), float(c))

    @cached_property
    def _residuals(self) -> Array:
        a, b, c = self.plane
        residuals: Array = self.places[:, 2] - (a * self.places[:, 0] + b * self.places[:, 1] + c)
        return residuals

    @cached_property
    def _relief(self) -> Relief | None:
        return None if self.on_a_line else Relief(self.places, self.plane[:2])

    def heights(self, points: Array) -> tuple[Array, NDArray[np.bool_]]:
        """Heights at points, (n, 2), and which of them lie among the readings: see `relief`.

        Readings on one line tell the floor along that line; across it is taken as level.
        """
        if self._relief is not None:
            return self._relief.heights(points)
        return self._along_line((points - self._centre) @ self._way), np.zeros(len(points), bool)

    @cached_property
    def _way(self) -> Array:
        """The line on which all readings lie, as a unit vector."""
        _, _, ways = np.linalg.svd(self.places[:, :2] - self._centre)
        way: Array = ways[0]
        return way

    def _along_line(self, at: Array) -> Array:
        """Heights at places along the line of all readings, which goes on as its best line does."""
        along = (self.places[:, :2] - self._centre) @ self._way
        order = np.argsort(along)
        known, slope = along[order], float(np.dot(self.plane[:2], self._way))
        heights: Array = np.interp(at, known, self.places[order, 2])
        return heights + slope * (at - np.clip(at, known[0], known[-1]))

    @cached_property
    def high(self) -> FloorSpot:
        return FloorSpot(*map(float, self.places[self.places[:, 2].argmax()]))

    @cached_property
    def low(self) -> FloorSpot:
        return FloorSpot(*map(float, self.places[self.places[:, 2].argmin()]))

    @property
    def tilt(self) -> float:
        """Gradient of the best plane, rise over run."""
        return float(np.hypot(*self.plane[:2]))

    @property
    def tilt_downhill(self) -> float:
        """Direction in which the best plane falls, degrees anticlockwise from the x axis."""
        return float(np.degrees(np.arctan2(-self.plane[1], -self.plane[0])))

    @property
    def crown(self) -> float:
        """How far the floor stands above its best plane at most, mm."""
        return float(self._residuals.max())

    @property
    def dish(self) -> float:
        """How far the floor lies below its best plane at most, mm."""
        return float(-self._residuals.min())

    def extremes(self, zone: Polygon) -> tuple[float, float]:
        """Lowest and highest height of the floor under a zone, mm, exact."""
        if self._relief is not None:
            return self._relief.extremes(zone)
        along = (shapely.get_coordinates(zone.exterior) - self._centre) @ self._way
        own = (self.places[:, :2] - self._centre) @ self._way
        between = own[(own > along.min()) & (own < along.max())]
        heights = self._along_line(np.concatenate([along, between]))
        return float(heights.min()), float(heights.max())

    def range_under(self, zone: Polygon) -> float:
        """Highest less lowest height of the floor under a zone, mm, exact."""
        low, high = self.extremes(zone)
        return high - low

    def bends(self, start: Array, end: Array) -> Array:
        """The ends of a line on plan and every place on it where the floor bends, (n, 2): between
        them its height goes straight."""
        if self._relief is not None:
            shares = self._relief.bends(start, end)
        else:
            first, last = (start - self._centre) @ self._way, (end - self._centre) @ self._way
            own = (self.places[:, :2] - self._centre) @ self._way
            level = abs(last - first) < ONE_PLACE
            shares = np.empty(0) if level else (own - first) / (last - first)
            shares = shares[(shares > 0) & (shares < 1)]
        return start + np.concatenate([[0.0, 1.0], shares])[:, None] * (end - start)

    def flatness(self, length: float) -> Straightedge:
        """The straightedge of this length, or shorter where it does not fit, under which the floor
        gapes most, wherever and whichever way it is laid."""
        if length not in self._edges:
            search = Search(
                lambda points: self.heights(points)[0], self.room, self.places[:, :2], length
            )
            self._edges[length] = search.widest()
        return self._edges[length]

    def under_edge(self, start: Array, end: Array, samples: int = 61) -> Array:
        """Gap under a straightedge laid from ``start`` to ``end``, at even steps along it, mm."""
        shares = np.linspace(0, 1, samples)
        heights, _ = self.heights(start + shares[:, None] * (end - start))
        gaps: Array = _under_hull(heights[None])[0]
        return gaps


def _under_hull(heights: Array) -> Array:
    """Gap between the upper convex hull of each row of heights, at even steps, and the row."""
    hull = heights.copy()
    count = heights.shape[1]
    for i, j in combinations(range(count), 2):
        if j - i > 1:
            share = np.arange(1, j - i) / (j - i)
            chord = heights[:, [i]] * (1 - share) + heights[:, [j]] * share
            hull[:, i + 1 : j] = np.maximum(hull[:, i + 1 : j], chord)
    gaps: Array = hull - heights
    return gaps


def cells(zone: Polygon, spacing: float = CELL) -> tuple[Array, float]:
    """Centres of the cells of a grid over a zone, shape (n, 2), and the area each stands for."""
    left, bottom, right, top = zone.bounds
    across = max(2, ceil((right - left) / spacing))
    up = max(2, ceil((top - bottom) / spacing))
    xs = left + (np.arange(across) + 0.5) * (right - left) / across
    ys = bottom + (np.arange(up) + 0.5) * (top - bottom) / up
    points = np.array(np.meshgrid(xs, ys)).reshape(2, -1).T
    inside = points[shapely.contains_xy(zone, points[:, 0], points[:, 1])]
    if not len(inside):
        inside = np.array(zone.representative_point().coords)
    return inside, zone.area / len(inside)
