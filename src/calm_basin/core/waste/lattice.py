"""The free strips between joists as a lattice of lines, and how high a pipe has to start on it.

A pipe runs along the joists or square to them. Lines lie where a run may have to bend: at the
stack, in the middle and at the sides of each strip, at the edges of what it has to go round. A
shortest run over free strips never needs others but those through its own outlet.
"""

from __future__ import annotations

import heapq
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import pairwise, product

import numpy as np
import shapely
from numpy.typing import NDArray

from calm_basin.core.geometry.surface import Array
from calm_basin.core.structure.passing import Passing
from calm_basin.core.waste.ground import Crossing, UnderFloor
from calm_basin.tolerances import SAME_PLACE

Node = tuple[int, int]

ASIDE = 1.0
"""A pipe keeps so far from a timber that it does not pass, mm."""


@dataclass(frozen=True, eq=False)
class Lattice:
    """Lines along the joists (``across``) and square to them (``along``), with the stack on one of
    each. ``stack`` is its node, ``level`` the least level of the pipe's middle there."""

    ground: UnderFloor
    along: Array
    across: Array
    stack: Node
    level: float

    def place(self, node: Node) -> Array:
        """A node on plan."""
        at: Array = self.ground.bays.back(np.array([[self.along[node[0]], self.across[node[1]]]]))[
            0
        ]
        return at

    def nearest(self, place: Array) -> Node:
        """The node nearest to a place on plan."""
        u, v = self.ground.bays.to(place[None])[0]
        return int(np.abs(self.along - u).argmin()), int(np.abs(self.across - v).argmin())

    @cached_property
    def neighbours(self) -> dict[Node, list[tuple[Node, float]]]:
        """For each node those next to it, on its own lines, that a pipe may lie on the way to, and
        how far off they are, mm."""
        along, across = np.diff(self.along).tolist(), np.diff(self.across).tolist()
        found: dict[Node, list[tuple[Node, float]]] = {}
        for i, j in product(range(len(along) + 1), range(len(across) + 1)):
            around = found[(i, j)] = []
            if i:
                around.append(((i - 1, j), along[i - 1]))
            if i < len(along):
                around.append(((i + 1, j), along[i]))
            if j:
                around.append(((i, j - 1), across[j - 1]))
            if j < len(across):
                around.append(((i, j + 1), across[j]))
        for first, last in self._closed:
            found[first] = [one for one in found[first] if one[0] != last]
            found[last] = [one for one in found[last] if one[0] != first]
        return found

    @cached_property
    def _every(self) -> tuple[list[tuple[Node, Node]], Array]:
        """The stretches between neighbours, each once, and their ends, (n, 2, 2), in the floor's
        own directions."""
        columns, rows = range(len(self.along)), range(len(self.across))
        pairs = [((i, j), (i + 1, j)) for i in columns[:-1] for j in rows]
        pairs += [((i, j), (i, j + 1)) for i in columns for j in rows[:-1]]
        at = np.array(pairs, dtype=np.intp).reshape(-1, 2, 2)
        return pairs, np.stack([self.along[at[..., 0]], self.across[at[..., 1]]], axis=-1)

    @cached_property
    def _closed(self) -> list[tuple[Node, Node]]:
        """The stretches between neighbours on which no run lies."""
        if not self.ground.kept_clear and not self.ground.beside:
            return []
        pairs, ends = self._every
        lines = shapely.linestrings(self.ground.bays.back(ends.reshape(-1, 2)).reshape(-1, 2, 2))
        met = shapely.intersects(lines, shapely.union_all(self.ground.kept_clear))
        met |= self._lengthwise(ends)
        return [pairs[k] for k in np.flatnonzero(met).tolist()]

    @cached_property
    def _passed(self) -> dict[tuple[Node, Node], list[Crossing]]:
        """Stretches between neighbours with what they pass; those that pass nothing are left
        out."""
        pairs, ends = self._every
        found = {}
        for k, crossings in self.ground.passed(ends[:, 0], ends[:, 1]).items():
            first, last = pairs[k]
            long = float(np.abs(ends[k, 1] - ends[k, 0]).sum())
            found[(first, last)] = crossings
            found[(last, first)] = [
                replace(one, distance=long - one.distance) for one in crossings[::-1]
            ]
        return found

    def _lengthwise(self, ends: Array) -> NDArray[np.bool_]:
        """Which stretches, (n, 2, 2) in the floor's own directions, lie in a timber along its
        length, or nearer beside it than they may."""
        bays, met = self.ground.bays, np.zeros(len(ends), dtype=bool)
        low, high = ends.min(axis=1), ends.max(axis=1)
        for timber, passing in self.ground.timbers:
            if not np.isfinite(passing.high):
                continue
            reach = bays.to(shapely.get_coordinates(timber.outline))
            first, last = reach.min(axis=0), reach.max(axis=0)
            along = int(np.argmin(np.ptp(reach, axis=0)) == 0)
            over = np.minimum(high, last)[:, along] - np.maximum(low, first)[:, along]
            near = (low[:, 1 - along] < last[1 - along] + self.ground.beside) & (
                high[:, 1 - along] > first[1 - along] - self.ground.beside
            )
            lengthwise = high[:, along] > low[:, along]
            if passing.refused and passing.under is None:
                # Nor does its body come into the end of one that is not drilled.
                over += self.ground.beside
                lengthwise[:] = True
            met |= lengthwise & (over > SAME_PLACE) & near
        return met

    def crossings(self, start: Node, end: Node) -> list[Crossing]:
        """What the stretch from one node to its neighbour passes."""
        return self._passed.get((start, end), [])

    @cached_property
    def needs(self) -> tuple[Array, Array, dict[Node, Node]]:
        """For each node the lowest level at which a pipe may start there to reach the stack, how
        long it then is, and the next node on its way; infinite where it does not get there.

        Labels are set from the stack outwards, the lowest level first: a longer way never needs a
        lower start.
        """
        found: dict[Node, tuple[float, float]] = {}
        onward: dict[Node, Node] = {}
        queue: list[tuple[float, float, Node, Node | None]] = [(self.level, 0.0, self.stack, None)]
        while queue:
            level, length, node, after = heapq.heappop(queue)
            if node in found:
                continue
            found[node] = level, length
            if after is not None:
                onward[node] = after
            for other, long in self.neighbours[node]:
                if other in found:
                    continue
                start = self.ground.start_for(self.crossings(other, node), long, level)
                if start is not None:
                    heapq.heappush(queue, (start, length + long, other, node))
        needed = np.full((2, len(self.along), len(self.across)), np.inf)
        needed[:, *np.array(list(found)).T] = np.array(list(found.values())).T
        return needed[0], needed[1], onward

    @cached_property
    def _inside(self) -> list[list[list[tuple[float, Passing]]]]:
        """What stands in each cell between lines: (place across the joists, how it is passed) from
        the lower line up."""
        columns, rows = len(self.along) - 1, len(self.across) - 1
        found: list[list[list[tuple[float, Passing]]]] = [
            [[] for _ in range(rows)] for _ in range(columns)
        ]
        corners = np.array(
            [
                [(u0, v0), (u1, v0), (u1, v1), (u0, v1)]
                for u0, u1 in pairwise(self.along)
                for v0, v1 in pairwise(self.across)
            ]
        )
        if not len(corners) or not self.ground.timbers:
            return found
        back = self.ground.bays.back(corners.reshape(-1, 2)).reshape(-1, 4, 2)
        cells = shapely.buffer(shapely.polygons(back), -0.01)
        boxes = np.array([timber.outline for timber, _ in self.ground.timbers], dtype=object)
        for cell, i in shapely.STRtree(boxes).query(cells, predicate="intersects").T:
            timber, passing = self.ground.timbers[int(i)]
            reach = self.ground.bays.to(shapely.get_coordinates(timber.outline))[:, 1]
            middle = float((reach.min() + reach.max()) / 2)
            found[cell // rows][cell % rows].append((middle, passing))
        for column in found:
            for row in column:
                row.sort(key=lambda item: item[0])
        return found

    def from_places(self, places: Array) -> tuple[Array, Array]:
        """The same for outlets on plan, (n, 2): levels and lengths.

        A pipe goes from its outlet square to the joists, over as many as it likes, then onto a line
        along them; or along them at once. To pass joists early never needs a higher start.
        """
        u, v = self.ground.bays.to(places).T
        best = np.full((2, len(places)), np.inf)
        # A place on a line belongs to the cells on both of its sides.
        cells: list[Array] = []
        for du, dv in product((-1e-6, 1e-6), repeat=2):
            i, j = _cell(self.along, u + du), _cell(self.across, v + dv)
            seen = np.zeros(len(u), dtype=bool)
            for other in cells:
                seen |= (other == (i, j)).all(axis=0)
            cells.append(np.array([i, j]))
            for column in np.unique(i[~seen]):
                if not 0 <= column < len(self.along) - 1:
                    continue
                own = np.flatnonzero((i == column) & ~seen)
                found = self._from_column(int(column), u[own], v[own], j[own])
                better = _lower(found, best[:, own])
                best[:, own[better]] = found[:, better]
        return best[0], best[1]

    def _from_column(self, column: int, u: Array, v: Array, row: NDArray[np.intp]) -> Array:
        """Levels and lengths, (2, n), for places between two lines square to the joists."""
        rows = len(self.across)
        levels, lengths, _ = self.needs
        onto = np.full((rows, 2, len(u)), np.inf)
        free = [j for j in range(rows) if not self.crossings((column, j), (column + 1, j))]
        for side in (column, column + 1):
            apart = np.abs(u - self.along[side])
            found = np.stack(
                [
                    levels[side, free, None] + self.ground.fall * apart,
                    lengths[side, free, None] + apart,
                ],
                axis=1,
            )
            better = _lower(found, onto[free])
            onto[free] = np.where(better[:, None], found, onto[free])
        # Where a timber stands that is in a pipe's way, no outlet is.
        shut = np.array(
            [any(np.isfinite(p.high) for _, p in cell) for cell in self._inside[column]]
        )
        best = np.full((2, len(u)), np.inf)
        for way in (1, -1):
            # What is needed on each line by those who come over the lines before it.
            over = onto.copy()
            order = range(rows - 2, -1, -1) if way == 1 else range(1, rows)
            for j in order:
                cell = j if way == 1 else j - 1
                found = self._across(column, cell, over[j + way], u, way)
                better = _lower(found, over[j])
                over[j][:, better] = found[:, better]
            line = np.clip(row + (1 if way == 1 else 0), 0, rows - 1)
            inside = (row >= 0) & (row < rows - 1)
            closed = shut[np.clip(row, 0, rows - 2)]
            apart = np.abs(v - self.across[line])
            at = over[line, :, np.arange(len(u))].T
            found = at + np.stack([self.ground.fall * apart, apart])
            better = inside & ~closed & _lower(found, best)
            best[:, better] = found[:, better]
        return best

    def _across(self, column: int, cell: int, beyond: Array, u: Array, way: int) -> Array:
        """What is needed on one line of a cell by those who go over it to the other, where
        ``beyond`` is needed."""
        here = self.across[cell if way == 1 else cell + 1]
        there = self.across[cell + 1 if way == 1 else cell]
        level, at = beyond[0].copy(), there
        standing = self._inside[column][cell]
        for place, passing in standing[::-1] if way == 1 else standing:
            level = passing.needed_by(level + self.ground.fall * abs(at - place), u)
            at = place
        level = level + self.ground.fall * abs(at - here)
        return np.stack([level, beyond[1] + abs(there - here)])


def lattice_of(
    ground: UnderFloor, room: Array, stack: Array, level: float, radius: float, others: Array
) -> Lattice:
    """The lattice under a room's corners, (n, 2), for a stack; ``others`` are places, (n, 2),
    through which lines have to go besides."""
    places = ground.bays.to(np.vstack([room, stack[None], others]))
    low, high = places.min(axis=0) - 2 * radius, places.max(axis=0) + 2 * radius
    along = {low[0], high[0], *places[len(room) :, 0]}
    across = {low[1], high[1], *places[len(room) :, 1]}
    sides = [low[1]]
    away = radius + ASIDE
    for timber, passing in ground.timbers:
        reach = ground.bays.to(shapely.get_coordinates(timber.outline))
        first, last = reach.min(axis=0), reach.max(axis=0)
        across |= {first[1] - away, last[1] + away}
        sides += [first[1], last[1]]
        if passing.refused or timber.kind != "joist":
            along |= {first[0] - away, last[0] + away}
        along |= {end for stretch in passing.places for end in stretch}
    for area in ground.kept_clear:
        reach = ground.bays.to(shapely.get_coordinates(area))
        first, last = reach.min(axis=0), reach.max(axis=0)
        along |= {first[0] - ASIDE, last[0] + ASIDE}
        across |= {first[1] - ASIDE, last[1] + ASIDE}
    sides = sorted([*sides, high[1]])
    across |= {(a + b) / 2 for a, b in pairwise(sides) if b - a > 2 * away}
    lines = (_between(along, low[0], high[0]), _between(across, low[1], high[1]))
    lattice = Lattice(ground, *lines, (0, 0), level)
    return replace(lattice, stack=lattice.nearest(stack))


def _lower(found: Array, best: Array) -> NDArray[np.bool_]:
    """Which columns of (levels, lengths), (..., 2, n), need less than others, or as little and are
    shorter."""
    level, least = found[..., 0, :], best[..., 0, :]
    with np.errstate(invalid="ignore"):
        alike = np.abs(level - least) <= 1e-9
        shorter = found[..., 1, :] < best[..., 1, :] - 1e-9
    return np.asarray(((level < least - 1e-9) | (alike & shorter)) & np.isfinite(level))


def _cell(line: Array, at: Array) -> NDArray[np.intp]:
    return np.searchsorted(line, at, "right") - 1


def _between(values: set[float], low: float, high: float) -> Array:
    kept = np.array(sorted(value for value in values if low <= value <= high))
    apart: Array = kept[np.append(True, np.diff(kept) > 1e-6)]
    return apart
