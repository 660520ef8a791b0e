"""Changes that may mend a plan. `trying` makes each on the plan before it is offered."""

from __future__ import annotations

from collections.abc import Sequence
from functools import lru_cache
from math import ceil, floor
from typing import Any, Literal, NamedTuple

import numpy as np
import shapely
from numpy.typing import NDArray
from shapely.geometry import LineString, Point, Polygon
from shapely.ops import split

from calm_basin.core.falls import (
    NoSurfaceError,
    Ring,
    point_gradients,
    rim_of,
    ring_of,
    ring_of_outline,
    surface_of,
    turned_edge,
)
from calm_basin.core.falls.arrangements import two_drains as falls_to_two
from calm_basin.core.falls.even import above
from calm_basin.core.solution import XY, Arrangement, Change, Cure
from calm_basin.core.surface import SAME_PLACE, Array, Facet, Surface, Zone
from calm_basin.core.wording import Words
from calm_basin.plan import Plan
from calm_basin.plan.model import (
    LinearDrain,
    MortarBed,
    PointDrain,
    Shower,
    SideCut,
    SlopePanels,
    Tray,
)
from calm_basin.rules import Limit, RuleSet

TOLERANCE = 1e-6
"""Share by which a gradient may pass a limit before it counts: rounding, not workmanship."""

CHANNEL_WIDTH = 70.0
"""Width of the channel, in mm, that is offered in place of a point drain."""

POINT_WIDTH = 120.0
"""Rim of the point drain, in mm, that is offered in place of a channel."""

ChannelSide = Literal["back", "left", "right", "entry", "middle"]


def within(limit: Limit, gradient: float) -> bool:
    """Whether a gradient keeps a limit on falls."""
    if limit.binds == "at_least":
        return gradient >= limit.value * (1 - TOLERANCE)
    return gradient <= limit.value * (1 + TOLERANCE)


def sloped(surface: Surface) -> list[Facet]:
    """The planes that are meant to fall (level strips beyond a channel's ends are not)."""
    return [facet for facet in surface.facets if not facet.level]


def bound_by(limit: Limit, facet: Facet) -> bool:
    """Whether a limit on falls is on this plane: the rest of a wet room has a least of its own."""
    if limit.topic == "rest_fall":
        return facet.zone == "rest"
    return facet.zone == "shower" or limit.binds == "at_most"


def fall_limits(rules: RuleSet) -> tuple[Limit, ...]:
    """All limits on the floor's falls."""
    return (*rules.on("shower_fall"), *rules.on("rest_fall"))


def breaking(limit: Limit, surface: Surface) -> list[Facet]:
    """The planes that break a limit on falls."""
    return [f for f in sloped(surface) if bound_by(limit, f) and not within(limit, f.gradient)]


class Asked(NamedTuple):
    """A fall that the plan asks for in one zone, and where it stands in the document."""

    fall: float
    path: str

    @classmethod
    def of(cls, plan: Plan, zone: Zone = "shower") -> Asked:
        if zone == "rest" and plan.shower.rest is not None:
            return cls(plan.shower.rest.asked, "/shower/rest/asked")
        if isinstance(plan.shower.former, SlopePanels):
            return cls(plan.shower.built_fall, "/shower/former/thick_edge")
        return cls(plan.shower.fall.asked, "/shower/fall/asked")


def ask_for(words: Words, fall: float, asked: Asked, *, steeper: bool) -> Cure | None:
    """Ask for another fall, rounded to a whole ratio on the side that mends; panels have theirs."""
    if fall <= 0 or not asked.path.endswith("/asked"):
        return None
    run = 1 / fall
    run = float(int(run + 1e-6) if steeper else ceil(run - 1e-6))
    if not 5 <= run <= 200:
        return None
    return Cure(
        text=f"Ask for a fall of {words.fall(1 / run)}"
        + (" in the rest of the room" if "rest" in asked.path else ""),
        changes=(Change(path=asked.path, value=1 / run),),
    )


def thicker_panels(plan: Plan, words: Words, fall: float) -> Cure | None:
    """Panels that have another fall built in, their thick edge rounded to what is shown on site."""
    former, step = plan.shower.former, words.display.step
    if not isinstance(former, SlopePanels) or not isinstance(plan.shower.drain, LinearDrain):
        return None
    rise = fall * former.length
    whole = (ceil if fall > former.fall else floor)((former.thin_edge + rise) / step) * step
    if whole <= former.thin_edge:
        return None
    return Cure(
        text=f"Take panels that are {words.length(whole)} at the thick edge: "
        f"{words.fall((whole - former.thin_edge) / former.length)}",
        changes=(Change(path="/shower/former/thick_edge", value=whole),),
    )


