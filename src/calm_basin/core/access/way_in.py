"""The way from the door to the shower: through the doorway and past what stands in the room."""

from __future__ import annotations

from collections.abc import Iterator
from itertools import islice
from typing import NamedTuple

import numpy as np
from shapely.geometry import LineString, MultiLineString

from calm_basin.core.access.day import who
from calm_basin.core.access.floor import back_of, doorway, on_the_floor
from calm_basin.core.access.ground import clear_opening
from calm_basin.core.access.moves import MOST_MOVES, MOST_TRIED, moved, wider_door
from calm_basin.core.access.once import ground_for
from calm_basin.core.access.ways import Narrows, narrows, neck, passes, widest
from calm_basin.core.answer.build import broken
from calm_basin.core.answer.case import Case, Found
from calm_basin.core.answer.result import Cure, Place
from calm_basin.plan.backs import footprint
from calm_basin.plan.pointers import steps
from calm_basin.plan.users import User
from calm_basin.rules import TRADE
from calm_basin.tolerances import NEXT_TO, ON_EDGE


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


class WidthNeeded(NamedTuple):
    """How wide a way somebody needs, mm, and whose measure that is. It may be ``narrow`` over a
    length of at most ``over``, 0 where it may not."""

    wide: float
    source: str
    narrow: float = 0.0
    over: float = 0.0


def width_needed(case: Case, user: User) -> WidthNeeded:
    """How wide a way somebody needs: by the rules, or what is usual where they ask nothing."""
    person = TRADE.people.by_id[user]
    asked = [one for one in case.rules.on("path_width") if one.asked_by((user,))]
    widest_asked = max(asked, key=lambda one: one.value, default=None)
    if widest_asked is None:
        return WidthNeeded(person.value, person.source)
    return WidthNeeded(widest_asked.value, widest_asked.source, *widest_asked.narrowed)


def gets_in(case: Case, number: int, need: WidthNeeded) -> bool:
    """Whether somebody gets from a door over the room's floor to the shower."""
    floor, door, goal = ground_for(case).parts[0], openings(case)[number], goal_of(case)
    if passes(floor, door, goal, need.wide):
        return True
    length = neck(floor, door, goal, need.wide, need.narrow) if need.over > 0 else None
    return length is not None and length <= need.over + 2 * ON_EDGE


def way_in(case: Case) -> list[Found]:
    """Ways from the door to the shower that are too narrow for somebody who will use them."""
    if not case.plan.users or not case.plan.room.doors:
        return []
    ground, goal = ground_for(case), goal_of(case)
    needs: dict[WidthNeeded, list[User]] = {}
    for user in case.plan.users:
        needs.setdefault(width_needed(case, user), []).append(user)
    found = []
    for asked, users in needs.items():
        doors = openings(case)
        ways = [gets_in(case, number, asked) for number in range(len(doors))]
        held = [through(case, number, asked.wide) for number in range(len(doors))]
        if any(way and opens for way, opens in zip(ways, held, strict=True)):
            continue
        number = widest_way(case)
        wide = widest(ground.parts[0], doors[number], goal)
        if ways[number]:
            found.append(_narrow_doorway(case, users, asked, number))
            continue
        tight = narrows(ground.parts[0], doors[number], goal, wide) if wide > 0 else None
        found.append(_too_narrow(case, users, asked, wide, tight))
    return found


def through(case: Case, number: int, need: float) -> bool:
    """Whether a doorway is no narrower than the way that somebody needs; where the rules say how
    narrow a door may be, that is held against the door itself."""
    users = case.plan.users
    own = any(limit.asked_by(users) for limit in case.rules.on("door_clear"))
    return own or clear_opening(case.plan.room.doors[number]) >= need - 1e-6


def widest_way(case: Case) -> int:
    """The door from which the way in is widest, its doorway too."""
    floor, goal, doors = ground_for(case).parts[0], goal_of(case), case.plan.room.doors
    wide = [
        min(widest(floor, line, goal), clear_opening(door))
        for line, door in zip(openings(case), doors, strict=True)
    ]
    return wide.index(max(wide))


def _narrow_doorway(case: Case, users: list[User], asked: WidthNeeded, number: int) -> Found:
    words, need, source = case.words, asked.wide, asked.source
    door = case.plan.room.doors[number]
    clear = clear_opening(door)
    finding = broken(
        words,
        code="way_too_narrow",
        severity="caution",
        title=f"Door {number + 1} too narrow: {words.length(clear, 'down')} clear, limit "
        f"{words.limit(need)}",
        detail=f"{who(users)} needs {words.limit(need)}. Leaf and stop take "
        f"{words.length(door.width - clear)} of the opening.",
        value=clear,
        limit=need,
        binds="at_least",
        applies_to=who(users).lower(),
        source=source,
        field="/users",
        about=f"/room/doors/{number}",
    )
    return Found(finding, lambda: wider_door(case, number, need), each=True)


def _too_narrow(
    case: Case, users: list[User], asked: WidthNeeded, wide: float, tight: Narrows | None
) -> Found:
    words, need, source = case.words, asked.wide, asked.source
    required = any(one.source == source for one in case.rules.on("path_width"))
    between = "" if tight is None else _between(case, tight)
    if asked.over > 0:
        between += (
            f" {words.limit(asked.narrow)} is enough over one stretch of no more than "
            f"{words.limit(asked.over)}."
        )
    places = () if tight is None else (_place(case, tight, wide),)
    finding = broken(
        words,
        code="way_too_narrow",
        severity="stop" if required else "caution",
        title=f"Way to the shower too narrow: {words.length(wide, 'down')}, "
        f"limit {words.limit(need)}"
        if wide > 0
        else f"{who(users)} cannot get to the shower",
        detail=f"{words.limit(need)} is {'required' if required else 'usual'} between the door "
        f"and the shower's entry for {who(users).lower()}.{between}",
        value=wide,
        limit=need,
        binds="at_least",
        applies_to=who(users).lower(),
        source=source,
        field="/users",
        about="/room",
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
    for number, fixture in enumerate(case.plan.room.fixtures):
        if on_the_floor(fixture) and footprint(fixture).dwithin(at, NEXT_TO):
            return f"the {case.plan.room.called(number)}"
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
            if not on_the_floor(fixture) or not footprint(fixture).dwithin(at, NEXT_TO):
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
    number = int(steps(change.path)[2])
    there = case.plan.room.fixtures[number].model_copy(update={"centre": tuple(change.value)})
    floor = ground_for(case).without(number).difference(footprint(there))
    goal = goal_of(case)
    return any(passes(floor, door, goal, need) for door in openings(case))
