"""Parts put into a plan in common sizes: what they measure is assumed until it is typed."""

from __future__ import annotations

from math import cos, hypot, radians, sin
from typing import Literal, get_args

import numpy as np
from numpy.typing import NDArray
from shapely.geometry import Polygon

from calm_basin.plan.common import FIXTURES, CommonSizes
from calm_basin.plan.document import Plan
from calm_basin.plan.edits.build_up import with_build_up
from calm_basin.plan.edits.fixtures import with_fixture
from calm_basin.plan.edits.putting import appended, need, put
from calm_basin.plan.edits.walls import with_wall_part
from calm_basin.plan.floor import Beam, JoistFloor, Member, OtherJoist, Service, SlabFloor
from calm_basin.plan.layers import Layer, thick
from calm_basin.plan.reading import PlanError, Problem
from calm_basin.plan.room import FixtureName
from calm_basin.plan.shower import PointDrain, Rest, SideCut, Walls
from calm_basin.plan.survey import Diagonal, Tape, TapedWall
from calm_basin.plan.water import ShowerHead

Addition = Literal[
    "joists",
    "slab",
    "door",
    FixtureName,
    "floor outside",
    "bevel",
    "bed",
    "tray",
    "panels",
    "cut",
    "stock tray",
    "extension",
    "stated falls",
    "lower lift",
    "room layer",
    "shower layer",
    "wall layers",
    "shower wall layer",
    "other wall layer",
    "niche",
    "valve",
    "stud face",
    "pour room",
    "pour shower",
    "pour both",
    "tile",
    "tile sheets",
    "wall tile sheets",
    "room tile",
    "wall tile",
    "heating",
    "studs",
    "heating mat",
    "rest rising",
    "rest level",
    "tape",
    "taped wall",
    "diagonal",
    "head",
    "drain figure",
    "other joist",
    "trimmer",
    "added joist",
    "girder",
    "span",
    "joist start",
    "joist end",
    "service",
    "service depth",
    "membrane",
    "stack",
    "branch",
    "bend",
]
"""What can be put in. A floor or what makes the falls takes the place of what was there."""

HEAD_FLOW, DRAIN_FLOW = 8.0, 30.0
"""Of a hand shower and of an ordinary drain, L/min (common practice, no source)."""

REST_FALL = 1 / 100
"""Of the rest of a wet room, outside its shower zone (TEK17 §13-15, from memory)."""

FIRST_CUT = (50.0, 2.0)
"""Cut off a tray's side to begin with, in mm and in inches."""

STUDS = (30.0, 1.25)
"""From stud to stud of a mat, in mm and in inches (common practice, no source; from memory)."""

MAT = (500.0, 20.0)
"""How wide a loose mat is, in mm and in inches (common practice, no source)."""

SHEET = (300.0, 12.0)
"""Side of a sheet of mosaic, in mm and in inches (common practice, no source)."""

FIRST_WALL = (1000.0, 36.0)
"""Length of a taped wall that was added, in mm and in inches."""


NEW_LAYER = Layer(role="other", name="new layer", thickness=0.0)


