"""Tile on the floor's folds: how large a tile may lie across one uncut."""

from __future__ import annotations

from math import degrees, sin

from calm_basin.core.solution import FoldLine
from calm_basin.core.surface import Fold
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.rules import lippage, thumb


def largest_uncut(angle: float, permitted: float) -> float:
    """Largest flat tile, mm square to a fold, that may lie across it.

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


def tile_notes(plan: Plan, words: Words, folds: tuple[Fold, ...]) -> tuple[str, ...]:
    """What the folds ask of tile, how that stands to the rule of thumb, and what of the tile that
    was chosen, in words."""
    if not folds:
        return ("One plane: tile of any size lies flat on it.",)
    lines = [fold_line(plan, words, fold) for fold in folds]
    least = min(lines, key=lambda line: line.tile)
    rule = thumb()
    than = "sharper" if least.tile < rule.value else "looser"
    notes = [
        f"The floor turns {least.angle_text} at its sharpest fold: uncut, a tile may be "
        f"{least.tile_text} across it.",
        f"That is {than} than the rule of thumb, {words.length(rule.value)} ({rule.source}).",
    ]
    cuts = sum(line.cut for line in lines)
    if plan.shower.tile is not None:
        notes.append(
            f"Cut this tile along {cuts} {'fold' if cuts == 1 else 'folds'}, marked on the chart."
            if cuts
            else "This tile follows every fold uncut."
        )
    return tuple(notes)


def fold_line(plan: Plan, words: Words, fold: Fold) -> FoldLine:
    """A fold with what it asks of the tile."""
    tile = plan.shower.tile
    largest = largest_uncut(fold.angle, lippage(tile.joint if tile else 0.0).value)
    size = max(tile.length, tile.width) if tile else 0.0
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
        cut=size > largest + 1e-6,
    )
