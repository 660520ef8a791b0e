"""Why there is no floor, and what would let there be one."""

from __future__ import annotations

from calm_basin.core.answer.build import GEOMETRY, unmeasured
from calm_basin.core.answer.question import Question
from calm_basin.core.answer.result import Change, Cure, Finding
from calm_basin.core.answer.taped import place_text
from calm_basin.core.falls import NoSurfaceError
from calm_basin.core.falls.cures import bed_instead, without_rest
from calm_basin.core.falls.drains import (
    bring_drain_inside,
    channel_along,
    drain_in_the_middle,
    second_drain,
    two_drains,
    without_second_drain,
)
from calm_basin.core.kinds import drain_kind
from calm_basin.core.trying import made_without_floor
from calm_basin.plan import Plan


def no_surface(asked: Question, reason: NoSurfaceError) -> Finding:
    """Why the falls cannot be worked out, and what would let them be."""
    plan, words, why = asked.plan, asked.words, _said(asked, reason)
    cures: list[Cure | None] = []
    if reason.code == "drain_outside":
        title = "The drain reaches outside the shower"
        detail = f"{why} Its whole rim has to lie inside, clear of the walls."
        cures.append(bring_drain_inside(plan, words))
        if drain_kind(plan.shower.drain).point is not None:
            cures.append(drain_in_the_middle(plan))
    elif reason.code == "drain_hidden":
        title = "A corner hides part of the shower from the drain"
        detail = f"{why} Move the drain to where it sees every wall, or give it a second one."
        cures.append(bring_drain_inside(plan, words))
        cures.append(second_drain(plan, words))
    elif reason.code == "water_trapped":
        title = "Water would stand behind a corner"
        detail = why
        cures += [_falling_entry(plan), drain_in_the_middle(plan), two_drains(plan, words)]
        cures.append(without_rest(plan))
    else:
        title = "This arrangement does not fit the shower"
        detail = why
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
        cures=made_without_floor(plan, asked.rules, asked.checks, cures),
    )


def _said(asked: Question, reason: NoSurfaceError) -> str:
    """Why, with the place as a tape finds it."""
    if reason.place is None:
        return str(reason)
    place = place_text(asked.plan.room.outline, reason.place, asked.words)
    return str(reason).format(place=f"({place})")


def _falling_entry(plan: Plan) -> Cure | None:
    """An even floor whose entry falls with it."""
    fall = plan.shower.fall
    if fall.edge != "even" or not fall.entry_level:
        return None
    return Cure(
        text="Let the entry's edge fall with the floor",
        changes=(Change(path="/shower/fall/entry_level", value=False),),
    )
