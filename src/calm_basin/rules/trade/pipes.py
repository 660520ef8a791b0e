"""Waste pipes and the flow that they may take, what counts when runs are compared."""

from __future__ import annotations

from calm_basin.rules.ruleset import millimetres
from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Number, Sourced


class Pipe(Sourced):
    """A waste pipe and the total flow of shower heads, litres a minute, that it may take; what a
    drain with such an outlet lets through by makers' tests, ``maker_l_min``, is another thing."""

    name: str
    diameter: str
    most_l_min: float
    maker_l_min: float | None = None

    @property
    def bore(self) -> float:
        """Inside diameter, mm."""
        return millimetres(self.diameter)


class Pipes(Record):
    """``pipes``, the narrowest first; ``roughness`` is Manning's n. As so many mm of pipe more a
    ``bend`` and a ``hole`` through a timber count when runs are compared. ``concrete`` weighs so
    many kg a litre, a ``bucket`` carries so many litres of it, solid."""

    pipes: tuple[Pipe, ...]
    roughness: Number
    bend: Number
    hole: Number
    concrete: Number
    bucket: Number
