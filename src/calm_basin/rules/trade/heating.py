"""What a heating cable in the floor keeps from."""

from __future__ import annotations

from calm_basin.rules.trade.record import Record
from calm_basin.rules.trade.sourced import Measure


class Heating(Record):
    """Lengths that are kept to about a heating cable: from walls and fixtures, a channel's body, an
    outlet; the radius of its tightest ``bend``, between ``mats``, how thick its ``layer`` and an
    incombustible ``board`` are, how far its ``sensor`` lies in."""

    from_wall: Measure
    from_channel: Measure
    from_outlet: Measure
    bend: Measure
    mats: Measure
    layer: Measure
    board: Measure
    sensor: Measure
