"""The section, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Result


class Band(Result):
    """A filled shape of the section; ``outline`` in (distance along the cut, height).

    ``text`` is its thickness, where it has one that the plan gives.
    """

    kind: Literal[
        "finish",
        "bed",
        "tray",
        "packing",
        "deck",
        "refitted",
        "slab",
        "joist",
        "riser",
        "drain",
        "clash",
    ]
    name: str
    text: str = ""
    outline: tuple[XY, ...]


class Tick(Result):
    """A mark of the section's scale board."""

    height: float
    text: str


class Section(Result):
    """A vertical cut through the room, from ``start`` to ``end`` on plan."""

    start: XY
    end: XY
    length: float
    bands: tuple[Band, ...]
    shower: tuple[float, float]
    entry: float | None
    drain: tuple[float, float]
    top: float
    bottom: float
    ticks: tuple[Tick, ...]
    joists_along: bool
