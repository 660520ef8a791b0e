"""Floors whose edge keeps given levels: a plane falls from every wall to the rim of a point drain.

Everything lies between two lines, the outline and the rim. The floor is the lowest of all surfaces
of triangles that are stretched between them: over a convex outline with a level edge the lower
convex hull of both. Every triangle touches the rim, which is lowest, so water stands nowhere.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.falls.ring import LEAST_CLEARANCE, NoSurfaceError, Ring
from calm_basin.core.geometry.surface import Array, Coefficients, Facet, Surface
from calm_basin.tolerances import ONE_PLANE


def point_drain(ring: Ring, rim: Array, asked: float, measured: str) -> Surface:
    """Level-edge floor: the perimeter stays level and a plane falls from each wall to the rim.

    Where a rim edge is parallel to no wall, one more plane falls from a corner to that rim edge.

    Parameters
    ----------
    ring : Ring
        Any simple outline whose walls all see the whole rim.
    rim : ndarray, shape (4, 2)
        Anticlockwise corners of the rim, inside the outline.
    asked : float
        Rise over run, required over the longest run.
    measured : {"corner_run", "plane_run"}
        The longest run is the distance from the farthest corner to the nearest point of the rim,
        or the longest from a wall to the rim, square to that wall. Both are common practice.

    Raises
    ------
    NoSurfaceError
        The rim does not lie inside the outline, or a corner hides a wall from it.
    """
    check_sight(ring, rim)
    level = np.zeros(len(ring.points))
    if measured == "plane_run":
        drop = asked * float(plane_runs(ring, rim).max())
    else:
        drop = asked * corner_run(ring.points, rim)
    return Surface(ring.polygon, (Polygon(rim),), stretched(ring, level, rim, drop), drop)


def plane_runs(ring: Ring, rim: Array) -> Array:
    """Distance, mm, from every wall's line to the rim, square to the wall, shape (walls,)."""
    runs: Array = ring.offsets - (rim @ ring.outwards.T).max(axis=0)
    return runs


def corner_run(points: Array, rim: Array) -> float:
    """Distance, mm, from the farthest of the points to the nearest point of the rim."""
    return float(shapely.distance(Polygon(rim), shapely.points(points)).max())


def check_sight(ring: Ring, rim: Array) -> None:
    """Raise `NoSurfaceError` unless the rim lies inside and every wall sees the whole of it."""
    outline, hole = ring.polygon, Polygon(rim)
    if not outline.contains(hole) or outline.exterior.distance(hole) < LEAST_CLEARANCE:
        raise NoSurfaceError("drain_outside", "The drain does not lie inside the shower.")
    corner = ring.hiding_corner(rim)
    if corner is not None:
        x, y = ring.points[corner]
        raise NoSurfaceError(
            "drain_hidden",
            "The inner corner {place} hides a wall from the drain, so no plane can fall from that "
            "wall straight to it.",
            (float(x), float(y)),
        )


def stretched(ring: Ring, heights: Array, rim: Array, drop: float) -> tuple[Facet, ...]:
    """The lowest planes between the outline at ``heights``, shape (n,), and the rim at −``drop``.

    The order of both lines fixes which triangles there can be; of these the ones that leave least
    under the floor are found by dynamic programming over (corners passed, rim corners passed).

    Raises
    ------
    NoSurfaceError
        The lines cannot be joined: a corner is hidden from the rim.
    """
    n, m = len(ring.points), len(rim)
    ends = np.roll(ring.points, -1, axis=0)
    rim_ends = np.roll(rim, -1, axis=0)
    wall_area = _area(ring.points[:, None], ends[:, None], rim[None])
    rim_area = _area(rim_ends[None], rim[None], ring.points[:, None])
    wall_rest = np.where(
        wall_area > 1e-6, wall_area * ((heights + np.roll(heights, -1))[:, None] - drop), np.inf
    )
    rim_rest = np.where(rim_area > 1e-6, rim_area * (heights[:, None] - 2 * drop), np.inf)
    ways = (_cheapest(wall_rest.tolist(), rim_rest.tolist(), first) for first in range(m))
    cost, steps = min(ways, key=lambda way: way[0])
    if not np.isfinite(cost):
        raise NoSurfaceError("drain_hidden", "An inner corner hides a wall from the drain.")
    high = np.column_stack([ring.points, heights])
    low = np.column_stack([rim, np.full(m, -drop)])
    triangles = []
    for along_wall, i, j in steps:
        nearest = (
            (high[i], high[(i + 1) % n], low[j])
            if along_wall
            else (low[(j + 1) % m], low[j], high[i])
        )
        triangles.append((_plane_through(*nearest), Polygon([corner[:2] for corner in nearest])))
    return named_apart(_merged(triangles, ring.side))


