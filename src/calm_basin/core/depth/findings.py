"""The recess and the step at the entry."""

from __future__ import annotations

from calm_basin.core.answer.build import broken, severity_of
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure, Place
from calm_basin.core.depth.cures import fit_depth
from calm_basin.core.falls import ring_of
from calm_basin.core.falls.cures import cut_elsewhere, pack_tray
from calm_basin.core.falls.drains import channel_along
from calm_basin.core.falls.step import step_of
from calm_basin.core.falls.stock import tray_entry_cut
from calm_basin.core.geometry.levels import depth_available, levels
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.core.survey.lie import step_at_entry, sunk_at_entry
from calm_basin.core.survey.truing import pour_over_room
from calm_basin.plan.sources import COMMON
from calm_basin.tolerances import UNSEEN


def recess(case: Case) -> list[Found]:
    """The depth that is needed beyond what is there."""
    plan, words, needed = case.plan, case.words, levels(case.plan, case.surface).recess
    available = depth_available(plan)
    missing = needed - available
    if missing <= UNSEEN:
        return []
    carrier = carrier_of(plan)
    refitted = carrier.refitted
    if refitted:
        title = f"Recess {words.length(missing, 'up')} too shallow"
        detail = (
            f"{words.length(needed, 'up')} are needed; lifting the deck between the joists gives "
            f"{words.limit(available)}. The joists are structure: going deeper is for an engineer."
        )
    else:
        title = f"{words.length(needed, 'up')} to be cut out of the {carrier.name}"
        detail = (
            "Never without a scan: stressed cables, heating pipes and the damp-proof membrane may "
            f"lie in it. {case.rules.deference}"
        )
    finding = broken(
        words,
        code="recess_over_available" if refitted else "slab_to_be_cut",
        severity="stop" if refitted else "caution",
        title=title,
        detail=detail,
        value=needed,
        limit=available,
        asked=f"the {carrier.name} gives {words.limit(available)}"
        if refitted or available > 0
        else "nothing without a scan",
        applies_to=carrier.structure,
        source=COMMON,
        field="/shower/former",
    )
    return [Found(finding, lambda: fit_depth(case, missing))]


def entry(case: Case) -> list[Found]:
    """A step at the entry, up or down, beyond what the rules allow."""
    plan, words = case.plan, case.words
    step = step_at_entry(plan, case.surface)
    height, way = abs(step), "down" if step > 0 else "up"
    over = [limit for limit in case.rules.on("entry_step") if height > limit.value + 1e-6]
    if not over:
        return []
    limit = max(over, key=lambda item: item.value)
    falling = falling_edge(case)
    why = lying(case)
    if falling > 0.05 and tray_entry_cut(plan.shower) > 0:
        why = (
            " The tray was cut on its entry side, which took its high edge away: cut the wall side "
            f"instead, or pack the tray up {words.length(falling)}."
        )
    elif falling > 0.05:
        why = (
            f" The entry edge itself falls {words.length(falling)} towards the drain, because the "
            "channel does not run along it."
        )
    elif step < 0 and not why:
        why = " The shower stands above the room there, a ledge to climb over."

    ring = ring_of(plan.shower)
    middle = ring.edge(min(ring.entries)).mean(axis=0)
    shown = words.length(height, "up")
    finding = broken(
        words,
        code="step_over_limit",
        severity=severity_of(limit),
        title=f"{shown} step {way} at the entry, limit {words.limit(limit.value)}",
        detail=f"No more than {words.limit(limit.value)} for {limit.applies_to}, up or down, so "
        f"{words.length(height - limit.value, 'up')} too much.{why} {limit.note}".strip(),
        value=height,
        shown=f"{shown} {way}",
        limit=limit.value,
        applies_to=limit.applies_to,
        source=limit.source,
        field="/shower/set_down",
        places=(
            Place(
                name="entry",
                x=float(middle[0]),
                y=float(middle[1]),
                measured=height,
                text=f"{shown} {way}",
            ),
        ),
    )
    return [Found(finding, lambda: less_step(case, step, limit.value))]


def falling_edge(case: Case) -> float:
    """How far the entry's edge itself falls towards the drain, mm."""
    if case.plan.shower.rest:
        return 0.0
    return step_of(case.plan, case.surface) - case.plan.shower.set_down


def lying(case: Case) -> str:
    """What the floor before the entry, as it was read, does to the step."""
    sunk = sunk_at_entry(case.plan, case.surface)
    if sunk < case.words.display.step / 2:
        return ""
    return (
        f" The room's floor lies up to {case.words.length(sunk)} below its highest spot there; the "
        "shower is set level with that spot."
    )


def less_step(case: Case, step: float, most: float) -> list[Cure | None]:
    """Changes that bring the step at the entry to ``most``, mm, on the side on which it is."""
    plan, words, falling = case.plan, case.words, falling_edge(case)
    allowed = most if step > 0 else -most
    set_down = max(plan.shower.set_down + allowed - step, 0.0)
    only = "only " if step > 0 else ""
    found: list[Cure | None] = [
        Cure(
            text=f"Set the shower down {only}{words.length(set_down)}",
            changes=(Change(path="/shower/set_down", value=set_down),),
        )
    ]
    if lying(case):
        found.append(pour_over_room(plan))
    packed = former_of(plan.shower).raised
    if step < 0 and packed > 0:
        raised = max(packed - (abs(step) - most), 0.0)
        text = f"Pack the tray up only {words.length(raised, 'down')}"
        if raised == 0:
            text = "Do not pack the tray up"
        found.insert(
            0, Cure(text=text, changes=(Change(path="/shower/former/raised", value=raised),))
        )
    if falling > 0.05:
        found += [*cut_elsewhere(plan), pack_tray(plan, words, falling)]
        found.append(channel_along(plan, "back"))
    return found
