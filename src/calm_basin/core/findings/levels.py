"""The recess and the step at the entry."""

from __future__ import annotations

from calm_basin.core.buildup import Levels, depth_available
from calm_basin.core.cures import (
    channel_along,
    cut_elsewhere,
    offered,
    pack_tray,
    step_of,
    tray_entry_cut,
)
from calm_basin.core.falls import ring_of
from calm_basin.core.findings.common import (
    severity_of,
)
from calm_basin.core.solution import Change, Cure, Finding, Place
from calm_basin.core.surface import Surface
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.plan.model import JoistFloor
from calm_basin.rules import RuleSet


def recess(
    plan: Plan, rules: RuleSet, words: Words, levels: Levels, cures: tuple[Cure, ...]
) -> list[Finding]:
    """The depth that is needed beyond what is there."""
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


def entry(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> list[Finding]:
    """A step at the entry beyond what the rules allow."""
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
            severity=severity_of(limit),
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
