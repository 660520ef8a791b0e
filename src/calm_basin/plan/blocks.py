"""What is built up from the subfloor and sealed with the shower: benches without legs, half walls.

Each is a fixture with the size of its finished faces. A bench takes its place out of the shower's
floor; a half wall stands beside it.
"""

from __future__ import annotations

from functools import lru_cache
from itertools import pairwise
from math import dist
from typing import Literal, NamedTuple

import shapely
from shapely.geometry import LinearRing, LineString, Polygon
from shapely.geometry.base import BaseGeometry

from calm_basin.plan.backs import footprint
from calm_basin.plan.base import Outline, Point
from calm_basin.plan.document import Plan
from calm_basin.plan.room import Fixture, FixtureKind, Room
from calm_basin.tolerances import AT_WALL

BUILT_UP: tuple[FixtureKind, ...] = ("bench", "half wall")

Beside = Literal["wall", "block", "shower", "room"]
"""What lies at most of a face: a wall of the room, another block, the shower's floor or the room's;
the first two close it."""


class BlockFace(NamedTuple):
    """An upright face of a block, from and to on plan."""

    start: Point
    end: Point
    beside: Beside

    @property
    def length(self) -> float:
        return dist(self.start, self.end)

    @property
    def free(self) -> bool:
        """Whether it can be seen."""
        return self.beside in ("shower", "room")


class Block(NamedTuple):
    """A bench or half wall at the shower: its number among the fixtures, what it is called where
    another may go by the same name, what it takes on plan, and its faces one after another."""

    number: int
    name: str
    fixture: Fixture
    shape: Polygon
    faces: tuple[BlockFace, ...]

    @property
    def free(self) -> tuple[BlockFace, ...]:
        """The faces that can be seen."""
        return tuple(face for face in self.faces if face.free)

    @property
    def at_walls(self) -> float:
        """How much of it stands at walls or other blocks, mm."""
        return sum(face.length for face in self.faces if not face.free)

    @property
    def free_edges(self) -> int:
        """Upright edges where two of its faces meet that can be seen."""
        return sum(one.free and other.free for one, other in self._turns())

    @property
    def edges_at_walls(self) -> int:
        """Upright edges where a face that can be seen ends at a wall."""
        return sum(one.free != other.free for one, other in self._turns())

    def face_name(self, number: int) -> str:
        """What a face is called: its front and back by what lies beside them, its ends as somebody
        sees them who sits on it."""
        if number % 2:
            if self.fixture.kind == "bench":
                return "front" if number == 1 else "back"
            return f"{self.faces[number].beside} side"
        if not self.faces[2 - number].free:
            return "end"
        return "left end" if number else "right end"

    def _turns(self) -> pairwise[tuple[BlockFace, BlockFace]]:
        return pairwise((*self.faces, self.faces[0]))


def blocks(plan: Plan) -> tuple[Block, ...]:
    """The benches and half walls that are sealed with the shower: those that stand at it, or
    anywhere in a wet room."""
    if not any(one.kind in BUILT_UP for one in plan.room.fixtures):
        return ()
    wet = plan.shower.rest is not None
    return _blocks(plan.room, plan.shower.outline, wet)


@lru_cache(maxsize=64)
def _blocks(room: Room, shower: Outline, wet: bool) -> tuple[Block, ...]:
    floor, fixtures = Polygon(shower).buffer(AT_WALL, join_style="mitre"), room.fixtures
    shapes = {i: footprint(one) for i, one in enumerate(fixtures) if one.kind in BUILT_UP}
    found = []
    for number, shape in shapes.items():
        others = shapely.union_all([other for i, other in shapes.items() if i != number])
        faces = tuple(
            BlockFace(start, end, _beside(LineString([start, end]), room.outline, others, floor))
            for start, end in pairwise(_corners(shape))
        )
        if wet or any(face.beside == "shower" for face in faces):
            found.append(Block(number, room.called(number), fixtures[number], shape, faces))
    return tuple(found)


def _corners(shape: Polygon) -> list[Point]:
    return [(float(x), float(y)) for x, y in shape.exterior.coords]


def _beside(line: LineString, room: Outline, others: BaseGeometry, floor: Polygon) -> Beside:
    def most(shape: BaseGeometry) -> bool:
        return bool(line.intersection(shape).length > line.length / 2)

    if most(LinearRing(room).buffer(AT_WALL)):
        return "wall"
    if not others.is_empty and most(others.buffer(AT_WALL)):
        return "block"
    return "shower" if most(floor) else "room"


def compartment(plan: Plan) -> Outline:
    """The shower up to its walls: its floor with the benches that take their place out of it."""
    benches = [one.shape for one in blocks(plan) if one.fixture.kind == "bench"]
    return _joined(plan.shower.outline, tuple(benches)) if benches else plan.shower.outline


@lru_cache(maxsize=64)
def _joined(outline: Outline, shapes: tuple[Polygon, ...]) -> Outline:
    floor = Polygon(outline)
    near = [shape for shape in shapes if shape.distance(floor) <= AT_WALL]
    grown = [one.buffer(AT_WALL, join_style="mitre") for one in (floor, *near)]
    whole = shapely.union_all(grown).buffer(-AT_WALL, join_style="mitre")
    return tuple(_corners(whole)[:-1]) if isinstance(whole, Polygon) else outline


def standing_faces(plan: Plan) -> BaseGeometry:
    """The lines along which something stands up from the floor: walls of the room, and blocks."""
    walls = LinearRing(plan.room.outline)
    standing = [one.shape.exterior for one in blocks(plan)]
    return shapely.union_all([walls, *standing]) if standing else walls


def without_blocks(plan: Plan, floor: BaseGeometry) -> BaseGeometry:
    """What of a floor no bench and no half wall stands on."""
    standing = [one.shape for one in blocks(plan)]
    return floor.difference(shapely.union_all(standing)) if standing else floor
