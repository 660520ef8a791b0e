"""The membrane, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Figure, Result
from calm_basin.core.walls.result import WallBox

PieceKind = Literal[
    "band",
    "upright",
    "niche",
    "bench",
    "joint",
    "bead",
    "inside corner",
    "outside corner",
    "collar",
    "patch",
    "sheet",
]


class MembranePiece(Result):
    """One piece in the order of laying: its name, what is cut (empty where it is only counted) and
    where it lies; ``length`` is what a tick holds for, mm."""

    kind: PieceKind
    name: str
    cut_text: str
    length: float
    places: tuple[XY, ...]
    laid: bool


class MembraneWall(Result):
    """A wall at the shower from inside: what of it is sealed, niches, where pipes come through, and
    which fasteners are covered; x from the left end of its studs, y up from the floor, mm."""

    name: str
    length: float
    sealed: tuple[WallBox, ...]
    niches: tuple[WallBox, ...]
    pipes: tuple[XY, ...]
    patches: tuple[XY, ...]
    joints: tuple[tuple[XY, XY], ...]
    """Between boards, where they are sealed by themselves."""


class MembraneResult(Result):
    """How far the membrane goes, and every piece of it."""

    said: str
    left: int
    """Pieces that are not laid yet."""

    figures: tuple[Figure, ...]
    pieces: tuple[MembranePiece, ...]
    outline: tuple[XY, ...]
    """Of the floor that is sealed."""

    walls: tuple[MembraneWall, ...]
    """From left to right; none where they are not sealed."""

    band_width: float
    """As it is drawn, mm."""

    notes: tuple[str, ...]
