"""How the floor's tile is laid out."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from calm_basin.plan.base import Coordinate, Part, Size
from calm_basin.plan.shower import Tile

Pattern = Literal["straight", "half", "third", "hexagon"]
"""Joints that cross; rows shifted by half a tile, or by a third; hexagons, whose length is from
flat to flat."""


class Tiling(Part):
    """The layout of the tile. Two joints cross (of hexagons: the middle of one lies) at the middle
    of the drain, moved by ``along`` in the direction of the tile's length and by ``across`` square
    to it, to the left of that. The rest of the room is laid from there too."""

    pattern: Pattern = "straight"
    along: Coordinate = 0.0
    across: Coordinate = 0.0
    sheet: Size | None = Field(
        default=None, description="side of the sheets that small tile comes on; null: it is single"
    )
    room: Tile | None = Field(
        default=None, description="tile of the rest of the room; null: it is not laid out"
    )
    wall: Tile | None = Field(
        default=None,
        description="tile of the shower's walls, its length level but for its turn; null: they are "
        "not laid out",
    )
    walls: Literal["shower", "all"] = "shower"
    wall_pattern: Pattern = "straight"
    wall_sheet: Size | None = Field(
        default=None,
        description="side of the sheets that small wall tile comes on; null: it is single",
    )
    wall_height: Size | None = Field(
        default=None,
        description="how high the walls are tiled, above the finished floor; null: as they are "
        "boarded",
    )
