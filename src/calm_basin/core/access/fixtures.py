"""What stands and hangs in the room: where it may, and whether it can be reached."""

from __future__ import annotations

from collections.abc import Iterator
from functools import partial
from itertools import islice
from math import ceil, inf, isfinite

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.access.day import whose
from calm_basin.core.access.floor import back_of, on_the_floor, over_walls
from calm_basin.core.access.ground import asked_spaces
from calm_basin.core.access.moves import aside, moved
from calm_basin.core.access.once import ground_for
from calm_basin.core.access.turns import reach_of
from calm_basin.core.answer.build import (
    asked_of,
    begun,
    broken,
    off_limit,
    severity_of,
    unmeasured,
)
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.falls.blocks import cut_round, stands_on
from calm_basin.plan.backs import footprint
from calm_basin.plan.room import Fixture, FixtureKind
from calm_basin.plan.sources import COMMON
from calm_basin.plan.users import SITTING
from calm_basin.rules import TRADE, Limit, LimitTopic
from calm_basin.tolerances import ON_EDGE, TOUCHES

HEIGHTS: dict[FixtureKind, LimitTopic] = {
    "control": "control_height",
    "bar": "bar_height",
    "seat": "seat_height",
    "folding seat": "seat_height",
    "bench": "seat_height",
}
"""Which limit is on the height of what."""

DRY: dict[FixtureKind, str] = {
    "WC": "It stands where people wash and takes of their floor. Move it out, or make the shower "
    "smaller.",
    "basin": "It takes of the floor to wash on. Move it out, or make the shower smaller.",
    "cabinet": "It gets wet and takes of the floor to wash on. Move it out, or make the shower "
    "smaller.",
    "radiator": "It gets wet. Move it out, or make the shower smaller; an electric one is for the "
    "electrician to place.",
    "washing machine": "Electric equipment may not stand where water is sprayed. Move it out; the "
    "electrician and local code say how far.",
    "column": "It takes its place out of floor, falls and tray. Cut the floor round it, or lead "
    "the shower's outline past it.",
}
"""What does not stand on a shower's floor, and why; a column stays where it is."""

NOWHERE_WET: tuple[FixtureKind, ...] = ("washing machine", "column")
"""What does not stand in the shower zone of a wet room either."""

SEATS: tuple[FixtureKind, ...] = ("seat", "folding seat", "bench")

MOST_PAIRS, MOST_ASIDE = 6, 2
"""So many pairs that stand in each other are told one by one, those that share most; and so many
moves of each."""


def placed(case: Case) -> list[Found]:
    """Fixtures that reach through a wall or stand on each other."""
    fixtures, room = case.plan.room.fixtures, case.plan.room
    found = [
        _over_wall(case, number, fixture, over)
        for number, fixture in enumerate(fixtures)
        if (over := over_walls(room.outline, fixture)) > 0
    ]
    standing = [i for i, fixture in enumerate(fixtures) if on_the_floor(fixture)]
    shapes = np.array([footprint(fixtures[i]) for i in standing], dtype=object)
    if len(shapes) < 2:
        return found
    pairs = shapely.STRtree(shapes).query(shapes, predicate="intersects").T
    pairs = pairs[pairs[:, 0] < pairs[:, 1]]
    shared = shapely.area(shapely.intersection(shapes[pairs[:, 0]], shapes[pairs[:, 1]]))
    worst = [i for i in np.argsort(-shared, kind="stable") if shared[i] > TOUCHES]
    for i in worst[:MOST_PAIRS]:
        a, b = (standing[k] for k in pairs[i])
        found.append(_on_another(case, a, b, len(worst) - MOST_PAIRS))
    return found


def in_shower(case: Case) -> list[Found]:
    """Fixtures that stand on the shower's floor and do not belong there. In a wet room they may
    stand over the zone's edge, but for what is electric and for what no floor can be laid under."""
    kinds = DRY if case.plan.shower.rest is None else NOWHERE_WET
    return [
        _in_shower(case, number, fixture)
        for number, fixture in enumerate(case.plan.room.fixtures)
        if fixture.kind in kinds and stands_on(case.plan, fixture)
    ]


