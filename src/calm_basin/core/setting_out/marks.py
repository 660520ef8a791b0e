"""All that is marked on floor and walls, in the order of work, and what holds no more."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from itertools import pairwise, product
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import XY
from calm_basin.core.answer.taped import check_text, from_text
from calm_basin.core.falls.ring import ring_of
from calm_basin.core.geometry.levels import levels
from calm_basin.core.geometry.surface import Array, xy
from calm_basin.core.geometry.taping import Walls, walls_of
from calm_basin.core.kinds import carrier_of, drains_of
from calm_basin.core.membrane.pieces import sealed
from calm_basin.core.setting_out.pins import pins
from calm_basin.core.setting_out.result import (
    Mark,
    MarkGroup,
    MarkPlace,
    MarksResult,
    PinsResult,
    StaleMark,
)
from calm_basin.core.structure.deck_sheet import deck_sheet
from calm_basin.plan.blocks import standing_faces
from calm_basin.plan.framing import studs
from calm_basin.plan.setting_out import Marked, MarkKind
from calm_basin.tolerances import AT_WALL, ON_EDGE, SAME_HEIGHT, SAME_MARK

CELL = 10.0
"""Marks are looked for in cells of this size, mm: larger than what one may be off by."""

SHORT = 20.0
"""Lines that are shorter, mm, are not marked."""

TITLES: dict[MarkKind, tuple[str, str]] = {
    "level line": (
        "Level line",
        "All heights are read from it. Mark it round the walls before anything is cut.",
    ),
    "drain": ("Drain", "Plumb the drain centre down."),
    "channel": ("Channel", "The middle line of the channel from end to end."),
    "centre line": (
        "Centre lines",
        "They stay on the walls when the floor is opened: the drain centre is where the two cross.",
    ),
    "entry": ("Entry line", "The side where people walk or roll in."),
    "edge": ("Open edges", "Sides of the shower where no wall stands."),
    "saw line": ("Saw lines", "Find wires, pipes and heating under the boards before sawing."),
    "cleat": ("Cleats and blocking", "Each by its ends, its top to the height at its line."),
    "membrane": ("Edge of the membrane", "It is sealed as far as here."),
    "pin": ("Screed pins", ""),
}

GONE: frozenset[MarkKind] = frozenset({"cleat", "saw line"})
"""What cannot be measured to later: it lies under the floor or has been sawn away."""


class _Plain(NamedTuple):
    """A mark before it is taped: its ends (n, 2), what is said, the height that it stands for, the
    level of its top, mm, and what it is cut to."""

    kind: MarkKind
    name: str
    ends: Array
    text: str = ""
    height: float | None = None
    level: float | None = None
    cut: str = ""


def marks(case: Case) -> MarksResult:
    """Every mark in the order of work, with the places as the plan has them now.

    Notes
    -----
    A mark is known by what it is, where it is and how high: not by its number, which changes with
    the plan. What was marked holds while there is such a mark within `SAME_MARK` and `SAME_HEIGHT`.
    """
    plan, words = case.plan, case.words
    laid = pins(plan, words, case.surface)
    plain = [*_levels(case), *_drains(case), *_edges(case), *_cuts(case), *_membrane(case)]
    plain += _pins(laid)
    walls = walls_of(studs(plan))
    places = np.vstack([mark.ends for mark in plain if len(mark.ends)])
    there = np.repeat([mark.kind not in GONE for mark in plain], [len(mark.ends) for mark in plain])
    taped = walls.taped(places)
    checks = walls.checks(places, taped, there)
    owners = [(mark, k) for mark in plain for k in range(len(mark.ends))]
    names = [f"corner {i + 1}" for i in range(len(walls.corners))]
    names += [_end_name(mark, k) for mark, k in owners]
    others = np.vstack([walls.corners, places])
    all_places = [
        MarkPlace(
            at=xy(place),
            from_text=from_text(how, words),
            check_text=check_text(check, names, words),
            check_to=None if check is None else xy(others[check.other]),
        )
        for place, how, check in zip(places, taped, checks, strict=True)
    ]
    done = list(plan.setting_out.marked)
    near, used = _by_place(done), set[int]()
    by_kind: dict[MarkKind, list[Mark]] = {}
    on_high_spot, at = plan.setting_out.staff_on_high_spot, 0
    for mark in plain:
        mine = tuple(all_places[at : at + len(mark.ends)])
        at += len(mark.ends)
        marked = Marked(
            kind=mark.kind,
            name=mark.name,
            places=tuple(place.at for place in mine),
            height=mark.height,
        )
        likely = near.get(_cells(marked)[0], ())
        hit = next((i for i in likely if i not in used and still(done[i], marked)), None)
        if hit is not None:
            used.add(hit)
        staff = None if mark.level is None else on_high_spot - mark.level
        by_kind.setdefault(mark.kind, []).append(
            Mark(
                name=mark.name,
                kind=mark.kind,
                places=mine,
                text=mark.text,
                cut_text=mark.cut,
                level=mark.level,
                staff_text="" if staff is None else words.bare(staff),
                marked=marked,
                noted=None if hit is None else done[hit],
            )
        )
    groups = tuple(
        MarkGroup(
            title=TITLES[kind][0],
            kind=kind,
            said=TITLES[kind][1]
            or f"{len(found)} pins, measured from {laid.stands_on}. {laid.cost}",
            marks=tuple(found),
        )
        for kind, found in by_kind.items()
    )
    total = sum(len(group.marks) for group in groups)
    return MarksResult(
        groups=groups,
        stale=tuple(_stale(case, walls, done, used, by_kind)),
        left=total - sum(mark.noted is not None for group in groups for mark in group.marks),
        total=total,
        measured_from=_measured_from(case),
        pins=laid,
    )


_Cell = tuple[MarkKind, int, int]


def _cells(marked: Marked) -> list[_Cell]:
    """The cells of a mark's first and last place, with their neighbours; its own comes first."""
    if not marked.places:
        return [(marked.kind, 0, 0)]
    ends = (marked.places[0], marked.places[-1])
    middle = [(int(x // CELL), int(y // CELL)) for x, y in ends]
    around = product((0, -1, 1), repeat=2)
    return [(marked.kind, x + dx, y + dy) for dx, dy in around for x, y in middle]


def _by_place(done: Sequence[Marked]) -> dict[_Cell, list[int]]:
    """Which of the marks that were made lie in each cell, or next to it, in their order."""
    found: dict[_Cell, list[int]] = {}
    for i, one in enumerate(done):
        for cell in dict.fromkeys(_cells(one)):
            found.setdefault(cell, []).append(i)
    return found


def still(marked: Marked, now: Marked) -> bool:
    """Whether what was marked is what would be marked now."""
    if marked.kind != now.kind or len(marked.places) != len(now.places):
        return False
    if (marked.height is None) != (now.height is None):
        return False
    if abs((marked.height or 0.0) - (now.height or 0.0)) > SAME_HEIGHT:
        return False
    ways = (now.places, now.places[::-1])
    return any(_apart(marked.places, way) <= SAME_MARK for way in ways)


def _apart(these: tuple[XY, ...], those: tuple[XY, ...]) -> float:
    return max(
        (float(np.hypot(*np.subtract(a, b))) for a, b in zip(these, those, strict=True)),
        default=0.0,
    )


def _end_name(mark: _Plain, k: int) -> str:
    return mark.name if len(mark.ends) == 1 else f"{mark.name}, end {'AB'[k]}"


def _levels(case: Case) -> Iterator[_Plain]:
    plan, words = case.plan, case.words
    high = plan.setting_out.staff_on_high_spot
    over = high - levels(plan, case.surface).room
    on = "the old floor’s highest place" if plan.survey.levels else "the old floor"
    yield _Plain(
        "level line",
        "level line",
        np.zeros((0, 2)),
        f"{words.length(high)} over {on}, {words.length(over)} over the room’s finished floor",
        high,
    )


def _drains(case: Case) -> Iterator[_Plain]:
    plan, room = case.plan, Polygon(case.plan.room.outline)
    stack = levels(plan, case.surface)
    drains = drains_of(plan)
    names = ["drain"] if len(drains) == 1 else ["first drain", "second drain"]
    lines: list[_Plain] = []
    for name, drain in zip(names, drains, strict=True):
        channel, along = drain.channel, drain.along
        text = "outlet" if channel is not None else "drain centre"
        yield _Plain("drain", name, drain.outlet[None], text, None, stack.drain)
        if channel is not None:
            ends = np.array([channel.start, channel.end])
            yield _Plain("channel", "channel", ends, case.words.length(channel.size))
        for number, way in enumerate((along, np.array([-along[1], along[0]])), start=1):
            line = _through(room, drain.outlet, way)
            if line is not None:
                lines.append(_Plain("centre line", f"{name}, line {number}", line))
    yield from lines


def _through(room: Polygon, middle: Array, way: Array) -> Array | None:
    """The ends, (2, 2), of a line through a place as far as the walls on both sides of it."""
    left, bottom, right, top = room.bounds
    far = way * (right - left + top - bottom)
    line = LineString([middle - far, middle + far]).intersection(room)
    parts = [part for part in shapely.get_parts(line) if part.length > SHORT]
    near = [part for part in parts if part.distance(shapely.Point(middle)) <= ON_EDGE]
    if not near:
        return None
    ends: Array = shapely.get_coordinates(near[0])[[0, -1]]
    return ends


def _edges(case: Case) -> Iterator[_Plain]:
    plan, words = case.plan, case.words
    ring, entry = ring_of(plan.shower), levels(plan, case.surface).entry
    walls = standing_faces(plan)
    entries, others = [], []
    for i in range(len(ring.points)):
        line = LineString(ring.edge(i))
        if i in ring.entries:
            entries.append(line)
        else:
            others += _open(line, walls)
    for kind, found in (("entry", entries), ("edge", others)):
        for number, line in enumerate(found, start=1):
            name = {"entry": "entry", "edge": "open edge"}[kind]
            yield _Plain(
                "entry" if kind == "entry" else "edge",
                name if len(found) == 1 else f"{name} {number}",
                shapely.get_coordinates(line)[[0, -1]],
                f"{words.length(line.length)} long",
                None,
                entry if kind == "entry" else None,
            )


def _open(line: LineString, walls: shapely.Geometry) -> list[LineString]:
    """What of a line runs clear of the walls, up to where it meets them."""
    clear = line.difference(walls.buffer(AT_WALL))
    parts = [part for part in shapely.get_parts(clear) if part.length > SHORT]
    met = [line.intersection(part.buffer(1.5 * AT_WALL)) for part in parts]
    return [part for part in met if isinstance(part, LineString)]


def _cuts(case: Case) -> Iterator[_Plain]:
    sheet, words = deck_sheet(case), case.words
    if sheet is None:
        return
    for number, line in enumerate(sheet.saw_lines, start=1):
        yield _Plain(
            "saw line",
            f"saw line {number}",
            np.array([line.start, line.end]),
            f"{line.length_text}, blade set to {sheet.blade.text}",
        )
    # The deck goes back flush with the joists' tops, on cleats its own thickness below them.
    thick = carrier_of(case.plan).thickness
    top = -2 * thick
    numbers: dict[str, int] = {}
    for batten in sheet.battens:
        numbers[batten.kind] = numbers.get(batten.kind, 0) + 1
        set_down = batten.kind in ("cleat", "plate cleat")
        said = f", its top {words.length(thick)} below the joists’"
        yield _Plain(
            "cleat",
            f"{batten.kind} {numbers[batten.kind]}",
            np.array([batten.start, batten.end]),
            f"{batten.text}{said if set_down else ''}",
            top if set_down else None,
            top if set_down else None,
        )


def _membrane(case: Case) -> Iterator[_Plain]:
    """Where what is sealed ends on the open floor."""
    walls = standing_faces(case.plan)
    edges = pairwise(shapely.get_coordinates(sealed(case.plan).exterior))
    found = [line for edge in edges for line in _open(LineString(edge), walls)]
    for number, line in enumerate(found, start=1):
        yield _Plain(
            "membrane",
            "membrane" if len(found) == 1 else f"membrane {number}",
            shapely.get_coordinates(line)[[0, -1]],
            f"{case.words.length(line.length)} long",
        )


def _pins(laid: PinsResult) -> Iterator[_Plain]:
    for pin in laid.pins:
        here = "" if pin.on in laid.stands_on else f", over the {pin.on}"
        place = np.array([[pin.x, pin.y]])
        said = f"{pin.kind}{here}"
        yield _Plain("pin", f"pin {pin.number}", place, said, pin.cut, pin.top, pin.text)


def _measured_from(case: Case) -> str:
    if studs(case.plan) != case.plan.room.outline:
        return "Taken from the studs, before anything is on them."
    return "Taken from the walls as the room was measured."


def _stale(
    case: Case,
    walls: Walls,
    done: list[Marked],
    used: set[int],
    by_kind: dict[MarkKind, list[Mark]],
) -> Iterator[StaleMark]:
    for number, one in enumerate(done):
        if number in used:
            continue
        ends = np.array(one.places, dtype=float).reshape(-1, 2)
        taped = [from_text(how, case.words) for how in walls.taped(ends)] if len(ends) else []
        yield StaleMark(
            noted=one,
            from_text=" to ".join(taped),
            said=_what_changed(case, one, by_kind.get(one.kind, [])),
        )


def _what_changed(case: Case, one: Marked, now: list[Mark]) -> str:
    """What has become of a mark that holds no more. Pins are numbered anew with every change, so
    they are told by their place."""
    words = case.words
    for mark in now:
        other = mark.marked
        here = len(other.places) == len(one.places) and (
            _apart(one.places, other.places) <= SAME_MARK
        )
        if here and one.height is not None and other.height is not None:
            return f"Now {words.length(other.height)} in place of {words.length(one.height)}."
    same = next((mark for mark in now if mark.name == one.name and one.kind != "pin"), None)
    if same is None or len(same.places) != len(one.places):
        return "The plan has none here any more."
    moved = _apart(same.marked.places, one.places)
    return f"It has moved by {words.length(moved)}."
