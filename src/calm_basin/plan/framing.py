"""Two lines of a wall: its finished face, which the plan draws, and the studs behind it.

Trays, decks and boards are cut to the studs, and marks are taped from them; falls, tile, clearances
and doors belong to the finished faces. Where nothing is said of a wall's layers both are one line.
"""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import LinearRing, LineString, Polygon

from calm_basin.plan.backs import Side
from calm_basin.plan.base import Outline, Point
from calm_basin.plan.blocks import blocks, compartment
from calm_basin.plan.document import Plan
from calm_basin.plan.layers import BOARDS, Layer, first, thick
from calm_basin.plan.shower import Shower
from calm_basin.plan.walls import WallBuild
from calm_basin.tolerances import ALONG, AT_WALL


class Stretch(NamedTuple):
    """Where a shower lies at a wall: the wall's number, and from and to along it, mm."""

    wall: int
    start: float
    end: float


@lru_cache(maxsize=64)
def stretches(room: Outline, shower: Outline) -> tuple[Stretch, ...]:
    """Where a shower's outline runs along the walls of a room, wall by wall."""
    ring = LinearRing(shower)
    found = []
    for number in range(len(room)):
        side = Side.of(room, number)
        along = side.along * side.length
        face = LineString([side.start, side.start + along]).buffer(AT_WALL, cap_style="flat")
        parts = shapely.get_parts(shapely.line_merge(ring.intersection(face)))
        ends = [
            np.sort((shapely.get_coordinates(part)[[0, -1]] - side.start) @ side.along)
            for part in parts
            if part.length > 2 * AT_WALL
        ]
        merged: list[list[float]] = []
        for low, high in sorted((float(low), float(high)) for low, high in ends):
            # A side that only crosses the wall's line lies at none.
            if high - low <= 2 * AT_WALL:
                continue
            if merged and low <= merged[-1][1] + AT_WALL:
                merged[-1][1] = max(merged[-1][1], high)
            else:
                merged.append([low, high])
        found += [
            Stretch(number, _at_end(low, side.length), _at_end(high, side.length))
            for low, high in merged
        ]
    return tuple(found)


def _at_end(at: float, length: float) -> float:
    """A place along a wall; one at its end but for a rounding is the end."""
    if at < 2 * AT_WALL:
        return 0.0
    return length if at > length - 2 * AT_WALL else at


def shower_stretches(plan: Plan) -> tuple[Stretch, ...]:
    """Where the plan's shower lies at walls."""
    return stretches(plan.room.outline, compartment(plan))


class _Lines(NamedTuple):
    """How far behind each wall its studs are, and the room's outline along them; None where they
    would cross."""

    depths: tuple[float, ...]
    studs: Outline | None


@lru_cache(maxsize=64)
def _lines(room: Outline, shower: Outline, walls: WallBuild) -> _Lines:
    wet, dry = thick(walls.shower), thick(walls.rest)
    at_shower = {stretch.wall for stretch in stretches(room, shower)}
    depths = _one_plane(room, [wet if n in at_shower else dry for n in range(len(room))])
    if not any(depths):
        return _Lines(depths, room)
    outline = offset(room, depths)
    ends = zip(outline, (*outline[1:], outline[0]), strict=True)
    turned = any(
        float((np.array(end) - np.array(start)) @ Side.of(room, number).along) <= 0
        for number, (start, end) in enumerate(ends)
    )
    crossed = turned or not Polygon(outline).is_valid
    return _Lines(depths, None if crossed else outline)


def _lines_of(plan: Plan) -> _Lines:
    return _lines(plan.room.outline, compartment(plan), plan.walls)


def wall_depths(plan: Plan) -> tuple[float, ...]:
    """How far behind each wall's finished face its studs are, mm. The studs of one straight wall
    stand in one plane: behind all of it as far as behind its thickest part."""
    return _lines_of(plan).depths


def _one_plane(outline: Outline, depths: list[float]) -> tuple[float, ...]:
    """Depths behind sides, the same behind all that are one straight line."""
    joined = _joined(outline)
    for _ in depths:
        for side, one in enumerate(joined):
            if one:
                depths[side - 1] = depths[side] = max(depths[side - 1], depths[side])
    return tuple(depths)


