"""Solve a plan: call the trade's subjects in its order and gather what follows."""

from __future__ import annotations

from collections.abc import Collection, Sequence
from math import ceil, floor
from typing import Literal

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core import buildup, checks, depth, falls
from calm_basin.core.corridor import corridor
from calm_basin.core.cures import arrangements, sloped, step_of
from calm_basin.core.findings.common import broken_limit, in_order, label_point
from calm_basin.core.pins import pins
from calm_basin.core.section import cut_along, joist_rectangles, main_cut, section
from calm_basin.core.solution import (
    XY,
    Caution,
    Contour,
    Drawing,
    Figure,
    Figures,
    FloorSurface,
    Input,
    Joist,
    Plane,
    Solution,
    SpotKind,
    SpotLevel,
    Unit,
    Way,
    Working,
)
from calm_basin.core.surface import Array, Surface
from calm_basin.core.surveyed import survey_findings, surveyed
from calm_basin.core.tiling import fold_line, tile_notes
from calm_basin.core.trying import Case
from calm_basin.core.water import reserve, water
from calm_basin.core.wording import Words
from calm_basin.plan import Plan, PlanError, Problem, quantities
from calm_basin.plan.model import JoistFloor, LinearDrain, PointDrain, SlopePanels, Tray
from calm_basin.rules import RuleSet, UnknownRuleSetError, rule_set
from calm_basin.units import MM_PER_INCH

Part = Literal["water", "pins"]

ARITHMETIC = "Arithmetic of the build-up"
NOT_SOLVED = "—"
MOST_LISTED = 80
"""Most readings whose own numbers are printed for a list that can be edited."""

FLUSH = 0.05
"""A step that is smaller, mm, is none."""

SPOT_CLEARANCE = 45.0
"""How far, in mm, spot levels of the grid keep from edges so that their figures can be read."""


def solve(
    plan: Plan,
    at: Sequence[XY] = (),
    *,
    cut: tuple[XY, XY] | None = None,
    parts: Collection[Part] = (),
) -> Solution:
    """Work out everything that follows from a plan.

    Parameters
    ----------
    plan : Plan
    at : sequence of (x, y), optional
        Places on plan, mm, whose finished level is asked for.
    cut : pair of (x, y), optional
        Ends of a line along which the section is cut, in place of the one through entry and drain.
    parts : collection of {"water", "pins"}, optional
        What is worked out besides: it takes longer and is not needed for every answer.

    Returns
    -------
    Solution
        ``complete`` is false where the falls cannot be worked out; a finding then says why.

    Raises
    ------
    PlanError
        The plan names a rule set that there is not.
    """
    try:
        rules = rule_set(plan.rule_set)
    except UnknownRuleSetError as unknown:
        raise PlanError([Problem("/rule_set", str(unknown))]) from None
    words = Words.of(plan)
    ring = falls.ring_of(plan.shower)
    rims = falls.rims_of(plan.shower)
    room = Polygon(plan.room.outline)
    joists = joist_rectangles(plan.floor, room) if isinstance(plan.floor, JoistFloor) else []
    survey = surveyed(plan, words, joists)
    cautions = _cautions(plan, rules)
    common = {
        "rule_set": rules.name,
        "deference": rules.deference,
        "arrangements": arrangements(plan, words),
        "drawing": _drawing(plan, words, ring, rims, joists),
        "cautions": cautions,
        "nudge": words.display.step,
        "survey": survey,
        "plan_texts": _plan_texts(plan, words),
    }
    try:
        surface = falls.surface_of(plan)
    except falls.NoSurfaceError as reason:
        return Solution(
            complete=False,
            figures=_figures(plan, words, None),
            surface=None,
            corridor=None,
            section=None,
            findings=(
                checks.no_surface(plan, rules, words, reason),
                *in_order([found.finding for found in survey_findings(plan, words)]),
            ),
            ways=(),
            asked=tuple(_spot("asked", x, y, None, 0.0, words) for x, y in at),
            **common,
        )
    common["cautions"] = (Caution(code="reserve", text=reserve(plan, surface)), *cautions)
    levels = buildup.levels(plan, surface)
    case = Case(plan, rules, words, surface, levels)
    found = checks.findings(case)
    ways: tuple[Way, ...] = depth.ways(case, checks.CHECKS, found)
    asked = surface.heights(np.array(at, dtype=float)) if at else np.empty(0)
    line = main_cut(ring, room, rims[0]) if cut is None else cut_along(room, *cut)
    return Solution(
        complete=True,
        figures=_figures(plan, words, surface),
        surface=_floor(plan, rules, words, surface, levels.datum),
        corridor=corridor(plan, rules, words, surface, found),
        section=section(plan, words, ring, surface, levels, line, joists),
        findings=found,
        ways=ways,
        water=water(plan, words, surface) if "water" in parts else None,
        pins=pins(plan, words, surface, levels) if "pins" in parts else None,
        asked=tuple(
            _spot("asked", x, y, None if np.isnan(z) else float(z), levels.datum, words)
            for (x, y), z in zip(at, asked, strict=True)
        ),
        **common,
    )


