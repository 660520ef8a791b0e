"""The page of the tile: each piece on plan, what is cut to which size, what it is laid with."""

from __future__ import annotations

from typing import Any

from reportlab.lib.colors import black, white
from reportlab.lib.units import mm
from reportlab.platypus import Spacer

from calm_basin.core.answer.result import XY
from calm_basin.core.tile.result import Ring, TiledFloor
from calm_basin.formats.sheet.page import Page, Sheet, scale_for
from calm_basin.formats.sheet.style import SMALL, STRONG, table, text
from calm_basin.formats.sheet.texts import shares, working
from calm_basin.formats.sheet.under import GREY, Drawing


class TileDrawing(Drawing):
    """The pieces of one or more floors: whole tiles white, cut ones grey, slivers black."""

    def __init__(self, sheet: Sheet, floors: tuple[TiledFloor, ...]) -> None:
        self.floors = floors
        places = [p for floor in floors for ring in _rings(floor) for p in ring]
        self.left, self.bottom = min(x for x, _ in places), min(y for _, y in places)
        wide = max(x for x, _ in places) - self.left
        deep = max(y for _, y in places) - self.bottom
        self.scale = scale_for(
            lambda scale: (
                wide * mm / scale <= sheet.width * 0.96 and deep * mm / scale <= sheet.height * 0.36
            )
        )
        super().__init__(wide * mm / self.scale + 4, deep * mm / self.scale + 4)

    def at(self, place: XY) -> XY:
        """A place of the plan on the drawing."""
        factor = mm / self.scale
        return (place[0] - self.left) * factor + 2, (place[1] - self.bottom) * factor + 2

    def draw(self) -> None:
        self.canv.setLineWidth(0.5)
        for floor in self.floors:
            for rings, fill in (
                (floor.drawn_whole, white),
                (floor.drawn_cut, GREY),
                (floor.drawn_slivers, black),
            ):
                for ring in rings:
                    self.shape([self.at(place) for place in ring], fill=fill)


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
    pieces = [
        f"{one.count} of {one.text}{' (sliver)' if one.sliver else ''}" for one in floor.sizes
    ]
    left = [f"{floor.sizes_left} of other sizes"] if floor.sizes_left else []
    return f"Cut for {floor.name[0].lower()}{floor.name[1:]}: {'; '.join([*pieces, *left])}."


TILE = Page("tile", "How the tile lies", _tile, part="tile")
