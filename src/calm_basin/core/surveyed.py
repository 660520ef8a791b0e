"""The survey's part of a solution: what the tapes and the readings say, and how to make it true."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core import subfloor, survey
from calm_basin.core.buildup import levels
from calm_basin.core.falls import NoSurfaceError, ring_of, surface_of
from calm_basin.core.findings import unmeasured
from calm_basin.core.solution import (
    Change,
    CleatMark,
    CornerResult,
    Cure,
    EdgeResult,
    Figure,
    Finding,
    FloorGrid,
    FloorResult,
    Input,
    JoistMarks,
    Place,
    Sounding,
    SurveyResult,
    TapeMisfit,
    TapeResult,
    TrayFall,
    Truing,
    Unit,
    Working,
)
from calm_basin.core.wording import Words
from calm_basin.plan import Plan, PlanError, Problem
from calm_basin.plan.model import (
    FrameLevel,
    JoistFloor,
    PackLevel,
    Point,
    Pour,
    Reading,
    Tape,
    Tray,
)
from calm_basin.rules import Base, bases

PACK_LIMIT = 6.0
"""How much adhesive or shims may take up under a tray, in mm (common practice, no source)."""

GRID_CELLS = 34
"""Cells along the longer side of the room in the grid that is drawn."""

FEET_10, METRES_2 = 3048.0, 2000.0
CUBIC_FOOT_LITRES = 28.316846592


@lru_cache(maxsize=16)
def floor_of(levels: tuple[Reading, ...], outline: tuple[Point, ...]) -> subfloor.SubFloor:
    """The floor that these readings make in this room; made once for the same readings.

    Raises `ValueError` where no reading lies inside the room.
    """
    return subfloor.SubFloor(levels, Polygon(outline))


@lru_cache(maxsize=16)
def _adjusted(tape: Tape) -> survey.AdjustedRoom:
    return survey.adjust(tape)


def surveyed(plan: Plan, words: Words, joists: list[Polygon]) -> tuple[SurveyResult, list[Finding]]:
    """What follows from the survey, and its findings. Raises `PlanError` for an unknown base."""
    if plan.survey.base not in bases():
        known = ", ".join(bases())
        raise PlanError(
            [Problem("/survey/base", f"There is no base “{plan.survey.base}”. Choose: {known}.")]
        )
    base = bases()[plan.survey.base]
    found: list[Finding] = []
    tape = None
    if plan.survey.tape is not None:
        tape = _tape_result(plan, words, found)
    floor = None
    if plan.survey.levels:
        try:
            ground = floor_of(plan.survey.levels, plan.room.outline)
        except ValueError as reason:
            found.append(_note("readings_outside", "No reading lies inside the room", str(reason)))
        else:
            floor = _floor_result(plan, words, joists, ground, base, found)
    listed = tuple(Input(name=key, text=item.name) for key, item in bases().items())
    return SurveyResult(tape=tape, floor=floor, bases=listed, walk=_walk(plan)), found


def _walk(plan: Plan) -> tuple[tuple[float, float], ...]:
    """A round of twelve places all over the room, to and fro; those behind a wall are drawn in."""
    room = Polygon(plan.room.outline)
    left, bottom, right, top = room.bounds
    middle = room.representative_point()
    places = []
    for row, up in enumerate((0.1, 0.5, 0.9)):
        shares = (0.08, 0.36, 0.64, 0.92) if row % 2 == 0 else (0.92, 0.64, 0.36, 0.08)
        for across in shares:
            x, y = left + across * (right - left), bottom + up * (top - bottom)
            while not shapely.contains_xy(room, x, y):
                x, y = (4 * x + middle.x) / 5, (4 * y + middle.y) / 5
            places.append((round(x, 1), round(y, 1)))
    return tuple(places)


def _note(code: str, title: str, detail: str) -> Finding:
    return unmeasured(
        code,
        "caution",
        title,
        detail,
        applies_to="the survey",
        source="Geometry of the survey",
        field="/survey/levels",
    )


def _tape_result(plan: Plan, words: Words, found: list[Finding]) -> TapeResult:
    assert plan.survey.tape is not None
    room = _adjusted(plan.survey.tape)
    outline = [[round(float(x), 1), round(float(y), 1)] for x, y in room.outline]
    for misfit in room.misfits:
        if misfit.suspect and misfit.likely is not None:
            off = misfit.measured - misfit.likely
            found.append(
                Finding(
                    code="tape_blunder",
                    severity="caution",
                    title=f"{misfit.name.capitalize()} does not fit the other tapes",
                    detail=f"It was taped {words.length(misfit.measured)}; the others say "
                    f"{words.length(misfit.likely)}, {words.length(abs(off))} "
                    f"{'less' if off > 0 else 'more'}. Tape it again.",
                    measured=misfit.measured,
                    measured_text=words.length(misfit.measured),
                    limit=misfit.likely,
                    limit_text=f"about {words.length(misfit.likely)}",
                    unit="mm",
                    applies_to="the room's outline",
                    source="Least squares over all tapes",
                    field="/survey/tape",
                )
            )
    corners = []
    for number, corner in enumerate(room.corners, start=1):
        gap = abs(corner.gap)
        if gap < words.display.step / 2:
            text = "square"
        elif corner.off > 0:
            text = f"wider than square: a square tray leaves {words.length(gap)} at the wall's end"
        else:
            text = (
                f"tighter than square: a square tray is {words.length(gap)} too wide, undercut it"
            )
        corners.append(
            CornerResult(
                number=number,
                angle_text=survey.off_square_text(corner),
                gap=corner.gap,
                text=text,
            )
        )
    return TapeResult(
        outline=tuple((x, y) for x, y in outline),
        misfits=tuple(
            TapeMisfit(
                name=m.name,
                measured=m.measured,
                adjusted=m.adjusted,
                misfit=m.misfit,
                text=words.length(m.misfit),
                suspect=m.suspect,
            )
            for m in room.misfits
        ),
        corners=tuple(corners),
        closes=room.closes,
        closes_text=words.length(room.closes),
        changes=(Change(path="/room/outline", value=outline),),
    )


def _floor_result(
    plan: Plan,
    words: Words,
    joists: list[Polygon],
    ground: subfloor.SubFloor,
    base: Base,
    found: list[Finding],
) -> FloorResult:
    shower = ring_of(plan.shower).polygon
    edge_length = FEET_10 if words.display.imperial else METRES_2
    edge = ground.flatness(edge_length)
    under = _under(ground, plan.shower.outline)
    measured = under if base.measure == "level" else edge.gap
    true_enough = measured <= base.value + 1e-6
    cleats = _cleats(plan, words, joists, ground, shower)
    truings = _truings(plan, words, cleats, ground, under)
    tray_falls = _tray_falls(plan, words, ground, shower, truings, found)
    if not true_enough and plan.survey.correction is None:
        found.append(_out_of_true(plan, words, base, measured, ground, edge, truings))
    for remark in ground.remarks:
        found.append(_note("readings_doubtful", "Look at the readings again", remark))

    def figure(
        label: str, value: float, text: str, formula: str, *inputs: Input, unit: Unit = "mm"
    ) -> Figure:
        working = Working(formula=formula, inputs=inputs, source="Geometry of the readings")
        return Figure(label=label, value=value, unit=unit, text=text, working=working)

    count = Input(name="places read", text=str(len(ground.places)))
    return FloorResult(
        remarks=tuple(ground.remarks),
        soundings=_soundings(ground, words),
        high=(ground.high.x, ground.high.y),
        low=(ground.low.x, ground.low.y),
        range=figure(
            "High to low",
            -ground.low.height,
            words.length(-ground.low.height, "up"),
            "highest reading − lowest reading",
            count,
        ),
        under_shower=figure(
            "Under the shower",
            under,
            words.length(under, "up"),
            "highest − lowest height of the floor under the shower, straight between readings",
            count,
        ),
        tilt=figure(
            "Tilt",
            ground.tilt,
            words.fall(ground.tilt),
            "gradient of the plane that fits all readings best, by least squares",
            count,
            unit="rise_per_run",
        ),
        tilt_downhill=ground.tilt_downhill,
        crown=figure(
            "Crown and dish",
            max(ground.crown, ground.dish),
            f"+{words.length(ground.crown)} / −{words.length(ground.dish)}",
            "what stands above and lies below the best plane",
            count,
        ),
        flatness=figure(
            f"Under a {words.length(edge_length)} edge",
            edge.gap,
            words.length(edge.gap, "up"),
            "widest gap under a straightedge laid anywhere, resting on the high places",
            Input(name="straightedge", text=words.length(edge_length)),
        ),
        edge=EdgeResult(start=edge.start, end=edge.end, at=edge.at, text=words.length(edge.gap)),
        edge_length=edge_length,
        grid=_grid(ground),
        base_name=base.name,
        tolerance_text=words.length(base.value),
        true_enough=true_enough,
        tray_falls=tray_falls,
        truings=truings,
        cleats=cleats,
    )


@lru_cache(maxsize=16)
def _under(ground: subfloor.SubFloor, outline: tuple[Point, ...]) -> float:
    return ground.range_under(Polygon(outline))


@lru_cache(maxsize=16)
def _pour_over(ground: subfloor.SubFloor, zone: Polygon, settings: Pour) -> subfloor.PourPlan:
    return subfloor.pour(ground, zone, settings)


def _pour_zone(plan: Plan, settings: Pour) -> tuple[Polygon, bool]:
    """Where the pour goes, and whether that is the whole room.

    Where the shower still needs a recess with the pour in place, its floor is opened and framed
    level, and the pour ends at its edge.
    """
    room = Polygon(plan.room.outline)
    survey_with = plan.survey.model_copy(update={"correction": settings})
    try:
        surface = surface_of(plan)
    except NoSurfaceError:
        return room, True
    recess = levels(plan.model_copy(update={"survey": survey_with}), surface).recess
    rest = room.difference(Polygon(plan.shower.outline))
    return (room, True) if recess <= 0 or rest.area < 1 else (rest, False)


@lru_cache(maxsize=16)
def _soundings(ground: subfloor.SubFloor, words: Words) -> tuple[Sounding, ...]:
    return tuple(
        Sounding(x=float(x), y=float(y), depth=float(0.0 - z), text=words.bare(0.0 - z))
        for x, y, z in ground.places
    )


@lru_cache(maxsize=16)
def _grid(ground: subfloor.SubFloor) -> FloorGrid:
    left, bottom, right, top = ground.room.bounds
    cell = max(right - left, top - bottom) / GRID_CELLS
    columns, rows = max(1, round((right - left) / cell)), max(1, round((top - bottom) / cell))
    width, height = (right - left) / columns, (top - bottom) / rows
    xs = left + (np.arange(columns) + 0.5) * width
    ys = bottom + (np.arange(rows) + 0.5) * height
    points = np.array(np.meshgrid(xs, ys)).reshape(2, -1).T
    heights, read = ground.heights(points)
    reach = max(width, height)
    inside = shapely.distance(ground.room, shapely.points(points)) < reach
    return FloorGrid(
        left=left,
        bottom=bottom,
        width=width,
        height=height,
        columns=columns,
        rows=rows,
        depths=tuple(
            round(float(-z), 2) + 0.0 if ok else None for z, ok in zip(heights, inside, strict=True)
        ),
        read=tuple(bool(value) for value in read),
    )


def _out_of_true(
    plan: Plan,
    words: Words,
    base: Base,
    measured: float,
    ground: subfloor.SubFloor,
    edge: subfloor.Straightedge,
    truings: tuple[Truing, ...],
) -> Finding:
    level = base.measure == "level"
    how = "from level under the shower" if level else f"under a {words.length(METRES_2)} edge"
    if not level and words.display.imperial:
        how = f"under a {words.length(FEET_10)} edge"
    at = (ground.low.x, ground.low.y) if level else edge.at
    return Finding(
        code="floor_out_of_true",
        severity="stop",
        title=f"The floor is {words.length(measured, 'up')} out {how}",
        detail=f"{base.name}: at most {words.length(base.value, 'down')}, so "
        f"{words.length(measured - base.value, 'up')} too much. {base.note}",
        measured=measured,
        measured_text=words.length(measured, "up"),
        limit=base.value,
        limit_text=f"at most {words.length(base.value, 'down')}",
        unit="mm",
        applies_to=base.name.lower(),
        source=base.source,
        field="/survey/correction",
        places=(
            Place(
                name="low spot", x=at[0], y=at[1], measured=measured, text=words.length(measured)
            ),
        ),
        cures=tuple(Cure(text=way.title, changes=way.changes) for way in truings),
    )


def _tray_falls(
    plan: Plan,
    words: Words,
    ground: subfloor.SubFloor,
    shower: Polygon,
    truings: tuple[Truing, ...],
    found: list[Finding],
) -> tuple[TrayFall, ...]:
    """What is left of a tray's falls if it is laid on the floor as it is."""
    if not isinstance(plan.shower.former, Tray) or plan.survey.correction is not None:
        return ()
    try:
        surface = surface_of(plan)
    except NoSurfaceError:
        return ()
    falls = [
        TrayFall(
            plane=name,
            built_in_text=words.fall(built_in),
            left=left,
            text=f"{words.fall(abs(left))}{' the wrong way' if left < -1e-9 else ''}",
            turned=left <= 0,
        )
        for name, built_in, left in subfloor.fall_left(surface, ground, shower)
    ]
    turned = [fall for fall in falls if fall.turned]
    if turned:
        worst = min(turned, key=lambda fall: fall.left)
        facet = next(f for f in surface.facets if f.name == worst.plane)
        place = facet.polygon.representative_point()
        found.append(
            Finding(
                code="tray_fall_turned",
                severity="stop",
                title="The floor's tilt turns the tray's fall round",
                detail=f"On this floor the {' and '.join(fall.plane for fall in turned)} "
                f"{'plane runs' if len(turned) == 1 else 'planes run'} {worst.text} instead of "
                f"{worst.built_in_text}: water stands or runs away from the drain.",
                measured=worst.left,
                measured_text=worst.text,
                limit=0.0,
                limit_text="a fall towards the drain",
                unit="rise_per_run",
                applies_to="the tray",
                source="Geometry of tray and floor",
                field="/survey/correction",
                places=(
                    Place(
                        name=worst.plane, x=place.x, y=place.y, measured=worst.left, text=worst.text
                    ),
                ),
                cures=tuple(Cure(text=way.title, changes=way.changes) for way in truings),
            )
        )
    return tuple(falls)