def _in_shower(case: Case, number: int, fixture: Fixture) -> Found:
    words, name = case.words, case.plan.room.called(number)
    shower, electric = Polygon(case.plan.shower.outline), fixture.kind == "washing machine"
    area = footprint(fixture).intersection(shower).area
    finding = unmeasured(
        "fixture_in_shower",
        "stop" if electric or fixture.kind == "column" else "caution",
        f"{begun(name)} stands in the shower, on {words.patch(area)} of its floor",
        DRY[fixture.kind],
        applies_to=f"{fixture.name} {number + 1}",
        source=TRADE.practice.nothing_electric.source if electric else COMMON,
        field=f"/room/fixtures/{number}/centre",
    )
    if fixture.kind == "column":
        return Found(finding, partial(cut_round, case, number), unbuilt=True)
    return Found(finding, lambda: islice(aside(case, number, shower), MOST_ASIDE), each=True)


def _over_wall(case: Case, number: int, fixture: Fixture, over: float) -> Found:
    words = case.words
    finding = broken(
        words,
        code="fixture_over_wall",
        severity="stop",
        title=f"{words.length(over, 'up')} of the {case.plan.room.called(number)} through a wall",
        detail="Move it inside the room, or correct its size or the wall's place.",
        value=over,
        limit=0.0,
        asked="inside the room",
        applies_to=f"{fixture.name} {number + 1}",
        source="Geometry of the room",
        field=f"/room/fixtures/{number}/centre",
    )
    frame = back_of(fixture)

    def cures() -> Iterator[Cure | None]:
        for axis in (frame.out, -frame.out, frame.along, -frame.along):
            yield moved(case, number, axis * over)

    return Found(finding, cures)


def _on_another(case: Case, number: int, other: int, more: int) -> Found:
    fixtures = case.plan.room.fixtures
    one, two = case.plan.room.called(number), case.plan.room.called(other)
    finding = unmeasured(
        "fixtures_overlap",
        "caution",
        f"The {one} and the {two} stand in the same place",
        f"One of them has to move.{f' So it is with {more} more pairs.' if more > 0 else ''}",
        applies_to=f"{fixtures[number].name} {number + 1}, {fixtures[other].name} {other + 1}",
        source="Geometry of the room",
        field="/room/fixtures",
    )

    def cures() -> Iterator[Cure | None]:
        yield from islice(aside(case, number, footprint(fixtures[other])), MOST_ASIDE)
        yield from islice(aside(case, other, footprint(fixtures[number])), MOST_ASIDE)

    return Found(finding, cures, each=True)


def heights(case: Case) -> list[Found]:
    """Controls, bars and seats that hang too high or too low."""
    found = []
    for number, fixture in enumerate(case.plan.room.fixtures if case.plan.users else ()):
        if fixture.kind not in HEIGHTS or fixture.height <= 0:
            continue
        for limit in case.rules.on(HEIGHTS[fixture.kind]):
            high = limit.binds == "at_most"
            over = fixture.height - limit.value if high else limit.value - fixture.height
            if limit.asked_by(case.plan.users) and over > 1e-6:
                found.append(_height(case, number, fixture, limit))
    return found


def _height(case: Case, number: int, fixture: Fixture, limit: Limit) -> Found:
    words, high = case.words, limit.binds == "at_most"
    whole = words.down(limit.value) if high else words.up(limit.value)
    name = case.plan.room.called(number)
    finding = off_limit(
        words,
        limit,
        code="height_out_of_reach",
        title=f"{begun(name)} too {'high' if high else 'low'}: "
        f"{words.length(fixture.height, 'up' if high else 'down')}, "
        f"limit {words.limit(limit.value)}",
        detail=f"{'No more than' if high else 'At least'} {words.limit(limit.value)} above the "
        f"finished floor is {asked_of(limit)} for {limit.applies_to}.",
        value=fixture.height,
        applies_to=f"{fixture.name} {number + 1}",
        field="/users",
        about=f"/room/fixtures/{number}",
    )
    cure = Cure(
        text=f"Put the {name} {words.length(whole)} up",
        changes=(Change(path=f"/room/fixtures/{number}/height", value=whole),),
    )
    return Found(finding, lambda: [cure])


def reaches(case: Case) -> list[Found]:
    """Controls too far from where a chair can stand, or from the seat."""
    plan = case.plan
    controls = [(i, one) for i, one in enumerate(plan.room.fixtures) if one.kind == "control"]
    if not controls or not plan.users:
        return []
    seats = [one for one in plan.room.fixtures if one.kind in SEATS]
    sitting = any(user in SITTING for user in plan.users)
    found = []
    for number, control in controls:
        held: list[tuple[Limit, float]] = []
        if seats:
            far = min(from_wall(seat, control) for seat in seats)
            held += [(limit, far) for limit in case.rules.on("seat_reach")]
        way = from_chair(case, control) if sitting else None
        if sitting:
            far = inf if way is None else float(way.length)
            over = way is not None and passes_over(case, way)
            topic: LimitTopic = "control_over" if over else "control_reach"
            held += [(limit, far) for limit in case.rules.on(topic)]
            found += _high_over(case, number, control, far if over else 0.0)
        found += [
            _out_of_reach(case, number, control, far, limit)
            for limit, far in held
            if limit.asked_by(plan.users) and far > limit.value + 2 * ON_EDGE
        ]
    return found