def even_fall(plan: Plan) -> Cure | None:
    """Let the edge follow the floor instead of the floor the edge."""
    shower = plan.shower
    made_on_site = isinstance(shower.former, MortarBed)
    if not isinstance(shower.drain, PointDrain) or shower.fall.edge == "even" or not made_on_site:
        return None
    return Cure(
        text="Let the same fall run everywhere; only the entry stays level",
        changes=(Change(path="/shower/fall/edge", value="even"),),
    )


def second_drain(plan: Plan, words: Words) -> Cure | None:
    """Two drains: one in each leg of a shower with an inner corner, else side by side."""
    if plan.shower.second_drain is not None or not isinstance(plan.shower.drain, PointDrain):
        return None
    return two_drains(plan, words)


def two_drains(plan: Plan, words: Words) -> Cure | None:
    """Two drains, wherever the drain or channel is now."""
    pair = _pair(plan.shower.model_copy(update={"drain": middle_drain(plan.shower)}))
    if pair is None:
        return None
    first, second = pair
    return Cure(
        text=f"Give it two drains, the second one at {words.length(second.centre[0])} right and "
        f"{words.length(second.centre[1])} up",
        changes=(
            _put("drain", first),
            _put("second_drain", second),
            Change(path="/shower/fall/edge", value="level"),
        ),
    )


@lru_cache(maxsize=32)
def _pair(shower: Shower) -> tuple[PointDrain, PointDrain] | None:
    """The first pair of drains for which there is a floor."""
    drain, ring = shower.drain, ring_of(shower)
    assert isinstance(drain, PointDrain)
    pairs: list[tuple[Array, Array]] = []
    far = 4 * float(np.ptp(ring.points, axis=0).max())
    for i in (i for i in range(len(ring.points)) if ring.turns_right(i)):
        for way in (-ring.outwards[i - 1], -ring.outwards[i]):
            line = LineString([ring.points[i] - way * far, ring.points[i] + way * far])
            parts = [part for part in split(ring.polygon, line).geoms if part.area > 1.0]
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
            falls_to_two(ring, (rim_of(first_drain), rim_of(second_one)), 1.0, "corner_run")
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


def without_rest(plan: Plan) -> Cure | None:
    """Let only the shower fall."""
    if plan.shower.rest is None:
        return None
    return Cure(
        text="Keep the rest of the room flat",
        changes=(Change(path="/shower/rest", value=None),),
    )


def bed_instead(least: float = 12.0) -> Cure:
    """A setting bed in place of a tray or panels; it takes any fall."""
    bed = MortarBed(least_thickness=least)
    return Cure(
        text="Lay a setting bed instead",
        changes=(Change(path="/shower/former", value=bed.model_dump(mode="json")),),
    )


def strips_of_their_own(plan: Plan, words: Words) -> Cure | None:
    """Let the floor beyond a channel's ends fall to it as the rest does."""
    drain, asked = plan.shower.drain, plan.shower.built_fall
    if not isinstance(drain, LinearDrain) or drain.strips:
        return None
    return Cure(
        text=f"Give the strips beside it a fall of {words.fall(asked)} of their own",
        changes=(Change(path="/shower/drain/strips", value=asked),),
    )


def tray_entry_cut(plan: Plan) -> float:
    """What was cut off a tray on its entry sides, mm."""
    former, entries = plan.shower.former, plan.shower.entries
    if not isinstance(former, Tray):
        return 0.0
    return max((cut.width for cut in former.cuts if cut.edge in entries), default=0.0)


def cut_elsewhere(plan: Plan) -> list[Cure | None]:
    """Cut the side across from the entry instead of the entry's own."""
    former, outline = plan.shower.former, plan.shower.outline
    if not isinstance(former, Tray) or tray_entry_cut(plan) <= 0:
        return []
    ring, n = ring_of(plan.shower), len(outline)
    entry = next(cut for cut in former.cuts if cut.edge in plan.shower.entries)
    facing = ring.outwards[turned_edge(entry.edge, outline)]
    across = min(range(n), key=lambda i: float(ring.outwards[turned_edge(i, outline)] @ facing))
    kept = [cut for cut in former.cuts if cut.edge not in (entry.edge, across)]
    already = sum(cut.width for cut in former.cuts if cut.edge == across)
    moved = [*kept, SideCut(edge=across, width=entry.width + already)]
    return [
        Cure(
            text=f"Cut side {across + 1}, across from the entry, instead",
            changes=(
                Change(
                    path="/shower/former/cuts",
                    value=[cut.model_dump(mode="json") for cut in moved],
                ),
            ),
        )
    ]


