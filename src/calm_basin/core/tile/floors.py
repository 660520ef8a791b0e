"""Which floors of a plan are tiled, each with its grid and what tile crosses uncut."""

from __future__ import annotations

from math import atan2, radians, sqrt
from typing import NamedTuple

import numpy as np
from shapely.geometry import Polygon
from shapely.geometry.base import BaseGeometry

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.words import Words
from calm_basin.core.falls.ring import ring_of
from calm_basin.core.falls.tiling import is_cut
from calm_basin.core.geometry.surface import Array, Facet, xy
from calm_basin.core.kinds import drain_kind
from calm_basin.core.tile.laying import MOST, TileGrid, stretches
from calm_basin.plan import Plan
from calm_basin.plan.blocks import without_blocks
from calm_basin.plan.shower import Tile
from calm_basin.rules import TRADE


class Floor(NamedTuple):
    """A floor that is laid: its tile, whether that comes on sheets, its grid, the stretches that it
    crosses uncut, and its area on its planes, mm², beside that on plan."""

    name: str
    tile: Tile
    sheets: bool
    grid: TileGrid
    stretches: list[BaseGeometry]
    area: float
    on_plan: float


class NotLaidError(ValueError):
    """The tile is not laid out: says why, and at which field that is cured."""

    def __init__(self, message: str, field: str) -> None:
        super().__init__(message)
        self.field = field


def middle_of_drain(plan: Plan) -> Array:
    """Where the layout counts from, (2,)."""
    return drain_kind(plan.shower.drain).middle


def floors_of(case: Case) -> list[Floor]:
    """The floors that are laid. Raises `NotLaidError`."""
    shower, tiling, surface = case.plan.shower, case.plan.tiling, case.surface
    if shower.tile is None:
        raise NotLaidError("Choose a tile for the shower floor.", "/shower/tile")
    falling = list(surface.zone("shower"))
    found = [_floor(case, "Shower", shower.tile, "/shower/tile", falling)]
    if tiling.room is not None:
        rest = list(surface.zone("rest"))
        room = without_blocks(case.plan, Polygon(case.plan.room.outline))
        flat = room.difference(ring_of(shower).polygon)
        if rest or flat.area > 1:
            name, field = "Rest of the room", "/tiling/room"
            found.append(_floor(case, name, tiling.room, field, rest or flat))
    return found


def _floor(
    case: Case,
    name: str,
    tile: Tile,
    field: str,
    over: list[Facet] | BaseGeometry,
) -> Floor:
    plan, surface = case.plan, case.surface
    inward = ring_of(plan.shower).inward
    entry = np.array([inward[1], -inward[0]])
    if isinstance(over, BaseGeometry):
        whole, area = [over], float(over.area)
    else:
        whole = list(stretches(over, [f for f in surface.folds if is_cut(tile, f, entry)]))
        area = sum(facet.polygon.area * sqrt(1 + facet.gradient**2) for facet in over)
    pattern = plan.tiling.pattern
    sheet = plan.tiling.sheet if field == "/shower/tile" else None
    grid = TileGrid(
        sheet or tile.length,
        sheet or tile.width,
        tile.joint,
        "straight" if sheet else pattern,
        atan2(entry[1], entry[0]) + radians(tile.turn),
        xy(middle_of_drain(plan)),
        (tile.length, tile.width) if sheet and pattern == "straight" else None,
        judged=sheet is None or pattern == "straight",
    ).begun(plan.tiling.along, plan.tiling.across)
    on_plan = sum(float(one.area) for one in whole)
    _check(case.words, grid.joint, grid.full, on_plan, field)
    walls = without_blocks(plan, Polygon(plan.room.outline)).buffer(-tile.joint, join_style="mitre")
    # Half of a joint is left on each side of a line that tile stops at, and a whole one at walls,
    # benches and half walls.
    jointed = [one.buffer(-tile.joint / 2, join_style="mitre").intersection(walls) for one in whole]
    return Floor(name, tile, sheet is not None, grid, jointed, area, on_plan)


def check_tile(words: Words, tile: Tile, area: float, field: str) -> None:
    """Refuse a tile that cannot be laid over an area, mm². Raises `NotLaidError`."""
    _check(words, tile.joint, tile.length * tile.width, area, field)


def _check(words: Words, joint: float, full: float, area: float, field: str) -> None:
    """Refuse what cannot be laid. Raises `NotLaidError`."""
    if joint < TRADE.tiling.least_joint.value:
        raise NotLaidError(
            f"Joint too narrow: {words.length(joint)}. Type at least "
            f"{words.length(TRADE.tiling.least_joint.value, 'up')}.",
            f"{field}/joint",
        )
    if full > area:
        what = "these walls" if field == "/tiling/wall" else "this floor"
        raise NotLaidError(
            f"Tile larger than {what}, {words.area(area)}. Type a smaller tile.",
            f"{field}/length",
        )
    if area / full > MOST:
        many = "Too many single tiles to lay out one by one. Type the sheet size"
        if field == "/shower/tile":
            raise NotLaidError(f"{many}.", "/tiling/sheet")
        raise NotLaidError(f"{many} as the tile.", f"{field}/length")
