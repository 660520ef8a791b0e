"""Tile on the shower's walls: numbers only.

Places on a wall are x from the left end of its finished face, as seen from inside, and y up from
the finished floor, mm. Rows run on round the corners; along each wall the tile begins by itself.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import groupby
from math import radians
from typing import Literal, NamedTuple

import numpy as np
import shapely
from shapely.geometry import LinearRing, LineString, Polygon
from shapely.geometry.base import BaseGeometry

from calm_basin.core.tile.laying import ROWS, Laid, TileGrid, lay
from calm_basin.core.tile.origin import GOOD, Weight, weight
from calm_basin.core.walls.blocks import (
    back_height,
    block_frames,
    frame_name,
    is_sealed,
    is_top,
)
from calm_basin.core.walls.frame import WallFrame, board_height, unfolded
from calm_basin.plan import Plan
from calm_basin.plan.backs import Side
from calm_basin.plan.blocks import Block, blocks
from calm_basin.plan.framing import Stretch, shower_stretches
from calm_basin.plan.shower import Tile
from calm_basin.rules import TRADE
from calm_basin.tolerances import AT_WALL, ON_EDGE, PARALLEL

Begun = Literal["carried", "edge", "joint", "tile"]
"""Upright joints of the floor are carried up; a whole tile begins at an edge that is no corner; a
joint stands in the middle, or a tile does."""


class WallFace(NamedTuple):
    """A finished face of a wall, bench or half wall: its name and length, where on it tile goes,
    mm², and from and to of that. ``side`` is where it stands on plan, ``runs_left`` whether that
    runs to the left as somebody sees it, ``lying`` whether it is a top."""

    name: str
    length: float
    tiled: BaseGeometry
    niches: tuple[Polygon, ...]
    left: float
    right: float
    side: Side
    runs_left: bool
    lying: bool = False


class WallLaid(NamedTuple):
    """A wall with its tile, and how that begins along it."""

    face: WallFace
    begun: Begun
    laid: Laid


class WallsLaid(NamedTuple):
    """All walls of a shower, from left to right; ``whole`` says which row is not cut."""

    walls: tuple[WallLaid, ...]
    whole: Literal["bottom", "top"]


def tile_height(plan: Plan) -> float:
    """How high the shower's walls are tiled, mm."""
    return plan.tiling.wall_height or board_height(plan)


def faces(plan: Plan, joint: float) -> list[WallFace]:
    """The faces that are tiled, from left to right, then those of benches and half walls: at the
    floor and in corners a joint is left, niches are open, and no tile goes behind a bench."""
    room, high = plan.room.outline, tile_height(plan)
    runs_left = LinearRing(room).is_ccw
    found = {}
    for wall, of_wall in groupby(_tiled_stretches(plan), key=lambda one: one.wall):
        side = Side.of(room, wall)
        length = side.length

        def seen(first: float, last: float, length: float = length) -> tuple[float, float]:
            return (length - last, length - first) if runs_left else (first, last)

        spans = [seen(one.start, one.end) for one in of_wall]
        parts = [
            shapely.box(
                low + joint * (low <= ON_EDGE),
                joint,
                high_x - joint * (high_x >= length - ON_EDGE),
                high,
            )
            for low, high_x in spans
        ]
        open_ = [
            shapely.box(low, one.sill, high_x, one.sill + one.height)
            for one in plan.walls.niches
            if one.wall == wall
            for low, high_x in [seen(one.offset, one.offset + one.width)]
        ]
        doors = [
            shapely.box(low, 0.0, high_x, TRADE.walls.door_head.value)
            for door in plan.room.doors
            if door.wall == wall
            for low, high_x in [seen(door.offset, door.offset + door.width)]
        ]
        behind = [
            shapely.box(low, 0.0, high_x, back_height(block) + joint)
            for block in blocks(plan)
            if (at := _behind(block, side)) is not None
            for low, high_x in [seen(*at)]
        ]
        tiled = shapely.union_all(parts).difference(shapely.union_all([*open_, *doors, *behind]))
        low, high_x = min(span[0] for span in spans), max(span[1] for span in spans)
        name = f"wall {wall + 1}"
        face = WallFace(name, length, tiled, tuple(open_), low, high_x, side, runs_left)
        found[wall] = face
    walls = [found[wall] for wall in unfolded(list(found), room)]
    built = [one for one in block_frames(plan) if is_sealed(plan, one)]
    return [*walls, *[_of_block(one, joint) for one in built]]


def _tiled_stretches(plan: Plan) -> tuple[Stretch, ...]:
    """Where walls are tiled: at the shower, or all along all of them."""
    if plan.tiling.walls == "shower":
        return shower_stretches(plan)
    room = plan.room.outline
    return tuple(Stretch(wall, 0.0, Side.of(room, wall).length) for wall in range(len(room)))


def _behind(block: Block, side: Side) -> tuple[float, float] | None:
    """From and to along a wall that a block stands at; None where it stands at another."""
    wall = LineString([side.start, side.start + side.along * side.length]).buffer(AT_WALL)
    at = [
        float((np.array(end) - side.start) @ side.along)
        for face in block.faces
        if wall.covers(LineString([face.start, face.end]))
        for end in (face.start, face.end)
    ]
    return (min(at), max(at)) if at else None


