"""The tile in words: what is laid, what is cut, what is bought."""

from __future__ import annotations

from collections import Counter
from collections.abc import Callable, Sequence
from math import ceil, cos, sin
from typing import Literal

import numpy as np

from calm_basin.core.answer.build import working
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Change
from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.surface import xy
from calm_basin.core.tile.floors import (
    Floor,
    NotLaidError,
    check_tile,
    floors_of,
    middle_of_drain,
)
from calm_basin.core.tile.laying import Laid, TileGrid, cut_once, lay, paired
from calm_basin.core.tile.meets import meets
from calm_basin.core.tile.origin import Weight, best_origin, together, weight
from calm_basin.core.tile.result import (
    BestOrigin,
    CutPiece,
    Ring,
    TiledFloor,
    TiledWall,
    TiledWalls,
    TileResult,
)
from calm_basin.core.tile.walls import Begun, WallsLaid, faces, lay_walls, tile_height
from calm_basin.plan import Plan
from calm_basin.rules import TRADE
from calm_basin.tolerances import ON_EDGE

LISTED = 12
"""So many sizes of pieces are listed."""


def tile_result(case: Case) -> TileResult:
    """The tile of a floor, laid out and counted."""
    start = xy(middle_of_drain(case.plan))
    try:
        floors = floors_of(case)
    except NotLaidError as reason:
        return TileResult(
            none_because=str(reason),
            field=reason.field,
            narrowest_text="",
            floors=(),
            origin=start,
            counted_from=start,
            row=(1.0, 0.0),
            walls=_walls(case, None),
            on_joints=(),
            on_tile=(),
            meets=meets(case),
            notes=(),
        )
    laid = [lay(floor.grid, floor.stretches) for floor in floors]
    told = tuple(
        _told(case.words, floor.name, [on], floor.area, floor.on_plan, sheets=floor.sheets)
        for floor, on in zip(floors, laid, strict=True)
    )
    return TileResult(
        none_because="",
        field="",
        narrowest_text=_narrowest(case.words, laid),
        floors=told,
        origin=floors[0].grid.origin,
        counted_from=start,
        row=(cos(floors[0].grid.turn), sin(floors[0].grid.turn)),
        walls=_walls(case, floors[0].grid),
        on_joints=_begun_at(floors[0].grid, 0.0),
        on_tile=_begun_at(floors[0].grid, 0.5),
        meets=meets(case),
        notes=_notes(case, floors),
    )


def _begun_at(grid: TileGrid, share: float) -> tuple[Change, ...]:
    """What moves the layout by a share of its module from the drain; none of hexagons."""
    if grid.pattern == "hexagon":
        return ()
    return tuple(
        Change(path=f"/tiling/{name}", value=round(share * module, 4))
        for name, module in zip(("along", "across"), grid.module, strict=True)
    )


def best_begun(case: Case) -> BestOrigin:
    """Where the tile is best begun. Raises `NotLaidError`."""
    plan = case.plan
    floors = [(floor.grid, floor.stretches) for floor in floors_of(case)]
    now = weight([lay(grid, on) for grid, on in floors])
    walls = _carried_walls(plan, floors[0][0])
    if walls is not None:
        now = together(now, walls(0.0, 0.0))
    (along, across), best = best_origin(floors, walls)
    if best >= now:
        return BestOrigin(said=f"Already the best layout: {_weighed(now)}.", changes=())
    tiling = plan.tiling
    put = {"along": tiling.along + along, "across": tiling.across + across}
    return BestOrigin(
        said=f"Best layout: {_weighed(best)}. Before: {_weighed(now)}.",
        changes=tuple(
            Change(path=f"/tiling/{name}", value=round(value, 3)) for name, value in put.items()
        ),
    )


def _carried_walls(plan: Plan, floor: TileGrid) -> Callable[[float, float], Weight] | None:
    """What the walls weigh for each way to begin the floor; None where none hangs on that."""
    tile = plan.tiling.wall
    if tile is None or not any(
        one.begun == "carried" for one in lay_walls(plan, tile, floor).walls
    ):
        return None

    def walls(along: float, across: float) -> Weight:
        made = lay_walls(plan, tile, floor.begun(along, across))
        return weight([one.laid for one in made.walls])

    return walls


def buy(laid: Sequence[Laid]) -> tuple[int, int]:
    """How many tiles of one size are used, offcuts used again, and how many are bought for that."""
    used = sum(one.used for one in laid) - _reused(laid)
    return used, used + max(ceil(used * TRADE.tiling.breakage.value), 1)


