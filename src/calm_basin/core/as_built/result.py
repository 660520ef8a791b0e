"""The floor as it was built, as it is sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Result

State = Literal["holds", "fails", "open"]


class BuiltReading(Result):
    """A place that was read: its height from the finished level at the entry as built and as
    planned, and the difference."""

    at: XY
    height: float
    height_text: str
    planned_text: str
    off: float
    off_text: str


class BuiltLimit(Result):
    """A plane against one limit on falls; ``by_plan``: it is broken by the plan itself, not by how
    it was built, and is not counted here."""

    state: State
    by_plan: bool
    limit_text: str
    source: str


class BuiltPlane(Result):
    """A plane of the floor as built: its fall as planned and as built, how well that is known, and
    how much it is off by. ``unread`` says what is missing where it cannot be judged."""

    name: str
    at: XY
    readings: int
    planned_text: str
    built: tuple[float, float] | None
    built_text: str
    spread_text: str
    state: State | None
    text: str
    limits: tuple[BuiltLimit, ...]
    off_text: str
    hollow: float | None
    hollow_text: str
    hollow_from: XY | None
    hollow_to: XY | None
    unread: str


class BuiltPuddle(Result):
    """Water that would stand on the floor as it is."""

    at: XY
    depth: float
    text: str


class BuiltStep(Result):
    """What is stepped over at the entry, or the depth of the recess, as built."""

    title: str
    state: State
    planned_text: str
    built_text: str
    text: str
    source: str


class DifferenceGrid(Result):
    """What the floor is off by on a grid of cells, mm, row by row from the lower left; null where
    there is no floor or nothing is known of it."""

    left: float
    bottom: float
    size: float
    columns: int
    rows: int
    off: tuple[float | None, ...]


class Moved(Result):
    """What is ground off or filled: the deepest place, over what, how much, in what packs."""

    depth: float
    depth_text: str
    at: XY
    area_text: str
    litres: float
    text: str


class BuiltWork(Result):
    """The least work that brings every plane back; ``because`` says why there is none."""

    needed: bool
    possible: bool
    because: str
    grind: Moved | None
    fill: Moved | None
    after: DifferenceGrid | None


class AsBuilt(Result):
    """The floor as it was built, from the readings of one layer."""

    layer: str
    state: State | None
    sentence: str
    error_text: str
    readings: tuple[BuiltReading, ...]
    outside: int
    planes: tuple[BuiltPlane, ...]
    puddles: tuple[BuiltPuddle, ...]
    puddles_text: str
    steps: tuple[BuiltStep, ...]
    map: DifferenceGrid | None
    work: BuiltWork | None
    next: tuple[XY, ...]
    next_texts: tuple[str, ...]
