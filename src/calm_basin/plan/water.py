"""What runs into the floor and what takes it away."""

from __future__ import annotations

from typing import Annotated

from pydantic import Field

from calm_basin.plan.base import Gradient, Name, Part, Quantity, Size


class ShowerHead(Part):
    name: Name
    flow_l_min: Annotated[float, Field(gt=0, le=200, allow_inf_nan=False), Quantity("flow")]


class Water(Part):
    """What runs into the floor and what takes it away. ``drain_l_min`` is the drain's own figure
    from its maker, where it is known."""

    heads: tuple[ShowerHead, ...] = Field(
        default=(ShowerHead(name="shower head", flow_l_min=9.0),), max_length=12
    )
    pipe_diameter: Size = Field(default=50.0, description="inside, of the waste pipe")
    pipe_fall: Gradient = 1 / 48
    drain_l_min: Annotated[float, Field(gt=0, le=1000), Quantity("flow")] | None = None
