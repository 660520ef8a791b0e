"""Falls: from the shower's shape, its drain and the fall asked for to the finished surface."""

from __future__ import annotations

from dataclasses import replace
from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.falls.arrangements import (
    cut_tray,
    even_fall,
    extended,
    joined_trays,
    rest_round,
    sunk_zone,
    two_drains,
)
from calm_basin.core.falls.channel import end_gaps, linear_drain
from calm_basin.core.falls.level_edge import floors_by_rim, point_drain
from calm_basin.core.falls.ring import (
    LEAST_CLEARANCE,
    NoSurfaceError,
    Ring,
    ring_of,
    ring_of_outline,
    turned_edge,
)
from calm_basin.core.falls.stock import delivered, tray_parts
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.plan.base import Point
from calm_basin.plan.document import Plan
from calm_basin.plan.places import holds, straight
from calm_basin.plan.room import Room
from calm_basin.plan.shower import LinearDrain, PointDrain, Shower, Tray

__all__ = [
    "LEAST_CLEARANCE",
    "NoSurfaceError",
    "Ring",
    "altered",
    "door_edges",
    "end_gaps",
    "floors_by_rim",
    "rims_of",
    "ring_of",
    "ring_of_outline",
    "shower_surface",
    "surface_of",
    "turned_edge",
]

Drains = tuple[PointDrain | LinearDrain, PointDrain | None]
Manner = tuple[str, str, bool, bool]
"""How the fall is measured, which edge it keeps, whether the entry stays level in it, and whether
what makes it is rigid."""


def rims_of(shower: Shower) -> tuple[Array, ...]:
    """The rims of all drains, each anticlockwise with shape (4, 2)."""
    second = () if shower.second_drain is None else (drain_kind(shower.second_drain).rim,)
    return (drain_kind(shower.drain).rim, *second)


def surface_of(plan: Plan) -> Surface:
    """The finished floor that the plan asks for. Raises `NoSurfaceError` where there is none."""
    shower = plan.shower
    if shower.rest is None:
        return shower_surface(shower)
    return _wet_room(shower, plan.room.outline, _room_doors(plan.room))


def door_edges(room: Room) -> list[Array]:
    """The doorways on the walls, each (2, 2), with the room on the left hand."""
    return [np.array(door) for door in _room_doors(room)]


def _room_doors(room: Room) -> tuple[tuple[Point, Point], ...]:
    outline = np.array(room.outline)
    turned = not shapely.is_ccw(shapely.linearrings(outline))
    found = []
    for door in room.doors:
        start, end = outline[door.wall], outline[(door.wall + 1) % len(outline)]
        along = (end - start) / np.linalg.norm(end - start)
        jambs = [start + along * door.offset, start + along * (door.offset + door.width)]
        first, last = jambs[::-1] if turned else jambs
        found.append(((float(first[0]), float(first[1])), (float(last[0]), float(last[1]))))
    return tuple(found)


@lru_cache(maxsize=64)
def _wet_room(
    shower: Shower, outline: tuple[Point, ...], doors: tuple[tuple[Point, Point], ...]
) -> Surface:
    """The whole floor of a wet room in two zones."""
    rest = shower.rest
    assert rest is not None
    ring, room = ring_of(shower), Polygon(straight(outline))
    if rest.walls == "rising":
        zone = shower_surface(shower)
        edges = [np.array(door) for door in doors]
        packed = former_of(shower).raised
        return rest_round(zone, ring, room, edges, rest.asked, shower.set_down, packed)
    if drain_kind(shower.drain).point is None or shower.second_drain is not None:
        raise NoSurfaceError("walls_not_level", "Level walls round two zones need one point drain.")
    whole = _anticlockwise(outline, ring)
    rim = drain_kind(shower.drain).rim
    # The zone's own floor is made first, so that a drain outside the zone is told as such.
    point_drain(ring, rim, shower.fall.asked, "corner_run")
    around = point_drain(whole, rim, rest.asked, shower.fall.measured)
    return sunk_zone(around, ring, rim, shower.fall.asked, shower.set_down)


def _anticlockwise(outline: tuple[Point, ...], entered: Ring) -> Ring:
    """The room as a ring whose sides are named as the shower's are."""
    points = np.array(straight(outline))
    if not shapely.is_ccw(shapely.linearrings(points)):
        points = points[::-1]
    return Ring(points, frozenset(), entered.inward)


