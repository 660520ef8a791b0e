"""The tile in words: what is laid, what is cut, what is bought."""

from __future__ import annotations

from collections import Counter
from collections.abc import Sequence
from math import ceil, cos, sin

import numpy as np

from calm_basin.core.answer.build import working
from calm_basin.core.answer.case import Case
from calm_basin.core.answer.result import Change
from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.surface import xy
from calm_basin.core.tile.floors import Floor, NotLaidError, floors_of, middle_of_drain
from calm_basin.core.tile.laying import Laid, cut_once, lay, paired
from calm_basin.core.tile.origin import Weight, best_origin, weight
from calm_basin.core.tile.result import BestOrigin, CutPiece, Ring, TiledFloor, TileResult
from calm_basin.plan.places import ON_EDGE
from calm_basin.rules.tiling import breakage, coverage, kerf, sliver, trowel

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
            notes=(),
        )
    laid = [lay(floor.grid, floor.stretches) for floor in floors]
    told = tuple(_told(case.words, *pair) for pair in zip(floors, laid, strict=True))
    return TileResult(
        none_because="",
        field="",
        narrowest_text=_narrowest(case.words, laid),
        floors=told,
        origin=floors[0].grid.origin,
        counted_from=start,
        row=(cos(floors[0].grid.turn), sin(floors[0].grid.turn)),
        notes=_notes(case, floors),
    )


def best_begun(case: Case) -> BestOrigin:
    """Where the tile is best begun. Raises `NotLaidError`."""
    floors = [(floor.grid, floor.stretches) for floor in floors_of(case)]
    now = weight([lay(grid, on) for grid, on in floors])
    (along, across), best = best_origin(floors)
    if best >= now:
        return BestOrigin(said=f"Already the best layout: {_weighed(now)}.", changes=())
    tiling = case.plan.tiling
    put = {"along": tiling.along + along, "across": tiling.across + across}
    return BestOrigin(
        said=f"Best layout: {_weighed(best)}. Before: {_weighed(now)}.",
        changes=tuple(
            Change(path=f"/tiling/{name}", value=round(value, 3)) for name, value in put.items()
        ),
    )


def buy(floor: Floor, laid: Laid) -> tuple[int, int]:
    """How many tiles a floor uses, offcuts used again, and how many are bought for that."""
    used = laid.used - _reused(laid)
    return used, used + max(ceil(used * breakage().share), 1)


def _reused(laid: Laid) -> int:
    size = laid.grid.size
    return sum(
        paired(pieces, whole, kerf().value)
        for pieces, whole in zip(cut_once(laid), size, strict=True)
    )


def _told(words: Words, floor: Floor, laid: Laid) -> TiledFloor:
    cut = ~laid.whole & ~laid.slivers
    whole = int(laid.whole.sum())
    used, bought = buy(floor, laid)
    sizes = _sizes(words, laid)
    share, what = breakage(), "sheets" if floor.sheets else "tiles"
    inputs = [
        (f"{what} on the floor", f"{laid.used}"),
        ("cuts from offcuts", f"{_reused(laid)}"),
        ("breakage", f"{100 * share.share:.0f} %, at least one"),
    ]
    return TiledFloor(
        name=floor.name,
        tile_text=_size(words, *laid.grid.size),
        whole=whole,
        cut=laid.used - whole,
        slivers=int(laid.slivers.sum()),
        reused=_reused(laid),
        used=used,
        buy=bought,
        area=floor.area,
        tiled=float(laid.areas.sum()) * floor.area / floor.on_plan,
        area_text=words.area(floor.area),
        buy_text=f"{bought} {what} of {_size(words, *laid.grid.size)}",
        made_text=f"{whole} whole, {laid.used - whole} cut"
        + (f", {_reused(laid)} from offcuts" if _reused(laid) else "")
        + f"; {words.area(floor.area)}",
        working=working(
            "tiles on the floor − cuts from offcuts + breakage",
            inputs,
            source=share.source,
            note=f"Two cuts come from one tile when both and a saw kerf of "
            f"{words.length(kerf().value)} fit, each with a factory edge.",
        ),
        sizes=sizes[:LISTED],
        sizes_left=sum(one.count for one in sizes[LISTED:]),
        drawn_whole=_drawn(laid, laid.whole),
        drawn_cut=_drawn(laid, cut),
        drawn_slivers=_drawn(laid, laid.slivers),
    )


def _drawn(laid: Laid, which: np.typing.NDArray[np.bool_]) -> tuple[Ring, ...]:
    return tuple(
        tuple((round(float(x), 1), round(float(y), 1)) for x, y in outline)
        for outline in laid.on_plan(which)
    )


def _sizes(words: Words, laid: Laid) -> tuple[CutPiece, ...]:
    """The pieces that are cut, by size, those that are most first."""
    counted: Counter[tuple[str, bool]] = Counter()
    for area, (long, deep), thin in zip(
        laid.areas[~laid.whole], laid.extents[~laid.whole], laid.slivers[~laid.whole], strict=True
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
        third = words.length(side * sliver().share)
        return f"Narrowest cut {words.length(kept, 'up')}, a third of the tile is {third}."
    return f"Narrowest cut {words.length(kept, 'up')} of {words.length(side)}."


def _weighed(found: Weight) -> str:
    slivers = {0: "no slivers", 1: "1 sliver"}.get(found.slivers, f"{found.slivers} slivers")
    kept = -100 * found.narrowest
    return f"{slivers}, narrowest cut {kept:.0f} % of a tile, {found.tiles} tiles"


def _notes(case: Case, floors: Sequence[Floor]) -> tuple[str, ...]:
    notes = []
    for floor in floors:
        found = trowel(max(floor.tile.length, floor.tile.width))
        notes.append(f"{floor.name} trowel: {found.notch} ({found.source}).")
    wet = coverage()
    notes.append(
        f"Adhesive covers at least {100 * wet.share:.0f} % of the tile back in wet areas "
        f"({wet.source}). {wet.note}"
    )
    slip = [fact for fact in case.rules.facts if fact.topic == "slip"]
    notes += [f"Wet slip: {fact.given} ({fact.source})." for fact in slip]
    notes.append(
        "Polished tile is slippery with soap on it. The joint at the walls moves: fill it with "
        "sealant, not grout."
    )
    return tuple(notes)
