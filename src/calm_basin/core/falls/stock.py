"""A stock tray laid out from the riser: where its sides come to lie, what is over or missing."""

from __future__ import annotations

from functools import lru_cache
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import LineString, Point, Polygon

from calm_basin.core.falls.even import above
from calm_basin.core.falls.ring import NoSurfaceError, Ring, ring_of, turned_edge
from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.plan.shower import PointDrain, Shower, StockTray
from calm_basin.tolerances import ON_EDGE, SAME_SIDE


class TraySide(NamedTuple):
    """A side of the shower, by its edge of the ring, and the tray's side there.

    ``over`` is how far the tray reaches beyond the shower at the edge's two ends, square to the
    tray's side, mm; below 0 so much is missing. ``wanted`` is from the riser to the shower's side
    and ``reach`` from it to the tray's, both along the tray. ``across`` says that the side cuts a
    corner off the tray: ``over`` is then square to the shower's side, the same at both ends.
    ``extension`` is the length, mm, of the piece before the tray at this side: it is cut first.
    """

    edge: int
    side: int
    over: tuple[float, float]
    wanted: float
    reach: float
    across: bool
    extension: float = 0.0


class TrayPart(NamedTuple):
    """A tray's own part of the shower: a shower of one drain, and which of its edges, by its ring,
    are the joint to the other tray."""

    shower: Shower
    joint: frozenset[int] = frozenset()


def tray_parts(shower: Shower, stock: StockTray) -> tuple[TrayPart, ...]:
    """The shower, or with two risers its two parts, in which a tray of this size lies each.

    The trays lie side by side or one behind the other, whichever way the risers are farther apart;
    the joint is midway between their edges there: where they overlap both are cut alike.

    Raises
    ------
    NoSurfaceError
        A riser lies in no part of its own, or a part has no entry to be laid square to.
    """
    first, second = drain_kind(shower.drain).point, shower.second_drain
    if first is None or second is None:
        return (TrayPart(shower),)
    ring = ring_of(shower)
    deep = ring.inward
    across = np.array([deep[1], -deep[0]])
    apart = np.array(second.centre) - np.array(first.centre)
    beside = abs(float(apart @ across)) >= abs(float(apart @ deep))
    axis = across if beside else deep
    way = 1.0 if apart @ axis >= 0 else -1.0
    low, high = (
        (stock.drain_left, stock.width - stock.drain_left)
        if beside
        else (stock.length - stock.drain_back, stock.drain_back)
    )
    towards, back = (high, low) if way > 0 else (low, high)
    edges = (
        way * float(np.array(first.centre) @ axis) + towards,
        way * float(np.array(second.centre) @ axis) - back,
    )
    joint = sum(edges) / 2
    return tuple(
        _part(ring, shower, drain, sign * way * axis, sign * joint)
        for drain, sign in ((first, 1.0), (second, -1.0))
    )


def _part(ring: Ring, shower: Shower, drain: PointDrain, way: Array, joint: float) -> TrayPart:
    """The part of the shower up to a joint, which lies ``joint`` mm along ``way``."""
    (half,) = above(np.array([ring.polygon]), np.array([[*-way, joint]]))
    apart = NoSurfaceError(
        "trays_apart", "Each of two trays needs a part of its own round its drain."
    )
    if not isinstance(half, Polygon) or half.is_empty or not half.contains(Point(drain.centre)):
        raise apart
    corners = shapely.get_coordinates(shapely.geometry.polygon.orient(half).exterior)[:-1]
    ends = [(corners[i], corners[(i + 1) % len(corners)]) for i in range(len(corners))]
    on_joint = {i for i, pair in enumerate(ends) if all(abs(p @ way - joint) < 0.01 for p in pair)}
    lines = [LineString(ring.edge(i)) for i in sorted(ring.entries)]
    entries = {
        i
        for i, pair in enumerate(ends)
        if any(all(line.distance(Point(p)) < 0.01 for p in pair) for line in lines)
    }
    # One behind the other, the farther tray is entered over the nearer.
    entries = entries or (on_joint if abs(way @ ring.inward) > SAME_SIDE else set())
    if not entries or not on_joint:
        raise apart
    part = shower.model_copy(
        update={
            "outline": tuple((float(x), float(y)) for x, y in corners),
            "entries": tuple(sorted(entries)),
            "drain": drain,
            "second_drain": None,
        }
    )
    if float(ring_of(part).inward @ ring.inward) < 1 - 1e-9:
        raise apart
    return TrayPart(part, frozenset(on_joint))


def delivered(shower: Shower, stock: StockTray, before: float = 0.0) -> Ring:
    """The tray's own rectangle on plan, with its drain over the riser; edge 0 is at the entry, then
    right, back and left, as seen by whoever comes in. ``before`` is the length of an extension
    that belongs to it, mm."""
    drain, ring = drain_kind(shower.drain), ring_of(shower)
    deep = ring.inward
    across = np.array([deep[1], -deep[0]])
    left, right = -stock.drain_left * across, (stock.width - stock.drain_left) * across
    front, back = (stock.drain_back - stock.length - before) * deep, stock.drain_back * deep
    corners = np.array([left + front, right + front, right + back, left + back])
    return Ring(drain.middle + corners, frozenset({0}), deep)


