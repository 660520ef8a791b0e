"""How far apart the runs of a cable lie, so that it ends where it should: numbers only."""

from __future__ import annotations

from math import ceil, inf
from typing import NamedTuple

import numpy as np
from shapely.geometry.base import BaseGeometry

from calm_basin.core.heating.route import Cover, cover


class CableFit(NamedTuple):
    """How far apart the runs of a cable lie, with what they cover; ``short`` where the cable is too
    short even for runs as far apart as may be, ``long`` where it is too long for the nearest.
    ``least`` and ``most`` are the lengths that the floor takes, mm; no most where that is more than
    any cable has."""

    over: Cover
    short: bool
    long: bool
    least: float
    most: float


def fit(
    floor: BaseGeometry, length: float, turn: float, least: float, most: float, stud: float | None
) -> CableFit | None:
    """How far apart the runs of a cable of ``length`` lie that uses it up; None where the floor has
    no room for any."""
    # Runs so near that a cable of any length that is sold lies in a part of the floor tell nothing.
    near = max(least, floor.area / MOST_WAY)
    told = near == least
    if stud is not None:
        steps = np.arange(ceil(least / stud - 1e-9), int(most / stud + 1e-9) + 1) * stud
        distances = [float(step) for step in steps if step >= near]
        distances = distances or [float(step) for step in steps[-1:]]
    else:
        distances = [min(near, most), most]
    laid = [one for one in (cover(floor, apart, turn) for apart in distances) if one]
    if not laid:
        return None
    shortest, longest = min(laid, key=_length), max(laid, key=_length)
    span = shortest.length, longest.length if told else inf
    if length > longest.length:
        return CableFit(longest, False, told, *span)
    if length <= shortest.length:
        return CableFit(shortest, length < shortest.length * KEPT, False, *span)
    best = min((one for one in laid if one.length >= length), key=_length)
    if stud is not None:
        return CableFit(best, False, False, *span)
    return CableFit(_closest(floor, length, best, most), False, False, *span)


def _closest(floor: BaseGeometry, length: float, best: Cover, most: float) -> Cover:
    """Of ways round that are no shorter than ``length`` one that is hardly longer, if it can be."""
    low, high, turn = best.apart, most, best.frame.turn

    def tried(apart: float) -> bool:
        nonlocal best
        one = cover(floor, apart, turn, either=False)
        if one is None or one.length < length:
            return False
        best = min(best, one, key=_length)
        return True

    for number in range(TRIES):
        if best.length <= length * (1 + CLOSE):
            return best
        # A way round is about as much longer as its runs are nearer; failing that, halve.
        guess = best.apart * best.length / length if number % 2 == 0 else 0.0
        middle = guess if low < guess < high else (low + high) / 2
        if tried(middle):
            low = middle
        else:
            high = middle
    # It grows by leaps, and not always the farther apart the shorter: what is near is looked at.
    for step in np.linspace(best.apart, min(best.apart * NEAR, most), TRIES + 1)[1:]:
        if best.length <= length * (1 + CLOSE):
            break
        tried(float(step))
    return best


def span(
    floor: BaseGeometry, turn: float, least: float, most: float, stud: float | None
) -> tuple[float, float] | None:
    """The lengths of cable that a floor takes, mm; None where it has no room for any."""
    found = fit(floor, inf, turn, least, most, stud)
    return (found.least, found.most) if found else None


def _length(one: Cover) -> float:
    return one.length


MOST_WAY = 600_000.0
"""Twice as long as any cable, mm: no floor is larger than so long a way round it covers."""

TRIES = 8
"""So often a distance between runs is halved, and so many near the best are looked at then."""

NEAR = 1.08
"""How much farther apart runs are looked at, where halving found nothing close."""

CLOSE = 0.005
"""A way round that is longer than the cable by no more than this share is taken."""

KEPT = 0.98
"""A cable that leaves more of the floor cold than the rest of this share is too short for it."""
