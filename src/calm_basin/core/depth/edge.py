"""The edge of a step at the entry: what of it stands upright, and how steep its bevel is."""

from __future__ import annotations

from calm_basin.core.answer.build import asked_of, off_limit
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.depth.findings import less_step
from calm_basin.core.depth.thresholds import bevel_fall, entry_edge
from calm_basin.rules import Limit


def edge(case: Case) -> list[Found]:
    """An edge that is too high to be upright, and a bevel that is too steep."""
    there = entry_edge(case.plan, case.surface)
    # A step over its own limit is told as one: a bevel does not make it lower.
    if any(abs(there.rise) > limit.value + 1e-6 for limit in case.rules.on("entry_step")):
        return []
    found = [
        _upright(case, -there.rise, there.upright, limit)
        for limit in case.rules.on("edge_upright")
        if there.upright > limit.value + 1e-6
    ]
    found += [
        _steep(case, there.slope, there.sloped, limit)
        for limit in case.rules.on("edge_bevel")
        if there.slope > limit.value * (1 + 1e-6)
    ]
    return found


def _bevelled(case: Case, sloped: float) -> Cure:
    """A bevel that takes up so much, no steeper than the rules allow, or than is usual."""
    words = case.words
    high = words.up(sloped)
    run = words.up(high / bevel_fall(case.rules))
    return Cure(
        text=f"Bevel the edge: {words.length(high)} of it over {words.length(run)}",
        changes=(Change(path="/shower/bevel", value={"height": high, "run": run}),),
    )


def _upright(case: Case, step: float, upright: float, limit: Limit) -> Found:
    words, there = case.words, case.plan.shower.bevel
    way = "down" if step > 0 else "up"
    whole = abs(step) - upright < 1e-6
    shown = "upright" if whole else f"{words.length(upright, 'up')} of it upright"
    finding = off_limit(
        words,
        limit,
        code="edge_too_upright",
        title=f"{words.length(abs(step), 'up')} step {way} at the entry, {shown}",
        detail=f"No more than {words.limit(limit.value)} is {asked_of(limit)}.",
        value=upright,
        field="/shower/set_down",
    )
    sloped = upright - limit.value + (there.height if there is not None else 0.0)
    most = limit.value + (abs(step) - upright)
    return Found(finding, lambda: [*less_step(case, step, most), _bevelled(case, sloped)])


def _steep(case: Case, slope: float, sloped: float, limit: Limit) -> Found:
    words = case.words
    finding = off_limit(
        words,
        limit,
        code="bevel_too_steep",
        title=f"Bevel at the entry too steep: {words.fall_off(slope, limit.value)}, limit "
        f"{words.fall_limit(limit.value)}",
        detail=f"No more than {words.fall_limit(limit.value)} is {asked_of(limit)}.",
        value=slope,
        field="/shower/set_down",
    )
    return Found(finding, lambda: [_bevelled(case, sloped)])
