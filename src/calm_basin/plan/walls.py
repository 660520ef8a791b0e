"""The walls: what is on their studs, where the studs stand, and what is built into them."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from calm_basin.plan.base import Coordinate, Offset, Outline, Part, Quantity, Size, Thickness
from calm_basin.plan.layers import Layer

MOST_CENTRES = 700.0
"""Studs are never farther apart, mm: a board has to meet one."""

Centres = Annotated[float, Field(ge=150, le=MOST_CENTRES, allow_inf_nan=False), Quantity("length")]

BoardLength = Annotated[
    float, Field(ge=MOST_CENTRES, le=5000, allow_inf_nan=False), Quantity("length")
]

BoardWidth = Annotated[float, Field(ge=200, le=3000, allow_inf_nan=False), Quantity("length")]

Fixing = Literal["washers", "screws"]
"""Two schools: screws with washers, none low above the tray; screws closer together, beads between
boards."""


TrayTo = Literal["studs", "boards"]
"""Two schools: the tray goes in before the boards, which come down on it, or after them."""


class Niche(Part):
    """A recess between studs of one wall, or a window that is there.

    ``offset`` is from the wall's first corner to its near side, ``sill`` how high its bottom is
    above the finished floor. Sizes are those of its opening.
    """

    kind: Literal["niche", "window"] = "niche"
    wall: int = Field(ge=0)
    offset: Offset
    width: Size
    height: Size
    sill: Offset


class Valve(Part):
    """How thick a wall the valve takes: the finished face lies ``least`` to ``most`` before the
    place where it is fixed, which is ``forward`` of the studs' faces (below 0 behind)."""

    least: Thickness
    most: Thickness
    forward: Coordinate = 0.0


class StudFace(Part):
    """A stud as it was found: ``offset`` from the wall's first corner to its middle, and how far
    its face lies behind a plumb line along the wall at ``foot`` and ``head``."""

    wall: int = Field(ge=0)
    offset: Offset
    foot: Thickness
    head: Thickness


class WallBuild(Part):
    """The walls. Outlines of room and shower are the finished faces; the studs stand behind them by
    what is on them. Layers run from the finished face to the studs."""

    shower: tuple[Layer, ...] = Field(
        default=(), max_length=20, description="of walls at which the shower lies; empty: not given"
    )
    rest: tuple[Layer, ...] = Field(
        default=(), max_length=20, description="of all other walls; empty: not given"
    )
    studs: Outline | None = Field(
        default=None,
        description="the room as it was measured from stud to stud, corner by corner as its "
        "outline; null: it was measured at the finished walls",
    )
    centres: Centres | None = Field(
        default=None, description="how far apart studs stand, middle to middle; null: as is usual"
    )
    height: Size | None = Field(
        default=None,
        description="how high the shower's walls are boarded, above the finished floor; null: as "
        "high as the membrane goes, or as is usual",
    )
    board_length: BoardLength | None = Field(default=None, description="null: as is usual")
    board_width: BoardWidth | None = Field(default=None, description="null: as is usual")
    tray_to: TrayTo = Field(
        default="studs", description="what tray and deck are cut to: the studs, or boards on them"
    )
    fixing: Fixing = "washers"
    niches: tuple[Niche, ...] = Field(default=(), max_length=10)
    valve: Valve | None = Field(default=None, description="null: nobody said what it takes")
    faces: tuple[StudFace, ...] = Field(
        default=(), max_length=100, description="studs that were held against a plumb line"
    )

    def named(self, number: int) -> str:
        """What the niche or window of this number is called."""
        return f"{self.niches[number].kind} {number + 1}"
