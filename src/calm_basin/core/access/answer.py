"""What is sent of getting in: spaces, ways and edges, with their workings."""

from __future__ import annotations

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.access.clear import size_of, where
from calm_basin.core.access.floor import steepest_under
from calm_basin.core.access.ground import Ground, Spot, clear_opening
from calm_basin.core.access.once import ground_for, spots_for, turning_for
from calm_basin.core.access.result import AccessResult, Space, ThresholdSeen, WayIn
from calm_basin.core.access.turning import sizes
from calm_basin.core.access.turns import Turning
from calm_basin.core.access.way_in import (
    gets_in,
    goal_of,
    openings,
    through,
    widest_way,
    width_needed,
)
from calm_basin.core.access.ways import narrows, shortest, widest
from calm_basin.core.answer.build import begun, figure, input_of
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.question import Question
from calm_basin.core.answer.result import XY, Figure
from calm_basin.core.answer.words import Words
from calm_basin.core.depth.thresholds import Edge, door_edges, entry_edge
from calm_basin.core.falls.floor import points_of
from calm_basin.core.geometry.surface import Array
from calm_basin.plan.room import Door
from calm_basin.plan.users import SITTING
from calm_basin.rules import TRADE, Limit
from calm_basin.tolerances import ON_EDGE

FREE = "Geometry of the room"


def access(asked: Question) -> AccessResult | None:
    """What is sent: nothing where nobody said who will use the room, or there is no floor."""
    case = asked.case
    if case is None or not asked.plan.users:
        return None
    plan, words = asked.plan, asked.words
    ground = ground_for(case)
    found = turning_for(case)
    ways, way_figures = _ways(case, ground)
    doors = plan.room.doors
    return AccessResult(
        spaces=(
            *_turning_spaces(case, found),
            *(_space(case, ground, spot) for spot in spots_for(case)),
        ),
        ways=ways,
        thresholds=_thresholds(case),
        asked=_asked(case, found),
        unmeasured=tuple(
            f"Measure the floor outside door {i + 1} to check this threshold."
            for i, door in enumerate(doors)
            if door.outside is None
        ),
        figures=(
            _turning_figure(words, found, ground),
            *way_figures,
            *(_door_figure(words, i, door) for i, door in enumerate(doors)),
        ),
    )


def _turning_spaces(case: Case, found: Turning) -> list[Space]:
    """The largest circle, and what stands for it: a T or a rectangle, or a larger circle on floor
    that is too steep."""
    words, limit = case.words, found.limit
    asked = begun(sizes(case, found)) if found.asked else ""
    told = []
    if found.gentle.across > 0:
        state = "" if found.enough or not found.asked else "too small"
        told.append(
            Space(
                name="Turning circle on this floor",
                x=found.gentle.x,
                y=found.gentle.y,
                across=found.gentle.across,
                outline=(),
                text=words.length(found.gentle.across, "down"),
                asked=asked,
                state=state,
                # A T that fits stands for the circle.
                enough=found.enough if limit is not None else None,
            )
        )
    if found.shape is not None:
        space, shape = found.shape
        name = "T to turn in" if space.arm else "Space to turn in"
        told.append(_outlined(name, shape, size_of(case, space), space.source, "", True))
    if not found.gentle.fits(found.anywhere.across):
        told.append(
            Space(
                name="Larger, but on a floor that is too steep",
                x=found.anywhere.x,
                y=found.anywhere.y,
                across=found.anywhere.across,
                outline=(),
                text=words.length(found.anywhere.across, "down"),
                asked="",
                state="",
                enough=None,
            )
        )
    return told


def _outlined(
    name: str, shape: Polygon, text: str, asked: str, state: str, enough: bool | None
) -> Space:
    middle = shape.centroid
    return Space(
        name=name,
        x=float(middle.x),
        y=float(middle.y),
        across=0.0,
        outline=points_of(shapely.get_coordinates(shape.exterior)[:-1]),
        text=text,
        asked=asked,
        state=state,
        enough=enough,
    )


def _space(case: Case, ground: Ground, spot: Spot) -> Space:
    words, space = case.words, spot.space
    if space.topic == "shower_size":
        name = f"Shower: {space.applies_to}"
    else:
        name = begun(where(case, spot))
    text = size_of(case, space)
    if not spot.fits:
        side = "wide" if spot.across else "deep"
        text, state = f"{words.length(spot.free, 'down')} {side}", f"of {text}"
    elif not spot.gentle:
        state = f"falls {words.fall(spot.fall)}"
    elif spot.swept:
        state = "a door swings over it"
    else:
        state = ""
    enough = spot.fits and spot.gentle
    return _outlined(name, spot.outline, text, space.source, state, enough)


