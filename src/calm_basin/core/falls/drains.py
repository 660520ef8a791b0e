"""Other drains and other places for them, as changes of the plan."""

from __future__ import annotations

from collections.abc import Iterator
from functools import lru_cache
from math import ceil
from typing import Literal

import numpy as np
import shapely
from shapely.geometry import LineString, Point, Polygon
from shapely.ops import split

from calm_basin.core.answer.result import XY, Change, Cure
from calm_basin.core.answer.taped import place_texts
from calm_basin.core.answer.words import Words
from calm_basin.core.falls import (
    NoSurfaceError,
    Ring,
    floors_by_rim,
    ring_of,
    ring_of_outline,
    surface_of,
)
from calm_basin.core.falls.arrangements import parted
from calm_basin.core.falls.even import above
from calm_basin.core.falls.limits import fitting
from calm_basin.core.geometry.surface import Array
from calm_basin.core.kinds import drain_kind, former_of
from calm_basin.plan import Plan
from calm_basin.plan.common import POINT_RIM
from calm_basin.plan.shower import (
    LinearDrain,
    PointDrain,
    Shower,
)
from calm_basin.rules import Limit, RuleSet, usual_family

CHANNEL_WIDTH = 70.0
"""Width of the channel, in mm, that is offered in place of a point drain."""

POINT_WIDTH = POINT_RIM[0]
"""Rim of the point drain, in mm, that is offered in place of a channel."""

ChannelSide = Literal["back", "left", "right", "entry", "middle"]


def second_drain(plan: Plan, words: Words) -> Cure | None:
    """Two drains: one in each leg of a shower with an inner corner, else side by side."""
    if plan.shower.second_drain is not None or drain_kind(plan.shower.drain).point is None:
        return None
    return two_drains(plan, words)


def two_drains(plan: Plan, words: Words) -> Cure | None:
    """Two drains, wherever the drain or channel is now."""
    pair = pair_for(plan.shower)
    if pair is None:
        return None
    first, second = place_texts(plan.room.outline, [drain.centre for drain in pair], words)
    return Cure(
        text=f"Give it two drains, centred ({first}) and ({second})",
        changes=put_pair(plan, pair),
    )


def put_pair(plan: Plan, pair: tuple[PointDrain, PointDrain]) -> tuple[Change, ...]:
    """The changes that give the shower two drains and a level edge."""
    first, second = pair
    return with_family(
        plan,
        first,
        (
            drain_put("drain", first),
            drain_put("second_drain", second),
            Change(path="/shower/fall/edge", value="level"),
        ),
    )


def pair_for(shower: Shower) -> tuple[PointDrain, PointDrain] | None:
    """The first pair of drains for which there is a floor, wherever the drain or channel is."""
    return _pair(shower.outline, shower.entries, middle_drain(shower))


@lru_cache(maxsize=32)
def _pair(
    outline: tuple[XY, ...], entries: tuple[int, ...], drain: PointDrain
) -> tuple[PointDrain, PointDrain] | None:
    ring = ring_of_outline(outline, entries)
    pairs: list[tuple[Array, Array]] = []
    far = 4 * float(np.ptp(ring.points, axis=0).max())
    for i in (i for i in range(len(ring.points)) if ring.turns_right(i)):
        for way in (-ring.outwards[i - 1], -ring.outwards[i]):
            line = LineString([ring.points[i] - way * far, ring.points[i] + way * far])
            halves = shapely.get_parts(split(ring.polygon, line))
            parts = [part for part in halves if part.area > 1.0]
            if len(parts) == 2:
                first, second = (shapely.get_coordinates(part.centroid)[0] for part in parts)
                pairs.append((first, second))
    across = np.array([-ring.inward[1], ring.inward[0]])
    wide, deep = (float(np.ptp(ring.points @ way)) for way in (across, ring.inward))
    way = across * wide / 4 if wide >= deep else ring.inward * deep / 4
    pairs.append((np.array(drain.centre) - way, np.array(drain.centre) + way))
    for places in pairs:
        first_drain, second_one = (
            drain.model_copy(update={"centre": (round(float(x), 1), round(float(y), 1))})
            for x, y in places
        )
        try:
            parted(ring, (drain_kind(first_drain).rim, drain_kind(second_one).rim))
        except NoSurfaceError:
            continue
        return first_drain, second_one
    return None


def without_second_drain(plan: Plan) -> Cure | None:
    """One drain instead of two."""
    if plan.shower.second_drain is None:
        return None
    return Cure(
        text="Do without the second drain",
        changes=(Change(path="/shower/second_drain", value=None),),
    )


def drain_in_the_middle(plan: Plan) -> Cure | None:
    """A point drain in the middle, which keeps the edge level."""
    middle = middle_drain(plan.shower)
    if plan.shower.drain == middle:
        return None
    is_point = drain_kind(plan.shower.drain).point is not None
    return Cure(
        text=f"{'Move the drain to' if is_point else 'Turn to a point drain in'} the middle",
        changes=with_family(plan, middle, (drain_put("drain", middle),)),
    )


