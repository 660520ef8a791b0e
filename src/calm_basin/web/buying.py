"""What is bought, as a file."""

from __future__ import annotations

from flask import Blueprint, Response

from calm_basin.store import jobs
from calm_basin.web import heavy
from calm_basin.web.requests import answered, database, own_rules

blueprint = Blueprint("buying", __name__)


@blueprint.get("/jobs/<job_id>/order.csv")
def export_order(job_id: str) -> Response:
    """The order as it stands, with what was ticked."""
    plan = jobs.head(database(), job_id).plan
    return Response(
        answered(heavy.order, plan, own_rules()),
        mimetype="text/csv",
        headers={"Content-Disposition": 'attachment; filename="order.csv"'},
    )
