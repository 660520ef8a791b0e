"""Where the depth can come from: every way that applies, what it gives, costs and forbids."""

from __future__ import annotations

from collections.abc import Sequence

from calm_basin.core.answer.case import Case, Check
from calm_basin.core.answer.result import Finding
from calm_basin.core.depth.result import Way
from calm_basin.core.falls.drains import channel_along
from calm_basin.core.geometry.levels import depth_available, levels
from calm_basin.core.geometry.surface import Surface
from calm_basin.core.trying import tried
from calm_basin.plan import Plan
from calm_basin.plan.floor import JoistFloor
from calm_basin.plan.shower import MortarBed
from calm_basin.rules import joist_centres


def shortfall_of(plan: Plan, surface: Surface) -> float:
    """Depth, in mm, that is needed beyond what is available; 0 where there is enough."""
    return max(0.0, levels(plan, surface).recess - depth_available(plan))


def ways(case: Case, checks: Sequence[Check], found: Sequence[Finding]) -> tuple[Way, ...]:
    """The ways that apply to this floor, those that are enough first. ``found`` are the plan's
    findings: where depth is missing, its cures are ways to it."""
    plan, words, surface = case.plan, case.words, case.surface
    missing_depth = ("recess_over_available", "slab_to_be_cut")
    cures = [cure for f in found if f.code in missing_depth for cure in f.cures]
    needed = levels(plan, surface).recess
    if needed <= 0:
        return (
            Way(
                code="pack_up",
                title="No recess: pack the shower up",
                gives=-needed,
                gives_text=f"{words.length(-needed)} to pack",
                enough=True,
                costs="Board or bed under the shower",
                forbids="Nothing is cut",
            ),
        )
    ways_found: list[Way] = []
    if isinstance(plan.floor, JoistFloor):
        gives = depth_available(plan)
        most = joist_centres()
        blocked = (
            f" Add joists or blocking: centres are over {words.limit(most.value)} ({most.source})."
        )
        ways_found.append(
            Way(
                code="lift_deck",
                title="Lift the deck and refit it between the joists",
                gives=gives,
                gives_text=words.length(gives, "down"),
                enough=gives >= needed - 1e-6,
                costs="Cleats on both sides of each joist, set down by the deck's thickness."
                + (blocked if plan.floor.centres > most.value + 1e-6 else ""),
                forbids="The joists are not cut. Look for live wires and pipes first; set the "
                "blade to the board's depth.",
            )
        )
    else:
        ways_found.append(
            Way(
                code="cut_slab",
                title="Cut a recess and a pipe trench into the slab",
                gives=None,
                gives_text="what the slab allows",
                enough=None,
                costs=f"{words.length(needed, 'up')} deep under the whole shower; wet cutting",
                forbids="No cut before a scan: stressed cables, heating pipes, damp-proof "
                "membrane. A slab that may be post-tensioned is left to an engineer.",
            )
        )
    raise_room = next((c for c in cures if c.changes[0].path == "/room/layers"), None)
    if raise_room is not None:
        missing = shortfall_of(plan, surface)
        ways_found.append(
            Way(
                code="raise_room",
                title="Raise the rest of the room",
                gives=missing,
                gives_text=words.length(missing, "up"),
                enough=True,
                costs="Board or a thicker bed over the whole room",
                forbids="Moves the problem to the bathroom door: check its threshold and leaf",
                changes=raise_room.changes,
            )
        )
    across = channel_along(plan, "entry") if isinstance(plan.shower.former, MortarBed) else None
    mended = across and tried(case, checks, across, found)
    if across and mended:
        saved = surface.drop - mended.surface.drop
        if saved > 0.05:
            enough = needed - saved <= depth_available(plan) + 1e-6
            ways_found.append(
                Way(
                    code="drain_at_entry",
                    title="Put a channel across the entry",
                    gives=saved,
                    gives_text=f"{words.length(saved, 'down')} less recess",
                    enough=enough,
                    costs=f"The floor rises {words.length(mended.surface.highest)} away from the "
                    "entry",
                    forbids="Water from the room runs to the same channel",
                    changes=across.changes,
                )
            )
    ways_found.sort(key=lambda way: {True: 0, None: 1, False: 2}[way.enough])
    if isinstance(plan.floor, JoistFloor):
        ways_found.append(
            Way(
                code="structure",
                title="Go deeper into the joists",
                gives=None,
                gives_text="engineer only",
                enough=None,
                costs="Sistering or framing lower, to an engineer's design",
                forbids="Notching or cutting by this plan: it is structure",
            )
        )
    return tuple(ways_found)
