"""Screed pins cut to whole units, all together, so that no two neighbours are turned round."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
import scipy
import shapely
from numpy.typing import NDArray

from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.tolerances import ROUNDED, SAME_PLACE

REACH = 1.5
"""Pins so many spacings apart are neighbours still: a grid's diagonals are shorter."""

TURNED, LOST = 1e4, 4.0
"""What it costs to turn a pair round, and to lose half of its fall, against a pin one unit off."""

SECONDS = 5.0
"""How long is looked for the best rounding; what was found by then is taken."""


class PinCut(NamedTuple):
    """Pin heights in whole units: ``heights`` (n,), mm; ``turned`` pairs (higher by plan, lower)
    that no rounding keeps."""

    heights: Array
    turned: list[tuple[int, int]]


def neighbours(places: Array, surface: Surface, spacing: float) -> list[tuple[int, int]]:
    """Pairs of pins between which a straightedge is drawn: the edges of their Delaunay mesh, and
    all that lie within a grid's diagonal of each other, so far as the floor goes on between them.
    """
    near = scipy.spatial.cKDTree(places).query_pairs(REACH * spacing, output_type="ndarray")
    pairs = {(int(a), int(b)) for a, b in np.sort(near)}
    try:
        corners = scipy.spatial.Delaunay(places).simplices
        for a, b in ((0, 1), (1, 2), (2, 0)):
            pairs |= {(int(i), int(j)) for i, j in np.sort(corners[:, [a, b]])}
    except (scipy.spatial.QhullError, ValueError):
        pass  # Fewer than three pins, or all on one line: those within reach are all there are.
    ordered = sorted(pairs)
    if not ordered:
        return []
    lines = shapely.linestrings(places[np.array(ordered)])
    floor = surface.outline.buffer(SAME_PLACE)
    shapely.prepare(floor)
    kept = shapely.covers(floor, lines)
    return [pair for pair, keep in zip(ordered, kept, strict=True) if keep]


def cut_to_units(
    pairs: list[tuple[int, int]], tops: Array, bases: Array, unit: float, least: Array
) -> PinCut:
    """Pin heights cut to whole units.

    No pin is more than a unit off its planned height nor below the least that stands there; of two
    neighbours the one that lies higher by plan is not the lower one; level neighbours on one base
    stay level. Of all such roundings the one nearest to the plan is taken that keeps most falls.
    Where there is none, as few pairs as can be are turned, and told.

    Parameters
    ----------
    pairs : list of (int, int)
        Neighbours, as `neighbours` gives them.
    tops, bases : ndarray, shape (n,)
        Planned levels of the bed and levels of what the pins stand on, mm.
    unit : float
        What the installer measures in, mm.
    least : ndarray, shape (n,)
        Least height of each pin, mm.

    Notes
    -----
    An integer problem of differences: a pin is its lower choice plus steps of a unit. scipy's
    branch and bound over HiGHS; its relaxation is integral but for pairs that cannot be kept.
    """
    ideal = (tops - bases) / unit
    floor = np.ceil(least / unit - 1e-9)
    low = np.maximum(np.ceil(ideal - 1 - 1e-9), floor)
    high = np.maximum(np.floor(ideal + 1 + 1e-9), low)
    group = _level_groups(pairs, tops, bases)
    count = int(group.max()) + 1 if len(group) else 0
    first = np.zeros(count, dtype=int)
    first[group[::-1]] = np.arange(len(group))[::-1]
    low, high, ideal = low[first], high[first], ideal[first]
    steps = (high - low).astype(int)
    most = int(steps.max(initial=0))
    # Each step of a pin has its own cost: they rise, so the lower steps are taken first.
    owner = np.repeat(np.arange(count), steps)
    nth = np.concatenate([np.arange(s) for s in steps]) if most else np.zeros(0)
    at = low[owner] + nth
    cost = np.abs(at + 1 - ideal[owner]) - np.abs(at - ideal[owner])
    rows = _rows(pairs, tops, bases, unit, group)
    kept = len(rows.high)
    matrix = _difference_matrix(owner, rows, count)
    whole = scipy.sparse.hstack([matrix, scipy.sparse.eye_array(kept)]).tocsr()
    wanted = rows.wanted - (low[rows.high] - low[rows.low])
    chosen = low.copy()
    # Where every pin has one height there is nothing to choose.
    if len(owner):
        result = scipy.optimize.milp(
            np.concatenate([cost, rows.weight]),
            integrality=np.concatenate([np.ones(len(owner)), np.zeros(kept)]),
            bounds=scipy.optimize.Bounds(
                0, np.concatenate([np.ones(len(owner)), np.full(kept, np.inf)])
            ),
            constraints=[scipy.optimize.LinearConstraint(whole, wanted, np.inf)] if kept else [],
            options={"time_limit": SECONDS},
        )
        if result.x is not None:
            np.add.at(chosen, owner, np.round(result.x[: len(owner)]))
        else:
            chosen = np.clip(np.round(ideal), low, high)
    heights = chosen[group] * unit
    real = bases + heights
    turned = [
        (a, b) if tops[a] > tops[b] else (b, a)
        for a, b in pairs
        if abs(tops[a] - tops[b]) > ROUNDED
        and (real[a] - real[b]) * np.sign(tops[a] - tops[b]) < -ROUNDED
    ]
    return PinCut(heights, turned)


