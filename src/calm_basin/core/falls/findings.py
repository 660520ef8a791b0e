"""Planes, folds and channels held against the limits on falls."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from calm_basin.core.answer.build import asked_of, broken, listed, severity_of
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure, Place
from calm_basin.core.falls import end_gaps, ring_of
from calm_basin.core.falls.cures import (
    Asked,
    ask_for,
    bed_instead,
    even_fall,
    strips_of_their_own,
    thicker_panels,
)
from calm_basin.core.falls.drains import ChannelSide, channel_along, move_drain
from calm_basin.core.falls.limits import bound_by, breaking, fall_limits, fall_of, sloped, within
from calm_basin.core.falls.planes import gathering, label_point
from calm_basin.core.geometry.surface import Facet
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.plan import Plan
from calm_basin.rules import Limit

SIDES: tuple[ChannelSide, ...] = ("back", "left", "right", "entry")


def falls(case: Case) -> list[Found]:
    """Planes that are too steep or too flat, with where and by how much."""
    plan, rules, words, surface = case.plan, case.rules, case.words, case.surface
    found = []
    least = next((x for x in rules.on("shower_fall") if x.binds == "at_least"), None)
    for limit in fall_limits(rules):
        planes = _by_name(breaking(limit, surface))
        if not planes:
            continue
        bound = [fall_of(limit, f) for f in sloped(surface) if bound_by(limit, f)]
        asks = _asks_of(plan, planes[0])
        steep = limit.binds == "at_most"
        pick = max if steep else min
        worst = pick(planes, key=lambda facet, limit=limit: fall_of(limit, facet))  # type: ignore[misc]
        scale = limit.value / (max(bound) if steep else min(bound))
        names = listed([f.name for f in planes])
        fall = fall_of(limit, worst)
        off = abs(fall - limit.value) * worst.run

        def candidates(
            limit: Limit = limit, asks: Asked = asks, steep: bool = steep, scale: float = scale
        ) -> Iterator[Cure | None]:
            if plan.shower.bought:
                # Its falls are built in: nothing but another floor changes them.
                yield bed_instead()
                return
            if not steep:
                yield ask_for(words, limit.value, asks, steeper=True)
            yield ask_for(words, asks.fall * scale, asks, steeper=not steep)
            yield thicker_panels(plan, words, asks.fall * scale)
            yield even_fall(plan)
            yield from move_drain(plan, words, rules, limit)
            yield from (channel_along(plan, side) for side in SIDES)
            if least:
                yield from (channel_along(plan, side, words, least.value) for side in SIDES)
            if former_of(plan.shower).panels is not None:
                yield bed_instead()

        finding = broken(
            words,
            code="fall_over_most" if steep else "fall_under_least",
            severity=severity_of(limit),
            title=f"Fall too {'steep' if steep else 'flat'}: "
            f"{words.fall_off(fall, limit.value)}, limit {words.fall_limit(limit.value)}",
            detail=f"{'Plane' if len(planes) == 1 else f'{len(planes)} planes'}: {names}. "
            f"{'No more than' if steep else 'At least'} {words.fall_limit(limit.value)} is "
            f"{asked_of(limit)} for {limit.applies_to}; at worst that is "
            f"{words.length(off, 'up')} too {'much' if steep else 'little'} over the plane's run. "
            f"{limit.note}".strip(),
            value=fall,
            limit=limit.value,
            binds=limit.binds,
            unit="rise_per_run",
            applies_to=limit.applies_to,
            source=limit.source,
            field=asks.path,
            places=tuple(
                Place(
                    name=f.name,
                    x=label_point(f)[0],
                    y=label_point(f)[1],
                    measured=fall_of(limit, f),
                    text=words.fall_off(fall_of(limit, f), limit.value),
                )
                for f in planes
            ),
        )
        found.append(Found(finding, candidates))
    return found


def _by_name(facets: list[Facet]) -> list[Facet]:
    """One plane of each name: the narrow planes of a round part count as one."""
    return list({facet.name: facet for facet in facets}.values())


def _asks_of(plan: Plan, facet: Facet) -> Asked:
    return Asked.of(plan, facet.zone)


def fold_lines(case: Case) -> list[Found]:
    """Water gathers in the folds: the plane-run school leaves them flatter than asked."""
    plan, rules, words, surface = case.plan, case.rules, case.words, case.surface
    if drain_kind(plan.shower.drain).channel is not None or former_of(plan.shower).stated:
        return []
    found = []
    for limit in rules.on("shower_fall"):
        if limit.binds != "at_least":
            continue
        if breaking(limit, surface):
            continue
        flat = [fold for fold in gathering(surface) if not within(limit, fold.gradient)]
        if not flat:
            continue
        worst = min(flat, key=lambda fold: fold.gradient)
        by_corner = Cure(
            text="Measure the fall along the corner run",
            changes=(Change(path="/shower/fall/measured", value="corner_run"),),
        )
        schools = [by_corner] if plan.shower.fall.measured == "plane_run" else []
        gradient = max(worst.gradient, 1e-6)
        steeper = plan.shower.built_fall * limit.value / gradient
        finding = broken(
            words,
            code="fold_under_least",
            severity="caution",
            title=f"Folds too flat: {words.fall_off(worst.gradient, limit.value)}, "
            f"limit {words.fall_limit(limit.value)}",
            detail="The planes themselves keep the limit, but water gathers in the folds between "
            "them and runs off slowly there.",
            value=worst.gradient,
            limit=limit.value,
            binds="at_least",
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
        )
        found.append(
            Found(
                finding,
                lambda schools=schools, steeper=steeper: [  # type: ignore[misc]
                    *schools,
                    ask_for(words, steeper, Asked.of(plan), steeper=True),
                ],
            )
        )
    return found


def channel(case: Case) -> list[Found]:
    """Channels that stop short of their wall."""
    plan, rules, words = case.plan, case.rules, case.words
    drain = drain_kind(plan.shower.drain).channel
    if drain is None:
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
        finding = broken(
            words,
            code="channel_short",
            severity=severity_of(limit),
            title=f"Channel {words.length(worst.measured)} short of its wall",
            detail=f"Beside the {listed([place.name for place in short])} lies a strip that "
            "is level as drawn: water stands there unless it gets a fall of its own.",
            value=worst.measured,
            shown=words.length(worst.measured),
            limit=limit.value,
            applies_to=limit.applies_to,
            source=limit.source,
            field="/shower/drain/start" if short[0].x == drain.start[0] else "/shower/drain/end",
            places=tuple(short),
        )
        found.append(
            Found(finding, lambda longer=longer: [longer, strips_of_their_own(plan, words)])  # type: ignore[misc]
        )
    return found
