"""The job, and how its figures are shown."""

from __future__ import annotations

from pydantic import Field

from calm_basin.plan.base import Name, Part
from calm_basin.units import Denominator, Display, FallForm, LengthUnit


class Job(Part):
    name: Name
    note: str = Field(default="", max_length=4000)


class DisplayChoice(Part):
    """How lengths and falls are shown and what a bare number means when typed."""

    length: LengthUnit = "mm"
    fraction: Denominator = 16
    fall: FallForm = "ratio"

    @property
    def shown(self) -> Display:
        """The same, as lengths and falls are printed by it."""
        return Display(self.length, self.fraction, self.fall)
