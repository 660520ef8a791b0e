"""Where a place is, as a tape finds it, in words."""

from __future__ import annotations

from collections.abc import Sequence

from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.surface import Array
from calm_basin.core.geometry.taping import Check, Taped, walls_of
from calm_basin.plan.base import Outline, Point


def place_text(outline: Outline, place: Point, words: Words) -> str:
    """Where one place of a room is."""
    return place_texts(outline, [place], words)[0]


def place_texts(outline: Outline, places: Array | Sequence[Point], words: Words) -> list[str]:
    """Where places of a room, (n, 2), are."""
    return [from_text(how, words) for how in walls_of(outline).taped(places)]


def from_text(how: Taped, words: Words) -> str:
    """Where a place is, as a tape finds it."""
    first, second = how.first, how.second
    if first.kind == "straight":
        return " and ".join(
            f"{words.bare(one.value)} from corner {one.corner + 1}" for one in (first, second)
        )
    wall = first.wall + 1
    if second.kind == "from":
        return (
            f"{words.bare(first.value)} from wall {wall}, "
            f"{words.bare(second.value)} from wall {second.wall + 1}"
        )
    if how.in_corner:
        return f"in corner {second.corner + 1}"
    if how.on_wall:
        return f"on wall {wall}, {words.bare(second.value)} from corner {second.corner + 1}"
    side = "behind" if how.outside else "from"
    return (
        f"{words.bare(first.value)} {side} wall {wall}, {words.bare(second.value)} along it from "
        f"corner {second.corner + 1}"
    )


def check_text(check: Check | None, names: Sequence[str], words: Words) -> str:
    """The measure that shows a slip; empty where there is none."""
    return "" if check is None else f"{words.bare(check.value)} to {names[check.other]}"
