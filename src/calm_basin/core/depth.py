"""Where the depth can come from: every way that applies, what it gives, costs and forbids."""

from __future__ import annotations

from calm_basin.core.buildup import depth_available, levels
from calm_basin.core.cures import channel_along, fit_depth, keeps, offered
from calm_basin.core.falls import surface_of
from calm_basin.core.solution import Cure, Way
from calm_basin.core.surface import Surface
from calm_basin.core.wording import Words, changed
from calm_basin.plan import Plan
from calm_basin.plan.model import JoistFloor, MortarBed
from calm_basin.rules import RuleSet


def shortfall_of(plan: Plan, surface: Surface) -> float:
    """Depth, in mm, that is needed beyond what is available; 0 where there is enough."""
    return max(0.0, levels(plan, surface).recess - depth_available(plan))


def depth_cures(plan: Plan, rules: RuleSet, words: Words, surface: Surface) -> tuple[Cure, ...]:
    """Changes that find the missing depth; each was tried, leaves nothing to find and breaks no
    required limit on falls that was kept."""
    missing = shortfall_of(plan, surface)
    if missing <= 0:
        return ()
    falls_keep = keeps(rules)
    kept = falls_keep(plan, surface)
    return offered(
        plan,
        fit_depth(plan, words, missing, surface),
        lambda mended, floor: (
            shortfall_of(mended, floor) <= 1e-6 and (not kept or falls_keep(mended, floor))
        ),
    )


def ways(plan: Plan, words: Words, surface: Surface, cures: tuple[Cure, ...]) -> tuple[Way, ...]:
    """The ways that apply to this floor, those that are enough first."""
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
    found: list[Way] = []
    if isinstance(plan.floor, JoistFloor):
        gives = depth_available(plan)
        blocked = " Add joists or blocking: centres are over 16 in (406 mm)."
        found.append(
            Way(
                code="lift_deck",
                title="Lift the deck and refit it between the joists",
                gives=gives,
                gives_text=words.length(gives, "down"),
                enough=gives >= needed - 1e-6,
                costs="Cleats on both sides of each joist, set down by the deck's thickness."
                + (blocked if plan.floor.centres > 407 else ""),
                forbids="The joists are not cut. Look for live wires and pipes first; set the "
                "blade to the board's depth.",
            )
        )
    else:
        found.append(
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
        found.append(
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
    for across in offered(plan, [channel_along(plan, "entry")], lambda _plan, _surface: True):
        if not isinstance(plan.shower.former, MortarBed):
            break
        floor = surface_of(changed(plan, across.changes))
        saved = surface.drop - floor.drop
        if saved > 0.05:
            enough = needed - saved <= depth_available(plan) + 1e-6
            found.append(
                Way(
                    code="drain_at_entry",
                    title="Put a channel across the entry",
                    gives=saved,
                    gives_text=f"{words.length(saved, 'down')} less recess",
                    enough=enough,
                    costs=f"The floor rises {words.length(floor.highest)} away from the entry",
                    forbids="Water from the room runs to the same channel",
                    changes=across.changes,
                )
            )
    found.sort(key=lambda way: {True: 0, None: 1, False: 2}[way.enough])
    if isinstance(plan.floor, JoistFloor):
        found.append(
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
    return tuple(found)
