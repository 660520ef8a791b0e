"""A floor as cells on a grid, so that water can run over it."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
import skimage
from numpy.typing import NDArray
from shapely.geometry import LineString, Polygon

from calm_basin.core.geometry.drops import Exit
from calm_basin.core.geometry.surface import Array, Surface

Mask = NDArray[np.bool_]

LEAST_SHARE = 1e-3
"""A cell belongs to the floor if more than this share of it does."""

ALL_ROUND = np.ones((3, 3), dtype=bool)
"""A cell and its eight neighbours."""


@dataclass(frozen=True)
class Grid:
    """Square cells of ``spacing`` mm from (left, bottom), rows upwards.

    ``heights``, (rows, columns), are the lowest of the floor in each cell, infinite where there is
    none; ``areas`` what of a cell is floor, mm²; ``sinks`` the cells of the drains; ``exits`` the
    level at which a cell lets water out of the floor, infinite where it does not.

    Taking the lowest of a cell rather than its middle keeps narrow folds open: a floor on which
    water stands nowhere has no cell without a lower neighbour.
    """

    left: float
    bottom: float
    spacing: float
    heights: Array
    areas: Array
    sinks: Mask
    exits: Array

    @cached_property
    def floor(self) -> Mask:
        """The cells that there are."""
        return np.isfinite(self.heights)

    def cell(self, points: Array) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
        """Row and column of points, (n, 2), on the grid or the nearest on it."""
        at = ((points - (self.left, self.bottom)) / self.spacing).astype(np.intp)
        last = np.array(self.heights.shape[::-1]) - 1
        at = np.minimum(np.maximum(at, 0), last)
        return at[:, 1], at[:, 0]

    def filled(self, heights: Array | None = None) -> Array:
        """The level to which water stands when every hollow has filled, infinite off the floor.

        Filling a floor to its outlets is the morphological reconstruction by erosion of the floor
        under a lid that touches it at the outlets only.

        Parameters
        ----------
        heights : ndarray, optional
            Other heights of the same cells.
        """
        z = self.heights if heights is None else heights
        # Higher than any water: walls, and the lid where it touches nothing.
        high = z[np.isfinite(z)].max(initial=0.0) + 1e3
        deep = np.where(np.isfinite(z), z, high)
        lid = np.full(z.shape, high)
        lid[self.sinks] = deep[self.sinks]
        out = np.isfinite(self.exits) & self.floor
        lid[out] = np.minimum(lid[out], np.maximum(self.exits[out], deep[out]))
        filled: Array = skimage.morphology.reconstruction(
            lid, deep, method="erosion", footprint=ALL_ROUND
        )
        return np.where(np.isfinite(z), filled, np.inf)


def grid_of(surface: Surface, exits: list[Exit], spacing: float) -> Grid:
    """The cells of a floor, with heights exact from its planes."""
    left, bottom, right, top = surface.outline.bounds
    columns = max(int(np.ceil((right - left) / spacing - 1e-9)), 1)
    rows = max(int(np.ceil((top - bottom) / spacing - 1e-9)), 1)
    corner = np.array([left, bottom])
    nodes = np.full((rows + 1, columns + 1), np.inf)
    lows = np.full((rows, columns), np.inf)
    ends: list[Array] = []
    for facet in surface.facets:
        for part in (facet.polygon.exterior, *facet.polygon.interiors):
            outline = shapely.get_coordinates(part)
            solid = np.column_stack([outline, facet.heights(outline)])
            ends.append(np.stack([solid[:-1], solid[1:]], axis=1))
        ys, xs = _inside(facet.polygon, corner, spacing, nodes.shape)
        a, b, c = facet.plane
        heights = a * (left + xs * spacing) + b * (bottom + ys * spacing) + c
        nodes[ys, xs] = np.minimum(nodes[ys, xs], heights)
    for dy in (0, 1):
        for dx in (0, 1):
            lows = np.minimum(lows, nodes[dy : rows + dy, dx : columns + dx])
    points = _crossings(np.concatenate(ends), corner, spacing)
    for sy in (-1e-6, 1e-6):
        for sx in (-1e-6, 1e-6):
            at = np.floor((points[:, :2] - corner) / spacing + (sx, sy)).astype(int)
            on = ((at >= 0) & (at < (columns, rows))).all(axis=1)
            np.minimum.at(lows, (at[on, 1], at[on, 0]), points[on, 2])
    sinks = np.zeros((rows, columns), dtype=bool)
    areas = np.zeros((rows, columns))
    areas[_inside(surface.outline, corner + spacing / 2, spacing, areas.shape)] = spacing**2
    for shape, mask in ((surface.outline, None), (surface.rim, sinks)):
        ys, xs = _along(shape, corner, spacing, (rows, columns))
        boxes = shapely.box(
            left + xs * spacing,
            bottom + ys * spacing,
            left + (xs + 1) * spacing,
            bottom + (ys + 1) * spacing,
        )
        covered = _covered(shape, boxes, spacing)
        if mask is None:
            areas[ys, xs] = covered
        else:
            mask[ys, xs] = covered > LEAST_SHARE * spacing**2
    for rim in surface.rims:
        ys, xs = _inside(rim, corner + spacing / 2, spacing, sinks.shape)
        sinks[ys, xs] = True
    lows = np.maximum(lows, -surface.drop)
    heights = np.where(areas > LEAST_SHARE * spacing**2, lows, np.inf)
    heights[sinks] = -surface.drop
    areas[~np.isfinite(heights)] = 0.0
    levels = np.full((rows, columns), np.inf)
    for way_out in exits:
        ys, xs = _along(LineString(way_out.edge), corner, spacing, (rows, columns))
        levels[ys, xs] = np.minimum(levels[ys, xs], way_out.level)
    levels[~np.isfinite(heights)] = np.inf
    return Grid(left, bottom, spacing, heights, areas, sinks, levels)


def _crossings(edges: Array, corner: Array, spacing: float) -> Array:
    """Where edges, (n, 2, 3), cross the grid's lines, and their ends, shape (m, 3)."""
    found = [edges.reshape(-1, 3)]
    for axis in (0, 1):
        start, end = edges[:, 0], edges[:, 1]
        first = np.ceil((np.minimum(start, end)[:, axis] - corner[axis]) / spacing - 1e-9)
        last = np.floor((np.maximum(start, end)[:, axis] - corner[axis]) / spacing + 1e-9)
        counts = np.maximum(last - first + 1, 0).astype(int)
        reach = end[:, axis] - start[:, axis]
        counts[np.abs(reach) < 1e-9] = 0
        which = np.repeat(np.arange(len(edges)), counts)
        nth = np.arange(len(which)) - np.repeat(np.cumsum(counts) - counts, counts)
        at = corner[axis] + (first[which] + nth) * spacing
        share = np.clip((at - start[which, axis]) / reach[which], 0, 1)
        found.append(start[which] + share[:, None] * (end[which] - start[which]))
    return np.concatenate(found)


