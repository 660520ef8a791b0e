"""Findings: the solved floor held against the rule set and against itself."""

from __future__ import annotations

import numpy as np

from calm_basin.core.buildup import Levels, depth_available
from calm_basin.core.cures import (
    ask_for,
    bring_drain_inside,
    channel_along,
    keeps,
    move_drain,
    offered,
    step_of,
    within,
)
from calm_basin.core.falls import NoSurfaceError, end_gaps, ring_of
from calm_basin.core.solution import Change, Cure, Finding, Place, Severity
from calm_basin.core.surface import Facet, Surface
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.plan.model import JoistFloor, LinearDrain, MortarBed, Tray
from calm_basin.rules import Limit, RuleSet

GEOMETRY = "Geometry of the plan"
ORDER: dict[Severity, int] = {"stop": 0, "caution": 1, "note": 2}


def no_surface(plan: Plan, words: Words, reason: NoSurfaceError) -> Finding:
    """Why the falls cannot be worked out, and what would let them be."""
    cures: list[Cure | None] = []
    if reason.code == "drain_outside":
        title = "The drain reaches outside the shower"
        detail = f"{reason} Its whole rim has to lie inside, clear of the walls."
        cures.append(bring_drain_inside(plan, words))
    else:
        title = "A wall hides part of the shower from the drain"
        detail = str(reason)
    cures.append(channel_along(plan, "back"))
    return unmeasured(
        reason.code,
        "stop",
        title,
        detail,
        applies_to="the whole floor",
        source=GEOMETRY,
        field="/shower/drain",
        cures=offered(plan, cures, lambda _plan, _surface: True),
    )


def unmeasured(
    code: str,
    severity: Severity,
    title: str,
    detail: str,
    *,
    applies_to: str,
    source: str,
    field: str,
    cures: tuple[Cure, ...] = (),
) -> Finding:
    """A finding that holds no measure against a limit."""
    return Finding(
        code=code,
        severity=severity,
        title=title,
        detail=detail,
        measured=None,
        measured_text="",
        limit=None,
        limit_text="",
        unit="mm",
        applies_to=applies_to,
        source=source,
        field=field,
        cures=cures,
    )


def findings(
    plan: Plan,
    rules: RuleSet,
    words: Words,
    surface: Surface,
    levels: Levels,
    depth_cures: tuple[Cure, ...],
) -> list[Finding]:
    """Everything of the shower that is broken or has to be known."""
    return [
        *_recess(plan, rules, words, levels, depth_cures),
        *_falls(plan, rules, words, surface),
        *_fold_lines(plan, rules, words, surface),
        *_entry(plan, rules, words, surface),
        *_channel(plan, rules, words, surface),
        *_tray(plan, words, surface),
    ]


def in_order(found: list[Finding]) -> tuple[Finding, ...]:
    """The gravest first."""
    return tuple(sorted(found, key=lambda finding: ORDER[finding.severity]))


def _severity(limit: Limit) -> Severity:
    return "stop" if limit.weight == "required" else "caution"


def label_point(facet: Facet) -> tuple[float, float]:
    """A place well inside a plane, for its label."""
    place = facet.polygon.centroid
    if not facet.polygon.contains(place):
        place = facet.polygon.representative_point()
    return (place.x, place.y)


def broken_limit(rules: RuleSet, gradient: float) -> Severity | None:
    """The gravest severity with which a gradient breaks the rule set's limits."""
    broken = [_severity(limit) for limit in rules.on("shower_fall") if not within(limit, gradient)]
    return min(broken, key=ORDER.__getitem__, default=None)


