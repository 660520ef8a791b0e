"""How much of what a floor takes, from its areas, lengths and pieces: numbers, no packs yet.

Amounts are in what the thing is counted in: pieces, metres, square metres, litres or bags.
"""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from math import ceil

import numpy as np
from shapely.geometry import LineString, Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.depth.panels import panel_layout
from calm_basin.core.falls.ring import ring_of
from calm_basin.core.geometry.levels import cast_on, laid_on, levels, pour_of, rest_thickness
from calm_basin.core.geometry.lifts import thicker_at_drain
from calm_basin.core.kinds import former_of
from calm_basin.core.membrane.answer import block_corners, seam_lengths, wall_area
from calm_basin.core.membrane.on_walls import niches_sealed, patches, school_of
from calm_basin.core.membrane.pieces import corners, sealed
from calm_basin.core.order.need import LITRE, M2, M, Need, Share
from calm_basin.core.order.wall_needs import wall_needs
from calm_basin.core.structure.deck_sheet import deck_sheet
from calm_basin.core.survey.ground import ground_of, pour_zone, poured
from calm_basin.core.tile.answer import buy, tiled_walls
from calm_basin.core.tile.floors import NotLaidError, floors_of
from calm_basin.core.tile.laying import lay
from calm_basin.core.tile.result import TiledFloor
from calm_basin.core.waste.answer import waste
from calm_basin.plan import Plan
from calm_basin.plan.blocks import without_blocks
from calm_basin.plan.layers import BOARDS, has
from calm_basin.rules import TRADE


def needs(case: Case) -> list[Need]:
    """What the floor takes, without what is nothing."""
    found = [
        *_former(case),
        *_pour(case),
        *_drain(case),
        *_framing(case),
        *wall_needs(case),
        *_membrane(case),
        *_cable(case),
        *_finish(case),
    ]
    return [need for need in found if need.amount > 1e-9]


def floor_of_shower(case: Case) -> Polygon:
    """The shower on plan."""
    return ring_of(case.plan.shower).polygon


def _former(case: Case) -> Iterator[Need]:
    former, shower = former_of(case.plan.shower), floor_of_shower(case)
    if former.cast:
        yield Need("mud", "mean thickness × area, from the planes of the floor", tuple(_beds(case)))
        return
    if (tray := former.tray) is not None:
        stock, words = former.stock, case.words
        called = f"Shower tray {_size(case, *_outer(shower))}"
        if stock is not None:
            called = f"Shower tray {words.length(stock.width)} × {words.length(stock.length)}"
        drains = 2 if case.plan.shower.second_drain else 1
        yield Need("tray", "one a drain", (Share("drains", drains),), called)
        if tray.extension is not None:
            long = words.length(tray.extension.length)
            called = f"Extension piece of the tray, {long} long"
            yield Need("extension", "of the plan", (Share("before the tray", 1),), called)
        around = Share("round the tray", shower.length / M)
        yield Need("sealant", "a bead all round", (around,))
    elif (layout := panel_layout(case)) is not None:
        sides = layout.sides
        rows = tuple(Share(side.name, side.count) for side in sides)
        yield Need("panel", "panels of each side, those cut from one counted once", rows)
    under = (Share("shower", shower.area / M2),)
    yield Need("bedding", "area under the shower", under)
    yield Need("primer", "area under the shower", under)


def _beds(case: Case) -> Iterator[Share]:
    """The litres of a bed in the shower, and of that in the rest of a wet room."""
    plan, surface = case.plan, case.surface
    former, stack = former_of(plan.shower), levels(plan, surface)
    # Where what carries it lies lower than it has to, the bed is cast down to that.
    least = former.mud + laid_on(plan, stack) - cast_on(plan, stack)
    least += thicker_at_drain(plan, surface)
    facets = list(surface.zone("shower"))
    yield Share(
        "in the shower",
        sum(volume(f.polygon, f.plane, surface.drop + least) for f in facets) / LITRE,
    )
    rest = list(surface.zone("rest"))
    if rest:
        lowest = min(float(facet.corners[:, 2].min()) for facet in rest)
        thin = max(rest_thickness(plan, surface), 0.0)
        yield Share(
            "in the rest of the room",
            sum(volume(f.polygon, f.plane, thin - lowest) for f in rest) / LITRE,
        )


