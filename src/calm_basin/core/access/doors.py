"""Doors: too narrow, in the way of fixtures, and steps at them."""

from __future__ import annotations

from math import ceil

from calm_basin.core.access.day import whose
from calm_basin.core.access.floor import on_the_floor, sweep_of
from calm_basin.core.access.ground import clear_opening
from calm_basin.core.access.moves import aside, other_doors, wider_door
from calm_basin.core.answer.build import asked_of, off_limit, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.depth.thresholds import Edge, bevel_fall, door_edges, ramp_run
from calm_basin.core.survey.lie import as_read
from calm_basin.core.survey.truing import pour_over_room
from calm_basin.plan.backs import footprint
from calm_basin.plan.room import Door
from calm_basin.rules import Limit, highest_step, steepest_ramp
from calm_basin.tolerances import TOUCHES


def narrow_doors(case: Case) -> list[Found]:
    """Doors that leave too little free for the users of the room."""
    users = case.plan.users
    limits = [limit for limit in case.rules.on("door_clear") if limit.asked_by(users)]
    found = []
    for i, door in enumerate(case.plan.room.doors if users else ()):
        clear = clear_opening(door)
        over = [limit for limit in limits if clear < limit.value - 1e-6]
        if over:
            limit = max(over, key=lambda one: (one.weight == "required", one.value))
            found.append(_too_narrow(case, i, door, clear, limit))
    return found


def _too_narrow(case: Case, number: int, door: Door, clear: float, limit: Limit) -> Found:
    words = case.words
    finding = off_limit(
        words,
        limit,
        code="door_too_narrow",
        title=f"Door {number + 1} too narrow: {words.length(clear, 'down')} clear, limit "
        f"{words.limit(limit.value)}",
        detail=f"{words.limit(limit.value)} clear is {asked_of(limit)}: "
        f"{whose(case.plan, limit).lower()} has to get through. Leaf and stop take "
        f"{words.length(door.width - clear)}.",
        value=clear,
        applies_to=f"door {number + 1}",
        field="/users",
        about=f"/room/doors/{number}",
    )
    return Found(finding, lambda: wider_door(case, number, limit.value), each=True)


def doors_that_hit(case: Case) -> list[Found]:
    """Doors whose leaf swings into what stands in the room."""
    found = []
    for i, door in enumerate(case.plan.room.doors):
        sweep = sweep_of(case.plan.room, door)
        for number, fixture in enumerate(case.plan.room.fixtures):
            if not on_the_floor(fixture) or sweep.is_empty:
                continue
            if footprint(fixture).intersection(sweep).area <= TOUCHES:
                continue
            finding = unmeasured(
                "door_hits_fixture",
                "caution",
                f"Door {i + 1} swings into the {case.plan.room.called(number)}",
                "It does not open all the way, and leaves less free than it is wide.",
                applies_to=f"door {i + 1}, {fixture.name} {number + 1}",
                source="Geometry of the room",
                field="/room/doors",
            )
            found.append(
                Found(
                    finding,
                    lambda i=i, n=number, s=sweep: [*other_doors(case, i), *aside(case, n, s)],  # type: ignore[misc]
                    each=True,
                )
            )
    return found


def door_steps(case: Case) -> list[Found]:
    """Steps at the bathroom's doors, and ramps that are too steep."""
    found = []
    for edge in door_edges(case.plan, case.surface):
        found += [_high_ramp(case, edge, limit) for limit in case.rules.on("ramp_rise")]
        if not edge.ramp:
            steps = [(limit, abs(edge.rise)) for limit in case.rules.on("entry_step")]
            steps += [(limit, edge.upright) for limit in case.rules.on("edge_upright")]
            over = [limit for limit, high in steps if high > limit.value + 1e-6]
            if over:
                limit = max(over, key=lambda one: (one.weight == "required", one.value))
                found.append(_step(case, edge, limit))
                # What is no ramp is told as the step that it is, once.
                continue
        slopes = case.rules.on("edge_bevel" if edge.saddle else "ramp_fall")
        found += [_too_steep(case, edge, limit) for limit in slopes]
    return [one for one in found if one is not None]


def _step(case: Case, edge: Edge, limit: Limit) -> Found:
    words, number = case.words, (edge.door or 0) + 1
    rise = abs(edge.rise)
    way = "up into" if edge.rise > 0 else "down into"
    layers = case.plan.room.layers
    more = " The room's floor was raised." if any("raises" in x.name for x in layers) else ""
    if edge.refused > 0:
        steepest = words.fall_limit(steepest_ramp())
        more += (
            f" {words.length(edge.refused)} is too short for a ramp: the steepest falls {steepest}."
        )
    if abs(edge.rise - edge.least) >= words.display.step / 2:
        more += f" {words.length(abs(edge.least))} at its best place: the floor there is not level."
    finding = off_limit(
        words,
        limit,
        code="step_at_door",
        title=f"{words.length(rise, 'up')} step {way} the bathroom at door {number}",
        detail=f"No more than {words.limit(limit.value)} is {asked_of(limit)}; however level the "
        f"shower's entry is, this is stepped over first.{more}",
        value=rise,
        applies_to=f"door {number}",
        field="/users",
        about=f"/room/doors/{number - 1}",
    )
    return Found(finding, lambda: _lower(case, edge, limit), each=True)