def pack_tray(plan: Plan, words: Words, by: float) -> Cure | None:
    """Pack a tray up until its entry edge meets the room again."""
    former = plan.shower.former
    if not isinstance(former, Tray):
        return None
    raised = former.raised + by
    return Cure(
        text=f"Pack the whole tray up {words.length(raised)}",
        changes=(Change(path="/shower/former/raised", value=raised),),
    )


def drain_in_the_middle(plan: Plan) -> Cure | None:
    """A point drain in the middle, which keeps the edge level."""
    middle = middle_drain(plan.shower)
    if plan.shower.drain == middle:
        return None
    is_point = isinstance(plan.shower.drain, PointDrain)
    return Cure(
        text=f"{'Move the drain to' if is_point else 'Turn to a point drain in'} the middle",
        changes=(Change(path="/shower/drain", value=middle.model_dump(mode="json")),),
    )


def move_drain(plan: Plan, words: Words, rules: RuleSet, limit: Limit) -> Cure | None:
    """Move a point drain to the nearest place where every plane keeps the limits."""
    drain = plan.shower.drain
    if not isinstance(drain, PointDrain) or not movable(plan.shower):
        return None
    places, gradients = all_places(plan.shower, words.display.step)
    good = fitting(rules, gradients, surface_of(plan).zone("rest"), limit)
    return _move_to_nearest(places[good], np.array(drain.centre), words)


def movable(shower: Shower) -> bool:
    """Whether the gradients are known at once for every place of the drain."""
    simple = isinstance(shower.former, Tray) and (shower.former.cuts or shower.former.raised)
    return (
        isinstance(shower.drain, PointDrain)
        and shower.second_drain is None
        and shower.fall.edge == "level"
        and (shower.rest is None or shower.rest.walls == "rising")
        and not simple
    )


def fitting(
    rules: RuleSet, gradients: Array, rest: Sequence[Facet], limit: Limit | None = None
) -> NDArray[np.bool_]:
    """Which rows of the shower's gradients keep the required limits on falls, and one more.

    The ``rest`` of a wet room falls alike wherever the drain is: where it breaks its own limits no
    row keeps them.
    """
    good = np.asarray(~np.isnan(gradients).any(axis=1))
    for other in fall_limits(rules):
        bound = [facet for facet in rest if bound_by(other, facet) and not facet.level]
        if other.weight == "required" and not all(within(other, f.gradient) for f in bound):
            good[:] = False
    for other in rules.on("shower_fall"):
        if other.weight == "required" or other == limit:
            if other.binds == "at_least":
                good &= (gradients >= other.value * (1 - TOLERANCE)).all(axis=1)
            else:
                good &= (gradients <= other.value * (1 + TOLERANCE)).all(axis=1)
    return good


@lru_cache(maxsize=16)
def all_places(shower: Shower, step: float) -> tuple[Array, Array]:
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
    rim = rim_of(drain)
    rims = rim - rim.mean(axis=0) + places[:, None]
    return places, point_gradients(ring, rims, fall.asked, fall.measured)


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
    ring = ring_of(plan.shower)
    outline = ring.polygon
    rim = rim_of(drain)
    centre = rim.mean(axis=0)
    shape = rim - centre
    room = outline
    if isinstance(drain, PointDrain) and plan.shower.second_drain is None:
        # Where the centre may lie: so far within every wall's line that the rim is too.
        high = ring.offsets - (shape @ ring.outwards.T).max(axis=0) - 2.0
        for outward, offset in zip(ring.outwards, high, strict=True):
            (room,) = above(np.array([room]), np.array([[*-outward, offset]]))
    else:
        # Inside every copy of the outline shifted back by a rim corner.
        for corner in shape:
            room = room.intersection(Polygon(np.array(outline.exterior.coords) - corner))
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
    """A channel from wall to wall along a side of the shower, and, where another fall is asked for
    with it, that fall."""
    new = _channel(plan.shower, side)
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


