"""Linear drains: a plane on each side of the channel that has floor there."""

from __future__ import annotations

from dataclasses import replace
from functools import partial
from math import hypot

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.falls.even import pieces, plane_from, raised_to
from calm_basin.core.falls.level_edge import named_apart
from calm_basin.core.falls.ring import LEAST_CLEARANCE, NoSurfaceError, Ring
from calm_basin.core.geometry.drops import Net
from calm_basin.core.geometry.surface import Array, Facet, Surface
from calm_basin.core.kinds import drain_kind
from calm_basin.plan.places import holds
from calm_basin.plan.shower import LinearDrain


def linear_drain(
    ring: Ring, drain: LinearDrain, asked: float, strips: float, rigid: bool = False
) -> Surface:
    """A plane on each side of a channel that has floor there; strips beyond its ends.

    A side that holds entry edges meets the entry level at its far end: the longest such side falls
    as asked, which sets the drop. A side without an entry rises from the channel as asked, so a
    channel across the entry has no drop at all and the floor rises away from it. Where the floor is
    ``rigid``, as on panels, every side falls as asked, and a shorter one ends lower. Beyond an end
    of the channel the floor rises by ``strips`` (rise over run; 0: level) until it meets those
    planes.

    Raises
    ------
    NoSurfaceError
        The channel does not lie inside the shower.
    """
    outline = ring.polygon
    channel = Polygon(drain_kind(drain).rim)
    if not holds(outline, channel):
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
        slope = drop / entry if entry >= LEAST_CLEARANCE and not rigid else asked
        half_plane = Polygon(
            [
                edge - along * far,
                edge + along * far,
                edge + along * far + across * far,
                edge - along * far + across * far,
            ]
        )
        plane = plane_from(np.array([edge]), across, -drop, slope)
        facets += [
            Facet(ring.side(across), piece, plane)
            for piece in pieces(outline.intersection(half_plane))
        ]
    strip = LineString([start - along * far, end + along * far]).buffer(half, cap_style="flat")
    for piece in pieces(outline.intersection(strip).difference(channel.buffer(1e-6))):
        middle = np.array(piece.centroid.coords[0])
        outward = along if (middle - end) @ along > 0 else -along
        facets.append(Facet(f"{ring.side(outward)} strip", piece, (0.0, 0.0, -drop), strip=True))
    if strips > 0:
        facets = _with_strips(facets, drain, strips, drop)
    floor = Surface(outline, (channel,), named_apart(facets), drop)
    if not ring.convex:
        refuse_traps(floor)
    return floor


def refuse_traps(floor: Surface) -> None:
    """Raise `NoSurfaceError` where a wall keeps water from the drain."""
    trapped = Net(floor, []).traps()
    if len(trapped):
        x, y, _ = trapped[0]
        raise NoSurfaceError(
            "water_trapped",
            "A wall keeps the water from the drain: it would stand in the corner {place}.",
            (float(x), float(y)),
        )


def _with_strips(facets: list[Facet], drain: LinearDrain, fall: float, drop: float) -> list[Facet]:
    """The floor raised beyond the channel's ends, so that it falls along the channel to them."""
    start, end = np.array(drain.start), np.array(drain.end)
    along = (end - start) / np.linalg.norm(end - start)
    for at, outward in ((start, -along), (end, along)):
        names = [f.name for f in facets if f.level and (_middle(f.polygon) - at) @ outward > 0]
        if names:
            plane = plane_from(np.array([at]), outward, -drop, fall)
            facets = [
                replace(facet, strip=facet.strip or facet.name == names[0])
                for facet in raised_to(facets, (plane,), names[0])
            ]
    return facets


def _middle(shape: Polygon) -> Array:
    middle: Array = shapely.get_coordinates(shape.centroid)[0]
    return middle


def _nearest_end(end: Array, piece: shapely.Geometry) -> float:
    """How far the nearer end of a piece of a ray lies from where the ray begins, mm; the piece may
    be a point."""
    return float(np.hypot(*(shapely.get_coordinates(piece) - end).T).min())


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
        # Where an end lies on the wall, nothing may be left of the ray.
        free = np.atleast_1d(ray.intersection(ring.polygon))
        nearest = min(
            shapely.get_parts(free[~shapely.is_empty(free)]),
            key=partial(_nearest_end, end),
            default=LineString(),
        )
        gaps.append((ring.side(outward), float(nearest.length)))
    return gaps
