"""How what a job needs is sold: packs, yields, waste."""

from __future__ import annotations

from functools import cache
from typing import Literal

from pydantic import Field

from calm_basin.plan.base import Part
from calm_basin.rules.trade import Sourced, table

Counted = Literal["each", "m", "m2", "litre", "volume", "bag"]
"""What is counted: pieces, metres, square metres, litres of what is liquid or of a bed, bags."""

LISTS = ("gear", "consumables", "tools", "forgotten")


class Pack(Part):
    """One pack: how much of what is counted it holds or covers, and what it is called."""

    pack: float = Field(gt=0)
    called: str


class Item(Sourced):
    """What is bought: ``where``, in which packs in either system of units, what a pack ``gives``
    where its name does not say so, and the share that is added for waste."""

    id: str
    name: str
    where: str
    unit: Counted
    waste: float = Field(ge=0, le=1)
    metric: Pack
    inch: Pack
    gives: str = ""
    water: str = ""

    def sold(self, *, inches: bool) -> Pack:
        """The pack in which it is sold."""
        return self.inch if inches else self.metric


class Listed(Sourced):
    """Things that a job takes and nobody counts."""

    listed: tuple[str, ...]


@cache
def items() -> dict[str, Item]:
    """What is bought, by id, in the order in which it is listed."""
    rows = {name: row for name, row in table("order").items() if name not in LISTS}
    return {name: Item.model_validate({"id": name, **row}) for name, row in rows.items()}


@cache
def sundries(name: str) -> Listed:
    """One of the `LISTS`."""
    return Listed.model_validate(table("order")[name])
