"""Falls: from the shower's shape, its drain and the fall asked for to the finished surface."""

from __future__ import annotations

from dataclasses import dataclass
from functools import cached_property, lru_cache
from math import cos, hypot, radians, sin

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.surface import Array, Facet, Surface
from calm_basin.plan.model import LinearDrain, Point, PointDrain, Shower

LEAST_CLEARANCE = 1.0
"""How far, in mm, a point drain's rim keeps from the shower's edge so that a plane fits between."""

_SIDES = ("entry", "entry right", "right", "back right", "back", "back left", "left", "entry left")


@dataclass(frozen=True)
class Ring:
    """The shower's outline anticlockwise, with its entry edges and the names of its sides.

    ``points`` has shape (n, 2); edge i joins points i and i + 1. ``inward`` is the unit vector
    from the entry into the shower.
    """

    points: Array
    entries: frozenset[int]
    inward: Array

    @cached_property
    def polygon(self) -> Polygon:
        return Polygon(self.points)

    @cached_property
    def convex(self) -> bool:
        """Whether the outline has no inner corner."""
        hull = self.polygon.convex_hull.area
        return bool(hull - self.polygon.area <= 1e-6 * hull)

    @cached_property
    def outwards(self) -> Array:
        """Unit vectors square to the edges, out of the shower, shape (n, 2)."""
        along = np.roll(self.points, -1, axis=0) - self.points
        along = along / np.hypot(along[:, 0], along[:, 1])[:, None]
        return np.column_stack([along[:, 1], -along[:, 0]])

    def edge(self, i: int) -> Array:
        """The two ends of edge i, shape (2, 2)."""
        ends: Array = self.points[[i, (i + 1) % len(self.points)]]
        return ends

    def side(self, outward: Array) -> str:
        """Name the side that a direction points to, as seen by someone who enters."""
        facing = -self.inward
        # Anticlockwise from the entry lies the right hand of whoever walks in.
        turn = np.arctan2(facing[0] * outward[1] - facing[1] * outward[0], float(facing @ outward))
        return _SIDES[round(turn / (np.pi / 4)) % 8]


class NoSurfaceError(ValueError):
    """The falls cannot be worked out; says why, in words for the installer."""

    def __init__(self, code: str, message: str) -> None:
        super().__init__(message)
        self.code = code


def ring_of(shower: Shower) -> Ring:
    """The shower's outline anticlockwise, whichever way round the document gives it."""
    return ring_of_outline(shower.outline, shower.entries)


@lru_cache(maxsize=64)
def ring_of_outline(outline: tuple[Point, ...], entry_edges: tuple[int, ...]) -> Ring:
    """The same from the parts of the document that it hangs on: it outlives a drain's moves."""
    points = np.array(outline, dtype=float)
    entries = set(entry_edges)
    n = len(points)
    if not shapely.is_ccw(shapely.linearrings(points)):
        points = points[::-1]
        entries = {(n - 2 - i) % n for i in entries}
    ring = Ring(points, frozenset(entries), np.zeros(2))
    lengths = {i: float(np.linalg.norm(np.diff(ring.edge(i), axis=0))) for i in entries}
    widest = max(sorted(lengths), key=lambda i: lengths[i])
    return Ring(points, ring.entries, -ring.outwards[widest])


def rim_of(drain: PointDrain | LinearDrain) -> Array:
    """Corners of the drain's rim, anticlockwise, shape (4, 2)."""
    if isinstance(drain, PointDrain):
        angle = radians(drain.orientation)
        along = np.array([cos(angle), sin(angle)]) * drain.width / 2
        across = np.array([-sin(angle), cos(angle)]) * drain.length / 2
        corners: Array = np.array(drain.centre) + np.array(
            [-along - across, along - across, along + across, across - along]
        )
        return corners
    start, end = np.array(drain.start), np.array(drain.end)
    along = (end - start) / np.linalg.norm(end - start)
    across = np.array([-along[1], along[0]]) * drain.width / 2
    return np.array([start - across, end - across, end + across, start + across])


def surface_of(shower: Shower) -> Surface:
    """The finished floor that the plan asks for. Raises `NoSurfaceError` where there is none."""
    unit = _unit_surface(shower.outline, shower.entries, shower.drain, shower.fall.measured)
    return unit.scaled(shower.fall.asked)


@lru_cache(maxsize=256)
def _unit_surface(
    outline: tuple[Point, ...],
    entries: tuple[int, ...],
    drain: PointDrain | LinearDrain,
    measured: str,
) -> Surface:
    """The floor for a fall of 1: every level of a floor is in proportion to the fall asked for."""
    ring = ring_of_outline(outline, entries)
    if isinstance(drain, PointDrain):
        return point_drain(ring, rim_of(drain), 1.0, measured)
    return linear_drain(ring, drain, 1.0)