APART = 90.0
"""Places that are offered for a drain lie so far from each other, mm: out of the way of a joist
that may lie under the first."""

MOST_PLACES = 3


def move_drain(plan: Plan, words: Words, rules: RuleSet, limit: Limit) -> Iterator[Cure]:
    """Move a point drain to a place where every plane keeps the limits, the nearest first."""
    drain = movable(plan.shower)
    if drain is None:
        return
    places, gradients, _ = all_places(plan.shower, words.display.step)
    good = fitting(rules, gradients, surface_of(plan).zone("rest"), limit)
    left, centre = places[good], np.array(drain.centre)
    for _ in range(MOST_PLACES):
        if not len(left):
            return
        nearest = left[np.linalg.norm(left - centre, axis=1).argmin()]
        yield move_to(nearest, centre, words)
        left = left[np.linalg.norm(left - nearest, axis=1) > APART]


def movable(shower: Shower) -> PointDrain | None:
    """The drain, where the gradients are known at once for every place of it; else None."""
    known = (
        shower.second_drain is None
        and shower.fall.edge == "level"
        and (shower.rest is None or shower.rest.walls == "rising")
        and not former_of(shower).altered
    )
    return drain_kind(shower.drain).point if known else None


@lru_cache(maxsize=16)
def all_places(shower: Shower, step: float) -> tuple[Array, Array, Array]:
    """Centres all over the shower, whole steps from where the drain is, with the gradients of the
    planes and the drop there."""
    drain, ring = drain_kind(shower.drain), ring_of(shower)
    low, high = ring.points.min(axis=0), ring.points.max(axis=0)
    stride = ceil(float((high - low).max()) / 40 / step) * step
    places = lattice(low, high, drain.middle, stride)
    return places, *floors_at(shower, places)


def lattice(low: Array, high: Array, centre: Array, stride: float) -> Array:
    """Places, (n, 2), in rows from ``low`` to ``high``, whole strides from a centre."""
    first, last = np.ceil((low - centre) / stride), np.floor((high - centre) / stride)
    axes = [centre[i] + stride * np.arange(first[i], last[i] + 1) for i in (0, 1)]
    places: Array = np.array(np.meshgrid(*axes)).reshape(2, -1).T
    return places


def floors_at(shower: Shower, places: Array) -> tuple[Array, Array]:
    """The gradients of all planes and the drop for a point drain at each of many places."""
    fall, rim = shower.fall, drain_kind(shower.drain).rim
    rims = rim - rim.mean(axis=0) + places[:, None]
    return floors_by_rim(ring_of(shower), rims, fall.asked, fall.measured)


def move_to(place: Array, centre: Array, words: Words) -> Cure:
    """Move a point drain from where its centre is to a place."""
    dx, dy = place - centre
    return Cure(
        text=f"Move the drain {words.move(float(dx), float(dy))}",
        changes=(
            Change(
                path="/shower/drain/centre",
                value=[round(float(place[0]), 4), round(float(place[1]), 4)],
            ),
        ),
    )


def bring_drain_inside(plan: Plan, words: Words) -> Cure | None:
    """Move a drain that reaches outside the shower to the nearest place inside."""
    drain = drain_kind(plan.shower.drain)
    ring = ring_of(plan.shower)
    outline = ring.polygon
    rim = drain.rim
    centre = rim.mean(axis=0)
    shape = rim - centre
    room = outline
    if drain.point is not None and plan.shower.second_drain is None:
        # Where the centre may lie: so far within every wall's line that the rim is too.
        high = ring.offsets - (shape @ ring.outwards.T).max(axis=0) - 2.0
        for outward, offset in zip(ring.outwards, high, strict=True):
            (room,) = above(np.array([room]), np.array([[*-outward, offset]]))
    else:
        # Inside every copy of the outline shifted back by a rim corner.
        for corner in shape:
            room = room.intersection(Polygon(np.array(outline.exterior.coords) - corner))
    if not room.area:
        # A line or a place alone leaves no floor beside it.
        return None
    border = room.boundary
    target = border.interpolate(border.project(Point(centre)))
    dx, dy = float(target.x - centre[0]), float(target.y - centre[1])
    return Cure(
        text=f"Move the {drain.name} {words.move(dx, dy)}",
        changes=tuple(
            Change(path=f"/shower/drain/{field}", value=list(place))
            for field, place in drain.moved(np.array([dx, dy])).items()
        ),
    )


