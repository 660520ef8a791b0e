"""Planes, folds and channels held against the limits on falls."""

from __future__ import annotations

import numpy as np

from calm_basin.core.cures import (
    Asked,
    ChannelSide,
    ask_for,
    bound_by,
    breaking,
    channel_along,
    even_fall,
    fall_limits,
    mends,
    move_drain,
    offered,
    sloped,
    strips_of_their_own,
    within,
)
from calm_basin.core.falls import end_gaps, ring_of
from calm_basin.core.findings.common import (
    gathering,
    label_point,
    listed,
    severity_of,
)
from calm_basin.core.solution import Change, Cure, Finding, Place
from calm_basin.core.surface import Facet, Surface
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.plan.model import LinearDrain
from calm_basin.rules import RuleSet

SIDES: tuple[ChannelSide, ...] = ("back", "left", "right", "entry")


def falls(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    """Planes that are too steep or too flat, with where and by how much."""
    found = []
    least = next((x for x in rules.on("shower_fall") if x.binds == "at_least"), None)
    for limit in fall_limits(rules):
        planes = _by_name(breaking(limit, surface))
        if not planes:
            continue
        bound = [f.gradient for f in sloped(surface) if bound_by(limit, f)]
        asks = _asks_of(plan, planes[0])
        steep = limit.binds == "at_most"
        pick = max if steep else min
        worst = pick(planes, key=lambda facet: facet.gradient)
        scale = limit.value / (max(bound) if steep else min(bound))
        number = "plane is" if len(planes) == 1 else "planes are"
        names = listed([f.name for f in planes])
        off = abs(worst.gradient - limit.value) * worst.run
        candidates = [
            None if steep else ask_for(words, limit.value, asks, steeper=True),
            ask_for(words, asks.fall * scale, asks, steeper=not steep),
            even_fall(plan),
            move_drain(plan, words, rules, limit),
            *(channel_along(plan, side) for side in SIDES),
            *(channel_along(plan, side, words, least.value) for side in SIDES if least),
        ]
        found.append(
            Finding(
                code="fall_over_most" if steep else "fall_under_least",
                severity=severity_of(limit),
                title=f"{len(planes)} {number} too {'steep' if steep else 'flat'} "
                f"for {limit.applies_to}",
                detail=f"The {names} {'plane falls' if len(planes) == 1 else 'planes fall'} "
                f"{words.fall(worst.gradient)}{'' if len(planes) == 1 else ' at worst'}; at "
                f"{'most' if steep else 'least'} {words.fall(limit.value)} is "
                f"{'asked' if limit.weight == 'required' else 'advised'}. Over its run that is "
                f"{words.length(off)} too {'much' if steep else 'little'}. {limit.note}".strip(),
                measured=worst.gradient,
                measured_text=words.fall(worst.gradient),
                limit=limit.value,
                limit_text=f"at {'most' if steep else 'least'} {words.fall(limit.value)}",
                unit="rise_per_run",
                applies_to=limit.applies_to,
                source=limit.source,
                field=asks.path,
                places=tuple(
                    Place(
                        name=f.name,
                        x=label_point(f)[0],
                        y=label_point(f)[1],
                        measured=f.gradient,
                        text=words.fall(f.gradient),
                    )
                    for f in planes
                ),
                cures=offered(plan, candidates, mends(rules, limit, surface)),
            )
        )
    return found


def _by_name(facets: list[Facet]) -> list[Facet]:
    """One plane of each name: the narrow planes of a round part count as one."""
    return list({facet.name: facet for facet in facets}.values())


def _asks_of(plan: Plan, facet: Facet) -> Asked:
    return Asked.of(plan, facet.zone)


def fold_lines(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    """Water gathers in the folds: the plane-run school leaves them flatter than asked."""
    if isinstance(plan.shower.drain, LinearDrain):
        return []
    found = []
    for limit in rules.on("shower_fall"):
        if limit.binds != "at_least":
            continue
        flat = [fold for fold in gathering(surface) if not within(limit, fold.gradient)]
        if not flat or breaking(limit, surface):
            continue
        worst = min(flat, key=lambda fold: fold.gradient)
        by_corner = Cure(
            text="Measure the fall along the corner run",
            changes=(Change(path="/shower/fall/measured", value="corner_run"),),
        )
        schools = [by_corner] if plan.shower.fall.measured == "plane_run" else []
        steeper = plan.shower.fall.asked * limit.value / worst.gradient
        found.append(
            Finding(
                code="fold_under_least",
                severity="caution",
                title="Too flat along the folds",
                detail=f"The planes keep {words.fall(limit.value)}, but the folds in which the "
                f"water gathers fall only {words.fall(worst.gradient)}.",
                measured=worst.gradient,
                measured_text=words.fall(worst.gradient),
                limit=limit.value,
                limit_text=f"at least {words.fall(limit.value)}",
                unit="rise_per_run",
                applies_to=limit.applies_to,
                source=limit.source,
                field="/shower/fall/measured",
                places=tuple(
                    Place(
                        name="fold",
                        x=(fold.start[0] + fold.end[0]) / 2,
                        y=(fold.start[1] + fold.end[1]) / 2,
                        measured=fold.gradient,
                        text=words.fall(fold.gradient),
                    )
                    for fold in flat
                ),
                cures=offered(
                    plan,
                    [*schools, ask_for(words, steeper, Asked.of(plan), steeper=True)],
                    lambda _plan, floor, limit=limit: all(  # type: ignore[misc]
                        within(limit, fold.gradient) for fold in gathering(floor)
                    ),
                ),
            )
        )
    return found


def channel(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    """Channels that stop short of their wall."""
    drain = plan.shower.drain
    if not isinstance(drain, LinearDrain):
        return []
    found = []
    ring = ring_of(plan.shower)
    for limit in rules.on("channel_gap"):
        if drain.strips:
            break
        ends = [drain.start, drain.end]
        gaps = end_gaps(ring, drain)
        short = [
            Place(name=f"{side} end", x=end[0], y=end[1], measured=gap, text=words.length(gap))
            for (side, gap), end in zip(gaps, ends, strict=True)
            if gap > limit.value + 1e-6
        ]
        if not short:
            continue
        worst = max(short, key=lambda place: place.measured)
        along = np.array(drain.end) - np.array(drain.start)
        along = along / np.linalg.norm(along)
        start = np.array(drain.start) - along * gaps[0][1]
        end = np.array(drain.end) + along * gaps[1][1]
        longer = Cure(
            text=f"Make the channel {words.length(float(np.linalg.norm(end - start)))} long, "
            "wall to wall",
            changes=(
                Change(path="/shower/drain/start", value=[float(v) for v in start]),
                Change(path="/shower/drain/end", value=[float(v) for v in end]),
            ),
        )
        found.append(
            Finding(
                code="channel_short",
                severity=severity_of(limit),
                title=f"The channel stops {words.length(worst.measured)} short of its wall",
                detail=f"Beside the {listed([place.name for place in short])} lies a strip that "
                "is level as drawn: water stands there unless it gets a fall of its own.",
                measured=worst.measured,
                measured_text=words.length(worst.measured),
                limit=limit.value,
                limit_text=f"at most {words.length(limit.value)}",
                unit="mm",
                applies_to=limit.applies_to,
                source=limit.source,
                field="/shower/drain/start"
                if short[0].x == drain.start[0]
                else "/shower/drain/end",
                places=tuple(short),
                cures=offered(
                    plan,
                    [longer, strips_of_their_own(plan, words)],
                    lambda _plan, floor: not any(facet.level for facet in floor.facets),
                ),
            )
        )
    return found
