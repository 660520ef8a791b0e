"""The cheapest next millimetres of depth."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import ceil

from calm_basin.core.answer.case import Case, Check
from calm_basin.core.answer.result import Change, Cure, Finding
from calm_basin.core.answer.words import Words
from calm_basin.core.depth.result import NextStep
from calm_basin.core.falls.cures import Asked, ask_for, raised_layers
from calm_basin.core.geometry.levels import depth_left
from calm_basin.core.trying import tried
from calm_basin.plan import Plan
from calm_basin.plan.room import Layer
from calm_basin.plan.shower import MortarBed
from calm_basin.plan.system import BedForm

NOTHING = 1e-6
"""A depth that is smaller, mm, is rounding."""

MOST = 4


def cheapest(case: Case, checks: Sequence[Check], found: Sequence[Finding]) -> tuple[NextStep, ...]:
    """Changes for what is short, or for the next step that is shown on site, the cheapest first:
    what is only set otherwise, what is chosen otherwise, what is built otherwise. Each was made on
    the plan and opens no stop."""
    words, before = case.words, depth_left(case.plan, case.surface)
    wanted = max(-before, words.display.step)
    told = []
    for cure, why in _candidates(case, wanted):
        mended = cure and tried(case, checks, cure, found)
        if not cure or not mended:
            continue
        gives = depth_left(mended.plan, mended.surface) - before
        if gives > NOTHING:
            told.append(
                NextStep(
                    text=cure.text,
                    gives=gives,
                    gives_text=words.length(gives, "down"),
                    why=why,
                    changes=cure.changes,
                )
            )
    return tuple(told[:MOST])


def _candidates(case: Case, wanted: float) -> Iterator[tuple[Cure | None, str]]:
    plan, words, former = case.plan, case.words, case.plan.shower.former
    step = words.display.step
    whole = ceil(wanted / step - NOTHING) * step
    drop = case.surface.drop + case.surface.edge
    if isinstance(former, MortarBed) and drop > wanted:
        asked = plan.shower.built_fall * (drop - wanted) / drop
        yield ask_for(words, asked, Asked.of(plan), steeper=False), "only the gauge is another"
    for i, layer in enumerate(plan.shower.layers):
        spare = _spare(layer)
        if spare >= step:
            thickness = max(layer.thickness - whole, layer.least or 0.0)
            yield (
                Cure(
                    text=f"Take {layer.name} {words.length(layer.thickness - thickness)} thinner",
                    changes=(
                        Change(path=f"/shower/layers/{i}/thickness", value=round(thickness, 4)),
                    ),
                ),
                f"still as thick as its kind is: {words.length(thickness)}",
            )
    if isinstance(former, MortarBed):
        form = plan.system.former if plan.system else None
        least = form.least_thickness if isinstance(form, BedForm) else 0.0
        thinner = max(former.least_thickness - whole, least)
        if thinner > 0 and thinner < former.least_thickness - NOTHING:
            yield _thinner_bed(words, former.least_thickness - thinner, thinner)
    set_down = plan.shower.set_down + whole
    yield (
        Cure(
            text=f"Let the shower lie {words.length(set_down)} below the room at the entry",
            changes=(Change(path="/shower/set_down", value=set_down),),
        ),
        "a step that the rules allow",
    )
    yield (
        Cure(
            text=f"Raise the room's floor {words.length(whole)}",
            changes=(Change(path="/room/layers", value=raised_layers(plan, whole)),),
        ),
        "boards over the whole room",
    )


def _thinner_bed(words: Words, by: float, left: float) -> tuple[Cure, str]:
    return (
        Cure(
            text=f"Lay the bed {words.length(by)} thinner",
            changes=(Change(path="/shower/former/least_thickness", value=round(left, 4)),),
        ),
        f"if its maker allows {words.length(left, 'down')} at the drain",
    )


def _spare(layer: Layer) -> float:
    """What a layer is thicker than its kind has to be, mm."""
    return 0.0 if layer.least is None else max(layer.thickness - layer.least, 0.0)


def thinner_layers(plan: Plan, wanted: float, step: float) -> Cure | None:
    """The shower's layers as thin as their kinds usually get, until ``wanted`` mm are found; None
    where that is less than a ``step`` that is shown on site."""
    layers, left = list(plan.shower.layers), wanted
    for i, layer in enumerate(layers):
        by = min(_spare(layer), max(left, 0.0))
        if by > NOTHING:
            thinner = round(layer.thickness - by, 4)
            layers[i] = layer.model_copy(update={"thickness": thinner})
            left -= by
    if wanted - left < min(step, wanted) - NOTHING:
        return None
    names = [
        new.name
        for new, old in zip(layers, plan.shower.layers, strict=True)
        if new.thickness < old.thickness
    ]
    return Cure(
        text=f"Thinner in the shower: {', '.join(names)}",
        changes=(
            Change(
                path="/shower/layers",
                value=[layer.model_dump(mode="json") for layer in layers],
            ),
        ),
    )
