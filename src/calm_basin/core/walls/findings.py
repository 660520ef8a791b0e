"""What is wrong with walls: lines that do not agree, studs too far apart, niches and valves."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from math import hypot

import numpy as np

from calm_basin.core.answer.build import GEOMETRY, broken, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.answer.words import Words
from calm_basin.core.walls.frame import (
    USUAL_CENTRES,
    Box,
    Hung,
    Span,
    WallFrame,
    frame,
    frames,
    stud_centres,
)
from calm_basin.plan import Plan, PlanError
from calm_basin.plan.backs import Side
from calm_basin.plan.common import CommonSizes
from calm_basin.plan.edits import measured_at_studs
from calm_basin.plan.framing import offset, studs_cross, wall_depths
from calm_basin.plan.layers import thick
from calm_basin.plan.pointers import at
from calm_basin.plan.walls import Valve
from calm_basin.rules import TRADE
from calm_basin.tolerances import ON_EDGE

MOVED = (
    "/room/outline",
    "/room/doors",
    "/room/fixtures",
    "/shower/outline",
    "/shower/drain",
    "/walls/niches",
)
"""What moves with the finished walls."""


def off_studs(case: Case) -> list[Found]:
    """Finished walls that do not stand in front of the studs by what is on them."""
    plan, words = case.plan, case.words
    if plan.walls.studs is None:
        return []
    wanted = offset(plan.walls.studs, [-depth for depth in wall_depths(plan)])
    off = max(hypot(x - u, y - v) for (x, y), (u, v) in zip(wanted, plan.room.outline, strict=True))
    if off <= ON_EDGE:
        return []
    finding = broken(
        words,
        code="walls_off_studs",
        severity="stop",
        title=f"Finished walls drawn {words.length(off, 'up')} off where they will stand",
        detail="The room was measured from stud to stud. What is on the studs puts its finished "
        "walls elsewhere than the plan draws them, so every size between them is off.",
        value=off,
        limit=0.0,
        applies_to="the room",
        source=GEOMETRY,
        field="/walls/studs",
    )
    drawn = Cure(
        text="Take the walls as drawn for the finished ones",
        changes=(Change(path="/walls/studs", value=None),),
    )
    return [Found(finding, lambda: [_moved(plan), drawn], each=True)]


def _moved(plan: Plan) -> Cure | None:
    try:
        after = measured_at_studs(plan).model_dump(mode="json")
    except PlanError:
        return None
    before = plan.model_dump(mode="json")
    changes = tuple(
        Change(path=path, value=at(after, path))
        for path in MOVED
        if at(before, path) != at(after, path)
    )
    return Cure(text="Move the finished walls in front of the studs", changes=changes)


def crossing_studs(case: Case) -> list[Found]:
    """A wall that is thinner than what is on its two faces."""
    if not studs_cross(case.plan):
        return []
    depths = wall_depths(case.plan)
    finding = unmeasured(
        "studs_cross",
        "stop",
        "A wall that juts into the room is thinner than what is on both of its faces",
        f"Up to {case.words.length(max(depths))} is on a face. Check the layers and the sizes of "
        "that wall. Until then studs are taken to stand at the finished walls.",
        applies_to="the room",
        source=GEOMETRY,
        field="/walls/shower",
    )
    return [Found(finding)]


def wide_centres(case: Case) -> list[Found]:
    """Studs that are farther apart than boards allow."""
    plan, words, most = case.plan, case.words, TRADE.walls.stud_centres
    centres = stud_centres(plan)
    if centres <= most.value + ON_EDGE:
        return []
    usual = CommonSizes(plan.display.length).size(*USUAL_CENTRES)
    finding = broken(
        words,
        code="studs_too_far_apart",
        severity="caution",
        title=f"Studs {words.length(centres)} apart, limit {words.limit(most.value)}",
        detail="Boards bend between studs this far apart, and tile joints crack.",
        value=centres,
        limit=most.value,
        applies_to="the shower's walls",
        source=most.source,
        field="/walls/centres",
    )
    cure = Cure(
        text=f"Set studs {words.length(usual)} apart",
        changes=(Change(path="/walls/centres", value=usual),),
    )
    return [Found(finding, lambda: [cure])]


def niches(case: Case) -> list[Found]:
    """Niches that do not lie between two studs."""
    plan, words = case.plan, case.words
    found = []
    for number, niche in enumerate(plan.walls.niches):
        if niche.kind == "window":
            continue
        seen = frame(plan, niche.wall)
        box = dict(seen.niches)[number]
        cut = max(min(box.x.high, s.high) - max(box.x.low, s.low) for s in seen.studs)
        if cut <= ON_EDGE:
            continue
        finding = broken(
            words,
            code="niche_on_stud",
            severity="stop",
            title=f"Niche {number + 1} cuts {words.length(cut, 'up')} into a stud",
            detail="It has to lie between two studs. Cutting a stud needs a header, and in a wall "
            "that bears an engineer's design.",
            value=cut,
            limit=0.0,
            applies_to=f"niche {number + 1}",
            source=GEOMETRY,
            field=f"/walls/niches/{number}",
        )
        found.append(Found(finding, partial(_between, plan, words, number), each=True))
    return found


def _between(plan: Plan, words: Words, number: int) -> Iterator[Cure]:
    """Move the niche into the nearest bay that holds it, or make it as wide as its bay."""
    niche = plan.walls.niches[number]
    seen = frame(plan, niche.wall)
    box: Box = dict(seen.niches)[number]
    path = f"/walls/niches/{number}"
    # A larger offset lies further to the left or to the right, as the outline goes round.
    moved_on = frame(_with_niche(plan, number, niche.offset + 1), niche.wall)
    sign = dict(moved_on.niches)[number].x.low - box.x.low
    fitting = [bay for bay in seen.bays if bay.size >= box.x.size - ON_EDGE]
    shifts = [
        min(max(box.x.low, bay.low), max(bay.high - box.x.size, bay.low)) - box.x.low
        for bay in fitting
    ]
    if shifts:
        shift = min(shifts, key=abs)
        at = round(max(niche.offset + shift * sign, 0.0), 4)
        way = "right" if shift > 0 else "left"
        yield Cure(
            text=f"Move niche {number + 1} {words.length(abs(shift))} {way}",
            changes=(Change(path=f"{path}/offset", value=at),),
        )
        return
    middle = (box.x.low + box.x.high) / 2
    bay = min(seen.bays, key=lambda b: abs((b.low + b.high) / 2 - middle), default=None)
    if bay is None:
        return
    at = niche.offset + ((bay.low + bay.high) / 2 - middle) * sign
    at += (niche.width - bay.size) / 2
    yield Cure(
        text=f"Make niche {number + 1} {words.length(bay.size, 'down')} wide, between two studs",
        changes=(
            Change(path=f"{path}/width", value=round(bay.size, 4)),
            Change(path=f"{path}/offset", value=round(max(at, 0.0), 4)),
        ),
    )


def _with_niche(plan: Plan, number: int, at: float) -> Plan:
    rows = list(plan.walls.niches)
    rows[number] = rows[number].model_copy(update={"offset": at})
    walls = plan.walls.model_copy(update={"niches": tuple(rows)})
    return plan.model_copy(update={"walls": walls})


def valve_on_stud(case: Case) -> list[Found]:
    """Valves whose body has no room beside a stud."""
    plan, words, takes = case.plan, case.words, TRADE.walls.valve_body
    found = []
    for seen in frames(plan) if plan.walls.shower else ():
        for one in (hung for hung in seen.hung if hung.kind == "control"):
            middle = (one.x.low + one.x.high) / 2
            body = Span(middle - takes.value / 2, middle + takes.value / 2)
            cut = max(min(body.high, s.high) - max(body.low, s.low) for s in seen.studs)
            if cut <= ON_EDGE:
                continue
            name = plan.room.fixtures[one.number].name
            finding = broken(
                words,
                code="valve_on_stud",
                severity="caution",
                title=f"{name.capitalize()} sits on a stud",
                detail=f"Its body takes about {words.length(takes.value)} between two studs, with "
                "room for the pipes.",
                value=cut,
                limit=0.0,
                applies_to=name,
                source=takes.source,
                field=f"/room/fixtures/{one.number}",
            )
            found.append(Found(finding, partial(_beside, plan, words, seen, one, body)))
    return found


def _beside(plan: Plan, words: Words, seen: WallFrame, one: Hung, body: Span) -> list[Cure]:
    """Move the valve along its wall into the nearest bay that holds its body."""
    shifts = [
        min(max(body.low, bay.low), bay.high - body.size) - body.low
        for bay in seen.bays
        if bay.size >= body.size
    ]
    if not shifts:
        return []
    shift = min(shifts, key=abs)
    side = Side.of(plan.room.outline, seen.wall)
    # To the right as seen from inside is the way inwards, turned by a quarter.
    right = np.array([-side.inward[1], side.inward[0]])
    fixture = plan.room.fixtures[one.number]
    x, y = np.array(fixture.centre) + right * shift
    way = "right" if shift > 0 else "left"
    return [
        Cure(
            text=f"Move {fixture.name} {words.length(abs(shift))} {way}",
            changes=(
                Change(
                    path=f"/room/fixtures/{one.number}/centre",
                    value=[round(float(x), 4), round(float(y), 4)],
                ),
            ),
        )
    ]


def before_valve(plan: Plan, valve: Valve) -> float:
    """How thick the wall is in front of where the valve is fixed, mm."""
    return thick(plan.walls.shower) - valve.forward


def valve_depth(case: Case) -> list[Found]:
    """A wall that is too thick or too thin for the valve in it."""
    plan, words, valve = case.plan, case.words, case.plan.walls.valve
    if valve is None or not plan.walls.shower:
        return []
    wall = before_valve(plan, valve)
    if valve.least - ON_EDGE <= wall <= valve.most + ON_EDGE:
        return []
    deep = wall > valve.most
    limit = valve.most if deep else valve.least
    finding = broken(
        words,
        code="valve_depth",
        severity="stop",
        title=f"Valve {words.length(abs(wall - limit), 'up')} too {'deep' if deep else 'shallow'} "
        "in the wall",
        detail="Its handle and trim do not meet the tile. The wall in front of it is "
        f"{words.length(wall)} thick; it takes {words.length(valve.least)} to "
        f"{words.length(valve.most)}.",
        value=wall,
        limit=limit,
        binds="at_most" if deep else "at_least",
        applies_to="the valve",
        source="The valve's own text, as typed",
        field="/walls/valve",
    )

    def candidates() -> list[Cure]:
        forward = round(thick(plan.walls.shower) - (valve.least + valve.most) / 2, 4)
        where = "in front of" if forward >= 0 else "behind"
        return [
            Cure(
                text=f"Fix the valve {words.length(abs(forward))} {where} the studs' faces",
                changes=(Change(path="/walls/valve/forward", value=forward),),
            )
        ]

    return [Found(finding, candidates)]
