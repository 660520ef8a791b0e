"""Floor that is to be free and is not: at fixtures, doors and the shower; its size; the way."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import chain, islice
from math import ceil

import numpy as np
from shapely.geometry import LineString, MultiLineString

from calm_basin.core.access.day import who, whose
from calm_basin.core.access.floor import back_of, doorway, fixture_shape, on_the_floor
from calm_basin.core.access.ground import Ground, Spot
from calm_basin.core.access.moves import MOST_MOVES, MOST_TRIED, SIDES, for_spot, moved
from calm_basin.core.access.once import ground_for, spots_for
from calm_basin.core.access.turns import beyond_swing
from calm_basin.core.access.ways import Narrows, narrows, passes, widest
from calm_basin.core.answer.build import asked_of, broken, off_limit, severity_of, unmeasured
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Change, Cure, Place
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.cures import Asked, ask_for
from calm_basin.core.falls.drains import channel_along
from calm_basin.plan.edits.corners import box_of, stretch
from calm_basin.plan.places import ON_EDGE
from calm_basin.plan.reading import PlanError
from calm_basin.plan.users import User
from calm_basin.rules import Space, people

SAID = {
    "before_wc": "before the {}",
    "around_wc": "round the {}",
    "before_basin": "before the {}",
    "before_shower": "before the shower's entry",
    "door_pull": "before door {}",
    "door_push": "before door {}",
}
"""Where a space is."""


NEXT_TO = 2.0
"""What lies nearer to the end of a way's narrowest place, mm, is what it ends at."""


def where(case: Case, spot: Spot) -> str:
    """Where a space is, in words."""
    if spot.door is not None:
        beside = "beside the latch of" if spot.across else "before"
        return f"{beside} door {spot.door + 1}"
    name = "" if spot.fixture is None else case.plan.room.fixtures[spot.fixture].name
    return SAID[spot.space.topic].format(name)


def size_of(case: Case, space: Space) -> str:
    """A space's size in words."""
    words = case.words
    text = f"{words.limit(space.across)} × {words.limit(space.deep)}"
    return f"{text}, entered over {words.limit(float(space.entry[:-2]))}" if space.entry else text


def clear_floors(case: Case) -> list[Found]:
    """Spaces that are not free, lie too steep, or are swung over by a door."""
    if not case.plan.users:
        return []
    ground = ground_for(case)
    found: list[Found] = []
    swept = []
    for spot in spots_for(case):
        if spot.space.topic == "shower_size":
            found += _shower(case, spot)
        elif not spot.fits:
            found.append(_not_free(case, spot))
        elif not spot.gentle:
            found.append(_too_steep(case, ground, spot))
        if spot.swept:
            swept.append(spot)
    if swept and case.rules.spaces_on("beyond_swing") and not beyond_swing(ground):
        found += [_swung_over(case, spot) for spot in swept]
    return found


def _shower(case: Case, spot: Spot) -> list[Found]:
    if spot.fits:
        return []
    words, space = case.words, spot.space
    need = space.across if spot.across else space.deep
    side = "wide" if spot.across else "deep"
    others = [
        f"{one.applies_to} of {size_of(case, one)}"
        for one in case.rules.spaces_on("shower_size")
        if one.users == space.users and one.weight == space.weight and one != space
    ]
    does = f" {' or '.join(others)} would do as well." if others else ""
    does = does[:1] + does[1:2].upper() + does[2:]
    finding = broken(
        words,
        code="shower_too_small",
        severity=severity_of(space),
        title=f"The shower is {words.length(need - spot.free, 'up')} too small for "
        f"{space.applies_to}",
        detail=f"{size_of(case, space)} is {asked_of(space)}; the shower is "
        f"{words.length(spot.free, 'down')} {side}{_and_other(words, spot)} where it counts.{does} "
        f"{space.note}".strip(),
        value=spot.free,
        limit=need,
        binds="at_least",
        applies_to=space.applies_to,
        source=space.source,
        field="/users",
    )
    return [Found(finding, lambda: _larger(case, spot), each=True)]


def _and_other(words: Words, spot: Spot) -> str:
    if spot.other is None:
        return ""
    return f" and {words.length(spot.other, 'down')} {'deep' if spot.across else 'wide'}"


def _larger(case: Case, spot: Spot) -> Iterator[Cure | None]:
    """The shower made as wide or as deep as is asked, or both, where it is a rectangle."""
    box = box_of(case.plan.shower.outline)
    if box is None:
        return
    if spot.other is not None:
        space, limit = spot.space, case.words.limit
        for wide, deep in ((space.across, space.deep), (space.deep, space.across)):
            yield _stretched(
                case, ((0, wide), (1, deep)), f"Make the shower {limit(wide)} × {limit(deep)}"
            )
        return
    sides = [high - low for low, high in zip(*box, strict=True)]
    for axis, name in ((0, "wide"), (1, "deep")):
        for need in sorted({spot.space.across, spot.space.deep}):
            if sides[axis] >= need:
                continue
            text = f"Make the shower {case.words.limit(need)} {name}"
            yield _stretched(case, ((axis, need),), text)


