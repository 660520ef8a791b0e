"""The plan document: what was measured and what was decided, nothing derived.

Lengths are millimetres, falls rise over run, angles degrees. x points right and y up on plan;
heights are up positive with 0 at the top of the existing deck or slab. Outlines may run either
way round; edge ``i`` of an outline joins its points ``i`` and ``i + 1``.
"""

from __future__ import annotations

from itertools import chain
from typing import Annotated, Any, Literal, NamedTuple, Self, get_args

import numpy as np
import shapely
from pydantic import BaseModel, ConfigDict, Field, StringConstraints, model_validator
from shapely.geometry import Polygon
from shapely.validation import explain_validity

from calm_basin.plan.places import ON_EDGE, beyond, holds
from calm_basin.units import Denominator, FallForm, LengthUnit

FORMAT = "calm-basin-plan"
VERSION = 3

QuantityKind = Literal["length", "fall", "angle"]


class Quantity(NamedTuple):
    """Marks a number of the document with what it measures."""

    kind: QuantityKind


Coordinate = Annotated[float, Field(ge=-50_000, le=50_000, allow_inf_nan=False), Quantity("length")]
Size = Annotated[float, Field(gt=0, le=50_000, allow_inf_nan=False), Quantity("length")]
Offset = Annotated[float, Field(ge=0, le=50_000, allow_inf_nan=False), Quantity("length")]
Thickness = Annotated[float, Field(ge=0, le=500, allow_inf_nan=False), Quantity("length")]
Gradient = Annotated[float, Field(gt=0, le=0.2, allow_inf_nan=False), Quantity("fall")]
Angle = Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False), Quantity("angle")]
Point = tuple[Coordinate, Coordinate]
Outline = Annotated[tuple[Point, ...], Field(min_length=3, max_length=100)]
Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]


class ContradictionError(ValueError):
    """A part of the plan contradicts itself; carries where and what cures it."""

    def __init__(self, path: tuple[str | int, ...], message: str) -> None:
        super().__init__(message)
        self.path = path


class Part(BaseModel):
    """What all parts of the document share: they cannot be changed and know their fields."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=False)


class Job(Part):
    name: Name
    note: str = Field(default="", max_length=4000)


class DisplayChoice(Part):
    """How lengths and falls are shown and what a bare number means when typed."""

    length: LengthUnit = "mm"
    fraction: Denominator = 16
    fall: FallForm = "ratio"


class Layer(Part):
    """One layer of a floor's build-up, named by what it is."""

    name: Name
    thickness: Thickness


class Door(Part):
    """An opening in one wall: ``offset`` from the wall's first corner to the near jamb."""

    wall: int = Field(ge=0)
    offset: Offset
    width: Size
    hinge: Literal["first", "last"] = "first"
    swing: Literal["in", "out"] = "in"


class Fixture(Part):
    """What stands in the room: a rectangle, ``width`` along ``turn``."""

    name: Name
    centre: Point
    width: Size
    length: Size
    turn: Angle = 0.0


class Room(Part):
    outline: Outline
    doors: tuple[Door, ...] = Field(default=(), max_length=20)
    fixtures: tuple[Fixture, ...] = Field(default=(), max_length=30)
    layers: tuple[Layer, ...] = Field(max_length=20)


class JoistFloor(Part):
    """Boards on joists. The first joist's centre line lies ``first_offset`` from the plan's
    origin, measured square to ``direction`` (anticlockwise side positive)."""

    kind: Literal["joists"] = "joists"
    deck_thickness: Thickness
    direction: Angle = Field(description="of the joists, anticlockwise from the x axis")
    centres: Size
    width: Size
    depth: Size
    first_offset: Coordinate = 0.0


class SlabFloor(Part):
    kind: Literal["slab"] = "slab"
    thickness: Size


Floor = Annotated[JoistFloor | SlabFloor, Field(discriminator="kind")]


class PointDrain(Part):
    """A drain with a rectangular rim; ``width`` lies along ``orientation``."""

    kind: Literal["point"] = "point"
    centre: Point
    width: Size
    length: Size
    orientation: Angle = 0.0


