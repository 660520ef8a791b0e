"""Floors with the same fall everywhere, straight to a shape: round beyond the shape's corners.

A round part is given as narrow planes that touch the cone from below along their middles, so that
each falls exactly as asked. Planes are raised where a threshold has to stay level.
"""

from __future__ import annotations

from dataclasses import replace
from math import atan2, ceil, cos, pi, radians, sin

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely import Geometry
from shapely.geometry import Polygon

from calm_basin.core.surface import Array, Facet, Plane

STEP = radians(9)
"""Most that two neighbouring planes of a round part are turned against each other: heights of the
planes lie at most 0.31 % below the cone's."""

LEAST_AREA, LEAST_WIDTH = 1.0, 0.025
"""A part of a floor that is smaller, mm² and mm, is a sliver of rounding."""


def even_facets(shape: Array, floor: Polygon, fall: float, name: str) -> list[Facet]:
    """Planes that fall to a convex anticlockwise ``shape``, (n, 2), from all over ``floor``.

    The shape lies at 0. ``floor`` is what they cover; parts of it inside the shape are left out.
    """
    left, bottom, right, top = shapely.union_all([floor, Polygon(shape)]).bounds
    far = 4 * max(right - left, top - bottom, 1.0)
    following = np.roll(shape, -1, axis=0)
    normals = [atan2(-(b - a)[0], (b - a)[1]) for a, b in zip(shape, following, strict=True)]
    count = len(shape)
    turns = [(normals[i] - normals[i - 1]) % (2 * pi) for i in range(count)]
    parts = [max(ceil(turn / STEP - 1e-6), 1) for turn in turns]
    regions, planes = [], []
    for i, (start, end) in enumerate(zip(shape, following, strict=True)):
        # A rim's edge: its plane reaches half a step into the round parts at both its ends.
        before = turns[i] / parts[i] / 2
        after = turns[(i + 1) % count] / parts[(i + 1) % count] / 2
        regions.append(
            [
                start,
                start + _way(normals[i] - before, far),
                end + _way(normals[i] + after, far),
                end,
            ]
        )
        planes.append(_rising(start, normals[i], fall))
        # The round part at the edge's start.
        for k in range(1, parts[i]):
            middle = normals[i - 1] + k * turns[i] / parts[i]
            regions.append(
                [
                    start,
                    start + _way(middle - before, far),
                    start + _way(middle + before, far),
                    start,
                ]
            )
            planes.append(_rising(start, middle, fall))
    shapes = shapely.polygons(np.array(regions))
    clipped = shapely.intersection(shapes, floor.difference(Polygon(shape)))
    return [
        Facet(name, piece, plane, curved=True)
        for whole, plane in zip(clipped, planes, strict=True)
        for piece in pieces(whole)
    ]


def raised_to(facets: list[Facet], plane: Plane, name: str) -> list[Facet]:
    """The floor, or the plane where that is higher; the raised part is one facet of this name."""
    over = [tuple(p - q for p, q in zip(plane, f.plane, strict=True)) for f in facets]
    above, below = parted(np.array([f.polygon for f in facets]), np.array(over))
    kept = [
        replace(facet, polygon=piece)
        for facet, whole in zip(facets, below, strict=True)
        for piece in pieces(whole)
    ]
    # The raised parts' common edges differ by rounding; a hair's width joins them.
    raised = [shape for shape in above if shape.area > LEAST_AREA]
    whole = shapely.union_all(raised, grid_size=1e-7) if raised else Polygon()
    zone = facets[0].zone if facets else "shower"
    return [*kept, *(Facet(name, piece, plane, zone) for piece in pieces(whole))]


def parted(shapes: NDArray[np.object_], planes: Array) -> tuple[list[Geometry], list[Geometry]]:
    """The parts of each shape over which its plane, a row (a, b, c), is above 0, and the rest."""
    high = _high_sides(shapes, planes)
    return list(shapely.intersection(shapes, high)), list(shapely.difference(shapes, high))


def above(shapes: NDArray[np.object_], planes: Array) -> NDArray[np.object_]:
    """The parts of each shape over which its plane, a row (a, b, c), is above 0."""
    high: NDArray[np.object_] = shapely.intersection(shapes, _high_sides(shapes, planes))
    return high


def _high_sides(shapes: NDArray[np.object_], planes: Array) -> NDArray[np.object_]:
    """For each plane a rectangle that covers as much of the shapes as lies where it is above 0."""
    if shapely.is_empty(shapes).all():
        return np.array([Polygon()] * len(shapes))
    steepness = np.hypot(planes[:, 0], planes[:, 1])
    level = steepness < 1e-12
    up = planes[:, :2] / np.where(level, 1, steepness)[:, None]
    left, bottom, right, top = shapely.total_bounds(shapes)
    middle = np.array([(left + right) / 2, (bottom + top) / 2])
    far = 2 * (right - left + top - bottom) + 1
    height = planes[:, :2] @ middle + planes[:, 2]
    # A line too far off to cut anything is as good as one just outside the shapes.
    off = np.clip(height / np.where(level, np.abs(height) / far + 1e-300, steepness), -far, far)
    up[level] = (1.0, 0.0)
    off[level] = np.where(height[level] > 0, far, -far)
    along = np.column_stack([-up[:, 1], up[:, 0]]) * 2 * far
    foot = middle - up * off[:, None]
    reach = up * 4 * far
    corners = np.stack([foot - along, foot + along, foot + along + reach, foot - along + reach], 1)
    sides: NDArray[np.object_] = shapely.polygons(corners)
    return sides


def pieces(shape: Geometry) -> list[Polygon]:
    """The polygons of a shape that are more than a sliver."""
    parts = getattr(shape, "geoms", [shape])
    return [
        part
        for part in parts
        if isinstance(part, Polygon)
        and part.area > LEAST_AREA
        and part.area > LEAST_WIDTH * part.length
    ]


def plane_from(edge: Array, outward: Array, height: float, slope: float) -> Plane:
    """The plane at ``height`` along an edge that falls away from ``outward``."""
    return (
        float(slope * outward[0]),
        float(slope * outward[1]),
        float(height - slope * (edge[0] @ outward)),
    )


def _rising(corner: Array, direction: float, fall: float) -> Plane:
    """The plane at 0 in a corner that rises in a direction."""
    u, v = fall * cos(direction), fall * sin(direction)
    return (u, v, -float(u * corner[0] + v * corner[1]))


def _way(direction: float, length: float) -> Array:
    return np.array([cos(direction), sin(direction)]) * length