def volume(polygon: Polygon, plane: tuple[float, float, float], above: float) -> float:
    """What lies under a plane and over the level ``above`` mm below its 0, mm³: over a polygon a
    plane's mean height is that at the centroid."""
    if polygon.is_empty:
        return 0.0
    middle = polygon.centroid
    return float(polygon.area * (plane[0] * middle.x + plane[1] * middle.y + plane[2] + above))


def _pour(case: Case) -> Iterator[Need]:
    plan = case.plan
    settings, ground = pour_of(plan), ground_of(plan)
    if settings is None or ground is None:
        return
    zone, _ = pour_zone(plan, settings)
    made = poured(ground, zone, settings)
    where = "in the shower" if settings.area == "shower" else "over the floor"
    yield Need(
        "compound", "litres ÷ what a bag gives, with what is kept back", (Share(where, made.bags),)
    )
    yield Need("lath", "area ÷ a sheet", (Share(where, made.lath_sheets),))
    yield Need("staples", "as far apart as is usual", (Share(where, made.staples),))
    yield Need("primer", "area under the pour", (Share("under the pour", made.area / M2),))


def _drain(case: Case) -> Iterator[Need]:
    plan = case.plan
    drains = 2 if plan.shower.second_drain else 1
    family = plan.waste.family
    called = f"Drain: {family.name[0].lower()}{family.name[1:]}" if family else ""
    yield Need("drain", "drains of the plan", (Share("drains", drains),), called)
    yield Need("plug", "one an outlet", (Share("outlets", drains),))
    run = waste(case).run
    if run is None or len(run.line) < 2:
        return
    levels = run.profile.levels
    fall = abs(levels[0][1] - levels[-1][1]) if levels else 0.0
    length = LineString(run.line).length
    shares = (Share("run on plan", length / M), Share("drop along it", fall / M))
    yield Need("pipe", "length of the run with its drop", shares)
    yield Need(
        "bend", "bends of the run and the one at the drain", (Share("bends", len(run.line) - 1),)
    )


def _framing(case: Case) -> Iterator[Need]:
    sheet, words = deck_sheet(case), case.words
    if sheet is None:
        return
    lengths: dict[str, list[float]] = {}
    for batten in sheet.battens:
        along = float(np.hypot(*np.subtract(batten.end, batten.start)))
        lengths.setdefault(batten.kind, []).append(along)
    added = lengths.pop("added joist", [])
    small = tuple(Share(f"{kind}s", sum(of_kind) / M) for kind, of_kind in lengths.items())
    yield Need("cleat", "pieces of the cut sheet", small)
    yield Need("joist", "pieces of the cut sheet", (Share("added joists", sum(added) / M),))
    apart = TRADE.order.rates.cleat_screws.value
    screws = [2 * (ceil(one / apart) + 1) for of_kind in lengths.values() for one in of_kind]
    yield Need(
        "cleat_screws",
        f"two rows in each piece, {words.length(apart)} apart and at its ends",
        (Share("cleats and blocking", sum(screws)),),
    )
    apart = TRADE.order.rates.deck_screws.value
    around = [ceil(Polygon(piece.outline).length / apart) for piece in sheet.pieces]
    told = f"{words.length(apart)} apart round each piece"
    yield Need("deck_screws", told, (Share("pieces", sum(around)),))


