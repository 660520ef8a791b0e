"""The way of a heating cable over a floor: numbers only.

The floor is covered with squares two runs wide. A tree joins them, row by row, and the cable goes
once round that tree: so its runs are the same distance apart everywhere, whatever the floor's
shape, nowhere does it cross itself, and it ends beside where it began. Between start and end the
way in along the tree is open: there the sensor lies without a crossing.
"""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from functools import cached_property, lru_cache
from math import ceil, cos, pi, sin
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString
from shapely.geometry.base import BaseGeometry
from shapely.ops import substring

from calm_basin.core.geometry.surface import Array

ARC = 6
"""Chords by which a bend of a quarter turn is drawn."""

Cell = tuple[int, int]

Numbers = NDArray[np.int64]

EAST, NORTH, WEST, SOUTH = (1, 0), (0, 1), (-1, 0), (0, -1)


class Axes(NamedTuple):
    """Axes on plan: an origin and the angle, radians, of the way in which the runs lie."""

    x: float
    y: float
    turn: float

    def inside(self, places: Array) -> Array:
        """Places on plan, (n, 2), along and across the runs."""
        c, s = cos(self.turn), sin(self.turn)
        moved: Array = (places - np.array([self.x, self.y])) @ np.array([[c, -s], [s, c]])
        return moved

    def outside(self, places: Array) -> Array:
        """The way back."""
        c, s = cos(self.turn), sin(self.turn)
        moved: Array = places @ np.array([[c, s], [-s, c]]) + np.array([self.x, self.y])
        return moved


@dataclass(frozen=True)
class Cover:
    """Squares that cover a floor, ``2 * apart`` wide, with the tree that joins those that hang
    together; square (i, j) has its middle at ``corner + 2 * apart * (i, j)`` in the frame."""

    frame: Axes
    corner: tuple[float, float]
    apart: float
    cells: frozenset[Cell]
    joined: frozenset[tuple[Cell, Cell]]
    """Pairs of neighbours that the tree joins, either way round."""

    @cached_property
    def area(self) -> float:
        """Of the squares, mm²."""
        return len(self.cells) * (2 * self.apart) ** 2

    def middle(self, cell: Cell) -> Array:
        """Of a square on plan, (2,)."""
        place = np.array(self.corner) + 2 * self.apart * np.array(cell)
        middle: Array = self.frame.outside(place[None])[0]
        return middle

    @cached_property
    def loop(self) -> list[Cell]:
        """The quarters of squares in the order in which the cable passes them, closed."""
        ways: dict[Cell, list[Cell]] = {}

        def join(a: Cell, b: Cell) -> None:
            ways.setdefault(a, []).append(b)
            ways.setdefault(b, []).append(a)

        for i, j in self.cells:
            low, right = (2 * i, 2 * j), (2 * i + 1, 2 * j)
            left, high = (2 * i, 2 * j + 1), (2 * i + 1, 2 * j + 1)
            sides = {
                EAST: (right, high),
                NORTH: (left, high),
                WEST: (low, left),
                SOUTH: (low, right),
            }
            for (dx, dy), (a, b) in sides.items():
                if ((i, j), (i + dx, j + dy)) not in self.joined:
                    join(a, b)
                elif dx + dy > 0:
                    join(a, (a[0] + dx, a[1] + dy))
                    join(b, (b[0] + dx, b[1] + dy))
        first = min(ways)
        loop, before = [first], first
        at = ways[first][0]
        while at != first:
            loop.append(at)
            before, at = at, next(one for one in ways[at] if one != before)
        return loop

    def places(self, quarters: list[Cell]) -> Array:
        """The middles of quarters of squares, in the frame, (n, 2)."""
        base = np.array(self.corner) - self.apart / 2
        return base + self.apart * np.array(quarters, dtype=float)

    @cached_property
    def length(self) -> float:
        """Of a cable all round it, mm."""
        turns = 0
        for i, j in self.cells:
            here = (i, j)
            east, north = (here, (i + 1, j)) in self.joined, (here, (i, j + 1)) in self.joined
            west, south = (here, (i - 1, j)) in self.joined, (here, (i, j - 1)) in self.joined
            # A quarter is passed straight on where one of its outer sides is joined and one is not.
            turns += (south == west) + (south == east) + (north == west) + (north == east)
        # A bend is a quarter of a circle in place of two halves of a side; one side is left open.
        return self.apart * (4 * len(self.cells) - 1 - turns * (1 - pi / 4))


