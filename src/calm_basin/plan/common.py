"""Common sizes that a plan starts from, round in its display's unit.

Each is an ordinary one (common practice, no source) and is there to be replaced by what is measured
or chosen; in a plan it is marked as assumed until then.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from calm_basin.plan.base import Point
from calm_basin.plan.floor import JoistFloor, SlabFloor
from calm_basin.plan.heating import Heating
from calm_basin.plan.layers import Layer
from calm_basin.plan.room import Door, Fixture, FixtureName
from calm_basin.plan.shower import (
    Bevel,
    Extension,
    Former,
    LowerLift,
    MortarBed,
    SlopePanels,
    Tile,
    Tray,
)
from calm_basin.units import MM_PER_INCH, LengthUnit

Pair = tuple[float, float]

POINT_RIM: Pair = (120.0, 4.75)
"""How wide the rim of a point drain is, in mm and in inches."""

FIXTURES: dict[FixtureName, tuple[Pair, Pair, Pair]] = {
    "WC": ((380, 15), (700, 28), (0, 0)),
    "basin": ((550, 22), (450, 18), (0, 0)),
    "cabinet": ((600, 24), (400, 16), (0, 0)),
    "washing machine": ((600, 24), (600, 24), (0, 0)),
    "radiator": ((600, 24), (100, 4), (0, 0)),
    "column": ((300, 12), (300, 12), (0, 0)),
    "seat": ((450, 18), (400, 16), (460, 18)),
    "folding seat": ((400, 16), (400, 16), (460, 18)),
    "bench": ((900, 36), (380, 15), (460, 18)),
    "half wall": ((600, 24), (120, 4.75), (1100, 42)),
    "bar": ((600, 24), (40, 1.5), (850, 34)),
    "control": ((150, 6), (80, 3), (1000, 42)),
    "head": ((100, 4), (350, 14), (2000, 80)),
    "screen": ((900, 36), (10, 0.375), (0, 0)),
    "curtain": ((1200, 48), (20, 0.75), (0, 0)),
}
"""Across, deep and how high up it is, each in mm and in inches."""


@dataclass(frozen=True)
class CommonSizes:
    """The sizes for one unit of length, all in mm."""

    unit: LengthUnit

    def size(self, mm: float, inches: float) -> float:
        """A size that is round in the unit, mm."""
        return inches * MM_PER_INCH if self.unit in ("in", "ft") else float(mm)

    def whole(self, mm: float) -> float:
        """A size rounded to what is measured in the unit: whole mm, or sixteenths of an inch."""
        step = self.size(1, 1 / 16)
        return round(round(mm / step) * step, 4)

    @property
    def joists(self) -> JoistFloor:
        return JoistFloor(
            deck_thickness=self.size(18, 0.75),
            direction=0,
            centres=self.size(400, 16),
            width=self.size(45, 1.5),
            depth=self.size(195, 9.25),
        )

    @property
    def slab(self) -> SlabFloor:
        return SlabFloor(thickness=self.size(100, 4))

    def door(self, wall: int, offset: float) -> Door:
        return Door(wall=wall, offset=offset, width=self.size(760, 30))

    def fixture(self, name: FixtureName, centre: Point, turn: float = 0.0) -> Fixture:
        across, deep, height = (self.size(*pair) for pair in FIXTURES[name])
        return Fixture(
            name=name,
            kind=name,
            centre=centre,
            width=across,
            length=deep,
            turn=turn,
            height=height,
        )

    @property
    def bevel(self) -> Bevel:
        return Bevel(height=self.size(6, 0.25), run=self.size(12, 0.5))

    def former(self, kind: Literal["bed", "tray", "panels"]) -> Former:
        """What makes the falls; panels fall 1:48."""
        if kind == "bed":
            return MortarBed(least_thickness=self.size(10, 0.375))
        if kind == "tray":
            return Tray(edge_thickness=self.size(25, 1), most_cut=self.size(150, 6))
        return SlopePanels(
            thin_edge=self.size(10, 0.25),
            thick_edge=self.size(35, 1.25),
            length=self.size(1200, 48),
            width=self.size(400, 16),
        )

    @property
    def pour_cover(self) -> float:
        return self.size(6, 0.25)

    @property
    def extension(self) -> Extension:
        return Extension(length=self.size(950, 36), rise=self.size(10, 0.375))

    @property
    def lower_lift(self) -> LowerLift:
        return LowerLift(least_thickness=self.size(15, 0.5), membrane=self.size(1, 0.0625))

    @property
    def tile(self) -> Tile:
        return Tile(length=self.size(300, 12), width=self.size(300, 12), joint=self.size(3, 0.125))

    @property
    def wall_tile(self) -> Tile:
        return Tile(length=self.size(600, 24), width=self.size(300, 12), joint=self.size(3, 0.125))

    @property
    def heating(self) -> Heating:
        return Heating(
            length=self.size(25_000, 960),
            volts=120.0 if self.unit in ("in", "ft") else 230.0,
            least=self.size(60, 2.5),
            most=self.size(120, 4.5),
        )

    @property
    def room_layers(self) -> tuple[Layer, ...]:
        return (
            Layer(role="tile", name="tile", thickness=self.size(10, 0.375)),
            Layer(role="adhesive", name="adhesive", thickness=self.size(4, 0.125)),
            Layer(role="board", name="board", thickness=self.size(10, 0.375)),
        )

    @property
    def shower_layers(self) -> tuple[Layer, ...]:
        return (
            Layer(role="tile", name="tile", thickness=self.size(8, 0.3125)),
            Layer(role="adhesive", name="adhesive", thickness=self.size(4, 0.125)),
            Layer(role="membrane", name="membrane", thickness=self.size(1, 0.0625)),
        )
