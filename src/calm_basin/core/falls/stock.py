"""A stock tray laid out from the riser: where its sides come to lie, what is over or missing."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from calm_basin.core.falls.ring import Ring, ring_of, turned_edge
from calm_basin.core.geometry.surface import Array
from calm_basin.plan.shower import PointDrain, Shower, StockTray, Tray

ALONG = 0.35
"""Sine of the angle, 20°, by which a side of the shower may be off a side of the tray and still be
the same side; what is farther off cuts across a corner."""


class TraySide(NamedTuple):
    """A side of the shower, by its edge of the ring, and the tray's side there.

    ``over`` is how far the tray reaches beyond the shower at the edge's two ends, square to the
    tray's side, mm; below 0 so much is missing. ``wanted`` is from the riser to the shower's side
    and ``reach`` from it to the tray's, both along the tray. ``across`` says that the side cuts a
    corner off the tray: ``over`` is then square to the shower's side, the same at both ends.
    """

    edge: int
    side: int
    over: tuple[float, float]
    wanted: float
    reach: float
    across: bool


def delivered(shower: Shower, stock: StockTray, before: float = 0.0) -> Ring:
    """The tray's own rectangle on plan, with its drain over the riser; edge 0 is at the entry, then
    right, back and left, as seen by whoever comes in. ``before`` is the length of an extension
    that belongs to it, mm."""
    drain, ring = shower.drain, ring_of(shower)
    assert isinstance(drain, PointDrain)
    deep = ring.inward
    across = np.array([deep[1], -deep[0]])
    left, right = -stock.drain_left * across, (stock.width - stock.drain_left) * across
    front, back = (stock.drain_back - stock.length - before) * deep, stock.drain_back * deep
    corners = np.array([left + front, right + front, right + back, left + back])
    return Ring(np.array(drain.centre) + corners, frozenset({0}), deep)


def extension_of(shower: Shower) -> float:
    """Length of the piece before a stock tray, mm; 0 where there is none."""
    former = shower.former
    return former.extension.length if isinstance(former, Tray) and former.extension else 0.0


def tray_sides(shower: Shower, stock: StockTray) -> list[TraySide]:
    """Every side of the shower with what of the tray and its extension is over or missing there,
    edge by edge."""
    ring, tray = ring_of(shower), delivered(shower, stock, extension_of(shower))
    assert isinstance(shower.drain, PointDrain)
    riser = np.array(shower.drain.centre)
    reaches = tray.offsets - tray.outwards @ riser
    found = []
    for edge, outward in enumerate(ring.outwards):
        ends = ring.edge(edge)
        side = int((tray.outwards @ outward).argmax())
        facing = tray.outwards[side]
        if abs(outward[0] * facing[1] - outward[1] * facing[0]) <= ALONG:
            over = tray.offsets[side] - ends @ facing
            # Where a line through the riser, square to the tray's side, meets the shower's side.
            wanted = float((ring.offsets[edge] - riser @ outward) / (facing @ outward))
            reach = float(reaches[side])
        else:
            most = float((tray.points @ outward).max() - ring.offsets[edge])
            over = np.array([most, most])
            wanted = float(ring.offsets[edge] - riser @ outward)
            reach = wanted + most
        across = abs(outward[0] * facing[1] - outward[1] * facing[0]) > ALONG
        found.append(TraySide(edge, side, (float(over[0]), float(over[1])), wanted, reach, across))
    return found


def cut_widths(shower: Shower) -> dict[int, float]:
    """What is cut off a tray at most along the shower's sides, mm, by the document's edges; below 0
    it is extended there, or too short."""
    former = shower.former
    if not isinstance(former, Tray):
        return {}
    if former.stock is None:
        return {cut.edge: cut.width for cut in former.cuts}
    sides = {side.edge: side.over for side in tray_sides(shower, former.stock)}
    widest = {edge: max(over) if max(over) > 0 else min(over) for edge, over in sides.items()}
    return {i: widest[turned_edge(i, shower.outline)] for i in range(len(shower.outline))}


def tray_entry_cut(shower: Shower) -> float:
    """What was cut off a tray on its entry sides, mm."""
    if not isinstance(shower.former, Tray):
        return 0.0
    widths = cut_widths(shower)
    widest = max((widths.get(edge, 0.0) for edge in shower.entries), default=0.0)
    # An extension is cut at its plain end, and only what is over besides comes off the tray.
    return max(widest - extension_of(shower), 0.0) if widest > 0 else widest


def missing(shower: Shower, stock: StockTray) -> float:
    """How far the tray is too short where most of it is missing, mm; 0 where it covers all."""
    sides = (side for side in tray_sides(shower, stock) if not side.across)
    return max(0.0, -min((min(side.over) for side in sides), default=0.0))


def covering(shower: Shower, stock: StockTray) -> Array | None:
    """The riser's nearest place from which the tray covers the shower, or none: shape (2,)."""
    assert isinstance(shower.drain, PointDrain)
    ring, tray = ring_of(shower), delivered(shower, stock, extension_of(shower))
    riser = np.array(shower.drain.centre)
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