def add(plan: Plan, what: str, side: int | None = None, layer: Layer = NEW_LAYER) -> Plan:
    """The plan with one more part in a common size; ``side`` is the shower's side that is cut,
    ``layer`` what is added to layers.

    Raises
    ------
    PlanError
        There is no such part, or the plan has no place for it.
    """
    common = CommonSizes(plan.display.length)
    match what:
        case "joists" | "slab":
            floor = common.joists if what == "joists" else common.slab
            return put(plan, "/floor", floor, chosen="/floor/kind")
        case "door":
            return appended(plan, "/room/doors", common.door(0, 0.0))
        case "floor outside":
            doors = plan.room.doors
            need(side is not None and 0 <= side < len(doors), "/side", "Say beyond which door.")
            level = thick(plan.room.layers)
            return put(plan, f"/room/doors/{side}/outside", level)
        case "bevel":
            return put(plan, "/shower/bevel", common.bevel)
        case "bed" | "tray" | "panels":
            return put(plan, "/shower/former", common.former(what))
        case "cut":
            need(plan.shower.former.kind == "tray", "/shower/former/kind", "Choose a tray first.")
            need(side is not None, "/side", "Say which side of the tray is cut.")
            cut = SideCut(edge=side or 0, width=common.size(*FIRST_CUT))
            return appended(plan, "/shower/former/cuts", cut)
        case (
            "stock tray"
            | "extension"
            | "stated falls"
            | "lower lift"
            | "pour room"
            | "pour shower"
            | "pour both"
        ):
            return with_build_up(plan, common, what)
        case "room layer" | "shower layer":
            return appended(plan, f"/{what.split()[0]}/layers", layer)
        case "shower wall layer" | "other wall layer":
            where = "shower" if what.startswith("shower") else "rest"
            return appended(plan, f"/walls/{where}", layer)
        case "wall layers" | "niche" | "valve" | "stud face":
            return with_wall_part(plan, common, what, side)
        case "tile":
            return put(plan, "/shower/tile", common.tile)
        case "heating":
            return put(plan, "/heating", common.heating)
        case "studs" | "heating mat":
            cable = plan.heating
            need(cable is not None, "/heating", "Choose a cable first.")
            assert cable is not None
            # Of the ways to fix a cable one is chosen.
            bare = cable.model_copy(update={"stud": None, "mat": None})
            freed = plan.model_copy(update={"heating": bare})
            name, size = ("stud", STUDS) if what == "studs" else ("mat", MAT)
            return put(freed, f"/heating/{name}", common.size(*size))
        case "tile sheets" | "wall tile sheets":
            name = "sheet" if what == "tile sheets" else "wall_sheet"
            return put(plan, f"/tiling/{name}", common.size(*SHEET))
        case "room tile":
            return put(plan, "/tiling/room", plan.shower.tile or common.tile)
        case "wall tile":
            return put(plan, "/tiling/wall", common.wall_tile)
        case "rest rising" | "rest level":
            walls: Walls = "rising" if what == "rest rising" else "level"
            there = plan.shower.rest
            rest = Rest(asked=there.asked if there else REST_FALL, walls=walls)
            added = put(plan, "/shower/rest", rest)
            return added.model_copy(
                update={"assumed": tuple(p for p in added.assumed if p != "/shower/rest/asked")}
            )
        case "tape":
            return put(plan, "/survey/tape", _tape_of(plan))
        case "taped wall":
            wall = TapedWall(length=common.size(*FIRST_WALL), square=False)
            return appended(plan, "/survey/tape/walls", wall)
        case "diagonal":
            return appended(plan, "/survey/tape/diagonals", _diagonal(plan))
        case "head":
            head = ShowerHead(name="hand shower", flow_l_min=HEAD_FLOW)
            return appended(plan, "/water/heads", head)
        case "drain figure":
            return put(plan, "/water/drain_l_min", DRAIN_FLOW)
        case (
            "other joist"
            | "joist start"
            | "joist end"
            | "trimmer"
            | "added joist"
            | "girder"
            | "span"
        ):
            return _with_timber(plan, common, what, side)
        case "service":
            (x0, y0), (x1, y1) = _across_room(plan)
            clear = common.size(50, 2)
            service = Service(
                name="pipe", kind="water", points=((x0, y0), (x1, y1)), clearance=clear
            )
            return appended(plan, "/services", service)
        case "service depth":
            lines = plan.services
            need(side is not None and 0 <= side < len(lines), "/side", "Say of which line.")
            return put(plan, f"/services/{side}/depth", common.size(50, 2))
        case "membrane":
            slab = plan.floor
            need(isinstance(slab, SlabFloor), "/floor/kind", "Joists have no membrane.")
            assert isinstance(slab, SlabFloor)
            return put(plan, "/floor/membrane", slab.thickness)
        case "bend":
            return _with_bend(plan)
        case "stack":
            return put(plan, "/waste/stack", plan.room.outline[0])
        case "branch":
            return put(plan, "/waste/branch", -common.size(*BRANCH))
        case _ if what in FIXTURES:
            return with_fixture(plan, common, what)
        case _:
            listed = ", ".join(f"“{name}”" for name in get_args(Addition))
            raise PlanError([Problem("/what", f"Choose what to add: {listed}.")])


