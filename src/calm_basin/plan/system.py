"""A build system: what somebody bought, how it makes the falls, and how it is put in."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from calm_basin.plan.base import Gradient, Name, Part, Size, Thickness
from calm_basin.plan.layers import Layer
from calm_basin.plan.shower import Extension, LowerLift, StockTray
from calm_basin.plan.sources import Stated

Said = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=400)]

Told = Annotated[tuple[Said, ...], Field(max_length=20)]

SystemId = Annotated[str, StringConstraints(pattern=r"^[a-z0-9][a-z0-9-]{0,58}$")]

TraySide = Literal["entry", "back", "left", "right"]
"""A side of a tray, as seen on coming in."""


class TrayForm(Stated):
    """A preformed tray: ``trims`` are the sides that may be cut, each by ``most_cut``; ``rebate``
    is cut anew where a side takes a wall panel (0: there is none); ``base`` is how high the base is
    that it brings, which stands on the deck as it is (0: it brings none); ``most_over`` is how far
    its edge may stand over the room's floor (null: nothing is stated)."""

    kind: Literal["tray"] = "tray"
    fall: Gradient
    edge_thickness: Annotated[Thickness, Field(gt=0)]
    sizes: tuple[StockTray, ...] = Field(default=(), max_length=30)
    trims: tuple[TraySide, ...] = ("back", "left", "right")
    most_cut: Thickness
    rebate: Thickness = 0.0
    extension: Extension | None = None
    base: Thickness = 0.0
    most_over: Thickness | None = None


class BedForm(Stated):
    """A setting bed in one lift or two."""

    kind: Literal["bed"] = "bed"
    fall: Gradient
    least_thickness: Thickness
    lower: LowerLift | None = None


class PanelForm(Stated):
    """Wedge-shaped panels, or foam trays that fall one way, beside a channel."""

    kind: Literal["panels"] = "panels"
    thin_edge: Thickness
    thick_edge: Thickness
    length: Size
    width: Size

    @property
    def fall(self) -> float:
        """Rise over run."""
        return (self.thick_edge - self.thin_edge) / self.length


Form = Annotated[TrayForm | BedForm | PanelForm, Field(discriminator="kind")]


class BuildUp(Stated):
    """Layers that a system brings with it, each with its usual range, from the tile down."""

    shower: tuple[Layer, ...] = Field(max_length=20)
    room: tuple[Layer, ...] = Field(
        default=(), max_length=20, description="that go on the room's deck, from the top down"
    )


class PourForm(Stated):
    """Self-levelling compound that is poured in the shower under it, every time."""

    cover: Thickness


class Zones(Stated):
    """The fall of the rest of a wet room, where the system is cast in two zones."""

    rest: Gradient


class DeckLimit(Stated):
    """How far joists may be apart under a deck of at least this thickness."""

    deck: Thickness
    centres: Size


class Takes(Part):
    """How much of something goes under a tray of a size."""

    amount: float = Field(gt=0, le=1000)
    unit: Annotated[str, Field(min_length=1, max_length=20)]
    width: Size
    length: Size

    def over(self, area: float) -> float:
        """How much goes under an area, mm², in the unit."""
        return self.amount * area / (self.width * self.length)


class Bedding(Stated):
    """One school of how it is bedded and held."""

    school: Said
    trowel: Said
    faces: Said
    direction: Said
    adhesive: Said
    water: Said
    quantity: Said
    takes: Takes | None = Field(default=None, description="the same as a figure, where it is one")
    air: Said
    fixing: Said
    holds: Said = Field(description="what holds it down while it sets")
    stand: Said = Field(description="when it may be stepped on")


class Wait(Stated):
    """How long something has to be left alone."""

    what: Said
    time: Said


class Membrane(Stated):
    """The school by which it is made watertight."""

    school: Said
    says: Said


class Practice(Stated):
    """Tools and habits."""

    tools: Told
    forgotten: Told = Field(description="tools that people forget")
    hold_back: Told = Field(description="what is kept back for later")
    wrong: Told = Field(description="what goes wrong")


class BuildSystem(Part):
    """What is bought and how it is put in, described by what it is.

    A plan holds a copy, so that it stays what it was when the list changes. ``family`` and ``base``
    name a drain family and what the floor has to carry; ``channel`` is where a linear drain lies.
    """

    id: SystemId
    name: Name
    says: Said = Field(description="what it is, in a sentence")
    floors: tuple[Literal["joists", "slab"], ...] = Field(min_length=1, max_length=2)
    drain: Literal["point", "linear"]
    channel: Literal["back", "left", "right", "entry", "middle"] | None = None
    family: SystemId
    base: SystemId
    former: Form
    layers: BuildUp
    pour: PourForm | None = None
    zones: Zones | None = None
    deck: tuple[DeckLimit, ...] = Field(default=(), max_length=6)
    bedding: tuple[Bedding, ...] = Field(min_length=1, max_length=6)
    waits: tuple[Wait, ...] = Field(default=(), max_length=12)
    membrane: tuple[Membrane, ...] = Field(min_length=1, max_length=4)
    practice: Practice
