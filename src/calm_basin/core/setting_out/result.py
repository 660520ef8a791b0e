"""Screed pins and check lines, as they are sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Result


class Pin(Result):
    """A screed pin: ``height`` from the base, cut to ``cut``; ``top`` is its level, ``staff`` what
    a laser's staff reads on it. ``from_text`` says where it stands, from two walls, ``on`` on
    what."""

    number: int
    kind: Literal["rim", "fold", "edge", "field"]
    x: float
    y: float
    height: float
    cut: float
    text: str
    from_text: str
    top: float
    staff: float
    staff_text: str
    on: str


class CheckLine(Result):
    """A line from the rim outwards for a level and a tape: distances and rises over the rim."""

    name: str
    start: XY
    end: XY
    distances: tuple[str, ...]
    rises: tuple[str, ...]


class PinsResult(Result):
    """Screed pins in laying order. ``worst`` is the largest change that rounding made, mm."""

    pins: tuple[Pin, ...]
    unit_text: str
    worst: float
    cost: str
    stands_on: str
    lines: tuple[CheckLine, ...]
    none_because: str