def middle_drain(shower: Shower) -> PointDrain:
    """A point drain in the middle of the shower, with the rim that it has or the usual one."""
    middle = ring_of(shower).polygon.centroid
    old = shower.drain
    width = old.width if isinstance(old, PointDrain) else POINT_WIDTH
    length = old.length if isinstance(old, PointDrain) else POINT_WIDTH
    return PointDrain(
        centre=(round(middle.x, 1), round(middle.y, 1)),
        width=width,
        length=length,
        orientation=old.orientation if isinstance(old, PointDrain) else 0.0,
    )


def arrangements(plan: Plan, words: Words) -> tuple[Arrangement, ...]:
    """The ways in which this shower's floor can fall: about a point, two, or along a channel."""
    shower = plan.shower
    point = isinstance(shower.drain, PointDrain)
    one = point and shower.second_drain is None
    even = shower.fall.edge == "even"
    there = shower.drain if point else middle_drain(shower)
    alone = (_put("second_drain", None), _put("drain", there))
    found = [
        Arrangement(
            code="point",
            label="Point, level edge",
            chosen=one and not even,
            changes=(*alone, Change(path="/shower/fall/edge", value="level")),
        )
    ]
    if shower.rest is None or shower.rest.walls == "rising":
        changes = (*alone, Change(path="/shower/fall/edge", value="even"))
        found.append(
            Arrangement(code="even", label="Point, even fall", chosen=one and even, changes=changes)
        )
    pair = two_drains(plan, words)
    if shower.second_drain is not None or pair is not None:
        found.append(
            Arrangement(
                code="two",
                label="Two drains",
                chosen=shower.second_drain is not None,
                changes=pair.changes if pair else (),
            )
        )
    if shower.rest is not None and shower.rest.walls == "level":
        return tuple(found)
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
            found.append(
                Arrangement(
                    code=code,
                    label=label,
                    chosen=channel == shower.drain,
                    changes=(_put("second_drain", None), _put("drain", channel)),
                )
            )
    return tuple(found)


def _put(name: str, part: PointDrain | LinearDrain | None) -> Change:
    return Change(path=f"/shower/{name}", value=part and part.model_dump(mode="json"))


def fit_depth(plan: Plan, words: Words, shortfall: float, surface: Surface) -> list[Cure | None]:
    """Changes that each find a missing depth, least trouble first.

    ``shortfall`` is in mm; lengths are rounded up to what is shown on site.
    """
    step = words.display.step
    whole = ceil(shortfall / step - 1e-6) * step
    former = plan.shower.former
    candidates: list[Cure | None] = []
    if isinstance(former, MortarBed):
        drop = surface.drop + surface.edge
        if drop > shortfall:
            asked = plan.shower.built_fall * (drop - shortfall) / drop
            candidates.append(ask_for(words, asked, Asked.of(plan), steeper=False))
        candidates.append(channel_along(plan, "entry"))
    candidates.append(
        Cure(
            text=f"Raise the room's floor {words.length(whole)}, if the bathroom door allows it",
            changes=(Change(path="/room/layers", value=_raised_layers(plan, whole)),),
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


def _raised_layers(plan: Plan, by: float) -> list[dict[str, Any]]:
    """The room's layers, made thicker by a board under them. Where the rest of a wet room falls,
    its lowest layer is the bed that takes the fall and carries the membrane: that is made thicker,
    and stays what it is."""
    rows = [layer.model_dump(mode="json") for layer in plan.room.layers]
    if plan.shower.rest is not None and rows:
        rows[-1]["thickness"] += by
        return rows
    return [*rows, {"name": "board that raises the floor", "thickness": by}]


def step_of(plan: Plan, surface: Surface) -> float:
    """Step at the entry, in mm, at its worst place: how far the shower's floor lies below the floor
    outside it, or, where it is below 0, above."""
    ring = ring_of(plan.shower)
    inside = surface.zone("shower")
    corners = np.vstack([facet.corners[:, :2] for facet in inside])
    steps = [plan.shower.set_down]
    for i in sorted(ring.entries):
        edge = LineString(ring.edge(i))
        ends = np.vstack([ring.edge(i), corners])
        places = ends[shapely.distance(edge, shapely.points(ends)) < SAME_PLACE]
        outside = surface.heights(places, "rest") if plan.shower.rest else plan.shower.set_down
        steps += [float(s) for s in outside - surface.heights(places, "shower") if not np.isnan(s)]
    # Of a step up and one down that are alike, as at a tray's two ends, the one down is told.
    return max(steps[1:] or steps, key=lambda step: (round(abs(step), 6), step))