def _figures(plan: Plan, words: Words, surface: Surface | None) -> Figures:
    """The key figures with their workings; without a surface, what does not hang on it."""
    levels = buildup.levels(plan, surface)
    former = plan.shower.former
    tray = isinstance(former, Tray)
    packed = former.raised if isinstance(former, Tray) else 0.0
    # Packing a tray up lifts its drain with it: how far the floor falls stays the same.
    drop = levels.entry + packed - levels.drain if surface else None
    known = surface is not None
    room = [Input(name=x.name, text=words.length(x.thickness)) for x in plan.room.layers]
    cover = buildup.pour_cover(plan)
    if cover:
        room.append(Input(name="pour over the high spot", text=words.length(cover)))
    above = [Input(name=x.name, text=words.length(x.thickness)) for x in plan.shower.layers]
    available = buildup.depth_available(plan)
    joists = isinstance(plan.floor, JoistFloor)
    left = max(0.0, levels.recess - available)

    def length(name: str, value: float | None) -> Input:
        return Input(name=name, text=NOT_SOLVED if value is None else words.length(value))

    def figure(
        label: str,
        value: float | None,
        text: str,
        formula: str,
        inputs: list[Input],
        *,
        source: str = ARITHMETIC,
        note: str = "",
        unit: Unit = "mm",
    ) -> Figure:
        working = Working(formula=formula, inputs=tuple(inputs), source=source, note=note)
        shown = NOT_SOLVED if value is None else text
        return Figure(label=label, value=value, unit=unit, text=shown, working=working)

    if isinstance(former, Tray):
        under = [length("tray edge thickness", former.edge_thickness)]
        under += [length("packed up", former.raised)] if former.raised else []
    else:
        under = [length("least thickness at the drain", buildup.under_drain(plan))]
    stands_on = "entry" if tray else "drain"
    base = levels.base if known or tray else None
    gradients = [facet.gradient for facet in sloped(surface)] if surface else []
    step = step_of(plan, surface) if surface else None
    built = plan.shower.built_fall
    run = None if drop is None else drop / built
    how = _run_in_words(plan)
    of_what = "the panels' fall" if isinstance(former, SlopePanels) else "fall asked"
    fall_inputs = (
        [
            Input(
                name=f"{facet.name} plane over {words.length(facet.run)}",
                text=words.fall(facet.gradient),
            )
            for facet in {facet.name: facet for facet in sloped(surface)}.values()
        ]
        if surface
        else []
    )
    return Figures(
        recess_needed=figure(
            "Recess needed",
            None if base is None else -base,
            "none" if base is not None and base >= 0 else words.length(levels.recess, "up"),
            "recess = −base; a base above the deck or slab top needs none",
            [length("base level", base)],
            note="Rounded up to what can be measured on site."
            if levels.recess > 0
            else f"{words.length(levels.base)} to spare: the shower can be packed up.",
        ),
        recess_available=figure(
            "Recess available",
            available,
            words.length(available, "down") if joists else "none without a scan",
            "the deck, lifted and refitted between the joists flush with their tops, gives its "
            "thickness"
            if joists
            else "a slab gives nothing until it was scanned and somebody who may has agreed",
            [length("deck thickness", plan.floor.deck_thickness)]
            if isinstance(plan.floor, JoistFloor)
            else [],
            source="Common practice, no source",
            note="An engineer decides on anything that touches structure.",
        ),
        recess_left_to_find=figure(
            "Left to find",
            None if base is None else left,
            words.length(left, "up") if left > 1e-6 else "nothing",
            "left to find = recess needed − recess available, at least 0",
            [
                length("recess needed", None if base is None else -base),
                length("available", available),
            ],
        ),
        drop_at_drain=figure(
            "Drop at drain",
            drop,
            words.length(drop or 0.0),
            f"drop = {of_what} × {how}",
            [Input(name=of_what, text=words.fall(built)), length(how, run)],
            source="Common practice, no source",
        ),
        fall_steepest=figure(
            "Steepest plane",
            max(gradients, default=None),
            words.fall(max(gradients, default=0.0)),
            "gradient of a plane = its drop ÷ its run, square to its high edge",
            fall_inputs,
            source="Geometry of the floor",
            unit="rise_per_run",
        ),
        fall_flattest=figure(
            "Flattest plane",
            min(gradients, default=None),
            words.fall(min(gradients, default=0.0)),
            "gradient of a plane = its drop ÷ its run, square to its high edge",
            fall_inputs,
            source="Geometry of the floor",
            unit="rise_per_run",
        ),
        step_at_entry=figure(
            "Step at entry",
            step,
            _step_text(words, step or 0.0),
            "step down = set-down + how far the floor falls along the entry edge; below 0 it is a "
            "step up",
            [
                length("set-down", plan.shower.set_down),
                length(
                    "fall along the entry", None if step is None else step - plan.shower.set_down
                ),
            ],
        ),
        room_level=figure(
            "Room FFL",
            levels.room,
            words.length(levels.room),
            "room FFL = sum of the room's layers, from the deck or slab top",
            room,
        ),
        entry_level=figure(
            "Entry FFL",
            levels.entry,
            words.length(levels.entry),
            "entry FFL = room FFL − set-down",
            [length("room FFL", levels.room), length("set-down", plan.shower.set_down)],
        ),
        drain_level=figure(
            "Drain FFL",
            levels.drain if known else None,
            words.length(levels.drain),
            "drain FFL = entry FFL − drop" + (" + packed up" if packed else ""),
            [
                length("entry FFL", levels.entry),
                length("drop", drop),
                *([length("packed up", packed)] if packed else []),
            ],
        ),
        base_level=figure(
            "Base",
            base,
            words.length(levels.base, "down"),
            f"base = {stands_on} FFL − shower layers − "
            + ("tray edge thickness" if tray else "least thickness at the drain"),
            [
                length(
                    f"{stands_on} FFL", levels.entry if tray else levels.drain if known else None
                ),
                *above,
                *under,
            ],
        ),
    )