def _shallower(case: Case, spot: Spot) -> Iterator[Cure | None]:
    """A shower whose entry steps back, where it is a rectangle: what is missing before it."""
    box, step = box_of(case.plan.shower.outline), case.words.display.step
    if box is None or spot.space.topic != "before_shower":
        return
    missing = ceil((spot.space.deep - spot.free) / step - 1e-6) * step
    for axis in (0, 1):
        size = box[1][axis] - box[0][axis] - missing
        if size > 0:
            name = ("wide", "deep")[axis]
            text = f"Make the shower {case.words.length(size)} {name}"
            yield _stretched(case, ((axis, size),), text)


def _stretched(case: Case, sizes: tuple[tuple[int, float], ...], text: str) -> Cure | None:
    """The shower with another width (axis 0) or depth or both, its drains going with its walls."""
    other = case.plan
    try:
        for axis, size in sizes:
            other = stretch(other, "shower", 0 if axis == 0 else 1, size)
    except PlanError:
        return None
    document = other.shower.model_dump(mode="json")
    parts = [part for part in ("outline", "drain", "second_drain") if document[part]]
    return Cure(
        text=text, changes=tuple(Change(path=f"/shower/{p}", value=document[p]) for p in parts)
    )


def _not_free(case: Case, spot: Spot) -> Found:
    words, space = case.words, spot.space
    need = space.across if spot.across else space.deep
    finding = broken(
        words,
        code="floor_not_free",
        severity=severity_of(space),
        title=f"{words.length(spot.free, 'down')} free {where(case, spot)}, "
        f"not {words.limit(need)}",
        detail=f"{whose(case.plan, space)} needs {size_of(case, space)} of free floor there. "
        f"{space.note}".strip(),
        value=spot.free,
        limit=need,
        binds="at_least",
        applies_to=f"{space.applies_to}, {where(case, spot)}",
        source=space.source,
        field="/users",
    )
    return Found(finding, lambda: chain(for_spot(case, spot), _shallower(case, spot)), each=True)


def _too_steep(case: Case, ground: Ground, spot: Spot) -> Found:
    words, most = case.words, ground.most or 0.0
    finding = broken(
        words,
        code="floor_steep_there",
        severity=severity_of(spot.space),
        title=f"The floor falls {words.fall_off(spot.fall, most)} {where(case, spot)}",
        detail=f"{whose(case.plan, spot.space)} stops there: on more than "
        f"{words.fall_limit(most)} a chair rolls away.",
        value=spot.fall,
        limit=most,
        unit="rise_per_run",
        applies_to=f"{spot.space.applies_to}, {where(case, spot)}",
        source=spot.space.source,
        field="/users",
    )

    def cures() -> Iterator[Cure | None]:
        yield ask_for(words, most, Asked.of(case.plan), steeper=False)
        yield from (channel_along(case.plan, side, words, most) for side in SIDES)

    return Found(finding, cures, each=True)


def _swung_over(case: Case, spot: Spot) -> Found:
    finding = unmeasured(
        "door_over_clear_floor",
        severity_of(spot.space),
        f"A door swings over the floor {where(case, spot)}",
        f"{whose(case.plan, spot.space)} sits there when it opens, and there is nowhere beyond its "
        "swing to go.",
        applies_to=f"{spot.space.applies_to}, {where(case, spot)}",
        source=next(one.source for one in case.rules.spaces_on("beyond_swing")),
        field="/users",
    )
    return Found(finding, lambda: for_spot(case, spot), each=True)


def entries(case: Case) -> list[Found]:
    """Entries too narrow to walk in."""
    users = case.plan.users
    if not users:
        return []
    words = case.words
    wide = max(float(line.length) for line in goal_of(case).geoms)
    found = []
    for limit in case.rules.on("entry_width"):
        if limit.asked_by(users) and wide < limit.value - 2 * ON_EDGE:
            finding = off_limit(
                words,
                limit,
                code="entry_too_narrow",
                title=f"The shower's entry is {words.length(wide, 'down')} wide",
                detail=f"{words.limit(limit.value)} is {asked_of(limit)}.",
                value=wide,
                field="/users",
            )
            found.append(Found(finding))
    return found


def goal_of(case: Case) -> MultiLineString:
    """The entries of the shower."""
    corners = case.plan.shower.outline
    return MultiLineString(
        [(corners[i], corners[(i + 1) % len(corners)]) for i in case.plan.shower.entries]
    )


def openings(case: Case) -> list[LineString]:
    """The lines of the bathroom's doors."""
    found = []
    for door in case.plan.room.doors:
        frame = doorway(case.plan.room, door)
        found.append(LineString([frame.origin, frame.origin + door.width * frame.along]))
    return found


