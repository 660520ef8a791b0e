"""What was typed and ticked of what is bought."""

from __future__ import annotations

from typing import Annotated, Self

from pydantic import Field, model_validator

from calm_basin.plan.base import ContradictionError, Part


class Bought(Part):
    """One thing that is bought: what its pack holds or covers by its own text (in what the thing
    is counted in; null: as usual), what a pack costs, and what was ticked."""

    item: Annotated[str, Field(pattern=r"^[a-z][a-z0-9_]{0,40}$")]
    pack: float | None = Field(default=None, gt=0, le=100_000, allow_inf_nan=False)
    price: float | None = Field(default=None, ge=0, le=1_000_000, allow_inf_nan=False)
    bought: bool = False
    on_site: bool = False
    checked: bool = Field(default=False, description="measured against the plan")


class Order(Part):
    """What is bought, as far as it was typed or ticked."""

    items: tuple[Bought, ...] = Field(default=(), max_length=200)

    @model_validator(mode="after")
    def _each_once(self) -> Self:
        seen: set[str] = set()
        for i, one in enumerate(self.items):
            if one.item in seen:
                raise ContradictionError(
                    ("order", "items", i, "item"), f"“{one.item}” is listed twice. Remove one."
                )
            seen.add(one.item)
        return self

    def of(self, item: str) -> Bought:
        """What was typed and ticked of a thing; as nothing was, where nothing was."""
        return next((one for one in self.items if one.item == item), Bought(item=item))
