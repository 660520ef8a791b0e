"""What laying tile takes: a saw's kerf, what breaks, trowels, how much of a back is covered."""

from __future__ import annotations

from functools import cache

from pydantic import Field

from calm_basin.rules.ruleset import millimetres
from calm_basin.rules.trade import Practice, Sourced, table


class Share(Sourced):
    """A share that the trade reckons with."""

    share: float = Field(gt=0, le=1)


class Trowel(Sourced):
    """The trowel for tile whose longest side is no longer than ``up_to``."""

    up_to: str
    notch: str
    bed: str

    @property
    def bed_thickness(self) -> float:
        """About how thick the bed is that it leaves under a pressed tile, mm."""
        return millimetres(self.bed)


@cache
def kerf() -> Practice:
    """What a saw takes between two pieces of one tile."""
    return Practice.model_validate(table("tiling")["kerf"])


@cache
def sliver() -> Share:
    """The share of its tile that a piece keeps at least."""
    return Share.model_validate(table("tiling")["sliver"])


@cache
def least_joint() -> Practice:
    """The narrowest joint that can be laid."""
    return Practice.model_validate(table("tiling")["least_joint"])


@cache
def breakage() -> Share:
    """What is bought over what is laid where every cut was counted."""
    return Share.model_validate(table("tiling")["breakage"])


@cache
def coverage() -> Share:
    """How much of a tile's back has to be in its adhesive where it gets wet."""
    return Share.model_validate(table("tiling")["coverage"])


@cache
def _trowels() -> tuple[Trowel, ...]:
    return tuple(Trowel.model_validate(row) for row in table("tiling")["trowels"])


def trowel(side: float) -> Trowel:
    """The trowel for tile whose longest side is ``side``, mm."""
    return next(one for one in _trowels() if side <= millimetres(one.up_to))
