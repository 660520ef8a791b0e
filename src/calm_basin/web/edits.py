"""Edits of a plan that move more than one value, worked out without saving them."""

from __future__ import annotations

from typing import Any, Literal

from flask import Blueprint, Response, jsonify

from calm_basin.plan import Plan, PlanError, Problem, plan_from
from calm_basin.plan.base import MOST_CORNERS
from calm_basin.plan.edits import (
    Which,
    add,
    joists_from_screws,
    level_read,
    measured_at_faces,
    measured_at_studs,
    mirrored,
    raise_item,
    remove_corner,
    remove_item,
    split_side,
    stretch,
    stretch_at_studs,
    with_outline,
)
from calm_basin.plan.room import Layer
from calm_basin.store.shelves import FAMILIES, LAYERS, SYSTEMS
from calm_basin.web import heavy
from calm_basin.web.requests import (
    FARTHEST,
    answered,
    body,
    close_database,
    database,
    field,
    is_place,
)

blueprint = Blueprint("edits", __name__)


@blueprint.post("/edit")
def edit() -> Response:
    """``plan`` after an ``act``, with what names its parts by number following.

    "system" builds it by the build system ``system``; "split" and "join" add a corner ``at`` a side
    of ``which`` outline or take the corner ``at`` from it; "stretch" gives that outline a ``size``,
    mm, along ``axis`` 0 or 1, or the room one ``at`` its "studs"; "outline" gives the room that of
    ``points``; "add" puts in ``what`` in a common size, a layer of a ``kind``; "screws" lays the
    joists through two screws of one line, ``first`` and ``last``; "level" adds the reading of a
    level that ``lies`` on the floor and has a ``gap``, mm, under its other ``end``; "measured" says
    that the room was measured ``at`` its "studs", from which the finished walls are then moved, or
    at its "finished" walls; "mirror" brings the shower to the other "side" or "end" of the room,
    which ``way`` names; "raise" puts the layer that ``path`` points at over the one above it;
    "remove" takes out the list item that ``path`` points at.
    """
    document = body()
    edited = _edited(plan_from(document.get("plan")), document)
    return jsonify({"plan": edited.model_dump(mode="json")})


def _edited(plan: Plan, document: dict[str, Any]) -> Plan:
    match field(document, "act", str):
        case "system":
            return _built(plan, field(document, "system", str))
        case "split":
            return split_side(plan, _which(document), field(document, "at", int))
        case "join":
            return remove_corner(plan, _which(document), field(document, "at", int))
        case "stretch":
            axis, size = field(document, "axis", int), document.get("size")
            if axis not in (0, 1):
                raise PlanError([Problem("/axis", "Choose axis 0, the width, or 1, the depth.")])
            if isinstance(size, int | float) and size is not True and 0 < size < FARTHEST:
                of: Literal[0, 1] = 0 if axis == 0 else 1
                if document.get("at") == "studs":
                    return stretch_at_studs(plan, of, float(size))
                return stretch(plan, _which(document), of, float(size))
            raise PlanError([Problem("/size", "Too small: type a size above 0.")])
        case "outline":
            points = document.get("points")
            if not isinstance(points, list) or not 3 <= len(points) <= MOST_CORNERS:
                message = f"An outline has 3 to {MOST_CORNERS} corners. Choose another."
                raise PlanError([Problem("/points", message)])
            if not all(is_place(point) for point in points):
                raise PlanError([Problem("/points", "A corner is a pair [x, y] in mm.")])
            return with_outline(plan, tuple(_place(point) for point in points))
        case "add":
            side = None if document.get("side") is None else field(document, "side", int)
            what = field(document, "what", str)
            if document.get("kind") is None:
                return add(plan, what, side)
            return add(plan, what, side, _layer(field(document, "kind", str)))
        case "screws":
            first, last = document.get("first"), document.get("last")
            for name, place in (("first", first), ("last", last)):
                if not is_place(place):
                    raise PlanError([Problem(f"/{name}", "Give the screw’s place: [x, y] in mm.")])
            return joists_from_screws(plan, _place(first), _place(last))
        case "level":
            lies, end, gap = document.get("lies"), document.get("end"), document.get("gap")
            for name, place in (("lies", lies), ("end", end)):
                if not is_place(place):
                    raise PlanError([Problem(f"/{name}", "Give the level's end: [x, y] in mm.")])
            if not isinstance(gap, int | float) or isinstance(gap, bool) or abs(gap) > FARTHEST:
                raise PlanError([Problem("/gap", "Give the gap under its other end, mm.")])
            return level_read(plan, _place(lies), _place(end), float(gap))
        case "measured":
            match field(document, "at", str):
                case "studs":
                    return measured_at_studs(plan)
                case "finished":
                    return measured_at_faces(plan)
            raise PlanError([Problem("/at", "Choose “studs” or “finished”.")])
        case "mirror":
            match field(document, "way", str):
                case "side":
                    return mirrored(plan, "side")
                case "end":
                    return mirrored(plan, "end")
            raise PlanError([Problem("/way", "Choose “side” or “end”.")])
        case "raise":
            return raise_item(plan, field(document, "path", str)[:200])
        case "remove":
            return remove_item(plan, field(document, "path", str)[:200])
    raise PlanError(
        [
            Problem(
                "/act",
                "Choose “split”, “join”, “stretch”, “add”, “screws”, “level”, “measured”, "
                "“mirror”, “raise”, “remove” or “system” to do.",
            )
        ]
    )


def _layer(kind: str) -> Layer:
    """A layer of a kind, as thick as is usual."""
    known = LAYERS.known(database())
    if kind not in known:
        raise PlanError([Problem("/kind", f"There is no kind of layer “{kind}”. Choose another.")])
    of = known[kind]
    return Layer(name=of.name.lower(), thickness=of.usual, least=of.least, most=of.most)


def _built(plan: Plan, name: str) -> Plan:
    systems, families = SYSTEMS.known(database()), FAMILIES.known(database())
    if name not in systems:
        raise PlanError([Problem("/system", f"There is no build system “{name}”. Choose another.")])
    family = families.get(systems[name].family)
    if family is None:
        message = (
            f"Its drain family “{systems[name].family}” is not kept here. Add it, or change it."
        )
        raise PlanError([Problem("/system", message)])
    close_database()
    built: Plan = answered(heavy.built, plan, systems[name], family)
    return built


def _place(place: Any) -> tuple[float, float]:
    return (float(place[0]), float(place[1]))


def _which(document: dict[str, Any]) -> Which:
    which = field(document, "which", str)
    if which not in ("room", "shower"):
        raise PlanError([Problem("/which", "Choose the outline of the “room” or the “shower”.")])
    return "room" if which == "room" else "shower"
