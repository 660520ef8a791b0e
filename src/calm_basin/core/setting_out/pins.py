"""Screed pins: where they stand, how they are cut, and the card to check the bed with."""

from __future__ import annotations

from itertools import pairwise
from math import ceil, cos, radians, sin
from typing import Literal

import numpy as np
import shapely
from shapely.geometry import LineString

from calm_basin.core.answer.words import Words
from calm_basin.core.falls import ring_of
from calm_basin.core.geometry.levels import (
    Levels,
    cast_on,
    laid_on,
    levels,
    pour_cover,
    shower_layers,
    shower_pour,
    under_drain,
)
from calm_basin.core.geometry.lifts import lower_lift_rise
from calm_basin.core.geometry.surface import Array, Surface
from calm_basin.core.kinds import carrier_of, drain_kind, former_of
from calm_basin.core.setting_out.result import CheckLine, Pin, PinsResult
from calm_basin.core.setting_out.rounding import cut_to_units, neighbours
from calm_basin.core.survey.ground import ground_of
from calm_basin.plan import Plan
from calm_basin.plan.layers import thick
from calm_basin.tolerances import SAME_PLACE, UNSEEN
from calm_basin.units import MM_PER_INCH

Kind = Literal["rim", "fold", "edge", "field"]

ORDER: dict[Kind, int] = {"rim": 0, "fold": 1, "edge": 2, "field": 3}
"""The order in which pins are set: everything is measured from the rim."""

APART = 0.3
"""Pins nearer to each other than this share of their spacing are one."""

MOST_NAMED = 6
"""Pairs of pins that are named where rounding turns them."""

MOST_PINS = 600

LINES, STEPS = 6, 6
"""Lines of the check card, and at most so many places on each."""


def pins(plan: Plan, words: Words, surface: Surface) -> PinsResult:
    """The pins of a setting bed in laying order, cut to the installer's unit.

    Parameters
    ----------
    plan : Plan
    surface : Surface
        The finished floor; the bed lies under the shower's layers.

    Notes
    -----
    Pin height = bed surface − base, rounded by `cut_to_units`. Of a bed in two lifts the pins set
    the lower one: through the membrane none go.
    """
    stack = levels(plan, surface)
    unit = words.display.step if words.display.imperial else 1.0
    lines = check_lines(plan, words, surface)
    none = ""
    if not former_of(plan.shower).cast:
        none = "A tray or panels have their falls built in: no pins are set."
    elif _about(plan, surface) > MOST_PINS:
        none = (
            f"About {_about(plan, surface)} pins would stand "
            f"{words.length(plan.setting_out.pin_spacing)} "
            f"apart; at most {MOST_PINS} are laid out. Set them wider."
        )
    if none:
        return PinsResult(
            pins=(),
            unit_text=words.length(unit),
            worst=0.0,
            cost="",
            stands_on="",
            lines=lines,
            none_because=none,
        )
    places, kinds = layout(plan, surface)
    finished = surface.heights(places)
    known = ~np.isnan(finished)
    places, finished = places[known], finished[known]
    kinds = [kind for kind, keep in zip(kinds, known, strict=True) if keep]
    inside = surface.in_shower(places)
    room_layers = thick(plan.room.layers[:-1])
    cover = np.where(inside, shower_layers(plan), room_layers)
    tops = stack.datum + finished - cover
    bases, stands_on = _bases(plan, places, inside, stack)
    least = np.where(inside, under_drain(plan) or 0.0, 0.0)
    lower = former_of(plan.shower).lower
    if lower is not None:
        lift = lower.least_thickness + lower_lift_rise(plan, surface, places)
        tops = np.where(inside, laid_on(plan, stack) + lift, tops)
        least = np.where(inside, lower.least_thickness, least)
        stands_on += "; they set the lower lift, and the membrane goes over them"
    pairs = neighbours(places, surface, plan.setting_out.pin_spacing)
    cut, turned = cut_to_units(pairs, tops, bases, unit, np.minimum(least, tops - bases))
    order = _laying_order(plan, places, kinds)
    numbers = {i: number for number, i in enumerate(order, start=1)}
    found = []
    for number, i in enumerate(order, start=1):
        top = float(bases[i] + cut[i])
        found.append(
            Pin(
                number=number,
                kind=kinds[i],
                x=float(places[i][0]),
                y=float(places[i][1]),
                height=float(tops[i] - bases[i]),
                cut=float(cut[i]),
                text=words.bare(float(cut[i])),
                top=top,
                on=carrying(plan, stack, inside=bool(inside[i])),
            )
        )
    worst = float(np.abs(cut - (tops - bases)).max(initial=0.0))
    return PinsResult(
        pins=tuple(found),
        unit_text=words.length(unit),
        worst=worst,
        cost=_cost(
            places,
            pairs,
            tops,
            bases + cut,
            [(numbers[a], numbers[b]) for a, b in turned],
            words,
            unit,
            worst,
        ),
        stands_on=stands_on,
        lines=lines,
        none_because="",
    )


