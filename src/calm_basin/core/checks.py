"""All checks in the trade's order, and what they find on a plan."""

from __future__ import annotations

from calm_basin.core import surveyed
from calm_basin.core.cures import (
    bed_instead,
    bring_drain_inside,
    channel_along,
    drain_in_the_middle,
    second_drain,
    two_drains,
    without_rest,
    without_second_drain,
)
from calm_basin.core.falls import NoSurfaceError
from calm_basin.core.findings.common import GEOMETRY, in_order, unmeasured
from calm_basin.core.findings.falls import channel, falls, fold_lines
from calm_basin.core.findings.former import entry_cut, panels, thin_tray, tray_cuts
from calm_basin.core.findings.levels import entry, recess
from calm_basin.core.findings.wet_room import capacity, dam, door, rest_bed, zone_edge
from calm_basin.core.solution import Cure, Finding
from calm_basin.core.trying import Case, Check, made_without_floor, with_cures
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.plan.model import PointDrain
from calm_basin.rules import RuleSet

CHECKS: tuple[Check, ...] = (
    recess,
    falls,
    fold_lines,
    entry,
    channel,
    thin_tray,
    tray_cuts,
    entry_cut,
    panels,
    zone_edge,
    dam,
    rest_bed,
    door,
    capacity,
    surveyed.check,
)
"""Everything that a solved floor is held against."""


def findings(case: Case) -> tuple[Finding, ...]:
    """Everything that is broken or has to be known, the gravest first, with the cures that hold."""
    return in_order(with_cures(case, CHECKS))


def no_surface(plan: Plan, rules: RuleSet, words: Words, reason: NoSurfaceError) -> Finding:
    """Why the falls cannot be worked out, and what would let them be."""
    cures: list[Cure | None] = []
    if reason.code == "drain_outside":
        title = "The drain reaches outside the shower"
        detail = f"{reason} Its whole rim has to lie inside, clear of the walls."
        cures.append(bring_drain_inside(plan, words))
        if isinstance(plan.shower.drain, PointDrain):
            cures.append(drain_in_the_middle(plan))
    elif reason.code == "drain_hidden":
        title = "A corner hides part of the shower from the drain"
        detail = f"{reason} Move the drain to where it sees every wall, or give it a second one."
        cures.append(bring_drain_inside(plan, words))
        cures.append(second_drain(plan, words))
    elif reason.code == "water_trapped":
        title = "Water would stand behind a corner"
        detail = str(reason)
        cures += [drain_in_the_middle(plan), two_drains(plan, words), without_rest(plan)]
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
        cures=made_without_floor(plan, rules, CHECKS, cures),
    )
