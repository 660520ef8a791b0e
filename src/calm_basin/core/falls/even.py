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

from calm_basin.core.geometry.solid import solid
from calm_basin.core.geometry.surface import Array, Coefficients, Facet
from calm_basin.tolerances import ON_EDGE, SLIVER, UNSEEN

ROUND_PART = radians(9)
"""Most that two neighbouring planes of a round part are turned against each other: heights of the
planes lie at most 0.31 % below the cone's."""

GRID = 1e-6
"""Shapes are cut on so fine a grid, mm: a spike of rounding is narrower, and nothing; planes that
lie nearer to each other are one."""


def even_facets(shape: Array, floor: Polygon, fall: float, name: str) -> list[Facet]:
    """Planes that fall to a convex anticlockwise ``shape``, (n, 2), from all over ``floor``.

    The shape lies at 0. ``floor`` is what they cover; parts of it inside the shape are left out.
    """
    left, bottom, right, top = shapely.union_all([floor, Polygon(shape)]).bounds
    far = 4 * max(right - left, top - bottom, 1.0)
    following = np.roll(shape, -1, axis=0)
    normals = [atan2(-(b - a)[0], (b - a)[1]) for a, b in zip(shape, following, strict=True)]
    count = len(shape)
    turned = [(normals[i] - normals[i - 1]) % (2 * pi) for i in range(count)]
    # Where two edges are of one line, rounding may turn them the other way by a hair.
    turns = [turn if turn < pi else 0.0 for turn in turned]
    parts = [max(ceil(turn / ROUND_PART - 1e-6), 1) for turn in turns]
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


def raised_to(
    facets: list[Facet], planes: tuple[Coefficients, ...], name: str, *, most: float | None = None
) -> list[Facet]:
    """The floor, or the lowest of the planes where that is higher; what is raised is one facet of
    this name for each plane. With ``most``, mm, nothing is raised above that height."""
    shapes = np.array([facet.polygon for facet in facets])
    own = np.array([facet.plane for facet in facets])
    higher = shapes
    for plane in planes:
        higher = above(higher, np.array(plane) - own)
    lifted = []
    for plane in planes:
        part, this = higher, np.array(plane)
        over = [np.array(other) - this for other in planes if other != plane]
        over += [] if most is None else [np.array([0.0, 0.0, most]) - this]
        for difference in over:
            part = above(part, np.broadcast_to(difference, own.shape))
        lifted.append(part)
    whole = shapely.union_all(lifted, grid_size=GRID)
    rest = shapes.copy()
    met = shapely.intersects(shapes, whole)
    rest[met] = shapely.difference(shapes[met], whole, grid_size=GRID)
    kept = [
        part
        for facet, left, cut in zip(facets, rest, met, strict=True)
        for part in ([replace(facet, polygon=p) for p in opened(left)] if cut else [facet])
    ]
    zone = facets[0].zone if facets else "shower"
    for plane, part in zip(planes, lifted, strict=True):
        joined = shapely.union_all(part, grid_size=GRID)
        kept += [Facet(name, piece, plane, zone) for piece in opened(joined)]
    return kept


def above(shapes: NDArray[np.object_], planes: Array) -> NDArray[np.object_]:
    """The parts of each shape over which its plane, a row (a, b, c), is above 0."""
    corners, owner = shapely.get_coordinates(shapes, return_index=True)
    heights = (planes[owner, :2] * corners).sum(axis=1) + planes[owner, 2]
    over, under = (np.zeros(len(shapes), dtype=bool) for _ in range(2))
    over[owner[heights > GRID]] = True
    under[owner[heights < -GRID]] = True
    # Most shapes lie on one side: only those that the plane goes through are cut.
    cut = over & under
    found = np.where(over, shapes, Polygon())
    sides = _high_sides(shapes[cut], planes[cut])
    found[cut] = solid(shapely.intersection(shapes[cut], sides, grid_size=GRID))
    return found


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
    parts = shapely.get_parts(shape)
    return [part for part in parts if isinstance(part, Polygon) and _has_width(part)]


def opened(shape: Geometry) -> list[Polygon]:
    """The polygons of a shape that was cut by planes, without the necks and spikes in which planes
    that nearly touch leave a hair of each other."""
    found: list[Polygon] = []
    for part in pieces(shape):
        if part.convex_hull.area - part.area < SLIVER / 1e3:
            found.append(part)
            continue
        inner = part.buffer(-UNSEEN, join_style="mitre", mitre_limit=100)
        open_ = inner.buffer(UNSEEN, join_style="mitre", mitre_limit=100)
        same = len(shapely.get_coordinates(open_)) == len(shapely.get_coordinates(part))
        # Where nothing is lost the shape stays as it was, to the last digit.
        found += [part] if same and abs(open_.area - part.area) < SLIVER / 1e3 else pieces(open_)
    return found


def _has_width(part: Polygon) -> bool:
    """Whether a shape is wider anywhere than what belongs to an edge anyway."""
    if part.area <= SLIVER:
        return False
    # A shape whose area is so much larger than its length is wide: no need to look closer.
    return bool(part.area > ON_EDGE * part.length or not part.buffer(-ON_EDGE / 2).is_empty)


def plane_from(edge: Array, outward: Array, height: float, slope: float) -> Coefficients:
    """The plane at ``height`` along an edge that falls away from ``outward``."""
    return (
        float(slope * outward[0]),
        float(slope * outward[1]),
        float(height - slope * (edge[0] @ outward)),
    )


def _rising(corner: Array, direction: float, fall: float) -> Coefficients:
    """The plane at 0 in a corner that rises in a direction."""
    u, v = fall * cos(direction), fall * sin(direction)
    return (u, v, -float(u * corner[0] + v * corner[1]))


def _way(direction: float, length: float) -> Array:
    return np.array([cos(direction), sin(direction)]) * length
