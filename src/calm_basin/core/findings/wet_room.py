"""Wet rooms in two zones, and the way out."""

from __future__ import annotations

from math import ceil

import numpy as np
import shapely
from shapely.geometry import LineString

from calm_basin.core.buildup import rest_thickness
from calm_basin.core.cures import Asked, ask_for, drain_in_the_middle
from calm_basin.core.falls import ring_of
from calm_basin.core.findings.common import GEOMETRY, listed, severity_of
from calm_basin.core.solution import Change, Cure, Finding, Place
from calm_basin.core.surface import SAME_PLACE, Array
from calm_basin.core.trying import Case, Found
from calm_basin.core.waste import capacities, flow_of
from calm_basin.plan.model import Layer, Tray

LEAST_DAM = 0.1
"""A zone's edge that stands less above the rest, mm, is flush as built."""


def _steps(case: Case, i: int) -> tuple[Array, Array]:
    """Places along an edge of the zone, (n, 2), and how far the rest lies above the zone there."""
    ring = ring_of(case.plan.shower)
    corners = np.vstack([facet.corners[:, :2] for facet in case.surface.facets])
    edge = LineString(ring.edge(i))
    at = corners[shapely.distance(edge, shapely.points(corners)) < SAME_PLACE]
    # A place a little off the corners: a zone that only touches there makes no step.
    at = at + (ring.edge(i).mean(axis=0) - at) * 1e-3
    steps = case.surface.heights(at, "rest") - case.surface.heights(at, "shower")
    known = ~np.isnan(steps)
    return at[known], steps[known]


def zone_edge(case: Case) -> list[Found]:
    """Where the zone's edge does not stay level, the rest of a wet room meets it in a step."""
    plan, words = case.plan, case.words
    if plan.shower.rest is None:
        return []
    planned = plan.shower.set_down - _packed(case)
    entries, places = ring_of(plan.shower).entries, []
    for i in range(len(plan.shower.outline)):
        at, steps = _steps(case, i)
        off = np.abs(steps - planned)
        if i not in entries and len(off) and off.max() > 0.5:
            worst = int(off.argmax())
            step = float(steps[worst] - planned)
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
    finding = Finding(
        code="zone_edge_step",
        severity="caution",
        title=f"Step of {worst_place.text} beside the shower zone",
        detail=f"Along {listed([place.name for place in places])} the zone falls to its drain "
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
    )
    return [Found(finding, lambda: [drain_in_the_middle(plan)])]


def _packed(case: Case) -> float:
    former = case.plan.shower.former
    return former.raised if isinstance(former, Tray) else 0.0


def dam(case: Case) -> list[Found]:
    """A packed tray whose edge stands above the rest of a wet room keeps water from the drain."""
    plan, words = case.plan, case.words
    former = plan.shower.former
    if plan.shower.rest is None or not isinstance(former, Tray) or former.raised <= 0:
        return []
    edges = [_steps(case, i) for i in range(len(plan.shower.outline))]
    places = np.vstack([at for at, _ in edges])
    above = -np.concatenate([steps for _, steps in edges])
    if above.max(initial=0.0) <= LEAST_DAM:
        return []
    height, place = float(above.max()), places[int(above.argmax())]
    shown = words.length(height, "up")
    finding = Finding(
        code="zone_edge_dams",
        severity="stop",
        title=f"The tray's edge stands {shown} above the rest: water stands before it",
        detail="The rest of the room falls to the shower zone, but the tray is packed up over it: "
        "what runs down the rest cannot get in and reaches no drain.",
        measured=height,
        measured_text=shown,
        limit=0.0,
        limit_text="flush or lower",
        unit="mm",
        applies_to="the zone's edge",
        source=GEOMETRY,
        field="/shower/former/raised",
        places=(
            Place(name="edge", x=float(place[0]), y=float(place[1]), measured=height, text=shown),
        ),
    )
    level = max(former.raised - height, 0.0)
    return [
        Found(
            finding,
            lambda: [
                Cure(
                    text="Do not pack the tray up"
                    if level <= 0
                    else f"Pack the tray up only {words.length(level, 'down')}",
                    changes=(Change(path="/shower/former/raised", value=level),),
                ),
                Cure(
                    text=f"Set the shower down {words.length(plan.shower.set_down + height, 'up')}",
                    changes=(Change(path="/shower/set_down", value=plan.shower.set_down + height),),
                ),
            ],
        )
    ]


def rest_bed(case: Case) -> list[Found]:
    """Where the rest of a wet room falls by more than its bed is thick."""
    plan, words = case.plan, case.words
    left, rest = rest_thickness(plan, case.surface), Asked.of(plan, "rest")
    if plan.shower.rest is None or left >= 0:
        return []
    *upper, lowest = plan.room.layers or (Layer(name="screed", thickness=0.0),)
    thicker = ceil((lowest.thickness - left) / words.display.step) * words.display.step
    rows = [*upper, lowest.model_copy(update={"thickness": thicker})]
    fall = lowest.thickness - left
    finding = Finding(
        code="rest_too_thin",
        severity="stop",
        title=f"The rest's bed runs out, {words.length(-left, 'up')} short",
        detail=f"The rest of the room falls {words.length(fall)} to the shower zone, but its "
        f"lowest layer, {lowest.name}, is only {words.length(lowest.thickness)} thick at the "
        "door: nothing is left of it at the zone. Its maker says how thin it may get.",
        measured=lowest.thickness,
        measured_text=words.length(lowest.thickness, "down"),
        limit=fall,
        limit_text=f"at least {words.limit(fall)}",
        unit="mm",
        applies_to="the rest of the room",
        source=GEOMETRY,
        field="/shower/rest/asked",
    )
    thick = Cure(
        text=f"Make {lowest.name} {words.length(thicker)} thick at the door",
        changes=(
            Change(path="/room/layers", value=[layer.model_dump(mode="json") for layer in rows]),
        ),
    )
    flatter = rest.fall * lowest.thickness / fall
    return [Found(finding, lambda: [ask_for(words, flatter, rest, steeper=False), thick])]


def door(case: Case) -> list[Found]:
    """Whether water that stands over a blocked drain meets the membrane before the door."""
    plan, words, levels = case.plan, case.words, case.levels
    if plan.shower.rest is None:
        return []
    above = sum(layer.thickness for layer in plan.room.layers[:-1])
    height = levels.room - above - levels.drain
    return [
        Found(
            Finding(
                code="membrane_low_at_door",
                severity=severity_of(limit),
                title=f"The membrane at the door lies {words.length(height, 'down')} above the "
                "drain",
                detail=f"At least {words.limit(limit.value)} is asked: carry it up "
                f"{words.length(limit.value - height, 'up')} under the threshold. It is taken to "
                f"lie on the room's lowest layer. {limit.note}",
                measured=height,
                measured_text=words.length(height, "down"),
                limit=limit.value,
                limit_text=f"at least {words.limit(limit.value)}",
                unit="mm",
                applies_to=limit.applies_to,
                source=limit.source,
                field="/shower/rest",
            )
        )
        for limit in case.rules.on("door_above_drain")
        if height < limit.value - 1e-6
    ]


def capacity(case: Case) -> list[Found]:
    """Shower heads that give more than the way out takes."""
    water = case.plan.water
    flow = flow_of(water)
    over = [way for way in capacities(water, case.words) if not way.enough]
    if not over:
        return []
    least = min(over, key=lambda way: way.carries)
    finding = Finding(
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
    return [Found(finding)]
