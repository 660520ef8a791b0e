"""How what a job needs is sold: packs, yields, waste."""

from __future__ import annotations

from typing import Annotated, Literal, get_args

from pydantic import BeforeValidator, Field

from calm_basin.plan.base import Part
from calm_basin.rules.ruleset import millimetres
from calm_basin.rules.trade.record import Record, with_ids
from calm_basin.rules.trade.sourced import Measure, Sourced

Counted = Literal["each", "m", "m2", "litre", "volume", "bag"]
"""What is counted: pieces, metres, square metres, litres of what is liquid or of a bed, bags."""

ListName = Literal["gear", "consumables", "tools", "forgotten"]


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


class Rates(Record):
    """Lengths that amounts are reckoned with."""

    cleat_screws: Measure
    deck_screws: Measure
    saw_cut: Measure


class Order(Record):
    """What is bought, by id, in the order in which it is listed."""

    items: Annotated[dict[str, Item], BeforeValidator(with_ids)]
    rates: Rates


class Kit(Record):
    """What a job takes and nobody counts."""

    gear: Listed
    consumables: Listed
    tools: Listed
    forgotten: Listed

    @property
    def lists(self) -> dict[ListName, Listed]:
        """The lists by name, in the order in which they are shown."""
        return {name: getattr(self, name) for name in get_args(ListName)}


class Care(Record):
    """What the customer is told about the floor."""

    floor: Listed
