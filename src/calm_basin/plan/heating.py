"""The heating cable in the floor."""

from __future__ import annotations

from typing import Annotated, Literal, Self

from pydantic import Field, model_validator

from calm_basin.plan.base import ContradictionError, Part, Point, Quantity

Cable = Annotated[float, Field(gt=0, le=300_000, allow_inf_nan=False), Quantity("length")]

Apart = Annotated[float, Field(ge=20, le=300, allow_inf_nan=False), Quantity("length")]


Wide = Annotated[float, Field(ge=200, le=1200, allow_inf_nan=False), Quantity("length")]


class Heating(Part):
    """A cable of one length, which cannot be shortened: its runs lie as far apart as uses it up.

    ``least`` and ``most`` are how near and how far its runs may be by its own text; laid in a mat
    with studs they are a whole number of ``stud`` apart. ``start`` is where its cold joint lies,
    or near there; null: near the first door.
    """

    where: Literal["room", "shower", "both"] = "room"
    length: Cable
    watts_a_metre: float = Field(default=10.0, gt=0, le=100)
    volts: float = Field(default=230.0, ge=12, le=400)
    least: Apart = 60.0
    most: Apart = 120.0
    stud: Apart | None = Field(
        default=None, description="pitch of the studs of a mat; null: it is laid freely in adhesive"
    )
    mat: Wide | None = Field(
        default=None,
        description="width of a loose mat that the cable is fixed on, whose length is then given; "
        "null: the cable is laid by itself",
    )
    start: Point | None = None
    lies: Literal["under the membrane", "over the membrane"] = "under the membrane"

    @model_validator(mode="after")
    def _runs_can_be_laid(self) -> Self:
        if self.least > self.most:
            message = "Runs cannot be nearer than the least and farther than the most: swap them."
            raise ContradictionError(("heating", "least"), message)
        return self