def _step_text(words: Words, step: float) -> str:
    """A step at the entry in words, with its way as one who walks in meets it."""
    if abs(step) <= FLUSH:
        return "flush"
    return f"{words.length(abs(step), 'up')} {'down' if step > 0 else 'up'}"


def _run_in_words(plan: Plan) -> str:
    if plan.shower.fall.edge == "even":
        return "run from the farthest end of the entry to the rim"
    if not isinstance(plan.shower.drain, PointDrain):
        return "run from the entry to the channel"
    if plan.shower.fall.measured == "corner_run":
        return "corner run, from the farthest corner to the nearest point of the rim"
    return "plane run, the longest square to a wall"


def _floor(
    plan: Plan, rules: RuleSet, words: Words, surface: Surface, datum: float
) -> FloorSurface:
    depth_range = surface.highest - surface.lowest
    interval = _contour_interval(depth_range, words)
    levels = np.arange(
        floor(surface.lowest / interval) * interval, surface.highest + interval, interval
    )
    contours = []
    for height in levels:
        if surface.lowest + 1e-6 < height < surface.highest - 1e-6:
            lines = surface.contour(float(height))
            if lines:
                contours.append(
                    Contour(
                        depth=float(-height) + 0.0,
                        text=words.bare(float(-height)),
                        lines=tuple(_ring(line) for line in lines),
                    )
                )
    widest = sorted(surface.facets, key=lambda facet: facet.polygon.area)
    labelled = {id(facet) for facet in {facet.name: facet for facet in widest}.values()}
    return FloorSurface(
        planes=tuple(
            Plane(
                name=facet.name,
                polygon=_ring(facet.corners[:, :2]),
                heights=tuple(float(datum + z) for z in facet.corners[:, 2]),
                gradient=facet.gradient,
                text=words.fall(facet.gradient),
                run=facet.run,
                downhill=facet.downhill,
                label_at=label_point(facet),
                severity=broken_limit(rules, facet),
                labelled=id(facet) in labelled,
            )
            for facet in surface.facets
        ),
        folds=tuple(fold_line(plan, words, fold) for fold in surface.folds),
        contour_interval=interval,
        contour_interval_text=words.length(interval),
        contours=tuple(contours),
        spot_levels=tuple(_spot_levels(surface, datum, words)),
        tile_notes=tile_notes(plan, words, surface.folds),
        side_levels=_side_levels(plan, words, surface),
        shallowest=-surface.highest,
        deepest=-surface.lowest,
    )


def _side_levels(plan: Plan, words: Words, surface: Surface) -> tuple[str, ...]:
    """How each side of the shower lies to its edge level, in words, in the document's order."""
    found = []
    outline = np.array(plan.shower.outline)
    for start, end in zip(outline, np.roll(outline, -1, axis=0), strict=True):
        places = start + np.linspace(0, 1, 9)[:, None] * (end - start)
        heights = surface.heights(places, "shower") - surface.edge
        heights = heights[~np.isnan(heights)]
        ends = (
            sorted({words.length(float(z)) for z in (heights.min(), heights.max())})
            if len(heights)
            else []
        )
        found.append(f"edge at {' to '.join(ends)}" if ends else "")
    return tuple(found)


