"""What the water does on the planned floor: where it runs, gathers, stands and leaves."""

from __future__ import annotations

from math import sqrt
from typing import Literal

import numpy as np
import shapely

from calm_basin.core.falls import door_edges, ring_of
from calm_basin.core.grid import Exit, Grid, Mask, grid_of, puddles
from calm_basin.core.solution import (
    Figure,
    Gathering,
    Input,
    Puddle,
    Runoff,
    WaterResult,
)
from calm_basin.core.surface import Array, Surface
from calm_basin.core.waste import capacities, flow_of
from calm_basin.core.wording import Words
from calm_basin.plan import Plan

SPACING = 10.0
"""Size of the cells, mm."""

MOST_CELLS = 250_000
"""Cells of 10 mm for 5 × 5 m; a larger floor has larger cells."""

LEAST_PUDDLE = 0.05
"""Standing water that is shallower, mm, is rounding and no puddle."""

DROPS_APART = 130.0
"""Distance between the drops whose ways are drawn, mm."""

STEP = 15.0
"""Length of a drop's steps, mm."""


def exits_of(plan: Plan) -> list[Exit]:
    """Where water can leave: the doors of a wet room in two zones, else the shower's entries."""
    if plan.shower.rest is not None:
        return [Exit(door, 0.0) for door in door_edges(plan.room)]
    ring = ring_of(plan.shower)
    return [Exit(ring.edge(i), plan.shower.set_down) for i in sorted(ring.entries)]


def spill_level(plan: Plan, surface: Surface) -> float | None:
    """The level at which a floor with a blocked drain runs over, from the surface's 0, mm.

    Water leaves at the lowest place of an exit, and not below the floor outside it.
    """
    levels = []
    for way_out in exits_of(plan):
        places = way_out.edge[0] + np.linspace(0, 1, 21)[:, None] * np.diff(way_out.edge, axis=0)
        heights = surface.heights(places)
        if not np.isnan(heights).all():
            levels.append(max(way_out.level, float(np.nanmin(heights))))
    return min(levels, default=None)


def water(plan: Plan, words: Words, surface: Surface) -> WaterResult:
    """Let it rain on the planned floor."""
    grid = grid_of(surface, exits_of(plan), _spacing(surface))
    ends = grid.ends
    lost = ~(grid.sinks.ravel()[ends]) & grid.floor.ravel()
    standing = np.zeros(grid.heights.shape)
    if lost.any():
        # Where every cell has a way down to a drain there is nothing to fill.
        standing[grid.floor] = (grid.filled() - np.where(grid.floor, grid.heights, 0))[grid.floor]
    found = [
        _puddle(grid, words, depth, area, volume, cell)
        for depth, area, volume, cell in puddles(grid, standing, LEAST_PUDDLE)
    ]
    out = lost & grid.leaving.ravel()[ends]
    level = lost & ~out & (standing.ravel() <= LEAST_PUDDLE)
    whole = float(grid.areas.sum())
    drained = float(grid.areas.ravel()[~lost].sum()) / whole
    level_area = float(grid.areas.ravel()[level & (ends == np.arange(len(ends)))].sum())
    outside = _leaving(plan, grid) | out.reshape(grid.heights.shape)
    share = float(grid.areas[outside].sum()) / max(float(grid.areas.sum()), 1.0)
    crosses = share > 1e-3
    across = "the zone's edge" if plan.shower.rest else "the entry"
    spill = spill_level(plan, surface)
    (held, seconds), flow = hold(plan, surface), flow_of(plan.water)
    verdict = "Every drop reaches the drain"
    if found:
        verdict = f"Water stands {found[0].text}"
    elif level_area > 0:
        verdict = "Water lies on a level part"
    return WaterResult(
        spacing=grid.spacing,
        puddles=tuple(found),
        level_area=level_area,
        level_text="" if level_area <= 0 else f"{_area(level_area)} is level: a film stays on it",
        runs=_runs(surface, grid),
        gatherings=_gatherings(grid),
        crosses=crosses,
        crossing_text=f"{share:.0%} of the shower's water crosses {across}"
        if crosses
        else f"no water runs from the shower across {across}",
        drained=_figure(
            "Reaches the drain",
            drained,
            "share",
            f"{drained:.1%}",
            "area whose water ends in a drain ÷ area of the floor",
            [("floor", _area(whole)), ("cells", f"{grid.spacing:g} mm")],
        ),
        holds=_held(plan, words, surface, spill, held),
        overflow=_overflow(plan, held, flow, seconds),
        flow=_figure(
            "All heads together",
            flow,
            "litre_per_minute",
            f"{flow:g} L/min",
            "sum of what the heads give",
            [(head.name, f"{head.flow_l_min:g} L/min") for head in plan.water.heads],
        ),
        capacities=capacities(plan.water, words),
        verdict=verdict,
        clear=not found and level_area <= 0 and not crosses,
    )