def _membrane(case: Case) -> Iterator[Need]:
    plan, shower, words = case.plan, floor_of_shower(case), case.words
    kept, lap = sealed(plan), TRADE.membrane.lap.value
    areas = (
        Share("shower", shower.area / M2),
        Share("into the room", kept.difference(shower).area / M2),
        Share("walls", wall_area(plan) / M2),
    )
    school = school_of(plan)
    if school.field == "liquid":
        litres = TRADE.membrane.litres.value
        coats = tuple(share._replace(amount=share.amount * litres) for share in areas)
        yield Need("liquid", "area × litres a square metre, in two coats", coats)
    elif school.field == "sheet":
        far = words.length(TRADE.membrane.into_room.value)
        told = f"area of the shower and {far} beyond it, or as far as the plan says"
        yield Need("membrane", told, areas)
    seams = sum(seam_lengths(plan)) / M
    if school.beads:
        beads = Share("seams of the boards", seams * school.beads)
        yield Need("sealant", f"{school.beads} beads over every seam", (beads,))
    else:
        covered = patches(plan) * TRADE.membrane.band.value / M
        yield Need(
            "band",
            f"every seam, lapping {words.length(lap)} at its ends",
            (Share("seams, with laps", seams), Share("patches over fasteners", covered)),
            called="Sealing tape" if school.strip == "tape" else "",
        )
    niches, turned = niches_sealed(plan), [corner.inside for corner in corners(plan)]
    turned += [inside for _, inside in block_corners(plan)]
    inward = sum(turned)
    if school.corners:
        yield Need("inside_corner", "corners of the walls", _corners(inward, niches))
        outward = len(turned) - inward
        yield Need("outside_corner", "corners that stand out", _corners(outward, niches))
    if school.collars:
        pipes = Share("valve and arm", plan.membrane.pipes)
        yield Need("collar", "one a pipe through the wall", (pipes,))


def _corners(at_walls: int, niches: Sequence[object]) -> tuple[Share, ...]:
    return Share("corners", at_walls), Share("four a niche", 4 * len(niches))


def band_lengths(plan: Plan) -> list[float]:
    """What each strip of band or tape is cut to, mm, with its laps."""
    if not school_of(plan).strip:
        return []
    return [*seam_lengths(plan), *[TRADE.membrane.band.value] * patches(plan)]


def _cable(case: Case) -> Iterator[Need]:
    cable = case.plan.heating
    if cable is not None:
        called = f"Heating cable, {case.words.run(cable.length)}, {cable.volts:g} V"
        yield Need("cable", "of the plan, never shortened", (Share("cables", 1),), called)


def _finish(case: Case) -> Iterator[Need]:
    """Tile and what it is laid in and on, by area."""
    plan, shower = case.plan, floor_of_shower(case)
    tiled = []
    if has(plan.shower.layers, "tile"):
        tiled.append(("tile", "shower", shower.area / M2))
    rest = without_blocks(plan, Polygon(plan.room.outline)).difference(shower).area / M2
    # What is down already is not bought again.
    of_room = () if plan.room.laid is not None else plan.room.layers
    if has(of_room, "tile"):
        tiled.append(("room_tile", "rest of the room", rest))
    laid = _laid(case)
    on_walls = tiled_walls(case)
    if on_walls is not None:
        tiled.append(("wall_tile", "shower walls", on_walls.area / M2))
        laid["wall_tile"] = _counted(on_walls)
    for item, where, area in tiled:
        yield laid.get(item) or Need(item, "area of the floor", (Share(where, area),))
    shares = tuple(Share(where, area) for _, where, area in tiled)
    for item in ("tile_adhesive", "grout"):
        yield Need(item, "area of the floor", shares)
    boards = [layer.name for layer in of_room if layer.role in BOARDS]
    yield Need(
        "board", "area of the floor outside the shower", tuple(Share(b, rest) for b in boards)
    )


def _laid(case: Case) -> dict[str, Need]:
    """The tile of floors that are laid out, by item: counted, with what breaks."""
    try:
        floors = floors_of(case)
    except NotLaidError:
        return {}
    found = {}
    for item, floor in zip(("tile", "room_tile"), floors, strict=False):
        used, bought = buy([lay(floor.grid, floor.stretches)])
        one = floor.grid.full / M2
        shares = Share("laid, whole and cut", used * one), Share("breakage", (bought - used) * one)
        formula = f"{bought} {'sheets' if floor.sheets else 'tiles'} of the layout"
        found[item] = Need(item, formula, shares, counted=True)
    return found


def _counted(walls: TiledFloor) -> Need:
    """The tile of the walls, as it is laid out."""
    one = walls.full / M2
    shares = (
        Share("laid, whole and cut", walls.used * one),
        Share("breakage", (walls.buy - walls.used) * one),
    )
    return Need("wall_tile", f"{walls.buy} tiles of the layout", shares, counted=True)


def _outer(shower: Polygon) -> tuple[float, float]:
    left, bottom, right, top = shower.bounds
    return right - left, top - bottom


def _size(case: Case, width: float, length: float) -> str:
    return f"{case.words.length(width)} × {case.words.length(length)}"
