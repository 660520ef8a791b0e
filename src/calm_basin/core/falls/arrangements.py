"""Arrangements made of the simple ones: even floors, two drains, two zones and cut trays."""

from __future__ import annotations

from dataclasses import replace
from itertools import chain

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon
from shapely.ops import split

from calm_basin.core.falls.channel import refuse_traps
from calm_basin.core.falls.even import above, even_facets, opened, pieces, raised_to
from calm_basin.core.falls.level_edge import (
    check_sight,
    corner_run,
    named_apart,
    point_drain,
    stretched,
)
from calm_basin.core.falls.ring import LEAST_CLEARANCE, NoSurfaceError, Ring
from calm_basin.core.falls.thresholds import Sink, Threshold, steepest
from calm_basin.core.geometry.drops import Net
from calm_basin.core.geometry.surface import Array, Facet, Surface
from calm_basin.tolerances import HAIR, SAME_PLACE, UNSEEN

EXTENSION = "extension"
"""What the piece before a tray is called."""


def even_fall(ring: Ring, rim: Array, asked: float, entry_level: bool) -> Surface:
    """The same fall everywhere, straight to a point drain; the edge is then not level.

    The highest place of the entries is the level that the floor starts from. With ``entry_level``
    a plane holds the whole line of each entry at that level, a little steeper than asked.

    Raises
    ------
    NoSurfaceError
        The rim does not lie inside, a corner hides part of the floor from it, or the level entry
        keeps water from it.
    """
    check_sight(ring, rim)
    facets = even_facets(rim, ring.polygon, asked, "round the drain")
    entries = [ring.edge(i) for i in sorted(ring.entries)]
    drop = max(_highest(facets, edge) for edge in entries)
    facets = [_shifted(facet, -drop) for facet in facets]
    if entry_level:
        for i, edge in zip(sorted(ring.entries), entries, strict=True):
            outward = ring.outwards[i]
            threshold = Threshold(edge, outward)
            planes = threshold.ways_down(Sink(rim, drop), asked, ring.polygon)[0]
            facets = raised_to(facets, planes, ring.side(outward), most=0.0)
    floor = Surface(ring.polygon, (Polygon(rim),), named_apart(facets), drop)
    if entry_level and not ring.convex:
        # Beside an inner corner the level plane may meet the others in a line that does not fall.
        refuse_traps(floor)
    return floor


def two_drains(ring: Ring, rims: tuple[Array, Array], asked: float, measured: str) -> Surface:
    """Two point drains at one level with a level ridge between them, at the height of the edge.

    The ridge is the line midway between the drains or one that goes on from a wall at an inner
    corner, or halves that corner: the one whose longer part is shortest.

    Raises
    ------
    NoSurfaceError
        No such line gives each drain a part of the shower that it can see.
    """
    best = [
        point_drain(part, rim, asked, measured)
        for part, rim in zip(parted(ring, rims), rims, strict=True)
    ]
    drop = max(floor.drop for floor in best)
    level = [floor.scaled(drop / floor.drop) for floor in best]
    facets = chain.from_iterable(floor.facets for floor in level)
    # The two halves have numbered their own planes; together they are numbered anew.
    plain = [replace(f, name=f.name.rstrip(" 0123456789")) for f in facets]
    rim_shapes = tuple(rim for floor in level for rim in floor.rims)
    return Surface(ring.polygon, rim_shapes, named_apart(plain), drop)


def parted(ring: Ring, rims: tuple[Array, Array]) -> tuple[Ring, Ring]:
    """The part of a shower that falls to each of two drains, and that its drain sees.

    Raises
    ------
    NoSurfaceError
        There are none.
    """
    if Polygon(rims[0]).distance(Polygon(rims[1])) < 2 * LEAST_CLEARANCE:
        raise NoSurfaceError("drains_touch", "The two drains lie on each other.")
    halves = []
    for line in _ridges(ring, rims):
        parts = [part for part in shapely.get_parts(split(ring.polygon, line)) if part.area > 1.0]
        own = [p for rim in rims for p in parts if p.contains(Polygon(rim))]
        if len(parts) == 2 and len(own) == 2 and own[0] is not own[1]:
            first, second = (_part_of(ring, one) for one in own)
            if first is None or second is None:
                continue
            run = max(
                corner_run(p.points, rim) for p, rim in zip((first, second), rims, strict=True)
            )
            halves.append((run, (first, second)))
    reason = None
    for _, pair in sorted(halves, key=lambda half: half[0]):
        try:
            for part, rim in zip(pair, rims, strict=True):
                check_sight(part, rim)
        except NoSurfaceError as error:
            reason = reason or error
        else:
            return pair
    raise reason or NoSurfaceError(
        "drains_unparted", "No straight ridge parts the shower so that each half has a drain."
    )