class _Rows(NamedTuple):
    """Differences that are wanted: ``high`` − ``low`` of two groups at least so many units."""

    high: NDArray[np.intp]
    low: NDArray[np.intp]
    wanted: Array
    weight: Array


def _rows(
    pairs: list[tuple[int, int]], tops: Array, bases: Array, unit: float, group: NDArray[np.intp]
) -> _Rows:
    found = []
    for a, b in pairs:
        planned = tops[a] - tops[b]
        high, low = (a, b) if planned > 0 else (b, a)
        planned = abs(planned)
        if planned <= ROUNDED or group[a] == group[b]:
            continue
        apart = (bases[low] - bases[high]) / unit
        not_turned = float(np.ceil(apart - 1e-9))
        half = float(np.ceil(apart + min(planned / unit, 1.0) / 2 - 1e-9))
        # The steeper a pair is by plan and the farther it would turn, the dearer.
        turned_by = apart - (not_turned - 1) + min(planned / unit, 1.0)
        found.append((group[high], group[low], not_turned, TURNED * (turned_by**2 + 1e-3)))
        if half > not_turned:
            found.append((group[high], group[low], half, LOST))
    if not found:
        none = np.zeros(0, dtype=int)
        return _Rows(none, none, np.zeros(0), np.zeros(0))
    table = np.array(found, dtype=float)
    return _Rows(table[:, 0].astype(int), table[:, 1].astype(int), table[:, 2], table[:, 3])


def _difference_matrix(owner: NDArray[np.intp], rows: _Rows, count: int) -> scipy.sparse.coo_array:
    kept = len(rows.high)
    signs = scipy.sparse.coo_array(
        (
            np.concatenate([np.ones(kept), -np.ones(kept)]),
            (np.tile(np.arange(kept), 2), np.concatenate([rows.high, rows.low])),
        ),
        shape=(kept, count),
    )
    parts = scipy.sparse.coo_array(
        (np.ones(len(owner)), (owner, np.arange(len(owner)))), shape=(count, len(owner))
    )
    return scipy.sparse.coo_array(signs.tocsr() @ parts.tocsr())


def _level_groups(pairs: list[tuple[int, int]], tops: Array, bases: Array) -> NDArray[np.intp]:
    """Which pins are cut alike: neighbours at one level on one base, shape (n,)."""
    level = [
        (a, b)
        for a, b in pairs
        if abs(tops[a] - tops[b]) <= ROUNDED and abs(bases[a] - bases[b]) <= ROUNDED
    ]
    links = np.array(level, dtype=int).reshape(-1, 2)
    graph = scipy.sparse.coo_array(
        (np.ones(len(links)), (links[:, 0], links[:, 1])), shape=(len(tops),) * 2
    )
    groups: NDArray[np.intp] = scipy.sparse.csgraph.connected_components(graph, directed=False)[1]
    return groups
