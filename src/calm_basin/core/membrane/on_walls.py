"""The membrane on the shower's walls: how high, round which niches, over how many fasteners.

Numbers only; places on a wall are those of its frame, mm.
"""

from __future__ import annotations

from typing import NamedTuple

from calm_basin.core.walls.boards import wall_fasteners
from calm_basin.core.walls.frame import Box, Frame, Span, frames
from calm_basin.plan import Plan


class SealedWall(NamedTuple):
    """A wall at the shower: what of it is sealed, and of what is built into it what is reached."""

    frame: Frame
    sealed: tuple[Box, ...]
    niches: tuple[tuple[int, Box], ...]
    pipes: tuple[tuple[float, float], ...]
    fasteners: tuple[tuple[float, float], ...]


def sealed_walls(plan: Plan) -> tuple[SealedWall, ...]:
    """The walls on which the membrane goes up; none where it stays on the floor."""
    high = plan.membrane.walls
    if not high:
        return ()
    return tuple(_sealed(plan, one, high) for one in frames(plan) if one.shower)


def _sealed(plan: Plan, one: Frame, high: float) -> SealedWall:
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
    return SealedWall(one, areas, niches, pipes, held)


def patched(plan: Plan) -> bool:
    """Whether each fastener's head takes a patch: under a sheet, where boards are held by them."""
    return plan.walls.fixing == "washers" and plan.days.membrane == "sheet"


def niche_round(box: Box) -> float:
    """Once round a niche's opening, mm."""
    return 2 * (box.x.size + box.y.size)


def niches_sealed(plan: Plan) -> tuple[tuple[int, Box], ...]:
    """The niches that the membrane reaches, by their number."""
    found = [niche for wall in sealed_walls(plan) for niche in wall.niches]
    return tuple(sorted(found))


def patches(plan: Plan) -> int:
    """How many fasteners are covered."""
    return sum(len(wall.fasteners) for wall in sealed_walls(plan))