BRANCH = (200.0, 8.0)
"""How low a branch is taken to lie to begin with, in mm and in inches."""


def _with_timber(plan: Plan, common: CommonSizes, what: str, side: int | None) -> Plan:
    """The plan with one more thing said of its joists; ``side`` is the joist, as the plan counts
    them."""
    joists = plan.floor
    need(isinstance(joists, JoistFloor), "/floor/kind", "A slab has no joists.")
    assert isinstance(joists, JoistFloor)
    if what == "other joist":
        need(side is not None, "/side", "Say which joist.")
        named = {other.number for other in joists.others}
        need(side not in named, "/side", "This joist is in the list already.")
        return appended(plan, "/floor/others", OtherJoist(number=side or 0, plies=2))
    angle = radians(joists.direction)
    along = np.array([cos(angle), sin(angle)])
    reach = np.array(plan.room.outline) @ along
    if what == "span":
        sized = put(plan, "/floor/span", float(np.ptp(reach)))
        return put(sized, "/floor/bearing", float(reach.min()))
    middle = np.array(Polygon(plan.shower.outline).centroid.coords[0])
    if what in ("joist start", "joist end"):
        listed = joists.others
        need(side is not None and 0 <= side < len(listed), "/side", "Say which joist.")
        at = common.whole(float(middle @ along))
        return put(plan, f"/floor/others/{side}/{what.split()[1]}", at)
    way = along if what == "added joist" else np.array([-along[1], along[0]])
    half = joists.centres / 2
    start, end = middle - way * half, middle + way * half
    ends = {"start": _rounded(start), "end": _rounded(end), "width": joists.width}
    if what == "girder":
        return appended(plan, "/floor/beams", Beam.model_validate(ends))
    kind = "joist" if what == "added joist" else "trimmer"
    return appended(plan, "/floor/members", Member.model_validate({"kind": kind, **ends}))


def _with_bend(plan: Plan) -> Plan:
    """The plan with one more bend in the run that it lays, half way from the last to the stack."""
    run, stack = plan.waste.run, plan.waste.stack
    need(run is not None and stack is not None, "/waste/run", "Lay the run first.")
    assert run is not None and stack is not None
    drain = plan.shower.drain
    ends = [drain.centre] if isinstance(drain, PointDrain) else [drain.start, drain.end]
    last = np.array(run[-1]) if run else np.mean(np.array(ends), axis=0)
    whole, (x, y) = CommonSizes(plan.display.length).whole, (last + np.array(stack)) / 2
    return put(plan, "/waste/run", (*run, (whole(float(x)), whole(float(y)))))


def _rounded(place: NDArray[np.float64]) -> tuple[float, float]:
    return (round(float(place[0]), 1), round(float(place[1]), 1))


def _across_room(plan: Plan) -> tuple[tuple[float, float], tuple[float, float]]:
    """A line through the middle of the room from side to side."""
    corners = np.array(plan.room.outline)
    (left, low), (right, high) = corners.min(axis=0), corners.max(axis=0)
    middle = (low + high) / 2
    return _rounded(np.array([left, middle])), _rounded(np.array([right, middle]))


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
    need(tape is not None, "/survey/tape", "Measure the walls by tape first.")
    walls = 0 if tape is None else len(tape.walls)
    need(walls > 3, "/survey/tape/diagonals", "A triangle has no diagonal.")
    (x0, y0), (x2, y2) = plan.room.outline[0], plan.room.outline[2]
    return Diagonal(first=0, last=2, length=hypot(x2 - x0, y2 - y0))