def _of_block(frame: WallFrame, joint: float) -> WallFace:
    """A face of a bench or half wall: a joint is left at the floor and where something stands at
    its ends; a top has one at what stands behind it."""
    block, high = frame.block, frame.high or 0.0
    assert block is not None
    lying, faces_ = is_top(frame), block.faces
    # A top is seen from its front.
    number = 1 if lying else frame.wall
    face, before, after = faces_[number], faces_[number - 1], faces_[(number + 1) % len(faces_)]
    length = frame.finished
    left, right = joint * (not before.free), length - joint * (not after.free)
    low, top = (0.0, high - joint * (not faces_[3].free)) if lying else (joint, high)
    start, end = np.array(face.start), np.array(face.end)
    along = (end - start) / length
    side = Side(start, along, np.array([-along[1], along[0]]), length)
    tiled = shapely.box(left, low, right, top)
    return WallFace(frame_name(frame), length, tiled, (), left, right, side, False, lying)


def lay_walls(plan: Plan, tile: Tile, floor: TileGrid | None) -> WallsLaid:
    """Tile on every wall of the shower: fewest slivers, then the widest narrowest cut, then fewest
    tiles. ``floor`` is the grid of the shower's floor: where its module is the wall's, its joints
    are carried up unless that makes more slivers."""
    joint, high = tile.joint, tile_height(plan)
    # Where rows begin: a joint below the lowest, above the highest.
    bottom, top = joint / 2, high + joint / 2
    tiled = [face for face in faces(plan, joint) if not face.tiled.is_empty]
    begun = [_begun(plan, face, tile, floor, bottom) for face in tiled]
    options: list[tuple[Weight, WallsLaid]] = []
    for whole, y in (("bottom", bottom), ("top", top)):
        walls = tuple(
            WallLaid(face, how, lay(_at(plan, tile, face, (x, y), whole == "top"), [face.tiled]))
            for face, how, x in begun
        )
        made = WallsLaid(walls, "bottom" if whole == "bottom" else "top")
        options.append((weight([one.laid for one in walls]), made))
    return min(options, key=lambda option: option[0])[1]


def _at(
    plan: Plan, tile: Tile, face: WallFace, joints: tuple[float, float], down: bool
) -> TileGrid:
    """The grid of a face: a top begins with whole tile at its front."""
    if face.lying:
        return _grid(plan, tile, (joints[0], -tile.joint / 2))
    return _grid(plan, tile, joints, down=down)


def _grid(plan: Plan, tile: Tile, joints: tuple[float, float], *, down: bool = False) -> TileGrid:
    """The grid that has an upright joint at a place and a level one below its first row; or above
    it where rows are counted ``down``."""
    pattern, sheet = plan.tiling.wall_pattern, plan.tiling.wall_sheet
    if sheet is not None:
        chip = (tile.length, tile.width) if pattern == "straight" else None
        straight = pattern == "straight"
        return TileGrid(
            sheet, sheet, tile.joint, "straight", radians(tile.turn), joints, chip, straight
        )
    grid = TileGrid(tile.length, tile.width, tile.joint, pattern, radians(tile.turn), joints)
    if pattern != "hexagon":
        return grid
    # It counts from the middle of a hexagon.
    off = (tile.joint + grid.size[1]) / 2
    return grid.begun(grid.module[0] / 2, -off if down else off)


def _begun(
    plan: Plan, face: WallFace, tile: Tile, floor: TileGrid | None, y: float
) -> tuple[WallFace, Begun, float]:
    """How tile begins along a wall, and where a joint then stands."""
    on = face.tiled
    if not tile.turn:
        # Later rows are alike.
        grid = _grid(plan, tile, (0.0, y))
        high = grid.module[1] * len(ROWS[grid.pattern])
        left, low, right, _ = on.bounds
        on = on.intersection(shapely.box(left, low, right, low + high))
    weighed = [
        (_weight_along(lay(_grid(plan, tile, (x, y)), [on])), order, how, x)
        for order, (how, x) in enumerate(_candidates(plan, face, tile, floor))
    ]
    best = min(weighed)
    # The floor's joints run on, though the end cuts were wider otherwise.
    carried = [one for one in weighed if one[2] == "carried" and one[0].slivers <= best[0].slivers]
    _, _, how, x = (carried or [best])[0]
    return face, how, x


def _weight_along(laid: Laid) -> Weight:
    """What a beginning along the wall weighs: a row that is too low is the height's own matter."""
    if laid.grid.turn or not len(laid.shapes):
        return weight([laid])
    shares = laid.shares[:, 0]
    thin = laid.kept[:, 0] < laid.grid.unit[0] * TRADE.tiling.sliver.value - ON_EDGE
    narrowest = min(float(shares.min()), GOOD)
    return Weight(int((thin & ~laid.whole).sum()), -round(narrowest, 3), laid.used)


def _candidates(
    plan: Plan, face: WallFace, tile: Tile, floor: TileGrid | None
) -> Iterator[tuple[Begun, float]]:
    own, middle = _grid(plan, tile, (0.0, 0.0)), (face.left + face.right) / 2
    side = face.side
    straight = own.pattern == "straight" and not own.turn
    if floor is not None and floor.pattern == "straight" and straight:
        row = np.array([np.cos(floor.turn), np.sin(floor.turn)])
        across = abs(float(row[0] * side.along[1] - row[1] * side.along[0]))
        module = floor.module[0] if across <= PARALLEL else floor.module[1]
        square = across <= PARALLEL or across >= 1 - PARALLEL
        if square and abs(module - own.module[0]) <= ON_EDGE / 10:
            at = float((np.array(floor.origin) - side.start) @ side.along)
            yield "carried", side.length - at if face.runs_left else at
    if face.left > ON_EDGE:
        yield "edge", face.left - tile.joint / 2
    if face.right < face.length - ON_EDGE:
        yield "edge", face.right + tile.joint / 2
    yield "joint", middle
    yield "tile", middle + own.module[0] / 2
