"""Solve a plan: call the trade's subjects in its order and gather what follows."""

from __future__ import annotations

from collections.abc import Sequence
from math import ceil, floor

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core import buildup, depth, falls
from calm_basin.core import findings as checks
from calm_basin.core.cures import drain_choices, sloped, step_of
from calm_basin.core.section import joist_rectangles, main_cut, section
from calm_basin.core.solution import (
    XY,
    Caution,
    Contour,
    Drawing,
    Figure,
    Figures,
    Finding,
    FloorSurface,
    FoldLine,
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
from calm_basin.core.surveyed import surveyed
from calm_basin.core.wording import Words
from calm_basin.plan import Plan, PlanError, Problem, quantities
from calm_basin.plan.model import JoistFloor, MortarBed, PointDrain
from calm_basin.rules import RuleSet, UnknownRuleSetError, rule_set
from calm_basin.units import MM_PER_INCH

ARITHMETIC = "Arithmetic of the build-up"
NOT_SOLVED = "—"
MOST_LISTED = 80
"""Most readings whose own numbers are printed for a list that can be edited."""

SPOT_CLEARANCE = 45.0
"""How far, in mm, spot levels of the grid keep from edges so that their figures can be read."""


def solve(plan: Plan, at: Sequence[XY] = ()) -> Solution:
    """Work out everything that follows from a plan.

    Parameters
    ----------
    plan : Plan
    at : sequence of (x, y), optional
        Places on plan, mm, whose finished level is asked for.

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
    rim = falls.rim_of(plan.shower.drain)
    room = Polygon(plan.room.outline)
    joists = joist_rectangles(plan.floor, room) if isinstance(plan.floor, JoistFloor) else []
    survey, survey_findings = surveyed(plan, words, joists)
    common = {
        "rule_set": rules.name,
        "deference": rules.deference,
        "drain_choices": drain_choices(plan.shower),
        "drawing": _drawing(plan, words, ring, rim, joists),
        "cautions": _cautions(plan, rules),
        "nudge": words.display.step,
        "survey": survey,
        "plan_texts": _plan_texts(plan, words),
    }
    try:
        surface = falls.surface_of(plan.shower)
    except falls.NoSurfaceError as reason:
        return Solution(
            complete=False,
            figures=_figures(plan, words, None),
            surface=None,
            section=None,
            findings=(checks.no_surface(plan, words, reason), *survey_findings),
            ways=(),
            asked=tuple(_spot("asked", x, y, None, 0.0, words) for x, y in at),
            **common,
        )
    levels = buildup.levels(plan, surface.drop)
    cures = depth.depth_cures(plan, rules, words, surface)
    found: tuple[Finding, ...] = checks.in_order(
        [*checks.findings(plan, rules, words, surface, levels, cures), *survey_findings]
    )
    ways: tuple[Way, ...] = depth.ways(plan, words, surface, cures)
    asked = surface.heights(np.array(at, dtype=float)) if at else np.empty(0)
    cut = main_cut(ring, room, rim)
    return Solution(
        complete=True,
        figures=_figures(plan, words, surface),
        surface=_floor(rules, words, surface, levels.entry),
        section=section(plan, words, ring, surface, levels, cut, joists),
        findings=found,
        ways=ways,
        asked=tuple(
            _spot("asked", x, y, None if np.isnan(z) else float(z), levels.entry, words)
            for (x, y), z in zip(at, asked, strict=True)
        ),
        **common,
    )


def _figures(plan: Plan, words: Words, surface: Surface | None) -> Figures:
    """The key figures with their workings; without a surface, what does not hang on it."""
    drop = surface.drop if surface else None
    tray = not isinstance(plan.shower.former, MortarBed)
    levels = buildup.levels(plan, drop or 0.0)
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

    former = plan.shower.former
    under = (
        length("least bed thickness at the drain", former.least_thickness)
        if isinstance(former, MortarBed)
        else length("tray edge thickness", former.edge_thickness)
    )
    stands_on = "entry" if tray else "drain"
    base = levels.base if known or tray else None
    gradients = sloped(surface) if surface else []
    step = step_of(plan, surface) if surface else None
    run = surface.drop / plan.shower.fall.asked if surface else None
    how = _run_in_words(plan)
    fall_inputs = [
        Input(
            name=f"{facet.name} plane over {words.length(facet.run)}",
            text=words.fall(facet.gradient),
        )
        for facet in (surface.facets if surface else ())
        if facet.run > 0
    ]
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
            words.length(levels.entry - levels.drain),
            f"drop = fall asked × {how}",
            [Input(name="fall asked", text=words.fall(plan.shower.fall.asked)), length(how, run)],
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
            words.length(step or 0.0, "up") if (step or 0.0) > 0.05 else "flush",
            "step = set-down + how far the floor falls along the entry edge",
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
            "drain FFL = entry FFL − drop",
            [length("entry FFL", levels.entry), length("drop", drop)],
        ),
        base_level=figure(
            "Base",
            base,
            words.length(levels.base, "down"),
            f"base = {stands_on} FFL − shower layers − "
            + ("tray edge thickness" if tray else "least bed thickness"),
            [
                length(
                    f"{stands_on} FFL", levels.entry if tray else levels.drain if known else None
                ),
                *above,
                under,
            ],
        ),
    )


def _run_in_words(plan: Plan) -> str:
    if not isinstance(plan.shower.drain, PointDrain):
        return "run from the entry to the channel"
    if plan.shower.fall.measured == "corner_run":
        return "corner run, from the farthest corner to the nearest point of the rim"
    return "plane run, the longest square to a wall"


def _floor(rules: RuleSet, words: Words, surface: Surface, entry: float) -> FloorSurface:
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
    return FloorSurface(
        planes=tuple(
            Plane(
                name=facet.name,
                polygon=_ring(facet.corners[:, :2]),
                heights=tuple(float(entry + z) for z in facet.corners[:, 2]),
                gradient=facet.gradient,
                text=words.fall(facet.gradient),
                run=facet.run,
                downhill=facet.downhill,
                label_at=checks.label_point(facet),
                severity=checks.broken_limit(rules, facet.gradient),
            )
            for facet in surface.facets
        ),
        folds=tuple(
            FoldLine(
                start=(float(fold.start[0]), float(fold.start[1])),
                end=(float(fold.end[0]), float(fold.end[1])),
                gradient=fold.gradient,
                text=words.fall(fold.gradient),
            )
            for fold in surface.folds
        ),
        contour_interval=interval,
        contour_interval_text=words.length(interval),
        contours=tuple(contours),
        spot_levels=tuple(_spot_levels(surface, entry, words)),
        shallowest=-surface.highest,
        deepest=-surface.lowest,
    )


def _contour_interval(depth: float, words: Words) -> float:
    """A round interval that gives about eight contours."""
    choices = (
        [MM_PER_INCH / n for n in (32, 16, 8, 4, 2, 1)]
        if words.display.imperial
        else [0.5, 1.0, 2.0, 5.0, 10.0, 20.0, 50.0]
    )
    return next((c for c in choices if depth / c <= 10), choices[-1])


def _spot_levels(surface: Surface, entry: float, words: Words) -> list[SpotLevel]:
    corners = shapely.get_coordinates(surface.outline.exterior)[:-1]
    rim = shapely.get_coordinates(surface.rim.exterior)[:-1]
    longest = float(np.ptp(corners, axis=0).max())
    unit = 6 * MM_PER_INCH if words.display.imperial else 150.0
    grid = surface.grid(unit * max(1, ceil(longest / unit / 10)), SPOT_CLEARANCE)
    found = []
    places: tuple[tuple[SpotKind, Array], ...] = (("corner", corners), ("rim", rim), ("grid", grid))
    for kind, points in places:
        if len(points):
            for (x, y), z in zip(points, surface.heights(points), strict=True):
                if not np.isnan(z):
                    found.append(_spot(kind, float(x), float(y), float(z), entry, words))
    return found


def _spot(
    kind: SpotKind, x: float, y: float, relative: float | None, entry: float, words: Words
) -> SpotLevel:
    """A spot level; ``relative`` is its height from the entry level, None outside the shower."""
    if relative is None:
        return SpotLevel(kind=kind, x=x, y=y, height=None, depth=None, text="outside the shower")
    depth = 0.0 - relative
    return SpotLevel(
        kind=kind, x=x, y=y, height=entry + relative, depth=depth, text=words.bare(depth)
    )


def _ring(points: Array) -> tuple[XY, ...]:
    return tuple((float(x), float(y)) for x, y in points)


def _drawing(
    plan: Plan, words: Words, ring: falls.Ring, rim: Array, joists: list[Polygon]
) -> Drawing:
    return Drawing(
        rim=_ring(rim),
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
