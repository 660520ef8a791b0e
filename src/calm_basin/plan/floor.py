"""The floor that is there: boards on joists or a slab, what carries it and what runs in it."""

from __future__ import annotations

from calendar import monthrange
from typing import Annotated, Literal

from pydantic import Field, field_validator

from calm_basin.plan.base import Angle, Coordinate, Name, Offset, Part, Point, Size, Thickness

JoistKind = Literal["sawn", "i_joist", "truss"]


class OtherJoist(Part):
    """A joist that is not as the others: ``number`` counts from the first one, which is 0, to the
    anticlockwise side; it may be moved, doubled, left out or cut short by a trimmer.

    ``start`` and ``end`` lie along the joists, from the plan's origin; null: it goes on. What is
    ``planned`` is not so yet: an engineer has to sign for it before it is cut.
    """

    number: int = Field(ge=-200, le=200)
    moved: Coordinate = 0.0
    plies: int = Field(default=1, ge=1, le=4)
    left_out: bool = False
    start: Coordinate | None = None
    end: Coordinate | None = None
    planned: bool = False


class Signed(Part):
    """The engineer who signed for what is changed in the structure, and on which day."""

    name: Name
    on: str = Field(pattern=r"^\d{4}-\d{2}-\d{2}$", description="such as 2026-11-30")

    @field_validator("on")
    @classmethod
    def _a_day(cls, on: str) -> str:
        year, month, day = (int(part) for part in on.split("-"))
        if not (
            1900 <= year <= 2200 and 1 <= month <= 12 and 1 <= day <= monthrange(year, month)[1]
        ):
            raise ValueError(f"“{on}” is no day. Write one such as 2026-11-30.")
        return on


class Member(Part):
    """A timber beside the joists, as deep as they are: from ``start`` to ``end`` of its middle."""

    kind: Literal["joist", "trimmer", "blocking"] = "joist"
    start: Point
    end: Point
    width: Size


class Beam(Part):
    """What carries the joists: below them, or flush with them, its middle from ``start`` to
    ``end``."""

    kind: Literal["girder", "wall"] = "girder"
    start: Point
    end: Point
    width: Size
    flush: bool = False


class JoistFloor(Part):
    """Boards on joists. The first joist's centre line lies ``first_offset`` from the plan's
    origin, measured square to ``direction`` (anticlockwise side positive).

    ``width`` is that of a sawn joist, of an I-joist's flange or of a truss's chord.
    """

    kind: Literal["joists"] = "joists"
    deck_thickness: Thickness
    direction: Angle = Field(description="of the joists, anticlockwise from the x axis")
    centres: Size
    width: Size
    depth: Size
    first_offset: Coordinate = 0.0
    joist: JoistKind = "sawn"
    flange: Thickness = Field(default=38.0, description="height of an I-joist's flange or a chord")
    web: Thickness = Field(default=10.0, description="thickness of an I-joist's web")
    span: Size | None = Field(
        default=None, description="of the joists between what carries them; null: not measured"
    )
    bearing: Coordinate | None = Field(
        default=None,
        description="where the span begins, along the joists from the origin; null: not measured",
    )
    others: tuple[OtherJoist, ...] = Field(default=(), max_length=40)
    members: tuple[Member, ...] = Field(default=(), max_length=40)
    beams: tuple[Beam, ...] = Field(default=(), max_length=20)
    signed: Signed | None = Field(
        default=None, description="for joists that are planned to be cut; null: nobody signed yet"
    )
    ceiling: bool = Field(default=True, description="whether a ceiling hangs from the joists")


class SlabFloor(Part):
    """A slab; ``membrane`` is the depth of a damp-proof membrane below its top."""

    kind: Literal["slab"] = "slab"
    thickness: Size
    reinforcement: Literal["unknown", "none", "bars", "post_tensioned"] = "unknown"
    membrane: Offset | None = None


Floor = Annotated[JoistFloor | SlabFloor, Field(discriminator="kind")]


class Service(Part):
    """A line in or under the floor that was found: the drain and its pipe keep ``clearance`` from
    it. ``depth`` is how deep it lies below the deck or slab top; null: not measured."""

    name: Name
    kind: Literal["water", "heating", "cable", "gas", "waste", "other"] = "other"
    points: Annotated[tuple[Point, ...], Field(min_length=2, max_length=30)]
    clearance: Offset = 50.0
    depth: Offset | None = None
