"""The WC: how far it stands from what is beside it, and from where one changes over to it."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.access.day import who
from calm_basin.core.access.floor import back_of, on_the_floor
from calm_basin.core.access.moves import moved
from calm_basin.core.answer.build import asked_of, broken, off_limit, severity_of
from calm_basin.core.answer.case import Case, Found
from calm_basin.plan.backs import footprint
from calm_basin.plan.users import SITTING
from calm_basin.rules import TRADE, Limit
from calm_basin.tolerances import ON_EDGE


def wc_sides(case: Case) -> list[Found]:
    """WCs that stand too near to what is beside them, or too far from their side wall."""
    users, limits = case.plan.users, case.rules.on("wc_side")
    if not users or not limits:
        return []
    found = []
    for number, fixture in enumerate(case.plan.room.fixtures):
        if fixture.kind != "WC":
            continue
        near, wall = beside(case, number)
        for limit in limits:
            least = limit.binds == "at_least"
            there = min(near) if least else min(wall)
            over = limit.value - there if least else there - limit.value
            if not limit.asked_by(users) or over <= 2 * ON_EDGE:
                continue
            # Away from what is near, or towards the wall that is nearer.
            side = near.index(min(near)) if least else wall.index(min(wall))
            right = (1.0 if side == 0 else -1.0) * (1.0 if least else -1.0)
            found.append(_side(case, number, limit, there, right * over))
    return found


def beside(case: Case, number: int) -> tuple[list[float], list[float]]:
    """How far the middle of a WC lies from what is nearest on its left and right, and from the
    walls there, mm: seen by a person on it."""
    room = case.plan.room
    fixture = room.fixtures[number]
    frame, inside = back_of(fixture), Polygon(room.outline)
    others = [
        footprint(one) for i, one in enumerate(room.fixtures) if i != number and on_the_floor(one)
    ]
    band = shapely.box(-50_000, ON_EDGE, 50_000, fixture.length)
    found: list[list[float]] = [[], []]
    for which, floor_ in enumerate((inside.difference(shapely.union_all(others)), inside)):
        pieces = shapely.get_parts(band.difference(frame.within(floor_)))
        bounds = np.array([piece.bounds for piece in pieces if piece.area > 1.0])
        left, right = bounds[bounds[:, 2] < 1.0, 2], bounds[bounds[:, 0] > -1.0, 0]
        found[which] = [
            float(-left.max()) if len(left) else 50_000.0,
            float(right.min()) if len(right) else 50_000.0,
        ]
    return found[0], found[1]


def _side(case: Case, number: int, limit: Limit, there: float, right: float) -> Found:
    words, fixture = case.words, case.plan.room.fixtures[number]
    least = limit.binds == "at_least"
    finding = off_limit(
        words,
        limit,
        code="wc_beside",
        title=f"Middle of the {case.plan.room.called(number)} too "
        f"{'close to what is beside it' if least else 'far from its side wall'}: "
        f"{words.length(there, 'down' if least else 'up')}, limit {words.limit(limit.value)}",
        detail=f"{'At least' if least else 'No more than'} {words.limit(limit.value)} is "
        f"{asked_of(limit)}.",
        value=there,
        applies_to=f"{fixture.name} {number + 1}, {limit.binds}",
        field="/users",
        about=f"/room/fixtures/{number}",
    )
    by = back_of(fixture).along * right
    return Found(finding, lambda: [moved(case, number, by)])


def free_beside(case: Case) -> list[Found]:
    """WCs beside which too little is free on either side."""
    users, words, found = case.plan.users, case.words, []
    asked = [limit for limit in case.rules.on("wc_free") if users and limit.asked_by(users)]
    limit = max(asked, key=lambda one: one.value, default=None)
    for number, fixture in enumerate(case.plan.room.fixtures):
        if limit is None or fixture.kind != "WC":
            continue
        sides = _free(case, number)
        missing, there = limit.value - min(sides), max(min(sides), 0.0)
        if missing <= 2 * ON_EDGE:
            continue
        finding = off_limit(
            words,
            limit,
            code="wc_beside",
            title=f"Too little floor beside the {case.plan.room.called(number)}: "
            f"{words.length(there, 'down')}, limit {words.limit(limit.value)}",
            detail=f"At least {words.limit(limit.value)} is {asked_of(limit)} on each side.",
            value=there,
            applies_to=f"{fixture.name} {number + 1}, beside",
            field="/users",
            about=f"/room/fixtures/{number}",
        )
        away = back_of(fixture).along * missing * (1 if sides[0] < sides[1] else -1)
        found.append(Found(finding, lambda n=number, by=away: [moved(case, n, by)]))  # type: ignore[misc]
    return found


def _free(case: Case, number: int) -> tuple[float, float]:
    """What is free on the left and right of a WC, mm, seen by a person on it."""
    near, _ = beside(case, number)
    half = case.plan.room.fixtures[number].width / 2
    return near[0] - half, near[1] - half


def transfers(case: Case) -> list[Found]:
    """WCs beside which there is no floor to change over from: on the side that somebody needs, or
    where that is not said and the rules ask for one, on the better one."""
    plan, words = case.plan, case.words
    sitting = [user for user in plan.users if user in SITTING]
    asked = [limit for limit in case.rules.on("wc_transfer") if limit.asked_by(plan.users)]
    if not sitting or (plan.transfer is None and not asked):
        return []
    found = []
    for number, fixture in enumerate(plan.room.fixtures):
        if fixture.kind != "WC":
            continue
        left, right = _free(case, number)
        side = plan.transfer or ("left" if left >= right else "right")
        there = max(left if side == "left" else right, 0.0)
        limit = max(asked, key=lambda one: one.value, default=None)
        need = TRADE.practice.transfer_floor.value if limit is None else limit.value
        if need - there <= 2 * ON_EDGE:
            continue
        finding = broken(
            words,
            code="no_side_to_transfer",
            severity="caution" if limit is None else severity_of(limit),
            title=f"Too little floor on the {side} of the {case.plan.room.called(number)}: "
            f"{words.length(there, 'down')}, limit {words.limit(need)}",
            detail=f"{who(sitting)} changes over to it from there, and needs "
            f"{words.limit(need)} for the wheelchair beside it.",
            value=there,
            limit=need,
            binds="at_least",
            applies_to=f"{fixture.name} {number + 1}, from the {side}",
            source=TRADE.practice.transfer_floor.source if limit is None else limit.source,
            field="/users",
            about=f"/room/fixtures/{number}",
        )
        away = back_of(fixture).along * (need - there) * (1 if side == "left" else -1)
        found.append(Found(finding, lambda n=number, by=away: [moved(case, n, by)]))  # type: ignore[misc]
    return found
