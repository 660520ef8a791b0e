"""Changes that find depth: each is one trade of the build-up, for as much as is wanted."""

from __future__ import annotations

from typing import Any

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.falls.cures import Asked, ask_for, raised_by, raised_layers
from calm_basin.core.falls.drains import channel_along
from calm_basin.core.kinds import former_of
from calm_basin.plan.layers import Layer
from calm_basin.tolerances import ROUNDED


def fit_depth(case: Case, shortfall: float) -> list[Cure | None]:
    """Changes that each find a missing depth, mm, least trouble first."""
    bed = former_of(case.plan.shower).cast
    return [
        flatter(case, shortfall),
        channel_along(case.plan, "entry") if bed else None,
        thinner_layers(case, shortfall),
        raised_room(case, shortfall, ", if the bathroom door allows it"),
        thinner_bed(case, shortfall),
        set_lower(case, shortfall),
    ]


def flatter(case: Case, by: float) -> Cure | None:
    """A bed that falls less, so that the floor drops less by so much, mm."""
    plan, drop = case.plan, case.surface.drop + case.surface.edge
    if not former_of(plan.shower).cast or not ROUNDED < by < drop:
        return None
    asked = plan.shower.built_fall * (drop - by) / drop
    return ask_for(case.words, asked, Asked.of(plan), steeper=False)


def raised_room(case: Case, by: float, condition: str = "") -> Cure:
    """The rest of the room raised by so much, mm, or by what boards are sold that is more."""
    high = raised_by(case.plan, case.words, by)
    return Cure(
        text=f"Raise the room's floor {case.words.length(high)}{condition}",
        changes=(Change(path="/room/layers", value=raised_layers(case.plan, high)),),
    )


def thinner_bed(case: Case, by: float, least: float = 0.0) -> Cure | None:
    """A bed that is thinner at the drain by so much, mm, or as thin as its ``least``."""
    former, words = former_of(case.plan.shower).bed, case.words
    if former is None:
        return None
    left = max(former.least_thickness - words.up(by), least)
    if left <= 0 or left > former.least_thickness - ROUNDED:
        return None
    return Cure(
        text=f"Lay the bed {words.length(former.least_thickness - left)} thinner, if its maker "
        f"allows {words.length(left, 'down')} at the drain",
        changes=(Change(path="/shower/former/least_thickness", value=round(left, 4)),),
    )


def set_lower(case: Case, by: float) -> Cure:
    """A shower that lies lower at its entry by so much, mm."""
    set_down = case.plan.shower.set_down + case.words.up(by)
    return Cure(
        text=f"Let the shower lie {case.words.length(set_down)} below the room at the entry",
        changes=(Change(path="/shower/set_down", value=set_down),),
    )


def spare(layer: Layer) -> float:
    """What a layer is thicker than its kind has to be, mm."""
    return 0.0 if layer.least is None else max(layer.thickness - layer.least, 0.0)


def thinner_layers(case: Case, by: float, only: int | None = None) -> Cure | None:
    """The shower's layers, or ``only`` one of them, as thin as their kinds usually get, until so
    much is found, mm; None where that is less than is shown on site."""
    rows: list[dict[str, Any]] = []
    left, names = by, []
    for i, layer in enumerate(case.plan.shower.layers):
        row = layer.model_dump(mode="json")
        off = min(spare(layer), max(left, 0.0)) if only in (None, i) else 0.0
        if off > ROUNDED:
            row["thickness"] = round(layer.thickness - off, 4)
            names.append(f"{layer.name} {case.words.length(row['thickness'])}")
            left -= off
        rows.append(row)
    if by - left < min(case.words.display.step, by) - ROUNDED:
        return None
    return Cure(
        text=f"Thinner in the shower: {', '.join(names)}",
        changes=(Change(path="/shower/layers", value=rows),),
    )
