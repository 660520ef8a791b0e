"""Places of the plan as they are typed: from two walls, whose numbers the chart shows."""

from __future__ import annotations

import numpy as np

from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.surface import Array
from calm_basin.core.geometry.taping import Measure, Taped, walls_of
from calm_basin.core.room.result import PlaceMeasure, PlaceWay
from calm_basin.plan import Plan, quantities

OUTLINES = ("/room/outline", "/shower/outline", "/walls/studs")
"""What is typed corner by corner in lists of its own."""


def plan_places(plan: Plan, words: Words) -> dict[str, tuple[PlaceMeasure, PlaceMeasure]]:
    """The two measures of each place, by its JSON pointer, (x, y).

    They are those from the walls of `Walls.frame` as long as both can be reached from the place,
    so that a place that is moved keeps its walls; else those that a tape takes.
    """
    at: dict[str, list[float]] = {}
    for path, kind, value in quantities(
        plan, ("/room", "/shower", "/services", "/waste", "/floor")
    ):
        parent, _, last = path.rpartition("/")
        if kind == "length" and last in ("0", "1") and not parent.startswith(OUTLINES):
            at.setdefault(parent, []).append(value)
    found = walls_of(plan.room.outline).typed(np.array(list(at.values())))
    return {
        path: _printed(np.array(at[path]), how, words) for path, how in zip(at, found, strict=True)
    }


def _printed(place: Array, how: Taped, words: Words) -> tuple[PlaceMeasure, PlaceMeasure]:
    one, other = _ways(place, how)
    first, second = (words.bare(measure.value) for measure in (how.first, how.second))
    return (
        PlaceMeasure(**one.model_dump(), text=first),
        PlaceMeasure(**other.model_dump(), text=second),
    )


def frame_of(plan: Plan) -> tuple[PlaceWay, PlaceWay]:
    """The two measures by which a place that is touched in the room is told."""
    walls = walls_of(plan.room.outline)
    return _ways(walls.corners[walls.frame[1]], walls.framed(0.0, 0.0))


def _ways(place: Array, how: Taped) -> tuple[PlaceWay, PlaceWay]:
    moves = np.linalg.inv(how.ways).T
    one, other = (
        PlaceWay(
            name=_name(measure, how.outside),
            of=_of(measure),
            way=(float(way[0]), float(way[1])),
            offset=measure.value - float(way @ place),
            move=(float(move[0]), float(move[1])),
        )
        for measure, way, move in zip((how.first, how.second), how.ways, moves, strict=True)
    )
    return one, other


def _of(measure: Measure) -> str:
    return f"corner {measure.corner + 1}" if measure.kind == "along" else f"wall {measure.wall + 1}"


def _name(measure: Measure, outside: bool) -> str:
    if measure.kind == "along":
        return f"along from {_of(measure)}"
    return f"{'behind' if outside else 'from'} {_of(measure)}"
