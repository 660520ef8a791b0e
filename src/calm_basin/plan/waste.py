"""The drain's body and the way of its waste under the floor."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from calm_basin.plan.base import Coordinate, Name, Offset, Part, Point, Size

Step = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=200)]


class Adjustment(Part):
    """A part of a drain that is set to the tile: what may lie between flange and grate is ``least``
    to ``most`` with it. It is screwed, sawn off at its lower end, snapped to a length, or turned
    over for thin tile."""

    part: Name
    how: Literal["screw", "saw", "snap", "turn"]
    least: Offset
    most: Offset


class DrainFamily(Part):
    """What a kind of drain asks of the deck and of the pipe.

    A plan holds a copy, so that it stays what it was when the table of families changes. Sizes of
    flange and body are 0 where there is none; a channel's body and flange are as long as it is.
    Depths are below the rim; ``riser`` is the pipe's top above the deck on which the drain stands,
    after that was lowered (null: threaded, set to height, or the drain's own text says), or with
    ``riser_inside`` above the drain's inside bottom, ``trap`` how far the middle of the waste
    pipe lies below it.
    """

    id: str = Field(pattern=r"^[a-z0-9][a-z0-9-]{0,58}$")
    name: Name
    drain: Literal["point", "linear"]
    hole: Literal["round", "square", "oblong"]
    hole_width: Size
    hole_length: Size
    body_width: Offset = 0.0
    body_length: Offset = 0.0
    body_depth: Offset = 0.0
    flange_width: Offset = 0.0
    flange_length: Offset = 0.0
    flange_depth: Offset = 0.0
    riser: Coordinate | None = None
    riser_inside: bool = False
    trap: Offset
    pipe: Size = Field(description="outside diameter of the waste pipe that it takes")
    outlet: Offset | None = Field(
        default=None, description="from a channel's end to its outlet; null: in the middle"
    )
    turns: bool = Field(default=False, description="whether it may be turned end for end")
    wiggle: Offset = 0.0
    least_height: Offset = 0.0
    most_height: Offset = 0.0
    adjusts: tuple[Adjustment, ...] = Field(default=(), max_length=6)
    blocking: Offset = Field(default=115.0, description="timber keeps clear of the hole's middle")
    with_access: tuple[Step, ...] = Field(default=(), max_length=12)
    without_access: tuple[Step, ...] = Field(default=(), max_length=12)
    check: str = Field(default="", max_length=300)
    document: str = Field(min_length=1, max_length=120)
    from_memory: bool = False
    note: str = Field(default="", max_length=500)

    @property
    def source(self) -> str:
        """Whose figures these are."""
        return f"{self.document} (from memory)" if self.from_memory else self.document


class Waste(Part):
    """The way of the waste: which drain, where the stack or branch is that takes it, and the bends
    between them. ``branch`` is the level of the pipe's middle there, from the deck or slab top."""

    family: DrainFamily | None = None
    stack: Point | None = Field(default=None, description="null: not measured")
    branch: Coordinate | None = Field(default=None, description="null: not measured")
    run: tuple[Point, ...] | None = Field(
        default=None, max_length=20, description="its bends, from the drain; null: as proposed"
    )
    access_below: bool = False
    riser_cut: Literal["before", "after"] = "before"
