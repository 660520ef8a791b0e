"""What the parts of a plan have to agree on."""

from __future__ import annotations

from functools import lru_cache
from math import isfinite, nan

import numpy as np
import shapely
from shapely.geometry import Polygon
from shapely.validation import explain_validity

from calm_basin.plan.base import ContradictionError, Point
from calm_basin.plan.floor import Floor, JoistFloor
from calm_basin.plan.places import beyond, holds
from calm_basin.plan.room import Door, Room
from calm_basin.plan.shower import LinearDrain, PointDrain, Shower, SlopePanels, StockTray, Tray
from calm_basin.plan.survey import Reading, ShimReading, StaffReading, Survey, Tape
from calm_basin.plan.waste import Waste
from calm_basin.tolerances import ON_EDGE


def check_parts(room: Room, floor: Floor, shower: Shower, survey: Survey) -> None:
    """Raise `ContradictionError` where the parts of a plan do not go together."""
    walls = checked_outline(room.outline, ("room", "outline"), "The room")
    _check_shower(walls, shower)
    for place, door in enumerate(room.doors):
        _check_door(door, place, room.outline)
    for place, fixture in enumerate(room.fixtures):
        if not shapely.contains_xy(walls, *fixture.centre):
            raise ContradictionError(
                ("room", "fixtures", place, "centre"),
                f"The middle of “{fixture.name}” lies outside the room. Move it inside.",
            )
    if survey.tape is not None:
        _check_tape(survey.tape)
    check_drains(shower)
    if isinstance(floor, JoistFloor):
        _check_joists(walls, floor)


LEAST_WIDTHS = {"room": 300.0, "shower": 200.0, "walls": 300.0}
"""What is nowhere so wide, mm, is none: nobody stands in it."""

LONGEST_ROOM = 20_000.0
"""No bathroom is so far across, mm; a slipped unit is."""

LEAST_WALL = 10.0
"""What is shorter, mm, is no wall that can be taped."""

OVER_WALLS = 1.05
"""A diagonal that is longer than the walls beside it by more was taped between other corners."""

MOST_OUT = 300.0
"""No floor of a bathroom is so far out of level, mm; a slipped digit or another laser is."""

MOST_JOISTS = 200
"""More do not stand under one room."""

FARTHEST_STACK = 10_000.0
"""A stack stands no farther from the room than this, mm."""


def _check_joists(walls: Polygon, floor: JoistFloor) -> None:
    if floor.centres <= floor.width:
        raise ContradictionError(
            ("floor", "centres"),
            "Joists {width} wide cannot stand {centres} from centre to centre. Type the spacing of "
            "their centres.",
            width=floor.width,
            centres=floor.centres,
        )
    left, bottom, right, top = walls.bounds
    across = float(np.hypot(right - left, top - bottom))
    if across / floor.centres > MOST_JOISTS:
        raise ContradictionError(
            ("floor", "centres"),
            f"Joists {{centres}} apart would be more than {MOST_JOISTS} under this room. Type the "
            "spacing of their centres, and check its unit.",
            centres=floor.centres,
        )
    if floor.joist != "sawn" and 2 * floor.flange >= floor.depth:
        raise ContradictionError(
            ("floor", "flange"),
            "Two flanges of {flange} leave nothing of a joist {depth} deep. Type the height of one "
            "flange.",
            flange=floor.flange,
            depth=floor.depth,
        )
    if floor.joist == "i_joist" and floor.web >= floor.width:
        raise ContradictionError(
            ("floor", "web"),
            "A web {web} thick is no narrower than its flange of {width}. Type the thickness of "
            "the web.",
            web=floor.web,
            width=floor.width,
        )
    for place, other in enumerate(floor.others):
        if other.number in {o.number for o in floor.others[:place]}:
            raise ContradictionError(
                ("floor", "others", place, "number"),
                f"Joist {other.number} is named twice. Say all of it in one place.",
            )
        if other.start is not None and other.end is not None and other.start >= other.end:
            raise ContradictionError(
                ("floor", "others", place, "end"),
                f"Joist {other.number} ends before it begins. Enter an end beyond its start.",
            )
    _check_ends("members", [(member.start, member.end) for member in floor.members])
    _check_ends("beams", [(beam.start, beam.end) for beam in floor.beams])


