"""Options for more depth: every way that applies, worked out in full, side by side."""

from __future__ import annotations

from collections.abc import Iterator, Mapping, Sequence
from typing import NamedTuple

import numpy as np
from shapely.geometry import Polygon

from calm_basin.core.answer.build import in_order
from calm_basin.core.answer.case import Case, Check, Key, key_of
from calm_basin.core.answer.result import Change, Cure, Finding
from calm_basin.core.answer.words import Words
from calm_basin.core.depth.cheapest import cheapest
from calm_basin.core.depth.cures import flatter, raised_room, thinner_layers
from calm_basin.core.depth.result import Way, Ways
from calm_basin.core.depth.thresholds import door_edges, ramp_fall, ramp_run
from calm_basin.core.falls import NoSurfaceError, ring_of, surface_of
from calm_basin.core.falls.cures import raised_by
from calm_basin.core.falls.drains import channel_along
from calm_basin.core.geometry.levels import depth_available, depth_left, levels
from calm_basin.core.kinds import carrier_of
from calm_basin.core.survey.lie import step_at_entry
from calm_basin.core.systems.findings import deck_limit
from calm_basin.core.systems.fitting import fitted, written
from calm_basin.core.trying import after, made_on, opened
from calm_basin.plan import Plan, PlanError
from calm_basin.plan.blocks import without_blocks
from calm_basin.plan.places import holds
from calm_basin.plan.shower import LinearDrain
from calm_basin.rules import TRADE, build_systems, drain_families
from calm_basin.tolerances import ROUNDED, UNSEEN


class _Told(NamedTuple):
    """A way as it is begun: what it changes, and what is said of it besides its figures."""

    code: str
    title: str
    material: str
    costs: str
    forbids: str
    changes: tuple[Change, ...] = ()
    engineer: bool = False


def ways(case: Case, checks: Sequence[Check], found: Sequence[Finding]) -> Ways:
    """The ways that apply to this floor, those that are enough first, what is for an engineer
    last. ``found`` are the plan's findings. Each way is made on the plan and solved; its figures
    are those of the plan that it offers."""
    before = {key_of(finding): finding for finding in found}
    told = [_solved(case, checks, before, way) for way in _begun(case, checks)]
    listed = [way for way in told if way is not None]
    rank = {True: 0, None: 1, False: 2}
    listed.sort(key=lambda way: (way.engineer, rank[way.enough], len(way.opens)))
    return Ways(listed=tuple(listed), cheapest=cheapest(case, checks, found))


def _begun(case: Case, checks: Sequence[Check]) -> Iterator[_Told]:
    plan, words = case.plan, case.words
    needed = levels(plan, case.surface).recess
    short = max(-depth_left(plan, case.surface), 0.0)
    area = float(Polygon(plan.shower.outline).area)
    if needed <= UNSEEN:
        yield _Told(
            "pack_up",
            "No recess: pack the shower up",
            f"board or bed of {words.length(max(-needed, 0.0))} over {words.area(area)}",
            "Board or bed under the shower",
            "Nothing is cut",
        )
        return
    yield from _opened(case, needed, area)
    yield _raised(case, short if short > ROUNDED else needed)
    yield from _on_top(case, needed, area)
    across = channel_along(plan, "entry")
    if across is not None and across.changes:
        channel = LinearDrain.model_validate(across.changes[0].value)
        yield _Told(
            "drain_at_entry",
            "Put a channel across the entry",
            f"a channel of {words.length(channel.size)}",
            "The floor may rise away from the entry, and the waste goes to another place",
            "Water from the room runs to the same channel",
            across.changes,
        )
    less = flatter(case, short)
    if less is not None:
        yield _Told(
            "flatter",
            less.text,
            "nothing",
            "Water runs off more slowly",
            "The rules name the flattest fall; a flat floor shows every hollow as a puddle",
            less.changes,
        )
    thinner = thinner_layers(case, short if short > ROUNDED else needed)
    if thinner is not None:
        yield _Told(
            "thinner",
            thinner.text,
            "thinner tile or adhesive",
            "As thin as its kind usually gets",
            "Thin tile needs a truer bed; the product's own text decides",
            thinner.changes,
        )
    yield from _other_system(case, checks, needed)


