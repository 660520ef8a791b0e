"""The tile, as it is sent."""

from __future__ import annotations

from calm_basin.core.answer.result import XY, Change, Input, Result, Working

Ring = tuple[XY, ...]


class CutPiece(Result):
    """Pieces of one size: how many, and their size; ``sliver`` where they are too thin."""

    count: int
    text: str
    sliver: bool


class TiledFloor(Result):
    """A floor with its tile: counts of tiles, and the pieces as they are drawn.

    ``used`` are the tiles that it takes, offcuts used again; ``buy`` adds what breaks.
    """

    name: str
    tile_text: str
    whole: int
    cut: int
    slivers: int
    reused: int
    used: int
    buy: int
    full: float
    """Of one tile or sheet, mm²."""

    area: float
    """Of the floor, on its planes, mm²."""

    tiled: float
    """Of the tile on it, mm²."""

    area_text: str
    buy_text: str
    made_text: str
    working: Working
    sizes: tuple[CutPiece, ...]
    sizes_left: int
    """Pieces of other sizes that ``sizes`` does not list."""

    drawn_whole: tuple[Ring, ...]
    drawn_cut: tuple[Ring, ...]
    drawn_slivers: tuple[Ring, ...]


class TiledWall(Result):
    """A wall with its tile, from inside: x from the left end of its finished face, y up from the
    floor, mm; ``said`` is how it begins along it."""

    name: str
    said: str
    length: float
    height: float
    drawn_whole: tuple[Ring, ...]
    drawn_cut: tuple[Ring, ...]
    drawn_slivers: tuple[Ring, ...]
    niches: tuple[Ring, ...]


class TiledWalls(Result):
    """The tile of the shower's walls, from left to right; ``none_because`` says why it is not laid
    out."""

    none_because: str
    tiled: TiledFloor | None
    said: str
    narrowest: str
    height: float
    height_text: str
    views: tuple[TiledWall, ...]


class TileResult(Result):
    """The tile of the floor; ``none_because`` says why it is not laid out."""

    none_because: str
    field: str
    """The field that cures it."""

    narrowest_text: str
    floors: tuple[TiledFloor, ...]
    origin: XY
    """Where two joints cross, or the middle of a hexagon lies."""

    counted_from: XY
    row: XY
    """The middle of the drain, and the way in which the tile's length lies, a unit vector: the
    layout's ``along`` and ``across`` are counted from there, along it and to its left."""

    walls: TiledWalls | None
    """None where no tile is chosen for them."""

    on_joints: tuple[Change, ...]
    on_tile: tuple[Change, ...]
    """What puts a crossing of joints, or the middle of a tile, on the drain; none of hexagons,
    which lie with their middle on it."""

    meets: tuple[Input, ...]
    """Where the tile meets something else, and what to do where it does not."""

    notes: tuple[str, ...]


class BestOrigin(Result):
    """Where the tile is best begun; no changes where it lies best already."""

    said: str
    changes: tuple[Change, ...]