def _about(plan: Plan, surface: Surface) -> int:
    """How many pins there will be, roughly."""
    area, length = float(surface.outline.area), float(surface.outline.length)
    return round(area / plan.setting_out.pin_spacing**2 + length / plan.setting_out.pin_spacing)


def layout(plan: Plan, surface: Surface) -> tuple[Array, list[Kind]]:
    """Where pins stand: the rim's corners, along folds and edges, and a grid between them."""
    spacing = plan.setting_out.pin_spacing
    found: list[tuple[Kind, Array]] = []
    for rim in surface.rims:
        found += [("rim", point) for point in shapely.get_coordinates(rim.exterior)[:-1]]
    for fold in surface.folds:
        found += [("fold", p) for p in _along(np.array([fold.start[:2], fold.end[:2]]), spacing)]
    corners = shapely.get_coordinates(surface.outline.exterior)
    for edge in pairwise(corners):
        found += [("edge", point) for point in _along(np.array(edge), spacing)]
    found += [("field", point) for point in surface.grid(spacing, spacing * APART)]
    places: list[Array] = []
    kinds: list[Kind] = []
    for kind, point in found:
        if (
            not places
            or np.hypot(*(np.array(places) - point).T).min() >= spacing * APART
            or (kind == "rim" and np.hypot(*(np.array(places) - point).T).min() > SAME_PLACE)
        ):
            places.append(point)
            kinds.append(kind)
    return np.array(places), kinds


def _along(ends: Array, spacing: float) -> Array:
    """Places on a line, its ends included, at most the spacing apart."""
    count = max(ceil(float(np.hypot(*(ends[1] - ends[0]))) / spacing - 1e-9), 1)
    places: Array = ends[0] + np.linspace(0, 1, count + 1)[:, None] * (ends[1] - ends[0])
    return places


def _bases(
    plan: Plan, places: Array, inside: np.ndarray[tuple[int], np.dtype[np.bool_]], stack: Levels
) -> tuple[Array, str]:
    """Level of what each pin stands on, and what that is in words."""
    flat = np.where(inside, cast_on(plan, stack), pour_cover(plan))
    floor = ground_of(plan) if plan.survey.correction is None else None
    if floor is None:
        return flat, f"the {carrying(plan, stack, inside=True)}, taken as level"
    depths = floor.high.height - floor.heights(places)[0]
    # A recess is framed or cut level; what stays of the old floor is as it was read.
    stays = ~inside | (stack.recess <= 0)
    return flat - np.where(stays, depths, 0.0), "the floor as it was read"


def carrying(plan: Plan, stack: Levels, *, inside: bool) -> str:
    """What a pin stands on, in words, inside or outside the shower."""
    carrier = carrier_of(plan)
    if shower_pour(plan) if inside else pour_cover(plan):
        return "pour"
    if not inside or stack.recess <= UNSEEN:
        return carrier.name
    return carrier.recessed_name


def loses_most(
    places: Array, pairs: list[tuple[int, int]], tops: Array, real: Array
) -> tuple[float, float]:
    """The falls, rise over run, as cut and as planned, between the neighbours that lose most of
    theirs: `pairs` of pins at `places`, (n, 2), with `tops` by plan and `real` as cut, mm, (n,)."""
    ends = np.array(pairs).reshape(-1, 2)
    if not len(ends):
        return 0.0, 0.0
    lengths = np.hypot(*(places[ends[:, 0]] - places[ends[:, 1]]).T)
    way = np.sign(tops[ends[:, 0]] - tops[ends[:, 1]])
    planned, now = (way * (at[ends[:, 0]] - at[ends[:, 1]]) / lengths for at in (tops, real))
    now = np.maximum(now, 0.0)
    worst = int((planned - now).argmax())
    return float(now[worst]), float(planned[worst])


