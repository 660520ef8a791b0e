"""The room and floor that are there, as they are sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Change, Figure, Input, Option, Result


class TapeMisfit(Result):
    """One tape measure against the outline that fits them all best."""

    name: str
    measured: float
    adjusted: float
    misfit: float
    text: str
    suspect: bool


class CornerResult(Result):
    """A corner of the taped room: ``gap`` is how far its shorter wall ends from square, mm."""

    number: int
    angle_text: str
    gap: float
    text: str


class TapeResult(Result):
    """The outline adjusted from tapes; ``changes`` puts it into the plan, and is empty where the
    tapes leave the shape open."""

    outline: tuple[XY, ...]
    misfits: tuple[TapeMisfit, ...]
    corners: tuple[CornerResult, ...]
    closes: float
    closes_text: str
    changes: tuple[Change, ...]


class Sounding(Result):
    """A place whose floor was read, and its depth below the high spot."""

    x: float
    y: float
    depth: float
    text: str


class ReadingPlace(Result):
    """Where a reading was taken, as a tape finds it: where a level lies on the floor, and its other
    end, under which its gap was read; empty of other readings."""

    at: str
    end: str


class FloorGrid(Result):
    """Depths below the high spot on a grid of cells, row by row from the lower left; null outside
    the room. ``read`` tells the cells that lie among the readings."""

    left: float
    bottom: float
    width: float
    height: float
    columns: int
    rows: int
    depths: tuple[float | None, ...]
    read: tuple[bool, ...]


class EdgeResult(Result):
    """Where a straightedge gapes most."""

    start: XY
    end: XY
    at: XY
    text: str


class TrayFall(Result):
    """What the floor's tilt leaves of a plane's fall; below 0 it has turned round."""

    plane: str
    built_in_text: str
    left: float
    text: str
    turned: bool


class Truing(Result):
    """One way to make the floor true, with its figures."""

    code: Literal["pour", "frame", "pack"]
    title: str
    figures: tuple[Input, ...]
    advice: tuple[str, ...]
    chosen: bool
    changes: tuple[Change, ...]


class CleatMark(Result):
    """How far below a joist's top its cleats are set at a place."""

    x: float
    y: float
    mark: float
    text: str


class JoistMarks(Result):
    joist: int
    marks: tuple[CleatMark, ...]


class FloorResult(Result):
    """The floor that is there, as it was read."""

    remarks: tuple[str, ...]
    soundings: tuple[Sounding, ...]
    high: XY
    low: XY
    range: Figure
    under_shower: Figure
    tilt: Figure
    tilt_downhill: float
    crown: Figure
    flatness: Figure
    edge: EdgeResult
    edge_length: float
    grid: FloorGrid
    base_name: str
    verdict_text: str
    true_enough: bool
    tray_falls: tuple[TrayFall, ...]
    truings: tuple[Truing, ...]
    cleats: tuple[JoistMarks, ...]


class SurveyResult(Result):
    """What follows from what was measured of the room. ``walk`` is a round of places to read,
    ``readings`` tells where those of the plan were taken, in its order, where they are so few that
    they are listed."""

    tape: TapeResult | None
    floor: FloorResult | None
    bases: tuple[Option, ...]
    walk: tuple[XY, ...]
    readings: tuple[ReadingPlace, ...]
