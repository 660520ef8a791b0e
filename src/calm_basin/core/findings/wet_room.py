"""Wet rooms in two zones, and the way out."""

from __future__ import annotations

from math import ceil

import numpy as np
import shapely
from shapely.geometry import LineString

from calm_basin.core.buildup import Levels, rest_thickness
from calm_basin.core.cures import (
    Asked,
    ask_for,
    offered,
    point_instead,
)
from calm_basin.core.falls import ring_of
from calm_basin.core.findings.common import (
    GEOMETRY,
    listed,
    severity_of,
)
from calm_basin.core.solution import Change, Cure, Finding, Place
from calm_basin.core.surface import SAME_PLACE, Surface
from calm_basin.core.waste import capacities, flow_of
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.plan.model import Layer
from calm_basin.rules import RuleSet


def zone_edge(plan: Plan, words: Words, surface: Surface) -> list[Finding]:
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
            cures=offered(
                plan,
                [point_instead(plan)],
                lambda mended, floor: not zone_edge(mended, words, floor),
            ),
        )
    ]


def rest_bed(plan: Plan, words: Words, surface: Surface) -> list[Finding]:
    """Where the rest of a wet room falls by more than its bed is thick."""
    left, rest = rest_thickness(plan, surface), Asked.of(plan, "rest")
    if plan.shower.rest is None or left >= 0:
        return []
    *upper, lowest = plan.room.layers or (Layer(name="screed", thickness=0.0),)
    thicker = ceil((lowest.thickness - left) / words.display.step) * words.display.step
    rows = [*upper, lowest.model_copy(update={"thickness": thicker})]
    fall = lowest.thickness - left
    return [
        Finding(
            code="rest_too_thin",
            severity="stop",
            title=f"The rest's bed runs out, {words.length(-left, 'up')} short",
            detail=f"The rest of the room falls {words.length(fall)} to the shower zone, but its "
            f"lowest layer, {lowest.name}, is only {words.length(lowest.thickness)} thick at the "
            "door: nothing is left of it at the zone. Its maker says how thin it may get.",
            measured=lowest.thickness,
            measured_text=words.length(lowest.thickness),
            limit=fall,
            limit_text=f"at least {words.length(fall, 'up')}",
            unit="mm",
            applies_to="the rest of the room",
            source=GEOMETRY,
            field="/shower/rest/asked",
            cures=offered(
                plan,
                [
                    ask_for(words, rest.fall * lowest.thickness / fall, rest, steeper=False),
                    Cure(
                        text=f"Make {lowest.name} {words.length(thicker)} thick at the door",
                        changes=(
                            Change(
                                path="/room/layers",
                                value=[layer.model_dump(mode="json") for layer in rows],
                            ),
                        ),
                    ),
                ],
                lambda mended, floor: rest_thickness(mended, floor) >= 0,
            ),
        )
    ]


def door(plan: Plan, rules: RuleSet, words: Words, levels: Levels) -> list[Finding]:
    """Whether water that stands over a blocked drain meets the membrane before the door."""
    if plan.shower.rest is None:
        return []
    above = sum(layer.thickness for layer in plan.room.layers[:-1])
    height = levels.room - above - levels.drain
    return [
        Finding(
            code="membrane_low_at_door",
            severity=severity_of(limit),
            title=f"The membrane at the door lies {words.length(height, 'down')} above the drain",
            detail=f"At least {words.length(limit.value)} is asked: carry it up "
            f"{words.length(limit.value - height, 'up')} under the threshold. It is taken to lie "
            f"on the room's lowest layer. {limit.note}",
            measured=height,
            measured_text=words.length(height, "down"),
            limit=limit.value,
            limit_text=f"at least {words.length(limit.value)}",
            unit="mm",
            applies_to=limit.applies_to,
            source=limit.source,
            field="/shower/rest",
        )
        for limit in rules.on("door_above_drain")
        if height < limit.value - 1e-6
    ]


def capacity(plan: Plan, words: Words) -> list[Finding]:
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
