"""The spaces of a plan and its doors' clear openings, with their workings."""

from __future__ import annotations

from dataclasses import dataclass

import shapely

from calm_basin.core.access.result import AccessResult, Space
from calm_basin.core.access.spaces import (
    Circle,
    free_floor,
    largest_circle,
    steep_planes,
)
from calm_basin.core.answer.build import figure, input_of
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.question import Answer, Question
from calm_basin.core.answer.result import Figure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.limits import TOLERANCE
from calm_basin.core.falls.step import step_of
from calm_basin.plan import Plan
from calm_basin.plan.room import Door
from calm_basin.rules import Limit, RuleSet, door_leaf

FREE = "Geometry of the room"

CHAIR = "a person in a chair"


@dataclass(frozen=True)
class Turning:
    """The largest circles: on the free floor, and on as much of it as falls at most ``most`` (rise
    over run, None where nothing is asked). ``stepped``: a step parts shower and room."""

    anywhere: Circle
    gentle: Circle
    most: float | None
    stepped: bool


def turning(case: Case) -> Turning:
    """Where a chair can turn on the floor as it will be built."""
    most = steepest_to_turn_on(case.rules)
    steps = [limit.value for limit in case.rules.on("entry_step")]
    stepped = abs(step_of(case.plan, case.surface)) > max(steps, default=0.0) + TOLERANCE
    parts = free_floor(case.plan.room, case.plan.shower.outline, stepped)
    anywhere = largest_circle(parts)
    if most is None:
        return Turning(anywhere, anywhere, None, stepped)
    steep = steep_planes(case.surface, most * (1 + TOLERANCE))
    gentle = anywhere
    if not steep.is_empty:
        gentle = largest_circle(tuple(shapely.difference(part, steep) for part in parts))
    return Turning(anywhere, gentle, most, stepped)


def steepest_to_turn_on(rules: RuleSet) -> float | None:
    """The most that a floor may fall under a chair, rise over run."""
    falls = [limit for limit in rules.on("shower_fall") if limit.binds == "at_most"]
    chair = [limit.value for limit in falls if limit.applies_to == CHAIR]
    return min(chair or [limit.value for limit in falls], default=None)


def clear_opening(door: Door) -> float:
    """What a hinged door leaves free when it stands open at a right angle, mm."""
    return door.width - door_leaf().value


def needed(plan: Plan, rules: RuleSet) -> Limit | None:
    """The turning circle that is asked for whoever will use the room."""
    return next(iter(rules.on("turning_circle")), None) if "chair" in plan.users else None


def access(asked: Question) -> Answer:
    """What is sent: nothing where nobody said who will use the room, or there is no floor."""
    case = asked.case
    if case is None or not asked.plan.users:
        return {}
    plan, words = asked.plan, asked.words
    found, limit = turning(case), needed(plan, asked.rules)
    least = None if limit is None else limit.value

    def space(name: str, circle: Circle) -> Space:
        enough = None if least is None else circle.fits(least)
        text = words.length(circle.across, "down")
        return Space(
            name=name, x=circle.x, y=circle.y, across=circle.across, text=text, enough=enough
        )

    spaces = [space("Turning circle on this floor", found.gentle)]
    if not found.gentle.fits(found.anywhere.across):
        spaces.append(space("Larger, but on a floor that is too steep", found.anywhere))
    return {
        "access": AccessResult(
            spaces=tuple(one for one in spaces if one.across > 0),
            asked=_asked(words, asked, limit),
            figures=(
                _turning_figure(words, found, limit),
                *(_door_figure(words, i, door) for i, door in enumerate(plan.room.doors)),
            ),
        )
    }


def _asked(words: Words, asked: Question, limit: Limit | None) -> str:
    if limit is not None:
        return f"A circle of {words.limit(limit.value)} is asked: {limit.source}."
    if "chair" not in asked.plan.users:
        return "No space to turn is asked for whoever walks."
    return f"{asked.rules.name} asks for no circle to turn in: choose a rule set that does."


def _turning_figure(words: Words, found: Turning, limit: Limit | None) -> Figure:
    given = [input_of(words, "largest on plan", found.anywhere.across)]
    if found.most is not None:
        given.append(input_of(words, "largest where it is gentle enough", found.gentle.across))
    fall = "" if found.most is None else f" that falls at most {words.fall_limit(found.most)}"
    return figure(
        "Turning circle",
        found.gentle.across,
        words.length(found.gentle.across, "down"),
        f"largest circle on the floor{fall} and that nothing stands on",
        given,
        source=FREE if limit is None else limit.source,
        note="A step parts the shower from the room: no circle lies across it."
        if found.stepped
        else "Doors may swing into it.",
    )


def _door_figure(words: Words, number: int, door: Door) -> Figure:
    return figure(
        f"Door {number + 1}, clear",
        clear_opening(door),
        words.length(clear_opening(door), "down"),
        "clear opening = width between jambs − leaf and stop",
        [
            input_of(words, "width", door.width),
            input_of(words, "leaf and stop", door_leaf().value),
        ],
        source=door_leaf().source,
    )