def width_needed(case: Case, user: User) -> tuple[float, str]:
    """How wide a way somebody needs, mm, and whose measure that is: the rules', or what is usual
    where they ask nothing or less."""
    person = people()[user]
    asked = [one for one in case.rules.on("path_width") if one.asked_by((user,))]
    widest_asked = max(asked, key=lambda one: one.value, default=None)
    if widest_asked is not None:
        return widest_asked.value, widest_asked.source
    return person.value, person.source


def way_in(case: Case) -> list[Found]:
    """Ways from the door to the shower that are too narrow for somebody who will use them."""
    if not case.plan.users or not case.plan.room.doors:
        return []
    ground, goal = ground_for(case), goal_of(case)
    needs: dict[tuple[float, str], list[User]] = {}
    for user in case.plan.users:
        needs.setdefault(width_needed(case, user), []).append(user)
    found = []
    for (need, source), users in needs.items():
        doors = openings(case)
        if any(passes(ground.parts[0], door, goal, need) for door in doors):
            continue
        best = max(doors, key=lambda door: widest(ground.parts[0], door, goal))
        wide = widest(ground.parts[0], best, goal)
        tight = narrows(ground.parts[0], best, goal, wide) if wide > 0 else None
        found.append(_too_narrow(case, users, (need, source), wide, tight))
    return found


def _too_narrow(
    case: Case, users: list[User], asked: tuple[float, str], wide: float, tight: Narrows | None
) -> Found:
    words, (need, source) = case.words, asked
    required = any(one.source == source for one in case.rules.on("path_width"))
    between = "" if tight is None else _between(case, tight)
    places = () if tight is None else (_place(case, tight, wide),)
    finding = broken(
        words,
        code="way_too_narrow",
        severity="stop" if required else "caution",
        title=f"{who(users)} has {words.length(wide, 'down')} to get to the shower"
        if wide > 0
        else f"{who(users)} does not get to the shower",
        detail=f"{words.limit(need)} is {'asked' if required else 'usual'} between the door and "
        f"the shower's entry.{between}",
        value=wide,
        limit=need,
        binds="at_least",
        applies_to=who(users).lower(),
        source=source,
        field="/users",
        places=places,
    )
    return Found(finding, lambda: _wider(case, tight, need, wide), each=True)


def _place(case: Case, tight: Narrows, wide: float) -> Place:
    x, y = (float(v) for v in tight.middle)
    return Place(name="narrowest", x=x, y=y, measured=wide, text=case.words.length(wide, "down"))


def _between(case: Case, tight: Narrows) -> str:
    """Between what a way is narrowest."""
    names = [names_at(case, end) for end in tight.ends]
    return f" It is narrowest between {names[0]} and {names[1]}."


def names_at(case: Case, place: np.ndarray) -> str:
    """What stands at a place on the free floor's edge."""
    at = LineString([place, place])
    for fixture in case.plan.room.fixtures:
        if on_the_floor(fixture) and fixture_shape(fixture).dwithin(at, NEXT_TO):
            return f"the {fixture.name}"
    corners = case.plan.room.outline
    walls = [LineString([a, b]) for a, b in zip(corners, (*corners[1:], corners[0]), strict=True)]
    nearest = min(range(len(walls)), key=lambda i: walls[i].distance(at))
    return f"wall {nearest + 1}"


def _wider(case: Case, tight: Narrows | None, need: float, wide: float) -> Iterator[Cure | None]:
    """What stands at the narrowest place moved out of the way: from it, or along its own wall; the
    shortest moves first."""
    if tight is None:
        return
    fixtures, missing = case.plan.room.fixtures, need - wide
    tries: list[tuple[float, int, np.ndarray]] = []
    for end in tight.ends:
        at = LineString([end, end])
        away = (end - tight.middle) / max(float(np.hypot(*(end - tight.middle))), 1e-9)
        for number, fixture in enumerate(fixtures):
            if not on_the_floor(fixture) or not fixture_shape(fixture).dwithin(at, NEXT_TO):
                continue
            frame = back_of(fixture)
            tries.append((missing, number, away * missing))
            for times in (1.0, 2.0, 4.0):
                far = missing * times
                ways = (frame.along, -frame.along, frame.out, -frame.out)
                tries += [(far, number, way * far) for way in ways]
    looked = islice(sorted(tries, key=lambda one: one[0]), MOST_TRIED)
    made = {
        repr(cure.changes): cure for cure in (moved(case, n, by) for _, n, by in looked) if cure
    }
    opening = (cure for cure in made.values() if _opens_way(case, cure, need))
    yield from islice(opening, MOST_MOVES)


def _opens_way(case: Case, cure: Cure, need: float) -> bool:
    """Whether the way is wide enough once a fixture stands elsewhere."""
    change = cure.changes[0]
    number = int(change.path.split("/")[3])
    there = case.plan.room.fixtures[number].model_copy(update={"centre": tuple(change.value)})
    floor = ground_for(case).without(number).difference(fixture_shape(there))
    goal = goal_of(case)
    return any(passes(floor, door, goal, need) for door in openings(case))