def _cleats(
    plan: Plan,
    words: Words,
    joists: list[Polygon],
    ground: subfloor.SubFloor,
    shower: Polygon,
) -> tuple[JoistMarks, ...]:
    if not isinstance(plan.floor, JoistFloor):
        return ()
    return tuple(
        JoistMarks(
            joist=number,
            marks=tuple(
                CleatMark(x=x, y=y, mark=mark, text=words.bare(mark)) for x, y, mark in along
            ),
        )
        for number, along in subfloor.cleat_marks(ground, joists, shower, plan.floor.deck_thickness)
    )


def _truings(
    plan: Plan,
    words: Words,
    cleats: tuple[JoistMarks, ...],
    ground: subfloor.SubFloor,
    under: float,
) -> tuple[Truing, ...]:
    """The ways that can make this floor true, each with its figures."""
    correction = plan.survey.correction
    ways = [_pour(plan, words, ground)]
    if isinstance(plan.floor, JoistFloor):
        marks = [mark.mark for joist in cleats for mark in joist.marks]
        if marks and min(marks) >= 0:
            ways.append(
                Truing(
                    code="frame",
                    title="Frame the deck pieces level on cleats",
                    figures=(
                        Input(
                            name="cleats below the joist tops, least", text=words.length(min(marks))
                        ),
                        Input(name="most", text=words.length(max(marks))),
                        Input(name="marks", text=str(len(marks))),
                    ),
                    advice=(
                        "Set the cleats to a level line, not to the joist tops.",
                        "Only the shower is made level: the room's tile follows its own floor.",
                    ),
                    chosen=isinstance(correction, FrameLevel),
                    changes=(Change(path="/survey/correction", value={"kind": "frame"}),),
                )
            )
    if under <= PACK_LIMIT:
        ways.append(
            Truing(
                code="pack",
                title="Pack with adhesive under tray or pan",
                figures=(Input(name="most packing", text=words.length(under, "up")),),
                advice=(f"Not beyond {words.length(PACK_LIMIT)}: adhesive shrinks.",),
                chosen=isinstance(correction, PackLevel),
                changes=(Change(path="/survey/correction", value={"kind": "pack"}),),
            )
        )
    return tuple(ways)


