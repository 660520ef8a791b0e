"""The deck cut sheet: where to saw, what goes back between the joists and on what."""

from __future__ import annotations

from functools import lru_cache
from math import ceil
from typing import NamedTuple

import numpy as np
import shapely
from shapely.geometry import LineString, Point, Polygon

from calm_basin.core.geometry.surface import Array
from calm_basin.core.structure.joists import Bays, Timber
from calm_basin.plan.backs import Side
from calm_basin.plan.base import Outline
from calm_basin.plan.floor import JoistFloor
from calm_basin.tolerances import ALONG, AT_WALL

LEAST_PIECE = 20.0
"""A piece of deck that is narrower, mm, is left out."""


class TimberPiece(NamedTuple):
    """A straight timber that is put in: its ends on plan."""

    start: Array
    end: Array

    @property
    def length(self) -> float:
        """mm."""
        return float(np.hypot(*(self.end - self.start)))


class Opened(NamedTuple):
    """What is taken out of a deck and put in: pieces between joists, cleats along them, cleats
    under plates of walls that stand off a joist, timber under the edge of the deck that stays,
    blocking beside the hole, joists that are missing."""

    pieces: tuple[Polygon, ...]
    cleats: tuple[TimberPiece, ...]
    plates: tuple[TimberPiece, ...]
    edges: tuple[TimberPiece, ...]
    blocking: tuple[TimberPiece, ...]
    added: tuple[TimberPiece, ...]


@lru_cache(maxsize=32)
def opened(
    joists: JoistFloor,
    timbers: tuple[Timber, ...],
    room: Outline,
    outline: Outline,
    hole: tuple[float, float],
    blocking: float,
    most_centres: float,
) -> Opened:
    """Open the deck over a shower's outline, with a hole for the drain.

    ``blocking`` is how far timber keeps from the hole's middle along the joists; ``most_centres``
    is how far apart members may stand under the deck, mm.
    """
    zone, bays = Polygon(outline), Bays.of(joists)
    bearing = [t for t in timbers if t.kind in ("joist", "trimmer") or t.top >= 0]
    shapes = shapely.union_all([t.outline for t in bearing]) if bearing else Polygon()
    pieces = tuple(
        part
        for part in shapely.get_parts(zone.difference(shapes))
        if isinstance(part, Polygon) and not part.buffer(-LEAST_PIECE / 2).is_empty
    )
    cleats = tuple(bar for timber in bearing for bar in _sides(timber, bays, zone))
    walls = Polygon(room).exterior.buffer(AT_WALL)
    sides = [Side.of(outline, number) for number in range(len(outline))]
    lines = [LineString([s.start, s.start + s.along * s.length]) for s in sides]
    plates = tuple(
        TimberPiece(*shapely.get_coordinates(line))
        for side, line in zip(sides, lines, strict=True)
        if walls.covers(line) and _unborne(side, line, shapes, bays)
    )
    edges = tuple(bar for line in lines for bar in _open_edges(line, walls, shapes))
    beside = tuple(_beside(np.array(hole), blocking, joists, bays, pieces))
    added = tuple(_added(pieces, bays, most_centres - joists.width))
    return Opened(pieces, cleats, plates, edges, beside, added)


def _bars(line: LineString, zone: Polygon) -> list[TimberPiece]:
    parts = shapely.get_parts(line.intersection(zone))
    ends = [shapely.get_coordinates(p) for p in parts if p.length > LEAST_PIECE]
    return [TimberPiece(e[0], e[-1]) for e in ends]


def _sides(timber: Timber, bays: Bays, zone: Polygon) -> list[TimberPiece]:
    """The two long sides of a timber under a zone."""
    corners = bays.to(shapely.get_coordinates(timber.outline)[:4])
    (u0, v0), (u1, v1) = corners.min(axis=0), corners.max(axis=0)
    if timber.kind == "joist":
        lines = [((u0, v), (u1, v)) for v in (v0, v1)]
    else:
        lines = [((u, v0), (u, v1)) for u in (u0, u1)]
    inside = zone.buffer(1e-6)
    return [bar for line in lines for bar in _bars(LineString(bays.back(np.array(line))), inside)]


def _unborne(side: Side, line: LineString, shapes: Polygon, bays: Bays) -> bool:
    """Whether no joist lies under a side that runs along the joists."""
    middle = line.interpolate(0.5, normalized=True)
    along = abs(float(side.along @ bays.across)) <= ALONG
    return along and (shapes.is_empty or middle.distance(shapes) > AT_WALL)


def _open_edges(line: LineString, walls: Polygon, shapes: Polygon) -> list[TimberPiece]:
    """The stretches of an opening's side, in the room, that lie on no joist."""
    left = line.difference(walls)
    return [
        TimberPiece(ends[0], ends[-1])
        for part in shapely.get_parts(left.difference(shapes) if not shapes.is_empty else left)
        if part.length > LEAST_PIECE
        for ends in [shapely.get_coordinates(part)]
    ]


def _beside(
    hole: Array, away: float, joists: JoistFloor, bays: Bays, pieces: tuple[Polygon, ...]
) -> list[TimberPiece]:
    """Blocking on both sides of the hole, square to the joists, in the strip that holds it."""
    strip = next((piece for piece in pieces if piece.covers(Point(hole))), None)
    if strip is None or away <= 0:
        return []
    far = bays.across * 4 * joists.centres
    found = []
    for way in (-1, 1):
        foot = hole + bays.along * way * (away + joists.width / 2)
        bars = _bars(LineString([foot - far, foot + far]), strip)
        found += [bar for bar in bars if Point(*foot).distance(LineString([*bar])) < 1]
    return found


def _added(pieces: tuple[Polygon, ...], bays: Bays, widest: float) -> list[TimberPiece]:
    """Joists that are missing where a strip is wider than deck and base allow."""
    found = []
    for piece in pieces:
        corners = bays.to(shapely.get_coordinates(piece))
        (u0, v0), (u1, v1) = corners.min(axis=0), corners.max(axis=0)
        more = ceil((v1 - v0) / widest - 1e-6) - 1
        for i in range(more):
            v = v0 + (v1 - v0) * (i + 1) / (more + 1)
            found += _bars(LineString(bays.back(np.array([(u0, v), (u1, v)]))), piece)
    return found
