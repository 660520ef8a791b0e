"""Build-up and recess: the stack of layers inside and outside the shower.

All heights from the existing deck or slab top (its high spot, where it was surveyed), up positive.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from calm_basin.core.geometry.lifts import thicker_at_drain
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.core.kinds.tray import tray_form
from calm_basin.plan.document import Plan
from calm_basin.plan.layers import thick
from calm_basin.plan.survey import Pour, PourArea


@dataclass(frozen=True)
class Levels:
    """Levels of the finished floor and of what it stands on, in mm; ``datum`` is the level from
    which a surface's heights count."""

    datum: float
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
    return thick(plan.shower.layers)


def laid_on(plan: Plan, stack: Levels) -> float:
    """Level of what bed, panels or tray are laid on, mm: the base, or what is poured on it."""
    return stack.base + shower_pour(plan)


def cast_on(plan: Plan, stack: Levels) -> float:
    """Level of what bed, panels or tray stand on, mm: what they are laid on, and a bed is cast down
    to what carries it, with no packing between."""
    on = laid_on(plan, stack)
    if not former_of(plan.shower).cast:
        return on
    deck = float(deck_under(plan, np.array([stack.base]))[0])
    return min(on, deck + shower_pour(plan))


def deck_under(plan: Plan, base: Array) -> Array:
    """The deck or slab that carries a base at these levels, (n,): as it is where the base lies
    above it, else refitted between the joists or cut."""
    return carrier_of(plan).under(base)


def drain_stands_on(plan: Plan, base: Array) -> Array:
    """The level from which a drain's trap hangs, for bases at these levels, (n,): the deck or slab,
    or the top of a raised zone's own base, which holds the trap."""
    form = tray_form(plan.system)
    decks = deck_under(plan, base)
    if form is not None and form.base > 0 and former_of(plan.shower).one_piece:
        return np.maximum(decks, base)
    return decks


def pour_cover(plan: Plan) -> float:
    """What a pour over the room's floor adds over its high spot, mm."""
    return _cover(plan, "room")


def shower_pour(plan: Plan) -> float:
    """What a pour in the shower's recess takes of its depth, mm."""
    return _cover(plan, "shower")


def pour_of(plan: Plan) -> Pour | None:
    """What is poured to make the floor true; None where it is made so otherwise, or not at all."""
    correction = plan.survey.correction
    return correction if isinstance(correction, Pour) else None


def _cover(plan: Plan, area: PourArea) -> float:
    pour = pour_of(plan)
    return pour.cover if pour is not None and pour.area in (area, "both") else 0.0


def room_build_up(plan: Plan) -> float:
    """The room's layers and what is poured under them, mm."""
    return thick(plan.room.layers) + pour_cover(plan)


def under_drain(plan: Plan) -> float | None:
    """Least thickness of bed or panels at the drain, mm, both lifts of a bed and the membrane
    between them; None for a tray."""
    former = former_of(plan.shower)
    return former.deep if former.measured_at == "drain" else None


def levels(plan: Plan, surface: Surface | None) -> Levels:
    """Stack the layers: room, entry, drain and the base that carries bed, panels or tray, or the
    pour under them.

    Parameters
    ----------
    plan : Plan
    surface : Surface or None
        The finished floor; without one the floor is taken as having no drop.

    Notes
    -----
    ``room = Σ room layers + cover of a pour``, ``entry = room − set-down``, and in a wet room of
    two zones less how far the rest falls to the zone; ``drain = entry − drop``; for bed or panels
    ``base = drain − shower layers − least thickness``, of a bed in two lifts both, the membrane
    between them and what keeps the upper one nowhere thinner; for a tray
    ``base = entry − rise of its extension − shower layers − tray edge thickness + how far it is
    packed up``; all less the cover of a pour in the shower. Where the room's floor is down already
    its level takes the place of the layers. Layers are
    stacked plumb: at a fall of 1:24 a layer measured square to the slope is 0.1 % thicker plumb,
    which is left out.
    """
    room = room_build_up(plan) if plan.room.laid is None else plan.room.laid
    datum = room if plan.shower.rest else room - plan.shower.set_down
    entry = datum + (surface.edge if surface else 0.0)
    drain = datum - (surface.drop if surface else 0.0)
    former = former_of(plan.shower)
    if former.measured_at == "edge":
        top = entry - (surface.extended if surface else 0.0)
    else:
        top = drain - (thicker_at_drain(plan, surface) if surface else 0.0)
    base = top - shower_layers(plan) - former.deep + former.raised - shower_pour(plan)
    return Levels(datum=datum, room=room, entry=entry, drain=drain, base=base)


def lowest_layer(plan: Plan) -> float:
    """How thick the room's lowest layer is at the level that the floor starts from, mm; of a floor
    that is down already what its level leaves under the layers above."""
    layers = [layer.thickness for layer in plan.room.layers]
    if plan.room.laid is not None:
        return plan.room.laid - sum(layers[:-1])
    return layers[-1] if layers else 0.0


def rest_thickness(plan: Plan, surface: Surface) -> float:
    """What is left of the room's lowest layer where the rest of a wet room lies lowest, mm.

    That layer takes up the rest's fall; where nothing is left the floor under it is in the way.
    """
    return lowest_layer(plan) + min(
        (float(f.corners[:, 2].min()) for f in surface.zone("rest")), default=0.0
    )


def depth_left(plan: Plan, surface: Surface) -> float:
    """Depth, in mm, that is over beyond what is needed; below 0 it is short."""
    return depth_available(plan) - levels(plan, surface).recess


def depth_available(plan: Plan) -> float:
    """Depth, in mm, that can be had without touching structure."""
    return carrier_of(plan).gives
