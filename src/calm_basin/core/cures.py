"""Changes that mend a plan. Each is tried on the plan before it is offered."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from functools import lru_cache
from math import ceil
from typing import Literal

import numpy as np
import shapely
from pydantic import ValidationError
from shapely.geometry import LineString, Point, Polygon

from calm_basin.core.falls import (
    NoSurfaceError,
    Ring,
    point_gradients,
    rim_of,
    ring_of,
    ring_of_outline,
    surface_of,
)
from calm_basin.core.solution import XY, Change, Cure, DrainChoice
from calm_basin.core.surface import SAME_PLACE, Array, Surface
from calm_basin.core.wording import Words, changed
from calm_basin.plan import Plan
from calm_basin.plan.model import LinearDrain, MortarBed, PointDrain, Shower
from calm_basin.rules import Limit, RuleSet

TOLERANCE = 1e-6
"""Share by which a gradient may pass a limit before it counts: rounding, not workmanship."""

CHANNEL_WIDTH = 70.0
"""Width of the channel, in mm, that is offered in place of a point drain."""

POINT_WIDTH = 120.0
"""Rim of the point drain, in mm, that is offered in place of a channel."""

ChannelSide = Literal["back", "left", "right", "entry", "middle"]
Predicate = Callable[[Plan, Surface], bool]


def within(limit: Limit, gradient: float) -> bool:
    """Whether a gradient keeps a limit on falls."""
    if limit.binds == "at_least":
        return gradient >= limit.value * (1 - TOLERANCE)
    return gradient <= limit.value * (1 + TOLERANCE)


def sloped(surface: Surface) -> list[float]:
    """Gradients of the planes that are meant to fall (strips beyond a channel's ends are not)."""
    return [facet.gradient for facet in surface.facets if facet.run > 0]


def keeps(rules: RuleSet, extra: Limit | None = None) -> Predicate:
    """Whether all planes keep the required limits on falls, and one more."""
    limits = [limit for limit in rules.on("shower_fall") if limit.weight == "required"]
    if extra is not None and extra not in limits:
        limits.append(extra)
    return lambda _plan, surface: all(
        within(limit, gradient) for limit in limits for gradient in sloped(surface)
    )


def offered(plan: Plan, candidates: Iterable[Cure | None], holds: Predicate) -> tuple[Cure, ...]:
    """The candidates that hold when they are made on the plan, in their order.

    Of several that first change the same field only the first that holds is offered.
    """
    kept: list[Cure] = []
    for cure in candidates:
        if cure is None or any(cure.changes[0].path == other.changes[0].path for other in kept):
            continue
        try:
            mended = changed(plan, cure.changes)
            if holds(mended, surface_of(mended.shower)):
                kept.append(cure)
        except (ValidationError, NoSurfaceError):
            continue
    return tuple(kept)


def ask_for(plan: Plan, words: Words, fall: float, *, steeper: bool) -> Cure | None:
    """Ask for another fall, rounded to a whole ratio on the side that mends."""
    if fall <= 0:
        return None
    run = 1 / fall
    run = float(int(run + 1e-6) if steeper else ceil(run - 1e-6))
    if run < 5:
        return None
    return Cure(
        text=f"Ask for a fall of {words.fall(1 / run)}",
        changes=(Change(path="/shower/fall/asked", value=1 / run),),
    )


def move_drain(plan: Plan, words: Words, rules: RuleSet, limit: Limit) -> Cure | None:
    """Move a point drain to the nearest place where every plane keeps the limits."""
    drain = plan.shower.drain
    if not isinstance(drain, PointDrain) or not ring_of(plan.shower).convex:
        return None
    centre = np.array(drain.centre)
    places, gradients = _all_places(plan.shower, words.display.step)
    good = ~np.isnan(gradients).any(axis=1)
    for other in rules.on("shower_fall"):
        if other.weight == "required" or other == limit:
            if other.binds == "at_least":
                good &= (gradients >= other.value * (1 - TOLERANCE)).all(axis=1)
            else:
                good &= (gradients <= other.value * (1 + TOLERANCE)).all(axis=1)
    return _move_to_nearest(places[good], centre, words)


@lru_cache(maxsize=16)
def _all_places(shower: Shower, step: float) -> tuple[Array, Array]:
    """Centres all over the shower, whole steps from where the drain is, and the gradients there."""
    drain, ring = shower.drain, ring_of(shower)
    assert isinstance(drain, PointDrain)
    low, high = ring.points.min(axis=0), ring.points.max(axis=0)
    stride = ceil(float((high - low).max()) / 40 / step) * step
    centre = np.array(drain.centre)
    first, last = np.ceil((low - centre) / stride), np.floor((high - centre) / stride)
    axes = [centre[i] + stride * np.arange(first[i], last[i] + 1) for i in (0, 1)]
    places = np.array(np.meshgrid(*axes)).reshape(2, -1).T
    fall = shower.fall
    return places, point_gradients(ring, drain, places, fall.asked, fall.measured)


def _move_to_nearest(places: Array, centre: Array, words: Words) -> Cure | None:
    if not len(places):
        return None
    nearest = places[np.linalg.norm(places - centre, axis=1).argmin()]
    dx, dy = nearest - centre
    return Cure(
        text=f"Move the drain {words.move(float(dx), float(dy))}",
        changes=(
            Change(
                path="/shower/drain/centre",
                value=[round(float(nearest[0]), 4), round(float(nearest[1]), 4)],
            ),
        ),
    )


def bring_drain_inside(plan: Plan, words: Words) -> Cure | None:
    """Move a drain that reaches outside the shower to the nearest place inside."""
    drain = plan.shower.drain
    outline = ring_of(plan.shower).polygon
    rim = rim_of(drain)
    centre = rim.mean(axis=0)
    shape = rim - centre
    # Where the centre may lie: inside every copy of the outline shifted back by a rim corner.
    room = outline
    for corner in shape:
        clear = 2.0 if isinstance(drain, PointDrain) else 0.0
        shifted = Polygon(np.array(outline.exterior.coords) - corner).buffer(-clear, join_style=2)
        room = room.intersection(shifted)
    if room.is_empty:
        return None
    border = room.boundary if room.area else room
    target = border.interpolate(border.project(Point(centre)))
    dx, dy = float(target.x - centre[0]), float(target.y - centre[1])
    moved = (
        f"Move the {'drain' if isinstance(drain, PointDrain) else 'channel'} {words.move(dx, dy)}"
    )
    if isinstance(drain, PointDrain):
        return Cure(
            text=moved,
            changes=(Change(path="/shower/drain/centre", value=[target.x, target.y]),),
        )
    return Cure(
        text=moved,
        changes=(
            Change(path="/shower/drain/start", value=[drain.start[0] + dx, drain.start[1] + dy]),
            Change(path="/shower/drain/end", value=[drain.end[0] + dx, drain.end[1] + dy]),
        ),
    )


def channel_along(
    plan: Plan, side: ChannelSide, words: Words | None = None, asked: float | None = None
) -> Cure | None:
    """A channel from wall to wall along the back of the shower or across its entry, and, where
    another fall is asked for with it, that fall."""
    new = _channel(plan.shower, side)
    if new is None:
        return None
    where = "along the back wall" if side == "back" else "across the entry"
    changes = [Change(path="/shower/drain", value=new.model_dump(mode="json"))]
    text = f"Turn to a channel {where}"
    if asked is not None and words is not None:
        changes.append(Change(path="/shower/fall/asked", value=asked))
        text += f", at {words.fall(asked)}"
    return Cure(text=text, changes=tuple(changes))


def _channel(shower: Shower, side: ChannelSide) -> LinearDrain | None:
    """The channel that fits from wall to wall at a side of the shower, or in its middle."""
    width = shower.drain.width if isinstance(shower.drain, LinearDrain) else CHANNEL_WIDTH
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
        parts = [p for p in getattr(piece, "geoms", [piece]) if p.length > 1]
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


def drain_choices(shower: Shower) -> tuple[DrainChoice, ...]:
    """The arrangements that fit this shower: a point in its middle, channels at its sides."""
    middle = ring_of(shower).polygon.centroid
    width = shower.drain.width if isinstance(shower.drain, PointDrain) else POINT_WIDTH
    point = PointDrain(
        centre=(round(middle.x, 1), round(middle.y, 1)),
        width=width,
        length=width,
        orientation=shower.drain.orientation if isinstance(shower.drain, PointDrain) else 0.0,
    )
    found = [DrainChoice(code="point", label="Point drain", drain=point)]
    sides: tuple[tuple[ChannelSide, str], ...] = (
        ("back", "Channel at the back"),
        ("left", "Channel on the left"),
        ("right", "Channel on the right"),
        ("middle", "Channel in the middle"),
        ("entry", "Channel at the entry"),
    )
    for code, label in sides:
        channel = _channel(shower, code)
        if channel is not None:
            found.append(DrainChoice(code=code, label=label, drain=channel))
    return tuple(found)


def fit_depth(plan: Plan, words: Words, shortfall: float, surface: Surface) -> list[Cure | None]:
    """Changes that each find a missing depth, least trouble first.

    ``shortfall`` is in mm; lengths are rounded up to what is shown on site.
    """
    step = words.display.step
    whole = ceil(shortfall / step - 1e-6) * step
    former = plan.shower.former
    candidates: list[Cure | None] = []
    if isinstance(former, MortarBed):
        if surface.drop > shortfall:
            asked = plan.shower.fall.asked * (surface.drop - shortfall) / surface.drop
            candidates.append(ask_for(plan, words, asked, steeper=False))
        candidates.append(channel_along(plan, "entry"))
    raised = {"name": "board that raises the floor", "thickness": whole}
    rows = [layer.model_dump(mode="json") for layer in plan.room.layers]
    candidates.append(
        Cure(
            text=f"Raise the room's floor {words.length(whole)}, if the bathroom door allows it",
            changes=(Change(path="/room/layers", value=[*rows, raised]),),
        )
    )
    if isinstance(former, MortarBed) and former.least_thickness - whole > 0:
        thinner = former.least_thickness - whole
        candidates.append(
            Cure(
                text=f"Lay the bed {words.length(whole)} thinner, if its maker allows "
                f"{words.length(thinner, 'down')} at the drain",
                changes=(Change(path="/shower/former/least_thickness", value=thinner),),
            )
        )
    set_down = plan.shower.set_down + whole
    candidates.append(
        Cure(
            text=f"Let the shower lie {words.length(set_down)} below the room at the entry",
            changes=(Change(path="/shower/set_down", value=set_down),),
        )
    )
    return candidates


def step_of(plan: Plan, surface: Surface) -> float:
    """Step at the entry, in mm: set-down plus how far the floor falls along the entry edges."""
    ring = ring_of(plan.shower)
    lowest = 0.0
    for i in sorted(ring.entries):
        edge = LineString(ring.edge(i))
        corners = np.vstack([ring.edge(i), *(facet.corners[:, :2] for facet in surface.facets)])
        places = corners[shapely.distance(edge, shapely.points(corners)) < SAME_PLACE]
        heights = surface.heights(places)
        lowest = min(lowest, float(np.nanmin(heights, initial=0.0)))
    return plan.shower.set_down - lowest
