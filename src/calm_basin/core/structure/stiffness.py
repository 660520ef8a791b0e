"""How far joists bend, and how far they may span for tile by stiffness and by strength."""

from __future__ import annotations

from dataclasses import dataclass

from calm_basin.core.kinds import FormerKind
from calm_basin.plan.floor import JoistFloor
from calm_basin.rules import TRADE


def inertia(width: float, depth: float) -> float:
    """Second moment of area of a rectangle, mm⁴."""
    return width * depth**3 / 12


def deflection(span: float, line_load: float, elasticity: float, moment: float) -> float:
    """How far a beam on two supports bends in its middle under an even load, mm.

    Parameters
    ----------
    span : float
        mm.
    line_load : float
        kN/m, which is N/mm.
    elasticity : float
        kN/mm².
    moment : float
        Second moment of area, mm⁴.

    Notes
    -----
    ``5 w L⁴ / (384 E I)``: closed form of the elastic line.
    """
    return 5 * line_load * span**4 / (384 * elasticity * 1000 * moment)


def longest_span(
    joists: JoistFloor, load: float, elasticity: float, share: float, plies: int = 1
) -> float:
    """The span, mm, at which sawn joists bend by their span over ``share`` under a load, kN/m²."""
    line_load = load * joists.centres / 1000
    stiff = 384 * elasticity * 1000 * inertia(joists.width * plies, joists.depth)
    return float((stiff / (5 * line_load * share)) ** (1 / 3))


def strong_span(joists: JoistFloor, load: float, strength: float) -> float:
    """The span, mm, at which sawn joists are bent to their strength, N/mm², under a load, kN/m².

    Notes
    -----
    ``w L² / 8 = f b h² / 6``: the moment in the middle, and what a rectangle carries.
    """
    line_load = load * joists.centres / 1000
    carries = strength * joists.width * joists.depth**2 / 6
    return float((8 * carries / line_load) ** 0.5)


@dataclass(frozen=True)
class Spans:
    """How far sawn joists may span, mm, by how far they bend and by their strength."""

    stiff: float
    strong: float

    @property
    def most(self) -> float:
        """The shorter of both."""
        return min(self.stiff, self.strong)


def spans(joists: JoistFloor, share: float, bed: float) -> Spans:
    """How far joists of the usual grade may span: bent by their span over ``share`` under people,
    and carrying people, the floor itself and a new ``bed``, kN/m²."""
    wood, live = TRADE.timber.grade, TRADE.timber.live_load.value
    loads = live + TRADE.timber.dead_load.value + bed
    return Spans(
        longest_span(joists, live, wood.elasticity, share),
        strong_span(joists, loads, wood.strength(joists.depth)),
    )


def bed_load(former: FormerKind) -> float:
    """What a new mortar bed weighs where it is thinnest, kN/m²; other formers weigh little."""
    return former.mud * TRADE.timber.bed_weight.value