def point_drain(ring: Ring, rim: Array, asked: float, measured: str) -> Surface:
    """Level-edge floor: the perimeter stays level and a plane falls from each wall to the rim.

    The floor is the lower convex hull of the outline at 0 and the rim at −D. It has a plane per
    wall and, where a rim edge is parallel to no wall, one more from that rim edge to the corner it
    faces. Being convex, it drains everywhere.

    Parameters
    ----------
    ring : Ring
        Convex outline.
    rim : ndarray, shape (4, 2)
        Anticlockwise corners of the rim, inside the outline.
    asked : float
        Rise over run, required over the longest run.
    measured : {"corner_run", "plane_run"}
        The longest run is the distance from the farthest corner to the nearest point of the rim,
        or the longest run of any plane, square to its high edge. Both are common practice.

    Raises
    ------
    NoSurfaceError
        The outline is not convex, or the rim does not lie inside it.
    """
    outline, hole = ring.polygon, Polygon(rim)
    if not outline.contains(hole) or outline.exterior.distance(hole) < LEAST_CLEARANCE:
        raise NoSurfaceError("drain_outside", "The drain does not lie inside the shower.")
    if not ring.convex:
        raise NoSurfaceError(
            "shower_not_convex",
            "A point drain needs a shower without inner corners: a wall hides part of this one.",
        )
    planes = _point_planes(ring, rim)
    centre = rim.mean(axis=0)
    drop = float(_drops(ring, rim, centre[None], asked, measured)[0])
    facets = []
    for outward, high_point, polygon in planes:
        run = float(outward @ high_point - (rim @ outward).max())
        slope = drop / run * outward
        plane = (float(slope[0]), float(slope[1]), -float(slope @ high_point))
        facets.append(Facet(ring.side(outward), Polygon(polygon), plane, run))
    return Surface(outline, hole, _named_apart(facets), drop)


def _point_planes(ring: Ring, rim: Array) -> list[tuple[Array, Array, list[Array]]]:
    """Each plane as (uphill unit vector, a point of its high edge, corners)."""
    planes = []
    n, m = len(ring.points), len(rim)
    parallel: set[int] = set()
    for i in range(n):
        start, end = ring.edge(i)
        outward = ring.outwards[i]
        reach = rim @ outward
        near = np.flatnonzero(reach > reach.max() - 1e-6)
        if len(near) == 2:
            # The rim edge that faces this wall runs with it, so the way back starts at its end.
            first, last = (near[0], near[1]) if near[1] - near[0] == 1 else (near[1], near[0])
            parallel.add(int(first))
            planes.append((outward, start, [start, end, rim[last], rim[first]]))
        else:
            planes.append((outward, start, [start, end, rim[near[0]]]))
    for j in range(m):
        if j not in parallel:
            outward = _right_of(rim[(j + 1) % m] - rim[j])
            corner = ring.points[int((ring.points @ outward).argmax())]
            planes.append((outward, corner, [rim[j], corner, rim[(j + 1) % m]]))
    return planes


def _right_of(along: Array) -> Array:
    """Unit vector to the right of a direction: out of a shape that runs anticlockwise."""
    length = hypot(along[0], along[1])
    return np.array([along[1] / length, -along[0] / length])


def _runs(ring: Ring, rim: Array, centres: Array) -> Array:
    """Runs of all planes with the rim moved to each centre, shape (len(centres), planes)."""
    shape = rim - rim.mean(axis=0)
    outwards = np.array([plane[0] for plane in _point_planes(ring, rim)])
    high = (ring.points @ outwards.T).max(axis=0)
    runs: Array = high - (shape @ outwards.T).max(axis=0) - centres @ outwards.T
    return runs


def _drops(ring: Ring, rim: Array, centres: Array, asked: float, measured: str) -> Array:
    """Drop at the drain with the rim moved to each centre, shape (len(centres),)."""
    if measured == "plane_run":
        longest: Array = _runs(ring, rim, centres).max(axis=1)
    else:
        along, across = (rim[1] - rim[0]) / 2, (rim[3] - rim[0]) / 2
        away = ring.points[None] - centres[:, None]
        beyond = [
            np.maximum(np.abs(away @ half / np.linalg.norm(half)) - np.linalg.norm(half), 0)
            for half in (along, across)
        ]
        longest = np.hypot(*beyond).max(axis=1)
    return asked * longest


