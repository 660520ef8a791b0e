"""The room, what stands in it and what its floor is made of."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from calm_basin.plan.base import (
    Angle,
    Coordinate,
    Name,
    Offset,
    Outline,
    Part,
    Point,
    Size,
    Thickness,
)


class Layer(Part):
    """One layer of a floor's build-up, named by what it is."""

    name: Name
    thickness: Thickness


class Door(Part):
    """An opening in one wall: ``offset`` from the wall's first corner to the near jamb."""

    wall: int = Field(ge=0)
    offset: Offset
    width: Size
    hinge: Literal["first", "last"] = "first"
    swing: Literal["in", "out"] = "in"


class Fixture(Part):
    """What stands in the room: a rectangle, ``width`` along ``turn``."""

    name: Name
    centre: Point
    width: Size
    length: Size
    turn: Angle = 0.0


class Room(Part):
    outline: Outline
    doors: tuple[Door, ...] = Field(default=(), max_length=20)
    fixtures: tuple[Fixture, ...] = Field(default=(), max_length=30)
    layers: tuple[Layer, ...] = Field(max_length=20)


class JoistFloor(Part):
    """Boards on joists. The first joist's centre line lies ``first_offset`` from the plan's
    origin, measured square to ``direction`` (anticlockwise side positive)."""

    kind: Literal["joists"] = "joists"
    deck_thickness: Thickness
    direction: Angle = Field(description="of the joists, anticlockwise from the x axis")
    centres: Size
    width: Size
    depth: Size
    first_offset: Coordinate = 0.0


class SlabFloor(Part):
    kind: Literal["slab"] = "slab"
    thickness: Size


Floor = Annotated[JoistFloor | SlabFloor, Field(discriminator="kind")]
