"""Doors too narrow and rooms in which a chair cannot turn."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice
from math import ceil

import shapely

from calm_basin.core.access.answer import Turning, clear_opening, needed, turning
from calm_basin.core.access.spaces import fixture_shape, free_floor, may_hold, stands
from calm_basin.core.answer.build import broken, severity_of
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.falls.cures import Asked, ask_for
from calm_basin.core.falls.drains import ChannelSide, channel_along
from calm_basin.plan.room import Fixture
from calm_basin.rules import door_leaf

WAYS = (("right", 0, 1), ("left", 0, -1), ("up", 1, 1), ("down", 1, -1))
"""Where a fixture may be moved: in words, along which axis and which way."""

MOST_MOVES, MOST_TRIED, MOST_NEAR = 4, 12, 6
"""So many moves are made on the plan, of so many that are looked at, the shortest ones, of so many
fixtures, the nearest ones."""

SIDES: tuple[ChannelSide, ...] = ("back", "left", "right", "entry")


def turning_space(case: Case) -> list[Found]:
    """No circle to turn in: there is no place for it, or only where the floor is too steep."""
    limit = needed(case.plan, case.rules)
    if limit is None:
        return []
    found, words = turning(case), case.words
    if found.gentle.fits(limit.value):
        return []
    steep = found.anywhere.fits(limit.value)
    why = (
        f"On plan {words.length(found.anywhere.across, 'down')} would fit, but that lies on "
        "planes on which a chair rolls away."
        if steep
        else "Fixtures and walls leave no more."
        + (" A step parts the shower from the room." if found.stepped else "")
    )
    finding = broken(
        words,
        code="turning_too_steep" if steep else "turning_too_small",
        severity=severity_of(limit),
        title=f"A chair has {words.length(found.gentle.across, 'down')} to turn in"
        + (" where the floor is gentle enough" if steep else ""),
        detail=f"A circle of {words.limit(limit.value)} is "
        f"{'asked' if limit.weight == 'required' else 'advised'} for somebody in a chair. {why}",
        value=found.gentle.across,
        limit=limit.value,
        binds="at_least",
        applies_to=limit.applies_to,
        source=limit.source,
        field="/users",
    )
    return [Found(finding, lambda: _cures(case, found, limit.value), each=True)]


def _cures(case: Case, found: Turning, least: float) -> Iterator[Cure | None]:
    """Gentler floors first where only the floor is in the way; then fixtures a little farther."""
    plan, words = case.plan, case.words
    if found.anywhere.fits(least) and found.most is not None:
        yield ask_for(words, found.most, Asked.of(plan), steeper=False)
        yield from (channel_along(plan, side, words, found.most) for side in SIDES)
        return
    yield from islice(_moves(case, found, least), MOST_MOVES)


def _moves(case: Case, found: Turning, least: float) -> Iterator[Cure]:
    """A fixture moved so far that the circle fits on plan, the shortest moves first."""
    room, words = case.plan.room, case.words
    parts = free_floor(room, case.plan.shower.outline, found.stepped)

    def fits(without: Fixture, there: Fixture | None = None) -> bool:
        taken = shapely.Point() if there is None else fixture_shape(there)
        freed = fixture_shape(without)
        return may_hold(tuple(part.union(freed).difference(taken) for part in parts), least)

    # Only what stands near, and would be enough if it were not there at all, is worth moving.
    fixtures, middle = room.fixtures, shapely.Point(found.anywhere.x, found.anywhere.y)
    apart = [fixture_shape(fixture).distance(middle) for fixture in fixtures]
    near = sorted(range(len(fixtures)), key=apart.__getitem__)[:MOST_NEAR]
    blocking = [i for i in near if fits(fixtures[i])]
    standing = islice(_shifts(case, blocking, least - found.anywhere.across), MOST_TRIED)
    for i, far, way, there in standing:
        if fits(fixtures[i], there):
            yield Cure(
                text=f"Move the {there.name} {words.length(far)} {way}",
                changes=(Change(path=f"/room/fixtures/{i}/centre", value=list(there.centre)),),
            )


def _shifts(
    case: Case, blocking: list[int], missing: float
) -> Iterator[tuple[int, float, str, Fixture]]:
    """Fixtures where they could stand as well, the shortest moves first: number, distance, way."""
    step = case.words.display.step * 10
    for share in (1.0, 1.5, 2.0):
        far = ceil(missing * share / step) * step
        for i in blocking:
            for way, axis, sign in WAYS:
                fixture = case.plan.room.fixtures[i]
                to = list(fixture.centre)
                to[axis] += sign * far
                if stands(case.plan, i, (to[0], to[1])):
                    yield i, far, way, fixture.model_copy(update={"centre": (to[0], to[1])})


def doorways(case: Case) -> list[Found]:
    """Doors that leave too little free for whoever will use the room."""
    if not case.plan.users:
        return []
    found = []
    for limit in case.rules.on("door_clear"):
        for i, door in enumerate(case.plan.room.doors):
            clear = clear_opening(door)
            if clear >= limit.value - 1e-6:
                continue
            words, step = case.words, case.words.display.step
            width = ceil((limit.value + door_leaf().value) / step) * step
            finding = broken(
                words,
                code="door_too_narrow",
                severity=severity_of(limit),
                title=f"Door {i + 1} leaves {words.length(clear, 'down')} free",
                detail=f"{words.limit(limit.value)} clear is "
                f"{'asked' if limit.weight == 'required' else 'advised'}. Leaf and stop take "
                f"{words.length(door_leaf().value)} of a hinged door; a sliding one may take "
                f"less. {limit.note}".strip(),
                value=clear,
                limit=limit.value,
                binds="at_least",
                applies_to=f"door {i + 1}, {limit.applies_to}",
                source=limit.source,
                field="/users",
            )
            cure = Cure(
                text=f"Make the opening {words.length(width)} wide",
                changes=(Change(path=f"/room/doors/{i}/width", value=width),),
            )
            found.append(Found(finding, lambda cure=cure: [cure]))  # type: ignore[misc]
    return found
