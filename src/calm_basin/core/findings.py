"""Findings: the solved floor held against the rule set and against itself."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import LineString, Point

from calm_basin.core.buildup import Levels, depth_available
from calm_basin.core.cures import (
    Asked,
    ChannelSide,
    ask_for,
    bound_by,
    breaking,
    bring_drain_inside,
    channel_along,
    cut_elsewhere,
    even_fall,
    fall_limits,
    mends,
    move_drain,
    offered,
    pack_tray,
    point_instead,
    second_drain,
    sloped,
    step_of,
    strips_of_their_own,
    tray_entry_cut,
    within,
    without_second_drain,
)
from calm_basin.core.falls import NoSurfaceError, end_gaps, ring_of
from calm_basin.core.solution import Change, Cure, Finding, Place, Severity
from calm_basin.core.surface import SAME_PLACE, Facet, Fold, Surface
from calm_basin.core.waste import capacities, flow_of
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.plan.model import JoistFloor, LinearDrain, MortarBed, SlopePanels, Tray
from calm_basin.rules import Limit, RuleSet

SIDES: tuple[ChannelSide, ...] = ("back", "left", "right", "entry")

GEOMETRY = "Geometry of the plan"
ORDER: dict[Severity, int] = {"stop": 0, "caution": 1, "note": 2}


def no_surface(plan: Plan, words: Words, reason: NoSurfaceError) -> Finding:
    """Why the falls cannot be worked out, and what would let them be."""
    cures: list[Cure | None] = []
    if reason.code == "drain_outside":
        title = "The drain reaches outside the shower"
        detail = f"{reason} Its whole rim has to lie inside, clear of the walls."
        cures.append(bring_drain_inside(plan, words))
    elif reason.code == "drain_hidden":
        title = "A corner hides part of the shower from the drain"
        detail = f"{reason} Move the drain to where it sees every wall, or give it a second one."
        cures.append(bring_drain_inside(plan, words))
        cures.append(second_drain(plan, words))
    else:
        title = "This arrangement does not fit the shower"
        detail = str(reason)
        cures.append(without_second_drain(plan))
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
        *_tray_cuts(plan, words),
        *_entry_cut(plan, rules, words, surface),
        *_panels(plan, words, surface),
        *_zone_edge(plan, words, surface),
        *_capacity(plan, words),
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


def broken_limit(rules: RuleSet, facet: Facet) -> Severity | None:
    """The gravest severity with which a plane breaks the rule set's limits."""
    broken = [
        _severity(limit)
        for limit in fall_limits(rules)
        if bound_by(limit, facet) and not within(limit, facet.gradient)
    ]
    return min(broken, key=ORDER.__getitem__, default=None)


def _listed(names: list[str]) -> str:
    return names[0] if len(names) == 1 else f"{', '.join(names[:-1])} and {names[-1]}"


def _by_name(facets: list[Facet]) -> list[Facet]:
    """One plane of each name: the narrow planes of a round part count as one."""
    return list({facet.name: facet for facet in facets}.values())


def _asks_of(plan: Plan, facet: Facet) -> Asked:
    return Asked.of(plan, facet.zone)


def gathering(surface: Surface) -> list[Fold]:
    """The folds of the shower in which water runs; ridges carry none."""
    rest = shapely.union_all([facet.polygon for facet in surface.zone("rest")])
    return [fold for fold in surface.folds if fold.valley and _off(rest, fold)]


def _off(shape: shapely.Geometry, fold: Fold) -> bool:
    middle = Point((np.array(fold.start[:2]) + np.array(fold.end[:2])) / 2)
    return bool(shape.is_empty or shape.distance(middle) > SAME_PLACE)


