"""The key figures of the depth with their workings."""

from __future__ import annotations

from calm_basin.core.answer.build import figure, input_of
from calm_basin.core.answer.question import Question
from calm_basin.core.answer.result import Figure, Input
from calm_basin.core.answer.words import Words
from calm_basin.core.depth.bar import parts_of
from calm_basin.core.falls.figures import drop_of
from calm_basin.core.falls.step import least_of, step_of, worst_of
from calm_basin.core.geometry.levels import (
    depth_available,
    levels,
    pour_cover,
    under_drain,
)
from calm_basin.core.kinds import carrier_of, former_of
from calm_basin.core.survey.lie import steps_at_entry, sunk_at_entry
from calm_basin.plan.sources import COMMON
from calm_basin.tolerances import UNSEEN

ARITHMETIC = "Arithmetic of the build-up"


def figures(asked: Question) -> dict[str, Figure]:
    """Recess, step and levels; without a floor, what does not hang on it."""
    return _recess(asked) | _step(asked) | _levels(asked)


def _base(asked: Question) -> float | None:
    """The base's level, mm; a tray's is known without a floor."""
    known = asked.surface is not None or former_of(asked.plan.shower).measured_at == "edge"
    return levels(asked.plan, asked.surface).base if known else None


def _recess(asked: Question) -> dict[str, Figure]:
    plan, words = asked.plan, asked.words
    stack, base, available = levels(plan, asked.surface), _base(asked), depth_available(plan)
    left = max(0.0, stack.recess - available)
    needed = None if base is None else -base
    carrier, deck = carrier_of(plan), []
    if carrier.refitted:
        deck = [input_of(words, "deck thickness", available, "/floor/deck_thickness")]
    return {
        "recess_needed": figure(
            "Recess needed",
            needed,
            "none" if base is not None and base >= -UNSEEN else words.length(stack.recess, "up"),
            *_sum(asked, base),
            source=ARITHMETIC,
            note="Rounded up to what can be measured on site."
            if stack.recess > 0
            else f"{words.length(stack.base)} to spare: the shower can be packed up.",
            under=_where_from(words, needed, available, left),
        ),
        "recess_available": figure(
            "Recess available",
            available,
            words.length(available, "down")
            if carrier.refitted or available > 0
            else "none without a scan",
            carrier.gives_why,
            deck,
            source=COMMON,
            note="An engineer decides on anything that touches structure.",
        ),
        "recess_left_to_find": figure(
            "Left to find",
            None if base is None else left,
            words.length(left, "up") if left > UNSEEN else "nothing",
            "left to find = recess needed − recess available, at least 0",
            [
                input_of(words, "recess needed", needed, figure="recess_needed"),
                input_of(words, "available", available, figure="recess_available"),
            ],
            source=ARITHMETIC,
        ),
    }


def _sum(asked: Question, base: float | None) -> tuple[str, list[Input]]:
    """The recess as a sum: all that goes under the room's floor, less what the room builds up."""
    case, words = asked.case, asked.words
    if case is None:
        told = "recess = −base; a base above the deck or slab top needs none"
        return told, [input_of(words, "base level", base, figure="base_level")]
    under = [input_of(words, part.name, part.value, part.path) for part in parts_of(case)]
    less = [
        Input(name=f"less {one.name} of the room", text=f"−{one.text}", field=one.field)
        for one in _room(asked)
    ]
    return (
        "recess = what goes under the room's floor − what the room builds up over the deck or "
        "slab; below 0 none is needed",
        [*under, *less],
    )


def _room(asked: Question) -> list[Input]:
    """What lifts the room's floor over the deck or slab."""
    plan, words = asked.plan, asked.words
    if plan.room.laid is not None:
        return [input_of(words, "floor that is down", plan.room.laid, "/room/laid")]
    room = [
        input_of(words, layer.name, layer.thickness, f"/room/layers/{i}/thickness")
        for i, layer in enumerate(plan.room.layers)
    ]
    if cover := pour_cover(plan):
        at = "/survey/correction/cover"
        room.append(input_of(words, "pour over the high spot", cover, at))
    return room


