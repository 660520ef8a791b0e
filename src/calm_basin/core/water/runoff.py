"""What the water does on the planned floor: where it runs, gathers, stands and leaves."""

from __future__ import annotations

from typing import Literal

import numpy as np
import scipy
import shapely

from calm_basin.core.answer.build import figure
from calm_basin.core.answer.result import Figure
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import door_edges, ring_of
from calm_basin.core.geometry.drops import DRAIN, OUT, STANDS, DropWays, Exit, Net
from calm_basin.core.geometry.ponds import Pond, ponds
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.core.water.pipes import capacities, flow_of
from calm_basin.core.water.result import Gathering, Puddle, Runoff, WaterResult
from calm_basin.plan import Plan
from calm_basin.plan.places import belong
from calm_basin.rules import TRADE
from calm_basin.tolerances import UNSEEN

FLOOR = "Geometry of the floor"

GATHERED = 30.0
"""Water that comes over a rim within this distance, mm, comes there together."""

LEAST_GATHERING = 0.08
"""A smaller share of the water is no place to look at."""

LEAST_SHARE = 2e-3
"""A smaller share of the water is rounding."""

DROPS_APART = 130.0
"""Distance between the drops whose ways are drawn, mm."""

DROPS = 1500
"""Drops that are let run to measure what comes where: shares are true to about one in a hundred."""

SCATTER = (0.7548776662466927, 0.5698402909980532)
"""Steps of an even scatter of places without rows (the plastic number's powers)."""


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


def water(plan: Plan, words: Words, surface: Surface, *, table: bool = True) -> WaterResult:
    """Let it rain on the planned floor; ``table``: the US code's table of pipes is held to."""
    exits = exits_of(plan)
    net = Net(surface, exits)
    found = [_puddle(words, pond) for pond in ponds(net, UNSEEN)]
    rain = _scattered(plan, surface)
    drops = net.run(rain)
    rims = float(surface.rim.area)
    whole = float(surface.outline.area)
    standing_share = float((drops.ends == STANDS).mean())
    lost = float((drops.ends == OUT).mean()) + (standing_share > LEAST_SHARE) * standing_share
    drained = 1 - (whole - rims) * lost / whole
    level_area = sum(float(facet.polygon.area) for facet in surface.facets if facet.level)
    # Where the rest falls to the zone, the shower's water leaves it by running into the rest.
    out = drops.left if plan.shower.rest is not None else drops.ends == OUT
    own = belong(ring_of(plan.shower).polygon, rain)
    share = float(out[own].mean()) if own.any() else 0.0
    crosses = share > LEAST_SHARE
    across = "the zone's edge" if plan.shower.rest else "the entry"
    spill = spill_level(plan, surface)
    (held, seconds), flow = hold(plan, surface), flow_of(plan.water)
    verdict = "Every drop reaches the drain"
    if found:
        verdict = f"Water stands {found[0].text}"
    elif level_area > 0:
        verdict = "Water lies on a level part"
    elif crosses:
        verdict = f"Water runs from the shower across {across}"
    elif lost > LEAST_SHARE:
        verdict = f"{_share(1 - drained)} of the water reaches no drain"
    return WaterResult(
        puddles=tuple(found),
        level_area=level_area,
        level_text=""
        if level_area <= 0
        else f"{words.patch(level_area)} is level: a film stays on it",
        runs=_runs(surface, net),
        gatherings=_gatherings(drops, rims / whole),
        crosses=crosses,
        crossing_text=f"{_share(share)} of the shower's water crosses {across}"
        if crosses
        else f"no water runs from the shower across {across}",
        drained=figure(
            "Reaches the drain",
            drained,
            _share(drained),
            "area whose water ends in a drain ÷ area of the floor",
            [("floor", words.patch(whole)), ("drops let run", str(len(rain)))],
            unit="share",
            source=FLOOR,
        ),
        holds=_held(plan, words, surface, spill, held),
        overflow=_overflow(plan, words, held, flow, seconds),
        flow=figure(
            "All heads together",
            flow,
            words.flow(flow),
            "sum of what the heads give",
            [(head.name, words.flow(head.flow_l_min)) for head in plan.water.heads],
            unit="litre_per_minute",
            source=FLOOR,
        ),
        capacities=capacities(plan.water, words, table=table),
        verdict=verdict,
        clear=not found and level_area <= 0 and not crosses and lost <= LEAST_SHARE,
    )


def _scattered(plan: Plan, surface: Surface) -> Array:
    """Places all over the floor, drains left out, even and without rows, shape (n, 2).

    They lie by the entry and not by the axes: a room that is turned has the same ones.
    """
    inward = ring_of(plan.shower).inward
    across = np.array([inward[1], -inward[0]])
    frame = np.column_stack([across, inward])
    corners = shapely.get_coordinates(surface.outline) @ frame
    low, size = corners.min(axis=0), np.ptp(corners, axis=0)
    count = int(DROPS * float(np.prod(size)) / float(surface.outline.area))
    shares = np.outer(np.arange(1, count + 1), SCATTER) % 1
    places = (low + shares * size) @ frame.T
    on = shapely.contains_xy(surface.outline, *places.T)
    kept: Array = places[on & ~shapely.contains_xy(surface.rim, *places.T)]
    return kept


