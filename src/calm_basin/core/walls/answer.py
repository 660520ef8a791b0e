"""The walls in words: both lines, each wall's framing and boards, the valve's depth."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator

from calm_basin.core.answer.build import GEOMETRY, figure
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Figure, Input
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.former import needed_size
from calm_basin.core.geometry.levels import levels
from calm_basin.core.kinds import former_of
from calm_basin.core.walls.blocks import back_height, block_frames, frame_name, is_top
from calm_basin.core.walls.boards import board_size, boarded, wall_boards, wall_fasteners
from calm_basin.core.walls.findings import before_valve
from calm_basin.core.walls.frame import (
    Box,
    Hung,
    Span,
    WallFrame,
    board_height,
    frames,
    stud_centres,
    unfolded,
)
from calm_basin.core.walls.plumb import furring
from calm_basin.core.walls.result import BuiltUp, WallBox, WallLine, WallSize, WallsResult, WallView
from calm_basin.plan import Plan
from calm_basin.plan.blocks import Block, blocks
from calm_basin.plan.edits.corners import box_of
from calm_basin.plan.framing import framed, studs
from calm_basin.plan.layers import thick
from calm_basin.plan.shower import Shower
from calm_basin.rules import TRADE
from calm_basin.tolerances import AT_WALL, ON_EDGE

BUILT: dict[str, str] = {
    "bench": "Board and seal the walls behind it first. Its top falls to the shower: drive no "
    "fastener through it.",
    "half wall": "Its end stud goes onto a stud of the wall, its lower plate onto joists or "
    "blocking: one that moves cracks its tile. Its top falls to the shower: drive no fastener "
    "through it.",
}
"""What to keep to, by the kind of fixture (common practice, no source)."""

HEAD_ROOM = 100.0
"""So much is drawn above boards and what hangs, mm."""


def walls_result(case: Case) -> WallsResult:
    """The walls of a plan."""
    plan, words = case.plan, case.words
    given = bool(plan.walls.shower or plan.walls.rest)
    walls, room, framing = frames(plan), plan.room.outline, studs(plan)
    built = block_frames(plan)
    cut_to = framed(plan)
    worked = [one for one in walls if _is_worked(plan, one)]
    seen = unfolded([one.wall for one in worked], room)
    height = board_height(plan)
    size = board_size(plan)
    wide, deep = needed_size(cut_to)
    between = f"{words.length(wide)} × {words.length(deep)}"
    figures = _figures(case, cut_to, (*walls, *built))
    lines = tuple(
        WallLine(
            number=one.wall + 1,
            start=room[one.wall],
            end=room[(one.wall + 1) % len(room)],
            finished_text=words.length(one.finished),
            studs_text=words.length(one.length),
            depth_text=words.length(one.depth) if one.depth else "",
            at_shower=bool(one.shower),
        )
        for one in walls
    )
    return WallsResult(
        said=f"Shower {between} between {plan.walls.tray_to}"
        if given
        else f"Shower {between}: say what is on the studs",
        boards=_boards(figures),
        given=given,
        measured="finished" if plan.walls.studs is None else "studs",
        figures=figures,
        lines=lines,
        box=_box_between(plan, words),
        studs=framing,
        pocket=cut_to.outline,
        views=tuple(
            _view(case, one, height)
            for one in (*sorted(worked, key=lambda one: seen.index(one.wall)), *built)
        ),
        built=tuple(_built(case, block) for block in blocks(plan) if block.fixture.height > 0),
        chain=tuple(_chain(plan, words)),
        centres=stud_centres(plan),
        centres_text=words.length(stud_centres(plan)),
        boarded=height,
        boarded_text=words.length(height),
        board=size,
        board_texts=(words.length(size[0]), words.length(size[1])),
        layers_texts=(words.length(thick(plan.walls.shower)), words.length(thick(plan.walls.rest))),
        notes=tuple(_notes(plan, words)),
    )


def _boards(figures: tuple[Figure, ...]) -> str:
    """How many boards, and what holds them, in a line; empty where there are none."""
    counted = [one for one in figures if one.unit == "count"]
    return ", ".join(f"{one.text} {one.label.lower()}" for one in counted)


def _box_between(plan: Plan, words: Words) -> tuple[WallSize, WallSize] | None:
    between = box_of(studs(plan))
    if between is None or box_of(plan.room.outline) is None:
        return None
    wide, deep = (between[1][axis] - between[0][axis] for axis in (0, 1))
    return (
        WallSize(size=wide, text=words.length(wide)),
        WallSize(size=deep, text=words.length(deep)),
    )


def _is_worked(plan: Plan, one: WallFrame) -> bool:
    faces = any(face.wall == one.wall for face in plan.walls.faces)
    return bool(one.shower or one.hung or one.niches or faces)


def _figures(case: Case, cut_to: Shower, all_frames: tuple[WallFrame, ...]) -> tuple[Figure, ...]:
    plan, words = case.plan, case.words
    finished, between = needed_size(plan.shower), needed_size(cut_to)
    edge = plan.walls.tray_to
    figures = [
        figure(
            name,
            between[axis],
            words.length(between[axis]),
            f"between finished walls + what is on the {edge} at each end that lies at a wall",
            [("between finished walls", words.length(finished[axis]))],
            source=GEOMETRY,
            note=f"The tray is cut to the {edge}, the deck to the studs. Falls, tile and "
            "clearances belong to the finished walls.",
        )
        for axis, name in enumerate((f"Width between {edge}", f"Depth between {edge}"))
    ]
    if not boarded(plan):
        return tuple(figures)
    size = board_size(plan)
    pieces = sum(len(wall_boards(plan, one)) for one in all_frames)
    held = sum(len(wall_fasteners(plan, one)[0]) for one in all_frames)
    how = TRADE.walls.apart(plan.walls.fixing)
    name = "Screws with washers" if plan.walls.fixing == "washers" else "Screws"
    figures += [
        figure(
            "Board pieces",
            float(pieces),
            str(pieces),
            "courses over each wall of the shower, ends on studs",
            [("board", f"{words.length(size[0])} × {words.length(size[1])}")],
            source=GEOMETRY,
            unit="count",
        ),
        figure(
            name,
            float(held),
            str(held),
            "up each stud under the boards",
            [("one every", words.length(how.value))],
            source=how.source,
            note=how.note,
            unit="count",
        ),
    ]
    return tuple(figures)


def _view(case: Case, one: WallFrame, height: float) -> WallView:
    plan, words = case.plan, case.words
    tops = [(one.high or height) if one.shower else 0.0]
    tops += [box.y.high for _, box in one.niches]
    tops += [hung.y for hung in one.hung if hung.y is not None]
    top = max(tops) + (0.0 if one.block else HEAD_ROOM)
    low = min([0.0, *(piece.box.y.low for piece in one.backing)])
    laid = wall_boards(plan, one)
    held, left_out = wall_fasteners(plan, one)
    fixings = list(dict.fromkeys(_fixing(plan, words, hung) for hung in one.hung))
    if left_out:
        fixings.append(f"{left_out} fasteners left out: a pipe rises behind them.")
    up = Span(low, top)
    return WallView(
        wall=one.wall,
        name=frame_name(one),
        said=_said(words, one),
        length=one.length,
        height=top,
        low=low,
        studs=tuple(_box(Box(stud, up)) for stud in one.studs),
        added=tuple(_box(Box(Span(x - one.width / 2, x + one.width / 2), up)) for x in one.added),
        backing=tuple(_box(piece.box) for piece in one.backing),
        hung=tuple(
            _box(Box(hung.x, Span(hung.y - 20, hung.y + 20)), _name(plan, hung))
            for hung in one.hung
            if hung.y is not None
        ),
        niches=tuple(
            _box(
                box,
                f"{plan.walls.named(number)}, "
                f"{words.length(box.x.size)} × {words.length(box.y.size)}",
            )
            for number, box in one.niches
        ),
        boards=tuple(
            _box(box, f"{words.length(box.x.size)} × {words.length(box.y.size)}") for box in laid
        ),
        fasteners=tuple((screw.x, screw.y) for screw in held),
        cuts=tuple(_cuts(plan, words, one)),
        fixings=tuple(fixings),
        furring=tuple(_furring(plan, words, one)),
    )


def _said(words: Words, one: WallFrame) -> str:
    if is_top(one):
        return f"{words.length(one.finished)} × {words.length(one.high or 0.0)}, boards only"
    count = len(one.middles)
    across = f"{words.length(one.length)} {'framed' if one.block else 'between studs'}"
    return f"{across}, {count} {'stud' if count == 1 else 'studs'}"


def _built(case: Case, block: Block) -> BuiltUp:
    """A bench or half wall: how long its studs are, and how its top falls."""
    plan, words, fixture = case.plan, case.words, block.fixture
    plates = 2 * TRADE.walls.stud_width.value
    floor = levels(plan, case.surface).room
    stud = fixture.height + floor - thick(plan.walls.shower) - plates
    rows = [
        Input(name="front edge of its top", text=words.length(fixture.height)),
        Input(name="back edge of its top", text=words.length(back_height(block))),
        Input(name="studs between two plates", text=words.length(max(stud, 0.0), "down")),
    ]
    return BuiltUp(name=block.name, rows=tuple(rows), note=BUILT[fixture.kind])


def _box(box: Box, text: str = "") -> WallBox:
    return WallBox(x=box.x.low, y=box.y.low, width=box.x.size, height=box.y.size, text=text)


def _name(plan: Plan, hung: Hung) -> str:
    return plan.room.fixtures[hung.number].name


def _fixing(plan: Plan, words: Words, hung: Hung) -> str:
    name, row = _name(plan, hung), TRADE.walls.backing[hung.kind]
    if hung.kind == "screen":
        return f"{name}: {row.fixing}"
    if hung.y is None:
        return f"{name}: type its height in step Room to see its backing. {row.fixing}"
    return f"{name}, {words.length(hung.y)} up: {row.fixing}"


def _cuts(plan: Plan, words: Words, one: WallFrame) -> Iterator[Input]:
    """What is cut between the studs of a wall, by what it is for."""
    groups: dict[str, Counter[str]] = {}
    for piece in one.backing:
        what = "tray's perimeter" if piece.hung is None else _name(plan, piece.hung)
        groups.setdefault(what, Counter())[words.length(piece.box.x.size, "down")] += 1
    for what, lengths in groups.items():
        told = ", ".join(f"{count} × {length}" for length, count in lengths.items())
        yield Input(name=what, text=told)
    if one.added:
        yield Input(name="behind glass", text=f"{len(one.added)} more stud")
    for number, box in one.niches:
        if plan.walls.niches[number].kind == "window":
            # Its framing is there.
            continue
        yield Input(
            name=f"{plan.walls.named(number)}, sill and header",
            text=f"2 × {words.length(box.x.size)}",
        )


def _furring(plan: Plan, words: Words, one: WallFrame) -> Iterator[Input]:
    for row in furring(plan.walls.faces, one.wall):
        name = f"stud at {words.length(row.face.offset)}"
        if max(row.foot, row.head) <= ON_EDGE:
            yield Input(name=name, text="none")
        else:
            foot, head = words.length(row.foot), words.length(row.head)
            yield Input(name=name, text=f"{foot} at the foot, {head} at the head")


def _standing_out(plan: Plan, words: Words) -> Iterator[str]:
    """Where the shower's wall and the rest of the same wall are not of one thickness."""
    more = thick(plan.walls.shower) - thick(plan.walls.rest)
    if not plan.walls.rest or abs(more) <= ON_EDGE:
        return
    for one in frames(plan):
        if one.shower and sum(span.size for span in one.shower) < one.length - AT_WALL:
            front, back = ("shower", "rest") if more > 0 else ("rest", "shower")
            yield (
                f"Wall {one.wall + 1}: the {front} stands {words.length(abs(more))} in front of "
                f"the {back}. Fur the {back} by that to finish flush, or trim the edge."
            )