def _where_from(words: Words, needed: float | None, available: float, left: float) -> str:
    """Where the depth comes from, and what of it is still to be found."""
    if needed is None:
        return "cannot be worked out yet"
    if needed <= UNSEEN:
        return "the shower can be packed up"
    if not available:
        return "slab: none without a scan"
    gives = f"deck gives {words.length(available, 'down')}"
    return f"{gives} · {words.length(left, 'up')} short" if left > UNSEEN else gives


def _step(asked: Question) -> dict[str, Figure]:
    plan, words = asked.plan, asked.words
    steps = [0.0] if asked.surface is None else steps_at_entry(plan, asked.surface).tolist()
    step = worst_of(steps) if asked.surface else None
    falling = step_of(plan, asked.surface) - plan.shower.set_down if asked.surface else None
    sunk = sunk_at_entry(plan, asked.surface) if asked.surface else 0.0
    least = least_of(steps)
    varies = abs(worst_of(steps) - least) >= words.display.step / 2
    given = [
        input_of(words, "set-down", plan.shower.set_down, "/shower/set_down"),
        input_of(words, "fall along the entry", falling),
    ]
    lies = sunk >= words.display.step / 2
    if lies:
        given.append(input_of(words, "room's floor below its high spot, at most", sunk))
    return {
        "step_at_entry": figure(
            "Step at entry",
            step,
            words.step(step or 0.0),
            "step down = set-down + how far the floor falls along the entry edge"
            + (" − how far the room's floor lies below its high spot there" if lies else "")
            + "; below 0 it is a step up",
            given,
            source=ARITHMETIC,
            under="room to shower" + (f", {words.step(least)} at its best" if varies else ""),
        )
    }


def _levels(asked: Question) -> dict[str, Figure]:
    plan, words, shower = asked.plan, asked.words, asked.plan.shower
    stack, former = levels(plan, asked.surface), former_of(shower)
    drain = stack.drain if asked.surface else None
    above = [
        input_of(words, layer.name, layer.thickness, f"/shower/layers/{i}/thickness")
        for i, layer in enumerate(shower.layers)
    ]
    packed: list[Input] = []
    if former.measured_at == "edge":
        stands_on, under = "entry", "tray edge thickness"
        below = [input_of(words, under, former.thickness, "/shower/former/edge_thickness")]
        if former.raised:
            packed = [input_of(words, "packed up", former.raised, "/shower/former/raised")]
    else:
        stands_on, under = "drain", "least thickness at the drain"
        below = [input_of(words, under, under_drain(plan))]
    standing = stack.entry if stands_on == "entry" else drain
    return {
        "room_level": figure(
            "Room FFL",
            stack.room,
            words.length(stack.room),
            "room FFL = sum of the room's layers, from the deck or slab top"
            if plan.room.laid is None
            else "room FFL = the floor that is down, from the deck or slab top",
            _room(asked),
            source=ARITHMETIC,
        ),
        "entry_level": figure(
            "Entry FFL",
            stack.entry,
            words.length(stack.entry),
            "entry FFL = room FFL − rest of the room's fall, and set-down"
            if shower.rest
            else "entry FFL = room FFL − set-down",
            [
                input_of(words, "room FFL", stack.room, figure="room_level"),
                input_of(words, "rest's fall, and set-down", stack.room - stack.entry)
                if shower.rest
                else input_of(words, "set-down", shower.set_down, "/shower/set_down"),
            ],
            source=ARITHMETIC,
        ),
        "drain_level": figure(
            "Drain FFL",
            drain,
            words.length(stack.drain),
            "drain FFL = entry FFL − drop" + (" + packed up" if packed else ""),
            [
                input_of(words, "entry FFL", stack.entry, figure="entry_level"),
                input_of(words, "drop", drop_of(asked), figure="drop_at_drain"),
                *packed,
            ],
            source=ARITHMETIC,
        ),
        "base_level": figure(
            "Base",
            _base(asked),
            words.length(stack.base, "down"),
            f"base = {stands_on} FFL − shower layers − {under}",
            [
                input_of(words, f"{stands_on} FFL", standing, figure=f"{stands_on}_level"),
                *above,
                *below,
                *packed,
            ],
            source=ARITHMETIC,
        ),
    }
