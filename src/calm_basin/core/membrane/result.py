"""The membrane, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Figure, Result

PieceKind = Literal["band", "upright", "inside corner", "outside corner", "collar"]


class MembranePiece(Result):
    """One piece in the order of laying: its name, what is cut (empty where it is only counted) and
    where it lies; ``length`` is what a tick holds for, mm."""

    kind: PieceKind
    name: str
    cut_text: str
    length: float
    places: tuple[XY, ...]
    laid: bool


class MembraneResult(Result):
    """How far the membrane goes, and every piece of it."""

    said: str
    left: int
    """Pieces that are not laid yet."""

    figures: tuple[Figure, ...]
    pieces: tuple[MembranePiece, ...]
    outline: tuple[XY, ...]
    """Of the floor that is sealed."""

    band_width: float
    """As it is drawn, mm."""

    notes: tuple[str, ...]
