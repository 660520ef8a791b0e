"""Changes that make room: fixtures moved, doors hung otherwise."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice
from math import ceil

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.access.fitting import may_hold
from calm_basin.core.access.floor import (
    back_of,
    free_floor,
    front_of,
    on_the_floor,
    stands,
)
from calm_basin.core.access.ground import Ground, Spot, clear_opening
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Change, Cure
from calm_basin.core.falls.drains import ChannelSide
from calm_basin.core.geometry.surface import Array
from calm_basin.plan.backs import footprint
from calm_basin.plan.room import Fixture, FixtureKind
from calm_basin.tolerances import ON_EDGE

WAYS = (("right", 0, 1), ("left", 0, -1), ("up", 1, 1), ("down", 1, -1))
"""Where a fixture may be moved: in words, along which axis and which way."""

MOST_MOVES, MOST_TRIED, MOST_NEAR = 4, 12, 6
"""So many moves are made on the plan, of so many that are looked at, the shortest ones, of so many
fixtures, the nearest ones."""

SWAPPED: tuple[FixtureKind, ...] = ("WC", "basin", "cabinet", "washing machine")
"""What may stand in another's place."""

SIDES: tuple[ChannelSide, ...] = ("back", "left", "right", "entry")


def moved(case: Case, number: int, by: Array) -> Cure | None:
    """A fixture moved by (dx, dy), mm, where it can stand there; the move is rounded away from
    where it is to what is shown on site."""
    words, fixture = case.words, case.plan.room.fixtures[number]
    far = float(np.hypot(*by))
    if far < 1e-9:
        return None
    whole = by / far * words.up(far)
    x, y = (float(round(v, 4)) for v in np.array(fixture.centre) + whole)
    if not stands(case.plan, number, (x, y)):
        return None
    name, way = case.plan.room.called(number), words.move(float(whole[0]), float(whole[1]))
    return Cure(
        text=f"Move the {name} {way}",
        changes=(Change(path=f"/room/fixtures/{number}/centre", value=[x, y]),),
    )


def for_spot(case: Case, spot: Spot) -> Iterator[Cure | None]:
    """Changes that free a space: what it is at goes along its wall, what stands in it steps aside,
    doors that swing over it open outwards."""
    if spot.swept or spot.door is not None:
        yield from other_doors(case, spot.door)
    if spot.fits:
        return
    fixtures = case.plan.room.fixtures
    if spot.fixture is not None and spot.shift is not None:
        frame = front_of(fixtures[spot.fixture])
        yield moved(case, spot.fixture, frame.along * spot.shift)
    if spot.fixture is not None:
        yield from swaps(case, spot.fixture)
    inside = [
        i
        for i, fixture in enumerate(fixtures)
        if i != spot.fixture
        and on_the_floor(fixture)
        and footprint(fixture).intersection(spot.outline).area > 1.0
    ]
    for i in inside[:MOST_NEAR]:
        yield from islice((aside(case, i, spot.outline)), MOST_MOVES)


def swaps(case: Case, number: int) -> Iterator[Cure]:
    """A fixture in the place of another and that in its own, back to back, where both can stand."""
    fixtures = case.plan.room.fixtures
    for other, two in enumerate(fixtures):
        one = fixtures[number]
        if other == number or two.kind not in SWAPPED or one.kind == two.kind:
            continue
        there = {number: _in_place_of(one, two), other: _in_place_of(two, one)}
        shapes = [
            footprint(there.get(i, fixture)).buffer(-ON_EDGE)
            for i, fixture in enumerate(fixtures)
            if on_the_floor(fixture)
        ]
        inside = Polygon(case.plan.room.outline)
        apart = sum(shape.area for shape in shapes) - shapely.union_all(shapes).area < 1.0
        if apart and all(inside.covers(shape) for shape in shapes):
            first, second = case.plan.room.called(number), case.plan.room.called(other)
            yield Cure(
                text=f"Swap the {first} and the {second}",
                changes=tuple(
                    Change(path=f"/room/fixtures/{i}/{name}", value=value)
                    for i, fixture in there.items()
                    for name, value in (("centre", list(fixture.centre)), ("turn", fixture.turn))
                ),
            )


