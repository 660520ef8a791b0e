"""Solve a plan without saving it; read what is typed."""

from __future__ import annotations

from math import dist
from typing import get_args

from flask import Blueprint, Response, current_app, request

from calm_basin.amounts import format_flow, parse_flow
from calm_basin.core.answer.result import Part
from calm_basin.units import format_fall, format_length, parse_fall, parse_length
from calm_basin.web import heavy
from calm_basin.web.asked import Printed, Solved, Typed
from calm_basin.web.requests import answered, own_rules, plan_and, refused, said_of
from calm_basin.web.sent import ReadValue, Texts

blueprint = Blueprint("solving", __name__)

PARTS: tuple[Part, ...] = get_args(Part)


@blueprint.post("/solve")
def solve_plan() -> Response:
    """Solve ``plan``. If given, ``at`` lists [x, y] whose finished level is asked for, ``cut`` the
    two ends of the section's line, ``parts`` what is worked out besides; ``cures`` is false where
    no change that mends a finding is looked for yet."""
    own, kept = own_rules(), current_app.config["ANSWERED"]

    def worked_out() -> str:
        plan, said = plan_and(Solved)
        cut = said.cut
        if cut is not None and dist(*cut) < 1:
            raise refused("/cut", "“cut” has two ends [x, y] in mm that lie apart.")
        # In one order, so that the same question is known again.
        parts = tuple(part for part in PARTS if part in said.parts)
        text: str = answered(heavy.solution, plan, own, list(said.at), cut, parts, said.cures)
        return text

    asked = (request.get_data(), *(text.encode() for text in own))
    return Response(kept.text(*asked, work=worked_out), mimetype="application/json")


@blueprint.post("/read")
def read() -> Response:
    """Read a ``text`` that was typed: a length or a flow in the display's unit, or a fall."""
    said = said_of(Typed)
    text, display = said.text, said.display.shown
    if said.kind == "length":
        value = parse_length(text, display)
        return ReadValue(value=value, text=format_length(value, display, unit=False)).answer()
    if said.kind == "fall":
        value = parse_fall(text)
        return ReadValue(value=value, text=format_fall(value, display.fall)).answer()
    value = parse_flow(text, display)
    return ReadValue(value=value, text=format_flow(value, display)).answer()


@blueprint.post("/print")
def print_lengths() -> Response:
    """Print ``values``, lengths in mm that are no part of a plan, as a display does."""
    said = said_of(Printed)
    shown = said.display.shown
    return Texts(texts=tuple(format_length(v, shown, unit=False) for v in said.values)).answer()