def _listed(names: list[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def _falls(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    found = []
    least = next((x for x in rules.on("shower_fall") if x.binds == "at_least"), None)
    for limit in rules.on("shower_fall"):
        planes = [f for f in surface.facets if f.run > 0 and not within(limit, f.gradient)]
        if not planes:
            continue
        steep = limit.binds == "at_most"
        pick = max if steep else min
        worst = pick(planes, key=lambda facet: facet.gradient)
        flattest = min(f.gradient for f in surface.facets if f.run > 0)
        steepest = max(f.gradient for f in surface.facets if f.run > 0)
        scale = limit.value / (steepest if steep else flattest)
        number = "plane is" if len(planes) == 1 else "planes are"
        names = _listed([f.name for f in planes])
        off = abs(worst.gradient - limit.value) * worst.run
        candidates = [
            None if steep else ask_for(plan, words, limit.value, steeper=True),
            ask_for(plan, words, plan.shower.fall.asked * scale, steeper=not steep),
            move_drain(plan, words, rules, limit),
            channel_along(plan, "back"),
            channel_along(plan, "back", words, least.value) if least else None,
        ]
        found.append(
            Finding(
                code="fall_over_most" if steep else "fall_under_least",
                severity=_severity(limit),
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
                field="/shower/fall/asked",
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
                cures=offered(plan, candidates, keeps(rules, limit)),
            )
        )
    return found


def _fold_lines(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    """Water gathers in the folds: the plane-run school leaves them flatter than asked."""
    if isinstance(plan.shower.drain, LinearDrain):
        return []
    found = []
    for limit in rules.on("shower_fall"):
        if limit.binds != "at_least":
            continue
        flat = [fold for fold in surface.folds if not within(limit, fold.gradient)]
        planes_keep = all(within(limit, f.gradient) for f in surface.facets if f.run > 0)
        if not flat or not planes_keep:
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
                    [*schools, ask_for(plan, words, steeper, steeper=True)],
                    lambda _plan, floor, limit=limit: all(  # type: ignore[misc]
                        within(limit, fold.gradient) for fold in floor.folds
                    ),
                ),
            )
        )
    return found


def _entry(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    step = step_of(plan, surface)
    over = [limit for limit in rules.on("entry_step") if step > limit.value + 1e-6]
    if not over:
        return []
    limit = max(over, key=lambda item: item.value)
    falling = step - plan.shower.set_down
    allowed = max(limit.value - falling, 0.0)
    why = (
        f" The entry edge itself falls {words.length(falling)} towards the drain, because the "
        "channel does not run along it."
        if falling > 0.05
        else ""
    )
    candidates = [
        Cure(
            text=f"Set the shower down only {words.length(allowed)}",
            changes=(Change(path="/shower/set_down", value=allowed),),
        ),
        channel_along(plan, "back") if falling > 0.05 else None,
    ]
    ring = ring_of(plan.shower)
    middle = ring.edge(min(ring.entries)).mean(axis=0)
    return [
        Finding(
            code="step_over_limit",
            severity=_severity(limit),
            title=f"Step of {words.length(step, 'up')} at the entry",
            detail=f"At most {words.length(limit.value, 'down')} for {limit.applies_to}, so "
            f"{words.length(step - limit.value, 'up')} too much.{why} {limit.note}".strip(),
            measured=step,
            measured_text=words.length(step, "up"),
            limit=limit.value,
            limit_text=f"at most {words.length(limit.value, 'down')}",
            unit="mm",
            applies_to=limit.applies_to,
            source=limit.source,
            field="/shower/set_down",
            places=(
                Place(
                    name="entry",
                    x=float(middle[0]),
                    y=float(middle[1]),
                    measured=step,
                    text=words.length(step, "up"),
                ),
            ),
            cures=offered(
                plan,
                candidates,
                lambda mended, floor: step_of(mended, floor) <= limit.value + 1e-6,
            ),
        )
    ]


def _recess(
    plan: Plan, rules: RuleSet, words: Words, levels: Levels, cures: tuple[Cure, ...]
) -> list[Finding]:
    available = depth_available(plan)
    missing = levels.recess - available
    if missing <= 1e-6:
        return []
    common = {
        "measured": levels.recess,
        "measured_text": words.length(levels.recess, "up"),
        "limit": available,
        "unit": "mm",
        "field": "/shower/former",
        "cures": cures,
    }
    if isinstance(plan.floor, JoistFloor):
        return [
            Finding(
                code="recess_over_available",
                severity="stop",
                title=f"The recess is {words.length(missing, 'up')} short",
                detail=f"{words.length(levels.recess, 'up')} are needed; lifting the deck between "
                f"the joists gives {words.length(available, 'down')}. The joists are structure: "
                "going deeper is for an engineer.",
                limit_text=f"the deck gives {words.length(available, 'down')}",
                applies_to="the floor's structure",
                source="Common practice, no source",
                **common,
            )
        ]
    return [
        Finding(
            code="slab_to_be_cut",
            severity="caution",
            title=f"The slab has to be cut {words.length(levels.recess, 'up')} deep",
            detail="Never without a scan: stressed cables, heating pipes and the damp-proof "
            f"membrane may lie in it. {rules.deference}",
            limit_text="nothing without a scan",
            applies_to="the slab",
            source="Common practice, no source",
            **common,
        )
    ]


def _channel(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    drain = plan.shower.drain
    if not isinstance(drain, LinearDrain):
        return []
    found = []
    ring = ring_of(plan.shower)
    for limit in rules.on("channel_gap"):
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
                severity=_severity(limit),
                title=f"The channel stops {words.length(worst.measured)} short of its wall",
                detail=f"Beside the {_listed([place.name for place in short])} lies a strip that "
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
                cures=offered(plan, [longer], lambda _plan, floor: True),
            )
        )
    return found


def _tray(plan: Plan, words: Words, surface: Surface) -> list[Finding]:
    former = plan.shower.former
    if not isinstance(former, Tray) or former.edge_thickness > surface.drop:
        return []
    flat = plan.shower.fall.asked * former.edge_thickness / surface.drop * 0.5
    bed = MortarBed(least_thickness=12.0)
    return [
        Finding(
            code="tray_too_thin",
            severity="stop",
            title="The tray is thinner than its fall",
            detail=f"Its edge is {words.length(former.edge_thickness)} thick, but the floor drops "
            f"{words.length(surface.drop)} to the drain: nothing is left under it.",
            measured=former.edge_thickness,
            measured_text=words.length(former.edge_thickness),
            limit=surface.drop,
            limit_text=f"more than {words.length(surface.drop)}",
            unit="mm",
            applies_to="the tray",
            source=GEOMETRY,
            field="/shower/former/edge_thickness",
            cures=offered(
                plan,
                [
                    ask_for(plan, words, flat, steeper=False),
                    Cure(
                        text="Lay a setting bed instead",
                        changes=(Change(path="/shower/former", value=bed.model_dump(mode="json")),),
                    ),
                ],
                lambda mended, floor: (
                    not isinstance(mended.shower.former, Tray)
                    or mended.shower.former.edge_thickness > floor.drop
                ),
            ),
        )
    ]