def _in_place_of(fixture: Fixture, other: Fixture) -> Fixture:
    """A fixture whose back is where another's is."""
    back = back_of(other)
    x, y = (float(round(v, 4)) for v in back.origin + back.out * fixture.length / 2)
    return fixture.model_copy(update={"centre": (x, y), "turn": other.turn})


def aside(case: Case, number: int, space: Polygon) -> Iterator[Cure]:
    """A fixture moved out of a space, the shortest way first: along its own sides."""
    fixture = case.plan.room.fixtures[number]
    shape, frame = footprint(fixture), back_of(fixture)
    moves = []
    for axis in (frame.along, -frame.along, frame.out, -frame.out):
        over = (shapely.get_coordinates(space) @ axis).max()
        near = (shapely.get_coordinates(shape) @ axis).min()
        moves.append(axis * max(float(over - near), 0.0))
    for by in sorted(moves, key=lambda move: float(np.hypot(*move))):
        cure = moved(case, number, by)
        if cure is not None:
            yield cure


def wider_door(case: Case, number: int, need: float) -> Iterator[Cure]:
    """A door that leaves so much free, mm: a wider opening, or one that slides."""
    words, door = case.words, case.plan.room.doors[number]
    taken = door.width - clear_opening(door)
    width = words.up(need + taken)
    path = f"/room/doors/{number}"
    yield Cure(
        text=f"Make the opening {words.length(width)} wide",
        changes=(Change(path=f"{path}/width", value=width),),
    )
    if door.kind == "hinged":
        yield Cure(
            text=f"Make door {number + 1} a sliding one",
            changes=(Change(path=f"{path}/kind", value="sliding"),),
        )


def other_doors(case: Case, only: int | None = None) -> Iterator[Cure]:
    """Doors hung so that they leave the room's floor free, or swing over another part of it."""
    for number, door in enumerate(case.plan.room.doors):
        if not door.sweeps or only not in (None, number):
            continue
        path = f"/room/doors/{number}"
        yield Cure(
            text=f"Hang door {number + 1} to open outwards",
            changes=(Change(path=f"{path}/swing", value="out"),),
        )
        other = "last" if door.hinge == "first" else "first"
        yield Cure(
            text=f"Hang door {number + 1} on its other side",
            changes=(Change(path=f"{path}/hinge", value=other),),
        )
        yield Cure(
            text=f"Make door {number + 1} a sliding one",
            changes=(Change(path=f"{path}/kind", value="sliding"),),
        )


def for_circle(case: Case, ground: Ground, least: float, missing: float) -> Iterator[Cure]:
    """A fixture moved so far that a circle fits on plan, the shortest moves first."""
    room, words = case.plan.room, case.words

    def fits(without: int, there: Fixture | None = None) -> bool:
        parts = free_floor(room, case.plan.shower.outline, ground.stepped, without)
        taken = Polygon() if there is None else footprint(there)
        return may_hold(tuple(part.difference(taken) for part in parts), least)

    # Only what would be enough if it were not there at all is worth moving, the nearest first.
    middle = shapely.union_all(ground.parts).centroid
    fixtures = room.fixtures
    apart = [footprint(fixture).distance(middle) for fixture in fixtures]
    standing = [i for i in range(len(fixtures)) if on_the_floor(fixtures[i])]
    near = sorted(standing, key=apart.__getitem__)[:MOST_NEAR]
    blocking = [i for i in near if fits(i)]
    shifts = islice(_shifts(case, blocking, missing), MOST_TRIED)
    made = (
        Cure(
            text=f"Move the {room.called(i)} {words.length(far)} {way}",
            changes=(Change(path=f"/room/fixtures/{i}/centre", value=list(there.centre)),),
        )
        for i, far, way, there in shifts
        if fits(i, there)
    )
    yield from islice(made, MOST_MOVES)


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
