"""Edits of a plan that move more than one value, worked out without saving them."""

from __future__ import annotations

from typing import Any, assert_never

from flask import Blueprint, Response

from calm_basin.plan import Plan, plan_from
from calm_basin.plan.edits import (
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
from calm_basin.plan.layers import Layer
from calm_basin.store.shelves import FAMILIES, LAYERS, SYSTEMS
from calm_basin.web import heavy
from calm_basin.web.asked import (
    EDITS,
    Added,
    Built,
    Edit,
    Join,
    Levelled,
    Measured,
    Mirrored,
    Outlined,
    Raised,
    Removed,
    Screwed,
    Split,
    Stretch,
)
from calm_basin.web.requests import answered, body, checked, close_database, database, refused
from calm_basin.web.sent import EditedPlan

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
    plan = plan_from(document.pop("plan", None))
    return EditedPlan(plan=_edited(plan, _edit(document)).model_dump(mode="json")).answer()


def _edit(document: dict[str, Any]) -> Edit:
    act = document.get("act")
    if not isinstance(act, str) or act not in EDITS:
        raise refused("/act", f"Choose what to do: {', '.join(f'“{name}”' for name in EDITS)}.")
    return checked(EDITS[act], document)


def _edited(plan: Plan, edit: Edit) -> Plan:
    match edit:
        case Built():
            return _built(plan, edit.system)
        case Split():
            return split_side(plan, edit.which, edit.at)
        case Join():
            return remove_corner(plan, edit.which, edit.at)
        case Stretch():
            if edit.size <= 0:
                raise refused("/size", "Too small: type a size above 0.")
            if edit.at == "studs":
                return stretch_at_studs(plan, edit.axis, edit.size)
            return stretch(plan, edit.which, edit.axis, edit.size)
        case Outlined():
            return with_outline(plan, edit.points)
        case Added():
            if edit.kind is None:
                return add(plan, edit.what, edit.side)
            return add(plan, edit.what, edit.side, _layer(edit.kind))
        case Screwed():
            return joists_from_screws(plan, edit.first, edit.last)
        case Levelled():
            return level_read(plan, edit.lies, edit.end, edit.gap)
        case Measured():
            return measured_at_studs(plan) if edit.at == "studs" else measured_at_faces(plan)
        case Mirrored():
            return mirrored(plan, edit.way)
        case Raised():
            return raise_item(plan, edit.path)
        case Removed():
            return remove_item(plan, edit.path)
        case _:
            assert_never(edit)


def _layer(kind: str) -> Layer:
    """A layer of a kind, as thick as is usual."""
    known = LAYERS.known(database())
    if kind not in known:
        raise refused("/kind", f"There is no kind of layer “{kind}”. Choose another.")
    of = known[kind]
    return Layer(
        role=of.role, name=of.name.lower(), thickness=of.usual, least=of.least, most=of.most
    )


def _built(plan: Plan, name: str) -> Plan:
    systems, families = SYSTEMS.known(database()), FAMILIES.known(database())
    if name not in systems:
        raise refused("/system", f"There is no build system “{name}”. Choose another.")
    family = families.get(systems[name].family)
    if family is None:
        message = (
            f"Its drain family “{systems[name].family}” is not kept here. Add it, or change it."
        )
        raise refused("/system", message)
    close_database()
    built: Plan = answered(heavy.built, plan, systems[name], family)
    return built
