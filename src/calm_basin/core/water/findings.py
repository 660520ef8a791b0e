"""Findings on the way out of the water."""

from __future__ import annotations

from calm_basin.core.answer.build import broken
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.water.pipes import capacities, flow_of


def capacity(case: Case) -> list[Found]:
    """Shower heads that give more than the way out takes."""
    water = case.plan.water
    flow = flow_of(water)
    over = [
        way
        for way in capacities(water, case.words, table=case.rules.waste_table == "ipc")
        if not way.enough
    ]
    if not over:
        return []
    least = min(over, key=lambda way: way.carries)
    finding = broken(
        case.words,
        code="flow_over_capacity",
        severity="stop",
        title=f"Too much water: the heads give {case.words.flow(flow)}, limit {least.text}",
        detail=f"{least.name} is the narrowest part. Water rises on the floor as soon as all "
        f"heads run. {least.working.note} A licensed plumber decides on pipe and trap.".strip(),
        value=flow,
        shown=case.words.flow(flow),
        limit=least.carries,
        asked=f"no more than {least.text}",
        unit="litre_per_minute",
        applies_to="drain and waste pipe",
        source=least.working.source,
        field="/water/heads",
    )
    return [Found(finding)]
