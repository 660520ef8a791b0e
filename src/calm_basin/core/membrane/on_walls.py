"""The membrane on the shower's walls: how high, round which niches, over how many fasteners.

Numbers only; places on a wall are those of its frame, mm.
"""

from __future__ import annotations

from collections.abc import Iterator
from math import dist
from typing import NamedTuple

from calm_basin.core.walls.blocks import block_frames, frame_name, is_sealed
from calm_basin.core.walls.boards import boarded, wall_boards, wall_fasteners
from calm_basin.core.walls.frame import Box, Span, WallFrame, board_height, frames
from calm_basin.plan import Plan
from calm_basin.rules import TRADE
from calm_basin.rules.trade.membrane import School
from calm_basin.tolerances import ON_EDGE

Joint = tuple[tuple[float, float], tuple[float, float]]
"""Between two boards, from and to."""


class SealedWall(NamedTuple):
    """A wall at the shower: what of it is sealed, and of what is built into it what is reached."""

    frame: WallFrame
    sealed: tuple[Box, ...]
    niches: tuple[tuple[int, Box], ...]
    pipes: tuple[tuple[float, float], ...]
    fasteners: tuple[tuple[float, float], ...]
    joints: tuple[Joint, ...]


def school_of(plan: Plan) -> School:
    """By which school a plan is made watertight."""
    return TRADE.membrane.schools[plan.days.membrane]


def height_on_walls(plan: Plan) -> float:
    """How high the shower's walls are watertight, mm: boards with sealed seams are all the way up,
    else as far as the plan says; 0 where they are not."""
    school = school_of(plan)
    if school.beads:
        return board_height(plan) if boarded(plan) else 0.0
    return plan.membrane.walls if school.walls or school.joints else 0.0


def sealed_walls(plan: Plan) -> tuple[SealedWall, ...]:
    """The walls on which the membrane goes up, none where it stays on the floor, and the faces of
    benches and half walls, by every school that goes up at all."""
    high, school = height_on_walls(plan), school_of(plan)
    walls = [_sealed(plan, one, high) for one in frames(plan) if one.shower and high]
    up = school.walls or school.joints
    built = [one for one in block_frames(plan) if up and is_sealed(plan, one)]
    return (*walls, *[_sealed(plan, one, one.high or high) for one in built])


def _sealed(plan: Plan, one: WallFrame, high: float) -> SealedWall:
    areas = tuple(Box(span, Span(0.0, high)) for span in one.shower)

    def reached(x: float, y: float) -> bool:
        return y < high and any(span.low <= x <= span.high for span in one.shower)

    niches = tuple(
        (number, box)
        for number, box in one.niches
        if reached((box.x.low + box.x.high) / 2, box.y.low)
    )
    middles = [((h.x.low + h.x.high) / 2, h.y) for h in one.hung if h.kind in ("control", "head")]
    pipes = tuple((x, y) for x, y in middles if y is not None and reached(x, y))
    screws = wall_fasteners(plan, one)[0] if patched(plan) else []
    held = tuple((screw.x, screw.y) for screw in screws if reached(screw.x, screw.y))
    joints = tuple(_joints(wall_boards(plan, one), high)) if school_of(plan).joints else ()
    return SealedWall(one, areas, niches, pipes, held, joints)


def _joints(boards: list[Box], high: float) -> Iterator[Joint]:
    """The joints between boards up to a height: upright where one begins where another ends, level
    along the top of each that has one above it."""
    for box in boards:
        top = min(box.y.high, high)
        ends = any(
            abs(other.x.low - box.x.high) <= ON_EDGE and other.y == box.y for other in boards
        )
        if ends and top - box.y.low > ON_EDGE:
            yield (box.x.high, box.y.low), (box.x.high, top)
    for y in sorted({box.y.high for box in boards if box.y.high < high - ON_EDGE}):
        row = [box.x for box in boards if abs(box.y.low - y) <= ON_EDGE]
        for start, end in _runs(row):
            yield (start, y), (end, y)


def _runs(row: list[Span]) -> Iterator[tuple[float, float]]:
    """Boards of one course that lie one beside the other, from and to."""
    runs: list[list[float]] = []
    for span in sorted(row):
        if runs and span.low - runs[-1][1] <= ON_EDGE:
            runs[-1][1] = span.high
        else:
            runs.append([span.low, span.high])
    yield from ((start, end) for start, end in runs)


def patched(plan: Plan) -> bool:
    """Whether each fastener's head takes a patch: where boards are held by washers."""
    return school_of(plan).patches and plan.walls.fixing == "washers"


def niche_round(box: Box) -> float:
    """Once round a niche's opening, mm."""
    return 2 * (box.x.size + box.y.size)


def niches_sealed(plan: Plan) -> tuple[tuple[int, Box], ...]:
    """The niches that the membrane reaches, by their number."""
    found = [niche for wall in sealed_walls(plan) for niche in wall.niches]
    return tuple(sorted(found))


def board_joints(plan: Plan) -> tuple[tuple[str, float], ...]:
    """The joints between boards that are sealed: on which wall, and their length, mm."""
    return tuple(
        (frame_name(wall.frame), dist(start, end))
        for wall in sealed_walls(plan)
        for start, end in wall.joints
    )


def patches(plan: Plan) -> int:
    """How many fasteners are covered."""
    return sum(len(wall.fasteners) for wall in sealed_walls(plan))