def _check_ends(name: str, ends: list[tuple[Point, Point]]) -> None:
    for place, (start, end) in enumerate(ends):
        if apart(start, end) < 1:
            raise ContradictionError(
                ("floor", name, place, "end"),
                "Its two ends are the same place. Move one of them.",
            )


def check_under(room: Room, floor: Floor, waste: Waste) -> None:
    """Raise `ContradictionError` where the waste does not go with the room and its floor."""
    if waste.stack is not None:
        away = float(Polygon(room.outline).distance(shapely.Point(waste.stack)))
        if away > FARTHEST_STACK:
            raise ContradictionError(
                ("waste", "stack"),
                f"The stack lies {away / 1000:.1f} m outside the room. Measure it from the plan's "
                "origin, and check the unit.",
            )
    if waste.branch is not None and waste.branch >= 0:
        raise ContradictionError(
            ("waste", "branch"),
            "The branch lies above the deck or slab. Enter how far its centre is below the top, "
            "with a minus, such as -180.",
        )
    family = waste.family
    if family is not None and family.least_height > family.most_height:
        raise ContradictionError(
            ("waste", "family", "most_height"),
            "The drain's most height is below its least. Swap them.",
        )


def _check_shower(walls: Polygon, shower: Shower) -> None:
    zone = checked_outline(shower.outline, ("shower", "outline"), "The shower")
    outside = beyond(walls, np.array(shower.outline))
    corner = int(outside.argmax())
    if outside[corner]:
        raise ContradictionError(
            ("shower", "outline", corner),
            f"The shower's corner {corner + 1} lies {{outside}} outside the room. Move the corner "
            "inside, or make the room larger.",
            outside=float(outside[corner]),
        )
    if not holds(walls, zone):
        raise ContradictionError(
            ("shower", "outline"),
            "Part of the shower crosses a wall of the room. Keep the whole zone inside.",
        )
    stated = shower.former.stated if isinstance(shower.former, Tray) else None
    if stated is not None and stated.least > stated.most:
        raise ContradictionError(
            ("shower", "former", "stated", "most"),
            "The tray's steepest fall is flatter than its flattest. Exchange them.",
        )
    for place, entry in enumerate(shower.entries):
        if not 0 <= entry < len(shower.outline):
            raise ContradictionError(
                ("shower", "entries", place),
                f"The shower has no edge {entry}. Choose from 0 to {len(shower.outline) - 1}.",
            )
    if len(set(shower.entries)) != len(shower.entries):
        raise ContradictionError(
            ("shower", "entries"), "An entry edge is named twice. Name it once."
        )