def channel_along(
    plan: Plan, side: ChannelSide, words: Words | None = None, asked: float | None = None
) -> Cure | None:
    """A channel from wall to wall along a side of the shower, and, where another fall is asked for
    with it, that fall; none in a tray that is bought with its drain."""
    new = None if plan.shower.bought else channel_at(plan.shower, side)
    if new is None:
        return None
    where = "across the entry" if side == "entry" else f"along the {side} wall"
    changes = [Change(path="/shower/drain", value=new.model_dump(mode="json"))]
    if plan.shower.second_drain is not None:
        changes.append(Change(path="/shower/second_drain", value=None))
    text = f"Turn to a channel {where}"
    if asked is not None and words is not None:
        changes.append(Change(path="/shower/fall/asked", value=asked))
        text += f", at {words.fall(asked)}"
    return Cure(text=text, changes=with_family(plan, new, tuple(changes)))


def channel_at(shower: Shower, side: ChannelSide) -> LinearDrain | None:
    """The channel that fits from wall to wall at a side of the shower, or in its middle."""
    channel = drain_kind(shower.drain).channel
    width = CHANNEL_WIDTH if channel is None else channel.width
    return _fitted(shower.outline, shower.entries, width, side)


@lru_cache(maxsize=256)
def _fitted(
    outline: tuple[XY, ...], entries: tuple[int, ...], width: float, side: ChannelSide
) -> LinearDrain | None:
    ring = ring_of_outline(outline, entries)
    inward = ring.inward
    facing = {
        "entry": -inward,
        "left": np.array([-inward[1], inward[0]]),
        "right": np.array([inward[1], -inward[0]]),
    }.get(side, inward)
    edge = max(
        range(len(ring.points)),
        key=lambda i: (
            round(float(ring.outwards[i] @ facing), 6),
            float(np.linalg.norm(np.diff(ring.edge(i), axis=0))),
        ),
    )
    start = ring.edge(edge)[0]
    depth = float(((start - ring.points) @ ring.outwards[edge]).max())
    offset = (depth - width) / 2 if side == "middle" else 0.0
    ends = _chord(ring, edge, width, offset)
    return None if ends is None else LinearDrain(start=ends[0], end=ends[1], width=width)


def _chord(
    ring: Ring, edge: int, width: float, offset: float
) -> tuple[tuple[float, float], tuple[float, float]] | None:
    """Centre line of the longest channel of this width, ``offset`` mm in from an edge."""
    start, end = ring.edge(edge)
    along = (end - start) / np.linalg.norm(end - start)
    inward = -ring.outwards[edge]
    far = np.ptp(ring.points, axis=0).max() * 2
    reaches = []
    for inset in (0.01, width / 2, width - 0.01):
        foot = start + inward * (offset + inset)
        piece = LineString([foot - along * far, foot + along * far]).intersection(ring.polygon)
        parts = [p for p in shapely.get_parts(piece) if p.length > 1]
        if not parts:
            return None
        longest = max(parts, key=lambda part: float(part.length))
        reach = (np.array(longest.coords) - start) @ along
        reaches.append((reach.min(), reach.max()))
    low, high = max(r[0] for r in reaches), min(r[1] for r in reaches)
    if high - low < width:
        return None
    a, b = (start + along * s + inward * (offset + width / 2) for s in (low, high))
    return (
        (round(float(a[0]), 3), round(float(a[1]), 3)),
        (round(float(b[0]), 3), round(float(b[1]), 3)),
    )


def middle_drain(shower: Shower) -> PointDrain:
    """A point drain in the middle of the shower, with the rim that it has or the usual one."""
    middle = ring_of(shower).polygon.centroid
    centre = (round(middle.x, 1), round(middle.y, 1))
    old = drain_kind(shower.drain).point
    if old is None:
        return PointDrain(centre=centre, width=POINT_WIDTH, length=POINT_WIDTH)
    return old.model_copy(update={"centre": centre})


def with_family(
    plan: Plan, drain: PointDrain | LinearDrain, changes: tuple[Change, ...]
) -> tuple[Change, ...]:
    """Changes that put another drain, with a family for it where the plan's is for another kind,
    without a stock tray where that is no point, and without an extension that needs its one."""
    tray, family = former_of(plan.shower).tray, plan.waste.family
    second = any(c.path == "/shower/second_drain" and c.value is not None for c in changes)
    if tray is not None and tray.extension and (drain.kind == "linear" or second):
        changes = (*changes, Change(path="/shower/former/extension", value=None))
    if tray is not None and tray.stock and drain.kind == "linear":
        changes = (*changes, Change(path="/shower/former/stock", value=None))
    if family is None or family.drain == drain.kind:
        return changes
    usual = usual_family(drain.kind, plan.shower.former.kind)
    return (*changes, Change(path="/waste/family", value=usual.model_dump(mode="json")))


def drain_put(name: str, part: PointDrain | LinearDrain | None) -> Change:
    return Change(path=f"/shower/{name}", value=part and part.model_dump(mode="json"))