def shower_surface(shower: Shower) -> Surface:
    """The floor of the shower alone. Raises `NoSurfaceError` where there is none."""
    former = former_of(shower)
    if former.altered and former.tray is not None:
        return _built_tray(shower, former.tray)
    return _one_zone(shower.outline, shower)


@lru_cache(maxsize=64)
def _built_tray(shower: Shower, former: Tray) -> Surface:
    """A tray as built: its own falls, over the shower's outline."""
    ring, beyond = ring_of(shower), None
    if former.stock is not None and shower.second_drain is not None:
        halves = [_built_tray(p.shower, former) for p in tray_parts(shower, former.stock)]
        return joined_trays(ring, halves)
    if former.stock is not None:
        whole = delivered(shower, former.stock)
        beyond = former.extension and (whole.edge(0)[0], former.extension.fall)
        shower = shower.model_copy(update={"entries": (0,)})
    else:
        cuts = {turned_edge(cut.edge, shower.outline): cut.width for cut in former.cuts}
        whole = _moved_out(ring, cuts)
    if not ring.convex or not whole.convex:
        raise NoSurfaceError(
            "tray_not_convex", "A tray that is cut or extended must have no inner corner."
        )
    turned = not shapely.is_ccw(shapely.linearrings(shower.outline))
    points = whole.points[::-1] if turned and former.stock is None else whole.points
    tray = _one_zone(tuple((float(x), float(y)) for x, y in points), shower)
    if not holds(ring.polygon, tray.rim):
        raise NoSurfaceError("drain_outside", "The drain does not lie inside the shower.")
    built = cut_tray(tray, ring, former.raised)
    if former.stated is not None:
        falls = (former.stated.least, former.stated.most)
        built = replace(built, facets=tuple(replace(f, stated=falls) for f in built.facets))
    return built if beyond is None else extended(built, ring, *beyond)


def _moved_out(ring: Ring, by: dict[int, float]) -> Ring:
    """The outline with its edges moved outwards, each by its own width, mm."""
    n = len(ring.points)
    offsets = ring.offsets + np.array([by.get(i, 0.0) for i in range(n)])
    corners = []
    for i in range(n):
        sides = np.array([ring.outwards[i - 1], ring.outwards[i]])
        if abs(np.linalg.det(sides)) < 1e-9:
            corners.append(ring.points[i] + ring.outwards[i] * by.get(i, 0.0))
        else:
            corners.append(np.linalg.solve(sides, np.array([offsets[i - 1], offsets[i]])))
    return Ring(np.array(corners), ring.entries, ring.inward)


def _one_zone(outline: tuple[Point, ...], shower: Shower) -> Surface:
    """The floor of one arrangement: every level is in proportion to the fall asked for."""
    drain, fall = shower.drain, shower.fall
    built = shower.built_fall
    strips = drain_kind(drain).strips / built
    drains = (drain, shower.second_drain)
    rigid = former_of(shower).rigid
    manner = (fall.measured, fall.edge, fall.entry_level, rigid)
    return _scaled(outline, shower.entries, drains, manner, round(strips, 9), built)


@lru_cache(maxsize=256)
def _scaled(
    outline: tuple[Point, ...],
    entries: tuple[int, ...],
    drains: Drains,
    manner: Manner,
    strips: float,
    fall: float,
) -> Surface:
    """The floor for a fall: kept, since what is worked out on a surface stays with it."""
    return _unit_surface(outline, entries, drains, manner, strips).scaled(fall)


@lru_cache(maxsize=256)
def _unit_surface(
    outline: tuple[Point, ...],
    entries: tuple[int, ...],
    drains: Drains,
    manner: Manner,
    strips: float,
) -> Surface:
    """The floor for a fall of 1."""
    ring = ring_of_outline(outline, entries)
    (drain, second), (measured, edge, entry_level, rigid) = drains, manner
    if (channel := drain_kind(drain).channel) is not None:
        beside = linear_drain(ring, channel, 1.0, strips, rigid)
        if not beside.facets:
            raise NoSurfaceError("drain_outside", "The channel leaves no floor beside it.")
        return beside
    if second is not None:
        return two_drains(ring, (drain_kind(drain).rim, drain_kind(second).rim), 1.0, measured)
    if edge == "even":
        return even_fall(ring, drain_kind(drain).rim, 1.0, entry_level)
    return point_drain(ring, drain_kind(drain).rim, 1.0, measured)
