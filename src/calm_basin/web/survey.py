"""Readings in and out, and a straightedge laid on the floor."""

from __future__ import annotations

from flask import Blueprint, Response, jsonify

from calm_basin.formats.levels_csv import read_levels, write_levels
from calm_basin.plan import PlanError, Problem, plan_from
from calm_basin.store import jobs
from calm_basin.web import heavy
from calm_basin.web.requests import answered, body, database, field, place
from calm_basin.web.solving import plan_display

blueprint = Blueprint("survey", __name__)


@blueprint.post("/levels/read")
def read_csv() -> Response:
    """Read ``csv`` into readings; rows that cannot be read are told one by one. ``display`` says
    what a bare number means where the heading does not."""
    document = body()
    display = plan_display(document.get("display", {}))
    levels, errors = read_levels(field(document, "csv", str), display)
    return jsonify(
        {
            "levels": [level.model_dump(mode="json") for level in levels],
            "errors": [vars(error) for error in errors],
        }
    )


@blueprint.get("/jobs/<job_id>/levels.csv")
def export_csv(job_id: str) -> Response:
    plan = jobs.head(database(), job_id).plan
    return Response(
        write_levels(plan.survey.levels),
        mimetype="text/csv",
        headers={"Content-Disposition": 'attachment; filename="levels.csv"'},
    )


@blueprint.post("/outlines/read")
def read_drawing() -> Response:
    """The outlines that the drawing ``dxf`` holds, layer by layer; ``unit`` says what its numbers
    are, null: what the drawing says. ``display`` is how sizes are printed."""
    document = body()
    unit = document.get("unit")
    if unit is not None and unit not in ("mm", "cm", "m", "in", "ft"):
        raise PlanError([Problem("/unit", "A drawing is in mm, cm, m, in or ft. Choose one.")])
    display = plan_display(document.get("display", {}))
    return jsonify(answered(heavy.outlines, field(document, "dxf", str), unit, display))


@blueprint.post("/straightedge")
def straightedge() -> Response:
    """The gap under a straightedge from ``start`` to ``end`` on the floor of ``plan``."""
    document = body()
    plan = plan_from(document.get("plan"))
    start, end = (place(document, name) for name in ("start", "end"))
    return jsonify(answered(heavy.gap, plan, start, end))
