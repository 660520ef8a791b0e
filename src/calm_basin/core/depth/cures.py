"""Changes that find a missing depth."""

from __future__ import annotations

from math import ceil

from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.cures import Asked, ask_for, raised_layers
from calm_basin.core.falls.drains import channel_along
from calm_basin.core.geometry.surface import Surface
from calm_basin.plan import Plan
from calm_basin.plan.shower import (
    MortarBed,
)


def fit_depth(plan: Plan, words: Words, shortfall: float, surface: Surface) -> list[Cure | None]:
    """Changes that each find a missing depth, least trouble first.

    ``shortfall`` is in mm; lengths are rounded up to what is shown on site.
    """
    step = words.display.step
    whole = ceil(shortfall / step - 1e-6) * step
    former = plan.shower.former
    candidates: list[Cure | None] = []
    if isinstance(former, MortarBed):
        drop = surface.drop + surface.edge
        if drop > shortfall:
            asked = plan.shower.built_fall * (drop - shortfall) / drop
            candidates.append(ask_for(words, asked, Asked.of(plan), steeper=False))
        candidates.append(channel_along(plan, "entry"))
    candidates.append(
        Cure(
            text=f"Raise the room's floor {words.length(whole)}, if the bathroom door allows it",
            changes=(Change(path="/room/layers", value=raised_layers(plan, whole)),),
        )
    )
    if isinstance(former, MortarBed) and former.least_thickness - whole > 0:
        thinner = former.least_thickness - whole
        candidates.append(
            Cure(
                text=f"Lay the bed {words.length(whole)} thinner, if its maker allows "
                f"{words.length(thinner, 'down')} at the drain",
                changes=(Change(path="/shower/former/least_thickness", value=thinner),),
            )
        )
    set_down = plan.shower.set_down + whole
    candidates.append(
        Cure(
            text=f"Let the shower lie {words.length(set_down)} below the room at the entry",
            changes=(Change(path="/shower/set_down", value=set_down),),
        )
    )
    return candidates
