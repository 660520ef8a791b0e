"""How far joists bend, and how far they may span for tile."""

from __future__ import annotations

from calm_basin.plan.floor import JoistFloor


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
    """The span, mm, at which sawn joists bend by their span over ``share`` under a load, kN/m².

    Bending strength, which governs for weak grades, close limits and short deep joists, is not
    looked at: an engineer does.
    """
    line_load = load * joists.centres / 1000
    stiff = 384 * elasticity * 1000 * inertia(joists.width * plies, joists.depth)
    return float((stiff / (5 * line_load * share)) ** (1 / 3))
