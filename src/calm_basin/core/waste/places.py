"""Where the drain can go: every place in the shower judged as the findings judge the drain."""

from __future__ import annotations

from dataclasses import dataclass
from math import ceil

import numpy as np
from numpy.typing import NDArray
from shapely.geometry import Polygon

from calm_basin.core.answer.case import Case
from calm_basin.core.answer.changes import changed
from calm_basin.core.answer.result import Change
from calm_basin.core.falls import NoSurfaceError, ring_of, surface_of
from calm_basin.core.falls.drains import floors_at, lattice, movable
from calm_basin.core.falls.limits import breaking, fall_limits, fitting
from calm_basin.core.geometry.levels import depth_available, drain_stands_on, levels
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.core.kinds import DrainKind, carrier_of, drain_kind
from calm_basin.core.structure.clearing import exits, levels_by_drop
from calm_basin.core.structure.footing import fitting_family, in_the_way
from calm_basin.core.waste.result import ChannelLine, DrainMap, Offered, Verdict
from calm_basin.core.waste.site import ways_of
from calm_basin.plan import Plan
from calm_basin.plan.places import holds
from calm_basin.plan.shower import LinearDrain
from calm_basin.tolerances import ON_EDGE, SHARE_ROUNDED

MOST = 6000
"""More places are not judged for one map where their floors are known at once."""

MOST_SOLVED, LEAST_SOLVED = 60, 12
"""More floors are not solved for one map, and fewer only where there are fewer places."""

PLANES = 12
"""A floor of up to so many planes is solved for as many places as may be."""


@dataclass
class PlacesJudged:
    """Places (n, 2) with what each comes to."""

    outlets: Array
    verdicts: NDArray[np.object_]
    reasons: NDArray[np.object_]
    recess: Array

    @classmethod
    def of(cls, outlets: Array) -> PlacesJudged:
        n = len(outlets)
        return cls(outlets, np.full(n, "open", object), np.full(n, "", object), np.full(n, np.inf))

    def say(self, where: NDArray[np.bool_], verdict: Verdict, reasons: object) -> None:
        """Give a verdict where there is none yet."""
        fresh = where & (self.verdicts == "open")
        self.verdicts[fresh] = verdict
        told = reasons if isinstance(reasons, np.ndarray) else np.full(len(fresh), reasons, object)
        self.reasons[fresh] = told[fresh]


def drain_map(case: Case) -> DrainMap:
    """Judge every place for the drain, or every line for the channel with each place of its
    outlet."""
    drain = drain_kind(case.plan.shower.drain)
    if drain.channel is not None:
        return _channel_map(case, drain, drain.channel)
    return _point_map(case, drain)


def stride_of(plan: Plan) -> float:
    """How far apart places lie: 25 mm, or an inch."""
    return 25.4 if plan.display.length in ("in", "ft") else 25.0


