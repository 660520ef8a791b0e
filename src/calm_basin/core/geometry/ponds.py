"""Water that stands on a floor of planes: how deep, over what, how much. Exact, without a grid.

On a plane water rises along the plane's edges and straight up to corners that point downhill. So
corners tell all: the level at which a pit runs over is the least that the highest corner on a way
out of it can have.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from heapq import heappop, heappush

import numpy as np
import scipy
import shapely
from numpy.typing import NDArray
from shapely.geometry import Polygon

from calm_basin.core.geometry.drops import DRAIN, STANDS, Indices, Net, between
from calm_basin.core.geometry.surface import OUTSIDE, Array, Facet, xy
from calm_basin.tolerances import ON_EDGE, SLIPPED


@dataclass(frozen=True)
class Pond:
    """Standing water: its ``depth``, mm, ``at`` its deepest place, its ``area``, mm², its
    ``volume``, mm³, and its ``level`` from the floor's 0, mm."""

    depth: float
    at: tuple[float, float]
    area: float
    volume: float
    level: float


def ponds(net: Net, least: float) -> list[Pond]:
    """Standing water that is deeper than ``least`` mm somewhere, the deepest first."""
    if not (net.vertex_end == STANDS).any() and not len(net.traps()):
        return []
    corners = _Corners.of(net)
    levels = corners.filled(net)
    depths = levels - corners.heights
    found = []
    for group in corners.together(depths > least, levels):
        deepest = group[int(depths[group].argmax())]
        level = float(levels[deepest])
        parts = [
            (facet, part)
            for f in np.unique(corners.facet[group]).tolist()
            for facet in [net.surface.facets[f]]
            for part in _under(facet, level, corners.at[group[corners.facet[group] == f]])
        ]
        # The mean depth over a plane is the depth at the centroid of what lies under water.
        volume = sum(
            part.area * (level - facet.at(part.centroid.x, part.centroid.y))
            for facet, part in parts
        )
        area = sum(part.area for _, part in parts)
        at = xy(corners.at[deepest])
        found.append(Pond(float(depths[deepest]), at, float(area), float(volume), level))
    return sorted(found, key=lambda pond: -pond.depth)


@dataclass(frozen=True)
class _Corners:
    """Every corner of every plane: its plane, its place's number, the place and its height there.
    Between the corners of a row of ``links``, (n, 2), water passes at the height of the higher."""

    facet: Indices
    vertex: Indices
    at: Array
    heights: Array
    links: Indices

    @staticmethod
    def of(net: Net) -> _Corners:
        edges = net.edges
        both = [np.column_stack([edges.facet, end]) for end in (edges.start, edges.end)]
        pairs, named = np.unique(np.concatenate(both), axis=0, return_inverse=True)
        facet, vertex = pairs.T
        at = net.vertices[vertex]
        heights = np.einsum("ij,ij->i", net.planes[facet], np.column_stack([at, np.ones(len(at))]))
        number = {(f, v): i for i, (f, v) in enumerate(pairs.tolist())}
        in_order, by_place = np.arange(len(pairs)), np.argsort(vertex, kind="stable")
        level = (facet[:-1] == facet[1:]) & (net.gradients[facet[:-1]] == 0)
        shared = vertex[by_place[:-1]] == vertex[by_place[1:]]
        links = [
            named.reshape(2, -1).T,
            np.column_stack([in_order[:-1], in_order[1:]])[level],
            np.column_stack([by_place[:-1], by_place[1:]])[shared],
            np.array([*_downhill(net, number), *_over_hairs(net, number)]).reshape(-1, 2),
        ]
        return _Corners(facet, vertex, at, heights, np.concatenate(links).astype(np.intp))

    def filled(self, net: Net) -> Array:
        """The level to which water stands at each corner, at least the corner's own height."""
        levels = np.full(len(self.heights), np.inf)
        for out, level in _ways_out(net, self):
            levels[out] = np.minimum(levels[out], np.maximum(level, self.heights[out]))
        waiting = [(level, i) for i, level in enumerate(levels.tolist()) if np.isfinite(level)]
        waiting.sort()
        beside: list[list[int]] = [[] for _ in self.heights]
        for i, j in self.links.tolist():
            beside[i].append(j)
            beside[j].append(i)
        while waiting:
            level, i = heappop(waiting)
            if level > levels[i]:
                continue
            for j in beside[i]:
                there = max(level, float(self.heights[j]))
                if there < levels[j]:
                    levels[j] = there
                    heappush(waiting, (there, j))
        return np.where(np.isfinite(levels), levels, self.heights)

    def together(self, wet: NDArray[np.bool_], levels: Array) -> list[Indices]:
        """The wet corners, by the water that they stand in."""
        i, j = self.links.T
        one = wet[i] & wet[j] & (levels[i] == levels[j])
        count = len(wet)
        joined = scipy.sparse.coo_array((np.ones(one.sum()), (i[one], j[one])), (count, count))
        _, label = scipy.sparse.csgraph.connected_components(joined, directed=False)
        return [np.flatnonzero(wet & (label == name)) for name in np.unique(label[wet])]


