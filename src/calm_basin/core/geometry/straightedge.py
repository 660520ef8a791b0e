"""The widest gap under a straightedge that is laid anywhere on a floor, in any direction.

The edge rests on the floor's high places. A gap is three places on one line: where the edge rests
on either side, and the floor between them. A shorter edge never gapes wider than a longer one over
the same place, so edges up to the length that is asked for are all that has to be looked at: those
that are shorter are the ones for which a room has no more place.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import scipy
import shapely
from shapely.geometry import Polygon
from shapely.geometry.polygon import orient

from calm_basin.core.geometry.surface import Array, xy
from calm_basin.tolerances import ON_EDGE

SAMPLES = 18
"""Places that are looked at along a line in the first look."""

LENGTHS = 4
"""Lengths of the edges that start from a reading in the first look."""

DIRECTIONS = 36
"""Directions in which the edge is laid over each low reading at first: every 5°."""

RASTER = 60
"""Cells along the room's longer side of the raster on which the first look reads heights."""

MOST_READINGS = 32
"""Of more readings the first look takes those that stand out most, as many high as low ones."""

BEST = 48
"""Gaps of the first look that are followed up exactly."""

ROUNDS, TRIES = 18, 20
"""How often, and with how many changes each time, a gap is widened."""

PRUNED = (3, 6, 9)
"""After these rounds the half that gapes less is let go."""

SWING, SWINGS = np.radians(35), 71
"""How far an edge is swung about its ends, radians, and in how many steps."""

FINAL = 8
"""Gaps of those that are measured to the end."""

NEARLY = 0.06
"""Edges whose ends lie nearer to each other than this share of their length are nearly the same."""

FINEST = 0.5
"""How finely places are moved at the least, mm."""

FARTHER, FINER = 1.2, 0.7
"""What becomes of the size of the moves after one that helped, and after one that did not."""


@dataclass(frozen=True)
class Straightedge:
    """A straightedge where it rests on the floor, and the widest gap under it, mm."""

    start: tuple[float, float]
    end: tuple[float, float]
    gap: float
    at: tuple[float, float]


