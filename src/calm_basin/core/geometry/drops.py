"""The ways of drops over a floor of planes: down a plane, along a fold or a wall, to an end.

Nothing here hangs on a grid: a drop runs down its plane to the plane's edge, goes on over that edge
where the floor behind it falls away, and else runs along it to its lower end. So the answer is the
same whichever way the room is turned.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import NamedTuple

import numpy as np
import scipy
import shapely
from numpy.typing import NDArray

from calm_basin.core.geometry.surface import OUTSIDE, RIM, Array, Surface
from calm_basin.plan.places import belong
from calm_basin.tolerances import HAIR, ON_EDGE, ONE_CORNER, SAME_PLACE, SAME_WAY, SLIPPED

Indices = NDArray[np.intp]

LEAST_GUTTER = 0.02
"""A fold or a wall along which the floor falls less than this share of its own fall is level as
built: what runs into it stands. For a wall that is 20 mm in the metre off square to the fall."""

DRAIN, OUT, STANDS, RUNS = 0, 1, 2, 3
"""What becomes of a drop; `RUNS` while it is under way."""

ACROSS = 1.2 * ON_EDGE
"""So far past an edge the plane behind it is looked for, mm."""

MOST_LEGS = 100


@dataclass(frozen=True)
class Exit:
    """An edge over which water can leave: its ends, (2, 2), and the level outside it, mm."""

    edge: Array
    level: float


class DropWays(NamedTuple):
    """Where drops came to: ``ends`` (n,), one of DRAIN, OUT, STANDS; ``at`` (n, 2); ``left``, which
    ran from the shower into the rest; ``paths``, the places each passed, where asked for."""

    ends: Indices
    at: Array
    left: NDArray[np.bool_]
    paths: list[list[tuple[float, float]]]


@dataclass(frozen=True)
class _Edges:
    """Edges of planes, each between two neighbouring places: one row for each plane it bounds, with
    that plane on its left. ``behind`` is the plane on the right, `RIM` or `OUTSIDE`; ``lower`` the
    place to which water runs along it, −1 where it is level."""

    facet: Indices
    start: Indices
    end: Indices
    outward: Array
    length: Array
    behind: Indices
    lower: Indices


@dataclass
class Net:
    """A floor's planes, their edges and places, and how a drop goes on from each.

    ``vertices`` (v, 2) are all places where edges meet. A drop at such a place runs down the plane
    ``onward`` or, where that is −1, along the steepest edge to the place ``next_vertex``;
    ``vertex_end`` says what becomes of it there.
    """

    surface: Surface
    exits: list[Exit]
    vertices: Array = field(init=False)
    edges: _Edges = field(init=False)
    onward: Indices = field(init=False)
    next_vertex: Indices = field(init=False)
    vertex_end: Indices = field(init=False)

    def __post_init__(self) -> None:
        facets = self.surface.facets
        self.planes = np.array([facet.plane for facet in facets])
        self.gradients = np.hypot(self.planes[:, 0], self.planes[:, 1])
        self.downhill = np.array([facet.downhill for facet in facets])
        self.rest = np.array([facet.zone == "rest" for facet in facets])
        self.vertices, rings = _noded(self.surface)
        self.edges = self._edges(rings)
        counts = np.bincount(self.edges.facet, minlength=len(facets))
        self.table = np.full((len(facets), int(counts.max())), -1)
        order = np.argsort(self.edges.facet, kind="stable")
        nth = np.arange(len(order)) - np.repeat(np.cumsum(counts) - counts, counts)
        self.table[self.edges.facet[order], nth] = order
        self._from_vertices(rings)

    def _heights(self, facet: Indices, at: Array) -> Array:
        a, b, c = self.planes[facet].T
        heights: Array = a * at[:, 0] + b * at[:, 1] + c
        return heights

    def _edges(self, rings: list[list[list[int]]]) -> _Edges:
        rows = [
            (f, a, b)
            for f, shape in enumerate(rings)
            for ring in shape
            for a, b in zip(ring, [*ring[1:], ring[0]], strict=True)
        ]
        facet, start, end = np.array(rows).T
        along = self.vertices[end] - self.vertices[start]
        length = np.hypot(*along.T)
        along = along / length[:, None]
        outward = np.column_stack([along[:, 1], -along[:, 0]])
        sides = {(a, b): f for f, a, b in rows}
        behind = np.array([sides.get((b, a), OUTSIDE) for _, a, b in rows])
        open_ = behind == OUTSIDE
        middles = (self.vertices[start] + self.vertices[end]) / 2
        # Past what belongs to the edge: there lies a drain, a wall, or a plane across a hair's gap.
        behind[open_] = self.surface.located(middles[open_] + ACROSS * outward[open_])
        fall = np.einsum("ij,ij->i", self.planes[facet, :2], along)
        # A fold is the same whichever of its planes it is looked at from: the gentler one counts.
        own = self.gradients[facet]
        other = np.where(behind >= 0, self.gradients[np.maximum(behind, 0)], 0.0)
        least = np.where(other > 0, np.minimum(own, other), own)
        level = np.abs(fall) < LEAST_GUTTER * least
        lower = np.where(level, -1, np.where(fall < 0, end, start))
        return _Edges(facet, start, end, outward, length, behind, lower)

    def _from_vertices(self, rings: list[list[list[int]]]) -> None:
        count = len(self.vertices)
        found: list[list[tuple[int, int, int]]] = [[] for _ in range(count)]
        for f, shape in enumerate(rings):
            for ring in shape:
                for before, v, after in zip(
                    [ring[-1], *ring[:-1]], ring, [*ring[1:], ring[0]], strict=True
                ):
                    found[v].append((f, before, after))
        self.onward = np.full(count, -1)
        self.next_vertex = np.full(count, -1)
        self.vertex_end = np.full(count, STANDS)
        drains = belong(self.surface.rim, self.vertices)
        for v, corners in enumerate(found):
            at = self.vertices[v]
            if not corners:
                continue
            heights = [self.planes[f] @ (*at, 1.0) for f, _, _ in corners]
            low = min(heights)
            if drains[v] and low < -self.surface.drop + HAIR:
                self.vertex_end[v] = DRAIN
                continue
            plane, edge = (0.0, -1), (0.0, -1)
            for (f, before, after), z in zip(corners, heights, strict=True):
                # Whoever stands over a step falls to its foot.
                if z > low + HAIR or self.gradients[f] == 0:
                    continue
                to, back = self.vertices[after] - at, self.vertices[before] - at
                down = self.downhill[f]
                if between(to, down, back):
                    plane = max(plane, (float(self.gradients[f]), f))
                for w, way in ((after, to), (before, back)):
                    slope = -float(self.planes[f, :2] @ way) / float(np.hypot(*way))
                    if slope > LEAST_GUTTER * self.gradients[f]:
                        edge = max(edge, (slope, w))
            if max(plane[0], edge[0]) > 0:
                self.vertex_end[v] = RUNS
                self.onward[v] = plane[1] if plane[0] > edge[0] else -1
                self.next_vertex[v] = edge[1]
            elif self._leaves(at[None], np.array([low]))[0]:
                self.vertex_end[v] = OUT

    def _leaves(self, at: Array, heights: Array) -> NDArray[np.bool_]:
        """Which places, at these heights, let water out over an exit."""
        out = np.zeros(len(at), dtype=bool)
        places = shapely.points(at)
        for way in self.exits:
            near = shapely.distance(shapely.linestrings(way.edge), places) <= ON_EDGE
            out |= near & (heights >= way.level - HAIR)
        return out

    def traps(self) -> Array:
        """Places, (n, 3) with heights, where water from a falling plane stands though no part of
        the floor there is level: in a corner, or along a wall or fold."""
        edges, facets = self.edges, self.edges.facet
        down = np.einsum("ij,ij->i", self.downhill[facets], edges.outward)
        meets = (down > LEAST_GUTTER) & (edges.lower < 0) & (edges.behind != RIM)
        at = (self.vertices[edges.start] + self.vertices[edges.end]) / 2
        goes_on = self._goes_on(np.arange(len(facets)), at)
        level = np.append(self.gradients == 0, [False, False])
        stands = meets & ~goes_on & ~level[edges.behind]
        found = [np.column_stack([at, self._heights(facets, at)])[stands]]
        flat = self.gradients == 0
        by_level = np.zeros(len(self.vertices), dtype=bool)
        for ends in (edges.start, edges.end):
            by_level[ends[flat[facets]]] = True
        low = np.full(len(self.vertices), np.inf)
        for ends in (edges.start, edges.end):
            np.minimum.at(low, ends, self._heights(facets, self.vertices[ends]))
        pits = (self.vertex_end == STANDS) & ~by_level
        found.append(np.column_stack([self.vertices, low])[pits])
        trapped = np.concatenate(found)
        return trapped[~self.at_rim(trapped[:, :2])]

    def at_rim(self, at: Array) -> NDArray[np.bool_]:
        """Which places lie so near a rim that what comes there runs in."""
        near: NDArray[np.bool_] = shapely.distance(self.surface.rim, shapely.points(at)) < SLIPPED
        return near

    def _goes_on(self, edge: Indices, at: Array) -> NDArray[np.bool_]:
        """Whether a drop that comes to an edge at these places runs on over it."""
        edges = self.edges
        behind = edges.behind[edge]
        there = np.where(behind < 0, 0, behind)
        rise = self._heights(there, at) - self._heights(edges.facet[edge], at)
        away = np.einsum("ij,ij->i", self.downhill[there], edges.outward[edge]) > 1e-9
        # Corners that were joined may lie so far off a steep plane that it seems to step down.
        steep = np.maximum(self.gradients[there], self.gradients[edges.facet[edge]])
        step = HAIR + ONE_CORNER * steep
        # Where it falls back to the edge both meet in a fold, though a hair's gap be between them.
        down = rise < -np.where(away, step, HAIR + ACROSS * steep)
        goes: NDArray[np.bool_] = (behind >= 0) & (down | (away & (rise <= step)))
        return goes

    def run(self, starts: Array, *, paths: bool = False) -> DropWays:
        """Let drops run from places, (n, 2), on the floor."""
        count = len(starts)
        at = starts.astype(float).copy()
        facet = self.surface.located(at)
        vertex, origin = np.full(count, -1), np.full(count, -1)
        ends = np.where(facet == RIM, DRAIN, np.where(facet == OUTSIDE, STANDS, RUNS))
        began = np.where(facet >= 0, ~self.rest[np.maximum(facet, 0)], False)
        left = np.zeros(count, dtype=bool)
        kept: list[list[tuple[float, float]]] = [[(x, y)] for x, y in at.tolist()] if paths else []
        for _ in range(MOST_LEGS):
            live = np.flatnonzero(ends == RUNS)
            if not len(live):
                break
            on_plane = live[vertex[live] < 0]
            at_vertex = live[vertex[live] >= 0]
            v = vertex[at_vertex]
            at[at_vertex] = self.vertices[v]
            ends[at_vertex] = self.vertex_end[v]
            down = self.onward[v]
            facet[at_vertex] = np.where(down >= 0, down, facet[at_vertex])
            vertex[at_vertex] = np.where(down >= 0, -1, self.next_vertex[v])
            origin[at_vertex] = np.where(down >= 0, v, -1)
            if len(on_plane):
                self._down(on_plane, at, facet, vertex, origin, ends)
                origin[on_plane] = -1
                left[on_plane] |= began[on_plane] & self.rest[np.maximum(facet[on_plane], 0)]
            if paths:
                for i in live.tolist():
                    kept[i].append((float(at[i, 0]), float(at[i, 1])))
        ends[ends == RUNS] = STANDS
        ends[(ends == STANDS) & self.at_rim(at)] = DRAIN
        return DropWays(ends, at, left, kept)

    def _down(
        self,
        drops: Indices,
        at: Array,
        facet: Indices,
        vertex: Indices,
        origin: Indices,
        ends: Indices,
    ) -> None:
        """Move drops down their planes to the next edge, and say what comes then.

        Those that come from a place, ``origin``, do not meet the edges that begin or end there.
        """
        edges, own = self.edges, facet[drops]
        flat = self.gradients[own] == 0
        ends[drops[flat]] = STANDS
        drops, own = drops[~flat], own[~flat]
        if not len(drops):
            return
        table = self.table[own]
        known = table >= 0
        start = self.vertices[edges.start[table]]
        outward = edges.outward[table]
        way = self.downhill[own][:, None]
        speed = (outward * way).sum(axis=2)
        apart = ((start - at[drops][:, None]) * outward).sum(axis=2)
        own_place = origin[drops][:, None]
        met = known & (speed > SAME_WAY)
        met &= (edges.start[table] != own_place) & (edges.end[table] != own_place)
        # A slit in a plane parts nothing.
        met &= edges.behind[table] != own[:, None]
        far = apart / np.where(met, speed, 1.0)
        along = np.stack([-outward[..., 1], outward[..., 0]], axis=2)
        place = at[drops][:, None] + far[..., None] * way
        share = ((place - start) * along).sum(axis=2)
        hit = (
            met & (far > -SAME_PLACE) & (share > -ON_EDGE) & (share < edges.length[table] + ON_EDGE)
        )
        far = np.where(hit, far, np.inf)
        first = far.argmin(axis=1)
        rows = np.arange(len(drops))
        reached = np.isfinite(far[rows, first])
        # Between two edges a hair apart there is no way but along them.
        lost = drops[~reached]
        aside = np.where(origin[lost] >= 0, self.next_vertex[origin[lost]], -1)
        for i in np.flatnonzero(aside < 0):
            # Where planes were joined within a hair a drop may have slipped between them.
            apart = np.hypot(*(self.vertices - at[lost[i]]).T)
            aside[i] = apart.argmin() if apart.min() < SLIPPED else -1
        vertex[lost] = aside
        ends[lost[aside < 0]] = STANDS
        drops, rows, first = drops[reached], rows[reached], first[reached]
        edge = table[rows, first]
        at[drops] += np.maximum(far[rows, first], 0.0)[:, None] * way[rows, 0]
        # What passes an edge's end by a hair comes to that end.
        by = share[rows, first]
        ended = np.where(
            by < 0, edges.start[edge], np.where(by > edges.length[edge], edges.end[edge], -1)
        )
        vertex[drops[ended >= 0]] = ended[ended >= 0]
        drops, edge = drops[ended < 0], edge[ended < 0]
        behind = edges.behind[edge]
        heights = self._heights(edges.facet[edge], at[drops])
        on = self._goes_on(edge, at[drops])
        out = (behind == OUTSIDE) & self._leaves(at[drops], heights)
        along_it = ~on & ~out & (behind != RIM)
        ends[drops[behind == RIM]] = DRAIN
        ends[drops[out]] = OUT
        facet[drops[on]] = behind[on]
        lower = edges.lower[edge]
        ends[drops[along_it & (lower < 0)]] = STANDS
        slides = along_it & (lower >= 0)
        vertex[drops[slides]] = lower[slides]


def between(first: Array, way: Array, last: Array) -> bool:
    """Whether a way lies strictly inside the corner that opens anticlockwise from first to last."""

    def turn(other: Array) -> float:
        cross = first[0] * other[1] - first[1] * other[0]
        return float(np.arctan2(cross, first @ other)) % (2 * np.pi)

    opening = turn(last)
    return SAME_WAY < turn(way) < opening - SAME_WAY


def _noded(surface: Surface) -> tuple[Array, list[list[list[int]]]]:
    """All corners of planes as places, each once, and every plane's rings through all places that
    lie on them, with the plane on the left: indices, (plane, ring, corner)."""
    shapes = [shapely.geometry.polygon.orient(facet.polygon) for facet in surface.facets]
    parts = [[np.array(r.coords)[:-1] for r in (s.exterior, *s.interiors)] for s in shapes]
    corners = np.concatenate([ring for shape in parts for ring in shape])
    pairs = scipy.spatial.cKDTree(corners).query_pairs(ONE_CORNER, output_type="ndarray")
    joined = scipy.sparse.coo_array(
        (np.ones(len(pairs)), (pairs[:, 0], pairs[:, 1])), shape=(len(corners),) * 2
    )
    _, label = scipy.sparse.csgraph.connected_components(joined, directed=False)
    _, first = np.unique(label, return_index=True)
    vertices = corners[first]
    rings: list[list[list[int]]] = []
    at = 0
    for shape in parts:
        rings.append([])
        for ring in shape:
            names = label[at : at + len(ring)]
            at += len(ring)
            if len(np.unique(names)) > 2:
                rings[-1].append(_through(vertices, names))
    return vertices, rings


def _through(vertices: Array, names: NDArray[np.integer]) -> list[int]:
    """A ring's corners with all other places that lie on its edges between them, in order."""
    names = names[names != np.roll(names, 1)]
    start, end = vertices[names], vertices[np.roll(names, -1)]
    along = end - start
    length = np.hypot(*along.T)
    along = along / length[:, None]
    away = vertices[None] - start[:, None]
    share = (away * along[:, None]).sum(axis=2)
    off = np.abs(away[..., 0] * along[:, None, 1] - away[..., 1] * along[:, None, 0])
    on = (off < ONE_CORNER) & (share > ONE_CORNER) & (share < length[:, None] - ONE_CORNER)
    found: list[int] = []
    for i, name in enumerate(names.tolist()):
        between = np.flatnonzero(on[i])
        found += [name, *between[np.argsort(share[i, between])].tolist()]
    return found