def _ways(case: Case, ground: Ground) -> tuple[tuple[WayIn, ...], list[Figure]]:
    """The way in from the door from which it is widest, for the user who needs most of it."""
    doors, goal, words = openings(case), goal_of(case), case.words
    if not doors:
        return (), []
    floor = ground.parts[0]
    asked = max(width_needed(case, user) for user in case.plan.users)
    need, source = asked.wide, asked.source
    number = widest_way(case)
    best, wide = doors[number], widest(floor, doors[number], goal)
    opens = through(case, number, need)
    enough = gets_in(case, number, asked) and opens
    line = shortest(floor, best, goal, min(need, wide)) if wide > 0 else None
    tight = narrows(floor, best, goal, wide) if wide > 0 else None
    note = "The chart marks the narrowest place." if tight is not None else ""
    if enough and wide < need - 2 * ON_EDGE:
        note += (
            f" {words.limit(asked.narrow)} is enough over one stretch of no more than "
            f"{words.limit(asked.over)}."
        )
    if not opens and clear_opening(case.plan.room.doors[number]) < wide:
        wide = clear_opening(case.plan.room.doors[number])
        note = "The doorway itself is its narrowest place."
    text = words.length(wide, "down")
    way = WayIn(
        line=() if line is None else points_of(line),
        narrowest=() if tight is None else points_of(tight.ends),
        text=text,
        enough=enough,
    )
    fall = 0.0 if line is None or len(line) < 2 else _fall_along(case, line, min(need, wide))
    given = [input_of(words, "wanted", need)]
    given_fall = [("steepest under it", words.fall(fall))] if fall > 0 else []
    told = figure(
        "Way to the shower",
        wide,
        text,
        "width of the widest disc that rolls from the door's opening to the shower's entry, "
        "through the doorway",
        [*given, *given_fall],
        source=source,
        note=note,
    )
    return (way,), [told]


def _fall_along(case: Case, line: Array, wide: float) -> float:
    swept = shapely.linestrings(line).buffer(wide / 2, quad_segs=4)
    return steepest_under(case.surface, swept)


def _thresholds(case: Case) -> tuple[ThresholdSeen, ...]:
    """The edges on the way in, each held against what the rules ask of a step."""
    edges = [*door_edges(case.plan, case.surface), entry_edge(case.plan, case.surface)]
    return tuple(_threshold(case, edge) for edge in edges)


def _threshold(case: Case, edge: Edge) -> ThresholdSeen:
    words = case.words
    name = "Shower's entry" if edge.door is None else f"Door {edge.door + 1}"
    rise = words.length(abs(edge.rise), "up")
    if abs(edge.rise - edge.least) >= words.display.step / 2:
        least = words.length(abs(edge.least))
        rise = f"{'level' if abs(edge.least) < words.display.step / 2 else least} to {rise}"
    if abs(edge.rise) < case.words.display.step / 2:
        text = "level"
    elif edge.run > 0:
        text = f"{rise}, {'bevelled' if edge.saddle else 'sloped'} {words.fall(edge.slope)}"
        text += f", {words.length(edge.upright)} upright" if edge.upright > 0.05 else ""
    else:
        text = f"{rise} {'up' if edge.rise > 0 else 'down'}, upright"
    return ThresholdSeen(
        name=name,
        text=text,
        asked=_allowed(case, edge),
        profile=_points(edge),
        enough=_kept(case, edge),
    )


def _allowed(case: Case, edge: Edge) -> str:
    """What the rules allow of an edge, in words."""
    words, ramp = case.words, edge.ramp
    asked = [] if ramp else [("in all", one.value) for one in case.rules.on("entry_step")]
    asked += [] if ramp else [("upright", one.value) for one in case.rules.on("edge_upright")]
    told = [f"{words.limit(value)} {of}" for of, value in asked]
    slopes = case.rules.on("ramp_fall" if ramp else "edge_bevel")
    told += [f"sloped {words.fall_limit(one.value)}" for one in slopes]
    return f"at most {', '.join(told)}" if told else ""


def _points(edge: Edge) -> tuple[XY, ...]:
    return points_of(np.array(edge.profile))


def _kept(case: Case, edge: Edge) -> bool:
    """Whether an edge keeps every limit on steps."""
    slopes = case.rules.on("ramp_fall" if edge.ramp else "edge_bevel")
    if edge.slope > 0 and any(edge.slope > limit.value * (1 + 1e-6) for limit in slopes):
        return False
    if edge.ramp:
        return True
    steps, upright = case.rules.on("entry_step"), case.rules.on("edge_upright")
    return all(abs(edge.rise) <= limit.value + 1e-6 for limit in steps) and all(
        edge.upright <= limit.value + 1e-6 for limit in upright
    )


def _asked(case: Case, found: Turning) -> str:
    if found.asked:
        limit: Limit | None = found.limit
        source = limit.source if limit is not None else found.spaces[0].source
        return f"{begun(sizes(case, found))} is required to turn in: {source}."
    if not any(user in SITTING for user in case.plan.users):
        return "No space to turn is required for people who walk."
    return f"{case.rules.name} requires no space to turn in: choose a rule set that does."


def _turning_figure(words: Words, found: Turning, ground: Ground) -> Figure:
    given = [input_of(words, "largest on plan", found.anywhere.across)]
    if ground.most is not None:
        given.append(input_of(words, "largest where it is gentle enough", found.gentle.across))
    fall = "" if ground.most is None else f" that falls at most {words.fall_limit(ground.most)}"
    return figure(
        "Turning circle",
        found.gentle.across,
        words.length(found.gentle.across, "down"),
        f"largest circle on the floor{fall} and that nothing stands on",
        given,
        source=FREE if found.limit is None else found.limit.source,
        note="A step parts the shower from the room: no circle lies across it."
        if ground.stepped
        else "Doors may swing into it.",
    )


def _door_figure(words: Words, number: int, door: Door) -> Figure:
    taken = door.width - clear_opening(door)
    return figure(
        f"Door {number + 1}, clear",
        clear_opening(door),
        words.length(clear_opening(door), "down"),
        "clear opening = width between jambs − leaf and stop",
        [input_of(words, "width", door.width), input_of(words, "leaf and stop", taken)],
        source=TRADE.practice.door_leaf.source if door.leaf_and_stop is None else FREE,
    )