def _pour(plan: Plan, words: Words, ground: subfloor.SubFloor) -> Truing:
    chosen = plan.survey.correction
    settings = chosen if isinstance(chosen, Pour) else Pour()
    zone, whole = _pour_zone(plan, settings)
    result = _pour_over(ground, zone, settings)
    wood = isinstance(plan.floor, JoistFloor)
    imperial = words.display.imperial
    volume = f"{result.litres:.1f} L"
    if imperial:
        volume = f"{result.litres / CUBIC_FOOT_LITRES:.2f} cu ft ({volume})"
    quart = subfloor.GALLON_LITRES / 4
    low, high = result.water_litres
    water = (
        f"{low / quart:.0f} to {high / quart:.0f} qt" if imperial else f"{low:.1f} to {high:.1f} L"
    )
    figures = [
        Input(name="bags", text=str(result.bags)),
        Input(name="volume", text=volume),
        Input(name="mean depth, over the area", text=words.length(result.mean_depth)),
        Input(name="deepest", text=words.length(result.deepest_depth)),
        Input(name="by the mean of the readings", text=f"{result.bags_from_mean_of_readings} bags"),
        Input(name="water in all", text=water),
        Input(name="batches", text=f"{result.batches} in {result.minutes:.0f} min"),
        Input(name="people mixing", text=str(result.mixers)),
    ]
    if wood:
        figures += [
            Input(name="lath, sheets of 2.5 × 8 ft", text=str(result.lath_sheets)),
            Input(name="staples", text=str(result.staples)),
        ]
    doors = len(plan.room.doors)
    x, y = result.deepest.x, result.deepest.y
    return Truing(
        code="pour",
        title="Pour self-levelling compound"
        + (" over the room" if whole else " up to the shower's recess"),
        figures=tuple(figures),
        advice=(
            f"Pour from the deepest place, {words.length(x)} right and {words.length(y)} up.",
            f"Have all {result.bags} bags and their water measured before the first is mixed.",
            f"Dams {'at the drain hole' if whole else 'round the recess'} and at {doors} "
            f"{'door' if doors == 1 else 'doors'}; seams and "
            "edges sealed, primer down. Keep a bag in hand for what runs away.",
        ),
        chosen=isinstance(chosen, Pour),
        changes=(Change(path="/survey/correction", value=settings.model_dump(mode="json")),),
    )