def _ridges(ring: Ring, rims: tuple[Array, Array]) -> list[LineString]:
    """Lines that may part the shower between two drains."""
    first, second = (rim.mean(axis=0) for rim in rims)
    far = 4 * float(np.ptp(ring.points, axis=0).max())
    between = (second - first) / np.linalg.norm(second - first)
    lines = [((first + second) / 2, np.array([-between[1], between[0]]))]
    inner = [i for i in range(len(ring.points)) if ring.turns_right(i)]
    for i in inner:
        before, after = -ring.outwards[i - 1], -ring.outwards[i]
        for way in (before, after, before + after):
            lines.append((ring.points[i], way / np.linalg.norm(way)))
    return [LineString([at - way * far, at + way * far]) for at, way in lines]


def _part_of(ring: Ring, part: Polygon) -> Ring | None:
    """The ring of one side of a ridge; none where the ridge leaves it in pieces."""
    # A ridge beside a wall or a corner leaves a spike of no width or an edge of no length.
    for width in (-HAIR, HAIR):
        part = part.buffer(width, join_style="mitre", mitre_limit=100)
    if not isinstance(part, Polygon) or part.is_empty:
        return None
    points = shapely.get_coordinates(shapely.geometry.polygon.orient(part).exterior)[:-1]
    apart = np.hypot(*(points - np.roll(points, 1, axis=0)).T)
    points = points[apart > 10 * SAME_PLACE]
    return Ring(points, frozenset(), ring.inward)


def sunk_zone(room: Surface, zone: Ring, rim: Array, asked: float, set_down: float) -> Surface:
    """A steeper zone in a floor that already falls to its drain.

    The zone's edge follows the floor around it, ``set_down`` lower; from there the planes fall to
    the rim at least as asked along the longest run.
    """
    points, heights = _on_folds(room, zone)
    heights = heights - set_down
    edge = Ring(points, frozenset(), zone.inward)
    runs = shapely.distance(Polygon(rim), shapely.points(points))
    drop = float((asked * runs - heights).max())
    inside = stretched(edge, heights, rim, drop)
    rest = _outside(room.facets, zone.polygon)
    # Where the zone is the whole room there is no rest beside its entries.
    beside = [_highest(rest, zone.edge(i)) - set_down for i in sorted(zone.entries) if rest]
    highest = max(beside, default=float(heights.max()))
    outline = shapely.union_all([room.outline, zone.polygon])
    return Surface(outline, (Polygon(rim),), named_apart([*inside, *_renamed(rest)]), drop, highest)


