"""What was measured of the room as it is."""

from __future__ import annotations

from math import cos, radians, sin
from typing import Annotated, Literal

from pydantic import Field

from calm_basin.plan.base import MOST_CORNERS, Angle, Coordinate, Part, Point, Size, Thickness


class TapedWall(Part):
    """A wall as it was taped, walking round the room with the room on the left hand.

    ``turn`` is where its end corner turns to: left at an ordinary corner, right at an inner one.
    ``square`` says whether that corner may be taken as square where no tape says otherwise.
    """

    length: Size
    turn: Literal["left", "right"] = "left"
    square: bool = True


class Diagonal(Part):
    """A taped distance between two corners; corner ``i`` is where wall ``i`` begins."""

    first: int = Field(ge=0)
    last: int = Field(ge=0)
    length: Size


class Tape(Part):
    walls: tuple[TapedWall, ...] = Field(min_length=3, max_length=MOST_CORNERS)
    diagonals: tuple[Diagonal, ...] = Field(default=(), max_length=100)


class HeightReading(Part):
    """A height of the floor, up positive, from any benchmark that all readings share."""

    kind: Literal["height"] = "height"
    x: Coordinate
    y: Coordinate
    height: Coordinate

    @property
    def level(self) -> float:
        """Height above the benchmark, mm."""
        return self.height


class StaffReading(Part):
    """A staff read under a laser: a larger reading is lower. ``instrument`` is the laser plane's
    height above the benchmark, kept with the reading so that the laser may be set up anew.
    ``simulated`` ones come from the stand-in laser: they are of an invented floor."""

    kind: Literal["staff"] = "staff"
    x: Coordinate
    y: Coordinate
    reading: Coordinate
    instrument: Coordinate = 0.0
    simulated: bool = False

    @property
    def level(self) -> float:
        """Height above the benchmark, mm."""
        return self.instrument - self.reading


class ShimReading(Part):
    """A long level with its bubble centred: it lies on the floor at (x, y) and ``gap`` is what
    fits under it at ``distance`` in ``direction``."""

    kind: Literal["shim"] = "shim"
    x: Coordinate
    y: Coordinate
    direction: Angle
    distance: Size
    gap: Coordinate

    @property
    def end(self) -> Point:
        """The end under which the gap is, mm."""
        angle = radians(self.direction)
        return (self.x + self.distance * cos(angle), self.y + self.distance * sin(angle))


Reading = Annotated[HeightReading | StaffReading | ShimReading, Field(discriminator="kind")]


PourArea = Literal["room", "shower", "both"]


class Pour(Part):
    """Self-levelling compound: over the floor that stays, in the shower's recess under what makes
    the falls, or both."""

    kind: Literal["pour"] = "pour"
    area: PourArea = Field(default="room", description="where it is poured")
    cover: Thickness = Field(default=6.0, description="over the high spot")
    bag_litres: float = Field(default=11.8, ge=1, le=100, description="yield of one bag")
    waste_share: float = Field(default=0.0, ge=0, le=0.5, description="kept back for what is lost")
    bags_a_batch: int = Field(default=1, ge=1, le=20)
    batch_minutes: float = Field(default=5.0, ge=0.5, le=120, description="to mix and pour a batch")
    working_minutes: float = Field(default=15.0, ge=1, le=240)


class FrameLevel(Part):
    """Deck pieces set level between the joists on cleats."""

    kind: Literal["frame"] = "frame"


class PackLevel(Part):
    """A thicker bed of adhesive under tray or pan."""

    kind: Literal["pack"] = "pack"


Correction = Annotated[Pour | FrameLevel | PackLevel, Field(discriminator="kind")]


MOST_READINGS = 5000
"""More readings are taken of no room."""


class Survey(Part):
    """What was measured of the room as it is, and how its floor is made true."""

    tape: Tape | None = None
    levels: tuple[Reading, ...] = Field(default=(), max_length=MOST_READINGS)
    base: str = Field(default="foam-tray", max_length=60, description="what the floor has to carry")
    correction: Correction | None = None
