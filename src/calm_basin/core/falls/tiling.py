"""Tile on the floor's folds: how large a tile may lie across one uncut."""

from __future__ import annotations

from math import atan2, cos, degrees, radians, sin

import numpy as np

from calm_basin.core.answer.words import Words
from calm_basin.core.falls import ring_of
from calm_basin.core.falls.result import FoldLine
from calm_basin.core.geometry.surface import Array, Fold
from calm_basin.plan import Plan
from calm_basin.plan.shower import Tile
from calm_basin.rules import TRADE
from calm_basin.tolerances import NAMED_ALIKE


def largest_uncut(angle: float, permitted: float) -> float:
    """Largest extent of a flat tile, mm square to a fold, that may lie across it.

    A flat tile across a fold lies on one of the two planes and stands off the other; it tips over
    to the other plane once more than half of it lies there. So at worst half the tile stands off,
    and at its edge by ``a/2 · sin(angle)``, which is the lippage to the next tile.

    Parameters
    ----------
    angle : float
        By how much the floor turns at the fold, radians.
    permitted : float
        Permitted lippage, mm.
    """
    return 2 * permitted / sin(angle)


def extent_across(tile: Tile, fold: Fold, entry: Array) -> float:
    """How far a tile reaches square to a fold, mm: a tile that lies askew to it reaches farther.

    ``entry`` is the unit vector along the entry, to which the tile is laid.
    """
    laid = atan2(entry[1], entry[0]) + radians(tile.turn)
    along = atan2(fold.end[1] - fold.start[1], fold.end[0] - fold.start[0]) - laid
    return tile.length * abs(sin(along)) + tile.width * abs(cos(along))


def is_cut(tile: Tile, fold: Fold, entry: Array) -> bool:
    """Whether tile is cut along a fold: it is larger than practice lays across folds, and reaches
    farther than the lippage limit leaves uncut. ``entry`` as in `extent_across`."""
    by_practice = max(tile.length, tile.width) > TRADE.tiling.thumb.value + NAMED_ALIKE
    largest = largest_uncut(fold.angle, TRADE.tiling.lippage_over(tile.joint).value)
    return by_practice and extent_across(tile, fold, entry) > largest + 1e-6


def tile_notes(plan: Plan, words: Words, folds: tuple[Fold, ...]) -> tuple[str, ...]:
    """What the folds ask of tile by practice and by the lippage limit, and what of the tile that
    was chosen, in words."""
    if not folds:
        return ("One plane: tile of any size lies flat on it.",)
    lines = [fold_line(plan, words, fold) for fold in folds]
    least = min(lines, key=lambda line: line.tile)
    rule = TRADE.tiling.thumb
    notes = [
        f"The floor turns {least.angle_text} at its sharpest fold. By practice tile with sides "
        f"of up to {words.length(rule.value)} lies across it uncut ({rule.source}); by the lippage "
        f"limit a tile may reach {least.tile_text}, measured square to the fold.",
    ]
    if plan.shower.tile is not None:
        notes.append(_chosen(words, lines, TRADE.tiling.lippage_over(plan.shower.tile.joint).value))
    return tuple(notes)


def _chosen(words: Words, lines: list[FoldLine], permitted: float) -> str:
    """What the folds ask of the tile that was chosen."""
    cuts = sum(line.cut for line in lines)
    worst = max(lines, key=lambda line: line.reach / line.tile)
    reach = f"it reaches {words.length(worst.reach, 'up')} square to the fold"
    if cuts:
        return (
            f"Cut this tile along {cuts} {'fold' if cuts == 1 else 'folds'}, marked on the chart: "
            f"{reach}, where the lippage limit leaves {worst.tile_text} uncut."
        )
    if worst.reach <= worst.tile + 1e-6:
        return f"This tile follows every fold uncut: at the worst one {reach}."
    stands = permitted * worst.reach / worst.tile
    return (
        f"By practice this tile follows every fold uncut, but at the worst one {reach} and may "
        f"stand off by {words.length(stands, 'up')}, more than the lippage limit of "
        f"{words.limit(permitted)}: cut it there, or take smaller tile."
    )


def fold_line(plan: Plan, words: Words, fold: Fold) -> FoldLine:
    """A fold with what it asks of the tile."""
    tile = plan.shower.tile
    lippage = TRADE.tiling.lippage_over(tile.joint if tile else 0.0)
    largest = largest_uncut(fold.angle, lippage.value)
    inward = ring_of(plan.shower).inward
    entry = np.array([inward[1], -inward[0]])
    reach = extent_across(tile, fold, entry) if tile else 0.0
    return FoldLine(
        start=(fold.start[0], fold.start[1]),
        end=(fold.end[0], fold.end[1]),
        gradient=fold.gradient,
        text=words.fall(fold.gradient),
        angle=degrees(fold.angle),
        angle_text=f"{degrees(fold.angle):.1f}°",
        valley=fold.valley,
        tile=largest,
        tile_text=words.length(largest, "down"),
        reach=reach,
        cut=tile is not None and is_cut(tile, fold, entry),
    )
