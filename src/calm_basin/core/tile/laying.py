"""Tile over a floor: numbers only.

A floor is laid in *stretches* that tile crosses uncut. Each tile of a grid is clipped to them; what
is left of it are its pieces. Places are the plan's, mm.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from itertools import combinations
from math import ceil, cos, floor, sin, sqrt

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString, Polygon
from shapely.geometry.base import BaseGeometry

from calm_basin.core.geometry.solid import solid
from calm_basin.core.geometry.surface import Array, Facet, Fold
from calm_basin.plan.tiling import Pattern
from calm_basin.rules import TRADE
from calm_basin.tolerances import ON_EDGE, SAME_PLACE

Shapes = NDArray[np.object_]

MOST = 20_000
"""More single tiles are not laid out: tile that small comes on sheets."""

ROWS: dict[Pattern, tuple[float, ...]] = {
    "straight": (0.0,),
    "half": (0.0, 0.5),
    "third": (0.0, 1 / 3, 2 / 3),
    "hexagon": (0.0, 0.5),
}
"""By what share of a tile and its joint each row is shifted against the first."""


@dataclass(frozen=True)
class TileGrid:
    """Tile without end: ``length`` lies along a line turned by ``turn``, radians, from the plan's
    x; ``origin`` is where two joints cross, or in a grid of hexagons the middle of one. A hexagon
    is ``length`` from flat to flat."""

    length: float
    width: float
    joint: float
    pattern: Pattern
    turn: float
    origin: tuple[float, float]
    chip: tuple[float, float] | None = None
    """Length and width of the small tile on a sheet, where that lies in straight rows: a cut is
    judged by what it leaves of those."""

    judged: bool = True
    """Whether pieces can be too thin: the small tile of other sheets is not looked at."""

    @property
    def size(self) -> tuple[float, float]:
        """How far one tile reaches along and across, mm."""
        if self.pattern == "hexagon":
            return self.length, 2 * self.length / sqrt(3)
        return self.length, self.width

    @property
    def unit(self) -> tuple[float, float]:
        """The sides by which a cut is judged, mm."""
        return self.chip or self.size

    def left_of(self, extents: Array) -> Array:
        """What pieces of such extents, (…, 2), mm, leave of the sides that are judged."""
        if self.chip is None:
            return extents
        apart = np.array(self.chip) + self.joint
        left = np.mod(extents + self.joint, apart) - self.joint
        # Cut in a joint, or beside it by a rounding, it leaves all of the last one.
        return np.where(left <= ON_EDGE, np.array(self.chip), left)

    @property
    def full(self) -> float:
        """Area of one tile, mm²."""
        if self.pattern == "hexagon":
            return self.length**2 * sqrt(3) / 2
        return self.length * self.width

    @property
    def module(self) -> tuple[float, float]:
        """From one tile to the next in its row, and from a row to the next, mm."""
        along = self.length + self.joint
        return along, along * sqrt(3) / 2 if self.pattern == "hexagon" else self.width + self.joint

    def begun(self, along: float, across: float) -> TileGrid:
        """The same with its origin moved along and across its rows, mm."""
        x, y = self.origin
        c, s = cos(self.turn), sin(self.turn)
        moved = (x + along * c - across * s, y + along * s + across * c)
        return replace(self, origin=moved)

    def inside(self, places: Array) -> Array:
        """Places on plan, (n, 2), along and across the rows, from the origin."""
        c, s = cos(self.turn), sin(self.turn)
        moved: Array = (places - np.array(self.origin)) @ np.array([[c, -s], [s, c]])
        return moved

    def outside(self, places: Array) -> Array:
        """The way back."""
        c, s = cos(self.turn), sin(self.turn)
        moved: Array = places @ np.array([[c, s], [-s, c]]) + np.array(self.origin)
        return moved

    def over(self, bounds: tuple[float, float, float, float]) -> Shapes:
        """All tiles that may touch what lies within bounds along and across its rows."""
        left, low, right, high = bounds
        long, deep = self.module
        rows = np.arange(floor(low / deep) - 1, ceil(high / deep) + 2)
        columns = np.arange(floor(left / long) - 2, ceil(right / long) + 2)
        shifts = np.array(ROWS[self.pattern])[rows % len(ROWS[self.pattern])]
        u = ((columns[None, :] + shifts[:, None]) * long).ravel()
        v = np.repeat(rows * deep, len(columns))
        if self.pattern == "hexagon":
            angles = np.radians(np.arange(30, 390, 60))
            round_it = np.column_stack([np.cos(angles), np.sin(angles)]) * self.length / sqrt(3)
            tiles: Shapes = shapely.polygons(np.column_stack([u, v])[:, None, :] + round_it)
            return tiles
        u, v = u + self.joint / 2, v + self.joint / 2
        boxes: Shapes = shapely.box(u, v, u + self.length, v + self.width)
        return boxes


@dataclass(frozen=True)
class Laid:
    """Pieces of tile, one an entry: their shapes along and across the rows of ``grid``, and the
    number of the tile that each is of."""

    grid: TileGrid
    shapes: Shapes
    tiles: NDArray[np.int64]

    @cached_property
    def areas(self) -> Array:
        """Of each piece, mm²."""
        areas: Array = shapely.area(self.shapes)
        return areas

    @cached_property
    def extents(self) -> Array:
        """How far each piece reaches along and across, (n, 2), mm."""
        bounds = shapely.bounds(self.shapes)
        extents: Array = bounds[:, 2:] - bounds[:, :2]
        return extents

    @cached_property
    def whole(self) -> NDArray[np.bool_]:
        """Which pieces are whole tiles: what is missing at an edge is no more than rounding."""
        missing = self.grid.full - self.areas
        return np.asarray(missing <= ON_EDGE * sum(self.grid.size), dtype=np.bool_)

    @cached_property
    def kept(self) -> Array:
        """What a cut leaves of the sides of a tile, or of the last small one of a sheet, (n, 2)."""
        return self.grid.left_of(self.extents)

    @cached_property
    def shares(self) -> Array:
        """What each piece keeps of the sides that are judged, (n, 2)."""
        shares: Array = self.kept / np.array(self.grid.unit)
        return shares

    @cached_property
    def slivers(self) -> NDArray[np.bool_]:
        """Which pieces are thinner than a third of what is judged."""
        thin = self.kept < np.array(self.grid.unit) * TRADE.tiling.sliver.value - ON_EDGE
        return np.asarray(thin.any(axis=1) & ~self.whole & self.grid.judged, dtype=np.bool_)

    @cached_property
    def used(self) -> int:
        """How many tiles the pieces come from, where no offcut is used again."""
        return len(np.unique(self.tiles))

    def on_plan(self, which: NDArray[np.bool_]) -> list[Array]:
        """The outlines of some pieces on plan, each (n, 2), without holes."""
        rings = shapely.get_exterior_ring(self.shapes[which])
        return [self.grid.outside(shapely.get_coordinates(ring)[:-1]) for ring in rings]


def lay(grid: TileGrid, stretches: Sequence[BaseGeometry]) -> Laid:
    """Tile over stretches of floor, shapely polygons on plan.

    A piece that reaches no farther than a rounding is none; what is left of one tile in several
    pieces, or on several stretches, is cut from that tile.
    """
    framed = [shapely.transform(stretch, grid.inside) for stretch in stretches]
    framed = [stretch for stretch in framed if not stretch.is_empty]
    if not framed:
        return Laid(grid, np.empty(0, dtype=object), np.empty(0, dtype=np.int64))
    tiles = grid.over(tuple(shapely.total_bounds(framed)))
    tree = shapely.STRtree(tiles)
    shapes, numbers = [], []
    for stretch in framed:
        shapely.prepare(stretch)
        near = np.sort(tree.query(stretch, predicate="intersects"))
        within = shapely.contains_properly(stretch, tiles[near])
        whole, edge = near[within], near[~within]
        parts, of = shapely.get_parts(
            solid(shapely.intersection(tiles[edge], stretch)), return_index=True
        )
        shapes += [tiles[whole], parts]
        numbers += [whole, edge[of]]
    found, number = np.concatenate(shapes), np.concatenate(numbers)
    bounds = shapely.bounds(found)
    kept = (bounds[:, 2:] - bounds[:, :2] > ON_EDGE).all(axis=1) & ~shapely.is_empty(found)
    return Laid(grid, found[kept], number[kept])


def stretches(facets: Sequence[Facet], cut: Sequence[Fold]) -> list[Polygon]:
    """The facets of a floor put together where no fold is cut: tile crosses each uncut."""
    shapes = [facet.polygon for facet in facets]
    lines = [LineString([fold.start[:2], fold.end[:2]]) for fold in cut]
    group = list(range(len(shapes)))

    def root(i: int) -> int:
        while group[i] != i:
            i = group[i]
        return i

    for i, j in combinations(range(len(shapes)), 2):
        if root(i) == root(j) or shapes[i].distance(shapes[j]) > SAME_PLACE:
            continue
        shared = shapes[i].buffer(SAME_PLACE).intersection(shapes[j].boundary)
        if shared.length <= 10 * SAME_PLACE:
            continue
        middle = shared.representative_point()
        if all(line.distance(middle) > 10 * SAME_PLACE for line in lines):
            group[root(j)] = root(i)
    found: dict[int, list[Polygon]] = {}
    for i, shape in enumerate(shapes):
        # What lies apart by a rounding is one.
        found.setdefault(root(i), []).append(shape.buffer(SAME_PLACE, join_style="mitre"))
    return [shapely.union_all(of).buffer(-SAME_PLACE, join_style="mitre") for of in found.values()]


def paired(lengths: Sequence[float], whole: float, kerf: float) -> int:
    """How many pieces come out of another's offcut: two of one tile that is ``whole`` long, where
    both and a saw's ``kerf`` fit, since each has to keep an edge as it was made.

    The shortest goes with the longest that it fits: no other way saves more.
    """
    rest, saved = sorted(lengths), 0
    while len(rest) > 1:
        longest = rest.pop()
        if rest[0] + longest + kerf <= whole + 1e-9:
            rest.pop(0)
            saved += 1
    return saved


def cut_once(laid: Laid) -> tuple[list[float], list[float]]:
    """Pieces that one straight cut makes of a tile and that are all that is left of it: how long
    those are that were cut along it, and how wide those cut across, mm."""
    if laid.grid.pattern == "hexagon":
        return [], []
    size, extents = np.array(laid.grid.size), laid.extents
    count = np.bincount(laid.tiles)[laid.tiles] if len(laid.tiles) else laid.tiles
    straight = np.abs(extents.prod(axis=1) - laid.areas) <= ON_EDGE * extents.sum(axis=1)
    kept = extents >= size - ON_EDGE
    single = straight & (count == 1) & ~laid.whole
    shorter, narrower = single & kept[:, 1] & ~kept[:, 0], single & kept[:, 0] & ~kept[:, 1]
    return extents[shorter, 0].tolist(), extents[narrower, 1].tolist()
