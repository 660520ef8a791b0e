"""Which sides of a tray are cut that its maker does not allow."""

from __future__ import annotations

from collections.abc import Collection

from calm_basin.core.falls import ring_of, turned_edge
from calm_basin.core.falls.stock import cut_widths
from calm_basin.plan.shower import Shower
from calm_basin.plan.system import TraySide
from calm_basin.tolerances import ON_EDGE


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
    """Sides that are cut and must not be, with how much comes off them, mm."""
    sides = ((side_of(shower, edge), width) for edge, width in cut_widths(shower).items())
    return [(side, width) for side, width in sides if width > ON_EDGE and side not in trims]
