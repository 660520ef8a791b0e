"""The cheapest next millimetres of depth."""

from __future__ import annotations

from collections.abc import Iterator, Sequence

from calm_basin.core.answer.case import Case, Check
from calm_basin.core.answer.result import Cure, Finding
from calm_basin.core.depth.cures import (
    flatter,
    raised_room,
    set_lower,
    spare,
    thinner_bed,
    thinner_layers,
)
from calm_basin.core.depth.result import NextStep
from calm_basin.core.geometry.levels import depth_left
from calm_basin.core.kinds.bed import bed_form
from calm_basin.core.trying import tried
from calm_basin.tolerances import ROUNDED

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
        if gives > ROUNDED:
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
    plan = case.plan
    yield flatter(case, wanted), "only the gauge is another"
    for i, layer in enumerate(plan.shower.layers):
        if spare(layer) > ROUNDED:
            cure = thinner_layers(case, min(wanted, spare(layer)), only=i)
            yield cure, "still as thick as its kind usually is"
    form = bed_form(plan.system)
    least = 0.0 if form is None else form.least_thickness
    yield thinner_bed(case, wanted, least), "another gauge, where the product's text allows it"
    yield set_lower(case, wanted), "a step that the rules allow"
    yield raised_room(case, wanted), "boards over the whole room"
