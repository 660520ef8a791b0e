"""Where tile is best begun: numbers only."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from itertools import product
from math import isqrt
from typing import NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry.base import BaseGeometry

from calm_basin.core.geometry.surface import Array
from calm_basin.core.tile.laying import ROWS, Laid, TileGrid, lay
from calm_basin.rules import TRADE
from calm_basin.tolerances import ALONG

STEP = 1.0
"""Origins are tried so far apart along each axis, mm."""

TRIED = 8
"""At most so many of the best of each axis are laid out together."""

MOST_LAID = 30_000
"""So many tiles are laid in all for one answer: of very many tiles fewer origins are tried."""

MOST_ASKEW = 12_000
"""So many more where edges lie askew to it."""

FINALISTS = 5
"""So many of the best for the floors are weighed with the walls."""

FEW = 0.1
"""Share of all edges that may lie askew before origins are tried all over a tile."""

GOOD = 0.5
"""A piece that keeps half of its tile is as good as a wider one."""


class Weight(NamedTuple):
    """What an origin is weighed by, the gravest first: fewer slivers, a wider narrowest piece
    (``narrowest`` below 0: what share of its tile it keeps), fewer tiles."""

    slivers: int
    narrowest: float
    tiles: int


def weight(laid: Sequence[Laid]) -> Weight:
    """What the layouts of all floors that are begun together weigh."""
    narrowest = min(
        (float(one.shares.min()) for one in laid if one.grid.judged and len(one.shapes)),
        default=1.0,
    )
    return Weight(
        sum(int(one.slivers.sum()) for one in laid),
        -round(min(narrowest, GOOD), 3),
        sum(one.used for one in laid),
    )


def best_origin(
    floors: Sequence[tuple[TileGrid, Sequence[BaseGeometry]]],
    walls: Callable[[float, float], Weight] | None = None,
) -> tuple[tuple[float, float], Weight]:
    """How far the tile of all floors is moved along and across, mm, and what it then weighs.

    Along each axis the pieces at the edges that lie along the tile are scanned millimetre by
    millimetre; of the best of both the floors are laid out and weighed. Where edges lie askew to
    the tile, origins all over it are laid out too, then those near the best, nearer and nearer.
    Where the tile lies well already it stays. ``walls`` says what walls weigh whose joints are
    carried up from the floor: of the best for the floors that which is best with them is taken.
    """
    lead, _ = floors[0]
    search = _Search(floors)
    askew = _askew(floors)
    # Edges that lie askew are none of those that are scanned: the time goes into them instead.
    tried = min(max(isqrt(MOST_LAID // max(search.least.tiles, 1)), 2), TRIED // (1 + askew))
    sides = [_candidates(floors, axis)[:tried] for axis in (0, 1)]
    for along in sides[0]:
        for across in sides[1]:
            search.tries(along, across)
    long, deep = lead.module
    # A third of a row's module later rows begin alike.
    deep *= len(ROWS[lead.pattern])
    if askew:
        _search_all_over(search, long, deep)
    if walls is not None:
        search.with_walls(walls)
    return (search.best[0] % long, search.best[1] % deep), search.least


class _Search:
    """The best origin so far, what it weighs, and those that were better than all before."""

    def __init__(self, floors: Sequence[tuple[TileGrid, Sequence[BaseGeometry]]]) -> None:
        self.floors = floors
        self.best = (0.0, 0.0)
        self.least = weight([lay(grid, stretches) for grid, stretches in floors])
        self.found = [(self.least, self.best)]
        self.laid = 0

    def tries(self, along: float, across: float) -> None:
        """Lay everything out from an origin, and keep it where it is better."""
        moved = weight([lay(grid.begun(along, across), on) for grid, on in self.floors])
        self.laid += moved.tiles
        self.found.append((moved, (along, across)))
        if moved < self.least:
            self.best, self.least = (along, across), moved

    def with_walls(self, walls: Callable[[float, float], Weight]) -> None:
        """Take of the best for the floors the one that is best for the walls too."""
        best: dict[Weight, tuple[float, float]] = {}
        for moved, at in sorted(self.found[1:]):
            best.setdefault(moved, at)
        finalists = [self.found[0], *list(best.items())[:FINALISTS]]
        weighed = [(together(moved, walls(*at)), at) for moved, at in finalists]
        self.least, self.best = min(weighed, key=lambda one: one[0])


def together(one: Weight, other: Weight) -> Weight:
    """What two parts weigh that are laid from the same origin."""
    narrowest = max(one.narrowest, other.narrowest)
    return Weight(one.slivers + other.slivers, narrowest, one.tiles + other.tiles)


def _search_all_over(search: _Search, long: float, deep: float) -> None:
    """Origins on a grid over a module, then round the best, at half the distance each time."""
    search.laid = 0
    count = max(isqrt(MOST_ASKEW // 2 // max(search.least.tiles, 1)), 2)
    for along in np.arange(count) * long / count:
        for across in np.arange(count) * deep / count:
            search.tries(float(along), float(across))
    step = max(long, deep) / count
    while step > STEP and search.laid < MOST_ASKEW:
        at = search.best
        for along, across in product((-step, 0.0, step), repeat=2):
            if along or across:
                search.tries(at[0] + along, at[1] + across)
        if search.best == at:
            step /= 2


def _askew(floors: Sequence[tuple[TileGrid, Sequence[BaseGeometry]]]) -> bool:
    """Whether more than a few edges lie neither along the tile nor square to it."""
    there = along = 0.0
    for grid, stretches in floors:
        there += sum(float(stretch.length) for stretch in stretches)
        along += sum(one[2] for axis in (0, 1) for one in _edges(grid, stretches, axis))
    return along < (1 - FEW) * there


def _candidates(
    floors: Sequence[tuple[TileGrid, Sequence[BaseGeometry]]], axis: int
) -> list[float]:
    lead = floors[0][0]
    period = lead.module[axis] * (len(ROWS[lead.pattern]) if axis else 1)
    moves = np.arange(0.0, period, STEP)
    thin, cut, narrowest = np.zeros_like(moves), np.zeros_like(moves), np.ones_like(moves)
    for grid, stretches in floors:
        for place, inwards, length in _edges(grid, stretches, axis):
            kept = _kept(grid, axis, place, inwards, moves)
            thin += length * (kept < TRADE.tiling.sliver.value).mean(axis=1)
            cut += length * (kept < 1).mean(axis=1)
            narrowest = np.minimum(narrowest, kept.min(axis=1))
    order = np.lexsort((cut, -np.minimum(narrowest, GOOD), thin))
    return [float(moves[i]) for i in order[:TRIED]]


def _kept(grid: TileGrid, axis: int, place: float, inwards: float, moves: Array) -> Array:
    """What share of a tile is kept at an edge, for each move and row's shift, (moves, shifts)."""
    module, size = grid.module[axis], grid.size[axis]
    shifts = np.array(ROWS[grid.pattern]) * module if axis == 0 else np.zeros(1)
    if grid.pattern == "hexagon":
        start = -size / 2
        shifts = shifts if axis == 0 else np.array([0.0, module])
        module = module if axis == 0 else 2 * module
    else:
        start = grid.joint / 2
    begun = moves[:, None] + shifts[None, :] + start
    left = begun + size - place if inwards > 0 else place - begun
    kept = np.minimum(left % module, size)
    if grid.chip is not None:
        kept = grid.left_of(np.stack([kept, kept], axis=-1))[..., axis]
    # An edge in the joint or just beside it cuts nothing.
    return np.where(kept < STEP, 1.0, kept / grid.unit[axis])


def _edges(
    grid: TileGrid, stretches: Sequence[BaseGeometry], axis: int
) -> list[tuple[float, float, float]]:
    """The edges square to an axis: where they lie along it, which way the floor lies from them (1
    or -1), and their length."""
    found = []
    for stretch in stretches:
        framed = shapely.transform(shapely.normalize(stretch), grid.inside)
        for part in shapely.get_parts(framed):
            part = shapely.orient_polygons(part)
            for ring in [part.exterior, *part.interiors]:
                found += _of_ring(shapely.get_coordinates(ring), axis)
    return found


def _of_ring(corners: NDArray[np.float64], axis: int) -> list[tuple[float, float, float]]:
    sides = np.diff(corners, axis=0)
    lengths = np.hypot(sides[:, 0], sides[:, 1])
    found = []
    for start, side, length in zip(corners, sides, lengths, strict=False):
        if length > STEP and abs(side[axis]) <= ALONG * length:
            # The floor lies to the left of whoever walks round it.
            inwards = -side[1] if axis == 0 else side[0]
            found.append(
                (float(start[axis] + side[axis] / 2), float(np.sign(inwards)), float(length))
            )
    return found
