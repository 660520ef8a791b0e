"""Readings in and out, and a straightedge laid on the floor."""

from __future__ import annotations

from flask import Blueprint, Response, jsonify

from calm_basin.formats.levels_csv import read_levels, write_levels
from calm_basin.store import jobs
from calm_basin.web import heavy
from calm_basin.web.asked import Csv, Dxf, Edge
from calm_basin.web.requests import answered, database, plan_and, said_of
from calm_basin.web.sent import Gap, ReadLevels, RowError

blueprint = Blueprint("survey", __name__)


@blueprint.post("/levels/read")
def read_csv() -> Response:
    """Read ``csv`` into readings; rows that cannot be read are told one by one. ``display`` says
    what a bare number means where the heading does not."""
    said = said_of(Csv)
    levels, errors = read_levels(said.csv, said.display.shown)
    return ReadLevels(
        levels=tuple(level.model_dump(mode="json") for level in levels),
        errors=tuple(RowError.model_validate(error) for error in errors),
    ).answer()


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
    said = said_of(Dxf)
    return jsonify(answered(heavy.outlines, said.dxf, said.unit, said.display.shown))


@blueprint.post("/straightedge")
def straightedge() -> Response:
    """The gap under a straightedge from ``start`` to ``end`` on the floor of ``plan``."""
    plan, said = plan_and(Edge)
    return Gap.model_validate(answered(heavy.gap, plan, said.start, said.end)).answer()
