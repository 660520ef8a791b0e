"""The floor between scattered readings: one continuous surface of triangles, its extremes exact.

Among the readings it is their Delaunay mesh. Where that is not told by the readings, as in the
squares of a regular grid, the lower of the ways to part them is taken, so that a room that is
turned has the same floor. Beyond the readings the surface goes on from its own edge with the fall
of the best plane: a guess, and without a step.
"""

from __future__ import annotations

from functools import cached_property
from itertools import pairwise

import numpy as np
import scipy
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

from calm_basin.core.geometry.surface import Array
from calm_basin.tolerances import SAME_PLACE

FAR = 1e5
"""Farther than any room reaches, mm."""

LONGEST_RADIUS = 1e7
"""Circles that are larger, mm, are lines: rounding decides on which side of them a place lies."""


class Relief:
    """The surface over readings ``places``, (n, 3), that do not all lie on one line.

    ``fall`` is the gradient (a, b) with which it goes on beyond them.
    """

    def __init__(self, places: Array, fall: tuple[float, float]) -> None:
        self.places = places
        self.fall = np.array(fall)
        self._centre = places[:, :2].mean(axis=0)
        self._mesh = scipy.spatial.Delaunay(places[:, :2] - self._centre)
        self.triangles, self._group = self._parted()
        self._planes = self._planes_of_simplices()
        self._ring = self._edge()

    def heights(self, points: Array) -> tuple[Array, NDArray[np.bool_]]:
        """Heights at points, (n, 2), and which of them lie among the readings."""
        local = points - self._centre
        simplex = self._mesh.find_simplex(local)
        inside = simplex >= 0
        planes = self._planes[simplex]
        heights = (
            planes[..., 0] * local[:, None, 0] + planes[..., 1] * local[:, None, 1] + planes[..., 2]
        ).max(axis=1)
        if not inside.all():
            heights[~inside] = self._beyond(points[~inside])
        return heights, inside

    def extremes(self, zone: Polygon) -> tuple[float, float]:
        """Lowest and highest of the surface over a zone, exact: they lie at its readings, at the
        zone's corners, or where the zone's edge crosses an edge of the mesh."""
        corners = shapely.get_coordinates(zone.exterior)
        found = [corners[:-1]]
        inside = shapely.contains_xy(zone, self.places[:, 0], self.places[:, 1])
        found.append(self.places[inside, :2])
        for start, end in pairwise(corners):
            found.append(start + self.bends(start, end)[:, None] * (end - start))
        heights, _ = self.heights(np.concatenate(found))
        return float(heights.min()), float(heights.max())

    def bends(self, start: Array, end: Array) -> Array:
        """Where on a line on plan the surface folds: shares of its length."""
        return _crossings(start, end, self._segments)

    def _beyond(self, points: Array) -> Array:
        """Heights beyond the readings: those of the nearest place on the mesh's edge, and on."""
        local = points - self._centre
        start = self._ring[:-1, :2] - self._centre
        along = np.diff(self._ring, axis=0)
        lengths = (along[:, :2] ** 2).sum(axis=1)
        along_it = local @ along[:, :2].T - (start * along[:, :2]).sum(axis=1)
        share = np.clip(along_it / lengths, 0.0, 1.0)
        # Squares of the distances to every side, less what is the same for all of them.
        apart = (start**2).sum(axis=1) - 2 * (local @ start.T)
        apart += share * (share * lengths - 2 * along_it)
        near = apart.argmin(axis=1)
        foot = self._ring[near] + share[np.arange(len(points)), near, None] * along[near]
        beyond: Array = foot[:, 2] + (points - foot[:, :2]) @ self.fall
        return beyond

    def _parted(self) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """All triangles, (m, 3), with the ways to part readings on one circle settled, and the
        group of such readings that each of the mesh's simplices is in."""
        mesh = self._mesh
        first, side = np.nonzero(mesh.neighbors >= 0)
        second = mesh.neighbors[first, side]
        once = first < second
        first, second, side = first[once], second[once], side[once]
        centres, radii = _circles(mesh.points[mesh.simplices])
        # The corner of the second that the first does not share lies across their common edge.
        across = (mesh.neighbors[second] == first[:, None]).argmax(axis=1)
        opposite = mesh.simplices[second, across]
        off = np.hypot(*(mesh.points[opposite] - centres[first]).T) - radii[first]
        alike = (np.abs(off) < SAME_PLACE) & (radii[first] < LONGEST_RADIUS)
        count = len(mesh.simplices)
        graph = scipy.sparse.coo_array(
            (np.ones(alike.sum()), (first[alike], second[alike])), shape=(count,) * 2
        )
        _, group = scipy.sparse.csgraph.connected_components(graph, directed=False)
        triangles = mesh.simplices.copy()
        sizes = np.bincount(group)
        pair = alike & (sizes[group[first]] == 2)
        self._part_pairs(triangles, first[pair], second[pair], side[pair], opposite[pair])
        for name in np.flatnonzero(sizes > 2):
            members = np.flatnonzero(group == name)
            self._part_ring(triangles, members)
        return triangles, group

    def _part_pairs(
        self,
        triangles: NDArray[np.intp],
        first: NDArray[np.intp],
        second: NDArray[np.intp],
        side: NDArray[np.intp],
        opposite: NDArray[np.intp],
    ) -> None:
        """Give four readings on one circle the lower of their two diagonals."""
        a = self._mesh.simplices[first, side]
        b = self._mesh.simplices[first, (side + 1) % 3]
        c = self._mesh.simplices[first, (side + 2) % 3]
        d = opposite
        x, z = self._mesh.points, self.places[:, 2]
        # Where the diagonals a–d and b–c cross, and how high each is there.
        u, v, w = x[d] - x[a], x[c] - x[b], x[b] - x[a]
        turn = _cross(u, v)
        s, t = _cross(w, v) / turn, _cross(w, u) / turn
        lower = z[a] + s * (z[d] - z[a]) < z[b] + t * (z[c] - z[b]) - 1e-12
        triangles[first[lower]] = np.column_stack([a, b, d])[lower]
        triangles[second[lower]] = np.column_stack([a, d, c])[lower]

    def _part_ring(self, triangles: NDArray[np.intp], members: NDArray[np.intp]) -> None:
        """Part more than four readings on one circle by the lower side of their hull."""
        names = np.unique(self._mesh.simplices[members])
        try:
            hull = scipy.spatial.ConvexHull(
                np.column_stack([self._mesh.points[names], self.places[names, 2]])
            )
        except scipy.spatial.QhullError:
            return  # All in one plane: any way to part them gives the same floor.
        low = names[hull.simplices[hull.equations[:, 2] < -1e-12]]
        if len(low) == len(members):
            triangles[members] = low

    def _planes_of_simplices(self) -> Array:
        """For each simplex the planes (a, b, c) of which the highest gives its heights: its own, or
        those of its whole group, which is parted along its lower side."""
        corners = np.column_stack([self._mesh.points, self.places[:, 2]])[self.triangles]
        u, v = corners[:, 1] - corners[:, 0], corners[:, 2] - corners[:, 0]
        turn = _cross(u[:, :2], v[:, :2])
        a = (u[:, 2] * v[:, 1] - v[:, 2] * u[:, 1]) / turn
        b = (v[:, 2] * u[:, 0] - u[:, 2] * v[:, 0]) / turn
        c = corners[:, 0, 2] - a * corners[:, 0, 0] - b * corners[:, 0, 1]
        own = np.column_stack([a, b, c])
        order = np.argsort(self._group, kind="stable")
        sizes = np.bincount(self._group)
        starts = np.cumsum(sizes) - sizes
        nth = np.minimum(np.arange(int(sizes.max()))[None], sizes[self._group][:, None] - 1)
        planes: Array = own[order[starts[self._group][:, None] + nth]]
        return planes

    def _edge(self) -> Array:
        """The mesh's outer edge: its readings in turn, (n + 1, 3), the first again at the end."""
        outer, side = np.nonzero(self._mesh.neighbors < 0)
        following = dict(
            zip(
                self._mesh.simplices[outer, (side + 1) % 3].tolist(),
                self._mesh.simplices[outer, (side + 2) % 3].tolist(),
                strict=True,
            )
        )
        start = next(iter(following))
        names = [start]
        while (after := following.get(names[-1], start)) != start and len(names) <= len(following):
            names.append(after)
        names.append(start)
        ring: Array = self.places[names]
        return ring

    @cached_property
    def _segments(self) -> Array:
        """Every line along which the surface folds, (m, 2, 2): the triangles' edges, and beyond
        them the lines square to the mesh's edge at each of its readings."""
        pairs = np.concatenate([self.triangles[:, [i, j]] for i, j in ((0, 1), (1, 2), (2, 0))])
        edges = self.places[np.unique(np.sort(pairs), axis=0)][..., :2]
        ring = self._ring[:, :2]
        along = np.diff(ring, axis=0)
        out = np.column_stack([along[:, 1], -along[:, 0]]) / np.hypot(*along.T)[:, None]
        ends = np.concatenate([ring[:-1], ring[1:]])
        rays = [np.stack([ends, ends + way * np.tile(out, (2, 1))], axis=1) for way in (-FAR, FAR)]
        return np.concatenate([edges, *rays])


