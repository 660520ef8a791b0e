"""Boards over a shower's walls, and what holds them: numbers only.

Boards lie with their length along the wall, course over course; their ends meet on studs, and in
each second course half a board further on.
"""

from __future__ import annotations

from collections.abc import Iterator
from typing import NamedTuple

from calm_basin.core.walls.frame import Box, Span, WallFrame, board_height
from calm_basin.plan import Plan
from calm_basin.plan.common import CommonSizes
from calm_basin.plan.layers import BOARDS, has
from calm_basin.plan.walls import Fixing
from calm_basin.rules import TRADE
from calm_basin.tolerances import ON_EDGE

USUAL_BOARD = ((2400.0, 96.0), (1200.0, 48.0))
"""A board's length and width, in mm and in inches (common practice, no source)."""

LEAST_PIECE = 50.0
"""A board's end is not cut so that less than this, mm, is left of the next."""


class Fastener(NamedTuple):
    """A screw in a stud."""

    x: float
    y: float


def boarded(plan: Plan) -> bool:
    """Whether there is a board among what is on the studs of the shower's walls."""
    return has(plan.walls.shower, *BOARDS)


def wall_boards(plan: Plan, frame: WallFrame) -> list[Box]:
    """The boards of one wall of a plan; none where its layers have none."""
    high = frame.high or board_height(plan)
    return boards(frame, high, board_size(plan)) if boarded(plan) else []


def wall_fasteners(plan: Plan, frame: WallFrame) -> tuple[list[Fastener], int]:
    """What holds them, and how many were left out because a pipe rises there."""
    high = frame.high or board_height(plan)
    return fasteners(frame, high, plan.walls.fixing) if boarded(plan) else ([], 0)


def board_size(plan: Plan) -> tuple[float, float]:
    """Length and width of the boards, mm."""
    common = CommonSizes(plan.display.length)
    length, width = (common.size(*size) for size in USUAL_BOARD)
    return plan.walls.board_length or length, plan.walls.board_width or width


def boards(frame: WallFrame, height: float, size: tuple[float, float]) -> list[Box]:
    """The boards of a wall, from below and from the left, each as it is cut; niches are cut out of
    them."""
    return [
        Box(x, y)
        for stretch in frame.shower
        for course, y in enumerate(_courses(height, size[1]))
        for x in _row(frame, stretch, size[0], bool(course % 2))
    ]


def _courses(height: float, width: float) -> Iterator[Span]:
    low = 0.0
    while low < height - ON_EDGE:
        yield Span(low, min(low + width, height))
        low += width


def _row(frame: WallFrame, stretch: Span, length: float, half: bool) -> Iterator[Span]:
    """Boards of one course: each ends on the last stud that it reaches."""
    start, first = stretch.low, True
    while stretch.high - start > ON_EDGE:
        if stretch.high <= start + length + ON_EDGE:
            yield Span(start, stretch.high)
            return
        least, most = start + LEAST_PIECE, stretch.high - LEAST_PIECE
        ends = [x for x in frame.middles if least < x <= min(start + length, most)]
        near = [x for x in ends if x <= start + length / 2] if half and first else []
        first = False
        end = max(near or ends, default=min(start + length, stretch.high))
        yield Span(start, end)
        start = end


def fasteners(frame: WallFrame, height: float, fixing: Fixing) -> tuple[list[Fastener], int]:
    """The screws of a wall's boards, and how many were left out because a pipe rises there.

    Up each stud under the boards; in the corner of every second wall they are staggered by half a
    step, so that those of two walls do not meet.
    """
    step = TRADE.walls.apart(fixing).value
    first = TRADE.walls.first_washer.value if fixing == "washers" else step
    clear = TRADE.walls.pipe_clear.value
    found, left_out = [], 0
    for stretch in frame.shower:
        for x in frame.middles:
            if not stretch.low - ON_EDGE <= x <= stretch.high + ON_EDGE:
                continue
            in_corner = x - stretch.low < frame.width or stretch.high - x < frame.width
            y = first + (step / 2 if in_corner and frame.wall % 2 else 0.0)
            while y <= height + ON_EDGE:
                if any(abs(x - pipe) < clear for pipe in frame.pipes):
                    left_out += 1
                elif not any(_inside(box, x, y) for _, box in frame.niches):
                    found.append(Fastener(x, y))
                y += step
    return found, left_out


def _inside(box: Box, x: float, y: float) -> bool:
    return box.x.low < x < box.x.high and box.y.low < y < box.y.high