class LinearDrain(Part):
    """A channel between two end points of its centre line."""

    kind: Literal["linear"] = "linear"
    start: Point
    end: Point
    width: Size
    strips: Gradient | None = Field(
        default=None, description="fall of the strips beyond its ends; null: level as drawn"
    )
    outlet: Offset | None = Field(
        default=None, description="from the start to where the waste leaves; null: the middle"
    )


Drain = Annotated[PointDrain | LinearDrain, Field(discriminator="kind")]


class Fall(Part):
    """The fall asked for. ``measured`` and ``edge`` matter at a point drain: the run that it is
    measured over, and whether the whole edge stays level or the same fall runs everywhere; an even
    floor may keep its entries level (``entry_level``)."""

    asked: Gradient
    measured: Literal["corner_run", "plane_run"] = "corner_run"
    edge: Literal["level", "even"] = "level"
    entry_level: bool = True


class Rest(Part):
    """The rest of a wet room's floor, which falls to the shower zone too: from level walls, or the
    same fall everywhere with walls that rise from the zone and doors that stay level."""

    asked: Gradient
    walls: Literal["level", "rising"] = "rising"


class MortarBed(Part):
    """A setting bed whose thinnest place is at the drain."""

    kind: Literal["bed"] = "bed"
    least_thickness: Thickness


class SideCut(Part):
    """What was cut off a tray along one edge of the shower; below 0 it is extended there."""

    edge: int = Field(ge=0)
    width: Coordinate


class Tray(Part):
    """A preformed tray with its falls built in: its size is the shower's plus what was cut off.

    ``raised`` packs the whole tray up, ``most_cut`` is what its maker allows on a side.
    """

    kind: Literal["tray"] = "tray"
    edge_thickness: Thickness
    cuts: tuple[SideCut, ...] = Field(default=(), max_length=20)
    raised: Thickness = 0.0
    most_cut: Thickness = Field(default=150.0, description="on a side; common practice: 6 in")


class SlopePanels(Part):
    """Wedge-shaped panels beside a linear drain: their fall is built in."""

    kind: Literal["panels"] = "panels"
    thin_edge: Thickness
    thick_edge: Thickness
    length: Size

    @property
    def fall(self) -> float:
        """Rise over run."""
        return (self.thick_edge - self.thin_edge) / self.length


Former = Annotated[MortarBed | Tray | SlopePanels, Field(discriminator="kind")]


class Tile(Part):
    """The tile of the shower's floor and the joint between tiles. Its length lies along the entry,
    turned by ``turn`` (anticlockwise)."""

    length: Size
    width: Size
    joint: Thickness = 3.0
    turn: Angle = 0.0


class Shower(Part):
    outline: Outline
    entries: tuple[int, ...] = Field(
        min_length=1, description="which edges of the outline are walked or rolled over"
    )
    set_down: Thickness = Field(
        default=0.0, description="how far the shower's edge lies below the room at the entry"
    )
    layers: tuple[Layer, ...] = Field(max_length=20, description="above the bed or tray")
    former: Former
    drain: Drain
    second_drain: PointDrain | None = None
    fall: Fall
    rest: Rest | None = None
    tile: Tile | None = Field(default=None, description="of the floor, where it is chosen")

    @property
    def built_fall(self) -> float:
        """The fall that the floor is built to, rise over run: what is asked for, unless it is laid
        on panels, whose own fall is built in."""
        if isinstance(self.former, SlopePanels) and isinstance(self.drain, LinearDrain):
            return self.former.fall
        return self.fall.asked

    def falling(self, fall: float) -> Shower:
        """The same shower built to another fall: asked for, and with panels that have it."""
        former = self.former
        if isinstance(former, SlopePanels):
            thick = former.thin_edge + fall * former.length
            former = former.model_copy(update={"thick_edge": thick})
        asked = self.fall.model_copy(update={"asked": fall})
        return self.model_copy(update={"fall": asked, "former": former})


