"""The room and what stands in it."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from calm_basin.plan.base import Angle, Coordinate, Name, Offset, Outline, Part, Point, Size
from calm_basin.plan.layers import Layer


class Door(Part):
    """An opening in one wall: ``offset`` from the wall's first corner to the near jamb.

    ``outside`` is the finished floor on its other side, ``ramp`` the length of one laid there.
    """

    wall: int = Field(ge=0)
    offset: Offset
    width: Size
    kind: Literal["hinged", "sliding"] = "hinged"
    hinge: Literal["first", "last"] = "first"
    swing: Literal["in", "out"] = "in"
    leaf_and_stop: Offset | None = Field(
        default=None, description="what the open leaf takes of the width; null: what is usual"
    )
    outside: Coordinate | None = Field(
        default=None,
        description="the finished floor outside it, above the existing deck; null: not measured",
    )
    ramp: Offset = Field(default=0.0, description="length of a ramp beyond it; 0: none")

    @property
    def sweeps(self) -> bool:
        """Whether its leaf swings over the room's floor."""
        return self.kind == "hinged" and self.swing == "in"


FixtureName = Literal[
    "WC",
    "basin",
    "cabinet",
    "washing machine",
    "radiator",
    "column",
    "seat",
    "folding seat",
    "bench",
    "half wall",
    "bar",
    "control",
    "head",
    "screen",
    "curtain",
]

FixtureKind = Literal[FixtureName, "other"]

OFF_THE_FLOOR: tuple[FixtureKind, ...] = ("folding seat", "bar", "control", "head", "curtain")
"""What leaves the floor under it free, folded or hung as it is."""


WITH_HEIGHT: tuple[FixtureKind, ...] = (
    "seat",
    "folding seat",
    "bench",
    "half wall",
    "bar",
    "control",
    "head",
)
"""What has a height above the finished floor that matters."""


class Fixture(Part):
    """What stands or hangs in the room: a rectangle, ``width`` along ``turn``.

    Its back is against a wall as a rule; at turn 0 its front looks up the plan. ``height`` is that
    of a seat's top, of a bar's or a control's middle above the finished floor; 0 where it does not
    matter.
    """

    name: Name
    kind: FixtureKind = "other"
    centre: Point
    width: Size
    length: Size
    turn: Angle = 0.0
    height: Offset = 0.0


class Room(Part):
    outline: Outline
    doors: tuple[Door, ...] = Field(default=(), max_length=20)
    fixtures: tuple[Fixture, ...] = Field(default=(), max_length=30)
    layers: tuple[Layer, ...] = Field(max_length=20)
    laid: Coordinate | None = Field(
        default=None,
        description="the finished floor where it is down already, from the deck or slab top; "
        "null: it follows from the layers",
    )

    def called(self, number: int) -> str:
        """What a fixture is called where another may go by the same name: then with its number."""
        name = self.fixtures[number].name
        alone = sum(one.name == name for one in self.fixtures) == 1
        return name if alone else f"{name} {number + 1}"
