"""What follows from what was measured of the room."""

from __future__ import annotations

from functools import lru_cache

import numpy as np
import shapely
from shapely.geometry import Polygon

from calm_basin.core.answer.build import figure
from calm_basin.core.answer.result import Input, Option
from calm_basin.core.answer.taped import from_text
from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.taping import walls_of
from calm_basin.core.survey.findings import out_of_true, permitted, tray_falls, true_enough
from calm_basin.core.survey.floor import SubFloor
from calm_basin.core.survey.ground import base_of, ground_of, longest_edge, range_under
from calm_basin.core.survey.result import (
    EdgeResult,
    FloorGrid,
    FloorResult,
    ReadingPlace,
    Sounding,
    SurveyResult,
)
from calm_basin.core.survey.tapes import tape_result
from calm_basin.core.survey.truing import cleats_of, truings
from calm_basin.plan import Plan
from calm_basin.plan.base import Outline
from calm_basin.plan.survey import Reading
from calm_basin.rules import TRADE
from calm_basin.rules.trade.bases import Base
from calm_basin.tolerances import ROUNDED

READ = "Geometry of the readings"

MOST_LISTED = 80
"""Most readings that are listed one by one."""

GRID_CELLS = 34
"""Cells along the longer side of the room in the grid that is drawn."""


def surveyed(plan: Plan, words: Words) -> SurveyResult:
    """What follows from the survey. Raises `PlanError` for an unknown base."""
    base = base_of(plan)
    ground = ground_of(plan)
    return SurveyResult(
        tape=None if plan.survey.tape is None else tape_result(words, plan.survey.tape),
        floor=_floor_result(plan, words, ground, base) if ground else None,
        bases=tuple(Option(name=key, text=item.name) for key, item in TRADE.bases.by_id.items()),
        walk=_walk(plan.room.outline),
        readings=_readings(plan.room.outline, plan.survey.levels, words),
    )


@lru_cache(maxsize=16)
def _readings(room: Outline, levels: tuple[Reading, ...], words: Words) -> tuple[ReadingPlace, ...]:
    if len(levels) > MOST_LISTED:
        return ()
    ends = {i: level.end for i, level in enumerate(levels) if level.kind == "shim"}
    places = [*((level.x, level.y) for level in levels), *ends.values()]
    told = [from_text(how, words) for how in walls_of(room).typed(places)]
    end_of = dict(zip(ends, told[len(levels) :], strict=True))
    return tuple(ReadingPlace(at=told[i], end=end_of.get(i, "")) for i in range(len(levels)))


@lru_cache(maxsize=16)
def _walk(outline: Outline) -> tuple[tuple[float, float], ...]:
    """A round of twelve places all over the room, to and fro; those behind a wall are drawn in."""
    room = Polygon(outline)
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


def _floor_result(plan: Plan, words: Words, ground: SubFloor, base: Base) -> FloorResult:
    edge_length = longest_edge(plan)
    _, edge = out_of_true(plan, words, ground)
    under = range_under(ground, plan.shower.outline)
    cleats = cleats_of(plan, words, ground)

    count = Input(name="places read", text=str(len(ground.places)))
    return FloorResult(
        remarks=tuple(ground.remarks),
        soundings=_soundings(ground, words),
        high=(ground.high.x, ground.high.y),
        low=(ground.low.x, ground.low.y),
        range=figure(
            "Highest to lowest",
            -ground.low.height,
            words.length(-ground.low.height, "up"),
            "highest reading − lowest reading",
            [count],
            source=READ,
        ),
        under_shower=figure(
            "Under the shower",
            under,
            words.length(under, "up"),
            "highest − lowest height of the floor under the shower, straight between readings",
            [count],
            source=READ,
            under="partly a guess, beyond the readings"
            if under > -ground.low.height + 0.05
            else "",
        ),
        tilt=figure(
            "Tilt",
            ground.tilt,
            words.fall(ground.tilt),
            "gradient of the plane that fits all readings best, by least squares",
            [count],
            source=READ,
            unit="rise_per_run",
        ),
        tilt_downhill=ground.tilt_downhill,
        crown=figure(
            "Crown and dish",
            max(ground.crown, ground.dish),
            f"+{words.length(ground.crown)} / −{words.length(ground.dish)}",
            "what stands above and lies below the best plane",
            [count],
            source=READ,
        ),
        flatness=figure(
            f"Under a {words.length(edge_length, 'down')} edge",
            edge.gap,
            words.length(edge.gap, "up"),
            "widest gap under a straightedge laid anywhere, resting on the high places",
            [("straightedge", words.length(edge_length, "down"))],
            source=READ,
        ),
        edge=EdgeResult(
            start=edge.start, end=edge.end, at=edge.at, text=words.length(edge.gap, "up")
        ),
        edge_length=edge_length,
        grid=_grid(ground),
        base_name=base.name,
        verdict_text=_verdict(plan, words, ground, base),
        true_enough=true_enough(plan, words, ground),
        tray_falls=tray_falls(plan, words, ground),
        truings=truings(plan, words, cleats, ground, under),
        cleats=cleats,
    )


def _verdict(plan: Plan, words: Words, ground: SubFloor, base: Base) -> str:
    """Whether the floor is true enough for its base, as it was read or as it is made."""
    if not true_enough(plan, words, ground):
        return f"Not true enough for it: at most {words.limit(permitted(plan, words, ground)[0])}."
    if out_of_true(plan, words, ground)[0] <= base.value + ROUNDED:
        return f"True enough for it: at most {words.limit(base.value)}."
    return "Not true enough as it is; the correction chosen below makes it true."


@lru_cache(maxsize=16)
def _soundings(ground: SubFloor, words: Words) -> tuple[Sounding, ...]:
    return tuple(
        Sounding(x=float(x), y=float(y), depth=float(0.0 - z), text=words.bare(0.0 - z))
        for x, y, z in ground.places
    )


@lru_cache(maxsize=16)
def _grid(ground: SubFloor) -> FloorGrid:
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
