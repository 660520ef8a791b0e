"""A loose mat laid in strips over the floor: numbers only. Lengths are mm.

The mesh of a mat is cut and turned at the end of each strip, its cable never. Strips lie side by
side along the floor's longest wall or square to it, whichever holds more of it.
"""

from __future__ import annotations

from math import pi
from typing import NamedTuple

import numpy as np
import shapely
from shapely import affinity
from shapely.geometry.base import BaseGeometry

from calm_basin.rules import TRADE
from calm_basin.tolerances import ON_EDGE

SHORTEST = 300.0
"""A strip is not turned into a stretch that is shorter, mm."""

TRIED = 6
"""So many places of the first strip are tried."""

XY = tuple[float, float]


class MatStrip(NamedTuple):
    """A straight strip of mat: its corners on plan, and its length."""

    corners: tuple[XY, ...]
    length: float


class Mats(NamedTuple):
    """The strips of a mat in the order of laying, and how much of it the floor holds."""

    strips: tuple[MatStrip, ...]
    most: float

    @property
    def length(self) -> float:
        """What is laid."""
        return sum(strip.length for strip in self.strips)


def mats(free: BaseGeometry, length: float, width: float, along: float) -> Mats:
    """A mat so long and wide over a floor; what of it is too long is not laid. ``along`` is the way
    of the floor's longest wall, radians."""
    whole = max(
        (_spans(free, width, along + turn, start) for turn in (0.0, pi / 2) for start in _starts()),
        key=lambda spans: round(sum(span.length for span in spans)),
    )
    most, left, laid = sum(span.length for span in whole), length, []
    for span in whole:
        if left <= ON_EDGE:
            break
        part = span if span.length <= left else _shortened(span, left)
        laid.append(part)
        left -= part.length
    return Mats(tuple(laid), most)


def _starts() -> list[float]:
    return [number / TRIED for number in range(TRIED)]


def _spans(free: BaseGeometry, width: float, along: float, start: float) -> list[MatStrip]:
    """Every stretch that a strip of the width fits into, to and fro, row by row. ``start`` is where
    the first row lies, as a share of what is over."""
    turned = affinity.rotate(free, -along, origin=(0, 0), use_radians=True)
    if turned.is_empty:
        return []
    left, low, right, high = turned.bounds
    apart = width + TRADE.heating.mats.value
    over = (high - low + TRADE.heating.mats.value) % apart
    found = []
    y, forth = low + start * over, True
    while y + width <= high + ON_EDGE:
        row = shapely.box(left, y, right, y + width)
        blocked = sorted(
            part.bounds[::2] for part in shapely.get_parts(row.difference(turned.buffer(1e-6)))
        )
        clear = _between(left, right, blocked)
        for x0, x1 in clear if forth else clear[::-1]:
            ends = (x0, x1) if forth else (x1, x0)
            found.append(_strip(ends, (y, y + width), along))
        forth = not forth
        y += apart
    return found


def _between(
    left: float, right: float, blocked: list[tuple[float, float]]
) -> list[tuple[float, float]]:
    clear, at = [], left
    for x0, x1 in [*blocked, (right, right)]:
        if x0 - at >= SHORTEST:
            clear.append((at, x0))
        at = max(at, x1)
    return clear


def _strip(xs: tuple[float, float], ys: tuple[float, float], along: float) -> MatStrip:
    corners = np.array([(xs[0], ys[0]), (xs[1], ys[0]), (xs[1], ys[1]), (xs[0], ys[1])])
    c, s = np.cos(along), np.sin(along)
    back = corners @ np.array([[c, s], [-s, c]])
    return MatStrip(tuple((float(x), float(y)) for x, y in back), abs(xs[1] - xs[0]))


def _shortened(strip: MatStrip, length: float) -> MatStrip:
    """The beginning of a strip."""
    a, b, c, d = (np.array(corner) for corner in strip.corners)
    share = length / strip.length
    ends = (a, a + (b - a) * share, d + (c - d) * share, d)
    return MatStrip(tuple((float(x), float(y)) for x, y in ends), length)
