"""The floor and its falls, as they are sent."""

from __future__ import annotations

from typing import Literal

from calm_basin.core.answer.result import XY, Change, Result, Severity

SpotKind = Literal["corner", "rim", "grid", "asked"]


class Plane(Result):
    """One plane of the floor. ``downhill`` is a unit vector; ``label_at`` a place inside it."""

    name: str
    polygon: tuple[XY, ...]
    heights: tuple[float, ...]
    gradient: float
    text: str
    run: float
    downhill: XY
    label_at: XY
    severity: Severity | None
    labelled: bool


class FoldLine(Result):
    """A line in which two planes meet, uphill end first. ``angle`` is by how much the floor turns
    there, degrees; ``tile`` the farthest that a tile may reach across it uncut by the lippage
    limit, mm square to the fold; ``reach`` how far the chosen tile does (0 where none is chosen);
    ``cut`` whether it has to be cut along the fold: where it reaches farther, and is larger than
    what by practice lies uncut."""

    start: XY
    end: XY
    gradient: float
    text: str
    angle: float
    angle_text: str
    valley: bool
    tile: float
    tile_text: str
    reach: float
    cut: bool


class Contour(Result):
    """Lines of one depth below the entry level."""

    depth: float
    text: str
    lines: tuple[tuple[XY, ...], ...]


class SpotLevel(Result):
    """The finished floor at a place: its height and its depth below the entry level."""

    kind: SpotKind
    x: float
    y: float
    height: float | None
    depth: float | None
    text: str


class FloorSurface(Result):
    """The finished floor of the shower."""

    planes: tuple[Plane, ...]
    folds: tuple[FoldLine, ...]
    contour_interval: float
    contour_interval_text: str
    contours: tuple[Contour, ...]
    spot_levels: tuple[SpotLevel, ...]
    tile_notes: tuple[str, ...]
    side_levels: tuple[str, ...]
    shallowest: float
    deepest: float


class PlaneRange(Result):
    """What one plane or fold was asked for, what comes out, and what the rule set allows."""

    name: str
    zone: Literal["shower", "rest"]
    asked_text: str
    gradient: float
    text: str
    least: float | None
    least_text: str
    most: float | None
    most_text: str
    severity: Severity | None
    at: XY


class FallSpan(Result):
    """A range in which every required limit on falls is kept; empty where ``low`` is absent."""

    label: str
    low: float | None
    high: float | None
    now: float
    text: str
    inside: bool


class Corridor(Result):
    """The corridor between the flattest and the steepest fall that the rule set allows.

    ``places`` are squares of ``stride`` mm, by their middles, in which the drain may lie.
    """

    planes: tuple[PlaneRange, ...]
    spans: tuple[FallSpan, ...]
    places: tuple[XY, ...]
    stride: float
    fits: bool
    source: str


class Arrangement(Result):
    """A way in which this shower's floor can fall; ``changes`` puts it into the plan."""

    code: Literal["point", "even", "two", "back", "left", "right", "entry", "middle"]
    label: str
    chosen: bool
    changes: tuple[Change, ...]