def point_gradients(
    ring: Ring, drain: PointDrain, centres: Array, asked: float, measured: str
) -> Array:
    """Gradient of every plane with the drain moved to each centre, shape (len(centres), planes).

    Rows are NaN where the rim would not lie inside the shower.
    """
    rim = rim_of(drain)
    runs = _runs(ring, rim, centres)
    inside = (runs >= LEAST_CLEARANCE).all(axis=1)
    gradients = np.full(runs.shape, np.nan)
    gradients[inside] = _drops(ring, rim, centres[inside], asked, measured)[:, None] / runs[inside]
    return gradients


def linear_drain(ring: Ring, drain: LinearDrain, asked: float) -> Surface:
    """A plane on each side of a channel that has floor there; level strips beyond its ends.

    A side that holds entry edges meets the entry level at its far end: the longest such side falls
    as asked, which sets the drop. A side without an entry rises from the channel as asked, so a
    channel across the entry has no drop at all and the floor rises away from it.

    Raises
    ------
    NoSurfaceError
        The channel does not lie inside the shower.
    """
    outline = ring.polygon
    channel = Polygon(rim_of(drain))
    if not outline.buffer(0.5).contains(channel):
        raise NoSurfaceError("drain_outside", "The channel does not lie inside the shower.")
    start, end = np.array(drain.start), np.array(drain.end)
    along = (end - start) / np.linalg.norm(end - start)
    half = drain.width / 2
    sides = []
    for across in (np.array([along[1], -along[0]]), np.array([-along[1], along[0]])):
        edge = start + across * half
        reach = max(float(((ring.points - edge) @ across).max()), 0.0)
        entry = max(
            (float(((ring.edge(i) - edge) @ across).max()) for i in ring.entries), default=0.0
        )
        sides.append((across, edge, reach, entry))
    drop = asked * max(0.0, *(entry for _, _, _, entry in sides))
    far = 2 * max(hypot(*(ring.points.max(axis=0) - ring.points.min(axis=0))), 1.0)
    facets = []
    for across, edge, reach, entry in sides:
        if reach < 1:
            continue
        slope = drop / entry if entry >= LEAST_CLEARANCE else asked
        half_plane = Polygon(
            [
                edge - along * far,
                edge + along * far,
                edge + along * far + across * far,
                edge - along * far + across * far,
            ]
        )
        plane = (
            float(slope * across[0]),
            float(slope * across[1]),
            -drop - slope * float(across @ edge),
        )
        for piece in _pieces(outline.intersection(half_plane)):
            facets.append(Facet(ring.side(across), piece, plane, reach))
    strip = LineString([start - along * far, end + along * far]).buffer(half, cap_style="flat")
    for piece in _pieces(outline.intersection(strip).difference(channel.buffer(1e-6))):
        middle = np.array(piece.centroid.coords[0])
        outward = along if (middle - end) @ along > 0 else -along
        facets.append(Facet(f"{ring.side(outward)} strip", piece, (0.0, 0.0, -drop), 0.0))
    return Surface(outline, channel, _named_apart(facets), drop)


def _pieces(shape: shapely.Geometry) -> list[Polygon]:
    """The polygons of a shape that are more than a sliver."""
    parts = getattr(shape, "geoms", [shape])
    return [part for part in parts if isinstance(part, Polygon) and part.buffer(-0.25).area > 1.0]


def _named_apart(facets: list[Facet]) -> tuple[Facet, ...]:
    """Number planes that share a name, so that each can be spoken of."""
    names = [facet.name for facet in facets]
    result = []
    for i, facet in enumerate(facets):
        if names.count(facet.name) > 1:
            number = names[: i + 1].count(facet.name)
            facet = Facet(f"{facet.name} {number}", facet.polygon, facet.plane, facet.run)
        result.append(facet)
    return tuple(result)


def end_gaps(ring: Ring, drain: LinearDrain) -> list[tuple[str, float]]:
    """Between each end of a channel and the shower's edge: (side, gap in mm along the channel).

    The gap is measured on the centre line, from the outline as drawn; the start's comes first.
    """
    ends = np.array(drain.start), np.array(drain.end)
    along = (ends[1] - ends[0]) / np.linalg.norm(ends[1] - ends[0])
    gaps = []
    for end, outward in ((ends[0], -along), (ends[1], along)):
        left, bottom, right, top = ring.polygon.bounds
        ray = LineString([end, end + outward * 2 * hypot(right - left, top - bottom)])
        free = ray.intersection(ring.polygon)
        nearest = min(
            getattr(free, "geoms", [free]),
            key=lambda piece: shapely.distance(piece, shapely.points(end)),
        )
        gaps.append((ring.side(outward), float(nearest.length)))
    return gaps