def extension_of(shower: Shower) -> float:
    """Length of the piece before a stock tray, mm; 0 where there is none."""
    tray = former_of(shower).tray
    return tray.extension.length if tray is not None and tray.extension else 0.0


@lru_cache(maxsize=256)
def tray_sides(shower: Shower, stock: StockTray) -> tuple[TraySide, ...]:
    """Every side of the shower with what of the tray and its extension is over or missing there,
    edge by edge."""
    before = extension_of(shower)
    ring, tray = ring_of(shower), delivered(shower, stock, before)
    riser = drain_kind(shower.drain).middle
    reaches = tray.offsets - tray.outwards @ riser
    found = []
    for edge, outward in enumerate(ring.outwards):
        ends = ring.edge(edge)
        side = int((tray.outwards @ outward).argmax())
        facing = tray.outwards[side]
        if abs(outward[0] * facing[1] - outward[1] * facing[0]) <= SAME_SIDE:
            over = tray.offsets[side] - ends @ facing
            # Where a line through the riser, square to the tray's side, meets the shower's side.
            wanted = float((ring.offsets[edge] - riser @ outward) / (facing @ outward))
            reach = float(reaches[side])
        else:
            most = float((tray.points @ outward).max() - ring.offsets[edge])
            over = np.array([most, most])
            wanted = float(ring.offsets[edge] - riser @ outward)
            reach = wanted + most
        across = abs(outward[0] * facing[1] - outward[1] * facing[0]) > SAME_SIDE
        ends_over = (float(over[0]), float(over[1]))
        spared = before if side == 0 and not across else 0.0
        found.append(TraySide(edge, side, ends_over, wanted, reach, across, spared))
    return tuple(found)


def cut_widths(shower: Shower) -> dict[int, float]:
    """What is cut off a tray at most along the shower's sides, mm, by the document's edges; below 0
    it is extended there, or too short. What an extension loses at its plain end, at the entry, is
    no cut of the tray."""
    former = former_of(shower).tray
    if former is None:
        return {}
    if former.stock is None:
        return {cut.edge: cut.width for cut in former.cuts}
    ring = ring_of(shower)
    widest: dict[int, float] = {}
    for part in tray_parts(shower, former.stock):
        own = ring_of(part.shower)
        for side in tray_sides(part.shower, former.stock):
            edge = side.edge if not part.joint else _edge_under(ring, own.edge(side.edge))
            width = min(side.over)
            if max(side.over) > 0:
                width = max(max(side.over) - side.extension, 0.0)
            if side.edge not in part.joint:
                widest[edge] = max(width, widest.get(edge, width))
    edges = {i: turned_edge(i, shower.outline) for i in range(len(shower.outline))}
    return {i: widest[edge] for i, edge in edges.items() if edge in widest}


def _edge_under(ring: Ring, ends: Array) -> int:
    """The edge of the whole shower on which an edge of a part lies."""
    middle = Point(ends.mean(axis=0))
    lines = [LineString(ring.edge(i)) for i in range(len(ring.points))]
    return min(range(len(lines)), key=lambda i: float(lines[i].distance(middle)))


def tray_entry_cut(shower: Shower) -> float:
    """What was cut off a tray on its entry sides, mm."""
    if former_of(shower).tray is None:
        return 0.0
    widths = cut_widths(shower)
    return max((widths.get(edge, 0.0) for edge in shower.entries), default=0.0)


def missing(shower: Shower, stock: StockTray) -> float:
    """How far the tray is too short where most of it is missing, mm; 0 where it covers all."""
    sides = (
        side
        for part in tray_parts(shower, stock)
        for side in tray_sides(part.shower, stock)
        if not side.across
    )
    return max(0.0, -min((min(side.over) for side in sides), default=0.0))


def reaches(shower: Shower, stock: StockTray) -> bool:
    """Whether a tray of this size reaches every side from each riser."""
    try:
        return missing(shower, stock) <= ON_EDGE
    except NoSurfaceError:
        return False


def covering(shower: Shower, stock: StockTray) -> Array | None:
    """The riser's nearest place from which the tray covers the shower, or none: shape (2,)."""
    ring, tray = ring_of(shower), delivered(shower, stock, extension_of(shower))
    riser = drain_kind(shower.drain).middle
    # So far out the shower reaches towards each side of the tray, and the tray does from its drain.
    needed = (ring.points @ tray.outwards.T).max(axis=0)
    reaches = tray.offsets - tray.outwards @ riser
    least = needed - reaches
    place = riser.copy()
    for one, other in ((0, 2), (1, 3)):
        way = tray.outwards[one]
        # Along this way the riser lies from least[one] to −least[other].
        low, high = least[one], -least[other]
        if low > high + 1e-9:
            return None
        at = float(riser @ way)
        place += way * (min(max(at, low), high) - at)
    return place


def turned(stock: StockTray) -> tuple[StockTray, StockTray]:
    """The tray turned a quarter to the left and to the right."""
    right = stock.width - stock.drain_left
    front = stock.length - stock.drain_back
    sizes = {"width": stock.length, "length": stock.width}
    return (
        StockTray(**sizes, drain_left=stock.drain_back, drain_back=right),
        StockTray(**sizes, drain_left=front, drain_back=stock.drain_left),
    )