def _most_solved(case: Case) -> int:
    """How many floors are solved for a map: fewer where one has many planes and takes long."""
    return max(LEAST_SOLVED, MOST_SOLVED * PLANES // max(PLANES, len(case.surface.facets)))


def known_at_once(plan: Plan) -> bool:
    """Whether the floors for all places of a point drain are known without solving each."""
    return (
        movable(plan.shower) is not None
        and plan.shower.rest is None
        and ring_of(plan.shower).convex
    )


def _point_map(case: Case, drain: DrainKind) -> DrainMap:
    plan, stride = case.plan, stride_of(case.plan)
    corners, at_once = np.array(plan.shower.outline), known_at_once(plan)
    low, high = corners.min(axis=0), corners.max(axis=0)
    most = MOST if at_once else _most_solved(case)
    wide, deep = (high - low) / stride
    stride *= max(1, ceil(float(np.sqrt(wide * deep / most))))
    centre = drain.outlet
    places = lattice(low, high, centre, stride)
    judged = PlacesJudged.of(places)
    if at_once:
        _judge_points(case, judged)
    else:
        _judge_solved(case, judged)
    keep = judged.verdicts != "edge"
    return _sent(case, judged, keep, stride, np.array([1.0, 0.0]), centre)


def _judge_points(case: Case, judged: PlacesJudged) -> None:
    """Judge places whose floors are known at once."""
    plan, words = case.plan, case.words
    gradients, drops = floors_at(plan.shower, judged.outlets)
    known = ~np.isnan(drops)
    judged.say(~known, "edge", "The drain would not lie inside the shower")
    rims, bases = levels_by_drop(case, np.where(known, drops, 0.0))
    _judge_floor(case, judged, rims, bases)
    good = fitting(case.rules, np.where(known[:, None], gradients, 1.0), ())
    told = np.full(len(rims), "", object)
    for limit in case.rules.on("shower_fall"):
        if limit.weight != "required":
            continue
        with np.errstate(invalid="ignore"):
            worst = gradients.min(axis=1) if limit.binds == "at_least" else gradients.max(axis=1)
            off = (
                worst < limit.value * (1 - SHARE_ROUNDED)
                if limit.binds == "at_least"
                else worst > limit.value * (1 + SHARE_ROUNDED)
            )
        way = "only" if limit.binds == "at_least" else "as much as"
        for i in np.flatnonzero(off & (told == "")):
            told[i] = f"A plane would fall {way} {words.fall(float(worst[i]))}"
    judged.say(~good, "falls", told)
    _judge_depth(case, judged, bases, _needs(case, judged.outlets))


def _judge_solved(case: Case, judged: PlacesJudged) -> None:
    """Judge places by solving the floor for each."""
    n = len(judged.outlets)
    rims, bases = np.zeros(n), np.zeros(n)
    told = np.full(n, "", object)
    edge = np.zeros(n, dtype=bool)
    for i, place in enumerate(judged.outlets):
        moved = changed(
            case.plan, (Change(path="/shower/drain/centre", value=[float(v) for v in place]),)
        )
        try:
            surface = surface_of(moved)
        except NoSurfaceError as reason:
            edge[i], told[i] = True, str(reason)
            continue
        stack = levels(moved, surface)
        rims[i], bases[i] = stack.drain, stack.base
        told[i] = _fall_off(case, surface)
    judged.say(edge, "edge", told)
    _judge_floor(case, judged, rims, bases)
    judged.say(~edge & (told != ""), "falls", told)
    _judge_depth(case, judged, bases, _needs(case, judged.outlets))


def _fall_off(case: Case, surface: Surface) -> str:
    """What of a solved floor is out of the required limits on falls, in a few words."""
    for limit in fall_limits(case.rules):
        off = breaking(limit, surface) if limit.weight == "required" else []
        if off:
            least = limit.binds == "at_least"
            worst = (min if least else max)(facet.gradient for facet in off)
            return (
                f"A plane would fall {'only' if least else 'as much as'} {case.words.fall(worst)}"
            )
    return ""


def _judge_floor(case: Case, judged: PlacesJudged, rims: Array, bases: Array) -> None:
    """Blocked by what is in the floor."""
    plan = case.plan
    decks = drain_stands_on(plan, bases)
    for way in in_the_way(plan, drain_kind(plan.shower.drain)):
        reached = way.reached(rims, decks)
        if reached.any():
            hit = reached & (way.depths(judged.outlets) > 0)
            near = "comes too near to" if way.service else "would lie on"
            judged.say(hit, "blocked", f"The {way.part} {near} {way.what}")


def _needs(case: Case, outlets: Array) -> Array | None:
    """The lowest levels at which the pipe may start at some outlets; None: not looked at."""
    ways = ways_of(case)
    return None if ways is None else ways.needs(outlets)[0]


def _judge_depth(case: Case, judged: PlacesJudged, bases: Array, needed: Array | None) -> None:
    """Too deep for the deck, or too low for the pipe to get away."""
    plan, words = case.plan, case.words
    judged.recess = -bases
    if carrier_of(plan).refitted:
        missing = -bases - depth_available(plan)
        told = np.full(len(bases), "", object)
        deep = missing > 1e-6
        for i in np.flatnonzero(deep & (judged.verdicts == "open")):
            told[i] = f"The recess would be {words.length(float(missing[i]), 'up')} too deep"
        judged.say(deep, "deep", told)
    family = fitting_family(plan)
    if family is None or needed is None:
        return
    starts = drain_stands_on(plan, bases) - family.trap
    short = needed - starts
    told = np.full(len(bases), "The pipe cannot get to the stack from here", object)
    for i in np.flatnonzero(np.isfinite(short) & (short > 1e-6) & (judged.verdicts == "open")):
        told[i] = f"The pipe would start {words.length(float(short[i]), 'up')} too low"
    judged.say(short > 1e-6, "waste", told)


def _channel_map(case: Case, kind: DrainKind, drain: LinearDrain) -> DrainMap:
    """Each line along which the channel may lie, with each place of its outlet."""
    plan, stride = case.plan, stride_of(case.plan)
    start, end = np.array(drain.start), np.array(drain.end)
    length, outline = drain.size, ring_of(plan.shower).polygon
    along = (end - start) / length
    across = np.array([-along[1], along[0]])
    reach = (np.array(plan.shower.outline) - start) @ across
    count = float(np.ptp(reach)) / stride
    solved = _most_solved(case)
    apart = stride * max(1, ceil(count / solved))
    step = stride * max(1, ceil(length / stride * min(count, solved) / MOST))
    shifts = apart * np.arange(ceil(reach.min() / apart), int(np.floor(reach.max() / apart)) + 1)
    now = length / 2 if drain.outlet is None else drain.outlet
    edge = max(drain.width, 0.0) / 2
    first, last = ceil((edge - now) / step), int(np.floor((length - edge - now) / step))
    outlets = now + step * np.arange(first, last + 1)
    everywhere = start + across * shifts[:, None, None] + along * outlets[:, None]
    needed = _needs(case, everywhere.reshape(-1, 2))
    rows = None if needed is None else needed.reshape(len(shifts), -1)
    lines: list[ChannelLine] = []
    parts: list[PlacesJudged] = []
    for number, shift in enumerate(shifts):
        a, b = start + across * shift, end + across * shift
        moved = drain.model_copy(update={"start": _point(a), "end": _point(b)})
        trough = Polygon(
            [a - across * edge, b - across * edge, b + across * edge, a + across * edge]
        )
        if not holds(outline, trough):
            continue
        judged = PlacesJudged.of(a + along * outlets[:, None])
        shifted = plan.model_copy(
            update={"shower": plan.shower.model_copy(update={"drain": moved})}
        )
        own = None if rows is None else rows[number]
        _judge_line(case, shifted, judged, across * shift, own)
        lines.append(ChannelLine(start=_point(a), end=_point(b)))
        parts.append(judged)
    if not parts:
        empty = PlacesJudged.of(np.empty((0, 2)))
        return _sent(case, empty, np.empty(0, bool), stride, along, kind.outlet)
    whole = PlacesJudged(
        np.vstack([part.outlets for part in parts]),
        np.concatenate([part.verdicts for part in parts]),
        np.concatenate([part.reasons for part in parts]),
        np.concatenate([part.recess for part in parts]),
    )
    line = np.repeat(np.arange(len(parts)), len(outlets))
    return _sent(
        case,
        whole,
        whole.verdicts != "edge",
        stride,
        along,
        kind.outlet,
        (tuple(lines), line, np.tile(outlets, len(parts))),
    )


def _judge_line(
    case: Case, shifted: Plan, judged: PlacesJudged, by: Array, needed: Array | None
) -> None:
    """Judge a channel on one line with its outlet at many places."""
    n = len(judged.outlets)
    if not n:
        return
    try:
        surface = surface_of(shifted)
    except NoSurfaceError as reason:
        judged.say(np.ones(n, bool), "edge", str(reason))
        return
    stack = levels(shifted, surface)
    rims, bases = np.full(n, stack.drain), np.full(n, stack.base)
    decks = drain_stands_on(shifted, bases)
    drain = drain_kind(case.plan.shower.drain)
    for way in in_the_way(case.plan, drain):
        if not way.reached(rims, decks)[0]:
            continue
        # Wherever its outlet is, the trough lies on the same line.
        places = judged.outlets if way.part == "hole" else (drain.outlet + by)[None]
        hit = np.broadcast_to(way.depths(places) > 0, n)
        near = "comes too near to" if way.service else "would lie on"
        judged.say(hit, "blocked", f"The {way.part} {near} {way.what}")
    off = _fall_off(case, surface)
    judged.say(np.full(n, off != ""), "falls", off)
    _judge_depth(case, judged, bases, needed)


def _point(place: Array) -> tuple[float, float]:
    return (round(float(place[0]), 4), round(float(place[1]), 4))


def _sent(
    case: Case,
    judged: PlacesJudged,
    keep: NDArray[np.bool_],
    stride: float,
    along: Array,
    at: Array,
    channel: tuple[tuple[ChannelLine, ...], NDArray[np.int64], Array] | None = None,
) -> DrainMap:
    """The map as it is sent, without places outside the shower."""
    words = case.words
    places = judged.outlets[keep]
    verdicts, recess = judged.verdicts[keep], judged.recess[keep]
    reasons = [
        _open(case, depth) if verdict == "open" else reason
        for verdict, reason, depth in zip(verdicts, judged.reasons[keep], recess, strict=True)
    ]
    listed = list(dict.fromkeys(reasons))
    number = {text: i for i, text in enumerate(listed)}
    across = np.array([-along[1], along[0]])
    steps = np.round((places - at) @ np.array([along, across]).T / stride).astype(int)
    apart = np.hypot(*(places - at).T) if len(places) else np.empty(0)
    here = int(apart.argmin()) if len(apart) and apart.min() < ON_EDGE else None
    free = np.flatnonzero(verdicts == "open")
    lines, line, outlets = channel or ((), np.empty(0, int), np.empty(0))
    line, outlets = (line[keep], outlets[keep]) if channel else (line, outlets)

    def offered(place: int, text: str) -> Offered:
        changes: tuple[Change, ...]
        if channel:
            on = lines[int(line[place])]
            changes = (
                Change(path="/shower/drain/start", value=list(on.start)),
                Change(path="/shower/drain/end", value=list(on.end)),
                Change(path="/shower/drain/outlet", value=round(float(outlets[place]), 4)),
            )
        else:
            changes = (Change(path="/shower/drain/centre", value=list(_point(places[place]))),)
        move = places[place] - at
        moved = "where it is" if place == here else words.move(float(move[0]), float(move[1]))
        return Offered(
            text=f"{text}: {moved}, {reasons[place].lower()}", place=place, changes=changes
        )

    best = nearest = None
    if len(free):
        order = np.lexsort((apart[free], np.round(recess[free], 3)))
        best = offered(int(free[order[0]]), "The best")
        nearest = offered(int(free[apart[free].argmin()]), "The nearest")
    elif len(places) and channel is None:
        nearest = _between(case, at, places)
    return DrainMap(
        stride=stride,
        along=(float(along[0]), float(along[1])),
        x=tuple(places[:, 0].round(3).tolist()),
        y=tuple(places[:, 1].round(3).tolist()),
        column=tuple(steps[:, 0].tolist()),
        row=tuple(steps[:, 1].tolist()),
        verdict=tuple(verdicts.tolist()),
        reason=tuple(number[text] for text in reasons),
        reasons=tuple(listed),
        lines=lines,
        line=tuple(line.tolist()),
        outlet=tuple(outlets.round(4).tolist()),
        here=here,
        summary=_summary(len(free), len(places), words.length(stride)),
        best=best,
        nearest=nearest,
    )


def _between(case: Case, at: Array, places: Array) -> Offered | None:
    """A place where the drain can go although no place of the map works: just out of the way."""
    moves = exits(case, drain_kind(case.plan.shower.drain))
    if not moves or not known_at_once(case.plan):
        return None
    judged = PlacesJudged.of(np.array([at + by for by in moves]))
    _judge_points(case, judged)
    for place, by, verdict, recess in zip(
        judged.outlets, moves, judged.verdicts, judged.recess, strict=True
    ):
        if verdict == "open":
            move = case.words.move(float(by[0]), float(by[1]))
            return Offered(
                text=f"Between the places of the map: {move}, {_open(case, recess).lower()}",
                place=int(np.hypot(*(places - place).T).argmin()),
                changes=(Change(path="/shower/drain/centre", value=list(_point(place))),),
            )
    return None


def _summary(free: int, of: int, apart: str) -> str:
    if not free:
        return f"No place works on a {apart} grid: point at a place to see why"
    if free == of:
        return "Everywhere in the shower"
    share = free / of
    return f"In {'less than 1 %' if share < 0.01 else f'{share:.0%}'} of the places {apart} apart"


def _open(case: Case, recess: float) -> str:
    words = case.words
    if recess <= 0:
        return "No recess, nothing to cut"
    return f"Recess {words.length(float(recess), 'up')}"