def _spacing(surface: Surface) -> float:
    """Size of the cells: larger on floors the size of a hall."""
    left, bottom, right, top = surface.outline.bounds
    return max(SPACING, sqrt((right - left) * (top - bottom) / MOST_CELLS))


def hold(plan: Plan, surface: Surface) -> tuple[float | None, float | None]:
    """Litres that stand on a floor whose drain is blocked, and seconds until it runs over; None
    where nothing lets water out, or no head runs."""
    spill, flow = spill_level(plan, surface), flow_of(plan.water)
    held = None if spill is None else surface.held(spill)
    return held, None if held is None or flow <= 0 else held / flow * 60


def reserve(plan: Plan, surface: Surface) -> str:
    """What a floor without a kerb holds with its drain blocked, in words."""
    (held, seconds), flow = hold(plan, surface), flow_of(plan.water)
    if held is None:
        return "No door or entry lets water out of this floor as it is drawn."
    where = "the door" if plan.shower.rest else "the entry"
    after = "no shower head is set"
    if seconds is not None:
        after = f"it runs over {where} in {seconds:.0f} s"
    return (
        f"With the drain blocked the floor holds {held:.1f} L: at {flow:g} L/min {after}. "
        "A level-access floor has almost no reserve."
    )


def _leaving(plan: Plan, grid: Grid) -> Mask:
    """The shower's cells whose water runs through the rest of the room."""
    shape = ring_of(plan.shower).polygon
    if plan.shower.rest is None:
        return np.zeros(grid.heights.shape, dtype=bool)
    mesh = np.meshgrid(*grid.middles())
    inside = shapely.contains_xy(shape, *mesh) | grid.sinks
    inner = shapely.contains_xy(shape.buffer(-2 * grid.spacing), *mesh)
    leaving: Mask = inner & grid.passes(grid.floor & ~inside)
    return leaving


def _puddle(
    grid: Grid, words: Words, depth: float, area: float, volume: float, cell: int
) -> Puddle:
    xs, ys = grid.middles()
    row, column = divmod(cell, grid.heights.shape[1])
    litres = volume / 1e6
    return Puddle(
        x=float(xs[column]),
        y=float(ys[row]),
        depth=depth,
        area=area,
        litres=litres,
        text=f"{words.length(depth, 'up')} deep over {_area(area)}, {litres:.2f} L",
    )


def _area(mm2: float) -> str:
    return f"{mm2 / 1e6:.2f} m²" if mm2 >= 1e5 else f"{mm2 / 100:.0f} cm²"


def _figure(
    label: str,
    value: float | None,
    unit: str,
    text: str,
    formula: str,
    inputs: list[tuple[str, str]],
    note: str = "",
    source: str = "Geometry of the floor",
) -> Figure:
    return Figure.model_validate(
        {
            "label": label,
            "value": value,
            "unit": unit,
            "text": text,
            "working": {
                "formula": formula,
                "inputs": tuple(Input(name=name, text=shown) for name, shown in inputs),
                "source": source,
                "note": note,
            },
        }
    )


def _held(
    plan: Plan, words: Words, surface: Surface, spill: float | None, held: float | None
) -> Figure:
    where = "the lowest place of the doors" if plan.shower.rest else "the lowest place of the entry"
    deepest = None if spill is None else spill + surface.drop
    return _figure(
        "Holds with the drain blocked",
        held,
        "litre",
        "—" if held is None else f"{held:.1f} L",
        f"volume between the floor and a level through {where}, plane by plane",
        []
        if deepest is None
        else [("water over the drain", words.length(deepest)), ("weighs", f"{held or 0:.1f} kg")],
        note="Without a kerb there is almost no reserve: keep the drain clean.",
    )