def _lower(case: Case, edge: Edge, limit: Limit) -> list[Cure | None]:
    """A ramp beyond the door, or a floor that is raised less."""
    words, number = case.words, (edge.door or 0) + 1
    slopes = [
        (ramp_run(case.rules, edge.rise, words.display.step * 10), "Lay a ramp {} long outside")
    ]
    if abs(edge.rise) <= highest_step():
        slopes.insert(0, (_bevel_run(case, edge), "Bevel the threshold over {} at"))
    cures: list[Cure | None] = [
        Cure(
            text=f"{text.format(words.length(run))} door {number}",
            changes=(Change(path=f"/room/doors/{edge.door}/ramp", value=run),),
        )
        for run, text in slopes
    ]
    if as_read(case.plan) is not None:
        cures.append(pour_over_room(case.plan))
    return [*cures, *_less_raised(case, edge, limit)]


def _bevel_run(case: Case, edge: Edge) -> float:
    """How long a threshold's bevel is at the steepest that is allowed, or that is usual, mm."""
    step = case.words.display.step
    return ceil(abs(edge.rise) / bevel_fall(case.rules) / step - 1e-9) * step


def _less_raised(case: Case, edge: Edge, limit: Limit) -> list[Cure | None]:
    """The room's layers laid thinner, down to what is allowed."""
    words, layers = case.words, case.plan.room.layers
    over, cures = abs(edge.rise) - limit.value, list[Cure | None]()
    if edge.rise > 0:
        for i in range(len(layers) - 1, -1, -1):
            less = layers[i].thickness - ceil(over / words.display.step) * words.display.step
            if less >= 0 and ("raises" in layers[i].name or i == len(layers) - 1):
                cures.append(
                    Cure(
                        text=f"Lay the room's {layers[i].name} {words.length(less)} thick",
                        changes=(Change(path=f"/room/layers/{i}/thickness", value=less),),
                    )
                )
    return cures


def _too_steep(case: Case, edge: Edge, limit: Limit) -> Found | None:
    if edge.planned <= limit.value * (1 + 1e-6):
        return None
    words, number = case.words, (edge.door or 0) + 1
    if edge.saddle:
        run = _bevel_run(case, edge)
    else:
        run = ramp_run(case.rules, edge.rise, words.display.step * 10)
    what = "Threshold of" if edge.saddle else "Ramp outside"
    finding = off_limit(
        words,
        limit,
        code="bevel_too_steep" if edge.saddle else "ramp_too_steep",
        title=f"{what} door {number} too steep: {words.fall_off(edge.planned, limit.value)}, limit "
        f"{words.fall_limit(limit.value)}",
        detail=f"It takes up {words.length(abs(edge.rise))}; no more than "
        f"{words.fall_limit(limit.value)} is {asked_of(limit)}.",
        value=edge.planned,
        applies_to=f"door {number}",
        field="/users",
        about=f"/room/doors/{number - 1}",
    )
    cure = Cure(
        text=f"Make the {'bevel' if edge.saddle else 'ramp'} {words.length(run)} long",
        changes=(Change(path=f"/room/doors/{edge.door}/ramp", value=run),),
    )
    return Found(finding, lambda: [cure])


def _high_ramp(case: Case, edge: Edge, limit: Limit) -> Found | None:
    if not edge.ramp or abs(edge.rise) <= limit.value + 1e-6:
        return None
    words, number = case.words, (edge.door or 0) + 1
    finding = off_limit(
        words,
        limit,
        code="ramp_too_high",
        title=f"Ramp outside door {number} too high: {words.length(abs(edge.rise), 'up')}, limit "
        f"{words.limit(limit.value)}",
        detail=f"No more than {words.limit(limit.value)} is {asked_of(limit)}.",
        value=abs(edge.rise),
        applies_to=f"door {number}",
        field="/users",
        about=f"/room/doors/{number - 1}",
    )
    return Found(finding, lambda: _less_raised(case, edge, limit), each=True)


def doors_inwards(case: Case) -> list[Found]:
    """Doors that swing farther into the room than the rules allow."""
    words, found = case.words, []
    for number, door in enumerate(case.plan.room.doors):
        for limit in case.rules.on("door_swing"):
            if not door.sweeps or door.width <= limit.value or not limit.asked_by(case.plan.users):
                continue
            finding = off_limit(
                words,
                limit,
                code="door_swings_in",
                title=f"Door {number + 1} swings into the room",
                detail="Somebody who falls behind it keeps it shut.",
                value=door.width,
                applies_to=f"door {number + 1}",
                field="/users",
                about=f"/room/doors/{number}",
            )
            found.append(Found(finding, lambda i=number: other_doors(case, i), each=True))  # type: ignore[misc]
    return found