@lru_cache(maxsize=64)
def cover(floor: BaseGeometry, apart: float, turn: float, *, either: bool = True) -> Cover | None:
    """The squares in which runs ``apart`` mm from one another lie on a floor, where there is one.

    Of the four ways to begin at its edges, and where ``either`` of both ways of the runs, the one
    that covers most is taken; of parts that do not hang together the largest.
    """
    if floor.is_empty:
        return None
    best: tuple[int, Axes, BaseGeometry, tuple[float, float], Numbers] | None = None
    for around in (turn, turn + pi / 2) if either else (turn,):
        frame = Axes(0.0, 0.0, around)
        framed = shapely.transform(floor, frame.inside)
        shapely.prepare(framed)
        left, low, right, high = framed.bounds
        step, half = 2 * apart, apart / 2
        columns, rows = ceil((right - left) / step) + 1, ceil((high - low) / step) + 1
        numbers = np.stack(np.meshgrid(np.arange(columns), np.arange(rows)), axis=-1).reshape(-1, 2)
        for x in (left + half, right - half - step * (columns - 1)):
            for y in (low + half, high - half - step * (rows - 1)):
                whole = numbers[_within(framed, np.array((x, y)) + step * numbers, (0, 0), half)]
                if best is None or len(whole) > best[0]:
                    best = len(whole), frame, framed, (x, y), whole
    assert best is not None
    count, frame, framed, corner, squares = best
    return _joined_up(framed, frame, corner, apart, squares) if count else None


def _within(
    floor: BaseGeometry, middles: Array, reach: tuple[float, float], half: float
) -> NDArray[np.bool_]:
    """Which squares about places, (n, 2), ``half`` to each side and drawn out by ``reach``, a floor
    holds."""
    near = half - 1e-6
    x, y = middles[:, 0], middles[:, 1]
    boxes = shapely.box(x - near, y - near, x + reach[0] + near, y + reach[1] + near)
    within: NDArray[np.bool_] = shapely.covers(floor, boxes)
    return within


def _joined_up(
    floor: BaseGeometry,
    frame: Axes,
    corner: tuple[float, float],
    apart: float,
    squares: Numbers,
) -> Cover:
    """The largest part of squares, (n, 2), that hangs together, with its tree."""
    step, middles = 2 * apart, np.array(corner) + 2 * apart * squares
    # Which square lies at each place, -1: none; one more each way, so that all have neighbours.
    at = np.full(squares.max(axis=0) + 2, -1)
    at[squares[:, 0], squares[:, 1]] = np.arange(len(squares))
    edges: dict[tuple[int, int], float] = {}
    # Rows first, so that runs are long; then rows to rows, on one side where they can be.
    for way, reach, weight in ((EAST, (step, 0.0), 1.0), (NORTH, (0.0, step), 2.0)):
        other = at[squares[:, 0] + way[0], squares[:, 1] + way[1]]
        held = np.flatnonzero(other >= 0)
        held = held[_within(floor, middles[held], reach, apart / 2)]
        weights = weight + 1e-4 * squares[held, 0] * way[1]
        pairs = zip(held.tolist(), other[held].tolist(), strict=True)
        edges |= dict(zip(pairs, weights.tolist(), strict=True))
    tight = {
        (n, dx, dy)
        for dx in (-1, 1)
        for dy in (-1, 1)
        for n in np.flatnonzero(
            ~_within(floor, middles + 0.75 * apart * np.array((dx, dy)), (0.0, 0.0), apart / 4)
        ).tolist()
    }
    while True:
        tree, of = _tree(len(squares), edges)
        bent = _bent_tightly(tree, squares, tight)
        if not bent:
            break
        for edge in bent:
            del edges[edge]
    largest = int(np.bincount(of).argmax())
    all_cells: list[Cell] = [(i, j) for i, j in squares.tolist()]
    cells = [cell for cell, part in zip(all_cells, of.tolist(), strict=True) if part == largest]
    joins = [(all_cells[a], all_cells[b]) for a, b in tree if of[a] == largest]
    joined = {pair for a, b in joins for pair in ((a, b), (b, a))}
    return Cover(frame, corner, apart, frozenset(cells), frozenset(joined))