def _inside(
    shape: Polygon, corner: Array, spacing: float, size: tuple[int, ...]
) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """The points of a lattice from ``corner`` that lie inside a shape, as rows and columns."""
    rings = [(shapely.get_coordinates(r) - corner) / spacing for r in shapely.get_rings(shape)]
    start = np.concatenate([ring[:-1] for ring in rings])
    end = np.concatenate([ring[1:] for ring in rings])
    low, high = (np.minimum(start, end)[:, 1], np.maximum(start, end)[:, 1])
    # Rows from the lower end on and short of the upper one: a corner is passed once.
    first = np.maximum(np.ceil(low - 1e-9), 0).astype(int)
    last = np.minimum(np.ceil(high - 1e-9), size[0]).astype(int)
    counts = np.maximum(last - first, 0)
    which = np.repeat(np.arange(len(start)), counts)
    rows = first[which] + np.arange(len(which)) - np.repeat(np.cumsum(counts) - counts, counts)
    reach = (end - start)[which]
    at = start[which, 0] + reach[:, 0] * (rows - start[which, 1]) / reach[:, 1]
    columns = np.clip(np.ceil(at - 1e-9), 0, size[1]).astype(int)
    bottom, top = (int(rows.min()), int(rows.max()) + 1) if len(rows) else (0, 0)
    left, right = (int(columns.min()), int(columns.max())) if len(rows) else (0, 0)
    turns = np.zeros((top - bottom, right - left + 1), dtype=np.int8)
    np.add.at(turns, (rows - bottom, columns - left), 1)
    ys, xs = np.nonzero(np.cumsum(turns, axis=1, dtype=np.int8)[:, :-1] & 1)
    return ys + bottom, xs + left


def _covered(shape: shapely.Geometry, boxes: NDArray[np.object_], spacing: float) -> Array:
    """How much of each box lies in a shape, mm²."""
    shapely.prepare(shape)
    areas = np.where(shapely.covers(shape, boxes), spacing**2, 0.0)
    inner = shape.buffer(-1e-6)
    shapely.prepare(inner)
    cut = (areas == 0) & shapely.intersects(inner, boxes)
    areas[cut] = shapely.area(shapely.intersection(boxes[cut], shape))
    return areas


def _along(
    shape: shapely.Geometry, corner: Array, spacing: float, size: tuple[int, int]
) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """The cells that the lines of a shape touch, as rows and columns."""
    parts = shapely.get_parts(shape)
    rings = np.concatenate([shapely.get_rings(parts), parts[shapely.get_type_id(parts) == 1]])
    mask = np.zeros(size, dtype=bool)
    for ring in rings:
        line = shapely.get_coordinates(ring)
        flat = np.column_stack([line, np.zeros(len(line))])
        points = _crossings(np.stack([flat[:-1], flat[1:]], axis=1), corner, spacing)[:, :2]
        for sy in (-1e-6, 1e-6):
            for sx in (-1e-6, 1e-6):
                at = np.floor((points - corner) / spacing + (sx, sy)).astype(int)
                on = ((at >= 0) & (at < size[::-1])).all(axis=1)
                mask[at[on, 1], at[on, 0]] = True
    ys, xs = np.nonzero(mask)
    return ys, xs
