"""The shower: its outline, build-up, drains and falls."""

from __future__ import annotations

from math import hypot
from typing import Annotated, Literal

from pydantic import Field

from calm_basin.plan.base import (
    Angle,
    Coordinate,
    Gradient,
    Offset,
    Outline,
    Part,
    Point,
    SetDown,
    Size,
    Thickness,
)
from calm_basin.plan.layers import Layer


class PointDrain(Part):
    """A drain with a rectangular rim; ``width`` lies along ``orientation``."""

    kind: Literal["point"] = "point"
    centre: Point
    width: Size
    length: Size
    orientation: Angle = 0.0


ChannelEnds = Literal["finished", "deducted", "notched"]
"""Three schools: the channel ends at the finished wall; it ends short of it by tile and adhesive,
which stand beside it; the wall tile is notched down into it."""


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
    ends: ChannelEnds = Field(
        default="finished", description="how the channel meets the wall tile at its two ends"
    )

    @property
    def size(self) -> float:
        """Its length, mm."""
        return hypot(self.end[0] - self.start[0], self.end[1] - self.start[1])

    @property
    def outlet_at(self) -> Point:
        """Where the waste leaves, on plan."""
        share = 0.5 if self.outlet is None else self.outlet / self.size
        (x0, y0), (x1, y1) = self.start, self.end
        return (x0 + (x1 - x0) * share, y0 + (y1 - y0) * share)


Drain = Annotated[PointDrain | LinearDrain, Field(discriminator="kind")]


class Fall(Part):
    """The fall asked for. ``measured`` and ``edge`` matter at a point drain: the run that it is
    measured over, and whether the whole edge stays level or the same fall runs everywhere; an even
    floor may keep its entries level (``entry_level``)."""

    asked: Gradient
    measured: Literal["corner_run", "plane_run"] = "corner_run"
    edge: Literal["level", "even"] = "level"
    entry_level: bool = True


Walls = Literal["level", "rising"]


class Rest(Part):
    """The rest of a wet room's floor, which falls to the shower zone too: from level walls, or the
    same fall everywhere with walls that rise from the zone and doors that stay level."""

    asked: Gradient
    walls: Walls = "rising"


class LowerLift(Part):
    """The lower lift of a bed in two lifts: it falls from all sides to the drain's body and carries
    the membrane, on which the upper lift lies. ``least_thickness`` is at the drain."""

    least_thickness: Thickness
    membrane: Thickness
    fall: Gradient = Field(default=1 / 48, description="from all sides to the drain's body")


class MortarBed(Part):
    """A setting bed whose thinnest place is at the drain; laid in two lifts it is the upper one."""

    kind: Literal["bed"] = "bed"
    least_thickness: Thickness
    lower: LowerLift | None = Field(
        default=None, description="under the membrane; null: the bed is one lift"
    )


class SideCut(Part):
    """What was cut off a tray along one edge of the shower; below 0 it is extended there."""

    edge: int = Field(ge=0)
    width: Coordinate


class StockTray(Part):
    """A tray as it is delivered, a rectangle: ``width`` lies along the entry, ``length`` from it to
    the back; the middle of its own drain lies ``drain_left`` from its left edge, as seen by whoever
    comes in, and ``drain_back`` from its back edge."""

    width: Size
    length: Size
    drain_left: Offset
    drain_back: Offset


class Extension(Part):
    """A piece that goes on from a tray's entry side with a rise of its own; only its plain end,
    at the entry, may be cut."""

    length: Size
    rise: Thickness

    @property
    def fall(self) -> float:
        """Rise over run."""
        return self.rise / self.length


class StatedFalls(Part):
    """The flattest and the steepest fall of a tray by its maker, rise over run."""

    least: Gradient
    most: Gradient


class Tray(Part):
    """A preformed tray with its falls built in: its size is the shower's plus what was cut off, or
    that of ``stock``, which is laid out from the riser: its own drain comes to lie where the
    shower's is, and what is over is cut.

    ``raised`` packs the whole tray up, ``most_cut`` is what its maker allows on a side. A tray
    whose maker states its falls is judged by those, ``stated``, not by what its size would make of
    them.
    """

    kind: Literal["tray"] = "tray"
    edge_thickness: Thickness
    cuts: tuple[SideCut, ...] = Field(default=(), max_length=20)
    raised: Thickness = 0.0
    most_cut: Thickness = Field(default=150.0, description="on a side; common practice: 6 in")
    stock: StockTray | None = Field(
        default=None, description="the tray as it is delivered; null: its cuts are given instead"
    )
    extension: Extension | None = Field(
        default=None, description="of a stock tray, towards the entry; null: none"
    )
    stated: StatedFalls | None = Field(default=None, description="null: its maker states none")


class SlopePanels(Part):
    """Wedge-shaped panels beside a linear drain: their fall is built in."""

    kind: Literal["panels"] = "panels"
    thin_edge: Thickness
    thick_edge: Thickness
    length: Size
    width: Size = Field(default=400.0, description="of one panel, along the channel")

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


class Bevel(Part):
    """The sloped part of an entry's edge: how high it is and how far it runs."""

    height: Thickness
    run: Offset


class Shower(Part):
    outline: Outline
    entries: tuple[int, ...] = Field(
        min_length=1, description="which edges of the outline are walked or rolled over"
    )
    set_down: SetDown = Field(
        default=0.0,
        description="how far the shower's edge lies below the room at the entry; below 0 above it",
    )
    bevel: Bevel | None = Field(
        default=None, description="of the step at the entry; null: its edge is square"
    )
    layers: tuple[Layer, ...] = Field(max_length=20, description="above the bed or tray")
    former: Former
    drain: Drain
    second_drain: PointDrain | None = None
    fall: Fall
    rest: Rest | None = None
    tile: Tile | None = Field(default=None, description="of the floor, where it is chosen")

    @property
    def bought(self) -> bool:
        """Whether its floor is a tray of a stock size, with the drain and falls it comes with."""
        return isinstance(self.former, Tray) and self.former.stock is not None

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