def apart(a: Point, b: Point) -> float:
    """The distance of two places, mm."""
    return float(((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2) ** 0.5)


@lru_cache(maxsize=64)
def checked_outline(outline: tuple[Point, ...], path: tuple[str, ...], what: str) -> Polygon:
    """An outline as a shape. Raises `ContradictionError` where it is none."""
    for i, point in enumerate(outline):
        if apart(point, outline[(i + 1) % len(outline)]) < 1:
            following = (i + 1) % len(outline) + 1
            raise ContradictionError(
                (*path, i),
                f"{what}'s corners {i + 1} and {following} are the same place. Remove one.",
            )
    shape = Polygon(outline)
    if not shape.is_valid:
        reason = explain_validity(shape)
        place = reason[reason.find("[") + 1 : reason.find("]")].split()
        x, y = (float(one) for one in place) if len(place) == 2 else (nan, nan)
        where = " at right {x}, up {y}" if isfinite(x) else ""
        raise ContradictionError(
            path,
            f"{what}'s outline crosses or touches itself{where}. "
            "Give the corners in order round it, each once.",
            **({"x": x, "y": y} if isfinite(x) else {}),
        )
    least = LEAST_WIDTHS[path[0]]
    if shape.buffer(ON_EDGE - least / 2).is_empty:
        raise ContradictionError(
            path,
            f"{what} is nowhere {{least}} wide. Check its sizes and their unit.",
            least=least,
        )
    if 2 * shapely.minimum_bounding_radius(shape) > LONGEST_ROOM:
        raise ContradictionError(
            path,
            f"{what} is over {{longest}} across. Check its sizes and their unit.",
            longest=LONGEST_ROOM,
        )
    return shape


def check_drains(shower: Shower) -> None:
    """Raise `ContradictionError` where drains, falls and former do not go together."""
    drain, former = shower.drain, shower.former
    if isinstance(drain, LinearDrain):
        length = apart(drain.start, drain.end)
        if length < 1:
            raise ContradictionError(
                ("shower", "drain", "end"),
                "The channel's two ends are the same place. Move one of them.",
            )
        if drain.outlet is not None and drain.outlet > length + ON_EDGE:
            raise ContradictionError(
                ("shower", "drain", "outlet"),
                "The outlet lies {beyond} beyond the channel's other end. Type at most {most}.",
                beyond=drain.outlet - length,
                most=length,
            )
        if shower.second_drain is not None:
            raise ContradictionError(
                ("shower", "second_drain"),
                "A second drain goes with a point drain. Remove it, or turn the channel into one.",
            )
        if shower.rest is not None and shower.rest.walls == "level":
            raise ContradictionError(
                ("shower", "rest", "walls"),
                "Level walls need a point drain. Let the walls rise, or choose a point drain.",
            )
    elif shower.second_drain is not None and shower.fall.edge == "even":
        raise ContradictionError(
            ("shower", "fall", "edge"),
            "Two drains keep level edges with a ridge between them. Choose level edges.",
        )
    if isinstance(former, SlopePanels) and former.thick_edge <= former.thin_edge:
        raise ContradictionError(
            ("shower", "former", "thick_edge"),
            "The panels' thick edge has to be thicker than their thin edge.",
        )
    if isinstance(former, Tray) and former.extension is not None and former.stock is None:
        raise ContradictionError(
            ("shower", "former", "extension"),
            "An extension goes on from a tray of a known size. Lay the stock tray out first, or "
            "take the extension out.",
        )
    if isinstance(former, Tray) and former.stock is not None:
        _check_stock(shower, former, former.stock)
    if isinstance(former, Tray):
        edges = [cut.edge for cut in former.cuts]
        for place, edge in enumerate(edges):
            if edge >= len(shower.outline) or edge in edges[:place]:
                raise ContradictionError(
                    ("shower", "former", "cuts", place, "edge"),
                    f"Name each edge from 0 to {len(shower.outline) - 1} once.",
                )


def _check_stock(shower: Shower, former: Tray, stock: StockTray) -> None:
    place = ("shower", "former", "stock")
    if not isinstance(shower.drain, PointDrain):
        raise ContradictionError(
            place, "A tray is laid out from its riser. Choose a point drain, or take it out."
        )
    if shower.second_drain is not None and former.extension is not None:
        raise ContradictionError(
            ("shower", "former", "extension"),
            "Two trays lie at each other: an extension goes with one. Take one of them out.",
        )
    if former.cuts:
        raise ContradictionError(
            ("shower", "former", "cuts"),
            "What is cut off a tray that is laid out from its riser follows from both. Take the "
            "cuts out, or the tray's own size.",
        )
    half = min(shower.drain.width, shower.drain.length) / 2
    for name, size, other in (
        ("drain_left", stock.drain_left, stock.width),
        ("drain_back", stock.drain_back, stock.length),
    ):
        if not half < size < other - half:
            raise ContradictionError(
                (*place, name),
                "The tray's own drain would lie at its edge: {size} of {other}. Measure from the "
                "tray's edge to the middle of its drain.",
                size=size,
                other=other,
            )


def check_levels(levels: tuple[Reading, ...]) -> None:
    """Raise `ContradictionError` for the first reading that no floor gives."""
    fields = {"height": "height", "staff": "reading", "shim": "gap"}
    above = [one.level for one in levels if not isinstance(one, ShimReading)]
    middle = float(np.median(above)) if above else 0.0
    for place, one in enumerate(levels):
        path = ("survey", "levels", place, fields[one.kind])
        if isinstance(one, StaffReading) and one.reading < 0:
            raise ContradictionError(path, "A staff reads from 0 up. Read it there again.")
        shim = isinstance(one, ShimReading)
        off = abs(one.gap if isinstance(one, ShimReading) else one.level - middle)
        if off > MOST_OUT:
            raise ContradictionError(
                path,
                f"Reading {place + 1} lies {{off}} {'of gap' if shim else 'from the others'}: no "
                "floor is so far out. Read it there again, and check its unit and the height of "
                "the laser.",
                off=off,
            )


def _check_tape(tape: Tape) -> None:
    corners = len(tape.walls)
    lefts = sum(1 if wall.turn == "left" else -1 for wall in tape.walls)
    if lefts != 4 and all(wall.square for wall in tape.walls):
        raise ContradictionError(
            ("survey", "tape", "walls"),
            f"With every corner square the walls turn {lefts} quarters, and a room turns 4. "
            "Check which corners turn right, or say which are not square.",
        )
    lengths = np.array([wall.length for wall in tape.walls])
    for place, wall in enumerate(tape.walls):
        if wall.length < LEAST_WALL:
            raise ContradictionError(
                ("survey", "tape", "walls", place, "length"),
                "A wall of {length} cannot be taped. Leave it out, or check its unit.",
                length=wall.length,
            )
        if wall.length > OVER_WALLS * (lengths.sum() - wall.length):
            raise ContradictionError(
                ("survey", "tape", "walls", place, "length"),
                "This wall is longer than all the others together. Tape it again, and check its "
                "unit.",
            )
    if lengths.sum() > np.pi * LONGEST_ROOM:
        raise ContradictionError(
            ("survey", "tape", "walls"),
            "The walls are {long} long together. Check their unit.",
            long=float(lengths.sum()),
        )
    for place, diagonal in enumerate(tape.diagonals):
        between = abs(diagonal.first - diagonal.last)
        if max(diagonal.first, diagonal.last) >= corners or between in (0, 1, corners - 1):
            raise ContradictionError(
                ("survey", "tape", "diagonals", place, "last"),
                f"A diagonal joins two of the corners 0 to {corners - 1} that no wall joins. "
                "Choose others.",
            )
        first, last = sorted((diagonal.first, diagonal.last))
        one_way = float(lengths[first:last].sum())
        beside = min(one_way, float(lengths.sum()) - one_way)
        if not LEAST_WALL <= diagonal.length <= OVER_WALLS * beside + 50:
            raise ContradictionError(
                ("survey", "tape", "diagonals", place, "length"),
                "The walls between its corners are {beside} long, and no diagonal is longer. Tape "
                "it again, and check its corners and its unit.",
                beside=beside,
            )


def _check_door(door: Door, place: int, outline: tuple[Point, ...]) -> None:
    if door.wall >= len(outline):
        raise ContradictionError(
            ("room", "doors", place, "wall"),
            f"The room has no wall {door.wall}. Choose from 0 to {len(outline) - 1}.",
        )
    wall = apart(outline[door.wall], outline[(door.wall + 1) % len(outline)])
    if door.offset + door.width > wall + ON_EDGE:
        raise ContradictionError(
            ("room", "doors", place, "width"),
            "The door ends {past} past the end of its wall, {wall} long. Make it narrower or move "
            "it.",
            past=door.offset + door.width - wall,
            wall=wall,
        )
    if door.leaf_and_stop is not None and door.leaf_and_stop >= door.width:
        raise ContradictionError(
            ("room", "doors", place, "leaf_and_stop"),
            "Leaf and stop take {leaf} of a door {width} wide. Type what the open leaf takes of "
            "the opening.",
            leaf=door.leaf_and_stop,
            width=door.width,
        )
