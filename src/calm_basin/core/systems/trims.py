"""Which sides of a tray are cut that its maker does not allow."""

from __future__ import annotations

from collections.abc import Collection

from calm_basin.core.falls import ring_of, turned_edge
from calm_basin.core.falls.stock import cut_widths, extension_of
from calm_basin.plan.places import ON_EDGE
from calm_basin.plan.shower import Shower
from calm_basin.plan.system import TraySide

OF_THE_SHOWER: tuple[TraySide, ...] = ("entry", "back", "left", "right")


def side_of(shower: Shower, edge: int) -> TraySide:
    """Which side of the tray lies along an edge of the shower's outline."""
    ring = ring_of(shower)
    if edge in shower.entries:
        return "entry"
    outward = ring.outwards[turned_edge(edge, shower.outline)]
    deep = ring.inward
    right = (float(deep[1]), -float(deep[0]))
    ways: dict[TraySide, float] = {
        "back": float(outward @ deep),
        "right": float(outward @ right),
        "left": -float(outward @ right),
        "entry": -float(outward @ deep),
    }
    return max(ways, key=lambda side: ways[side])


def beyond_trims(shower: Shower, trims: Collection[TraySide]) -> list[tuple[TraySide, float]]:
    """Sides that are cut and must not be, with how much comes off them, mm. What an extension loses
    at its plain end is no cut of the tray."""
    found = []
    for edge, width in cut_widths(shower).items():
        side = side_of(shower, edge)
        off = width - (extension_of(shower) if side == "entry" else 0.0)
        if off > ON_EDGE and side not in trims:
            found.append((side, off))
    return found
