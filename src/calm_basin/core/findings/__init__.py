"""Findings: the solved floor held against the rule set and against itself."""

from __future__ import annotations

from calm_basin.core.buildup import Levels
from calm_basin.core.cures import (
    bed_instead,
    bring_drain_inside,
    channel_along,
    offered,
    second_drain,
    without_rest,
    without_second_drain,
)
from calm_basin.core.falls import NoSurfaceError
from calm_basin.core.findings.common import (
    GEOMETRY,
    broken_limit,
    gathering,
    in_order,
    label_point,
    unmeasured,
)
from calm_basin.core.findings.falls import channel, falls, fold_lines
from calm_basin.core.findings.former import entry_cut, panels, thin_tray, tray_cuts
from calm_basin.core.findings.levels import entry, recess
from calm_basin.core.findings.wet_room import capacity, door, rest_bed, zone_edge
from calm_basin.core.solution import Cure, Finding
from calm_basin.core.surface import Surface
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.rules import RuleSet

__all__ = [
    "broken_limit",
    "findings",
    "gathering",
    "in_order",
    "label_point",
    "no_surface",
    "unmeasured",
]


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
        cures += [without_second_drain(plan), without_rest(plan), bed_instead()]
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
        *recess(plan, rules, words, levels, depth_cures),
        *falls(plan, rules, words, surface),
        *fold_lines(plan, rules, words, surface),
        *entry(plan, rules, words, surface),
        *channel(plan, rules, words, surface),
        *thin_tray(plan, words, surface),
        *tray_cuts(plan, words),
        *entry_cut(plan, rules, words, surface),
        *panels(plan, words, surface),
        *zone_edge(plan, words, surface),
        *rest_bed(plan, words, surface),
        *door(plan, rules, words, levels),
        *capacity(plan, words),
    ]
