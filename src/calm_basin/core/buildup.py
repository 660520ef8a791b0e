"""Build-up and recess: the stack of layers inside and outside the shower.

All heights from the existing deck or slab top (its high spot, where it was surveyed), up positive.
"""

from __future__ import annotations

from dataclasses import dataclass

from calm_basin.plan.model import JoistFloor, MortarBed, Plan, Pour


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


def pour_cover(plan: Plan) -> float:
    """What a pour that the survey has chosen adds over the floor's high spot, mm."""
    correction = plan.survey.correction
    return correction.cover if isinstance(correction, Pour) else 0.0


def levels(plan: Plan, drop: float) -> Levels:
    """Stack the layers: room, entry, drain and the base that carries bed or tray.

    Parameters
    ----------
    plan : Plan
    drop : float
        Drop from the entry level to the drain's rim, mm.

    Notes
    -----
    ``room = Σ room layers + cover of a pour``, ``entry = room − set-down``,
    ``drain = entry − drop``; for a bed
    ``base = drain − shower layers − least bed thickness``, for a tray
    ``base = entry − shower layers − tray edge thickness``. Layers are stacked plumb: at a fall of
    1:24 a layer measured square to the slope is 0.1 % thicker plumb, which is left out.
    """
    room = sum(layer.thickness for layer in plan.room.layers) + pour_cover(plan)
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