def _reused(laid: Sequence[Laid]) -> int:
    """How many cuts come out of another's offcut, wherever each is laid."""
    shorter = [length for one in laid for length in cut_once(one)[0]]
    narrower = [length for one in laid for length in cut_once(one)[1]]
    long, wide = laid[0].grid.size
    kerf = TRADE.tiling.kerf.value
    return paired(shorter, long, kerf) + paired(narrower, wide, kerf)


def _told(
    words: Words, name: str, laid: Sequence[Laid], area: float, flat: float, *, sheets: bool
) -> TiledFloor:
    """What is laid of one tile, on one floor or on all walls; ``flat`` is the area as it is laid
    out, ``area`` that of its planes, mm²."""
    pieces, whole = sum(one.used for one in laid), sum(int(one.whole.sum()) for one in laid)
    (used, bought), reused = buy(laid), _reused(laid)
    sizes, size = _sizes(words, laid), _size(words, *laid[0].grid.size)
    share, what = TRADE.tiling.breakage, "sheets" if sheets else "tiles"
    inputs = [
        (f"{what} laid", f"{pieces}"),
        ("cuts from offcuts", f"{reused}"),
        ("breakage", f"{100 * share.value:.0f} %, at least one"),
    ]
    return TiledFloor(
        name=name,
        tile_text=size,
        whole=whole,
        cut=pieces - whole,
        slivers=sum(int(one.slivers.sum()) for one in laid),
        reused=reused,
        used=used,
        buy=bought,
        full=laid[0].grid.full,
        area=area,
        tiled=sum(float(one.areas.sum()) for one in laid) * area / flat,
        area_text=words.area(area),
        buy_text=f"{bought} {what} of {size}",
        made_text=f"{whole} whole, {pieces - whole} cut"
        + (f", {reused} from offcuts" if reused else "")
        + f"; {words.area(area)}",
        working=working(
            "tiles laid − cuts from offcuts + breakage",
            inputs,
            source=share.source,
            note=f"Two cuts come from one tile when both and a saw kerf of "
            f"{words.length(TRADE.tiling.kerf.value)} fit, each with a factory edge.",
        ),
        sizes=sizes[:LISTED],
        sizes_left=sum(one.count for one in sizes[LISTED:]),
        drawn_whole=_drawn(laid, "whole"),
        drawn_cut=_drawn(laid, "cut"),
        drawn_slivers=_drawn(laid, "slivers"),
    )


def _drawn(laid: Sequence[Laid], which: Literal["whole", "cut", "slivers"]) -> tuple[Ring, ...]:
    """The pieces of a kind; on several walls each is drawn by itself."""
    if len(laid) > 1:
        return ()
    (one,) = laid
    kept = {"whole": one.whole, "cut": ~one.whole & ~one.slivers, "slivers": one.slivers}
    return tuple(
        tuple((round(float(x), 1), round(float(y), 1)) for x, y in outline)
        for outline in one.on_plan(kept[which])
    )


def _sizes(words: Words, laid: Sequence[Laid]) -> tuple[CutPiece, ...]:
    """The pieces that are cut, by size, those that are most first."""
    counted: Counter[tuple[str, bool]] = Counter()
    for one in laid:
        cut = ~one.whole
        for area, (long, deep), thin in zip(
            one.areas[cut], one.extents[cut], one.slivers[cut], strict=True
        ):
            shaped = long * deep - area > ON_EDGE * (long + deep)
            text = _cut_size(words, float(long), float(deep))
            counted[(f"{text}, shaped" if shaped else text, bool(thin))] += 1
    return tuple(
        CutPiece(count=count, text=text, sliver=thin)
        for (text, thin), count in counted.most_common()
    )


def _cut_size(words: Words, long: float, deep: float) -> str:
    """The size of a piece, as finely as a saw is set."""
    if words.display.imperial:
        return _size(words, long, deep)
    return _size(words, round(long), round(deep))


def _size(words: Words, long: float, deep: float) -> str:
    return f"{words.bare(long)} × {words.length(deep)}"


def _narrowest(words: Words, laid: Sequence[Laid]) -> str:
    """The piece that keeps least of its tile."""
    judged = [each for each in laid if each.grid.judged]
    if not judged:
        return "Cut the sheets between their tiles. Cuts through single tiles are not checked."
    one = min(judged, key=lambda each: float(each.shares.min(initial=1.0)))
    if one.shares.min(initial=1.0) >= 1 - 1e-6:
        return "No narrow cuts."
    at, axis = np.unravel_index(int(one.shares.argmin()), one.shares.shape)
    kept, side = float(one.kept[at, axis]), one.grid.unit[int(axis)]
    if one.slivers.any():
        third = words.length(side * TRADE.tiling.sliver.value)
        return f"Narrowest cut {words.length(kept, 'up')}, a third of the tile is {third}."
    return f"Narrowest cut {words.length(kept, 'up')} of {words.length(side)}."


