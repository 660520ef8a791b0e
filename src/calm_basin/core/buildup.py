"""Build-up and recess: the stack of layers inside and outside the shower.

All heights from the existing deck or slab top, up positive.
"""

from __future__ import annotations

from dataclasses import dataclass

from calm_basin.plan.model import JoistFloor, MortarBed, Plan


@dataclass(frozen=True)
class Levels:
    """Levels of the finished floor and of what it stands on, in mm."""

    room: float
    entry: float
    drain: float
    base: float

    @property
    def recess(self) -> float:
        """Depth needed below the deck or slab top; negative where there is room to spare."""
        return -self.base


def shower_layers(plan: Plan) -> float:
    """Thickness of what lies above the bed or tray in the shower."""
    return sum(layer.thickness for layer in plan.shower.layers)


def levels(plan: Plan, drop: float) -> Levels:
    """Stack the layers: room, entry, drain and the base that carries bed or tray.

    Parameters
    ----------
    plan : Plan
    drop : float
        Drop from the entry level to the drain's rim, mm.

    Notes
    -----
    ``room = Σ room layers``, ``entry = room − set-down``, ``drain = entry − drop``;
    for a bed ``base = drain − shower layers − least bed thickness``, for a tray
    ``base = entry − shower layers − tray edge thickness``. Layers are stacked plumb: at a fall of
    1:24 a layer measured square to the slope is 0.1 % thicker plumb, which is left out.
    """
    room = sum(layer.thickness for layer in plan.room.layers)
    entry = room - plan.shower.set_down
    drain = entry - drop
    former = plan.shower.former
    if isinstance(former, MortarBed):
        base = drain - shower_layers(plan) - former.least_thickness
    else:
        base = entry - shower_layers(plan) - former.edge_thickness
    return Levels(room=room, entry=entry, drain=drain, base=base)


def depth_available(plan: Plan) -> float:
    """Depth, in mm, that can be had without touching structure.

    The deck lifted and refitted between the joists, flush with their tops, gives its own thickness.
    A slab gives nothing until somebody who may has said so.
    """
    return plan.floor.deck_thickness if isinstance(plan.floor, JoistFloor) else 0.0