def _opened(case: Case, needed: float, area: float) -> Iterator[_Told]:
    """The deck or the slab opened, as the plan has it, and what goes deeper than that."""
    plan, words = case.plan, case.words
    joists = carrier_of(plan).joists
    if joists is None:
        litres = area * needed / 1e6
        yield _Told(
            "cut_slab",
            "Cut a recess and a pipe trench into the slab",
            f"{words.area(area)} cut {words.length(needed, 'up')} deep: {words.bulk(litres)} of "
            f"concrete, {words.weight(litres * TRADE.pipes.concrete.value)}",
            f"{words.length(needed, 'up')} deep under the whole shower; wet cutting",
            "No cut before a scan: stressed cables, heating pipes, damp-proof membrane. A slab "
            "that may be post-tensioned is left to an engineer",
        )
        return
    most = TRADE.practice.joist_centres
    limit, source = most.value, most.source
    own = deck_limit(plan.system, joists.deck_thickness) if plan.system else None
    if own is not None:
        limit, source = own.centres, own.source
    blocked = f". Add joists or blocking: centres are over {words.limit(limit)} ({source})"
    yield _Told(
        "lift_deck",
        "Lift the deck and refit it between the joists",
        f"{words.area(area)} of deck, cleats on both sides of each joist",
        "Cleats on both sides of each joist, set down by the deck's thickness"
        + (blocked if joists.centres > limit + ROUNDED else ""),
        "The joists are not cut. Look for live wires and pipes first; set the blade to the "
        "board's depth",
    )
    yield _Told(
        "structure",
        "Go deeper into the joists",
        "to an engineer's design",
        "Sistering or framing lower, to an engineer's design",
        "Notching or cutting by this plan: it is structure",
        engineer=True,
    )


def _raised(case: Case, by: float) -> _Told:
    plan, words, high = case.plan, case.words, raised_by(case.plan, case.words, by)
    room = without_blocks(plan, Polygon(plan.room.outline))
    rest = room.difference(Polygon(plan.shower.outline)).area
    return _Told(
        "raise_room",
        f"Raise the rest of the room {words.length(high)}",
        f"{words.area(float(rest))} of board or bed, {words.length(high)} thick",
        "Board or a thicker bed over the whole room",
        "Moves the problem to the bathroom door: check its threshold and leaf",
        raised_room(case, by).changes,
    )


def _on_top(case: Case, needed: float, area: float) -> Iterator[_Told]:
    """The shower on the deck as it is, with a ramp before its entry."""
    plan, words, step = case.plan, case.words, case.words.display.step
    if plan.shower.rest is not None:
        return
    set_down = plan.shower.set_down - case.words.up(needed)
    rise = -set_down
    run, slope = ramp_run(case.rules, rise, step), ramp_fall(case.rules)
    if not _room_for_ramp(plan, run):
        return
    changes = [Change(path="/shower/set_down", value=set_down)]
    if rise > 0:
        changes.append(Change(path="/shower/bevel", value={"height": rise, "run": run}))
    yield _Told(
        "on_top",
        "Leave the deck, and lead a ramp up to the shower",
        f"a ramp of {words.length(run)} before {words.length(_entry_width(plan))} of entry",
        f"The ramp takes {words.length(run)} of the room's floor at {words.fall(slope)}",
        "Not level access by itself: hold the ramp and its landing against the rules",
        tuple(changes),
    )


def _room_for_ramp(plan: Plan, run: float) -> bool:
    """Whether the floor before every entry is as long as a ramp."""
    ring, room = ring_of(plan.shower), Polygon(plan.room.outline)
    for i in ring.entries:
        start, end = ring.edge(i)
        out = ring.outwards[i] * run
        if not holds(room, Polygon([start, end, end + out, start + out])):
            return False
    return True


def _entry_width(plan: Plan) -> float:
    ring = ring_of(plan.shower)
    return max(float(np.hypot(*np.diff(ring.edge(i), axis=0)[0])) for i in ring.entries)