def _overflow(plan: Plan, held: float | None, flow: float, seconds: float | None) -> Figure:
    where = "door" if plan.shower.rest else "entry"
    return _figure(
        f"Runs over the {where} after",
        seconds,
        "second",
        "—" if seconds is None else f"{seconds:.0f} s",
        "time = what the floor holds ÷ what the heads give",
        [] if held is None else [("holds", f"{held:.1f} L"), ("heads", f"{flow:g} L/min")],
    )


def _gatherings(grid: Grid) -> tuple[Gathering, ...]:
    """Where most of the water comes over a rim: the sinks next to each other add up."""
    columns = grid.heights.shape[1]
    sinks = np.flatnonzero(grid.sinks)
    flow = grid.gathered.ravel()[sinks]
    whole = float(grid.areas.sum())
    xs, ys = grid.middles()
    places = np.column_stack([xs[sinks % columns], ys[sinks // columns]])
    found: list[Gathering] = []
    for i in np.argsort(-flow)[:40]:
        at = places[i]
        if any(np.hypot(*(at - (f.x, f.y))) < 6 * grid.spacing for f in found):
            continue
        near = np.hypot(*(places - at).T) < 3 * grid.spacing
        share = float(flow[near].sum()) / whole
        if share >= 0.08:
            found.append(
                Gathering(x=float(at[0]), y=float(at[1]), share=share, text=f"{share:.0%}")
            )
    return tuple(found[:6])


def _runs(surface: Surface, grid: Grid) -> tuple[Runoff, ...]:
    """Ways of drops that start all over the floor, a step at a time down its planes."""
    at = _starts(surface)
    start = np.ravel_multi_index(grid.cell(at), grid.heights.shape)
    steps = np.array([*(facet.downhill for facet in surface.facets), (0.0, 0.0)]) * STEP
    live = np.arange(len(at))
    places, which = [at.copy()], [live]
    for _ in range(int(4 * max(grid.heights.shape) * grid.spacing / STEP)):
        now = at[live]
        after = now + steps[grid.planes[grid.cell(now)]]
        there = grid.cell(after)
        going = (after != now).any(axis=1) & grid.floor[there]
        live = live[going]
        at[live] = after[going]
        places.append(at[live])
        which.append(live)
        live = live[~grid.sinks[there][going]]
        if not len(live):
            break
    end = grid.ends[start]
    drained, out = grid.sinks.ravel()[end], grid.leaving.ravel()[end]
    xs, ys = grid.middles()
    rows, columns = np.unravel_index(end, grid.heights.shape)
    places.append(np.column_stack([xs[columns], ys[rows]])[drained])
    which.append(np.flatnonzero(drained))
    order = np.argsort(np.concatenate(which), kind="stable")
    drops = np.concatenate(which)[order]
    known, counts = np.unique(drops, return_counts=True)
    long = np.isin(drops, known[counts > 1])
    drops, line = drops[long], np.concatenate(places)[order][long]
    # Across a fold the steps go to and fro; what is drawn is the line between them.
    inner = np.zeros(len(drops), dtype=bool)
    inner[1:-1] = (drops[1:-1] == drops[:-2]) & (drops[1:-1] == drops[2:])
    between = np.where(
        inner[:, None], (np.roll(line, 1, 0) + 2 * line + np.roll(line, -1, 0)) / 4, line
    )
    known, nth = np.unique(drops, return_inverse=True)
    lines = shapely.simplify(shapely.linestrings(between, indices=nth), STEP / 3)
    found = []
    for i, path in zip(known, lines, strict=True):
        coordinates = np.round(shapely.get_coordinates(path), 1).tolist()
        points = tuple((x, y) for x, y in coordinates)
        ends: Literal["drain", "out", "stands"] = (
            "drain" if drained[i] else "out" if out[i] else "stands"
        )
        found.append(Runoff(points=points, ends=ends))
    return tuple(found)


def _starts(surface: Surface) -> Array:
    left, bottom, right, top = surface.outline.bounds
    apart = max(DROPS_APART, max(right - left, top - bottom) / 9)
    columns, rows = (max(int(size / apart), 1) for size in (right - left, top - bottom))
    xs = left + (np.arange(columns) + 0.5) * (right - left) / columns
    ys = bottom + (np.arange(rows) + 0.5) * (top - bottom) / rows
    points = np.array([(x + (j % 2 - 0.5) * apart / 2, y) for j, y in enumerate(ys) for x in xs])
    free = shapely.contains_xy(surface.outline, *points.T) & ~shapely.contains_xy(
        surface.rim, *points.T
    )
    kept: Array = points[free]
    return kept