class Search:
    """The search on one floor.

    Parameters
    ----------
    heights : callable
        Heights, (n,), of the floor at points, (n, 2), mm.
    room : Polygon
    places : ndarray, shape (n, 2)
        Where the floor was read: its high and low places are among them.
    length : float
        Of the straightedge, mm.
    """

    def __init__(
        self, heights: Callable[[Array], Array], room: Polygon, places: Array, length: float
    ) -> None:
        self.heights, self.room, self.places, self.length = heights, room, places, length
        self._wide = room.buffer(ON_EDGE)
        shapely.prepare(self._wide)
        self._convex = room.convex_hull.area - room.area <= 1.0
        corners = shapely.get_coordinates(room.exterior)
        along = np.diff(corners, axis=0)
        longest = along[int(np.hypot(*along.T).argmax())]
        # Laid by the room and not by the axes: a room that is turned is searched alike.
        self._turn = float(np.arctan2(longest[1], longest[0]))
        self._corners = corners

    def widest(self, *, brief: bool = False) -> Straightedge:
        """The straightedge under which the floor gapes most; ``brief`` where so few readings are
        that the best of the first look are enough to follow."""
        edges = self._apart(self._first_look())
        if brief:
            edges = self._followed(edges[:FINAL], TRIES)
        else:
            edges = self._swung(self._followed(edges, TRIES))
            edges = edges[np.argsort(self._gaps(edges))[-FINAL:]]
            edges = self._followed(edges, 3 * TRIES)
        gaps = self._gaps(edges)
        best = edges[int(gaps.argmax())]
        start, end, share = best[:2], best[2:4], best[4]
        place = start + share * (end - start)
        gap = max(float(gaps.max()), 0.0)
        return Straightedge(xy(start), xy(end), gap, xy(place))

    def _gaps(self, edges: Array) -> Array:
        """Gaps of edges (x, y, x, y, share of the place between), shape (n, 5); −inf where an edge
        does not lie in the room or is too long."""
        start, end, share = edges[:, :2], edges[:, 2:4], edges[:, 4:]
        place = start + share * (end - start)
        points = np.concatenate([start, end, place])
        heights = self.heights(points).reshape(3, -1)
        gaps = (1 - share[:, 0]) * heights[0] + share[:, 0] * heights[1] - heights[2]
        fits = np.hypot(*(end - start).T) <= self.length + 1e-9
        ends = np.concatenate([start, end])
        inside = shapely.contains_xy(self._wide, ends[:, 0], ends[:, 1]).reshape(2, -1).all(axis=0)
        if not self._convex:
            fits &= inside
            lines = shapely.linestrings(np.stack([start, end], axis=1)[fits])
            fits[fits] = shapely.covers(self._wide, lines)
        return np.where(fits & inside, gaps, -np.inf)

    def _first_look(self) -> Array:
        """Edges that rest on readings or hang over them, as rows for `_gaps`, the widest gap first.

        On a floor that runs straight between readings the widest gap has readings among its three
        places: two ends, one end and the place between, or one of them alone.
        """
        places, heights = self._standing_out()
        count = len(places)
        one, other = np.triu_indices(count, 1)
        shares = (np.arange(SAMPLES) + 0.5) / SAMPLES
        between = places[one, None] + shares[:, None] * (places[other] - places[one])[:, None]
        low = self._read(between)
        gaps = (1 - shares) * heights[one, None] + shares * heights[other, None] - low
        best = gaps.argmax(axis=1)
        rows = np.arange(len(one))
        spans = [np.column_stack([places[one], places[other], shares[best]])]
        widths = [gaps[rows, best]]
        # From one reading over another and on.
        one, other = (np.concatenate([a, b]) for a, b in ((one, other), (other, one)))
        along = places[other] - places[one]
        length = np.maximum(np.hypot(*along.T), 1.0)
        reach = 1 + shares * np.maximum(self.length / length - 1, 0.0)[:, None]
        ends = places[one, None] + reach[..., None] * along[:, None]
        gaps = (1 - 1 / reach) * heights[one, None] + self._read(ends) / reach
        gaps = gaps - heights[other, None]
        best = np.where(np.isnan(gaps), -np.inf, gaps).argmax(axis=1)
        rows = np.arange(len(one))
        spans.append(np.column_stack([places[one], ends[rows, best], 1 / reach[rows, best]]))
        widths.append(gaps[rows, best])
        # Over a reading in every direction.
        angles = self._turn + np.pi * np.arange(DIRECTIONS) / DIRECTIONS
        ways = np.column_stack([np.cos(angles), np.sin(angles)])
        far = min(self.length, float(np.hypot(*np.ptp(self._corners, axis=0))))
        steps = far * (np.arange(SAMPLES) + 1) / (SAMPLES + 1)
        sides = [
            self._read(places[:, None, None] + way * steps[:, None] * ways[:, None, :])
            for way in (-1.0, 1.0)
        ]
        fits = steps[:, None] + steps <= self.length
        for_one = steps / (steps[:, None] + steps)
        rest = sides[0][..., :, None] * for_one + sides[1][..., None, :] * (1 - for_one)
        gaps = np.where(fits & ~np.isnan(rest), rest, -np.inf).reshape(count, DIRECTIONS, -1)
        best = gaps.argmax(axis=2)
        before, after = (steps[i] for i in np.unravel_index(best, (SAMPLES, SAMPLES)))
        start = places[:, None] - before[..., None] * ways
        end = places[:, None] + after[..., None] * ways
        share = before / (before + after)
        spans.append(np.concatenate([start, end, share[..., None]], axis=2).reshape(-1, 5))
        widths.append((gaps.max(axis=2) - heights[:, None]).ravel())
        # From one reading in every direction, of several lengths.
        angles = np.concatenate([angles, angles + np.pi])
        ways = np.column_stack([np.cos(angles), np.sin(angles)])
        lengths = self.length * (np.arange(LENGTHS) + 1) / LENGTHS
        ends = places[:, None, None] + lengths[:, None] * ways[:, None, :]
        span = ends - places[:, None, None]
        shares = (np.arange(SAMPLES // 2) + 0.5) / (SAMPLES // 2)
        low = self._read(places[:, None, None, None] + shares[:, None] * span[..., None, :])
        own, far_end = heights[:, None, None, None], self._read(ends)[..., None]
        gaps = own * (1 - shares) + far_end * shares - low
        gaps = np.where(np.isnan(gaps), -np.inf, gaps)
        best = gaps.argmax(axis=3)
        start = np.broadcast_to(places[:, None, None], ends.shape)
        spans.append(np.concatenate([start, ends, shares[best][..., None]], axis=3).reshape(-1, 5))
        widths.append(gaps.max(axis=3).ravel())
        edges, found = np.concatenate(spans), np.concatenate(widths)
        long = np.hypot(*(edges[:, 2:4] - edges[:, :2]).T) > self.length
        found = np.where(np.isnan(found) | long, -np.inf, found)
        order = np.argsort(found)[::-1]
        return edges[order[: int(np.isfinite(found).sum())]]

    def _standing_out(self) -> tuple[Array, Array]:
        """The readings that the first look takes, and their heights."""
        heights = self.heights(self.places)
        if len(heights) <= MOST_READINGS:
            return self.places, heights
        _, near = self._near.query(self.places, k=7)
        order = np.argsort(heights - heights[near].mean(axis=1))
        taken = np.concatenate([order[: MOST_READINGS // 2], order[-MOST_READINGS // 2 :]])
        return self.places[taken], heights[taken]

    @cached_property
    def _near(self) -> scipy.spatial.cKDTree:
        return scipy.spatial.cKDTree(self.places)

    def _read(self, points: Array) -> Array:
        """Heights, nearly, at points of any shape (…, 2); NaN outside the room."""
        low, cell, raster = self._raster
        cosine, sine = np.cos(self._turn), np.sin(self._turn)
        away = points - self._corners[0]
        where = np.stack(
            [
                away[..., 1] * cosine - away[..., 0] * sine - low[1],
                away[..., 0] * cosine + away[..., 1] * sine - low[0],
            ]
        )
        found: Array = scipy.ndimage.map_coordinates(raster, where / cell, order=1, cval=np.nan)
        return found

    @cached_property
    def _raster(self) -> tuple[Array, float, Array]:
        """Heights on a raster that lies along the room's longest wall: its corner, the size of its
        cells, and the heights, (rows, columns)."""
        cosine, sine = np.cos(self._turn), np.sin(self._turn)
        frame = np.array([[cosine, -sine], [sine, cosine]])
        corners = (self._corners - self._corners[0]) @ frame
        low, high = corners.min(axis=0), corners.max(axis=0)
        cell = float((high - low).max()) / RASTER
        counts = np.ceil((high - low) / cell).astype(int) + 1
        xs, ys = (low[i] + cell * np.arange(counts[i]) for i in (0, 1))
        nodes = np.array(np.meshgrid(xs, ys)).reshape(2, -1).T
        heights = self.heights(nodes @ frame.T + self._corners[0])
        return low, cell, heights.reshape(counts[1], counts[0])

    def _apart(self, edges: Array) -> Array:
        """The best of the first look, exactly, that are not nearly the same."""
        edges = edges[: 30 * BEST]
        gaps = self._gaps(edges)
        chosen: list[Array] = []
        near = NEARLY * self.length
        for row in edges[np.argsort(gaps)[::-1][: int(np.isfinite(gaps).sum())]]:
            others = np.array(chosen).reshape(-1, 5)[:, :4]
            turned = row[[2, 3, 0, 1]]
            if (np.abs(others - row[:4]).max(axis=1, initial=0) > near).all() and (
                np.abs(others - turned).max(axis=1, initial=0) > near
            ).all():
                chosen.append(row)
            if len(chosen) == BEST:
                break
        if not chosen:
            # Too few readings to rest on: along the walls there is always room.
            walls = np.column_stack([self._corners[:-1], self._corners[1:]])
            return self._shortened(np.column_stack([walls, np.full(len(walls), 0.5)]))
        return np.array(chosen)

    def _swung(self, edges: Array) -> Array:
        """The edges, and each swung about either end to where it gapes most at its full length."""
        found = [edges]
        angles = np.linspace(-SWING, SWING, SWINGS)
        shares = (np.arange(SAMPLES) + 0.5) / SAMPLES
        for ends in (edges[:, :4], edges[:, [2, 3, 0, 1]]):
            start, along = ends[:, :2], ends[:, 2:] - ends[:, :2]
            way = np.arctan2(along[:, 1], along[:, 0])[:, None] + angles
            span = self.length * np.stack([np.cos(way), np.sin(way)], axis=2)
            end = start[:, None] + span
            low = self._read(start[:, None, None] + shares[:, None] * span[:, :, None])
            own, far = self._read(start)[:, None, None], self._read(end)[..., None]
            gaps = own * (1 - shares) + far * shares - low
            gaps = np.where(np.isnan(gaps), -np.inf, gaps)
            best = gaps.reshape(len(edges), -1).argmax(axis=1)
            turn, place = np.unravel_index(best, gaps.shape[1:])
            rows = np.arange(len(edges))
            found.append(np.column_stack([start, end[rows, turn], shares[place]]))
        return np.concatenate(found)

    def _followed(self, edges: Array, count: int) -> Array:
        """The gaps widened: their places moved a little, again and again, ever more finely."""
        rng = np.random.default_rng(1)
        gaps = self._gaps(edges)
        first = self.length / SAMPLES if count == TRIES else self.length / SAMPLES / 4
        sizes = np.full(len(edges), first)
        for n in range(ROUNDS):
            tries = np.repeat(edges[:, None], count, axis=1)
            moves = rng.normal(0, 1, (len(edges), count, 5)) * sizes[:, None, None]
            half = count // 2
            self._by_ends(tries[:, :half], moves[:, :half])
            self._by_place(tries[:, half:], moves[:, half:])
            if n % 6 == 0:
                self._to_readings(tries)
            tries[..., 4] = np.clip(tries[..., 4], 0.0, 1.0)
            tries = self._shortened(self._cut_at_walls(tries.reshape(-1, 5)))
            found = self._gaps(tries).reshape(len(edges), count)
            best = found.argmax(axis=1)
            rows = np.arange(len(edges))
            better = found[rows, best] > gaps
            edges[better] = tries.reshape(len(edges), count, 5)[rows, best][better]
            gaps = np.maximum(gaps, found[rows, best])
            # Where a move widened the gap it may go on as far, else the next ones are finer.
            sizes = np.maximum(sizes * np.where(better, FARTHER, FINER), FINEST)
            if n in PRUNED and len(edges) > FINAL:
                keep = np.argsort(gaps)[-max(len(edges) // 2, FINAL) :]
                edges, gaps, sizes = edges[keep], gaps[keep], sizes[keep]
        return edges

    def _by_ends(self, tries: Array, moves: Array) -> None:
        """Move the ends and the place between them by themselves: some tries one end only, some
        only the place, some the edge as it is."""
        length = np.hypot(*(tries[..., 2:4] - tries[..., :2]).transpose(2, 0, 1))
        moves[..., 4] /= np.maximum(length, 1.0)
        moves[:, 0::7, 2:] = 0
        moves[:, 1::7, [0, 1, 4]] = 0
        moves[:, 2::7, :4] = 0
        moves[:, 3::7, 2:4] = moves[:, 3::7, :2]
        tries += moves

    def _by_place(self, tries: Array, moves: Array) -> None:
        """Move the place between, the direction and the two reaches: what the gap hangs on. Some
        tries turn only, some reach farther one way only, some move the place only."""
        start, span, share = tries[..., :2], tries[..., 2:4] - tries[..., :2], tries[..., 4]
        length = np.maximum(np.hypot(span[..., 0], span[..., 1]), 1e-9)
        moves[:, 0::5, [0, 1, 3, 4]] = 0
        moves[:, 1::5, [0, 1, 2, 4]] = 0
        moves[:, 2::5, [0, 1, 2, 3]] = 0
        moves[:, 3::5, 2:] = 0
        place = start + share[..., None] * span + moves[..., :2]
        angle = np.arctan2(span[..., 1], span[..., 0]) + moves[..., 2] / np.maximum(length, 1.0)
        before = np.maximum(share * length + moves[..., 3], 0.0)
        after = np.maximum((1 - share) * length + moves[..., 4], 0.0)
        fits = np.minimum(self.length / np.maximum(before + after, 1e-9), 1.0)
        before, after = before * fits, after * fits
        way = np.stack([np.cos(angle), np.sin(angle)], axis=-1)
        tries[..., :2] = place - before[..., None] * way
        tries[..., 2:4] = place + after[..., None] * way
        tries[..., 4] = before / np.maximum(before + after, 1e-9)

    def _to_readings(self, tries: Array) -> None:
        """Put an end, both, or the place between onto the nearest reading: there the floor's peaks
        and pits are."""
        for column, ends in ((4, (0,)), (5, (2,)), (6, (0, 2))):
            for at in ends:
                points = tries[:, column, at : at + 2]
                tries[:, column, at : at + 2] = self.places[self._near.query(points)[1]]

    def _cut_at_walls(self, edges: Array) -> Array:
        """Edges that reach through a wall, cut there: their ends then slide along it."""
        start, end = edges[:, :2], edges[:, 2:4]
        place = start + edges[:, 4:] * (end - start)
        outwards, offsets = self._walls
        room = offsets - place @ outwards.T
        ends = []
        for tip in (start, end):
            towards = (tip - place) @ outwards.T
            through = towards > np.maximum(room, 0.0)
            share = np.where(through, np.maximum(room, 0.0) / np.where(through, towards, 1.0), 1.0)
            ends.append(place + share.min(axis=1)[:, None] * (tip - place))
        before, after = (np.hypot(*(tip - place).T) for tip in ends)
        shares = before / np.maximum(before + after, 1e-9)
        return np.column_stack([*ends, shares])

    @cached_property
    def _walls(self) -> tuple[Array, Array]:
        """Outward unit vectors, (n, 2), and offsets, (n,), of the sides of the room's hull."""
        hull = shapely.get_coordinates(orient(self.room.convex_hull).exterior)
        along = np.diff(hull, axis=0)
        outwards = np.column_stack([along[:, 1], -along[:, 0]]) / np.hypot(*along.T)[:, None]
        return outwards, (outwards * hull[:-1]).sum(axis=1)

    def _shortened(self, edges: Array) -> Array:
        """Edges that are too long, cut at their far end."""
        along = edges[:, 2:4] - edges[:, :2]
        length = np.maximum(np.hypot(*along.T), 1e-9)
        share = np.minimum(self.length / length, 1.0)
        edges[:, 2:4] = edges[:, :2] + along * share[:, None]
        edges[:, 4] = np.clip(edges[:, 4] / share, 0.0, 1.0)
        return edges