NAMES = {"shower": "Shower walls", "all": "All walls"}

BEGUN: dict[Begun, str] = {
    "carried": "joints run up from the floor",
    "edge": "whole tile at the open edge",
    "joint": "joint in the middle",
    "tile": "tile in the middle",
}


def _walls(case: Case, floor: TileGrid | None) -> TiledWalls | None:
    """The tile of the shower's walls; None where none is chosen or no wall is at the shower."""
    plan, words, tile = case.plan, case.words, case.plan.tiling.wall
    if tile is None:
        return None
    area = sum(float(face.tiled.area) for face in faces(plan, tile.joint))
    try:
        if not area:
            raise NotLaidError("No wall at the shower.", "/tiling/walls")
        sheet = plan.tiling.wall_sheet
        laid_as = tile.model_copy(update={"length": sheet, "width": sheet}) if sheet else tile
        check_tile(words, laid_as, area, "/tiling/wall")
    except NotLaidError as reason:
        return TiledWalls(
            none_because=str(reason),
            tiled=None,
            said="",
            narrowest="",
            height=tile_height(plan),
            height_text=words.length(tile_height(plan)),
            views=(),
        )
    made = lay_walls(plan, tile, floor)
    laid = [one.laid for one in made.walls]
    return TiledWalls(
        none_because="",
        tiled=_told(
            words,
            NAMES[plan.tiling.walls],
            laid,
            area,
            area,
            sheets=plan.tiling.wall_sheet is not None,
        ),
        said=f"Whole tiles in the {made.whole} row{_whole_rows(words, made, tile_height(plan))}",
        narrowest=_narrowest(words, laid),
        height=tile_height(plan),
        height_text=words.length(tile_height(plan)),
        views=tuple(
            TiledWall(
                name=one.face.name,
                said=BEGUN[one.begun],
                length=one.face.length,
                height=float(one.face.tiled.bounds[3]),
                drawn_whole=_drawn([one.laid], "whole"),
                drawn_cut=_drawn([one.laid], "cut"),
                drawn_slivers=_drawn([one.laid], "slivers"),
                niches=tuple(
                    tuple((float(x), float(y)) for x, y in niche.exterior.coords[:-1])
                    for niche in one.face.niches
                ),
            )
            for one in made.walls
        ),
    )


def _whole_rows(words: Words, made: WallsLaid, height: float) -> str:
    """To which heights next to that which was asked every row is whole."""
    grid = made.walls[0].laid.grid
    row = grid.module[1]
    rows = int(height / row + ON_EDGE / row)
    if grid.turn or grid.pattern == "hexagon" or abs(height - rows * row) <= ON_EDGE:
        return ""
    ends = [words.length(count * row) for count in (rows, rows + 1) if count]
    return f". Every row is whole up to {' or '.join(ends)}"


def tiled_walls(case: Case) -> TiledFloor | None:
    """What is laid on the shower's walls; None where nothing is."""
    try:
        floor = floors_of(case)[0].grid
    except NotLaidError:
        floor = None
    walls = _walls(case, floor)
    return None if walls is None else walls.tiled


def _weighed(found: Weight) -> str:
    slivers = {0: "no slivers", 1: "1 sliver"}.get(found.slivers, f"{found.slivers} slivers")
    kept = -100 * found.narrowest
    return f"{slivers}, narrowest cut {kept:.0f} % of a tile, {found.tiles} tiles"


def _notes(case: Case, floors: Sequence[Floor]) -> tuple[str, ...]:
    notes = []
    for floor in floors:
        found = TRADE.tiling.trowel(max(floor.tile.length, floor.tile.width))
        notes.append(f"{floor.name} trowel: {found.notch} ({found.source}).")
    wet = TRADE.tiling.coverage
    notes.append(
        f"Adhesive covers at least {100 * wet.value:.0f} % of the tile back in wet areas "
        f"({wet.source}). {wet.note}"
    )
    slip = [fact for fact in case.rules.facts if fact.topic == "slip"]
    notes += [f"Wet slip: {fact.given} ({fact.source})." for fact in slip]
    notes.append(
        "Polished tile is slippery with soap on it. The joint at the walls moves: fill it with "
        "sealant, not grout."
    )
    return tuple(notes)