def _cheapest(
    wall: list[list[float]], rim: list[list[float]], first: int
) -> tuple[float, list[tuple[bool, int, int]]]:
    """Least cost of going once round both lines from corner 0 and rim corner ``first``, and the
    steps: (along a wall rather than the rim, wall's corner, rim's corner)."""
    n, m = len(wall), len(rim[0])
    best = [[float("inf")] * (m + 1) for _ in range(n + 1)]
    came = [[False] * (m + 1) for _ in range(n + 1)]
    best[0][0] = 0.0
    for i in range(n + 1):
        for j in range(m + 1):
            k = (first + j) % m
            by_wall = best[i - 1][j] + wall[i - 1][k] if i else float("inf")
            by_rim = best[i][j - 1] + rim[i % n][(k - 1) % m] if j else float("inf")
            if i or j:
                best[i][j], came[i][j] = min((by_wall, True), (by_rim, False))
    steps: list[tuple[bool, int, int]] = []
    i, j = (n, m) if best[n][m] < float("inf") else (0, 0)
    while i or j:
        if came[i][j]:
            i -= 1
            steps.append((True, i, (first + j) % m))
        else:
            j -= 1
            steps.append((False, i % n, (first + j) % m))
    return best[n][m], steps


def _area(a: Array, b: Array, c: Array) -> Array:
    """Areas of triangles, positive where they run anticlockwise."""
    first, second = b - a, c - a
    area: Array = (first[..., 0] * second[..., 1] - first[..., 1] * second[..., 0]) / 2
    return area


def _plane_through(a: Array, b: Array, c: Array) -> Coefficients:
    """The plane ``z = p x + q y + r`` through three corners (x, y, z)."""
    u, v = b - a, c - a
    turn = u[0] * v[1] - u[1] * v[0]
    p = (u[2] * v[1] - v[2] * u[1]) / turn
    q = (v[2] * u[0] - u[2] * v[0]) / turn
    return (float(p), float(q), float(a[2] - p * a[0] - q * a[1]))


def _merged(
    triangles: list[tuple[Coefficients, Polygon]], side: Callable[[Array], str]
) -> Iterable[Facet]:
    """Triangles that follow each other in one plane, as one facet."""
    groups: list[list[tuple[Coefficients, Polygon]]] = []
    for triangle in triangles:
        if groups and _same(groups[-1][0][0], triangle[0]):
            groups[-1].append(triangle)
        else:
            groups.append([triangle])
    if len(groups) > 1 and _same(groups[0][0][0], groups[-1][0][0]):
        groups[0] += groups.pop()
    for same in groups:
        # The widest triangle gives the plane of all: slivers give it less exactly.
        plane, _ = max(same, key=lambda triangle: triangle[1].area)
        shapes = [shape for _, shape in same]
        whole = shapely.union_all(shapes) if len(shapes) > 1 else shapes[0]
        yield Facet(side(np.array(plane[:2])), whole, plane)


def _same(a: Coefficients, b: Coefficients) -> bool:
    return abs(a[0] - b[0]) < ONE_PLANE and abs(a[1] - b[1]) < ONE_PLANE


def named_apart(facets: Iterable[Facet]) -> tuple[Facet, ...]:
    """Number planes that share a name, so that each can be spoken of; round parts keep theirs."""
    facets = list(facets)
    names = [facet.name for facet in facets]
    result = []
    for i, facet in enumerate(facets):
        if names.count(facet.name) > 1 and not facet.curved:
            number = names[: i + 1].count(facet.name)
            facet = replace(facet, name=f"{facet.name} {number}")
        result.append(facet)
    return tuple(result)


def floors_by_rim(ring: Ring, rims: Array, asked: float, measured: str) -> tuple[Array, Array]:
    """Level-edge floors for each of many rims: the gradient of every plane, shape (k, planes), and
    the drop, mm, shape (k,).

    Rows are NaN where the rim would not lie inside the shower in sight of every wall. Over an
    outline with inner corners only the planes that rise to a wall are given.

    Parameters
    ----------
    ring : Ring
    rims : ndarray, shape (k, 4, 2)
        Rims that are turned alike.
    asked, measured
        As for `point_drain`.
    """
    outwards, high, walls = ring.outwards, ring.offsets, len(ring.points)
    sides = np.roll(rims, -1, axis=1) - rims
    if ring.convex:
        turned = np.array([_right_of(side) for side in sides[0]])
        alone = (turned @ outwards.T).max(axis=1) < 1 - 1e-12
        outwards = np.vstack([outwards, turned[alone]])
        high = (ring.points @ outwards.T).max(axis=0)
    runs = high - (rims @ outwards.T).max(axis=1)
    inside = (runs >= LEAST_CLEARANCE).all(axis=1)
    gradients = np.full(runs.shape, np.nan)
    if measured == "plane_run":
        longest = runs[:, :walls].max(axis=1)
    else:
        away = ring.points - rims.mean(axis=1)[:, None]
        beyond = []
        for side in (sides[:, 0], sides[:, 1]):
            length = np.linalg.norm(side, axis=1)[:, None]
            along = np.einsum("kpc,kc->kp", away, side / length)
            beyond.append(np.maximum(np.abs(along) - length / 2, 0))
        longest = np.hypot(*beyond).max(axis=1)
    gradients[inside] = asked * longest[inside, None] / runs[inside]
    return gradients, np.where(inside, asked * longest, np.nan)


def _right_of(along: Array) -> Array:
    """Unit vector to the right of a direction: out of a shape that runs anticlockwise."""
    length = np.hypot(*along)
    return np.array([along[1] / length, -along[0] / length])
