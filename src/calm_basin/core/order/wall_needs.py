"""What the walls take: boards, screws, timber between studs. Nothing where nobody has said yet what
is on the studs."""

from __future__ import annotations

from collections.abc import Iterator

from calm_basin.core.answer.case import Case
from calm_basin.core.order.need import M, Need, Share
from calm_basin.core.walls.blocks import all_frames
from calm_basin.core.walls.boards import wall_fasteners
from calm_basin.core.walls.frame import Backing, frames
from calm_basin.plan import Plan


def backing_pieces(plan: Plan) -> list[Backing]:
    """The pieces between studs of all walls."""
    if not (plan.walls.shower or plan.walls.rest):
        return []
    return [piece for one in frames(plan) for piece in one.backing]


def wall_needs(case: Case) -> Iterator[Need]:
    """Screws and timber; how many boards the cut list says."""
    plan = case.plan
    timber = sum(piece.box.x.size for piece in backing_pieces(plan))
    yield Need("backing", "pieces between studs", (Share("all walls", timber / M),))
    held = sum(len(wall_fasteners(plan, one)[0]) for one in all_frames(plan))
    yield Need("wall_screws", "up each stud under the boards", (Share("shower", held),))
