"""Places of the plan as they are typed: from two walls, whose numbers the chart shows."""

from __future__ import annotations

from typing import Any

import numpy as np
from numpy.typing import NDArray

from calm_basin.core.answer.result import XY
from calm_basin.core.answer.words import Words
from calm_basin.core.geometry.surface import Array
from calm_basin.core.geometry.taping import Measure, Taped, Walls, walls_of
from calm_basin.core.room.result import PlaceFrame, PlaceMeasure
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
    walls = walls_of(plan.room.outline)
    found = walls.typed(np.array(list(at.values())))
    return {
        path: _told(np.array(at[path]), how, words) for path, how in zip(at, found, strict=True)
    }


def _told(place: Array, how: Taped, words: Words) -> tuple[PlaceMeasure, PlaceMeasure]:
    moves = np.linalg.inv(how.ways)
    one, other = (
        PlaceMeasure(
            name=_name(measure, how.outside),
            text=words.bare(measure.value),
            way=_xy(way),
            offset=measure.value - float(way @ place),
            move=_xy(move),
        )
        for measure, way, move in zip((how.first, how.second), how.ways, moves.T, strict=True)
    )
    return one, other


def _name(measure: Measure, outside: bool) -> str:
    if measure.kind == "along":
        return f"along from corner {measure.corner + 1}"
    return f"{'behind' if outside else 'from'} wall {measure.wall + 1}"


def frame_of(plan: Plan) -> PlaceFrame:
    """What a place that is touched in the room is measured from."""
    walls: Walls = walls_of(plan.room.outline)
    first, second = walls.frame
    inward = walls.inward[[first, second]]
    moves = np.linalg.inv(inward)
    return PlaceFrame(
        names=(f"from wall {first + 1}", f"from wall {second + 1}"),
        corner=_xy(walls.corners[second]),
        inward=(_xy(inward[0]), _xy(inward[1])),
        moves=(_xy(moves[:, 0]), _xy(moves[:, 1])),
    )


def _xy(pair: NDArray[np.floating[Any]]) -> XY:
    return (float(pair[0]), float(pair[1]))