def _share(share: float) -> str:
    """A share that was measured on drops: whole only where it is."""
    if share in (0.0, 1.0):
        return f"{share:.0%}"
    return f"{min(max(share, 0.01), 0.99):.0%}"


def hold(plan: Plan, surface: Surface) -> tuple[float | None, float | None]:
    """Litres that stand on a floor whose drain is blocked, and seconds until it runs over; None
    where nothing lets water out, or no head runs."""
    spill, flow = spill_level(plan, surface), flow_of(plan.water)
    held = None if spill is None else surface.held(spill)
    return held, None if held is None or flow <= 0 else held / flow * 60


def reserve(plan: Plan, words: Words, surface: Surface) -> str:
    """What a floor without a kerb holds with its drain blocked, in words."""
    (held, seconds), flow = hold(plan, surface), flow_of(plan.water)
    if held is None:
        return "No door or entry lets water out of this floor as it is drawn."
    where = "the door" if plan.shower.rest else "the entry"
    after = "no shower head is set"
    if seconds is not None:
        after = f"it runs over {where} in {seconds:.0f} s"
    return (
        f"With the drain blocked the floor holds {words.volume(held)}: at {words.flow(flow)} "
        f"{after}. A level-access floor has almost no reserve."
    )


def flood_weight(surface: Surface, words: Words) -> str:
    """What the water of a flood test puts on the floor, in words."""
    deep = TRADE.practice.flood_depth.value
    load = float(surface.outline.area) * deep / 1e6
    return (
        f"A flood test {words.length(deep)} deep over the whole floor puts about "
        f"{words.weight(load)} "
        "on it: make sure the floor carries that, and never leave it unwatched."
    )


def _puddle(words: Words, pond: Pond) -> Puddle:
    litres = pond.volume / 1e6
    return Puddle(
        x=pond.at[0],
        y=pond.at[1],
        depth=pond.depth,
        area=pond.area,
        litres=litres,
        text=f"{words.length(pond.depth, 'up')} deep over {words.patch(pond.area)}, "
        f"{words.volume(litres, 2)}",
    )


def _held(
    plan: Plan, words: Words, surface: Surface, spill: float | None, held: float | None
) -> Figure:
    where = "the lowest place of the doors" if plan.shower.rest else "the lowest place of the entry"
    deepest = None if spill is None else spill + surface.drop
    return figure(
        "Holds with the drain blocked",
        held,
        "—" if held is None else words.volume(held),
        f"volume between the floor and a level through {where}, plane by plane",
        []
        if deepest is None
        else [
            ("water over the drain", words.length(deepest)),
            ("weighs", words.weight(held or 0, 1)),
        ],
        unit="litre",
        source=FLOOR,
        note="Without a kerb there is almost no reserve: keep the drain clean.",
    )


def _overflow(
    plan: Plan, words: Words, held: float | None, flow: float, seconds: float | None
) -> Figure:
    where = "door" if plan.shower.rest else "entry"
    return figure(
        f"Runs over the {where} after",
        seconds,
        "—" if seconds is None else f"{seconds:.0f} s",
        "time = what the floor holds ÷ what the heads give",
        [] if held is None else [("holds", words.volume(held)), ("heads", words.flow(flow))],
        unit="second",
        source=FLOOR,
    )


def _gatherings(drops: DropWays, rims: float) -> tuple[Gathering, ...]:
    """Where most of the water comes over a rim; ``rims`` is the drains' own share of the floor."""
    places = drops.at[drops.ends == DRAIN]
    each = (1 - rims) / max(len(drops.at), 1)
    found: list[Gathering] = []
    while len(places):
        together = scipy.spatial.cKDTree(places).query_ball_point(
            places, GATHERED, return_length=True
        )
        most = places[int(np.argmax(together))]
        apart = np.hypot(*(places - most).T)
        share = float((apart <= GATHERED).sum()) * each
        if share < LEAST_GATHERING or len(found) == 6:
            break
        x, y = places[apart <= GATHERED].mean(axis=0)
        found.append(Gathering(x=float(x), y=float(y), share=share, text=f"{share:.0%}"))
        places = places[apart >= 2 * GATHERED]
    return tuple(found)


def _runs(surface: Surface, net: Net) -> tuple[Runoff, ...]:
    """Ways of drops that start all over the floor."""
    ways = net.run(_starts(surface), paths=True)
    ends: dict[int, Literal["drain", "out", "stands"]] = {
        DRAIN: "drain",
        OUT: "out",
        STANDS: "stands",
    }
    found = []
    for end, path in zip(ways.ends.tolist(), ways.paths, strict=True):
        points = tuple(dict.fromkeys((round(x, 1), round(y, 1)) for x, y in path))
        if len(points) > 1:
            found.append(Runoff(points=points, ends=ends[end]))
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
