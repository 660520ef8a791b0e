"""Parts put into a plan in common sizes: what they measure is assumed until it is typed."""

from __future__ import annotations

from math import hypot
from typing import Any, Literal, get_args

import numpy as np

from calm_basin.plan.assumed import with_assumed
from calm_basin.plan.base import Part
from calm_basin.plan.common import CommonSizes
from calm_basin.plan.document import Plan
from calm_basin.plan.reading import PlanError, Problem, plan_from
from calm_basin.plan.room import Layer
from calm_basin.plan.shower import Rest, SideCut, Walls
from calm_basin.plan.survey import Diagonal, Tape, TapedWall
from calm_basin.plan.water import ShowerHead

Addition = Literal[
    "joists",
    "slab",
    "door",
    "WC",
    "basin",
    "cabinet",
    "bed",
    "tray",
    "panels",
    "cut",
    "room layer",
    "shower layer",
    "tile",
    "rest rising",
    "rest level",
    "tape",
    "taped wall",
    "diagonal",
    "head",
    "drain figure",
]
"""What can be put in. A floor or what makes the falls takes the place of what was there."""

HEAD_FLOW, DRAIN_FLOW = 8.0, 30.0
"""Of a hand shower and of an ordinary drain, L/min (common practice, no source)."""

REST_FALL = 1 / 100
"""Of the rest of a wet room, outside its shower zone (TEK17 §13-15, from memory)."""

FIRST_CUT = (50.0, 2.0)
"""Cut off a tray's side to begin with, in mm and in inches."""

FIRST_WALL = (1000.0, 36.0)
"""Length of a taped wall that was added, in mm and in inches."""


def add(plan: Plan, what: str, side: int | None = None) -> Plan:
    """The plan with one more part in a common size; ``side`` is the shower's side that is cut.

    Raises
    ------
    PlanError
        There is no such part, or the plan has no place for it.
    """
    common = CommonSizes(plan.display.length)
    match what:
        case "joists" | "slab":
            floor = common.joists if what == "joists" else common.slab
            return _put(plan, "/floor", floor, chosen="/floor/kind")
        case "door":
            return _appended(plan, "/room/doors", common.door(0, 0.0))
        case "WC" | "basin" | "cabinet":
            return _appended(plan, "/room/fixtures", common.fixture(what, _free_corner(plan)))
        case "bed" | "tray" | "panels":
            return _put(plan, "/shower/former", common.former(what))
        case "cut":
            _need(plan.shower.former.kind == "tray", "/shower/former/kind", "Choose a tray first.")
            _need(side is not None, "/side", "Say which side of the tray is cut.")
            cut = SideCut(edge=side or 0, width=common.size(*FIRST_CUT))
            return _appended(plan, "/shower/former/cuts", cut)
        case "room layer" | "shower layer":
            layer = Layer(name="new layer", thickness=0.0)
            return _appended(plan, f"/{what.split()[0]}/layers", layer)
        case "tile":
            return _put(plan, "/shower/tile", common.tile)
        case "rest rising" | "rest level":
            walls: Walls = "rising" if what == "rest rising" else "level"
            there = plan.shower.rest
            rest = Rest(asked=there.asked if there else REST_FALL, walls=walls)
            put = _put(plan, "/shower/rest", rest)
            return put.model_copy(
                update={"assumed": tuple(p for p in put.assumed if p != "/shower/rest/asked")}
            )
        case "tape":
            return _put(plan, "/survey/tape", _tape_of(plan))
        case "taped wall":
            wall = TapedWall(length=common.size(*FIRST_WALL), square=False)
            return _appended(plan, "/survey/tape/walls", wall)
        case "diagonal":
            return _appended(plan, "/survey/tape/diagonals", _diagonal(plan))
        case "head":
            head = ShowerHead(name="hand shower", flow_l_min=HEAD_FLOW)
            return _appended(plan, "/water/heads", head)
        case "drain figure":
            return _put(plan, "/water/drain_l_min", DRAIN_FLOW)
        case _:
            listed = ", ".join(f"“{name}”" for name in get_args(Addition))
            raise PlanError([Problem("/what", f"Choose what to add: {listed}.")])


def _need(there: bool, path: str, cure: str) -> None:
    if not there:
        raise PlanError([Problem(path, cure)])


def _put(plan: Plan, path: str, part: Part | float, chosen: str = "") -> Plan:
    """The plan with a part at a pointer, what it measures assumed but for what was ``chosen``."""
    document = plan.model_dump(mode="json")
    *way, last = path.split("/")[1:]
    there: Any = document
    for name in way:
        there = there[name]
    there[last] = part.model_dump(mode="json") if isinstance(part, Part) else part
    document["assumed"] = [p for p in plan.assumed if p != path and not p.startswith(f"{path}/")]
    put = with_assumed(plan_from(document), path)
    return put.model_copy(update={"assumed": tuple(p for p in put.assumed if p != chosen)})


def _appended(plan: Plan, path: str, part: Part) -> Plan:
    document = plan.model_dump(mode="json")
    there: Any = document
    for name in path.split("/")[1:]:
        there = there.get(name) if isinstance(there, dict) else None
    _need(isinstance(there, list), path, "There is nothing yet to add this to.")
    there.append(part.model_dump(mode="json"))
    return with_assumed(plan_from(document), f"{path}/{len(there) - 1}")


def _free_corner(plan: Plan) -> tuple[float, float]:
    """A place in the corner that lies opposite to where a shower usually stands."""
    a, b, c = (np.array(corner) for corner in plan.room.outline[:3])
    x, y = (a + 2 * b + c) / 4
    return (float(x), float(y))


def _tape_of(plan: Plan) -> Tape:
    """Tapes of the outline's own sides, in order, to be typed over."""
    points = np.array(plan.room.outline)
    along = np.roll(points, -1, axis=0) - points
    following = np.roll(along, -1, axis=0)
    turns = along[:, 0] * following[:, 1] - along[:, 1] * following[:, 0]
    return Tape(
        walls=tuple(
            TapedWall(length=float(np.hypot(*way)), turn="left" if turn >= 0 else "right")
            for way, turn in zip(along, turns, strict=True)
        )
    )


def _diagonal(plan: Plan) -> Diagonal:
    tape = plan.survey.tape
    _need(tape is not None, "/survey/tape", "Measure the walls by tape first.")
    walls = 0 if tape is None else len(tape.walls)
    _need(walls > 3, "/survey/tape/diagonals", "A triangle has no diagonal.")
    (x0, y0), (x2, y2) = plan.room.outline[0], plan.room.outline[2]
    return Diagonal(first=0, last=2, length=hypot(x2 - x0, y2 - y0))