class TapedWall(Part):
    """A wall as it was taped, walking round the room with the room on the left hand.

    ``turn`` is where its end corner turns to: left at an ordinary corner, right at an inner one.
    ``square`` says whether that corner may be taken as square where no tape says otherwise.
    """

    length: Size
    turn: Literal["left", "right"] = "left"
    square: bool = True


class Diagonal(Part):
    """A taped distance between two corners; corner ``i`` is where wall ``i`` begins."""

    first: int = Field(ge=0)
    last: int = Field(ge=0)
    length: Size


class Tape(Part):
    walls: tuple[TapedWall, ...] = Field(min_length=3, max_length=40)
    diagonals: tuple[Diagonal, ...] = Field(default=(), max_length=100)


class HeightReading(Part):
    """A height of the floor, up positive, from any benchmark that all readings share."""

    kind: Literal["height"] = "height"
    x: Coordinate
    y: Coordinate
    height: Coordinate


class StaffReading(Part):
    """A staff read under a laser: a larger reading is lower. ``instrument`` is the laser plane's
    height above the benchmark, kept with the reading so that the laser may be set up anew."""

    kind: Literal["staff"] = "staff"
    x: Coordinate
    y: Coordinate
    reading: Coordinate
    instrument: Coordinate = 0.0


class ShimReading(Part):
    """A long level with its bubble centred: it lies on the floor at (x, y) and ``gap`` is what
    fits under it at ``distance`` in ``direction``."""

    kind: Literal["shim"] = "shim"
    x: Coordinate
    y: Coordinate
    direction: Angle
    distance: Size
    gap: Coordinate


Reading = Annotated[HeightReading | StaffReading | ShimReading, Field(discriminator="kind")]


class Pour(Part):
    """Self-levelling compound over the floor that stays."""

    kind: Literal["pour"] = "pour"
    cover: Thickness = Field(default=6.0, description="over the high spot")
    bag_litres: float = Field(default=11.8, gt=0, le=100, description="yield of one bag")
    waste_share: float = Field(default=0.0, ge=0, le=0.5, description="kept back for what is lost")
    bags_a_batch: int = Field(default=1, ge=1, le=20)
    batch_minutes: float = Field(default=5.0, gt=0, le=120, description="to mix and pour a batch")
    working_minutes: float = Field(default=15.0, gt=0, le=240)


class FrameLevel(Part):
    """Deck pieces set level between the joists on cleats."""

    kind: Literal["frame"] = "frame"


class PackLevel(Part):
    """A thicker bed of adhesive under tray or pan."""

    kind: Literal["pack"] = "pack"


Correction = Annotated[Pour | FrameLevel | PackLevel, Field(discriminator="kind")]


class Survey(Part):
    """What was measured of the room as it is, and how its floor is made true."""

    tape: Tape | None = None
    levels: tuple[Reading, ...] = Field(default=(), max_length=5000)
    base: str = Field(default="foam-tray", max_length=60, description="what the floor has to carry")
    correction: Correction | None = None


class ShowerHead(Part):
    name: Name
    flow_l_min: float = Field(gt=0, le=200, allow_inf_nan=False)


class Water(Part):
    """What runs into the floor and what takes it away. ``drain_l_min`` is the drain's own figure
    from its maker, where it is known."""

    heads: tuple[ShowerHead, ...] = Field(
        default=(ShowerHead(name="shower head", flow_l_min=9.0),), max_length=12
    )
    pipe_diameter: Size = Field(default=50.0, description="inside, of the waste pipe")
    pipe_fall: Gradient = 1 / 48
    drain_l_min: float | None = Field(default=None, gt=0, le=1000)