def _cost(
    places: Array,
    pairs: list[tuple[int, int]],
    tops: Array,
    real: Array,
    turned: list[tuple[int, int]],
    words: Words,
    unit: float,
    worst: float,
) -> str:
    """What rounding costs, in words. ``turned`` are pairs of pins' numbers."""
    said = f"Cut to {words.length(unit)}: at most {words.length(worst, 'up')} off the plan."
    now, planned = loses_most(places, pairs, tops, real)
    if now < planned * (1 - 1e-6):
        said += (
            f" The pair that loses most falls {words.fall_off(now, planned)} instead of "
            f"{words.fall(planned)}."
        )
    if not turned:
        return said + " Rounding never reverses the fall between two pins."
    names = ", ".join(f"{a} and {b}" for a, b in turned[:MOST_NAMED])
    more = f" and {len(turned) - MOST_NAMED} more" if len(turned) > MOST_NAMED else ""
    return said + (
        f" On this floor no cut keeps the fall between pins {names}{more}: level the base there, "
        "or cut them to a finer measure."
    )


def _laying_order(plan: Plan, places: Array, kinds: list[Kind]) -> list[int]:
    """The rim first, then folds, edges and field, each from far off back towards the entry."""
    inward = ring_of(plan.shower).inward
    depth = places @ inward
    across = places @ np.array([-inward[1], inward[0]])
    return sorted(
        range(len(places)),
        key=lambda i: (ORDER[kinds[i]], -round(float(depth[i])), round(float(across[i]))),
    )


def _ridge(surface: Surface) -> shapely.Geometry:
    """The level line between two drains."""
    level = [f for f in surface.folds if not f.valley and f.gradient * f.length < SAME_PLACE]
    return shapely.union_all([LineString([f.start[:2], f.end[:2]]) for f in level])


def check_lines(plan: Plan, words: Words, surface: Surface) -> tuple[CheckLine, ...]:
    """Six lines from the rim outwards, with how far the floor rises over the rim along each."""
    step = 12 * MM_PER_INCH if words.display.imperial else 300.0
    rim, drain = surface.rims[0], drain_kind(plan.shower.drain).channel
    middle = shapely.get_coordinates(rim.centroid)[0]
    inward = ring_of(plan.shower).inward
    rays: list[tuple[Array, Array]] = []
    if drain is not None:
        start, end = np.array(drain.start), np.array(drain.end)
        across = np.array([-(end - start)[1], (end - start)[0]]) / np.hypot(*(end - start))
        sides = [
            way
            for way in (across, -across)
            if shapely.contains_xy(surface.outline, *(middle + way * (drain.width / 2 + 5)))
        ]
        each = LINES // max(len(sides), 1)
        rays = [
            (start + (k + 0.5) / each * (end - start), way) for way in sides for k in range(each)
        ]
    else:
        for k in range(LINES):
            turn = radians(360 / LINES * k)
            rays.append(
                (
                    middle,
                    np.array(
                        [
                            -inward[0] * cos(turn) + inward[1] * sin(turn),
                            -inward[0] * sin(turn) - inward[1] * cos(turn),
                        ]
                    ),
                )
            )
    found = []
    far = 4 * float(np.ptp(shapely.get_coordinates(surface.outline), axis=0).max())
    for k, (foot, way) in enumerate(rays, start=1):
        ray = LineString([foot, foot + way * far]).intersection(surface.outline)
        ray = ray.difference(surface.rim)
        if len(surface.rims) > 1:
            # Beyond the ridge the floor falls to the other drain.
            ray = ray.difference(_ridge(surface).buffer(SAME_PLACE))
        parts = [p for p in shapely.get_parts(ray) if p.length > 1]
        if not parts:
            continue
        line = min(parts, key=lambda part: part.distance(shapely.points(foot)))
        ends = shapely.get_coordinates(line)
        ends = ends[np.argsort((ends - foot) @ way)]
        length = float(np.hypot(*(ends[-1] - ends[0])))
        count = max(1, min(STEPS, int(length // step)))
        reach = [step * n for n in range(1, count + 1) if step * n < length - step / 4]
        reach.append(length)
        at = ends[0] + np.array(reach)[:, None] * way
        # The far end lies on the wall within rounding: look a hair inside.
        heights = surface.heights(np.array([*at[:-1], at[-1] - way * SAME_PLACE]))
        found.append(
            CheckLine(
                name=f"line {k}",
                start=(float(ends[0][0]), float(ends[0][1])),
                end=(float(ends[-1][0]), float(ends[-1][1])),
                distances=tuple(words.bare(x) for x in reach),
                rises=tuple(words.bare(float(z + surface.drop)) for z in heights),
            )
        )
    return tuple(found)
