"""The solution: everything that follows from a plan, ready to be shown.

Every number stands beside its text in the plan's display units, so that no reader of a solution
converts or rounds. Heights are mm from the existing deck or slab top, up positive; falls are rise
over run; x and y are the plan's.
"""

from __future__ import annotations

from typing import Any, Literal

from pydantic import BaseModel, ConfigDict

Unit = Literal["mm", "rise_per_run", "litre", "second", "litre_per_minute", "share"]
Severity = Literal["stop", "caution", "note"]
SpotKind = Literal["corner", "rim", "grid", "asked"]
XY = tuple[float, float]


class Result(BaseModel):
    """What all parts of a solution share."""

    model_config = ConfigDict(frozen=True, extra="forbid")


class Input(Result):
    """One number that a working starts from."""

    name: str
    text: str


class Working(Result):
    """Why a figure is what it is: the formula in words, its inputs and where it comes from."""

    formula: str
    inputs: tuple[Input, ...]
    source: str
    note: str = ""


class Figure(Result):
    """A number that the installer acts on. ``value`` is absent where it cannot be worked out."""

    label: str
    value: float | None
    unit: Unit
    text: str
    working: Working


class Figures(Result):
    """The key figures."""

    recess_needed: Figure
    recess_available: Figure
    recess_left_to_find: Figure
    drop_at_drain: Figure
    fall_steepest: Figure
    fall_flattest: Figure
    step_at_entry: Figure
    room_level: Figure
    entry_level: Figure
    drain_level: Figure
    base_level: Figure


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
    there, degrees; ``tile`` the farthest that a tile may reach across it uncut, mm square to the
    fold; ``reach`` how far the chosen tile does (0 where none is chosen); ``cut`` whether it has to
    be cut along the fold."""

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


class Change(Result):
    """Sets the value at a JSON pointer of the plan."""

    path: str
    value: Any


class Cure(Result):
    """A change that mends a finding. ``opens`` names the cautions that it brings with it, and the
    stops that it leaves worse than they were."""

    text: str
    changes: tuple[Change, ...]
    opens: tuple[str, ...] = ()


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


class Span(Result):
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
    spans: tuple[Span, ...]
    places: tuple[XY, ...]
    stride: float
    fits: bool
    nearest: Cure | None
    source: str


class Place(Result):
    """Where a finding is measured."""

    name: str
    x: float
    y: float
    measured: float
    text: str


class Finding(Result):
    """Something to change or to know, with what was measured against which limit."""

    code: str
    severity: Severity
    title: str
    detail: str
    measured: float | None
    measured_text: str
    limit: float | None
    limit_text: str
    unit: Unit
    applies_to: str
    source: str
    field: str
    places: tuple[Place, ...] = ()
    cures: tuple[Cure, ...] = ()


class Way(Result):
    """One way to get the depth: what it gives, what it costs and what it forbids."""

    code: str
    title: str
    gives: float | None
    gives_text: str
    enough: bool | None
    costs: str
    forbids: str
    changes: tuple[Change, ...] = ()


class Band(Result):
    """A filled shape of the section; ``outline`` in (distance along the cut, height).

    ``text`` is its thickness, where it has one that the plan gives.
    """

    kind: Literal[
        "finish", "bed", "tray", "packing", "deck", "refitted", "slab", "joist", "drain", "clash"
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


class Caution(Result):
    """A warning that belongs where the work is planned."""

    code: str
    text: str


class Joist(Result):
    """A joist on plan, drawn under the floor."""

    outline: tuple[XY, ...]


class Drawing(Result):
    """Shapes on plan that follow from the document and are not of the floor's surface.

    ``outlet`` is where the waste leaves a channel, ``outlet_offset`` mm from its start.
    """

    rims: tuple[tuple[XY, ...], ...]
    outlet: XY | None
    outlet_offset: float | None
    joists: tuple[Joist, ...]
    entries: tuple[tuple[XY, XY], ...]
    room_sides: tuple[str, ...]
    shower_sides: tuple[str, ...]


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
    tolerance_text: str
    true_enough: bool
    tray_falls: tuple[TrayFall, ...]
    truings: tuple[Truing, ...]
    cleats: tuple[JoistMarks, ...]


class SurveyResult(Result):
    """What follows from what was measured of the room. ``walk`` is a round of places to read."""

    tape: TapeResult | None
    floor: FloorResult | None
    bases: tuple[Input, ...]
    walk: tuple[XY, ...]


class Arrangement(Result):
    """A way in which this shower's floor can fall; ``changes`` puts it into the plan."""

    code: Literal["point", "even", "two", "back", "left", "right", "entry", "middle"]
    label: str
    chosen: bool
    changes: tuple[Change, ...]


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
    """What the water does on the planned floor, on cells of ``spacing`` mm."""

    spacing: float
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


class Pin(Result):
    """A screed pin: ``height`` from the base, cut to ``cut``; ``top`` is its level, ``staff`` what
    a laser's staff reads on it."""

    number: int
    kind: Literal["rim", "fold", "edge", "field"]
    x: float
    y: float
    height: float
    cut: float
    text: str
    top: float
    staff: float
    staff_text: str


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


class Solution(Result):
    """All that follows from one plan."""

    format: Literal["calm-basin-solution"] = "calm-basin-solution"
    version: Literal[1] = 1
    complete: bool
    rule_set: str
    deference: str
    figures: Figures
    surface: FloorSurface | None
    corridor: Corridor | None
    section: Section | None
    drawing: Drawing
    arrangements: tuple[Arrangement, ...]
    findings: tuple[Finding, ...]
    ways: tuple[Way, ...]
    cautions: tuple[Caution, ...]
    asked: tuple[SpotLevel, ...] = ()
    water: WaterResult | None = None
    pins: PinsResult | None = None
    survey: SurveyResult
    nudge: float
    plan_texts: dict[str, str]
