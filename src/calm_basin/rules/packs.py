"""How what a job needs is sold: packs, yields, waste."""

from __future__ import annotations

from functools import cache
from typing import Literal

from pydantic import Field

from calm_basin.plan.base import Part
from calm_basin.rules.ruleset import millimetres
from calm_basin.rules.trade import Practice, Sourced, table

Counted = Literal["each", "m", "m2", "litre", "volume", "bag"]
"""What is counted: pieces, metres, square metres, litres of what is liquid or of a bed, bags."""

RATES = "rates"
LISTS = ("gear", "consumables", "tools", "forgotten")


class Pack(Part):
    """One pack: how much of what is counted it holds or covers, and what it is called; of a sheet
    its ``length`` and ``width``."""

    pack: float = Field(gt=0)
    called: str
    length: str = ""
    width: str = ""

    @property
    def sides(self) -> tuple[float, float]:
        """The length and the width of a sheet, mm."""
        return millimetres(self.length), millimetres(self.width)


class Item(Sourced):
    """What is bought: ``where``, in which packs in either system of units, what a pack ``gives``
    where its name does not say so, and the share that is added for waste; of what is mixed for how
    many minutes it can be worked (``works``) and in which ``task``."""

    id: str
    name: str
    where: str
    unit: Counted
    waste: float = Field(ge=0, le=1)
    metric: Pack
    inch: Pack
    gives: str = ""
    water: str = ""
    works: float = Field(default=0.0, ge=0)
    task: str = ""

    def sold(self, *, inches: bool) -> Pack:
        """The pack in which it is sold."""
        return self.inch if inches else self.metric


class Listed(Sourced):
    """Things that a job takes and nobody counts."""

    listed: tuple[str, ...]


@cache
def items() -> dict[str, Item]:
    """What is bought, by id, in the order in which it is listed."""
    rows = {name: row for name, row in table("order").items() if name != RATES}
    return {name: Item.model_validate({"id": name, **row}) for name, row in rows.items()}


@cache
def rate(name: str) -> float:
    """A length that amounts are reckoned with, mm."""
    return Practice.model_validate(table("order")[RATES][name]).value


@cache
def care() -> Listed:
    """What the customer is told about the floor."""
    return Listed.model_validate(table("care")["floor"])


@cache
def sundries(name: str) -> Listed:
    """One of the `LISTS`."""
    return Listed.model_validate(table("kit")[name])