class Plan(Part):
    """The whole document."""

    format: Literal["calm-basin-plan"] = "calm-basin-plan"
    version: Literal[3] = 3
    job: Job
    display: DisplayChoice = DisplayChoice()
    rule_set: str = Field(min_length=1, max_length=60)
    room: Room
    floor: Floor
    shower: Shower
    survey: Survey = Survey()
    water: Water = Water()
    pin_spacing: Size = Field(default=400.0, ge=100, description="between screed pins")
    laser: Size = Field(
        default=1000.0, description="what the staff reads on the existing floor's high spot"
    )

    @model_validator(mode="after")
    def _parts_agree(self) -> Self:
        room = _checked_outline(self.room.outline, ("room", "outline"), "The room")
        shower = _checked_outline(self.shower.outline, ("shower", "outline"), "The shower")
        outside = beyond(room, np.array(self.shower.outline))
        corner = int(outside.argmax())
        if outside[corner]:
            raise ContradictionError(
                ("shower", "outline", corner),
                f"The shower's corner {corner + 1} lies {outside[corner]:.0f} mm outside the "
                "room. Move the corner inside, or make the room larger.",
            )
        if not holds(room, shower):
            raise ContradictionError(
                ("shower", "outline"),
                "Part of the shower crosses a wall of the room. Keep the whole zone inside.",
            )
        for place, entry in enumerate(self.shower.entries):
            if not 0 <= entry < len(self.shower.outline):
                raise ContradictionError(
                    ("shower", "entries", place),
                    f"The shower has no edge {entry}. Choose from 0 to "
                    f"{len(self.shower.outline) - 1}.",
                )
        if len(set(self.shower.entries)) != len(self.shower.entries):
            raise ContradictionError(
                ("shower", "entries"), "An entry edge is named twice. Name it once."
            )
        for place, door in enumerate(self.room.doors):
            _check_door(door, place, self.room.outline)
        for place, fixture in enumerate(self.room.fixtures):
            if not shapely.contains_xy(room, *fixture.centre):
                raise ContradictionError(
                    ("room", "fixtures", place, "centre"),
                    f"The middle of “{fixture.name}” lies outside the room. Move it inside.",
                )
        if self.survey.tape is not None:
            _check_tape(self.survey.tape)
        check_drains(self.shower)
        if isinstance(self.floor, JoistFloor) and self.floor.centres <= self.floor.width:
            raise ContradictionError(
                ("floor", "centres"),
                f"Joists {self.floor.width:g} mm wide cannot stand {self.floor.centres:g} mm from "
                "centre to centre. Enter the spacing of their centres, such as 400.",
            )
        return self


def _apart(a: Point, b: Point) -> float:
    return float(((a[0] - b[0]) ** 2 + (a[1] - b[1]) ** 2) ** 0.5)


def _checked_outline(outline: tuple[Point, ...], path: tuple[str, ...], what: str) -> Polygon:
    for i, point in enumerate(outline):
        if _apart(point, outline[(i + 1) % len(outline)]) < 1:
            following = (i + 1) % len(outline) + 1
            raise ContradictionError(
                (*path, i),
                f"{what}'s corners {i + 1} and {following} are the same place. Remove one.",
            )
    shape = Polygon(outline)
    if not shape.is_valid:
        reason = explain_validity(shape)
        place = reason[reason.find("[") + 1 : reason.find("]")].split()
        where = f" at x {float(place[0]):.0f}, y {float(place[1]):.0f} mm" if place else ""
        raise ContradictionError(
            path,
            f"{what}'s outline crosses or touches itself{where}. "
            "Give the corners in order round it, each once.",
        )
    if shape.area < 10_000:
        raise ContradictionError(
            path, f"{what} has next to no area. Check its sizes and their unit."
        )
    return shape