def _falls(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
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
        names = _listed([f.name for f in planes])
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


def _fold_lines(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
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


def _entry(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    step = step_of(plan, surface)
    over = [limit for limit in rules.on("entry_step") if abs(step) > limit.value + 1e-6]
    if not over:
        return []
    limit = max(over, key=lambda item: item.value)
    falling = 0.0 if plan.shower.rest else step - plan.shower.set_down
    allowed = max(limit.value - falling, 0.0)
    why = (
        " The tray was cut on its entry side, which took its high edge away: cut the wall side "
        f"instead, or pack the tray up {words.length(falling)}."
        if falling > 0.05 and tray_entry_cut(plan) > 0
        else f" The entry edge itself falls {words.length(falling)} towards the drain, because the "
        "channel does not run along it."
        if falling > 0.05
        else ""
    )
    candidates = [
        Cure(
            text=f"Set the shower down only {words.length(allowed)}",
            changes=(Change(path="/shower/set_down", value=allowed),),
        ),
        *([*cut_elsewhere(plan), pack_tray(plan, words, falling)] if falling > 0.05 else []),
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
                lambda mended, floor: abs(step_of(mended, floor)) <= limit.value + 1e-6,
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
                cures=offered(
                    plan,
                    [longer, strips_of_their_own(plan, words)],
                    lambda _plan, floor: not any(facet.level for facet in floor.facets),
                ),
            )
        )
    return found


def _tray(plan: Plan, words: Words, surface: Surface) -> list[Finding]:
    former = plan.shower.former
    drop = surface.drop + surface.edge
    if not isinstance(former, Tray) or former.edge_thickness > drop:
        return []
    flat = plan.shower.fall.asked * former.edge_thickness / drop * 0.5
    bed = MortarBed(least_thickness=12.0)
    return [
        Finding(
            code="tray_too_thin",
            severity="stop",
            title="The tray is thinner than its fall",
            detail=f"Its edge is {words.length(former.edge_thickness)} thick, but the floor drops "
            f"{words.length(drop)} to the drain: nothing is left under it.",
            measured=former.edge_thickness,
            measured_text=words.length(former.edge_thickness),
            limit=drop,
            limit_text=f"more than {words.length(drop)}",
            unit="mm",
            applies_to="the tray",
            source=GEOMETRY,
            field="/shower/former/edge_thickness",
            cures=offered(
                plan,
                [
                    ask_for(words, flat, Asked.of(plan), steeper=False),
                    Cure(
                        text="Lay a setting bed instead",
                        changes=(Change(path="/shower/former", value=bed.model_dump(mode="json")),),
                    ),
                ],
                lambda mended, floor: (
                    not isinstance(mended.shower.former, Tray)
                    or mended.shower.former.edge_thickness > floor.drop + floor.edge
                ),
            ),
        )
    ]


def _capacity(plan: Plan, words: Words) -> list[Finding]:
    """Shower heads that give more than the way out takes."""
    flow = flow_of(plan.water)
    over = [way for way in capacities(plan.water, words) if not way.enough]
    if not over:
        return []
    least = min(over, key=lambda way: way.carries)
    return [
        Finding(
            code="flow_over_capacity",
            severity="stop",
            title=f"The heads give {flow:g} L/min, the way out takes {least.text}",
            detail=f"{least.name} is the narrowest part. Water rises on the floor as soon as all "
            f"heads run. {least.working.note} A licensed plumber decides on pipe and trap.".strip(),
            measured=flow,
            measured_text=f"{flow:g} L/min",
            limit=least.carries,
            limit_text=f"at most {least.text}",
            unit="litre_per_minute",
            applies_to="drain and waste pipe",
            source=least.working.source,
            field="/water/heads",
        )
    ]


def _tray_cuts(plan: Plan, words: Words) -> list[Finding]:
    former = plan.shower.former
    if not isinstance(former, Tray):
        return []
    far = [cut for cut in former.cuts if cut.width > former.most_cut + 1e-6]
    if not far:
        return []
    worst = max(far, key=lambda cut: cut.width)
    place = former.cuts.index(worst)
    rows = [cut.model_dump(mode="json") for cut in former.cuts]
    rows[place]["width"] = former.most_cut
    return [
        Finding(
            code="tray_cut_too_far",
            severity="stop",
            title=f"{words.length(worst.width)} is cut off the tray's side {worst.edge + 1}",
            detail=f"At most {words.length(former.most_cut)} a side: beyond that the tray's own "
            "build is cut into. Take a smaller tray, or cut the opposite side too. Cut the edge's "
            "rebate anew afterwards.",
            measured=worst.width,
            measured_text=words.length(worst.width),
            limit=former.most_cut,
            limit_text=f"at most {words.length(former.most_cut)}",
            unit="mm",
            applies_to="each side of the tray",
            source="Common practice, no source",
            field=f"/shower/former/cuts/{place}/width",
            cures=(
                Cure(
                    text=f"Take a tray that needs only {words.length(former.most_cut)} cut off",
                    changes=(Change(path="/shower/former/cuts", value=rows),),
                ),
            ),
        )
    ]


def _entry_cut(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    """A tray whose entry side was cut, where the step that makes keeps every limit."""
    cut, step = tray_entry_cut(plan), step_of(plan, surface)
    low = step - plan.shower.set_down
    over = any(abs(step) > limit.value + 1e-6 for limit in rules.on("entry_step"))
    if cut <= 0 or low <= 0.05 or over:
        return []
    return [
        Finding(
            code="tray_entry_cut",
            severity="caution",
            title=f"The tray's cut entry edge lies {words.length(low, 'up')} low",
            detail=f"Cutting {words.length(cut)} off its entry side took its high edge away: "
            "fall times cut width. Cut a wall side, where it does no harm. Packing the tray up "
            "helps only where the cut edge is low all along.",
            measured=low,
            measured_text=words.length(low, "up"),
            limit=0.0,
            limit_text="flush as planned",
            unit="mm",
            applies_to="the tray",
            source=GEOMETRY,
            field="/shower/former/cuts",
            cures=offered(
                plan,
                [*cut_elsewhere(plan), pack_tray(plan, words, low)],
                lambda mended, floor: abs(step_of(mended, floor) - mended.shower.set_down) <= 0.05,
            ),
        )
    ]


def _panels(plan: Plan, words: Words, surface: Surface) -> list[Finding]:
    former = plan.shower.former
    if not isinstance(former, SlopePanels):
        return []
    asked = plan.shower.fall.asked
    run = max((facet.run for facet in surface.zone("shower")), default=0.0)
    found = []
    if abs(asked - former.fall) > 1e-3 * asked:
        word = "less" if former.fall < asked else "more"
        found.append(
            Finding(
                code="panel_fall",
                severity="caution",
                title=f"The panels fall {words.fall(former.fall)}, not {words.fall(asked)}",
                detail=f"From {words.length(former.thin_edge)} to "
                f"{words.length(former.thick_edge)} over {words.length(former.length)} is "
                f"{words.fall(former.fall)}: {word} than is asked for. The floor follows the "
                "panels.",
                measured=former.fall,
                measured_text=words.fall(former.fall),
                limit=asked,
                limit_text=f"{words.fall(asked)} asked for",
                unit="rise_per_run",
                applies_to="the slope panels",
                source=GEOMETRY,
                field="/shower/former/thick_edge",
                cures=offered(
                    plan,
                    [
                        Cure(
                            text=f"Ask for the panels' own fall of {words.fall(former.fall)}",
                            changes=(Change(path="/shower/fall/asked", value=former.fall),),
                        )
                    ],
                    lambda _plan, _surface: True,
                ),
            )
        )
    if run > former.length + 1e-6:
        found.append(
            Finding(
                code="panel_short",
                severity="caution",
                title=f"The panels end {words.length(run - former.length)} before the floor does",
                detail=f"The fall runs {words.length(run)}, a panel {words.length(former.length)}. "
                "A second row is packed up by what the first one rises.",
                measured=run,
                measured_text=words.length(run),
                limit=former.length,
                limit_text=f"at most {words.length(former.length)}",
                unit="mm",
                applies_to="the slope panels",
                source=GEOMETRY,
                field="/shower/former/length",
            )
        )
    return found


def _zone_edge(plan: Plan, words: Words, surface: Surface) -> list[Finding]:
    """Where the zone's edge does not stay level, the rest of a wet room meets it in a step."""
    if plan.shower.rest is None:
        return []
    ring = ring_of(plan.shower)
    corners = np.vstack([facet.corners[:, :2] for facet in surface.facets])
    places: list[Place] = []
    for i in range(len(ring.points)):
        if i in ring.entries:
            continue
        edge = LineString(ring.edge(i))
        at = corners[shapely.distance(edge, shapely.points(corners)) < SAME_PLACE]
        # A place a little off the corners: a zone that only touches there makes no step.
        at = at + (ring.edge(i).mean(axis=0) - at) * 1e-3
        steps = surface.heights(at, "rest") - surface.heights(at, "shower") - plan.shower.set_down
        if not np.isnan(steps).all() and np.nanmax(np.abs(steps)) > 0.5:
            worst = int(np.nanargmax(np.abs(steps)))
            step = float(steps[worst])
            places.append(
                Place(
                    name=f"side {i + 1}",
                    x=float(at[worst][0]),
                    y=float(at[worst][1]),
                    measured=step,
                    text=words.length(abs(step), "up"),
                )
            )
    if not places:
        return []
    worst_place = max(places, key=lambda place: abs(place.measured))
    return [
        Finding(
            code="zone_edge_step",
            severity="caution",
            title=f"Step of {worst_place.text} beside the shower zone",
            detail=f"Along {_listed([place.name for place in places])} the zone falls to its drain "
            "while the rest of the room does not: an edge to trip over, unless a screen stands "
            "there. A point drain keeps the zone's edge level.",
            measured=abs(worst_place.measured),
            measured_text=worst_place.text,
            limit=None,
            limit_text="",
            unit="mm",
            applies_to="the zone's edge",
            source=GEOMETRY,
            field="/shower/rest",
            places=tuple(places),
            cures=offered(
                plan,
                [point_instead(plan)],
                lambda mended, floor: not _zone_edge(mended, words, floor),
            ),
        )
    ]