def _joined(outline: Outline) -> list[bool]:
    """Whether each side goes straight on from the one before it."""
    points = np.array(outline)
    along = np.roll(points, -1, axis=0) - points
    along /= np.hypot(along[:, 0], along[:, 1])[:, None]
    before = np.roll(along, 1, axis=0)
    turn = before[:, 0] * along[:, 1] - before[:, 1] * along[:, 0]
    onward = (before * along).sum(axis=1) > 0
    return [bool(flag) for flag in (np.abs(turn) <= ALONG) & onward]


def offset(outline: Outline, out: Sequence[float]) -> Outline:
    """An outline with each side moved outwards by so much, mm; below 0 inwards. Sides that are one
    straight line have to move alike."""
    sides = [Side.of(outline, number) for number in range(len(outline))]
    joined = _joined(outline)
    corners: list[Point] = []
    for number, side in enumerate(sides):
        before = sides[number - 1]
        far = side.start - side.inward * out[number]
        if joined[number]:
            corners.append((float(far[0]), float(far[1])))
            continue
        # Where the two moved lines cross.
        lines = np.array([before.inward, side.inward])
        reach = [before.inward @ before.start - out[number - 1], side.inward @ far]
        x, y = np.linalg.solve(lines, np.array(reach))
        corners.append((float(x), float(y)))
    return tuple(corners)


def studs(plan: Plan) -> Outline:
    """The room's outline along the studs; where they would cross it stays that of the walls."""
    return _lines_of(plan).studs or plan.room.outline


def studs_cross(plan: Plan) -> bool:
    """Whether a wall that juts into the room is too thin for what is on both of its faces."""
    return _lines_of(plan).studs is None


def framed(plan: Plan) -> Shower:
    """The shower as far as its tray goes, side by side as it is drawn: up to the studs, or to the
    boards on them."""
    if plan.walls.tray_to == "studs":
        return at_studs(plan)
    # What is on the boards comes after the tray, which ends behind that.
    return _set_back(plan, _boards(plan.walls.shower))


def at_studs(plan: Plan) -> Shower:
    """The shower up to the studs: where the deck is cut."""
    return _set_back(plan, 0.0)


def _set_back(plan: Plan, left: float) -> Shower:
    """The shower with its sides at walls, benches and half walls moved back to the studs, but for
    what is ``left`` on them, mm."""
    shower, room = plan.shower, plan.room.outline
    faces = [LineString([room[i], room[(i + 1) % len(room)]]) for i in range(len(room))]
    built = [face for block in blocks(plan) for face in block.free]
    faces += [LineString([face.start, face.end]) for face in built]
    behind = [*wall_depths(plan), *[thick(plan.walls.shower)] * len(built)]
    depths = [max(depth - left, 0.0) for depth in behind]
    if not any(depths) or studs_cross(plan):
        return shower
    outline = _moved_back(shower.outline, faces, depths)
    if built and not Polygon(outline).is_valid:
        # Something built up is thinner than what is on its studs.
        walls = len(faces) - len(built)
        outline = _moved_back(shower.outline, faces[:walls], depths[:walls])
    return shower.model_copy(update={"outline": outline})


def _moved_back(outline: Outline, faces: Sequence[LineString], depths: Sequence[float]) -> Outline:
    """An outline with its sides moved back to what is behind the faces that they lie at."""
    sides = range(len(outline))
    out = [_depth_behind(outline, side, faces, depths) for side in sides]
    return offset(outline, _one_plane(outline, out))


def _boards(layers: Sequence[Layer]) -> float:
    """From the studs to the face of what tile and membrane go on, mm: boards and all behind."""
    board = first(layers, *BOARDS)
    return 0.0 if board is None else thick(layers[board:])


def _depth_behind(
    outline: Outline, side: int, faces: Sequence[LineString], depths: Sequence[float]
) -> float:
    """How far behind a side of the shower the studs are, mm; 0 where it lies at no wall."""
    start, end = outline[side], outline[(side + 1) % len(outline)]
    line = LineString([start, end])
    middle = line.interpolate(0.5, normalized=True)
    near = min(range(len(faces)), key=lambda i: float(faces[i].distance(middle)))
    return depths[near] if faces[near].distance(middle) <= AT_WALL else 0.0