def check_drains(shower: Shower) -> None:
    """Raise `ContradictionError` where drains, falls and former do not go together."""
    drain, former = shower.drain, shower.former
    if isinstance(drain, LinearDrain):
        length = _apart(drain.start, drain.end)
        if length < 1:
            raise ContradictionError(
                ("shower", "drain", "end"),
                "The channel's two ends are the same place. Move one of them.",
            )
        if drain.outlet is not None and drain.outlet > length + ON_EDGE:
            raise ContradictionError(
                ("shower", "drain", "outlet"),
                f"The outlet lies {drain.outlet - length:.0f} mm beyond the channel's other end. "
                f"Enter at most {length:.0f} mm.",
            )
        if shower.second_drain is not None:
            raise ContradictionError(
                ("shower", "second_drain"),
                "A second drain goes with a point drain. Remove it, or turn the channel into one.",
            )
        if shower.rest is not None and shower.rest.walls == "level":
            raise ContradictionError(
                ("shower", "rest", "walls"),
                "Level walls need a point drain. Let the walls rise, or choose a point drain.",
            )
    elif shower.second_drain is not None and shower.fall.edge == "even":
        raise ContradictionError(
            ("shower", "fall", "edge"),
            "Two drains keep level edges with a ridge between them. Choose level edges.",
        )
    if isinstance(former, SlopePanels) and former.thick_edge <= former.thin_edge:
        raise ContradictionError(
            ("shower", "former", "thick_edge"),
            "The panels' thick edge has to be thicker than their thin edge.",
        )
    if isinstance(former, Tray):
        edges = [cut.edge for cut in former.cuts]
        for place, edge in enumerate(edges):
            if edge >= len(shower.outline) or edge in edges[:place]:
                raise ContradictionError(
                    ("shower", "former", "cuts", place, "edge"),
                    f"Name each edge from 0 to {len(shower.outline) - 1} once.",
                )


def _check_tape(tape: Tape) -> None:
    corners = len(tape.walls)
    lefts = sum(1 if wall.turn == "left" else -1 for wall in tape.walls)
    if lefts != 4 and all(wall.square for wall in tape.walls):
        raise ContradictionError(
            ("survey", "tape", "walls"),
            f"With every corner square the walls turn {lefts} quarters, and a room turns 4. "
            "Check which corners turn right, or say which are not square.",
        )
    for place, diagonal in enumerate(tape.diagonals):
        between = abs(diagonal.first - diagonal.last)
        if max(diagonal.first, diagonal.last) >= corners or between in (0, 1, corners - 1):
            raise ContradictionError(
                ("survey", "tape", "diagonals", place, "last"),
                f"A diagonal joins two of the corners 0 to {corners - 1} that no wall joins. "
                "Choose others.",
            )


def _check_door(door: Door, place: int, outline: tuple[Point, ...]) -> None:
    if door.wall >= len(outline):
        raise ContradictionError(
            ("room", "doors", place, "wall"),
            f"The room has no wall {door.wall}. Choose from 0 to {len(outline) - 1}.",
        )
    wall = _apart(outline[door.wall], outline[(door.wall + 1) % len(outline)])
    if door.offset + door.width > wall + ON_EDGE:
        raise ContradictionError(
            ("room", "doors", place, "width"),
            f"The door ends {door.offset + door.width - wall:.0f} mm past the end of its "
            f"{wall:.0f} mm wall. Make it narrower or move it.",
        )


def quantities(part: Part) -> list[tuple[str, QuantityKind, float]]:
    """List every measured number of the document as (JSON pointer, kind, value)."""
    found: list[tuple[str, QuantityKind, float]] = []
    _collect(part, type(part), "", None, found)
    return found


def _collect(
    value: Any,
    annotation: Any,
    path: str,
    kind: QuantityKind | None,
    found: list[tuple[str, QuantityKind, float]],
) -> None:
    if isinstance(value, BaseModel):
        for name, field in type(value).model_fields.items():
            # Where the value may be absent, the mark stands on one side of the union.
            choices = (getattr(part, "__metadata__", ()) for part in get_args(field.annotation))
            given = [*field.metadata, *chain.from_iterable(choices)]
            marks = [mark.kind for mark in given if isinstance(mark, Quantity)]
            _collect(
                getattr(value, name),
                field.annotation,
                f"{path}/{name}",
                marks[0] if marks else None,
                found,
            )
    elif isinstance(value, tuple):
        for i, item in enumerate(value):
            # Nested numbers of the document are coordinates of points, and nothing else.
            _collect(
                item, None, f"{path}/{i}", "length" if isinstance(item, float) else None, found
            )
    elif kind is not None and isinstance(value, int | float):
        found.append((path, kind, float(value)))
