"""What a floor may have to carry, and how true it has to be for it."""

from __future__ import annotations

from functools import cached_property
from typing import Literal

from calm_basin.rules.ruleset import millimetres
from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Sourced


class Base(Sourced):
    """What a floor has to carry and how true it must be: level under the whole shower, or flat
    under a straightedge. What is not true enough may be packed up to ``packing``."""

    id: str
    name: str
    measure: Literal["level", "flat"]
    tolerance: str
    packed_with: Literal["adhesive", "shims", ""] = ""
    packing: str = "0mm"

    @cached_property
    def value(self) -> float:
        """The tolerance in mm."""
        return millimetres(self.tolerance)

    @cached_property
    def packs(self) -> float:
        """The most that packing takes up, mm; 0 where nothing is packed."""
        return millimetres(self.packing)


class Bases(Record):
    """What a floor may have to carry, in the order in which it is offered."""

    bases: tuple[Base, ...]

    @cached_property
    def by_id(self) -> dict[str, Base]:
        """The same by id."""
        return {base.id: base for base in self.bases}
