"""The waste pipe as a body with a width: what of it lies in a timber, and over which length."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from math import inf

import numpy as np
import shapely
from shapely.geometry import LineString, Point

from calm_basin.core.structure.joists import Bays, Timber
from calm_basin.core.structure.passing import Passing
from calm_basin.core.waste.ground import UnderFloor
from calm_basin.core.waste.run import Run
from calm_basin.rules import TRADE
from calm_basin.rules.trade.timber import Guide
from calm_basin.tolerances import SLIVER


@dataclass(frozen=True)
class Taken:
    """What a stretch of pipe takes out of a timber: the ``length`` along the timber, mm, and the
    most that may be drilled there; ``crosses`` where the pipe comes out on its other side."""

    timber: Timber
    length: float
    most: float
    crosses: bool
    at: tuple[float, float]


def taken_out(ground: UnderFloor, pipe: float, way: Run, guides: tuple[Guide, ...]) -> list[Taken]:
    """What a run takes out of timbers beyond what may be drilled: where it crosses one at an angle,
    lies in one lengthwise or has too little room beside one; of each timber the worst. ``pipe`` is
    its outside diameter, mm.

    Square to a timber it takes out a hole. At an angle it takes more of the timber's length:
    ``hole / cos + width · tan`` of the angle from square.
    """
    worst: dict[Timber, Taken] = {}
    gone = 0.0
    for first, last in pairwise(way.line):
        length = float(np.hypot(*(last - first)))
        strip = LineString([first, last]).buffer(pipe / 2, cap_style="flat")
        for timber, passing in ground.timbers:
            shared = strip.intersection(timber.outline)
            if shared.area <= SLIVER or not np.isfinite(passing.high):
                continue
            middle = LineString([first, last])
            inside = [middle.project(Point(at)) for at in shapely.get_coordinates(shared)]
            # Where it goes beneath, it has stepped down before the timber.
            lowest, _ = way.levels_along(gone + min(inside), gone + max(inside))
            if lowest + pipe / 2 <= timber.bottom + 1e-6:
                continue
            one = _taken(ground.bays, timber, passing, shared, middle, guides)
            if one is not None and one.length > getattr(worst.get(timber), "length", 0.0):
                worst[timber] = one
        gone += length
    return list(worst.values())


def _taken(
    bays: Bays,
    timber: Timber,
    passing: Passing,
    shared: shapely.Geometry,
    middle: LineString,
    guides: tuple[Guide, ...],
) -> Taken | None:
    axis = _long_axis(bays, timber)
    along = bays.to(shapely.get_coordinates(shared))[:, axis]
    length = float(np.ptp(along)) + TRADE.timber.pipe_room.value
    across = bays.to(shapely.get_coordinates(timber.outline))[:, 1 - axis]
    ends = bays.to(np.array(middle.coords))[:, 1 - axis]
    crosses = bool(ends.min() <= across.min() + 1e-6 and ends.max() >= across.max() - 1e-6)
    depth = timber.top - timber.bottom
    most = min((guide.hole * depth for guide in guides), default=inf)
    if timber.made != "sawn" and timber.kind == "joist":
        # Of webs their maker tells; a round hole is what is drilled.
        most = passing.hole * 1.05
    if passing.refused:
        # Past its end, with the middle beside it and the body in it.
        most = 0.0
    elif crosses and length <= max(most, passing.hole) + 1e-6:
        return None
    x, y = shapely.get_coordinates(shared.centroid)[0]
    return Taken(timber, length, most, crosses, (float(x), float(y)))


def _long_axis(bays: Bays, timber: Timber) -> int:
    """0 where a timber lies along the joists, 1 where it lies square to them."""
    reach = bays.to(shapely.get_coordinates(timber.outline))
    return 0 if np.ptp(reach[:, 0]) >= np.ptp(reach[:, 1]) else 1
