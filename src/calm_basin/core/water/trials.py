"""Floors as hands make them: the planned floor with errors, and the puddles that come of them."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from math import ceil, pi, sqrt

import numpy as np
import scipy
from numpy.typing import NDArray

from calm_basin.core.answer.words import Words
from calm_basin.core.falls import surface_of
from calm_basin.core.geometry.grid import Grid, grid_of
from calm_basin.core.geometry.surface import Array
from calm_basin.core.water.result import TrialResult, TrialRow
from calm_basin.core.water.runoff import exits_of
from calm_basin.core.water.settings import TrialSettings
from calm_basin.plan import Plan

FALLS = (1 / 100, 1 / 80, 1 / 60, 1 / 50, 1 / 40)
"""Falls that are tried beside the planned one."""

TRIAL_CELLS = 15_000
"""A floor has at most about this many cells, so that hundreds of floors take seconds."""

SMOOTH = 8.0
"""Cells of a Gaussian's standard deviation from which on fewer cells say the same."""

WITHIN = 1.96
"""Standard deviations on either side of the mean between which 95 % of a normal error lies."""


@dataclass
class _Tried:
    """The floors of one fall: its cells, per cell the nearest one of a drain and how alike their
    errors are, and what was found in each floor."""

    fall: float
    grid: Grid
    nearest: tuple[NDArray[np.intp], ...]
    alike: Array
    depths: list[float]
    litres: list[float]


def error_field(
    shape: tuple[int, int], spacing: float, tolerance: float, correlation: float, seed: list[int]
) -> Array:
    """Heights off the plan, mm, of a floor that was made by hand.

    White noise under a Gaussian of standard deviation ``correlation / 2``: the correlation of two
    places r apart is ``exp(−(r / correlation)²)``, and the spread is set by ``tolerance``.

    Parameters
    ----------
    shape : (rows, columns)
    spacing, tolerance, correlation : float
        Millimetres.
    seed : list of int
        The same seed gives the same floor.
    """
    spread = correlation / 2 / spacing
    if spread > SMOOTH:
        # A field as smooth as this is made on fewer cells and drawn out between them.
        step = spread / SMOOTH
        few = (ceil(shape[0] / step) + 4, ceil(shape[1] / step) + 4)
        made = error_field(few, spacing * step, tolerance, correlation, seed)
        rows, columns = np.meshgrid(*(np.arange(n) / step + 1 for n in shape), indexing="ij")
        drawn: Array = scipy.ndimage.map_coordinates(made, [rows, columns], order=3, mode="nearest")
        return drawn
    margin = int(4 * spread) + 1
    rng = np.random.default_rng(seed)
    white = rng.standard_normal((shape[0] + 2 * margin, shape[1] + 2 * margin))
    smooth = scipy.ndimage.gaussian_filter(white, spread, mode="wrap")
    # The square of a Gaussian kernel sums to 1 / (4 π σ²).
    smooth *= 2 * sqrt(pi) * spread * tolerance / WITHIN
    field: Array = smooth[margin : margin + shape[0], margin : margin + shape[1]]
    return field


def trials(plan: Plan, words: Words, settings: TrialSettings) -> Iterator[TrialResult]:
    """Make floors one after the other and say after each what came of them so far.

    Every fall is tried with the same errors, so that falls can be compared. Raises
    `NoSurfaceError` where the planned floor cannot be worked out.
    """
    asked = plan.shower.built_fall
    tried = [
        _tried(plan, fall, settings)
        for fall in sorted({*(f for f in FALLS if abs(f / asked - 1) > 0.02), asked})
    ]
    for i in range(settings.floors):
        first = tried[0].grid
        error = error_field(
            first.heights.shape,
            first.spacing,
            settings.tolerance,
            settings.correlation,
            [settings.seed, i],
        )
        for one in tried:
            depth, litres = _standing(one, error)
            one.depths.append(depth)
            one.litres.append(litres)
        rows = [_row(one, words, settings, asked) for one in tried]
        yield TrialResult(
            done=i + 1,
            floors=settings.floors,
            rows=tuple(rows),
            sentence=_sentence(rows, words, settings),
        )


def _tried(plan: Plan, fall: float, settings: TrialSettings) -> _Tried:
    changed = plan.model_copy(update={"shower": plan.shower.falling(fall)})
    surface = surface_of(changed)
    coarse = sqrt(surface.outline.area / TRIAL_CELLS)
    spacing = max(10.0, min(settings.correlation / 8, 20.0), coarse)
    grid = grid_of(surface, exits_of(changed), spacing)
    apart, nearest = scipy.ndimage.distance_transform_edt(~grid.sinks, spacing, return_indices=True)
    alike = np.exp(-((apart / settings.correlation) ** 2))
    return _Tried(fall, grid, tuple(nearest), alike, [], [])


def _standing(one: _Tried, error: Array) -> tuple[float, float]:
    """Depth of the deepest puddle, mm, and litres of all of them.

    A floor is made from the rim outwards: there it has no error, and near it little.
    """
    grid = one.grid
    z = grid.heights + error - error[one.nearest] * one.alike
    depths = np.where(grid.floor, grid.filled(z) - np.where(grid.floor, z, 0.0), 0.0)
    return float(depths.max()), float((depths * grid.areas).sum()) / 1e6


def _row(one: _Tried, words: Words, settings: TrialSettings, asked: float) -> TrialRow:
    depths, litres = np.array(one.depths), np.array(one.litres)
    holding = float((depths > settings.limit).mean())
    depth, volume = float(np.quantile(depths, 0.95)), float(np.quantile(litres, 0.95))
    return TrialRow(
        fall=one.fall,
        fall_text=words.fall(one.fall),
        planned=one.fall == asked,
        holding=holding,
        holding_text=_one_in(holding, len(depths)),
        depth=depth,
        depth_text=words.length(depth, "up"),
        litres=volume,
        litres_text=f"{1000 * volume:.0f} mL",
    )


def _one_in(share: float, floors: int) -> str:
    """A share of floors in words."""
    if share == 0:
        return f"none of {floors}"
    if share == 1:
        return "every floor"
    if share > 0.55:
        return f"{10 * share:.0f} floors in 10" if share < 0.95 else "nearly every floor"
    return f"1 floor in {round(1 / share)}"


def _sentence(rows: list[TrialRow], words: Words, settings: TrialSettings) -> str:
    planned = next(row for row in rows if row.planned)
    depth = words.length(settings.limit)
    if planned.holding == 0:
        said = f"At {planned.fall_text} {planned.holding_text} floors holds"
    else:
        said = f"At {planned.fall_text} {planned.holding_text} holds"
    said += f" a puddle deeper than {depth}"
    steeper = [row for row in rows if row.fall > planned.fall and row.holding < planned.holding / 2]
    if steeper:
        said += f"; at {steeper[0].fall_text} {steeper[0].holding_text}"
    return f"{said}."
