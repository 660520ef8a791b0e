"""The survey's part of a solution: what the tapes and the readings say, and how to make it true."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core import subfloor, survey
from calm_basin.core.buildup import levels
from calm_basin.core.falls import NoSurfaceError, ring_of, shower_surface, surface_of
from calm_basin.core.findings.common import listed, unmeasured
from calm_basin.core.section import joist_rectangles
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
from calm_basin.core.straightedge import Straightedge
from calm_basin.core.trying import Case, Found
from calm_basin.core.wording import Words
from calm_basin.plan import Plan, PlanError, Problem
from calm_basin.plan.model import (
    FrameLevel,
    JoistFloor,
    PackLevel,
    Point,
    Pour,
    Reading,
    Shower,
    Tape,
    Tray,
)
from calm_basin.rules import Base, bases, packing

READINGS = "Geometry of the survey"

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


def surveyed(plan: Plan, words: Words, joists: list[Polygon]) -> SurveyResult:
    """What follows from the survey. Raises `PlanError` for an unknown base."""
    base = _base(plan)
    ground = _ground(plan)
    return SurveyResult(
        tape=None if plan.survey.tape is None else _tape_result(words, plan.survey.tape),
        floor=_floor_result(plan, words, joists, ground, base) if ground else None,
        bases=tuple(Input(name=key, text=item.name) for key, item in bases().items()),
        walk=_walk(plan),
    )


def check(case: Case) -> list[Found]:
    """The survey's part of the findings."""
    return survey_findings(case.plan, case.words)


def survey_findings(plan: Plan, words: Words) -> list[Found]:
    """What is doubtful in the survey, and where its floor is not true enough."""
    found: list[Found] = []
    if plan.survey.tape is not None:
        found += _tape_findings(words, plan.survey.tape)
    if not plan.survey.levels:
        return found
    try:
        ground = floor_of(plan.survey.levels, plan.room.outline)
    except ValueError as reason:
        title = "No reading lies inside the room"
        return [*found, _note("readings_outside", title, str(reason))]
    if plan.survey.correction is None:
        found += _out_of_true(plan, words, ground)
    found += _fall_turned(plan, words, ground)
    title = "Look at the readings again"
    return [*found, *(_note("readings_doubtful", title, remark) for remark in ground.remarks)]


def _base(plan: Plan) -> Base:
    if plan.survey.base not in bases():
        known = ", ".join(bases())
        raise PlanError(
            [Problem("/survey/base", f"There is no base “{plan.survey.base}”. Choose: {known}.")]
        )
    return bases()[plan.survey.base]


def _ground(plan: Plan) -> subfloor.SubFloor | None:
    try:
        return floor_of(plan.survey.levels, plan.room.outline) if plan.survey.levels else None
    except ValueError:
        return None


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


def _note(code: str, title: str, detail: str) -> Found:
    return Found(
        unmeasured(
            code,
            "caution",
            title,
            detail,
            applies_to="the survey",
            source=READINGS,
            field="/survey/levels",
        )
    )


def _tape_findings(words: Words, tape: Tape) -> list[Found]:
    """What the tapes leave open, and the one that does not fit, where they can tell it."""
    room = _adjusted(tape)
    source, field = "Least squares over all tapes", "/survey/tape"
    if room.open:
        return [
            Found(
                unmeasured(
                    "tape_open",
                    "caution",
                    "These measures leave the room's shape open",
                    "Walls alone can be pushed askew like a folding rule. Tape a diagonal, or say "
                    "which corners are square; until then the outline is a guess and is not put "
                    "on the plan.",
                    applies_to="the room's outline",
                    source=source,
                    field=field,
                )
            )
        ]
    if len(room.suspects) > 1:
        names = listed(list(room.suspects))
        return [
            Found(
                unmeasured(
                    "tape_blunder",
                    "caution",
                    "The tapes do not fit each other",
                    f"One of them is off, but nothing tells which: {names} would each explain it. "
                    "Tape these again, or one more diagonal.",
                    applies_to="the room's outline",
                    source=source,
                    field=field,
                )
            )
        ]
    found = []
    for misfit in room.misfits:
        if misfit.suspect and misfit.likely is not None:
            off = misfit.measured - misfit.likely
            finding = Finding(
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
                source=source,
                field=field,
            )
            found.append(Found(finding))
    return found


def _tape_result(words: Words, tape: Tape) -> TapeResult:
    room = _adjusted(tape)
    outline = [[round(float(x), 1), round(float(y), 1)] for x, y in room.outline]
    corners = [
        CornerResult(
            number=number,
            angle_text=survey.angle_text(corner),
            gap=corner.gap,
            text=_corner_text(words, corner),
        )
        for number, corner in enumerate(room.corners, start=1)
    ]
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
        changes=() if room.open else (Change(path="/room/outline", value=outline),),
    )


def _corner_text(words: Words, corner: survey.Corner) -> str:
    """What a corner out of square does to a square tray. An inner corner juts into the room, and
    the tray is cut round it."""
    gap = words.length(abs(corner.gap))
    if abs(corner.gap) < words.display.step / 2:
        return "square"
    if corner.inner and corner.off > 0:
        return f"sharper than square: a square notch leaves {gap} at the wall's end"
    if corner.inner:
        return f"blunter than square: a square notch is {gap} too tight at the wall's end, widen it"
    if corner.off > 0:
        return f"wider than square: a square tray leaves {gap} at the wall's end"
    return f"tighter than square: a square tray is {gap} too wide, undercut it"