def _other_system(case: Case, checks: Sequence[Check], needed: float) -> Iterator[_Told]:
    """Of the systems that take less depth here the one that breaks least, then the shallowest."""
    own = case.plan.system.id if case.plan.system else ""
    found: list[tuple[float, str, Case]] = []
    for system in build_systems().values():
        if system.id == own or case.plan.floor.kind not in system.floors:
            continue
        try:
            built = fitted(case.plan, system, drain_families()[system.family])
            surface = surface_of(built)
        except (PlanError, NoSurfaceError):
            continue
        recess = levels(built, surface).recess
        if recess < needed - case.words.display.step / 2:
            found.append((recess, system.name, Case(built, case.rules, case.words, surface)))
    best: tuple[tuple[int, int], str, Case] | None = None
    for _, name, one in sorted(found, key=lambda one: one[:2]):
        breaks = _fewer_breaks(one, checks, best and best[0])
        if breaks is not None:
            best = (breaks, name, one)
    if best:
        _, name, chosen = best
        yield _Told(
            "another_system",
            f"Use another system: {name[0].lower()}{name[1:]}",
            "what the system is made of",
            "What makes the falls, its layers and its drain are others",
            "Its sizes are usual ones: the product's own text decides. Compare all systems first",
            written(case.plan, chosen.plan),
        )


def _fewer_breaks(
    case: Case, checks: Sequence[Check], most: tuple[int, int] | None
) -> tuple[int, int] | None:
    """How many stops there are on a floor, and how many findings; None as soon as they are no fewer
    than ``most``."""
    stops = count = 0
    for check in checks:
        found = check(case)
        count += len(found)
        stops += sum(one.finding.severity == "stop" for one in found)
        if most is not None and (stops, count) >= most:
            return None
    return stops, count


def _solved(
    case: Case, checks: Sequence[Check], before: Mapping[Key, Finding], way: _Told
) -> Way | None:
    """A way with the figures of the plan that it makes; None where there is no such plan."""
    words, mended = case.words, case
    if way.changes:
        made = made_on(case.plan, case.rules, Cure(text=way.title, changes=way.changes))
        if made is None:
            return None
        mended = made
    plan, surface = mended.plan, mended.surface
    found = in_order(after(mended, checks)) if way.changes else tuple(before.values())
    new = opened(dict(before), found) if way.changes else []
    recess, left = levels(plan, surface).recess, depth_left(plan, surface)
    gives = depth_available(plan) if way.code == "lift_deck" else None
    if way.code == "pack_up":
        gives = -recess
    elif way.changes:
        gives = depth_left(plan, surface) - depth_left(case.plan, case.surface)
    known = not way.engineer and (carrier_of(plan).refitted or recess <= UNSEEN)
    days = TRADE.ways.ways[way.code]
    return Way(
        code=way.code,
        title=way.title,
        gives=gives,
        gives_text=_gives(words, way, gives),
        recess=None if way.engineer else recess,
        recess_text=_recess(words, way, recess),
        left=left if known else None,
        left_text=words.spare(left) if known else "an engineer decides" if way.engineer else "—",
        enough=left >= -UNSEEN if known else None,
        step_text=words.step(step_at_entry(plan, surface)),
        door_text=_doors(mended),
        material=way.material,
        days=days.days,
        costs=way.costs,
        forbids=way.forbids,
        source=days.source,
        findings=tuple(finding.title for finding in found),
        opens=tuple(finding.title for finding in new),
        engineer=way.engineer,
        changes=way.changes,
    )


def _gives(words: Words, way: _Told, gives: float | None) -> str:
    if way.engineer:
        return "engineer only"
    if gives is None:
        return "what the slab allows"
    if way.code == "pack_up":
        return f"{words.length(gives)} to pack"
    return words.length(gives, "down") if gives > ROUNDED else "nothing"


def _recess(words: Words, way: _Told, recess: float) -> str:
    if way.engineer:
        return "—"
    return words.length(recess, "up") if recess > UNSEEN else "none"


def _doors(case: Case) -> str:
    """The highest threshold at a door beyond which the floor was measured."""
    edges = door_edges(case.plan, case.surface)
    if not edges:
        return "not measured" if case.plan.room.doors else "no door"
    worst = max(edges, key=lambda edge: abs(edge.rise))
    return case.words.step(-worst.rise)