def _downhill(net: Net, number: dict[tuple[int, int], int]) -> Iterator[tuple[int, int]]:
    """Corners whose plane falls away from them on the inside, both their edges rising, such as the
    lowest corner of a hole; each with the lower end of the edge straight below."""
    edges = net.edges
    far = 2 * float(np.ptp(net.vertices, axis=0).sum())
    rows = list(zip(edges.facet.tolist(), edges.start.tolist(), edges.end.tolist(), strict=True))
    before = {(f, end): start for f, start, end in rows}
    for f, v, after in rows:
        at, down = net.vertices[v], net.downhill[f]
        to, back = net.vertices[after] - at, net.vertices[before[f, v]] - at
        if max(to @ down, back @ down) >= 0 or not between(to, down, back):
            continue
        own = np.flatnonzero((edges.facet == f) & (edges.start != v) & (edges.end != v))
        ends = np.column_stack([edges.start[own], edges.end[own]])
        sides = shapely.linestrings(net.vertices[ends])
        met = shapely.intersection(sides, shapely.linestrings([at, at + far * down]))
        apart = shapely.distance(met, shapely.points(at))
        if np.isfinite(apart).any():
            below = ends[int(np.nanargmin(apart))]
            low = below[int((net.vertices[below] @ down).argmax())]
            yield number[f, v], number[f, int(low)]


def _over_hairs(net: Net, number: dict[tuple[int, int], int]) -> Iterator[tuple[int, int]]:
    """Ends of edges that a hair's gap parts from the plane behind, with that plane's corner
    there."""
    edges = net.edges
    rows = list(zip(edges.start.tolist(), edges.end.tolist(), strict=True))
    meeting = {(end, start) for start, end in rows}
    for k, ends in enumerate(rows):
        behind = int(edges.behind[k])
        if behind < 0 or ends in meeting:
            continue
        there = np.unique(edges.start[edges.facet == behind])
        for v in ends:
            apart = np.hypot(*(net.vertices[there] - net.vertices[v]).T)
            if apart.min() < SLIPPED:
                nearest = int(there[int(apart.argmin())])
                yield number[int(edges.facet[k]), v], number[behind, nearest]


def _ways_out(net: Net, corners: _Corners) -> Iterator[tuple[Indices, float]]:
    """Corners from which water leaves the floor, with the level from which on it does."""
    edges = net.edges
    drains = (net.vertex_end == DRAIN) | net.at_rim(net.vertices)
    yield np.flatnonzero(drains[corners.vertex]), -np.inf
    open_ = np.flatnonzero(edges.behind == OUTSIDE)
    for way in net.exits:
        for k in open_.tolist():
            f = int(edges.facet[k])
            ends = net.vertices[[edges.start[k], edges.end[k]]]
            along = (ends[1] - ends[0]) / edges.length[k]
            reach = np.clip(np.sort((way.edge - ends[0]) @ along), 0.0, edges.length[k])
            places = ends[0] + reach[:, None] * along
            off = shapely.distance(shapely.linestrings(way.edge), shapely.points(places))
            if reach[1] - reach[0] > ON_EDGE and off.max() <= ON_EDGE:
                lowest = float(net.surface.facets[f].heights(places).min())
                v = edges.start[k] if net.planes[f, :2] @ along > 0 else edges.end[k]
                corner = np.flatnonzero((corners.facet == f) & (corners.vertex == v))
                yield corner, max(way.level, lowest)


def _under(facet: Facet, level: float, places: Array) -> list[Polygon]:
    """The parts of a plane that lie below a level and hold one of the places, (n, 2)."""
    part: shapely.Geometry = facet.polygon
    if not facet.level:
        middle = np.array(facet.polygon.centroid.coords[0])
        down = np.array(facet.downhill)
        across = np.array([-down[1], down[0]])
        bounds = np.array(facet.polygon.bounds)
        far = float(bounds[2] - bounds[0] + bounds[3] - bounds[1])
        line = middle + (facet.at(*middle) - level) / facet.gradient * down
        # Square to the water's edge, from there on downhill, past all of the plane.
        line = middle + np.clip((line - middle) @ down, -far, far) * down
        sides = [line - far * across, line + far * across]
        half = Polygon([*sides, *(side + 2 * far * down for side in sides[::-1])])
        part = facet.polygon.intersection(half)
    held = shapely.points(places)
    return [
        piece
        for piece in shapely.get_parts(part)
        if isinstance(piece, Polygon) and shapely.distance(piece, held).min() <= ON_EDGE
    ]
