"""How the floor is set out, and what has been marked on it."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from calm_basin.plan.base import Coordinate, Part, Point, Size

MarkKind = Literal[
    "level line",
    "drain",
    "channel",
    "centre line",
    "entry",
    "edge",
    "saw line",
    "cleat",
    "membrane",
    "pin",
]
"""What is marked, in the order of work."""


class Marked(Part):
    """Something that was marked on the floor or the walls, as it was then: its ``places`` on plan
    and, where it stands for a height, that ``height``."""

    kind: MarkKind
    name: Annotated[str, Field(min_length=1, max_length=60)]
    places: tuple[Point, ...] = Field(max_length=4)
    height: Coordinate | None = None


class SettingOut(Part):
    """Pins, the level line and the marks that were made."""

    pin_spacing: Size = Field(default=400.0, ge=100, description="between screed pins")
    staff_on_high_spot: Size = Field(
        default=1000.0,
        description="how high the laser or the line on the walls stands over the existing floor's "
        "high spot: what a staff reads there",
    )
    marked: tuple[Marked, ...] = Field(
        default=(), max_length=1500, description="what has been marked, as it was then"
    )
