"""Rooms in which a chair cannot turn."""

from __future__ import annotations

from collections.abc import Iterator

from calm_basin.core.access.day import whose
from calm_basin.core.access.ground import Ground
from calm_basin.core.access.moves import SIDES, for_circle
from calm_basin.core.access.once import ground_for, turning_for
from calm_basin.core.access.turns import Turning, shape_on
from calm_basin.core.answer.build import asked_of, broken, severity_of
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Cure
from calm_basin.core.falls.cures import Asked, ask_for
from calm_basin.core.falls.drains import channel_along


def turning_space(case: Case) -> list[Found]:
    """No space to turn in: there is no place for it, or only where the floor is too steep."""
    if not case.plan.users:
        return []
    ground = ground_for(case)
    found, words = turning_for(case), case.words
    limit = found.limit or next(iter(found.spaces), None)
    if limit is None or found.enough:
        return []
    least = found.limit.value if found.limit else found.spaces[0].deep
    steep = on_plan(ground, found)
    if steep:
        why = "There is room on plan, but part of it lies on slopes on which a wheelchair rolls."
    else:
        why = "Fixtures and walls leave no more."
        why += " A step parts the shower from the room." if ground.stepped else ""
    finding = broken(
        words,
        code="turning_too_steep" if steep else "turning_too_small",
        severity=severity_of(limit),
        title=f"Turning circle too small: {words.length(found.gentle.across, 'down')}"
        + (" on floor flat enough to turn on" if steep else "")
        + f", {words.limit(least)} {asked_of(limit)}",
        detail=f"{whose(case.plan, limit)} needs {sizes(case, found)}. {why}",
        value=found.gentle.across,
        limit=least,
        binds="at_least",
        applies_to=limit.applies_to,
        source=limit.source,
        field="/users",
        about="/room",
    )
    return [Found(finding, lambda: _cures(case, ground, found, least, steep), each=True)]


def sizes(case: Case, found: Turning) -> str:
    """What is required for turning, in words."""
    words, parts = case.words, []
    if found.limit is not None:
        parts.append(f"a circle of {words.limit(found.limit.value)}")
    for space in found.spaces:
        across, deep = words.limit(space.across), words.limit(space.deep)
        parts.append(f"a T {across} square" if space.arm else f"{across} × {deep}")
    return " or ".join(parts)


def on_plan(ground: Ground, found: Turning) -> bool:
    """Whether there is room to turn where the fall is left out of account."""
    if found.limit is not None and found.anywhere.fits(found.limit.value):
        return True
    return any(shape_on(ground.parts, space) is not None for space in found.spaces)


def _cures(
    case: Case, ground: Ground, found: Turning, least: float, steep: bool
) -> Iterator[Cure | None]:
    """Gentler floors first where only the floor is in the way; then fixtures a little farther."""
    if steep and ground.most is not None:
        plan, words = case.plan, case.words
        yield ask_for(words, ground.most, Asked.of(plan), steeper=False)
        yield from (channel_along(plan, side, words, ground.most) for side in SIDES)
        return
    yield from for_circle(case, ground, least, max(least - found.anywhere.across, 1.0))