def _chain(plan: Plan, words: Words) -> Iterator[Input]:
    layers = plan.walls.shower
    if not layers:
        return
    yield Input(name="stud face", text=words.length(0))
    total = 0.0
    for layer in reversed(layers):
        total += layer.thickness
        yield Input(name=f"{layer.name}, {words.length(layer.thickness)}", text=words.length(total))
    valve = plan.walls.valve
    if valve is not None:
        wall = before_valve(plan, valve)
        yield Input(
            name="in front of the valve; it takes "
            f"{words.length(valve.least)} to {words.length(valve.most)}",
            text=words.length(wall),
        )


def _notes(plan: Plan, words: Words) -> Iterator[str]:
    if plan.walls.studs is not None:
        yield "The room was measured between studs. Its finished walls follow from what is on them."
    yield from _standing_out(plan, words)
    if any(one.kind == "control" for one in plan.room.fixtures):
        yield (
            "Have the valve fitted and its joints tested by a licensed plumber before the boards "
            "go on."
        )
    if former_of(plan.shower).one_piece:
        yield "Blocking round the tray goes in before the tray, flush with the studs' faces."
    if plan.walls.fixing == "washers":
        first = TRADE.walls.first_washer
        yield (
            f"No fastener lower than {words.length(first.value)} above the tray. Cover every head "
            "with a patch of band."
        )
    else:
        yield "A bead of sealant in every joint between boards. Never glue the boards."
    yield (
        "Find live wires and pipes before you drive a screw. Whether a stud bears is for an "
        "engineer."
    )