def _tree(
    count: int, edges: dict[tuple[int, int], float]
) -> tuple[list[tuple[int, int]], NDArray[np.int32]]:
    """The tree of least weight over all that edges join, and the part to which each belongs."""
    from scipy.sparse import coo_array
    from scipy.sparse.csgraph import connected_components, minimum_spanning_tree

    first, second = np.array(list(edges), dtype=np.int64).reshape(-1, 2).T
    graph = coo_array((list(edges.values()), (first, second)), shape=(count, count))
    tree = minimum_spanning_tree(graph).tocoo()
    _, of = connected_components(tree, directed=False)
    return list(zip(tree.row.tolist(), tree.col.tolist(), strict=True)), of


def _bent_tightly(
    tree: list[tuple[int, int]], squares: Numbers, tight: set[tuple[int, int, int]]
) -> set[tuple[int, int]]:
    """Edges from row to row that cannot be: where the tree turns there the cable's bend cuts the
    corner, and ``tight`` corners of squares have something in them."""
    if not tight:
        return set()
    ways: dict[int, dict[Cell, tuple[int, int]]] = {}
    ends = np.array(tree, dtype=np.int64).reshape(-1, 2)
    ahead = (squares[ends[:, 1]] - squares[ends[:, 0]]).tolist()
    for (a, b), (dx, dy) in zip(tree, ahead, strict=True):
        ways.setdefault(a, {})[dx, dy] = (a, b)
        ways.setdefault(b, {})[-dx, -dy] = (a, b)
    return {
        of[0, dy]
        for n, of in ways.items()
        for dx in (-1, 1)
        for dy in (-1, 1)
        if (dx, 0) in of and (0, dy) in of and (n, dx, dy) in tight
    }


class CableWay(NamedTuple):
    """A cable on plan: its line, (n, 2), with bends as chords; the sensor's line from the gap
    between its two ends; and how much of the way round it leaves over, mm."""

    line: Array
    sensor: Array
    left: float


def way(over: Cover, length: float, start: tuple[float, float], sensor: float) -> CableWay:
    """A cable of ``length`` round a cover, from the quarter that is nearest to ``start``; the
    sensor reaches ``sensor`` mm between the runs. A cable that is longer than the way round ends
    with it."""
    loop = over.loop
    places = over.frame.outside(over.places(loop))
    first = int(np.hypot(*(places - np.array(start)).T).argmin())
    order = [*loop[first:], *loop[:first]]
    line, left = _bent(over, order, length)
    # Its end lies beside its start; the tree between the two is where the sensor comes in.
    own = (order[0][0] // 2, order[0][1] // 2)
    return CableWay(over.frame.outside(line), over.frame.outside(_inwards(over, own, sensor)), left)


def _bent(over: Cover, order: list[Cell], length: float) -> tuple[Array, float]:
    """The line through quarters in their order with round bends, cut off at ``length``, and what of
    the way is left over."""
    at, ways = over.places(order), np.diff(np.array(order), axis=0)
    bends = np.flatnonzero((ways[1:] != ways[:-1]).any(axis=1))
    half = over.apart / 2
    come, go = half * ways[bends][:, None], half * ways[bends + 1][:, None]
    share = np.linspace(0, pi / 2, ARC + 1)[None, :, None]
    # A quarter of a circle round the place from which both sides are half a distance off.
    arcs = at[bends + 1][:, None] + go * (1 - np.cos(share)) - come * (1 - np.sin(share))
    points = np.concatenate([at[:1], arcs.reshape(-1, 2), at[-1:]])
    line = LineString(points)
    if length >= line.length:
        return points, 0.0
    cut = substring(line, 0, length)
    return np.array(cut.coords), line.length - length


def _inwards(over: Cover, own: Cell, reach: float) -> Array:
    """From the middle of a square along the tree, ``reach`` mm, in the frame."""
    line, seen = [own], {own}
    while (len(line) - 1) * 2 * over.apart < reach:
        following = [cell for cell in _joined(over, line[-1]) if cell not in seen]
        if not following:
            break
        # Straight on where that is possible.
        straight = [c for c in following if len(line) > 1 and _ahead(line[-2], line[-1]) == c]
        line.append((straight or sorted(following))[0])
        seen.add(line[-1])
    places: Array = np.array(over.corner) + 2 * over.apart * np.array(line, dtype=float)
    return places


def _ahead(before: Cell, here: Cell) -> Cell:
    return (2 * here[0] - before[0], 2 * here[1] - before[1])


def _joined(over: Cover, cell: Cell) -> Iterator[Cell]:
    for dx, dy in (EAST, NORTH, WEST, SOUTH):
        other = (cell[0] + dx, cell[1] + dy)
        if (cell, other) in over.joined:
            yield other
