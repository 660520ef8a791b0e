"""The faces of benches and half walls as frames, like those of walls: numbers only.

Each upright face that can be seen is boarded, with studs behind it; the top is boarded without a
fastener. Places on a top are x along its front and y back from it.
"""

from __future__ import annotations

from collections.abc import Iterator

from calm_basin.core.walls.frame import Span, WallFrame, frames, stud_centres, stud_middles
from calm_basin.plan import Plan
from calm_basin.plan.blocks import Block, blocks
from calm_basin.plan.layers import thick
from calm_basin.rules import TRADE


def all_frames(plan: Plan) -> tuple[WallFrame, ...]:
    """Every wall of the room, then the faces of benches and half walls."""
    return (*frames(plan), *block_frames(plan))


def block_frames(plan: Plan) -> tuple[WallFrame, ...]:
    """The faces of all benches and half walls whose height is known."""
    return tuple(
        one for block in blocks(plan) if block.fixture.height > 0 for one in _frames(plan, block)
    )


def _frames(plan: Plan, block: Block) -> Iterator[WallFrame]:
    width, on_studs = TRADE.walls.stud_width.value, thick(plan.walls.shower)
    for number, face in enumerate(block.faces):
        before, after = block.faces[number - 1], block.faces[(number + 1) % len(block.faces)]
        if not face.free:
            continue
        # What is on the studs of a face beside it stands in front of this one's too.
        ends = on_studs * (before.free + after.free)
        length = face.length - ends if face.length > ends else face.length
        yield WallFrame(
            wall=number,
            length=length,
            finished=face.length,
            depth=on_studs,
            middles=stud_middles(length, stud_centres(plan), width),
            width=width,
            shower=(Span(0.0, length),),
            niches=(),
            hung=(),
            perimeter=None,
            block=block,
            high=block.fixture.height,
        )
    long, deep = block.fixture.width, block.fixture.length
    yield WallFrame(
        wall=len(block.faces),
        length=long,
        finished=long,
        depth=on_studs,
        middles=(),
        width=width,
        shower=(Span(0.0, long),),
        niches=(),
        hung=(),
        perimeter=None,
        block=block,
        high=deep,
    )


def is_top(frame: WallFrame) -> bool:
    """Whether it is the top of a bench or half wall."""
    return frame.block is not None and frame.wall == len(frame.block.faces)


def is_sealed(plan: Plan, frame: WallFrame) -> bool:
    """Whether a face of a bench or half wall is sealed and tiled with the shower: all but the room
    side of a half wall, which is so in a wet room only."""
    block = frame.block
    if block is None or is_top(frame) or block.fixture.kind == "bench":
        return True
    face = block.faces[frame.wall]
    return plan.shower.rest is not None or face.beside == "shower" or frame.wall % 2 == 0


def frame_name(frame: WallFrame) -> str:
    """What a wall, or a face of a bench or half wall, is called."""
    block = frame.block
    if block is None:
        return f"wall {frame.wall + 1}"
    return f"{block.name}, {'top' if is_top(frame) else block.face_name(frame.wall)}"


def back_height(block: Block) -> float:
    """How high the back of its top is, mm: it falls to its front, whose height is given."""
    return block.fixture.height + block.fixture.length * TRADE.walls.bench_fall.value
