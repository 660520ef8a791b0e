"""What is sealed, and which pieces of it are laid."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field

from calm_basin.plan.base import Offset, Part

Extent = Literal["shower", "near", "all"]
"""The shower alone; the shower and what of the room is near it; the whole floor."""


class LaidPiece(Part):
    """A piece that was laid, as it was then: of another length it is another piece."""

    name: Annotated[str, Field(min_length=1, max_length=80)]
    length: Offset = Field(default=0.0, description="0: it is counted, not measured")


class Membrane(Part):
    """How far the floor is sealed, how high the shower's walls are, and what has been laid. By
    which school it is done the days say."""

    extent: Extent | None = Field(
        default=None, description="null: all of a wet room, else the shower and what is near it"
    )
    walls: Offset = Field(
        default=0.0,
        le=4000,
        description="how high the membrane goes up the shower's walls; 0: the walls are not sealed "
        "with it",
    )
    pipes: int = Field(default=2, ge=0, le=30, description="through the walls: valve and arm")
    laid: tuple[LaidPiece, ...] = Field(default=(), max_length=300)