def _contour_interval(depth: float, words: Words) -> float:
    """A round interval that gives about eight contours."""
    choices = (
        [MM_PER_INCH / n for n in (32, 16, 8, 4, 2, 1)]
        if words.display.imperial
        else [0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0]
    )
    return next((c for c in choices if depth / c <= 10), choices[-1])


def _spot_levels(surface: Surface, datum: float, words: Words) -> list[SpotLevel]:
    corners = shapely.get_coordinates(surface.outline.exterior)[:-1]
    rim = shapely.get_coordinates([shape.exterior for shape in surface.rims])
    longest = float(np.ptp(corners, axis=0).max())
    unit = 6 * MM_PER_INCH if words.display.imperial else 150.0
    grid = surface.grid(unit * max(1, ceil(longest / unit / 10)), SPOT_CLEARANCE)
    found = []
    places: tuple[tuple[SpotKind, Array], ...] = (("corner", corners), ("rim", rim), ("grid", grid))
    for kind, points in places:
        if len(points):
            for (x, y), z in zip(points, surface.heights(points), strict=True):
                if not np.isnan(z):
                    found.append(_spot(kind, float(x), float(y), float(z), datum, words))
    return found


def _spot(
    kind: SpotKind, x: float, y: float, relative: float | None, datum: float, words: Words
) -> SpotLevel:
    """A spot level; ``relative`` is its height from the surface's 0, None outside the floor."""
    if relative is None:
        return SpotLevel(kind=kind, x=x, y=y, height=None, depth=None, text="outside the shower")
    depth = 0.0 - relative
    return SpotLevel(
        kind=kind, x=x, y=y, height=datum + relative, depth=depth, text=words.bare(depth)
    )


def _ring(points: Array) -> tuple[XY, ...]:
    return tuple((float(x), float(y)) for x, y in points)


def _drawing(
    plan: Plan, words: Words, ring: falls.Ring, rims: tuple[Array, ...], joists: list[Polygon]
) -> Drawing:
    drain, outlet, offset = plan.shower.drain, None, None
    if isinstance(drain, LinearDrain):
        start, end = np.array(drain.start), np.array(drain.end)
        length = float(np.hypot(*(end - start)))
        offset = length / 2 if drain.outlet is None else drain.outlet
        (outlet,) = _ring((start + (end - start) * offset / length)[None])
    return Drawing(
        rims=tuple(_ring(rim) for rim in rims),
        outlet=outlet,
        outlet_offset=offset,
        joists=tuple(
            Joist(outline=_ring(shapely.get_coordinates(shape.exterior)[:-1])) for shape in joists
        ),
        entries=tuple(
            ((float(a[0]), float(a[1])), (float(b[0]), float(b[1])))
            for a, b in (ring.edge(i) for i in sorted(ring.entries))
        ),
        room_sides=_edge_lengths(plan.room.outline, words),
        shower_sides=_edge_lengths(plan.shower.outline, words),
    )


def _edge_lengths(outline: tuple[XY, ...], words: Words) -> tuple[str, ...]:
    points = np.array(outline)
    lengths = np.linalg.norm(np.roll(points, -1, axis=0) - points, axis=1)
    return tuple(words.bare(float(length)) for length in lengths)


def _plan_texts(plan: Plan, words: Words) -> dict[str, str]:
    texts = {}
    if len(plan.survey.levels) > MOST_LISTED:
        # Thousands of readings are printed once, as soundings, and not listed for editing.
        plan = plan.model_copy(update={"survey": plan.survey.model_copy(update={"levels": ()})})
    for path, kind, value in quantities(plan):
        if kind == "length":
            texts[path] = words.bare(value)
        elif kind == "fall":
            texts[path] = words.fall(value)
        else:
            texts[path] = f"{value:g}°"
    return texts


def _cautions(plan: Plan, rules: RuleSet) -> tuple[Caution, ...]:
    if isinstance(plan.floor, JoistFloor):
        structure = Caution(
            code="structure",
            text="Joists are structure. Never notch or cut them by this plan: an engineer decides.",
        )
    else:
        structure = Caution(
            code="slab",
            text="Never cut a slab blind: scan it for stressed cables, heating pipes and the "
            "damp-proof membrane.",
        )
    return (
        structure,
        Caution(
            code="services",
            text="Live wires and pipes may lie under the floor. Find them before a saw goes in. "
            "Electrical and waste connections are for licensed trades.",
        ),
        Caution(
            code="dust",
            text="Cutting tile, board or slab frees silica dust: cut wet or extract, and wear a "
            "mask. Old floor coverings may hold asbestos.",
        ),
        Caution(code="deference", text=rules.deference),
    )
