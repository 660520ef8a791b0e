"""What the water does, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Figure, Result, Working


class Puddle(Result):
    """Water that stays: where it is deepest, its depth, area and volume."""

    x: float
    y: float
    depth: float
    area: float
    litres: float
    text: str


class Runoff(Result):
    """The way of one drop, down to where it ends."""

    points: tuple[XY, ...]
    ends: Literal["drain", "out", "stands"]


class Gathering(Result):
    """A place at a drain's rim and the share of all water that comes in there."""

    x: float
    y: float
    share: float
    text: str


class Capacity(Result):
    """What one part of the way out can take, against what the heads give."""

    name: str
    carries: float
    text: str
    enough: bool
    working: Working


class WaterResult(Result):
    """What the water does on the planned floor."""

    puddles: tuple[Puddle, ...]
    level_area: float
    level_text: str
    runs: tuple[Runoff, ...]
    gatherings: tuple[Gathering, ...]
    crosses: bool
    crossing_text: str
    drained: Figure
    holds: Figure
    overflow: Figure
    flow: Figure
    capacities: tuple[Capacity, ...]
    verdict: str
    clear: bool


class TrialRow(Result):
    """What came of floors with one fall: ``holding`` is the share of them that hold a puddle deeper
    than the limit; depth (mm) and litres are those that 19 floors in 20 stay under."""

    fall: float
    fall_text: str
    planned: bool
    holding: float
    holding_text: str
    depth: float
    depth_text: str
    litres: float
    litres_text: str


class TrialResult(Result):
    """Floors made with workmanship error, so far."""

    done: int
    floors: int
    rows: tuple[TrialRow, ...]
    sentence: str