def _cross(first: Array, second: Array) -> Array:
    cross: Array = first[:, 0] * second[:, 1] - first[:, 1] * second[:, 0]
    return cross


def _circles(corners: Array) -> tuple[Array, Array]:
    """Centres, (n, 2), and radii of the circles through triangles, (n, 3, 2)."""
    origin = corners[:, 0]
    u, v = corners[:, 1] - origin, corners[:, 2] - origin
    twice = 2 * _cross(u, v)
    twice = np.where(np.abs(twice) < 1e-12, 1e-12, twice)
    uu, vv = (u**2).sum(axis=1), (v**2).sum(axis=1)
    away = np.column_stack([v[:, 1] * uu - u[:, 1] * vv, u[:, 0] * vv - v[:, 0] * uu])
    away = away / twice[:, None]
    return origin + away, np.hypot(*away.T)


def _crossings(start: Array, end: Array, segments: Array) -> Array:
    """Where on a line the segments, (m, 2, 2), cross it: shares of its length from 0 to 1."""
    along = end - start
    u, w = segments[:, 1] - segments[:, 0], segments[:, 0] - start
    turn = along[0] * u[:, 1] - along[1] * u[:, 0]
    known = np.abs(turn) > 1e-12
    u, w, turn = u[known], w[known], turn[known]
    share = (w[:, 0] * u[:, 1] - w[:, 1] * u[:, 0]) / turn
    on = (w[:, 0] * along[1] - w[:, 1] * along[0]) / turn
    crossing: Array = share[(share >= 0) & (share <= 1) & (on >= -1e-9) & (on <= 1 + 1e-9)]
    return crossing
