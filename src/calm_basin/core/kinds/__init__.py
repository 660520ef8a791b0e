"""The kinds of what a floor stands on and falls to: what the subjects of the trade ask of each.

A new kind is one file here and one line in its list: no subject asks which kind it has before it.
"""

from collections.abc import Callable
from typing import Any

from calm_basin.core.kinds.bed import CastBed
from calm_basin.core.kinds.carrier import Carrier
from calm_basin.core.kinds.channel import AlongLine
from calm_basin.core.kinds.drain import DrainKind, PartName
from calm_basin.core.kinds.former import FormerKind
from calm_basin.core.kinds.joists import OnJoists
from calm_basin.core.kinds.panels import LaidPanels
from calm_basin.core.kinds.point import AtPoint
from calm_basin.core.kinds.slab import OnSlab
from calm_basin.core.kinds.tray import LaidTray
from calm_basin.plan import Plan
from calm_basin.plan.shower import Drain, Shower

__all__ = [
    "CARRIERS",
    "DRAINS",
    "FORMERS",
    "Carrier",
    "DrainKind",
    "FormerKind",
    "PartName",
    "carrier_of",
    "drain_kind",
    "drains_of",
    "former_of",
]

CARRIERS: dict[str, Callable[[Any], Carrier]] = {"joists": OnJoists, "slab": OnSlab}
"""What carries a shower's floor, by the kind of the plan's floor."""

DRAINS: dict[str, Callable[[Any], DrainKind]] = {"point": AtPoint, "linear": AlongLine}
"""What a floor falls to, by the kind of the plan's drain."""

FORMERS: dict[str, Callable[[Any], FormerKind]] = {
    "bed": CastBed,
    "tray": LaidTray,
    "panels": LaidPanels,
}
"""What makes the falls, by the kind of the plan's former."""


def carrier_of(plan: Plan) -> Carrier:
    """What carries the plan's shower."""
    return CARRIERS[plan.floor.kind](plan.floor)


def drain_kind(drain: Drain) -> DrainKind:
    """The kind of one drain."""
    return DRAINS[drain.kind](drain)


def drains_of(plan: Plan) -> list[DrainKind]:
    """The kind of each drain of the plan's shower, the second one last."""
    drains = (plan.shower.drain, plan.shower.second_drain)
    return [drain_kind(drain) for drain in drains if drain is not None]


def former_of(shower: Shower) -> FormerKind:
    """What makes the falls of a shower."""
    return FORMERS[shower.former.kind](shower.former)
