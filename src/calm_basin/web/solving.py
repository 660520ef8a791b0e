"""Solve a plan without saving it; read what is typed."""

from __future__ import annotations

from math import hypot
from typing import Any, get_args

from flask import Blueprint, Response, current_app, jsonify, request

from calm_basin.amounts import format_flow, parse_flow
from calm_basin.core.answer.result import XY, Part
from calm_basin.plan import PlanError, Problem, plan_from
from calm_basin.plan.job import DisplayChoice
from calm_basin.units import Display, format_fall, format_length, parse_fall, parse_length
from calm_basin.web import heavy
from calm_basin.web.requests import FARTHEST, answered, body, field, is_place, own_rules

blueprint = Blueprint("solving", __name__)

MOST_PLACES = 1000


@blueprint.post("/solve")
def solve_plan() -> Response:
    """Solve ``plan``. If given, ``at`` lists [x, y] whose finished level is asked for, ``cut`` the
    two ends of the section's line, ``parts`` what is worked out besides; ``cures`` is false where
    no change that mends a finding is looked for yet."""
    own, kept = own_rules(), current_app.config["ANSWERED"]

    def worked_out() -> str:
        document = body()
        plan = plan_from(document.get("plan"))
        at, cut = _places(document.get("at", [])), _cut(document.get("cut"))
        parts, cures = _parts(document.get("parts", [])), document.get("cures", True)
        if not isinstance(cures, bool):
            raise PlanError([Problem("/cures", "Choose true or false.")])
        text: str = answered(heavy.solution, plan, own, at, cut, parts, cures)
        return text

    asked = (request.get_data(), *(text.encode() for text in own))
    return Response(kept.text(*asked, work=worked_out), mimetype="application/json")


@blueprint.post("/read")
def read() -> Response:
    """Read a ``text`` that was typed: a length or a flow in the display's unit, or a fall."""
    document = body()
    text, kind = field(document, "text", str)[:200], field(document, "kind", str)
    choice = plan_display(field(document, "display", dict))
    if kind == "length":
        value = parse_length(text, choice)
        return jsonify({"value": value, "text": format_length(value, choice, unit=False)})
    if kind == "fall":
        value = parse_fall(text)
        return jsonify({"value": value, "text": format_fall(value, choice.fall)})
    if kind == "flow":
        value = parse_flow(text, choice)
        return jsonify({"value": value, "text": format_flow(value, choice)})
    raise PlanError([Problem("/kind", "Choose “length”, “fall” or “flow”.")])


@blueprint.post("/print")
def print_lengths() -> Response:
    """Print ``values``, lengths in mm that are no part of a plan, as a display does."""
    document = body()
    choice = plan_display(field(document, "display", dict))
    values = field(document, "values", list)
    if len(values) > MOST_PLACES or not all(
        isinstance(v, int | float) and abs(v) < FARTHEST for v in values
    ):
        raise PlanError([Problem("/values", f"“values” lists at most {MOST_PLACES} lengths, mm.")])
    return jsonify({"texts": [format_length(float(v), choice, unit=False) for v in values]})


def plan_display(choice: dict[str, Any]) -> Display:
    """The display choice of a request; the parts that are not given are the usual ones."""
    known = DisplayChoice.model_validate(choice)
    return Display(known.length, known.fraction, known.fall)


def _parts(asked: object) -> tuple[Part, ...]:
    known: tuple[Part, ...] = get_args(Part)
    if not isinstance(asked, list) or any(part not in known for part in asked):
        listed = ", ".join(f"“{name}”" for name in known)
        raise PlanError([Problem("/parts", f"“parts” lists any of {listed}.")])
    return tuple(part for part in known if part in asked)


def _cut(asked: object) -> tuple[XY, XY] | None:
    if asked is None:
        return None
    ends = _places(asked)
    if len(ends) != 2 or hypot(ends[0][0] - ends[1][0], ends[0][1] - ends[1][1]) < 1:
        raise PlanError([Problem("/cut", "“cut” has two ends [x, y] in mm that lie apart.")])
    return ends[0], ends[1]


def _places(asked: object) -> list[tuple[float, float]]:
    wrong = PlanError([Problem("/at", f"“at” lists at most {MOST_PLACES} pairs [x, y] in mm.")])
    if not isinstance(asked, list) or len(asked) > MOST_PLACES or not all(map(is_place, asked)):
        raise wrong
    return [(float(x), float(y)) for x, y in asked]
