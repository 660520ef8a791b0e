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


def tile_rule(words: Words, folds: tuple[Fold, ...]) -> str:
    """How the computed tile stands to the rule of thumb, in words."""
    if not folds:
        return ""
    rule = thumb()
    least = min(largest_uncut(fold.angle, lippage(0.0).value) for fold in folds)
    than = "sharper than" if least < rule.value else "looser than"
    return f"This floor is {than} the rule of thumb, {words.length(rule.value)} ({rule.source})."


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