def _on_folds(room: Surface, zone: Ring) -> tuple[Array, Array]:
    """The zone's corners, and the places where its edges cross the room's folds, with heights."""
    points = []
    for i in range(len(zone.points)):
        start, end = zone.edge(i)
        line = LineString([start, end])
        crossed = [line.intersection(f.polygon.exterior) for f in room.facets if not f.curved]
        places = shapely.get_coordinates(crossed) if crossed else np.empty((0, 2))
        shares = (places - start) @ (end - start) / ((end - start) @ (end - start))
        length = float(np.hypot(*(end - start)))
        steps = np.arange(1, int(length // 100) + 1) / (int(length // 100) + 1)
        extra = steps if any(f.curved for f in room.facets) else np.empty(0)
        for share in sorted({0.0, *np.round(np.append(shares, extra), 6)}):
            if 0 <= share < 1 - SAME_PLACE / length:
                points.append(start + share * (end - start))
    array = np.array(points)
    return array, room.heights(array)


def rest_round(
    zone: Surface,
    ring: Ring,
    room: Polygon,
    doors: list[Array],
    asked: float,
    set_down: float,
    packed: float = 0.0,
) -> Surface:
    """The rest of a wet room round a zone: the same fall everywhere, straight to the zone's edge.

    The doors, each (2, 2), keep the level that the floor starts from; walls rise from the zone.
    The zone has to be convex. ``packed`` is how far its tray stands over its edge, mm.
    """
    if not ring.convex:
        raise NoSurfaceError(
            "zone_not_convex",
            "A zone with an inner corner has no one way for the rest to fall to it.",
        )
    around = room.difference(ring.polygon)
    facets = even_facets(ring.points, around, asked, "round the zone")
    if not facets:
        return zone
    corners = np.vstack([facet.corners for facet in facets])
    far = max((_highest(facets, door) for door in doors), default=float(corners[:, 2].max()))
    # A door at the zone itself lies at the zone's edge: nothing is to be gained by lifting that.
    far = max(far, 0.0)
    lowered = zone.lowered(far + set_down)
    outline = shapely.union_all([room, ring.polygon])
    around_it = [_shifted(replace(facet, zone="rest"), -far) for facet in facets]
    whole = replace(lowered, outline=outline, facets=(*lowered.facets, *around_it))
    # Whether a packed tray dams the water up is told as a finding; here its edge does not count.
    dam = max(packed - set_down, 0.0)
    # One door that faces the zone in a room without inner corners cannot dam anything up.
    plain = outline.convex_hull.area - outline.area <= 1.0 and len(doors) < 2
    for edge in doors:
        whole = _with_level_door(whole, edge, ring, far, asked, dam, plain)
    if outline.convex_hull.area - outline.area > 1.0:
        refuse_traps(_shower_lower(whole, dam))
    named = named_apart(facet for facet in whole.facets if facet.zone == "rest")
    return replace(whole, facets=(*whole.zone("shower"), *named))


def _with_level_door(
    floor: Surface, edge: Array, ring: Ring, far: float, asked: float, dam: float, plain: bool
) -> Surface:
    """The floor of a wet room with one door at the level that it starts from.

    A door apart from the zone is joined to the zone's edge, ``far`` mm lower; one at the zone
    straight to the drain. Of the ways to do it the gentlest is taken that leaves no water.
    """
    door = Threshold.with_floor_left(edge)
    if door.touches(ring.points) and floor.edge >= 0:
        return floor
    rims = shapely.MultiPoint(shapely.get_coordinates(list(floor.rims))).convex_hull
    drains = Sink(shapely.get_coordinates(rims.exterior)[:-1], floor.drop)
    to_zone = door.ways_down(Sink(ring.points, far), asked, floor.outline) if far > 0 else []
    to_drain = door.ways_down(drains, asked, floor.outline)[:1]
    ways = [(planes, False) for planes in to_zone] + [(planes, True) for planes in to_drain]
    faces = door.faces(ring.points)
    if not faces:
        ways.sort(key=lambda way: steepest(way[0]))
    for planes, through_zone in ways:
        shower, rest = (list(floor.zone(zone)) for zone in ("shower", "rest"))
        if through_zone:
            shower = raised_to(shower, planes, "door side", most=0.0)
        raised = replace(floor, facets=(*shower, *raised_to(rest, planes, "door side", most=0.0)))
        if (plain and faces) or not len(Net(_shower_lower(raised, dam), []).traps()):
            return raised
    raise NoSurfaceError(
        "water_trapped",
        "A door lies so close to the shower zone that no floor keeps it level and drains.",
    )


def _shower_lower(floor: Surface, by: float) -> Surface:
    """The floor with the planes of its shower so much lower, mm."""
    if by <= 0:
        return floor
    facets = tuple(_shifted(f, -by) if f.zone == "shower" else f for f in floor.facets)
    return replace(floor, facets=facets, drop=floor.drop + by)


def cut_tray(tray: Surface, ring: Ring, raised: float) -> Surface:
    """A tray's planes over another outline: cut off, they end lower; extended, they go on rising.

    Parameters
    ----------
    tray : Surface
        As it is delivered; its planes are those of a convex floor.
    ring : Ring
        The shower as built.
    raised : float
        How far the whole tray is packed up, mm.
    """
    # Of facets in one plane the first stands for all: a plane is nowhere above itself.
    facets_of = {tuple(np.round(facet.plane, 7)): facet for facet in reversed(tray.facets)}
    delivered = list(facets_of.values())
    planes = np.array([facet.plane for facet in delivered])
    cells = np.array([ring.polygon.difference(tray.rim)] * len(planes))
    for j, other in enumerate(planes):
        apart = np.arange(len(planes)) != j
        cells[apart] = above(cells[apart], planes[apart] - other)
    facets = [
        _shifted(replace(facet, polygon=piece), raised)
        for facet, cell in zip(delivered, cells, strict=True)
        for piece in opened(cell)
    ]
    whole = _whole(facets, ring.polygon.difference(tray.rim))
    return Surface(ring.polygon, tray.rims, whole, tray.drop - raised, tray.edge)


def _whole(facets: list[Facet], floor: shapely.Geometry) -> tuple[Facet, ...]:
    """The planes with what is too narrow to be one of its own given to the plane beside it."""
    found = list(facets)
    left = floor.difference(shapely.union_all([facet.polygon for facet in found]))
    for sliver in shapely.get_parts(left):
        if sliver.buffer(-UNSEEN / 2).is_empty:
            continue
        wider = sliver.buffer(SAME_PLACE, join_style="mitre")
        beside = [facet.polygon.boundary.intersection(wider).length for facet in found]
        for i in np.argsort(beside)[::-1]:
            joined = found[i].polygon.union(wider.intersection(floor))
            if isinstance(joined, Polygon) and beside[i] > 0:
                found[i] = replace(found[i], polygon=joined)
                break
    return tuple(found)


def joined_trays(ring: Ring, halves: list[Surface]) -> Surface:
    """Two trays at one joint, each over its own part of the shower."""
    facets = [
        replace(facet, name=facet.name.rstrip(" 0123456789"))
        for half in halves
        for facet in half.facets
    ]
    rims = tuple(rim for half in halves for rim in half.rims)
    drop = max(half.drop for half in halves)
    return Surface(ring.polygon, rims, named_apart(facets), drop)


def extended(tray: Surface, ring: Ring, edge: Array, fall: float) -> Surface:
    """A tray with a piece before its edge that rises towards the entry, ``fall`` in rise over run.

    ``edge`` is a place, (2,), on the tray's edge towards the entry, which lies square to the way
    in. What lies beyond it belongs to the piece; the floor's 0 is its highest place at an entry.
    """
    inward = ring.inward
    before = np.array([[-inward[0], -inward[1], float(inward @ edge)]])
    (beyond,) = above(np.array([ring.polygon]), before)
    if beyond.area < 1.0:
        return tray
    own = np.array([facet.polygon for facet in tray.facets])
    own = above(own, np.repeat(-before, len(own), axis=0))
    level = float(np.max([facet.at(*edge) for facet in tray.facets]))
    plane = (-fall * inward[0], -fall * inward[1], level + fall * float(inward @ edge))
    pieces_of = [Facet(EXTENSION, piece, plane) for piece in opened(beyond)]
    ways = [ring.edge(i) for i in sorted(ring.entries)]
    top = max(0.0, *(float(fall * (edge - place) @ inward) for way in ways for place in way))
    kept = [
        replace(facet, polygon=piece)
        for facet, cell in zip(tray.facets, own, strict=True)
        for piece in opened(cell)
    ]
    floor = ring.polygon.difference(tray.rim)
    facets = tuple(_shifted(facet, -top) for facet in _whole([*kept, *pieces_of], floor))
    return replace(tray, facets=facets, drop=tray.drop + top, extended=top)


def _outside(facets: tuple[Facet, ...], zone: Polygon) -> list[Facet]:
    return [
        replace(facet, polygon=piece, zone="rest")
        for facet in facets
        for piece in pieces(facet.polygon.difference(zone))
    ]


def _renamed(facets: list[Facet]) -> list[Facet]:
    return [replace(f, name=f"room {f.name.rstrip(' 0123456789')}") for f in facets]


def _shifted(facet: Facet, by: float) -> Facet:
    return replace(facet, plane=(*facet.plane[:2], facet.plane[2] + by))


def _highest(facets: list[Facet], edge: Array) -> float:
    """The greatest height of the floor along an edge: that of a convex floor lies at its ends."""
    return max(max(facet.at(x, y) for facet in facets) for x, y in edge)