def _high_over(case: Case, number: int, control: Fixture, far: float) -> list[Found]:
    """Controls that are too high for what is reached over to get at them."""
    free = min((limit.value for limit in case.rules.on("control_reach")), default=inf)
    if far <= free + 2 * ON_EDGE or control.height <= 0:
        return []
    return [
        _height(case, number, control, limit)
        for limit in case.rules.on("control_over_height")
        if limit.asked_by(case.plan.users) and control.height > limit.value + 1e-6
    ]


def from_wall(seat: Fixture, control: Fixture) -> float:
    """How far a control lies from the wall of a seat, mm."""
    frame = back_of(seat)
    return abs(float((np.array(control.centre) - frame.origin) @ frame.out))


def passes_over(case: Case, way: LineString) -> bool:
    """Whether something stands on the floor between a chair and what is reached from it."""
    shapes = [footprint(one) for one in case.plan.room.fixtures if on_the_floor(one)]
    over = shapely.length(shapely.intersection(shapes, way))
    return bool((over > 2 * ON_EDGE).any())


def from_chair(case: Case, control: Fixture) -> LineString | None:
    """From where a chair can stand nearest to a control; None where it can stand nowhere."""
    ground = ground_for(case)
    asked = asked_spaces(ground, "before_basin")
    chair = TRADE.practice.chair_width.value, TRADE.practice.chair_floor.value
    wide, deep = (asked[0].across, asked[0].deep) if asked else chair
    return reach_of(ground, np.array(control.centre), wide, deep)


def _out_of_reach(case: Case, number: int, control: Fixture, far: float, limit: Limit) -> Found:
    words = case.words
    seat, name = limit.topic == "seat_reach", case.plan.room.called(number)
    applies_to = f"{control.name} {number + 1}"
    if not isfinite(far):
        told = unmeasured(
            "control_out_of_reach",
            severity_of(limit),
            f"No wheelchair can stand near the {name}",
            f"{whose(case.plan, limit)} has to reach it, and there is no free floor for a "
            "wheelchair.",
            applies_to=f"{applies_to}, {limit.applies_to}",
            source=limit.source,
            field="/users",
            about=f"/room/fixtures/{number}",
        )
        return Found(told)
    finding = off_limit(
        words,
        limit,
        code="control_out_of_reach",
        title=f"{begun(name)} out of reach: {words.length(far, 'up')} from "
        f"{'the wall of the seat' if seat else 'a wheelchair'}, limit {words.limit(limit.value)}",
        detail=f"{whose(case.plan, limit)} has to reach it; no more than "
        f"{words.limit(limit.value)} is {asked_of(limit)}.",
        value=far,
        applies_to=applies_to,
        field="/users",
        about=f"/room/fixtures/{number}",
    )

    def cures() -> Iterator[Cure | None]:
        along = back_of(control).along
        if seat:
            # Nearer to the seat's wall: out of it and back, whichever wall the control hangs on.
            one = next(one for one in case.plan.room.fixtures if one.kind in SEATS)
            along = back_of(one).out
        for way in (along, -along):
            yield slid(case, number, way * (far - limit.value))

    return Found(finding, cures, each=True)


def slid(case: Case, number: int, by: np.ndarray) -> Cure | None:
    """What hangs on a wall moved along it by (dx, dy), mm."""
    fixture, step = case.plan.room.fixtures[number], case.words.display.step
    far = float(np.hypot(*by))
    if far < 1e-9:
        return None
    whole = by / far * ceil(far / step + 1) * step
    x, y = (float(round(v, 4)) for v in np.array(fixture.centre) + whole)
    if not shapely.contains_xy(Polygon(case.plan.room.outline).buffer(ON_EDGE), x, y):
        return None
    way = case.words.move(float(whole[0]), float(whole[1]))
    return Cure(
        text=f"Move the {case.plan.room.called(number)} {way}",
        changes=(Change(path=f"/room/fixtures/{number}/centre", value=[x, y]),),
    )
