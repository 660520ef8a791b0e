"""What all parts of the plan document share."""

from __future__ import annotations

from typing import Annotated, Literal, NamedTuple

from pydantic import BaseModel, ConfigDict, Field, StringConstraints

from calm_basin.units import Display, format_length

QuantityKind = Literal["length", "fall", "angle", "flow"]


class Quantity(NamedTuple):
    """Marks a number of the document with what it measures."""

    kind: QuantityKind


Coordinate = Annotated[float, Field(ge=-50_000, le=50_000, allow_inf_nan=False), Quantity("length")]

Size = Annotated[float, Field(gt=0, le=50_000, allow_inf_nan=False), Quantity("length")]

Offset = Annotated[float, Field(ge=0, le=50_000, allow_inf_nan=False), Quantity("length")]

Thickness = Annotated[float, Field(ge=0, le=500, allow_inf_nan=False), Quantity("length")]

SetDown = Annotated[float, Field(ge=-500, le=500, allow_inf_nan=False), Quantity("length")]

Gradient = Annotated[float, Field(gt=0, le=0.2, allow_inf_nan=False), Quantity("fall")]

Angle = Annotated[float, Field(ge=-360, le=360, allow_inf_nan=False), Quantity("angle")]

Point = tuple[Coordinate, Coordinate]

MOST_CORNERS = 40
"""More corners has no room, and no shower."""

Outline = Annotated[tuple[Point, ...], Field(min_length=3, max_length=MOST_CORNERS)]

Name = Annotated[str, StringConstraints(strip_whitespace=True, min_length=1, max_length=120)]


class ContradictionError(ValueError):
    """A part of the plan contradicts itself; carries where and what cures it.

    ``lengths``, mm, stand in the message by their names in braces: they are said in the unit of
    whoever is told.
    """

    def __init__(self, path: tuple[str | int, ...], message: str, **lengths: float) -> None:
        super().__init__(_with(message, lengths, Display()))
        self.path, self._message, self._lengths = path, message, lengths

    def said(self, display: Display) -> ContradictionError:
        """The same with its lengths in a display's unit."""
        return ContradictionError(self.path, _with(self._message, self._lengths, display))


def _with(message: str, lengths: dict[str, float], display: Display) -> str:
    """A message with its lengths; one without any may have braces of its own."""
    if not lengths:
        return message
    return message.format(**{name: format_length(mm, display) for name, mm in lengths.items()})


class Part(BaseModel):
    """What all parts of the document share: they cannot be changed and know their fields."""

    model_config = ConfigDict(frozen=True, extra="forbid", strict=False)
