"""What a heating cable in the floor keeps from."""

from __future__ import annotations

from functools import cache
from typing import Literal

from calm_basin.rules.trade import Practice, table

Kept = Literal[
    "from_wall", "from_channel", "from_outlet", "bend", "board", "layer", "mats", "sensor"
]


@cache
def kept(name: Kept) -> Practice:
    """A length that is kept to about a heating cable."""
    return Practice.model_validate(table("heating")[name])
