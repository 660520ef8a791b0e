"""What the walls have to agree on with the room."""

from __future__ import annotations

from calm_basin.plan.agreement import apart, checked_outline
from calm_basin.plan.base import ContradictionError
from calm_basin.plan.layers import thick
from calm_basin.plan.room import Room
from calm_basin.plan.walls import WallBuild
from calm_basin.tolerances import ON_EDGE

MOST_ON_STUDS = 300.0
"""No wall is so thick in front of its studs, mm; a slipped unit is."""


def check_walls(room: Room, walls: WallBuild) -> None:
    """Raise `ContradictionError` where the walls do not go with the room."""
    for name, layers in (("shower", walls.shower), ("rest", walls.rest)):
        deep = thick(layers)
        if deep > MOST_ON_STUDS:
            raise ContradictionError(
                ("walls", name),
                "These layers make {thick} in front of the studs. Type at most {most}, and check "
                "their units.",
                thick=deep,
                most=MOST_ON_STUDS,
            )
    if walls.studs is not None:
        checked_outline(walls.studs, ("walls", "studs"), "The room between studs")
        if len(walls.studs) != len(room.outline):
            raise ContradictionError(
                ("walls", "studs"),
                f"Between studs the room has {len(walls.studs)} corners, between finished walls "
                f"{len(room.outline)}. Measure both corner by corner.",
            )
    valve = walls.valve
    if valve is not None and valve.least > valve.most:
        raise ContradictionError(
            ("walls", "valve", "most"),
            "The valve's thickest wall is below its thinnest. Swap them.",
        )
    for place, niche in enumerate(walls.niches):
        length = _wall_length(room, niche.wall, ("walls", "niches", place, "wall"))
        if niche.offset + niche.width > length + ON_EDGE:
            raise ContradictionError(
                ("walls", "niches", place, "offset"),
                "The niche ends {beyond} beyond its wall. Move it, or make it narrower.",
                beyond=niche.offset + niche.width - length,
            )
    for place, face in enumerate(walls.faces):
        length = _wall_length(room, face.wall, ("walls", "faces", place, "wall"))
        if face.offset > length + MOST_ON_STUDS:
            raise ContradictionError(
                ("walls", "faces", place, "offset"),
                "The stud stands {beyond} beyond its wall. Measure from the wall's first corner.",
                beyond=face.offset - length,
            )


def _wall_length(room: Room, wall: int, path: tuple[str | int, ...]) -> float:
    count = len(room.outline)
    if wall >= count:
        raise ContradictionError(path, f"There is no wall {wall + 1}. Choose from 1 to {count}.")
    return apart(room.outline[wall], room.outline[(wall + 1) % count])
