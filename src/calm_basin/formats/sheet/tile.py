"""The page of the tile: each piece on plan, what is cut to which size, what it is laid with."""

from __future__ import annotations

from typing import Any

from reportlab.lib.colors import black, white
from reportlab.lib.units import mm
from reportlab.platypus import KeepTogether, Spacer

from calm_basin.core.tile.result import Ring, TiledFloor, TiledWall, TileResult
from calm_basin.formats.sheet.drawing import EDGE, GREY, LIGHT, Drawing, PlanDrawing
from calm_basin.formats.sheet.page import Page, Sheet, scale_for
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
    if tile is None:
        return []
    if not tile.floors:
        return _walls(sheet, tile)
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
        text("Tile edges", STRONG),
        *(text(f"• {row.name}: {row.text}.") for row in tile.meets),
        *(text(note) for note in tile.notes),
        *_walls(sheet, tile),
    ]


class WallTileDrawing(Drawing):
    """One wall's tile, from inside: whole tiles white, cut ones grey, slivers black."""

    def __init__(self, sheet: Sheet, wall: TiledWall) -> None:
        self.wall = wall
        self.scale = scale_for(
            lambda scale: (
                wall.length * mm / scale <= sheet.width * 0.96
                and wall.height * mm / scale <= sheet.height * 0.2
            )
        )
        factor = mm / self.scale
        super().__init__(wall.length * factor + 2 * EDGE, wall.height * factor + 2 * EDGE)

    def draw(self) -> None:
        factor = mm / self.scale
        for rings, fill in (
            (self.wall.drawn_whole, white),
            (self.wall.drawn_cut, GREY),
            (self.wall.drawn_slivers, black),
            (self.wall.niches, LIGHT),
        ):
            for ring in rings:
                places = [(x * factor + EDGE, y * factor + EDGE) for x, y in ring]
                self.shape(places, fill=fill, width=0.5)


def _walls(sheet: Sheet, tile: TileResult) -> list[Any]:
    """The shower's walls with their tile."""
    walls = tile.walls
    if walls is None or walls.tiled is None:
        return []
    flow: list[Any] = [
        Spacer(1, 8),
        text(f"Shower walls: {walls.tiled.buy_text}", STRONG),
        text(f"{walls.tiled.made_text}. {walls.said}. {walls.narrowest}"),
        text(_cuts(walls.tiled)),
    ]
    for view in walls.views:
        drawing = WallTileDrawing(sheet, view)
        said = f"{view.name.capitalize()}, from inside: {view.said}. Scale 1:{drawing.scale}."
        flow.append(KeepTogether([Spacer(1, 6), text(said), drawing]))
    return flow


def _cuts(floor: TiledFloor) -> str:
    pieces = [f"{one.count} × {one.text}{' (sliver)' if one.sliver else ''}" for one in floor.sizes]
    left = [f"{floor.sizes_left} of other sizes"] if floor.sizes_left else []
    return f"{floor.name}, cuts: {'; '.join([*pieces, *left])}."


TILE = Page("tile", "Tile layout", _tile, part="tile")
