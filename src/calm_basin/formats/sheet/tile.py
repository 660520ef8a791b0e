"""The page of the tile: each piece on plan, what is cut to which size, what it is laid with."""

from __future__ import annotations

from typing import Any

from reportlab.lib.colors import black, white
from reportlab.platypus import Spacer

from calm_basin.core.tile.result import Ring, TiledFloor
from calm_basin.formats.sheet.drawing import GREY, PlanDrawing
from calm_basin.formats.sheet.page import Page, Sheet
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text
from calm_basin.formats.sheet.texts import shares, working


class TileDrawing(PlanDrawing):
    """The pieces of one or more floors: whole tiles white, cut ones grey, slivers black."""

    def __init__(self, sheet: Sheet, floors: tuple[TiledFloor, ...]) -> None:
        self.floors = floors
        places = [place for floor in floors for ring in _rings(floor) for place in ring]
        super().__init__(sheet, places, (0.96, 0.36))

    def draw(self) -> None:
        for floor in self.floors:
            for rings, fill in (
                (floor.drawn_whole, white),
                (floor.drawn_cut, GREY),
                (floor.drawn_slivers, black),
            ):
                for ring in rings:
                    self.shape(self.all(ring), fill=fill, width=0.5)


def _rings(floor: TiledFloor) -> tuple[Ring, ...]:
    return (*floor.drawn_whole, *floor.drawn_cut, *floor.drawn_slivers)


def _tile(sheet: Sheet) -> list[Any]:
    tile = sheet.solution.tile
    if tile is None or not tile.floors:
        return []
    drawing = TileDrawing(sheet, tile.floors)
    bought: list[list[Any]] = [["Floor", "To buy", "How it comes about"]]
    bought += [[f.name, text(f.buy_text, STRONG), working(f)] for f in tile.floors]
    return [
        text(f"Scale 1:{drawing.scale}. White: whole; grey: cut; black: sliver.", SMALL),
        drawing,
        Spacer(1, 6),
        text(tile.narrowest_text, STRONG),
        *(text(_cuts(floor)) for floor in tile.floors if floor.sizes),
        Spacer(1, 6),
        table(bought, shares(sheet, 0.2, 0.3, 0.5)),
        Spacer(1, 6),
        *(text(note) for note in tile.notes),
    ]


def _cuts(floor: TiledFloor) -> str:
    pieces = [f"{one.count} × {one.text}{' (sliver)' if one.sliver else ''}" for one in floor.sizes]
    left = [f"{floor.sizes_left} of other sizes"] if floor.sizes_left else []
    return f"{floor.name}, cuts: {'; '.join([*pieces, *left])}."


TILE = Page("tile", "Tile layout", _tile, part="tile")