def _measured(plan: Plan, words: Words, ground: subfloor.SubFloor) -> tuple[float, Straightedge]:
    """What the base is held against, mm, and the straightedge under which the floor gapes most."""
    edge = ground.flatness(FEET_10 if words.display.imperial else METRES_2)
    level = _base(plan).measure == "level"
    return (_under(ground, plan.shower.outline) if level else edge.gap), edge


def _floor_result(
    plan: Plan, words: Words, joists: list[Polygon], ground: subfloor.SubFloor, base: Base
) -> FloorResult:
    shower = ring_of(plan.shower).polygon
    edge_length = FEET_10 if words.display.imperial else METRES_2
    measured, edge = _measured(plan, words, ground)
    under = _under(ground, plan.shower.outline)
    cleats = _cleats(plan, words, joists, ground, shower)

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
        edge=EdgeResult(start=edge.start, end=edge.end, at=edge.at, text=words.length(edge.gap, "up")),
        edge_length=edge_length,
        grid=_grid(ground),
        base_name=base.name,
        tolerance_text=words.limit(base.value),
        true_enough=measured <= base.value + 1e-6,
        tray_falls=_tray_falls(plan, words, ground),
        truings=_truings(plan, words, cleats, ground, under),
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


def _out_of_true(plan: Plan, words: Words, ground: subfloor.SubFloor) -> list[Found]:
    base = _base(plan)
    measured, edge = _measured(plan, words, ground)
    if measured <= base.value + 1e-6:
        return []
    level = base.measure == "level"
    length = FEET_10 if words.display.imperial else METRES_2
    how = "from level under the shower" if level else f"under a {words.length(length)} edge"
    x, y = (ground.low.x, ground.low.y) if level else edge.at
    finding = Finding(
        code="floor_out_of_true",
        severity="stop",
        title=f"The floor is {words.length(measured, 'up')} out {how}",
        detail=f"{base.name}: at most {words.limit(base.value)}, so "
        f"{words.length(measured - base.value, 'up')} too much. {base.note}",
        measured=measured,
        measured_text=words.length(measured, "up"),
        limit=base.value,
        limit_text=f"at most {words.limit(base.value)}",
        unit="mm",
        applies_to=base.name.lower(),
        source=base.source,
        field="/survey/correction",
        places=(Place(name="low spot", x=x, y=y, measured=measured, text=words.length(measured)),),
    )
    return [Found(finding, lambda: _truing_cures(plan, words, ground), each=True)]


def _truing_cures(plan: Plan, words: Words, ground: subfloor.SubFloor) -> list[Cure]:
    """The ways to make the floor true, as changes of the plan."""
    room, shower = Polygon(plan.room.outline), ring_of(plan.shower).polygon
    joists = joist_rectangles(plan.floor, room) if isinstance(plan.floor, JoistFloor) else []
    cleats = _cleats(plan, words, joists, ground, shower)
    ways = _truings(plan, words, cleats, ground, _under(ground, plan.shower.outline))
    return [Cure(text=way.title, changes=way.changes) for way in ways]


@lru_cache(maxsize=32)
def _falls_left(
    shower: Shower, ground: subfloor.SubFloor
) -> tuple[tuple[str, float, float, tuple[float, float]], ...]:
    """What a floor under a tray leaves of each plane's fall, and a place in the plane."""
    try:
        surface = shower_surface(shower)
    except NoSurfaceError:
        return ()
    places = {f.name: f.polygon.representative_point() for f in surface.facets}
    left = subfloor.fall_left(surface, ground, ring_of(shower).polygon)
    return tuple((name, was, now, (places[name].x, places[name].y)) for name, was, now in left)


def _tray_falls(plan: Plan, words: Words, ground: subfloor.SubFloor) -> tuple[TrayFall, ...]:
    """What is left of a tray's falls if it is laid on the floor as it is."""
    if not isinstance(plan.shower.former, Tray) or plan.survey.correction is not None:
        return ()
    return tuple(
        TrayFall(
            plane=name,
            built_in_text=words.fall(built_in),
            left=left,
            text=f"{words.fall(abs(left))}{' the wrong way' if left < -1e-9 else ''}",
            turned=left <= 0,
        )
        for name, built_in, left, _ in _falls_left(plan.shower, ground)
    )


def _fall_turned(plan: Plan, words: Words, ground: subfloor.SubFloor) -> list[Found]:
    """Planes of a tray whose fall the floor under it turns round."""
    turned = [fall for fall in _tray_falls(plan, words, ground) if fall.turned]
    if not turned:
        return []
    worst = min(turned, key=lambda fall: fall.left)
    x, y = next(at for name, *_, at in _falls_left(plan.shower, ground) if name == worst.plane)
    finding = Finding(
        code="tray_fall_turned",
        severity="stop",
        title="The floor's tilt turns the tray's fall round",
        detail=f"On this floor the {listed([fall.plane for fall in turned])} "
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
        places=(Place(name=worst.plane, x=x, y=y, measured=worst.left, text=worst.text),),
    )
    return [Found(finding, lambda: _truing_cures(plan, words, ground), each=True)]


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
    most = packing()
    if under <= most.value + 1e-6:
        ways.append(
            Truing(
                code="pack",
                title="Pack with adhesive under tray or pan",
                figures=(Input(name="most packing", text=words.length(under, "up")),),
                advice=(
                    f"Not beyond {words.limit(most.value)}: adhesive shrinks ({most.source}).",
                ),
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
