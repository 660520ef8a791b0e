"""What a value of the trade is: as it is written, in house units, and where it is from."""

from __future__ import annotations

from functools import cached_property

from pydantic import Field

from calm_basin.rules.ruleset import Written, millimetres
from calm_basin.units import parse_fall


class Sourced(Written):
    """Something of the trade that hangs on no rule set: why it is kept to stands beside it."""

    note: str


class Value(Sourced):
    """One value; its note tells the unit of what is neither a length nor a fall."""

    given: str | float

    @cached_property
    def value(self) -> float:
        """In house units."""
        raise NotImplementedError


class Measure(Value):
    """A length that the trade keeps to."""

    given: str

    @cached_property
    def value(self) -> float:
        """Millimetres."""
        return millimetres(self.given)


class Steepest(Value):
    """A fall that the trade does not go beyond."""

    given: str

    @cached_property
    def value(self) -> float:
        """Rise over run."""
        return parse_fall(self.given)


class Number(Value):
    """A number whose unit its note tells."""

    given: float

    @cached_property
    def value(self) -> float:
        """The number."""
        return self.given


class Share(Number):
    """A share that the trade reckons with."""

    given: float = Field(gt=0, le=1)
