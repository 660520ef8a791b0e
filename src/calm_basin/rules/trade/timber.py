"""What may be taken out of joists, and how stiff they should be under tile."""

from __future__ import annotations

from math import inf
from typing import Literal

from pydantic import BaseModel

from calm_basin.rules.ruleset import Length, RuleSet, millimetres
from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Measure, Number, Sourced

GuideName = Literal["us", "uk"]


class Guide(Sourced):
    """Rules of thumb for sawn joists: depths and places as shares of depth and span.

    A notch may be ``notch`` of the depth between ``notch_from`` and ``notch_to`` of the span, from
    either end, at the very end ``end_notch`` of it. A hole may be ``hole`` of the depth across, its
    edge ``edge`` from top and bottom and within the ``middle`` share of the depth, its middle no
    farther than ``off_centre`` from the joist's (empty: nothing is asked), between ``hole_from``
    and ``hole_to`` of the span, ``apart`` diameters from the middle of the next and ``between``
    from its edge.
    """

    id: GuideName
    name: str
    notch: float
    notch_from: float
    notch_to: float
    end_notch: float
    hole: float
    edge: str
    hole_from: float
    hole_to: float
    middle: float
    off_centre: str = ""
    apart: float
    between: str

    def spacing(self, hole: float) -> float:
        """The least between the middles of two holes of one size, mm."""
        return max(self.apart * hole, hole + millimetres(self.between))

    @property
    def centred(self) -> float:
        """How far a hole's middle may lie from the joist's, mm; infinite where it is free."""
        return millimetres(self.off_centre) if self.off_centre else inf

    @property
    def clear(self) -> float:
        """From a hole's edge to the joist's, mm."""
        return millimetres(self.edge)


class Stiffness(Sourced):
    """How little a floor under one kind of tile may bend: its span over ``share``."""

    id: Literal["ceramic", "stone"]
    name: str
    share: float


POUNDS = 20.8854
"""Pounds per square foot in 1 kN/m²."""


def load_text(load: float) -> str:
    """A load, kN/m², in words."""
    return f"{load:.1f} kN/m² ({load * POUNDS:.0f} lb per sq ft)"


class SizeFactor(BaseModel):
    """By how much joists up to a depth are stronger than the grade's own figure."""

    depth: Length
    factor: float


class Grade(Sourced):
    """A species and grade of timber: Young's modulus, kN/mm², bending strength, N/mm², what joists
    side by side carry more, and the factors of their depths, the shallowest first."""

    name: str
    elasticity: float
    bending: float
    repetitive: float
    sizes: tuple[SizeFactor, ...]

    def strength(self, depth: float) -> float:
        """Bending strength of joists of a depth, mm, side by side, N/mm²."""
        factor = next(one.factor for one in self.sizes if depth <= millimetres(one.depth))
        return self.bending * factor * self.repetitive


class Timber(Record):
    """Guidance on notches and holes; ``stiffness`` of a floor by kind of tile; the ``live_load`` of
    a dwelling's floor and what it weighs itself, ``dead_load``, kN/m²; the ``grade`` that ordinary
    joists are taken to be; ``bed_weight`` of a mortar bed, kN/m² for each mm. A hole is wider than
    its pipe by ``pipe_room``; ``ceiling_room`` is between a pipe and the ceiling under it,
    ``flange_room`` what is left of a web between a hole and the flange."""

    guides: tuple[Guide, ...]
    stiffness: tuple[Stiffness, ...]
    live_load: Number
    dead_load: Number
    grade: Grade
    bed_weight: Number
    pipe_room: Measure
    ceiling_room: Measure
    flange_room: Measure

    def guides_of(self, rules: RuleSet) -> tuple[Guide, ...]:
        """The guidance of a rule set; all there is where it names none: every one is then kept, but
        for a place to the millimetre, which is asked where it is the rule."""
        own = tuple(guide for guide in self.guides if guide.id == rules.timber)
        return own or tuple(guide.model_copy(update={"off_centre": ""}) for guide in self.guides)
