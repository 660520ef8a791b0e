"""What is marked, as a file."""

from __future__ import annotations

from flask import Blueprint, Response

from calm_basin.store import jobs
from calm_basin.web import heavy
from calm_basin.web.requests import answered, database, own_rules

blueprint = Blueprint("setting_out", __name__)


@blueprint.get("/jobs/<job_id>/marks.csv")
def export_marks(job_id: str) -> Response:
    plan = jobs.head(database(), job_id).plan
    return Response(
        answered(heavy.marks, plan, own_rules()),
        mimetype="text/csv",
        headers={"Content-Disposition": 'attachment; filename="marks.csv"'},
    )
