"""The line along which the section cuts the room."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
import shapely
from shapely.geometry import LineString, Point, Polygon

from calm_basin.core.falls import Ring
from calm_basin.core.geometry.surface import Array

Stretch = tuple[float, float]


@dataclass(frozen=True)
class Cut:
    """A straight cut on plan: ``start``, unit vector ``along`` and ``length`` in mm."""

    start: Array
    along: Array
    length: float

    @property
    def line(self) -> LineString:
        return LineString([self.start, self.start + self.along * self.length])

    def spans(self, shape: Polygon) -> list[Stretch]:
        """Stretches of the cut that lie inside a shape, as distances along it."""
        inside = self.line.intersection(shape)
        pieces = [p for p in shapely.get_parts(inside) if isinstance(p, LineString)]
        spans = []
        for piece in pieces:
            reach = (shapely.get_coordinates(piece) - self.start) @ self.along
            if len(reach) and np.ptp(reach) > 1e-6:
                spans.append((float(reach.min()), float(reach.max())))
        return sorted(spans)

    def shadow(self, shape: Polygon) -> Stretch:
        """How far a shape reaches along the cut, which may go beside it."""
        reach = (shapely.get_coordinates(shape) - self.start) @ self.along
        low, high = np.clip([reach.min(), reach.max()], 0.0, self.length)
        return (float(low), float(high))

    def at(self, distances: Array) -> Array:
        """Points on plan at distances along the cut, shape (n, 2)."""
        points: Array = self.start + distances[:, None] * self.along
        return points


def main_cut(ring: Ring, room: Polygon, rim: Array) -> Cut:
    """The cut through entry and drain, room side first.

    It runs straight in from the entry where it meets the drain so; else from the middle of the
    widest entry to the drain.
    """
    centre = rim.mean(axis=0)
    far = 4 * max(np.ptp(shapely.get_coordinates(room), axis=0).max(), 1.0)
    straight = LineString([centre - ring.inward * far, centre + ring.inward * far])
    along = ring.inward
    entries = [LineString(ring.edge(i)) for i in sorted(ring.entries)]
    if not any(straight.intersects(entry) for entry in entries):
        widest = max(entries, key=lambda entry: entry.length)
        middle = shapely.get_coordinates(widest).mean(axis=0)
        if np.linalg.norm(centre - middle) > 1:
            along = (centre - middle) / np.linalg.norm(centre - middle)
    whole = LineString([centre - along * far, centre + along * far]).intersection(room)
    pieces = [p for p in shapely.get_parts(whole) if isinstance(p, LineString)]
    if not pieces:
        return Cut(centre, along, 1.0)
    through = min(pieces, key=lambda piece: piece.distance(Point(centre)))
    reach = (shapely.get_coordinates(through) - centre) @ along
    return Cut(centre + along * reach.min(), along, float(np.ptp(reach)))


def cut_along(room: Polygon, start: tuple[float, float], end: tuple[float, float]) -> Cut:
    """The cut along a line that somebody laid, as long as the room is there."""
    first, last = np.array(start), np.array(end)
    length = float(np.hypot(*(last - first)))
    along = (last - first) / length if length > 1 else np.array([1.0, 0.0])
    far = 4 * max(np.ptp(shapely.get_coordinates(room), axis=0).max(), 1.0)
    whole = LineString([first - along * far, first + along * far]).intersection(room)
    if whole.is_empty:
        return Cut(first, along, max(length, 1.0))
    reach = (shapely.get_coordinates(whole) - first) @ along
    return Cut(first + along * reach.min(), along, max(float(np.ptp(reach)), 1.0))


def without(spans: list[Stretch], holes: list[Stretch]) -> list[Stretch]:
    """Stretches of ``spans`` that no hole covers."""
    left = []
    for low, high in spans:
        for start, end in sorted(holes):
            if low < start < high and start - low > 1e-6:
                left.append((low, start))
            if end > low:
                low = min(max(low, end), high) if start < high else low
        if high - low > 1e-6:
            left.append((low, high))
    return left
